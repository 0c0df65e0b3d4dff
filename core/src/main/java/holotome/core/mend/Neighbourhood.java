package holotome.core.mend;

import holotome.core.array.LongIndex;
import holotome.core.array.Ranks;
import holotome.core.attribute.Blends;
import holotome.core.attribute.Provenance;
import holotome.core.attribute.Redrawn;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.mesh.Submesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * The triangles around some places of a mesh, taken out to be changed one by one, and the mesh that
 * comes of it. Finding them costs a pass over the vertices and two over the triangles, on all
 * cores; each question after that, a pass over what was found.
 *
 * <p>A triangle is known by its number here; a vertex by its number in the mesh, new ones by those
 * after. Triangles that were one of the mesh's, or part of one, keep what it carries; others are a
 * patch.
 */
final class Neighbourhood {
  private static final int GRAIN = 1 << 15;
  private static final int SAMPLES = 4096;
  private static final float[] WHOLE = {1, 0, 0, 0, 1, 0, 0, 0, 1};

  private final Mesh mesh;
  private final double reach;

  /** Corners, 3 a triangle; the first is -1 where it is gone. */
  private int[] corner;

  /** The triangle of the mesh it is or lies in, or {@link Redrawn#PATCH}. */
  private int[] source;

  /** 9 weights a triangle of the corners of its source. */
  private float[] weight;

  /** Whether it is still just what it was. */
  private final BitSet touched = new BitSet();

  private int count;

  /** Those that were taken out of the mesh come first, in its order. */
  private int first;

  private final int old;
  private int[] near;
  private final LongIndex movedOnes = new LongIndex();
  private float[] movedTo = new float[24];
  private float[] fresh = new float[24];
  private int freshCount;
  private final Blends blends;

  private Neighbourhood(Mesh mesh, double reach) {
    this.mesh = mesh;
    this.reach = reach;
    blends = new Blends(mesh.vertexCount());
    int[] tri = mesh.triangles();
    corner = new int[0];
    source = new int[0];
    weight = new float[0];
    near = new int[0];
    old = tri.length / 3;
  }

  /**
   * @param places 3 doubles each, in base coordinates
   */
  static Neighbourhood of(Mesh mesh, double[] places, Work work) {
    Neighbourhood n = new Neighbourhood(mesh, 2 * medianEdge(mesh));
    n.near = n.near(places, work.part(0.4, CoreWords.of("work.finding-neighbours")));
    BitSet ring = new BitSet(mesh.vertexCount());
    for (int v : n.near) {
      ring.set(v);
    }
    int[] tri = mesh.triangles();
    Ranks around = null;
    for (int row = 0; row < 2; row++) {
      BitSet in = ring;
      around =
          Submesh.chosen(
              n.old,
              t -> in.get(tri[3 * t]) || in.get(tri[3 * t + 1]) || in.get(tri[3 * t + 2]),
              work.part(0.3, CoreWords.of("work.finding-neighbours")));
      BitSet wider = (BitSet) in.clone();
      for (int i = 0; row == 0 && i < around.size(); i++) {
        int t = around.select(i);
        wider.set(tri[3 * t]);
        wider.set(tri[3 * t + 1]);
        wider.set(tri[3 * t + 2]);
      }
      ring = wider;
    }
    for (int i = 0; i < around.size(); i++) {
      int t = around.select(i);
      n.put(tri[3 * t], tri[3 * t + 1], tri[3 * t + 2], t, WHOLE, 0);
    }
    n.touched.clear();
    n.first = n.count;
    return n;
  }

  private static double medianEdge(Mesh mesh) {
    int n = Math.min(SAMPLES, mesh.triangleCount());
    double[] lengths = new double[n];
    for (int i = 0; i < n; i++) {
      int t = (int) ((long) i * mesh.triangleCount() / n);
      lengths[i] =
          Vec.distance(
              Vec.at(mesh.xyz(), mesh.triangles()[3 * t]),
              Vec.at(mesh.xyz(), mesh.triangles()[3 * t + 1]));
    }
    Arrays.sort(lengths);
    double middle = n == 0 ? 0 : lengths[n / 2];
    return middle > 0 ? middle : Math.max(1e-6 * mesh.bounds().diagonal(), Float.MIN_NORMAL);
  }

  /** The vertices no farther from any of the places than the reach, and some beside them. */
  private int[] near(double[] places, Work work) {
    LongIndex cells = new LongIndex();
    for (int i = 0; i < places.length; i += 3) {
      for (int c = 0; c < 27; c++) {
        cells.add(
            cell(
                places[i] + (c % 3 - 1) * reach,
                places[i + 1] + (c / 3 % 3 - 1) * reach,
                places[i + 2] + (c / 9 - 1) * reach));
      }
    }
    float[] p = mesh.xyz();
    int n = mesh.vertexCount();
    int[][] found = new int[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work,
        (chunk, from, to) -> {
          int[] list = new int[4];
          int size = 0;
          for (int v = from; v < to; v++) {
            if (cells.find(cell(p[3 * v], p[3 * v + 1], p[3 * v + 2])) >= 0) {
              list = size == list.length ? Arrays.copyOf(list, 2 * size) : list;
              list[size++] = v;
            }
          }
          found[chunk] = Arrays.copyOf(list, size);
        });
    return Arrays.stream(found).flatMapToInt(Arrays::stream).toArray();
  }

  private long cell(double x, double y, double z) {
    long i = (long) Math.floor(x / reach) & 0x1FFFFF;
    long j = (long) Math.floor(y / reach) & 0x1FFFFF;
    long k = (long) Math.floor(z / reach) & 0x1FFFFF;
    return i << 42 | j << 21 | k;
  }

  // --- asking --------------------------------------------------------------------------------

  /** The vertices at a place: the nearest one within reach, and all that share its spot. */
  int[] at(double[] place) {
    double least = reach;
    int best = -1;
    for (int i = 0; i < near.length + freshCount; i++) {
      int v = i < near.length ? near[i] : mesh.vertexCount() + i - near.length;
      double d = distance(v, place);
      if ((d < least || d == least && best < 0) && isUsed(v)) {
        least = d;
        best = v;
      }
    }
    if (best < 0) {
      return new int[0];
    }
    double[] spot = position(best);
    int[] out = new int[4];
    int n = 0;
    for (int i = 0; i < near.length + freshCount; i++) {
      int v = i < near.length ? near[i] : mesh.vertexCount() + i - near.length;
      if (distance(v, spot) == 0 && isUsed(v)) {
        out = n == out.length ? Arrays.copyOf(out, 2 * n) : out;
        out[n++] = v;
      }
    }
    return Arrays.copyOf(out, n);
  }

  private double distance(int v, double[] p) {
    float[] from = v < mesh.vertexCount() ? mesh.xyz() : fresh;
    int i = 3 * (v < mesh.vertexCount() ? v : v - mesh.vertexCount());
    int slot = v < mesh.vertexCount() ? movedOnes.find(v) : -1;
    if (slot >= 0) {
      from = movedTo;
      i = 3 * slot;
    }
    double x = from[i] - p[0];
    double y = from[i + 1] - p[1];
    double z = from[i + 2] - p[2];
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** Where a vertex is now, in base coordinates. */
  double[] position(int v) {
    if (v >= mesh.vertexCount()) {
      return Vec.at(fresh, v - mesh.vertexCount());
    }
    int slot = movedOnes.find(v);
    return slot >= 0 ? Vec.at(movedTo, slot) : Vec.at(mesh.xyz(), v);
  }

  private boolean isUsed(int v) {
    for (int c = 0; c < 3 * count; c++) {
      if (corner[c] == v && corner[c - c % 3] >= 0) {
        return true;
      }
    }
    return false;
  }

  /** How many triangles there are, those that are gone among them. */
  int count() {
    return count;
  }

  boolean isGone(int t) {
    return corner[3 * t] < 0;
  }

  int corner(int t, int k) {
    return corner[3 * t + k];
  }

  /** Which corner of a triangle a vertex is; -1 for none. */
  int cornerOf(int t, int v) {
    for (int k = 0; k < 3; k++) {
      if (corner[3 * t + k] == v) {
        return isGone(t) ? -1 : k;
      }
    }
    return -1;
  }

  /** The triangles that have all of some vertices. */
  int[] having(int... vertices) {
    int[] out = new int[8];
    int n = 0;
    for (int t = 0; t < count; t++) {
      boolean all = true;
      for (int i = 0; all && i < vertices.length; i++) {
        all = cornerOf(t, vertices[i]) >= 0;
      }
      if (all) {
        out = n == out.length ? Arrays.copyOf(out, 2 * n) : out;
        out[n++] = t;
      }
    }
    return Arrays.copyOf(out, n);
  }

  /** The vertices that share a triangle with one. */
  BitSet around(int v) {
    BitSet out = new BitSet();
    for (int t : having(v)) {
      for (int k = 0; k < 3; k++) {
        out.set(corner[3 * t + k]);
      }
    }
    out.clear(v);
    return out;
  }

  /** Whether a triangle runs from one vertex to another along its border. */
  boolean runs(int t, int from, int to) {
    int k = cornerOf(t, from);
    return k >= 0 && corner[3 * t + (k + 1) % 3] == to;
  }

  // --- changing ------------------------------------------------------------------------------

  void move(int v, double[] to) {
    if (v >= mesh.vertexCount()) {
      set(fresh, v - mesh.vertexCount(), to);
    } else {
      int slot = movedOnes.add(v);
      movedTo =
          3 * slot + 3 > movedTo.length ? Arrays.copyOf(movedTo, 2 * movedTo.length) : movedTo;
      set(movedTo, slot, to);
    }
    for (int t : having(v)) {
      touched.set(t);
    }
  }

  private static void set(float[] xyz, int i, double[] p) {
    for (int k = 0; k < 3; k++) {
      xyz[3 * i + k] = (float) p[k];
    }
  }

  /** A new vertex halfway between two, in what it carries; returns its number. */
  int between(int a, int b, double[] at) {
    blends.between(a, b, 0.5f);
    return fresh(at);
  }

  /** A new vertex in the middle of three; returns its number. */
  int between(int a, int b, int c, double[] at) {
    blends.between(a, b, c, 1 / 3f, 1 / 3f, 1 / 3f);
    return fresh(at);
  }

  private int fresh(double[] at) {
    fresh = 3 * freshCount + 3 > fresh.length ? Arrays.copyOf(fresh, 2 * fresh.length) : fresh;
    set(fresh, freshCount, at);
    return mesh.vertexCount() + freshCount++;
  }

  void delete(int t) {
    corner[3 * t] = -1;
  }

  /** A triangle that is none of the mesh's, nor part of one. */
  void add(int a, int b, int c) {
    put(a, b, c, Redrawn.PATCH, WHOLE, 0);
  }

  private void put(int a, int b, int c, int from, float[] nine, int at) {
    if (count == source.length) {
      int room = Math.max(64, 2 * count);
      corner = Arrays.copyOf(corner, 3 * room);
      source = Arrays.copyOf(source, room);
      weight = Arrays.copyOf(weight, 9 * room);
    }
    corner[3 * count] = a;
    corner[3 * count + 1] = b;
    corner[3 * count + 2] = c;
    source[count] = from;
    System.arraycopy(nine, at, weight, 9 * count, 9);
    touched.set(count++);
  }

  /** Another vertex at a corner; what the triangle shows there moves with it or stays. */
  void replace(int t, int k, int v) {
    corner[3 * t + k] = v;
    touched.set(t);
  }

  /**
   * A triangle in parts: the part at each corner but the first has a new vertex in place of that
   * corner, and so has the triangle itself in place of the first.
   *
   * @param corners which corners give way to the new vertex, one a part
   * @param shares of the three corners that the new vertex shows
   */
  void split(int t, int v, int[] corners, float[] shares) {
    float[] at = new float[3];
    for (int j = 0; j < 3; j++) {
      for (int k = 0; k < 3; k++) {
        at[j] += shares[k] * weight[9 * t + 3 * k + j];
      }
    }
    int[] was = {corner[3 * t], corner[3 * t + 1], corner[3 * t + 2]};
    float[] nine = Arrays.copyOfRange(weight, 9 * t, 9 * t + 9);
    for (int i = corners.length - 1; i >= 0; i--) {
      int[] now = was.clone();
      float[] w = nine.clone();
      now[corners[i]] = v;
      System.arraycopy(at, 0, w, 3 * corners[i], 3);
      if (i > 0) {
        put(now[0], now[1], now[2], source[t], w, 0);
      } else {
        System.arraycopy(now, 0, corner, 3 * t, 3);
        System.arraycopy(w, 0, weight, 9 * t, 9);
        touched.set(t);
      }
    }
  }

  /** What is here, to come back to. */
  record Saved(int[] corner, BitSet touched, int count) {}

  Saved saved() {
    return new Saved(Arrays.copyOf(corner, 3 * count), (BitSet) touched.clone(), count);
  }

  /** Comes back to triangles as they were; vertices added since are left without any. */
  void restore(Saved s) {
    System.arraycopy(s.corner, 0, corner, 0, s.corner.length);
    touched.clear();
    touched.or(s.touched);
    count = s.count;
  }

  // --- the mesh that comes of it -------------------------------------------------------------

  Mesh done(Work work) {
    BitSet gone = new BitSet();
    for (int t = 0; t < first; t++) {
      gone.set(source[t], isGone(t));
    }
    Ranks kept = Submesh.chosen(old, t -> !gone.get(t), Work.unwatched());
    // What the mesh's triangles were parted into stands behind them, patches behind that.
    int parts = kept.size();
    int patches = 0;
    int[] number = new int[count];
    for (int t = 0; t < count; t++) {
      boolean isPatch = source[t] == Redrawn.PATCH;
      number[t] = isGone(t) || isPatch ? -1 : t < first ? kept.rank(source[t]) : parts++;
      patches += !isGone(t) && isPatch ? 1 : 0;
    }
    int[] tri = goingOn(gone, parts);
    int[] patch = new int[3 * patches];
    patches = 0;
    for (int t = 0; t < count; t++) {
      if (number[t] >= 0) {
        System.arraycopy(corner, 3 * t, tri, 3 * number[t], 3);
      } else if (!isGone(t)) {
        System.arraycopy(corner, 3 * t, patch, 3 * patches++, 3);
      }
    }
    for (int i = 0; i < movedOnes.size(); i++) {
      blends.copy((int) movedOnes.key(i));
    }
    int[] map = map();
    Provenance p =
        Provenance.of(mesh.vertexCount(), old)
            .vertices(map, map[map.length - 1])
            .added(blends)
            .kept(kept)
            .redrawn(redrawn(number, parts))
            .build();
    renumber(tri, map);
    renumber(patch, map);
    float[] added = Arrays.copyOf(fresh, 3 * blends.rows());
    System.arraycopy(movedTo, 0, added, 3 * freshCount, 3 * movedOnes.size());
    Mesh made = mesh.derive(p, added, tri, work.part(0.7, CoreWords.of("work.carrying-over")));
    return Patching.add(made, patch, work.part(0.3, CoreWords.of("work.carrying-over")));
  }

  /** The corners of the mesh's triangles but those that are gone, with room behind them. */
  private int[] goingOn(BitSet gone, int parts) {
    int[] tri = new int[3 * parts];
    int from = 0;
    int at = 0;
    while (from < old) {
      int next = gone.nextSetBit(from);
      int to = next < 0 ? old : next;
      System.arraycopy(mesh.triangles(), 3 * from, tri, at, 3 * (to - from));
      at += 3 * (to - from);
      from = to + 1;
    }
    return tri;
  }

  private Redrawn redrawn(int[] number, int parts) {
    int[] by = new int[parts];
    Arrays.fill(by, -1);
    for (int t = touched.nextSetBit(0); t >= 0; t = touched.nextSetBit(t + 1)) {
      if (number[t] >= 0) {
        by[number[t]] = t;
      }
    }
    Redrawn out = new Redrawn();
    for (int i = 0; i < parts; i++) {
      if (by[i] >= 0) {
        out.add(i, source[by[i]], Arrays.copyOfRange(weight, 9 * by[i], 9 * by[i] + 9));
      }
    }
    return out;
  }

  /**
   * New number by old or added vertex, -1 where it goes, then how many there are. One that moved
   * goes, and its copy has its number; one that lost all its triangles goes.
   */
  private int[] map() {
    int n = mesh.vertexCount();
    BitSet used = new BitSet();
    for (int t = 0; t < count; t++) {
      for (int k = 0; k < 3 && !isGone(t); k++) {
        used.set(corner[3 * t + k]);
      }
    }
    BitSet lost = new BitSet();
    for (int t = 0; t < first; t++) {
      for (int k = 0; k < 3 && (isGone(t) || touched.get(t)); k++) {
        int v = mesh.triangles()[3 * source[t] + k];
        lost.set(v, !used.get(v));
      }
    }
    int[] map = new int[n + blends.rows() + 1];
    int next = 0;
    for (int v = 0; v < n; v++) {
      map[v] = lost.get(v) ? -1 : next++;
    }
    for (int i = 0; i < freshCount; i++) {
      map[n + i] = used.get(n + i) ? next++ : -1;
    }
    for (int i = 0; i < movedOnes.size(); i++) {
      int v = (int) movedOnes.key(i);
      map[n + freshCount + i] = map[v];
      map[v] = -1;
    }
    map[map.length - 1] = next;
    return map;
  }

  private void renumber(int[] corners, int[] map) {
    int[] to = map.clone();
    for (int i = 0; i < movedOnes.size(); i++) {
      to[(int) movedOnes.key(i)] = map[mesh.vertexCount() + freshCount + i];
    }
    Parallel.range(
        corners.length,
        GRAIN,
        Work.unwatched(),
        (from, until) -> {
          for (int c = from; c < until; c++) {
            corners[c] = to[corners[c]];
          }
        });
  }
}
