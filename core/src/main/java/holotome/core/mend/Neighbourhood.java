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
  private static final float[] WHOLE = {1, 0, 0, 0, 1, 0, 0, 0, 1};

  private final Mesh mesh;
  private final double reach;

  /** Corners, 3 a triangle. */
  private int[] corner;

  /** The triangle of the mesh it is or lies in, or {@link Redrawn#PATCH}. */
  private int[] source;

  /** 9 weights a triangle of the corners of its source. */
  private float[] weight;

  /** Those that are no longer just what they were. */
  private final BitSet touched = new BitSet();

  private int count;
  private final BitSet gone = new BitSet();

  /** Those that were taken out of the mesh come first, in its order. */
  private int first;

  private final int old;

  /** Vertices that can be meant: those near the places, then the new ones. */
  private final LongIndex known = new LongIndex();

  private final int nearCount;

  /** Where those are now, 3 floats each. */
  private float[] spot;

  /** Of those that were near, the ones that moved. */
  private final BitSet moved = new BitSet();

  private final Blends blends;

  /** Of each vertex with triangles here its first corner, by its number; see {@link #next}. */
  private final LongIndex ends = new LongIndex();

  private int[] head = new int[64];
  private int linked;

  /** The next corner at the same vertex; -1 after the last. */
  private int[] next = new int[0];

  private Neighbourhood(Mesh mesh, NearPlaces near) {
    this.mesh = mesh;
    reach = near.reach();
    nearCount = near.vertices().length;
    spot = new float[3 * nearCount + 24];
    for (int i = 0; i < nearCount; i++) {
      int v = near.vertices()[i];
      known.add(v);
      System.arraycopy(mesh.xyz(), 3 * v, spot, 3 * i, 3);
    }
    blends = new Blends(mesh.vertexCount());
    corner = new int[0];
    source = new int[0];
    weight = new float[0];
    old = mesh.triangleCount();
  }

  /**
   * @param places 3 doubles each, in base coordinates
   */
  static Neighbourhood of(Mesh mesh, double[] places, Work work) {
    NearPlaces near =
        NearPlaces.of(mesh, places, work.part(0.4, CoreWords.of("work.finding-neighbours")));
    Neighbourhood n = new Neighbourhood(mesh, near);
    BitSet ring = new BitSet(mesh.vertexCount());
    for (int v : near.vertices()) {
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

  // --- asking --------------------------------------------------------------------------------

  /** The vertices at a place: the nearest one within reach, and all that share its spot. */
  int[] at(double[] place) {
    double least = reach * reach;
    int best = -1;
    for (int i = 0; i < known.size(); i++) {
      double d = square(i, place);
      if ((d < least || best < 0 && d <= least) && isUsed(i)) {
        least = d;
        best = i;
      }
    }
    if (best < 0) {
      return new int[0];
    }
    double[] same = Vec.at(spot, best);
    int[] out = new int[4];
    int n = 0;
    for (int i = 0; i < known.size(); i++) {
      if (square(i, same) == 0 && isUsed(i)) {
        out = n == out.length ? Arrays.copyOf(out, 2 * n) : out;
        out[n++] = (int) known.key(i);
      }
    }
    return Arrays.copyOf(out, n);
  }

  private double square(int i, double[] p) {
    double x = spot[3 * i] - p[0];
    double y = spot[3 * i + 1] - p[1];
    double z = spot[3 * i + 2] - p[2];
    return x * x + y * y + z * z;
  }

  private boolean isUsed(int i) {
    return having((int) known.key(i)).length > 0;
  }

  /** Where a vertex is now, in base coordinates. */
  double[] position(int v) {
    int i = known.find(v);
    return i >= 0 ? Vec.at(spot, i) : Vec.at(mesh.xyz(), v);
  }

  /** How many triangles there are, those that are gone among them. */
  int count() {
    return count;
  }

  boolean isGone(int t) {
    return gone.get(t);
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

  /** The triangles that have all of some vertices, rising. */
  int[] having(int... vertices) {
    int[] out = new int[8];
    int n = 0;
    int end = ends.find(vertices[0]);
    for (int c = end < 0 ? -1 : head[end]; c >= 0; c = next[c]) {
      boolean all = !isGone(c / 3);
      for (int i = 1; all && i < vertices.length; i++) {
        all = cornerOf(c / 3, vertices[i]) >= 0;
      }
      if (all) {
        out = n == out.length ? Arrays.copyOf(out, 2 * n) : out;
        out[n++] = c / 3;
      }
    }
    out = Arrays.copyOf(out, n);
    Arrays.sort(out);
    return out;
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

  /** Puts a vertex that was meant by a place somewhere else. */
  void move(int v, double[] to) {
    int i = known.find(v);
    set(i, to);
    moved.set(i, i < nearCount);
    for (int t : having(v)) {
      touched.set(t);
    }
  }

  private void set(int i, double[] p) {
    for (int k = 0; k < 3; k++) {
      spot[3 * i + k] = (float) p[k];
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
    int i = known.add(mesh.vertexCount() + (known.size() - nearCount));
    spot = 3 * i + 3 > spot.length ? Arrays.copyOf(spot, 2 * spot.length) : spot;
    set(i, at);
    return (int) known.key(i);
  }

  private int freshCount() {
    return known.size() - nearCount;
  }

  void delete(int t) {
    gone.set(t);
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
      next = Arrays.copyOf(next, 3 * room);
    }
    corner[3 * count] = a;
    corner[3 * count + 1] = b;
    corner[3 * count + 2] = c;
    source[count] = from;
    System.arraycopy(nine, at, weight, 9 * count, 9);
    touched.set(count++);
    for (int k = 3 * count - 3; k < 3 * count; k++) {
      link(k);
    }
  }

  private void link(int c) {
    int end = ends.add(corner[c]);
    if (end == ends.size() - 1 && end == head.length) {
      head = Arrays.copyOf(head, 2 * end);
    }
    next[c] = end < linked ? head[end] : -1;
    linked = Math.max(linked, end + 1);
    head[end] = c;
  }

  private void unlink(int c) {
    int end = ends.find(corner[c]);
    if (head[end] == c) {
      head[end] = next[c];
      return;
    }
    int at = head[end];
    while (next[at] != c) {
      at = next[at];
    }
    next[at] = next[c];
  }

  /** Another vertex at a corner; what the triangle shows there moves with it or stays. */
  void replace(int t, int k, int v) {
    unlink(3 * t + k);
    corner[3 * t + k] = v;
    link(3 * t + k);
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
        replace(t, corners[0], v);
        System.arraycopy(w, 0, weight, 9 * t, 9);
        touched.set(t);
      }
    }
  }

  /** What is here, to come back to. */
  record Saved(int[] corner, BitSet gone, BitSet touched, int count) {}

  Saved saved() {
    return new Saved(
        Arrays.copyOf(corner, 3 * count), (BitSet) gone.clone(), (BitSet) touched.clone(), count);
  }

  /** Comes back to triangles as they were; vertices added since are left without any. */
  void restore(Saved s) {
    System.arraycopy(s.corner, 0, corner, 0, s.corner.length);
    gone.clear();
    gone.or(s.gone);
    touched.clear();
    touched.or(s.touched);
    count = s.count;
    Arrays.fill(head, -1);
    for (int c = 0; c < 3 * count; c++) {
      if (!isGone(c / 3)) {
        link(c);
      }
    }
  }

  // --- the mesh that comes of it -------------------------------------------------------------

  Mesh done(Work work) {
    BitSet away = new BitSet();
    for (int t = 0; t < first; t++) {
      away.set(source[t], isGone(t));
    }
    Ranks kept = Submesh.chosen(old, t -> !away.get(t), Work.unwatched());
    // What the mesh's triangles were parted into stands behind them, patches behind that.
    int parts = kept.size();
    int patches = 0;
    int[] number = new int[count];
    for (int t = 0; t < count; t++) {
      boolean isPatch = source[t] == Redrawn.PATCH;
      number[t] = isGone(t) || isPatch ? -1 : t < first ? kept.rank(source[t]) : parts++;
      patches += !isGone(t) && isPatch ? 1 : 0;
    }
    int[] tri = goingOn(away, parts);
    int[] patch = new int[3 * patches];
    patches = 0;
    for (int t = 0; t < count; t++) {
      if (number[t] >= 0) {
        System.arraycopy(corner, 3 * t, tri, 3 * number[t], 3);
      } else if (!isGone(t)) {
        System.arraycopy(corner, 3 * t, patch, 3 * patches++, 3);
      }
    }
    moved.stream().forEach(i -> blends.copy((int) known.key(i)));
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
    float[] added = new float[3 * blends.rows()];
    System.arraycopy(spot, 3 * nearCount, added, 0, 3 * freshCount());
    int row = freshCount();
    for (int i = moved.nextSetBit(0); i >= 0; i = moved.nextSetBit(i + 1)) {
      System.arraycopy(spot, 3 * i, added, 3 * row++, 3);
    }
    Mesh made = mesh.derive(p, added, tri, work.part(0.7, CoreWords.of("work.carrying-over")));
    return Patching.add(made, patch, work.part(0.3, CoreWords.of("work.carrying-over")));
  }

  /** The corners of the mesh's triangles but those that are gone, with room behind them. */
  private int[] goingOn(BitSet away, int parts) {
    int[] tri = new int[3 * parts];
    int from = 0;
    int at = 0;
    while (from < old) {
      int end = away.nextSetBit(from);
      int to = end < 0 ? old : end;
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
    int numbers = 0;
    for (int v = 0; v < n; v++) {
      map[v] = lost.get(v) ? -1 : numbers++;
    }
    int row = n;
    for (; row < n + freshCount(); row++) {
      map[row] = used.get(row) ? numbers++ : -1;
    }
    for (int i = moved.nextSetBit(0); i >= 0; i = moved.nextSetBit(i + 1)) {
      int v = (int) known.key(i);
      map[row++] = map[v];
      map[v] = -1;
    }
    map[row] = numbers;
    return map;
  }

  private void renumber(int[] corners, int[] map) {
    int[] to = map.clone();
    int row = mesh.vertexCount() + freshCount();
    for (int i = moved.nextSetBit(0); i >= 0; i = moved.nextSetBit(i + 1)) {
      to[(int) known.key(i)] = map[row++];
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
