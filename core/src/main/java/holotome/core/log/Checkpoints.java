package holotome.core.log;

import holotome.core.attribute.Attribute;
import holotome.core.memory.Spare;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import java.io.IOException;
import java.lang.ref.WeakReference;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Collections;
import java.util.Comparator;
import java.util.IdentityHashMap;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.atomic.AtomicLong;

/**
 * Keeps workpieces within a memory budget: the meshes and maps used least recently are written to
 * disk. What several workpieces share is kept once.
 */
public final class Checkpoints implements Spare.Holder {
  private final long budget;
  private final Path directory;
  private final List<WeakReference<StoredPart<?>>> all = new ArrayList<>();
  private final AtomicLong clock = new AtomicLong();
  private volatile WeakReference<Checkpoint> last = new WeakReference<>(null);
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

  /** Puts all aside but the state used last. */
  @Override
  public synchronized void letGo() {
    makeRoom(List.of(), 0);
  }

  synchronized Checkpoint keep(Workpiece w) {
    Map<Part<?>, Object> kept = new LinkedHashMap<>();
    w.parts()
        .forEach(
            (name, part) ->
                kept.put(
                    name,
                    switch (part) {
                      case Mesh m -> part(m, StateFile.MESH);
                      case Maps m -> part(m, StateFile.MAPS);
                      default -> part;
                    }));
    Checkpoint c = new Checkpoint(this, kept);
    used(c);
    makeRoom(c.parts(), budget);
    return c;
  }

  /** What keeps a part, new or of a state that shares it. */
  @SuppressWarnings("unchecked")
  private <T> StoredPart<T> part(T part, StoredPart.Form<T> form) {
    for (StoredPart<?> k : known()) {
      if (k.atHand() == part) {
        // The same object, hence of its type.
        StoredPart<T> same = (StoredPart<T>) k;
        same.get();
        return same;
      }
    }
    StoredPart<T> k = new StoredPart<>(this, form, part);
    k.get();
    all.add(new WeakReference<>(k));
    return k;
  }

  private List<StoredPart<?>> known() {
    List<StoredPart<?>> out = new ArrayList<>();
    all.removeIf(r -> r.get() == null);
    for (WeakReference<StoredPart<?>> r : all) {
      StoredPart<?> k = r.get();
      if (k != null) {
        out.add(k);
      }
    }
    return out;
  }

  private List<StoredPart<?>> held() {
    List<StoredPart<?>> out = new ArrayList<>(known());
    out.removeIf(k -> k.held() == null);
    return out;
  }

  void used(Checkpoint c) {
    last = new WeakReference<>(c);
  }

  long tick() {
    return clock.incrementAndGet();
  }

  /** Reads a part back from disk, and makes room for it. */
  synchronized <T> T fetch(StoredPart<T> part) {
    T read = part.readBack();
    makeRoom(List.of(part), budget);
    return read;
  }

  /**
   * Spills the least recently used until the rest fits, or the disk takes no more; never those
   * given, nor those of the state used last.
   */
  private void makeRoom(List<? extends StoredPart<?>> keep, long most) {
    Set<StoredPart<?>> staying = Collections.newSetFromMap(new IdentityHashMap<>());
    staying.addAll(keep);
    Checkpoint now = last.get();
    if (now != null) {
      staying.addAll(now.parts());
    }
    List<StoredPart<?>> held = held();
    List<StoredPart<?>> going = new ArrayList<>(held);
    going.removeIf(staying::contains);
    going.sort(Comparator.comparingLong(StoredPart::lastUse));
    for (StoredPart<?> k : going) {
      if (bytes(held) <= most) {
        return;
      }
      try {
        Files.createDirectories(directory);
        k.spill(directory.resolve("state-" + number++));
      } catch (IOException e) {
        // A full disk is no reason to lose a state: it stays in memory, over the budget.
        return;
      }
      held.remove(k);
    }
  }

  /** Bytes held in memory, shared arrays once. */
  public synchronized long bytesHeld() {
    return bytes(held());
  }

  private static long bytes(List<StoredPart<?>> held) {
    Set<Object> seen = Collections.newSetFromMap(new IdentityHashMap<>());
    long sum = 0;
    Maps before = null;
    for (StoredPart<?> k : held) {
      Object part = k.held();
      if (part instanceof Mesh m) {
        sum += bytes(m, seen);
      } else if (part instanceof Maps m) {
        // Each as a rule comes of the one before it, and shares most of what it holds with it.
        sum += m.bytesBeside(before);
        before = m;
      }
    }
    return sum;
  }

  private static long bytes(Mesh m, Set<Object> seen) {
    long sum = seen.add(m.xyz()) ? 4L * m.xyz().length : 0;
    sum += seen.add(m.triangles()) ? 4L * m.triangles().length : 0;
    for (Attribute a : m.attributes()) {
      sum += seen.add(a.array()) ? a.valueBytes() : 0;
      sum += a.index() != null && seen.add(a.index()) ? 4L * a.index().length : 0;
    }
    for (Material x : m.materials()) {
      sum += x.image() != null && seen.add(x.image()) ? 4L * x.image().pixels().length : 0;
    }
    return sum;
  }
}
