package holotome.core.select;

import holotome.core.step.Blob;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.util.BitSet;
import java.util.zip.DeflaterOutputStream;
import java.util.zip.InflaterInputStream;

/**
 * A set of triangles as bytes: the lengths of alternating runs (out, in, out, ...) as
 * variable-length numbers, deflated. It fits only a mesh with the same number of triangles.
 */
public final class StoredSelection {
  private StoredSelection() {}

  public static Blob encode(BitSet selected, int triangles) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (DataOutputStream out = new DataOutputStream(new DeflaterOutputStream(bytes))) {
      out.writeInt(triangles);
      int at = 0;
      boolean in = false;
      while (at < triangles) {
        int end = in ? selected.nextClearBit(at) : selected.nextSetBit(at);
        if (end < 0 || end > triangles) {
          end = triangles;
        }
        number(out, end - at);
        at = end;
        in = !in;
      }
    } catch (IOException e) {
      throw new java.io.UncheckedIOException(e);
    }
    return Blob.of(bytes.toByteArray());
  }

  private static void number(DataOutputStream out, int n) throws IOException {
    int v = n;
    while (v >= 0x80) {
      out.writeByte(v & 0x7f | 0x80);
      v >>>= 7;
    }
    out.writeByte(v);
  }

  /** Reads a set back; refuses one that was made on a mesh with another number of triangles. */
  public static BitSet decode(Blob stored, int triangles) {
    try (DataInputStream in =
        new DataInputStream(new InflaterInputStream(new ByteArrayInputStream(stored.bytes())))) {
      int made = in.readInt();
      if (made != triangles) {
        throw Failure.cannot(
            CoreWords.of("stored-selection.the-stored-selection-belongs-to", made, triangles));
      }
      BitSet set = new BitSet(triangles);
      int at = 0;
      boolean inside = false;
      while (at < triangles) {
        int n = number(in);
        if (n < 0 || n > triangles - at) {
          throw Failure.usage(CoreWords.of("stored-selection.the-stored-selection-is-damaged"));
        }
        if (inside) {
          set.set(at, at + n);
        }
        at += n;
        inside = !inside;
      }
      return set;
    } catch (IOException e) {
      throw new Failure(
          Failure.Kind.USAGE, CoreWords.of("stored-selection.the-stored-selection-is-damaged"), e);
    }
  }

  private static int number(DataInputStream in) throws IOException {
    int v = 0;
    for (int shift = 0; shift < 35; shift += 7) {
      int b = in.readUnsignedByte();
      v |= (b & 0x7f) << shift;
      if (b < 0x80) {
        return v;
      }
    }
    return -1;
  }
}
