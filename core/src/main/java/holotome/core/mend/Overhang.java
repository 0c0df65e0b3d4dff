package holotome.core.mend;

import holotome.core.array.DisjointSets;
import holotome.core.array.LeastFirst;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Heights at which regions that face down lean no farther than an angle from upright.
 *
 * <p>A region whose rim is held from below all round becomes a vault: it rises from its rim as
 * steeply as is asked, or stays where it rises more. A region with a free rim, beyond which the
 * surface goes up, is a nose or a belly: it falls away from that rim, and where it ends at a wall
 * the wall slides down along itself, less and less. Each is a sweep from the rim inwards by fast
 * marching on triangles (Kimmel and Sethian 1998): each vertex is reached across the triangle that
 * brings it there first, at the slope asked for.
 *
 * <p>O(n log n) in the vertices of the regions and 72 bytes a vertex of the mesh.
 */
final class Overhang {
  /** The share of a rim that must be free for a region to hang from it. */
  private static final double FREE = 0.1;

  /** How often what is beyond a rim is evened out along it. */
  private static final int EVEN = 8;

  /** What slides goes along as far as so many times the way at the rim: then nothing folds. */
  private static final double SLIDE = 3;

  /** A little steeper than asked, since triangles cut corners. */
  private static final double MARGIN = 1.02;

  private static final int OFTEN = (1 << 16) - 1;

  private final int[] tri;
  private final VertexFans fans;
  private final BitSet region;
  private final double[] height;
  private final double[] flat;
  private final double slope;
  private final double lowest;

  /** The vertices of the regions, and those of their rims. */
  private final BitSet in = new BitSet();

  private final BitSet rim = new BitSet();

  /** Those of regions that end at a wall below them: these go no lower than what is there. */
  private final BitSet walled = new BitSet();

  /** How much higher the surface beyond a rim is than within, evened out. */
  private final float[] beyond;

  private final double[] now;

  /**
   * @param region the triangles that face down
   * @param up upwards, of length 1
   * @param angle how far from upright what faces down may lean, in radians
   */
  Overhang(Mesh mesh, VertexFans fans, BitSet region, double[] up, double angle) {
    tri = mesh.triangles();
    this.fans = fans;
    this.region = region;
    slope = MARGIN / Math.tan(angle);
    int n = mesh.vertexCount();
    height = new double[n];
    flat = new double[2 * n];
    double[] e = Vec.perpendicular(up);
    double[] f = Vec.cross(up, e);
    double least = Double.POSITIVE_INFINITY;
    for (int v = 0; v < n; v++) {
      double[] p = Vec.at(mesh.xyz(), v);
      height[v] = Vec.dot(p, up);
      flat[2 * v] = Vec.dot(p, e);
      flat[2 * v + 1] = Vec.dot(p, f);
      least = fans.count(v) > 0 ? Math.min(least, height[v]) : least;
    }
    lowest = least;
    now = height.clone();
    beyond = new float[n];
  }

  /** The heights along {@code up}, per vertex of the mesh; those outside stay but what slides. */
  double[] heights(Work work) {
    for (int t = region.nextSetBit(0); t >= 0; t = region.nextSetBit(t + 1)) {
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        in.set(tri[c]);
      }
    }
    DisjointSets sets = new DisjointSets(height.length);
    for (int t = region.nextSetBit(0); t >= 0; t = region.nextSetBit(t + 1)) {
      sets.join(tri[3 * t], tri[3 * t + 1]);
      sets.join(tri[3 * t], tri[3 * t + 2]);
    }
    work.advance(0.2);
    findRim();
    useBorders(sets);
    evenOut();
    int[] rims = new int[height.length];
    int[] free = new int[height.length];
    for (int v = rim.nextSetBit(0); v >= 0; v = rim.nextSetBit(v + 1)) {
      rims[sets.find(v)]++;
      free[sets.find(v)] += beyond[v] > 0 ? 1 : 0;
    }
    BitSet hanging = new BitSet();
    for (int v = in.nextSetBit(0); v >= 0; v = in.nextSetBit(v + 1)) {
      int set = sets.find(v);
      hanging.set(v, free[set] > FREE * rims[set]);
      walled.set(v, free[set] < rims[set]);
    }
    work.advance(0.2);
    sweep(hanging, true, work.part(0.2, work.label()));
    sweep(hanging, false, work.part(0.2, work.label()));
    slide(work.part(0.2, work.label()));
    return now;
  }

  private void findRim() {
    for (int v = in.nextSetBit(0); v >= 0; v = in.nextSetBit(v + 1)) {
      double[] sum = new double[2];
      int[] n = new int[2];
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = fans.triangles()[i];
        int side = region.get(t) ? 0 : 1;
        for (int c = 3 * t; c < 3 * t + 3; c++) {
          sum[side] += height[tri[c]];
        }
        n[side] += 3;
      }
      if (n[1] > 0) {
        rim.set(v);
        beyond[v] = (float) (sum[1] / n[1] - sum[0] / n[0]);
      }
    }
  }

  /** Regions that end in nothing but borders are held there, and hang if they sag. */
  private void useBorders(DisjointSets sets) {
    BitSet held = new BitSet();
    for (int v = rim.nextSetBit(0); v >= 0; v = rim.nextSetBit(v + 1)) {
      held.set(sets.find(v));
    }
    for (int v = in.nextSetBit(0); v >= 0; v = in.nextSetBit(v + 1)) {
      if (!held.get(sets.find(v)) && isOnBorder(v)) {
        rim.set(v);
        beyond[v] = (float) (height[v] - ringMean(v));
      }
    }
  }

  private double ringMean(int v) {
    double sum = 0;
    int n = fans.count(v);
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      sum += height[tri[t]] + height[tri[t + 1]] + height[tri[t + 2]];
    }
    return sum / (3 * n);
  }

  /** Whether an edge at a vertex has a triangle of the region on one side and none on the other. */
  private boolean isOnBorder(int v) {
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int k = 0; k < 3; k++) {
        int u = tri[t + k];
        if (u != v && edgeTriangles(v, u) == 1) {
          return true;
        }
      }
    }
    return false;
  }

  private int edgeTriangles(int v, int u) {
    int out = 0;
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      out += tri[t] == u || tri[t + 1] == u || tri[t + 2] == u ? 1 : 0;
    }
    return out;
  }

  private void evenOut() {
    for (int round = 0; round < EVEN; round++) {
      float[] next = beyond.clone();
      for (int v = rim.nextSetBit(0); v >= 0; v = rim.nextSetBit(v + 1)) {
        double sum = beyond[v];
        int n = 1;
        for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
          int t = 3 * fans.triangles()[i];
          for (int k = 0; k < 3; k++) {
            if (rim.get(tri[t + k]) && tri[t + k] != v) {
              sum += beyond[tri[t + k]];
              n++;
            }
          }
        }
        next[v] = (float) (sum / n);
      }
      System.arraycopy(next, 0, beyond, 0, next.length);
    }
  }

  private double run(int a, int b) {
    return Math.hypot(flat[2 * a] - flat[2 * b], flat[2 * a + 1] - flat[2 * b + 1]);
  }

  /** From the rim inwards: regions that hang fall from their free rim, the others rise. */
  private void sweep(BitSet hanging, boolean falls, Work work) {
    int sign = falls ? -1 : 1;
    double[] least = new double[height.length];
    Arrays.fill(least, Double.POSITIVE_INFINITY);
    BitSet done = new BitSet(height.length);
    LeastFirst open = new LeastFirst();
    for (int v = rim.nextSetBit(0); v >= 0; v = rim.nextSetBit(v + 1)) {
      if (hanging.get(v) == falls && (!falls || beyond[v] > 0)) {
        least[v] = sign * height[v];
        open.add(least[v], v);
      }
    }
    for (int count = 0; !open.isEmpty(); ) {
      int v = open.take();
      if (done.get(v)) {
        continue;
      }
      if ((++count & OFTEN) == 0) {
        work.check();
      }
      done.set(v);
      now[v] = walled.get(v) ? Math.max(sign * least[v], lowest) : sign * least[v];
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = 3 * fans.triangles()[i];
        for (int k = 0; region.get(t / 3) && k < 3; k++) {
          int u = tri[t + k];
          int w = tri[t] + tri[t + 1] + tri[t + 2] - u - v;
          if (u != v && !done.get(u)) {
            double reached = done.get(w) ? across(u, v, w, least) : fromPoint(u, v, least);
            double value = Math.max(reached, sign * height[u]);
            if (value < least[u]) {
              least[u] = value;
              open.add(value, u);
            }
          }
        }
      }
    }
    work.advance(1);
  }

  private double fromPoint(int u, int v, double[] value) {
    return value[v] + slope * run(u, v);
  }

  /**
   * The least of what a vertex is reached with from the places of an edge, between whose ends the
   * value runs evenly: the front crosses the triangle in a straight line.
   */
  private double across(int u, int v, int w, double[] value) {
    double ends = Math.min(fromPoint(u, v, value), fromPoint(u, w, value));
    double length = run(v, w);
    if (!(length > 0)) {
      return ends;
    }
    // Along the edge, from v: where u stands and how far beside.
    double ex = (flat[2 * w] - flat[2 * v]) / length;
    double ey = (flat[2 * w + 1] - flat[2 * v + 1]) / length;
    double ux = flat[2 * u] - flat[2 * v];
    double uy = flat[2 * u + 1] - flat[2 * v + 1];
    double along = ux * ex + uy * ey;
    double beside = Math.abs(ux * ey - uy * ex);
    double rise = (value[w] - value[v]) / (length * slope);
    if (!(Math.abs(rise) < 1)) {
      return ends;
    }
    // Where the way leaves the edge at the angle whose cosine is the rise.
    double at = along - beside * rise / Math.sqrt(1 - rise * rise);
    if (at <= 0 || at >= length) {
      return ends;
    }
    return value[v] + slope * (rise * at + Math.hypot(along - at, beside));
  }

  /** What is beyond a rim that went down slides along, less and less. */
  private void slide(Work work) {
    int n = height.length;
    double[] far = new double[n];
    Arrays.fill(far, Double.POSITIVE_INFINITY);
    double[] by = new double[n];
    BitSet done = new BitSet(n);
    LeastFirst open = new LeastFirst();
    for (int v = rim.nextSetBit(0); v >= 0; v = rim.nextSetBit(v + 1)) {
      far[v] = 0;
      by[v] = height[v] - now[v];
      open.add(0, v);
    }
    for (int count = 0; !open.isEmpty(); ) {
      int v = open.take();
      if (done.get(v)) {
        continue;
      }
      if ((++count & OFTEN) == 0) {
        work.check();
      }
      done.set(v);
      double w = by[v] > 0 ? 1 - far[v] / (SLIDE * by[v]) : 0;
      if (w <= 0) {
        continue;
      }
      if (far[v] > 0) {
        now[v] = Math.max(height[v] - by[v] * w * w * (3 - 2 * w), Math.min(lowest, height[v]));
      }
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int t = 3 * fans.triangles()[i];
        for (int c = t; c < t + 3; c++) {
          double d = far[v] + Math.hypot(run(v, tri[c]), height[v] - height[tri[c]]);
          if (!in.get(tri[c]) && d < far[tri[c]]) {
            far[tri[c]] = d;
            by[tri[c]] = by[v];
            open.add(d, tri[c]);
          }
        }
      }
    }
    work.advance(1);
  }
}
