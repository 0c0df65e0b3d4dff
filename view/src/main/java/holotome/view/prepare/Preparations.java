package holotome.view.prepare;

import holotome.core.memory.Claim;
import holotome.core.memory.Spare;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.view.cluster.Hierarchy;
import holotome.view.words.ViewWords;
import java.lang.ref.SoftReference;
import java.util.ArrayDeque;
import java.util.Collections;
import java.util.Deque;
import java.util.Iterator;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import java.util.WeakHashMap;

/**
 * What meshes need to be drawn in little time, for the few used last; shared by renderers that show
 * the same meshes. What does not count among the last is still held while there is memory to spare,
 * so that an edit of a very large mesh is undone at once: most of it is shared with what came
 * after. Any thread.
 */
public final class Preparations implements Spare.Holder {
  private static final int KEPT = 3;

  /**
   * Together no more triangles than these, unless one mesh alone has more: memory is short then.
   */
  private static final long MOST_KEPT = 60_000_000;

  /** How many are held while there is memory to spare. */
  private static final int SPARE = 4;

  /** Bytes per triangle that preparing takes at most. */
  private static final long FRESH = 40;

  /** The same of an edited mesh, beside what is held of the one before. */
  private static final long UPDATE = 20;

  private final Map<Mesh, Prepared> prepared = new LinkedHashMap<>();
  private final Deque<SoftReference<Prepared>> spare = new ArrayDeque<>();

  /** What was forgotten: a picture of it that is still on its way is not to bring it back. */
  private final Set<Mesh> gone = Collections.newSetFromMap(new WeakHashMap<>());

  /** At least as many as one scene shows: else each picture would make them all anew. */
  private int kept = KEPT;

  /** Meshes below this many triangles are drawn as they are. */
  private final int small;

  /** How many times all was forgotten. */
  private volatile int times;

  /** Of the prepared mesh asked for last: an edit of it is prepared from there. */
  private volatile Hierarchy latest;

  public Preparations(int small) {
    this.small = small;
    Spare.add(this);
  }

  /** All but what was used last goes; of that, what is made again as it is drawn. */
  @Override
  public void letGo() {
    Hierarchy last = null;
    synchronized (this) {
      spare.clear();
      while (prepared.size() > 1) {
        prepared.remove(prepared.keySet().iterator().next());
      }
      for (Prepared p : prepared.values()) {
        last = p.hierarchy();
        latest = last == null ? latest : last;
      }
    }
    if (last != null) {
      last.letGo();
    }
  }

  public synchronized Prepared of(Mesh mesh) {
    if (gone.contains(mesh)) {
      return new Prepared(mesh);
    }
    Prepared p = prepared.remove(mesh);
    if (p == null) {
      p = fromSpare(mesh);
    }
    prepared.put(mesh, p);
    if (p.hierarchy() != null) {
      latest = p.hierarchy();
    }
    while (prepared.size() > 1 && (prepared.size() > kept || triangles() > MOST_KEPT)) {
      spare.addLast(new SoftReference<>(prepared.remove(prepared.keySet().iterator().next())));
      if (spare.size() > SPARE) {
        spare.removeFirst();
      }
    }
    return p;
  }

  /** As {@link #of}, also of what was forgotten: it is wanted again. */
  private synchronized Prepared wanted(Mesh mesh) {
    gone.remove(mesh);
    return of(mesh);
  }

  /** A scene shows so many meshes at once. */
  public synchronized void keepAtLeast(int meshes) {
    kept = Math.max(kept, meshes);
  }

  /** What was held of a mesh, or something new. */
  private Prepared fromSpare(Mesh mesh) {
    Prepared found = null;
    for (Iterator<SoftReference<Prepared>> i = spare.iterator(); i.hasNext(); ) {
      Prepared p = i.next().get();
      if (p == null || p.mesh() == mesh) {
        i.remove();
        found = p == null ? found : p;
      }
    }
    return found == null ? new Prepared(mesh) : found;
  }

  private long triangles() {
    return prepared.keySet().stream().mapToLong(Mesh::triangleCount).sum();
  }

  /** Makes the hierarchy of a large mesh, unless it is there. */
  public void prepare(Mesh mesh, Work work) {
    prepare(mesh, claim(mesh), work);
  }

  /** Takes a place in the queue for the memory that preparing a mesh needs. */
  public Claim claim(Mesh mesh) {
    return Claim.of((latest == null ? FRESH : UPDATE) * mesh.triangleCount());
  }

  /** The same, with a claim taken before; gives it up. */
  public void prepare(Mesh mesh, Claim claim, Work work) {
    try (claim) {
      int then = times;
      Prepared p = wanted(mesh);
      if (mesh.triangleCount() >= small && p.hierarchy() == null) {
        if (!claim.await(0, work)) {
          forgetOthers(mesh);
        }
        if (latest == null) {
          require(FRESH * mesh.triangleCount());
        }
        Hierarchy before = latest;
        Hierarchy made = before == null ? Hierarchy.of(mesh, work) : before.updated(mesh, work);
        take(p, made, then);
      }
    }
  }

  /** Unless all was forgotten since then. */
  private synchronized void take(Prepared p, Hierarchy made, int then) {
    if (times == then) {
      p.take(made);
      latest = made;
    }
  }

  /** Lets go of all: other meshes are to be drawn. */
  public synchronized void forget() {
    times++;
    kept = KEPT;
    latest = null;
    spare.clear();
    gone.addAll(prepared.keySet());
    prepared.clear();
  }

  /** Rather no hierarchy than one that takes the memory others are at work in. */
  private static void require(long bytes) {
    if (Spare.makeRoom(bytes) < bytes) {
      throw Spare.lacking(ViewWords.of("preparations.preparing-it"), bytes, "");
    }
  }

  /** Where there is no room for two: the one before goes, and the next is made from nothing. */
  private synchronized void forgetOthers(Mesh mesh) {
    latest = null;
    spare.clear();
    prepared.keySet().removeIf(m -> m != mesh);
  }

  public boolean isPrepared(Mesh mesh) {
    return mesh.triangleCount() < small || of(mesh).hierarchy() != null;
  }
}
