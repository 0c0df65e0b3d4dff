package holotome.core.trim;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Tells what stands on a ground from the ground itself, along the seam where they meet.
 *
 * <p>What rises out of a band around the ground stands on it. From there the surface is followed
 * down into the band as long as it does not face up as the ground does: to the crease at the foot.
 * Directions are averaged over a patch as wide as half the ground's roughness first, so that grain
 * and noise do not count; the seam is then evened out. Only the band near what stands is looked at
 * closely. O(T), and some ten passes over that part.
 */
final class GroundSeam {
  private static final int GRAIN = 1 << 14;

  /** Steeper than this against the ground, the surface belongs to what stands on it. */
  private static final double STEEP = Math.cos(Math.toRadians(42));

  /** Joints and pits lie lower than the ground's mean by as many times its roughness. */
  private static final double SUNK = 0.6;

  private static final int MOST_PASSES = 80;
  private static final int EVENED = 3;

  private final Mesh mesh;
  private final GroundSurface surface;
  private final double[] up;
  private final double rms;
  private final double band;

  GroundSeam(Mesh mesh, GroundSurface surface, double[] up, double rms, double margin) {
    this.mesh = mesh;
    this.surface = surface;
    this.up = up;
    this.rms = rms;
    this.band = Math.max(4 * rms, 2 * margin);
  }

  /** The triangles that stand on the ground. */
  BitSet standing(Work work) {
    int n = mesh.triangleCount();
    float[] above = new float[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.2, CoreWords.of("work.following-the-ground")),
        (from, to) -> {
          for (int t = from; t < to; t++) {
            double[] c = centre(mesh, t);
            above[t] = (float) surface.above(c[0], c[1], c[2]);
          }
        });
    BitSet high = new BitSet(n);
    for (int t = 0; t < n; t++) {
      high.set(t, above[t] > band);
    }
    int[] near = near(high, above);
    BitSet nearby = new BitSet(n);
    for (int t : near) {
      nearby.set(t);
    }
    Mesh part = Submesh.of(mesh, nearby, work.part(0.1, CoreWords.of("work.following-the-ground")));
    BitSet kept =
        flood(part, near, high, above, work.part(0.6, CoreWords.of("work.following-the-ground")));
    BitSet out = high;
    for (int i = kept.nextSetBit(0); i >= 0; i = kept.nextSetBit(i + 1)) {
      out.set(near[i]);
    }
    return out;
  }

  private static double[] centre(Mesh m, int t) {
    float[] p = m.xyz();
    int a = 3 * m.triangles()[3 * t];
    int b = 3 * m.triangles()[3 * t + 1];
    int c = 3 * m.triangles()[3 * t + 2];
    return new double[] {
      ((double) p[a] + p[b] + p[c]) / 3,
      ((double) p[a + 1] + p[b + 1] + p[c + 1]) / 3,
      ((double) p[a + 2] + p[b + 2] + p[c + 2]) / 3
    };
  }

  /** Triangles in or a little above the band, over cells where something stands or next to them. */
  private int[] near(BitSet high, float[] above) {
    boolean[] stands = new boolean[surface.cells()];
    for (int t = high.nextSetBit(0); t >= 0; t = high.nextSetBit(t + 1)) {
      double[] c = centre(mesh, t);
      if (above[t] < 4 * band) {
        stands[surface.cellOf(c[0], c[1], c[2])] = true;
      }
    }
    boolean[] wide = surface.widened(surface.widened(stands));
    int n = mesh.triangleCount();
    int[] out = new int[1024];
    int count = 0;
    for (int t = 0; t < n; t++) {
      if (above[t] <= 1.5 * band && above[t] >= -2 * band) {
        double[] c = centre(mesh, t);
        if (wide[surface.cellOf(c[0], c[1], c[2])]) {
          if (count == out.length) {
            out = Arrays.copyOf(out, 2 * count);
          }
          out[count++] = t;
        }
      }
    }
    return Arrays.copyOf(out, count);
  }

  /** Which triangles of the part belong to what stands. */
  private BitSet flood(Mesh part, int[] near, BitSet high, float[] above, Work work) {
    int n = near.length;
    float[] facing = facing(part, work.part(0.6, CoreWords.of("work.following-the-ground")));
    int[] twin =
        Adjacency.of(part, work.part(0.2, CoreWords.of("work.following-the-ground"))).twin();
    BitSet in = new BitSet(n);
    int[] queue = new int[Math.max(16, n)];
    int end = 0;
    for (int i = 0; i < n; i++) {
      if (high.get(near[i])) {
        in.set(i);
        queue[end++] = i;
      }
    }
    for (int at = 0; at < end; at++) {
      int t = queue[at];
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        int g = twin[h] < 0 ? -1 : twin[h] / 3;
        if (g >= 0 && !in.get(g) && facing[g] < STEEP && above[near[g]] > -SUNK * rms) {
          in.set(g);
          queue[end++] = g;
        }
      }
    }
    return evened(part, in, high, near, work.part(0.2, CoreWords.of("work.following-the-ground")));
  }

  /** How far each triangle faces up, 1 to -1, over a patch around it. */
  private float[] facing(Mesh part, Work work) {
    int n = part.triangleCount();
    int[] tri = part.triangles();
    double area = Measures.area(part);
    double edge = Math.sqrt(4 / Math.sqrt(3) * area / Math.max(1, n));
    // Averaging over neighbours k times reaches about as far as sqrt(k) edges.
    int passes = (int) Math.clamp(Math.ceil(Math.pow(0.5 * rms / edge, 2)), 1, MOST_PASSES);
    float[] normals = new float[3 * n];
    for (int t = 0; t < n; t++) {
      double[] c = Measures.cross(part, t);
      for (int k = 0; k < 3; k++) {
        normals[3 * t + k] = (float) c[k];
      }
    }
    float[] at = new float[3 * part.vertexCount()];
    for (int pass = 0; pass < passes; pass++) {
      work.check();
      Arrays.fill(at, 0);
      for (int c = 0; c < tri.length; c++) {
        int v = 3 * tri[c];
        int t = 3 * (c / 3);
        at[v] += normals[t];
        at[v + 1] += normals[t + 1];
        at[v + 2] += normals[t + 2];
      }
      boolean last = pass + 1 == passes;
      Parallel.range(
          n,
          GRAIN,
          work.part(1.0 / passes, CoreWords.of("work.following-the-ground")),
          (from, to) -> {
            for (int t = from; t < to; t++) {
              for (int k = 0; k < 3; k++) {
                float sum = 0;
                for (int c = 0; c < 3; c++) {
                  sum += at[3 * tri[3 * t + c] + k];
                }
                // A corner has about six triangles: the sum of 18 stays about one triangle's size.
                normals[3 * t + k] = last ? sum : sum / 18;
              }
            }
          });
    }
    float[] out = new float[n];
    for (int t = 0; t < n; t++) {
      double[] v = Vec.at(normals, t);
      double l = Vec.length(v);
      out[t] = l > 0 ? (float) (Vec.dot(v, up) / l) : 1;
    }
    return out;
  }

  /** Takes teeth and specks off the seam: a triangle goes with most of its surroundings. */
  private static BitSet evened(Mesh part, BitSet in, BitSet high, int[] near, Work work) {
    int[] tri = part.triangles();
    int[] all = new int[part.vertexCount()];
    for (int c : tri) {
      all[c]++;
    }
    BitSet set = in;
    for (int pass = 0; pass < EVENED; pass++) {
      work.check();
      int[] count = new int[all.length];
      for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
        for (int k = 0; k < 3; k++) {
          count[tri[3 * t + k]]++;
        }
      }
      BitSet next = new BitSet();
      for (int t = 0; t < near.length; t++) {
        double share = 0;
        for (int k = 0; k < 3; k++) {
          share += (double) count[tri[3 * t + k]] / all[tri[3 * t + k]];
        }
        boolean was = set.get(t);
        next.set(t, high.get(near[t]) || share > 1.5 + 1e-9 || share > 1.5 - 1e-9 && was);
      }
      set = next;
    }
    return set;
  }
}
