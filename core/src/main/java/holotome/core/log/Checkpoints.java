package holotome.core.log;

import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.step.Workpiece;
import holotome.core.task.Spare;
import java.io.IOException;
import java.lang.ref.Cleaner;
import java.lang.ref.WeakReference;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;

/**
 * Keeps workpieces within a memory budget: the least recently used are written to disk. Arrays that
 * several workpieces share count once.
 */
public final class Checkpoints implements Spare.Holder {
  private static final Cleaner CLEANER = Cleaner.create();

  private final long budget;
  private final Path directory;
  private final List<WeakReference<Checkpoint>> all = new ArrayList<>();
  private final AtomicLong clock = new AtomicLong();
  private long number;

  /**
   * @param budget bytes
   * @param directory where states are spilled to; made when first needed
   */
  public Checkpoints(long budget, Path directory) {
    this.budget = budget;
    this.directory = directory;
    Spare.add(this);
  }

  /** Puts all states aside but the one used last. */
  @Override
  public synchronized void letGo() {
    makeRoom(null, 0);
  }

  public synchronized Checkpoint keep(Workpiece workpiece) {
    Checkpoint c = new Checkpoint(this, workpiece);
    all.add(new WeakReference<>(c));
    c.get();
    makeRoom(c);
    return c;
  }

  long tick() {
    return clock.incrementAndGet();
  }

  /**
   * Spills the least recently used until the rest fits, or the disk takes no more; never the one
   * given.
   */
  synchronized void makeRoom(Checkpoint keep) {
    makeRoom(keep, budget);
  }

  private void makeRoom(Checkpoint keep, long most) {
    List<Checkpoint> held = new ArrayList<>();
    all.removeIf(r -> r.get() == null);
    for (WeakReference<Checkpoint> r : all) {
      Checkpoint c = r.get();
      if (c != null && c.held() != null) {
        held.add(c);
      }
    }
    held.sort(Comparator.comparingLong(Checkpoint::lastUse));
    int next = 0;
    while (bytes(held) > most && next < held.size()) {
      Checkpoint c = held.get(next);
      if (c == (keep == null ? held.getLast() : keep)) {
        next++;
        continue;
      }
      try {
        Files.createDirectories(directory);
        c.spill(directory, number++);
      } catch (IOException e) {
        // A full disk is no reason to lose a state: it stays in memory, over the budget.
        return;
      }
      held.remove(next);
    }
  }

  /** Bytes held in memory, shared arrays once. */
  public synchronized long bytesHeld() {
    List<Checkpoint> held = new ArrayList<>();
    for (WeakReference<Checkpoint> r : all) {
      Checkpoint c = r.get();
      if (c != null && c.held() != null) {
        held.add(c);
      }
    }
    return bytes(held);
  }

  private static long bytes(List<Checkpoint> held) {
    Set<Object> seen = Collections.newSetFromMap(new IdentityHashMap<>());
    long sum = 0;
    for (Checkpoint c : held) {
      Workpiece w = c.held();
      sum += bytes(w.scan(), seen) + bytes(w.cast(), seen);
      if (w.maps() != null && seen.add(w.maps())) {
        sum += w.maps().bytes();
      }
    }
    return sum;
  }

  private static long bytes(Mesh m, Set<Object> seen) {
    if (m == null) {
      return 0;
    }
    long sum = seen.add(m.xyz()) ? 4L * m.xyz().length : 0;
    sum += seen.add(m.triangles()) ? 4L * m.triangles().length : 0;
    sum += m.colours() != null && seen.add(m.colours()) ? 4L * m.colours().length : 0;
    if (m.uv() != null && seen.add(m.uv())) {
      sum += 4L * m.uv().coords().length + 4L * m.uv().corners().length;
    }
    for (Material x : m.materials()) {
      sum += x.image() != null && seen.add(x.image()) ? 4L * x.image().pixels().length : 0;
    }
    return sum;
  }

  void deleteWhenUnused(Checkpoint c, Path file) {
    CLEANER.register(c, () -> Checkpoint.delete(file));
  }
}
