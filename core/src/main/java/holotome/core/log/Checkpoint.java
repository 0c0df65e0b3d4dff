package holotome.core.log;

import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;

/**
 * A workpiece kept for going back to: in memory, or on disk when {@link Checkpoints} needs room.
 */
public final class Checkpoint {
  private final Checkpoints owner;
  private volatile Workpiece inMemory;
  private Path onDisk;
  private volatile long lastUse;

  Checkpoint(Checkpoints owner, Workpiece workpiece) {
    this.owner = owner;
    this.inMemory = workpiece;
  }

  /** The workpiece, read back from disk if need be. */
  public Workpiece get() {
    lastUse = owner.tick();
    Workpiece held = inMemory;
    if (held != null) {
      // Without the lock: another thread may hold it for as long as it writes a state to disk.
      return held;
    }
    synchronized (owner) {
      if (inMemory == null) {
        try {
          inMemory = WorkpieceFile.read(onDisk);
        } catch (IOException e) {
          throw new Failure(
              Failure.Kind.CANNOT,
              onDisk + ": a stored state cannot be read back: " + e.getMessage(),
              e);
        }
        owner.makeRoom(this);
      }
      return inMemory;
    }
  }

  /** Whether {@link #get} would have to read a file. */
  public boolean isOnDisk() {
    return inMemory == null;
  }

  long lastUse() {
    return lastUse;
  }

  Workpiece held() {
    return inMemory;
  }

  /** Writes the workpiece to disk, once, and lets go of the memory. */
  void spill(Path directory, long number) throws IOException {
    if (onDisk == null) {
      Path file = directory.resolve("state-" + number);
      WorkpieceFile.write(inMemory, file);
      onDisk = file;
      owner.deleteWhenUnused(this, file);
    }
    inMemory = null;
  }

  static void delete(Path file) {
    try {
      Files.deleteIfExists(file);
    } catch (IOException e) {
      // The directory of states goes with the program; one file more in it does no harm.
      file.toFile().deleteOnExit();
    }
  }
}
