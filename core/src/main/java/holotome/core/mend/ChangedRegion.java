package holotome.core.mend;

import holotome.core.array.Ranks;
import holotome.core.mesh.Lineage;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.util.Arrays;
import java.util.BitSet;
import java.util.stream.IntStream;

/**
 * Where a mesh differs from the one it was made from: the triangles that went, the new ones, and
 * all that meet them, on both sides. A vertex is touched where one of its triangles went or is new,
 * or has a vertex that was joined or parted, where it stands on the spot of a touched one, or where
 * it lies on a border with a touched one. Of touched vertices all triangles are in the region, of
 * no others: whatever is told from the triangles around a vertex, and is not the same in both
 * meshes, is seen within. What the cut around the region makes up is the same on both sides.
 *
 * <p>Some passes over both meshes on all cores; 4 bytes a triangle and 8 a vertex.
 */
final class ChangedRegion {
  /** Where more is touched than one in so many, the whole is looked at. */
  private static final int FEW = 20;

  private static final int GRAIN = 1 << 16;

  private static final VarHandle NOTE = MethodHandles.arrayElementVarHandle(int[].class);

  /**
   * The region in one of the meshes.
   *
   * @param mesh its triangles alone, in their order, with their vertices in theirs
   * @param triangles their numbers in the whole mesh
   * @param vertices the vertices' numbers in the whole mesh
   * @param kept those triangles, by their place, that are in both meshes; the same ones in the same
   *     order on both sides
   */
  record Side(Mesh mesh, int[] triangles, int[] vertices, int[] kept) {}

  private final Mesh old;
  private final Mesh now;
  private final Lineage.Common common;

  /** Per triangle the number it had; -1 for a new one. */
  private final int[] from;

  private Ranks fresh;
  private int[] gone;

  /** Per vertex one that it became, and was, plus 1; 0 where none of its triangles is in both. */
  private int[] became;

  private int[] was;

  /**
   * Triangles that lie where they did, but have a vertex that was joined with another or parted:
   * they have other neighbours.
   */
  private int[] joinedOrParted;

  private final BitSet oldTouched = new BitSet();
  private final BitSet touched = new BitSet();
  private BitSet touchedLoops = new BitSet();
  private Side before;
  private Side after;

  private ChangedRegion(Mesh old, Mesh now, Lineage.Common common) {
    this.old = old;
    this.now = now;
    this.common = common;
    from = common.allFrom(now.triangleCount());
  }

  /**
   * Looks for what changed.
   *
   * @param loops the borders of the old mesh, as half-edges
   * @return null where the one was not made from the other, or much of it is new
   */
  static ChangedRegion of(Mesh old, int[][] loops, Mesh now, Work work) {
    Lineage.Common common = Lineage.common(old.lineage(), now.lineage());
    ChangedRegion r = common == null ? null : new ChangedRegion(old, now, common);
    return r != null && r.find(loops, work) ? r : null;
  }

  /** In the mesh it was. */
  Side before() {
    return before;
  }

  /** In the mesh it is. */
  Side after() {
    return after;
  }

  /** The number now of an old triangle that is as it was; else -1. */
  int to(int triangle) {
    int t = common.to(triangle);
    return t < 0 || fresh.has(t) ? -1 : t;
  }

  /** The number it had of a triangle that is as it was; -1 for a new one. */
  int from(int triangle) {
    return from[triangle];
  }

  boolean isTouched(int vertex) {
    return touched.get(vertex);
  }

  boolean isLoopTouched(int loop) {
    return touchedLoops.get(loop);
  }

  /** The triangles that were not there. */
  BitSet fresh() {
    BitSet out = new BitSet();
    for (int i = 0; i < fresh.size(); i++) {
      out.set(fresh.select(i));
    }
    return out;
  }

  private boolean find(int[][] loops, Work work) {
    compare(work.part(0.5, work.label()));
    if ((long) FEW * fresh.size() > now.triangleCount()
        || (long) FEW * gone.length > old.triangleCount()) {
      return false;
    }
    markCorners(old, gone, oldTouched);
    markCorners(now, fresh().stream().toArray(), touched);
    markCorners(now, joinedOrParted, touched);
    markCorners(old, Arrays.stream(joinedOrParted).map(t -> from[t]).toArray(), oldTouched);
    boolean grew = true;
    while (grew) {
      if ((long) FEW * oldTouched.cardinality() > old.vertexCount()
          || (long) FEW * touched.cardinality() > now.vertexCount()) {
        return false;
      }
      grew = carry(oldTouched, became, touched);
      grew |= carry(touched, was, oldTouched);
      grew |= alongLoops(loops);
      grew |= onSpots(old.xyz(), oldTouched);
      grew |= onSpots(now.xyz(), touched);
      work.check();
    }
    became = null;
    was = null;
    gather(work.part(0.2, work.label()));
    return true;
  }

  /** Tells what is new and what is gone, and which vertices became which. */
  private void compare(Work work) {
    became = new int[old.vertexCount()];
    was = new int[now.vertexCount()];
    long[] words = new long[(from.length >>> 6) + 1];
    int chunks = Parallel.chunks(from.length, GRAIN);
    int[][] gaps = new int[chunks][];
    int[][] others = new int[chunks][];
    int[] first = new int[chunks];
    int[] last = new int[chunks];
    Parallel.chunked(
        from.length,
        GRAIN,
        work,
        (c, begin, end) -> {
          int[] own = new int[0];
          int n = 0;
          int[] odd = new int[0];
          int next = -1;
          first[c] = -1;
          for (int t = begin; t < end; t++) {
            if (from[t] < 0 || !isWhereItWas(from[t], t)) {
              words[t >>> 6] |= 1L << t;
              from[t] = -1;
              continue;
            }
            if (!isMatched(from[t], t)) {
              odd = Arrays.copyOf(odd, odd.length + 1);
              odd[odd.length - 1] = t;
            }
            first[c] = next < 0 ? from[t] : first[c];
            for (; next >= 0 && next < from[t]; next++) {
              own = n == own.length ? Arrays.copyOf(own, Math.max(16, 2 * n)) : own;
              own[n++] = next;
            }
            next = from[t] + 1;
          }
          last[c] = next;
          gaps[c] = Arrays.copyOf(own, n);
          others[c] = odd;
        });
    joinedOrParted = Arrays.stream(others).flatMapToInt(Arrays::stream).toArray();
    fresh = Ranks.of(words, from.length);
    // What stays is in its old order: what is gone is what is left out.
    IntStream.Builder out = IntStream.builder();
    int next = 0;
    for (int c = 0; c <= chunks; c++) {
      int to = c == chunks ? old.triangleCount() : first[c];
      for (; next < to; next++) {
        out.add(next);
      }
      if (c < chunks && first[c] >= 0) {
        Arrays.stream(gaps[c]).forEach(out::add);
        next = last[c];
      }
    }
    gone = out.build().toArray();
  }

  /** Whether a triangle of the mesh before has its corners where it had them. */
  private boolean isWhereItWas(int before, int t) {
    float[] p = old.xyz();
    float[] q = now.xyz();
    for (int c = 0; c < 3; c++) {
      int v = old.triangles()[3 * before + c];
      int w = now.triangles()[3 * t + c];
      if (became[v] != w + 1
          && (p[3 * v] != q[3 * w]
              || p[3 * v + 1] != q[3 * w + 1]
              || p[3 * v + 2] != q[3 * w + 2])) {
        return false;
      }
    }
    return true;
  }

  /**
   * Notes which vertices a triangle's became. False where one became, or was, another already: it
   * was parted, or joined. Which of its triangles are told so is left to chance; of all but one of
   * its vertices all are.
   */
  private boolean isMatched(int before, int t) {
    boolean is = true;
    for (int c = 0; c < 3; c++) {
      int v = old.triangles()[3 * before + c];
      int w = now.triangles()[3 * t + c];
      if (became[v] != w + 1 || was[w] != v + 1) {
        int to = (int) NOTE.compareAndExchange(became, v, 0, w + 1);
        int of = (int) NOTE.compareAndExchange(was, w, 0, v + 1);
        is &= (to == 0 || to == w + 1) && (of == 0 || of == v + 1);
      }
    }
    return is;
  }

  private static void markCorners(Mesh mesh, int[] triangles, BitSet marks) {
    for (int t : triangles) {
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        marks.set(mesh.triangles()[h]);
      }
    }
  }

  /** Where one vertex of a border is touched, all are. */
  private boolean alongLoops(int[][] loops) {
    boolean grew = false;
    int[] tri = old.triangles();
    for (int i = 0; i < loops.length; i++) {
      if (touchedLoops.get(i)
          || Arrays.stream(loops[i]).noneMatch(h -> oldTouched.get(tri[h]) || ends(h))) {
        continue;
      }
      touchedLoops.set(i);
      grew = true;
      for (int h : loops[i]) {
        oldTouched.set(tri[h]);
        oldTouched.set(tri[h % 3 == 2 ? h - 2 : h + 1]);
      }
    }
    return grew;
  }

  private boolean ends(int h) {
    return oldTouched.get(old.triangles()[h % 3 == 2 ? h - 2 : h + 1]);
  }

  /** What stands on the spot of a touched vertex is touched. */
  private static boolean onSpots(float[] xyz, BitSet marks) {
    int[] more = PointWeld.alsoOn(xyz, marks);
    Arrays.stream(more).forEach(marks::set);
    return more.length > 0;
  }

  /** A vertex touched in one mesh is in the other. */
  private static boolean carry(BitSet marks, int[] into, BitSet others) {
    boolean grew = false;
    for (int v = marks.nextSetBit(0); v >= 0; v = marks.nextSetBit(v + 1)) {
      if (into[v] > 0 && !others.get(into[v] - 1)) {
        others.set(into[v] - 1);
        grew = true;
      }
    }
    return grew;
  }

  private void gather(Work work) {
    int[] tri = now.triangles();
    Ranks kept =
        Submesh.chosen(
            now.triangleCount(),
            t ->
                !fresh.has(t)
                    && (touched.get(tri[3 * t])
                        || touched.get(tri[3 * t + 1])
                        || touched.get(tri[3 * t + 2])),
            work);
    int[] here = new int[kept.size()];
    int[] there = new int[kept.size()];
    for (int i = 0; i < here.length; i++) {
      here[i] = kept.select(i);
      there[i] = from[here[i]];
    }
    before = side(old, there, gone);
    after = side(now, here, fresh().stream().toArray());
  }

  private static Side side(Mesh mesh, int[] kept, int[] others) {
    int[] all = Arrays.copyOf(kept, kept.length + others.length);
    System.arraycopy(others, 0, all, kept.length, others.length);
    Arrays.sort(all);
    int[] places = new int[kept.length];
    for (int i = 0; i < places.length; i++) {
      places[i] = Arrays.binarySearch(all, kept[i]);
    }
    int[] corners = new int[3 * all.length];
    for (int i = 0; i < all.length; i++) {
      System.arraycopy(mesh.triangles(), 3 * all[i], corners, 3 * i, 3);
    }
    int[] vertices = Arrays.stream(corners).sorted().distinct().toArray();
    float[] xyz = new float[3 * vertices.length];
    for (int v = 0; v < vertices.length; v++) {
      System.arraycopy(mesh.xyz(), 3 * vertices[v], xyz, 3 * v, 3);
    }
    for (int c = 0; c < corners.length; c++) {
      corners[c] = Arrays.binarySearch(vertices, corners[c]);
    }
    return new Side(new Mesh(xyz, corners), all, vertices, places);
  }
}
