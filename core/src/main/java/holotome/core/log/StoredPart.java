package holotome.core.log;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.io.BufferedInputStream;
import java.io.BufferedOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.lang.ref.Cleaner;
import java.lang.ref.WeakReference;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A part of a state (a mesh, maps) kept for going back to: in memory, or on disk when {@link
 * Checkpoints} needs room. States that share the part share this, so that it is written once and
 * stays one when it is read back. Its owner's lock guards all but {@link #get} of what is at hand.
 */
final class StoredPart<T> {
  private static final Cleaner CLEANER = Cleaner.create();

  /** How the part is written and read. */
  interface Form<T> {
    void write(DataOutputStream out, T part) throws IOException;

    T read(DataInputStream in) throws IOException;

    /** What is small, not written, and kept in memory to make the part read back the same one. */
    default Object remembered(T part) {
      return null;
    }

    /** The part as it was, from what was read and what was remembered. */
    default T recalled(T read, Object remembered) {
      return read;
    }
  }

  private final Checkpoints owner;
  private final Form<T> form;

  /** Null while the part is on disk alone. */
  private volatile T held;

  /** As long as someone else holds the part, nothing is read: it is the same one that is given. */
  private volatile WeakReference<T> known;

  private final Object remembered;
  private Path file;
  private volatile long lastUse;

  StoredPart(Checkpoints owner, Form<T> form, T part) {
    this.owner = owner;
    this.form = form;
    this.held = part;
    this.remembered = form.remembered(part);
    this.known = new WeakReference<>(part);
  }

  /** The part, read back from disk if need be. */
  T get() {
    lastUse = owner.tick();
    T at = atHand();
    return at != null ? at : owner.fetch(this);
  }

  /** The part where {@link #get} need read no file, else null. */
  T atHand() {
    T h = held;
    return h != null ? h : known.get();
  }

  /** What is kept in memory for the sake of this; null for nothing. */
  T held() {
    return held;
  }

  long lastUse() {
    return lastUse;
  }

  /** Reads the part unless another thread just has. */
  T readBack() {
    T at = atHand();
    if (at != null) {
      return at;
    }
    try (DataInputStream in =
        new DataInputStream(new BufferedInputStream(Files.newInputStream(file), 1 << 20))) {
      T read = form.recalled(form.read(in), remembered);
      known = new WeakReference<>(read);
      held = read;
      return read;
    } catch (IOException e) {
      throw new Failure(
          Failure.Kind.CANNOT,
          CoreWords.of("stored-part.a-stored-state-cannot-be", file, e.getMessage()),
          e);
    }
  }

  /** Writes the part to disk, once, and lets go of the memory. */
  void spill(Path to) throws IOException {
    if (file == null) {
      try (DataOutputStream out =
          new DataOutputStream(new BufferedOutputStream(Files.newOutputStream(to), 1 << 20))) {
        form.write(out, held);
      } catch (IOException e) {
        Files.deleteIfExists(to);
        throw e;
      }
      file = to;
      CLEANER.register(this, () -> delete(to));
    }
    held = null;
  }

  private static void delete(Path file) {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      // The directory of states goes with the program; one file more in it does no harm.
      file.toFile().deleteOnExit();
    }
  }
}
