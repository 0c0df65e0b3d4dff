package holotome.core.mesh;

import holotome.core.array.Ranks;
import holotome.core.attribute.Provenance;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/**
 * How a mesh came from others, as far as its triangles go: of each that it was made from, which
 * triangles went on unchanged. Holds none of those meshes; a bit and a half per triangle of each
 * where some went. So whoever prepared something for one mesh can tell what of it still holds for
 * another made from it, or from which it was made, or that has a forebear in common.
 */
public final class Lineage {
  private static final int GRAIN = 1 << 16;

  /** So many steps are remembered. */
  private static final int MOST = 24;

  /** The same in copies that remember less. */
  private final Object id;

  private final Lineage parent;
  private final int triangles;

  /** Of the parent's triangles those that went on; null for all. */
  private final Ranks kept;

  /** Of those, the ones that did not stay as they were, by new number; null for none. */
  private final BitSet changed;

  private final int depth;

  private Lineage(Object id, Lineage parent, int triangles, Ranks kept, BitSet changed) {
    this.id = id;
    this.parent = parent == null || parent.depth < MOST ? parent : parent.shortened();
    this.triangles = triangles;
    this.kept = kept;
    this.changed = changed;
    this.depth = this.parent == null ? 0 : this.parent.depth + 1;
  }

  /** Of a mesh made from nothing that is known. */
  static Lineage root(int triangles) {
    return new Lineage(new Object(), null, triangles, null, null);
  }

  /** Of a mesh made from one of this. */
  Lineage then(Provenance p) {
    return new Lineage(new Object(), this, p.triangles(), p.kept(), p.changed());
  }

  /** Of a mesh that has all triangles of this, and more behind them. */
  Lineage withMore(int all) {
    return new Lineage(new Object(), this, all, null, null);
  }

  /** The same, with the oldest half forgotten. */
  private Lineage shortened() {
    List<Lineage> chain = chain();
    Lineage at = null;
    for (int i = chain.size() / 2; i >= 0; i--) {
      Lineage l = chain.get(i);
      at =
          at == null
              ? new Lineage(l.id, null, l.triangles, null, null)
              : new Lineage(l.id, at, l.triangles, l.kept, l.changed);
    }
    return at;
  }

  /** This and all before it. */
  private List<Lineage> chain() {
    List<Lineage> out = new ArrayList<>();
    for (Lineage l = this; l != null; l = l.parent) {
      out.add(l);
    }
    return out;
  }

  /**
   * Which triangles two meshes have in common, told by what they were made from; null where they
   * have no forebear in common that is remembered. O(T) of the forebear where several steps lie
   * between.
   */
  public static Common common(Lineage old, Lineage next) {
    Map<Object, Integer> before = new IdentityHashMap<>();
    List<Lineage> olds = old.chain();
    for (int i = 0; i < olds.size(); i++) {
      before.put(olds.get(i).id, i);
    }
    List<Lineage> nexts = next.chain();
    for (int i = 0; i < nexts.size(); i++) {
      Integer at = before.get(nexts.get(i).id);
      if (at != null) {
        return new Common(
            old.triangles,
            next.triangles,
            Going.through(nexts.get(i).triangles, olds.subList(0, at)),
            Going.through(nexts.get(i).triangles, nexts.subList(0, i)));
      }
    }
    return null;
  }

  /**
   * What went on of a mesh's triangles over some steps.
   *
   * @param before how many there were
   * @param kept null for all; may tell of more, which came between
   * @param changed by the number after the steps; null for none
   */
  private record Going(int before, Ranks kept, BitSet changed) {

    /**
     * @param steps the last one first
     */
    static Going through(int before, List<Lineage> steps) {
      Going all = new Going(before, null, null);
      for (int i = steps.size() - 1; i >= 0; i--) {
        all = all.then(steps.get(i));
      }
      return all;
    }

    private Going then(Lineage step) {
      BitSet touched = step.changed == null ? null : (BitSet) step.changed.clone();
      if (changed != null) {
        touched = touched == null ? new BitSet() : touched;
        for (int t = changed.nextSetBit(0); t >= 0; t = changed.nextSetBit(t + 1)) {
          if (step.kept == null) {
            touched.set(t);
          } else if (step.kept.has(t)) {
            touched.set(step.kept.rank(t));
          }
        }
      }
      if (kept == null || step.kept == null) {
        return new Going(before, kept == null ? step.kept : kept, touched);
      }
      Ranks both = new Ranks(before);
      int at = 0;
      for (int t = 0; t < before; t++) {
        if (kept.has(t) && step.kept.has(at++)) {
          both.add(t);
        }
      }
      return new Going(before, both.done(), touched);
    }

    /** The number after the steps; -1 where it went or changed. */
    int to(int t) {
      int at = kept == null ? t : kept.has(t) ? kept.rank(t) : -1;
      return at >= 0 && changed != null && changed.get(at) ? -1 : at;
    }

    /** What {@link #from} says of some numbers in a row, quicker. */
    void from(int first, int[] out) {
      int count = kept == null ? before : kept.range() <= before ? kept.size() : kept.rank(before);
      int at = -1;
      for (int i = 0; i < out.length; i++) {
        int t = first + i;
        at = kept == null || t >= count ? t : at < 0 ? kept.select(t) : kept.next(at + 1);
        out[i] = t >= count || changed != null && changed.get(t) ? -1 : at;
      }
    }

    /** The number before the steps of what has a number after them; -1 where it is new. */
    int from(int t) {
      int count = kept == null ? before : kept.range() <= before ? kept.size() : kept.rank(before);
      if (t >= count || changed != null && changed.get(t)) {
        return -1;
      }
      return kept == null ? t : kept.select(t);
    }
  }

  /** The triangles that two meshes have in common. */
  public static final class Common {
    private final int olds;
    private final int nexts;
    private final Going toOld;
    private final Going toNext;

    private Common(int olds, int nexts, Going toOld, Going toNext) {
      this.olds = olds;
      this.nexts = nexts;
      this.toOld = toOld;
      this.toNext = toNext;
    }

    /** The number in the next mesh of a triangle of the old one; -1 where it is gone or changed. */
    public int to(int triangle) {
      int t = toOld.from(triangle);
      return t < 0 ? -1 : toNext.to(t);
    }

    /** The number in the old mesh of a triangle of the next one; -1 where it is new or changed. */
    public int from(int triangle) {
      int t = toNext.from(triangle);
      return t < 0 ? -1 : toOld.to(t);
    }

    /**
     * The number in the old mesh of each triangle of the next one; -1 where it is new or changed.
     * On all cores; 4 bytes a triangle.
     *
     * @param count how many triangles it has, those that the lineage does not tell of among them
     */
    public int[] allFrom(int count) {
      int[] all = new int[count];
      Parallel.range(
          count,
          GRAIN,
          Work.unwatched(),
          (begin, end) -> {
            int[] part = new int[end - begin];
            toNext.from(begin, part);
            for (int i = 0; i < part.length; i++) {
              all[begin + i] = part[i] < 0 ? -1 : toOld.to(part[i]);
            }
          });
      return all;
    }

    /** Triangles of the old mesh. */
    public int olds() {
      return olds;
    }

    /** Triangles of the next mesh. */
    public int nexts() {
      return nexts;
    }
  }
}
