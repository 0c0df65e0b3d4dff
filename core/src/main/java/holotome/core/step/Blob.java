package holotome.core.step;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.Base64;

/**
 * Bytes that an entry carries: a stored selection, strokes, painted weights. In a Log to be read
 * and written by hand they stand as text in base 64 (RFC 4648); a project keeps them in files of
 * their own.
 */
public final class Blob {
  private final byte[] bytes;

  private Blob(byte[] bytes) {
    this.bytes = bytes;
  }

  /** Takes the array over: nobody writes to it from then on. */
  public static Blob of(byte[] bytes) {
    return new Blob(bytes);
  }

  /**
   * From text in base 64.
   *
   * @throws Failure if it is none
   */
  public static Blob parse(String text) {
    try {
      return new Blob(Base64.getDecoder().decode(text));
    } catch (IllegalArgumentException e) {
      throw new Failure(Failure.Kind.USAGE, CoreWords.of("blob.the-data-is-damaged-it"), e);
    }
  }

  /** The bytes themselves, not a copy. */
  public byte[] bytes() {
    return bytes;
  }

  /** As text in base 64. */
  public String text() {
    return Base64.getEncoder().encodeToString(bytes);
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Blob b && Arrays.equals(bytes, b.bytes);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(bytes);
  }

  /** How much it is; the text would be of no use to a reader. */
  @Override
  public String toString() {
    return bytes.length + " bytes";
  }
}
