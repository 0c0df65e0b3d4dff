package holotome.core.reduce;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;

/**
 * How long edges may be where a surface is curved so that they stay within a distance of it: an
 * edge of length l over a curvature k leaves it by e where l² = 6 e / k - 3 e² (Dunyach and others,
 * "Adaptive remeshing for real-time mesh deformation", 2013), longer ones only farther off.
 *
 * <p>The curvature is that of a mesh whose triangles are about as small as any are to be: how much
 * the normals of neighbours differ for how far they are apart, the largest around each vertex, and
 * the mean of that and its neighbours'. O(T).
 */
final class CurvatureLengths {
  private static final int GRAIN = 1 << 12;

  /** From edge to edge the lengths grow by no more than this part of the way between. */
  private static final float GROWTH = 0.4f;

  private static final int SWEEPS = 8;

  private static final int CORRECTIONS = 3;

  private final Mesh mesh;
  private final VertexFans fans;
  private final float[] curvature;
  private final double[] area;
  private final double finest;
  private final double longest;

  /**
   * Measures.
   *
   * @param mesh of even triangles
   * @param lines three bits a triangle; null for none. Across them nothing is curved: it is sharp
   * @param finest no edge is to be shorter
   * @param longest nor longer
   */
  CurvatureLengths(Mesh mesh, byte[] lines, double finest, double longest, Work work) {
    this.mesh = mesh;
    this.finest = finest;
    this.longest = longest;
    fans = VertexFans.of(mesh, work.part(0.3, CoreWords.of("work.finding-neighbours")));
    int n = mesh.vertexCount();
    float[] normals = Measures.vertexNormals(mesh);
    boolean[] sharp = onLines(lines);
    float[] most = new float[n];
    area = new double[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.5, CoreWords.of("work.finding-neighbours")),
        (from, to) -> {
          double[] cross = new double[3];
          for (int v = from; v < to; v++) {
            most[v] = sharp[v] ? 0 : largest(v, normals, sharp);
            for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
              Measures.cross(mesh.xyz(), mesh.triangles(), fans.triangles()[i], cross);
              area[v] +=
                  Math.sqrt(cross[0] * cross[0] + cross[1] * cross[1] + cross[2] * cross[2]) / 6;
            }
          }
        });
    curvature = new float[n];
    each((v, u, apart) -> curvature[v] += most[u], v -> curvature[v] += most[v]);
    for (int v = 0; v < n; v++) {
      curvature[v] /= 2 * (fans.start()[v + 1] - fans.start()[v]) + 1;
    }
    work.advance(0.2);
  }

  private boolean[] onLines(byte[] lines) {
    boolean[] out = new boolean[mesh.vertexCount()];
    for (int h = 0; lines != null && h < mesh.triangles().length; h++) {
      if ((lines[h / 3] >> h % 3 & 1) != 0) {
        out[mesh.triangles()[h]] = true;
        out[mesh.triangles()[Adjacency.next(h)]] = true;
      }
    }
    return out;
  }

  private interface Neighbour {
    void at(int v, int u, float apart);
  }

  /** Goes through all vertices and, for each triangle around one, its other two corners. */
  private void each(Neighbour body, java.util.function.IntConsumer self) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    Parallel.range(
        mesh.vertexCount(),
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            self.accept(v);
            for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
              int t = 3 * fans.triangles()[i];
              for (int k = t; k < t + 3; k++) {
                if (tri[k] != v) {
                  body.at(v, tri[k], distance(p, 3 * v, 3 * tri[k]));
                }
              }
            }
          }
        });
  }

  private static float distance(float[] p, int a, int b) {
    float dx = p[a] - p[b];
    float dy = p[a + 1] - p[b + 1];
    float dz = p[a + 2] - p[b + 2];
    return (float) Math.sqrt(dx * dx + dy * dy + dz * dz);
  }

  private float largest(int v, float[] normals, boolean[] sharp) {
    int[] tri = mesh.triangles();
    float out = 0;
    for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
      int t = 3 * fans.triangles()[i];
      for (int k = t; k < t + 3; k++) {
        float apart = distance(mesh.xyz(), 3 * v, 3 * tri[k]);
        if (apart > 0 && !sharp[tri[k]]) {
          out = Math.max(out, distance(normals, 3 * v, 3 * tri[k]) / apart);
        }
      }
    }
    return out;
  }

  /** The lengths at each vertex of the mesh for a distance to be kept. */
  float[] within(double e) {
    return graded(plain(e));
  }

  private float[] plain(double e) {
    float[] out = new float[curvature.length];
    for (int v = 0; v < out.length; v++) {
      double square = curvature[v] > 0 ? 6 * e / curvature[v] - 3 * e * e : Double.MAX_VALUE;
      out[v] = (float) Math.clamp(Math.sqrt(Math.max(0, square)), finest, longest);
    }
    return out;
  }

  /** The same, growing slowly. */
  float[] graded(float[] lengths) {
    float[] now = lengths;
    for (int i = 0; i < SWEEPS; i++) {
      float[] before = now;
      float[] next = before.clone();
      each(
          (v, u, apart) -> next[v] = Math.min(next[v], before[u] + GROWTH * apart),
          v -> next[v] = before[v]);
      now = next;
    }
    return now;
  }

  /** About how many triangles have edges of these lengths. */
  double triangles(float[] lengths) {
    double sum = 0;
    for (int v = 0; v < lengths.length; v++) {
      sum += area[v] / ((double) lengths[v] * lengths[v]);
    }
    return sum * 4 / Math.sqrt(3);
  }

  /** The lengths that lead to about so many triangles; all are as far from the surface. */
  float[] forCount(double count) {
    double aim = count;
    float[] out = {};
    // That they grow slowly makes more of them: how many more is much the same next time.
    for (int i = 0; i < CORRECTIONS; i++) {
      out = graded(plain(distanceFor(aim)));
      aim *= count / triangles(out);
    }
    return out;
  }

  private double distanceFor(double count) {
    double least = 1e-7 * longest;
    double most = longest;
    for (int i = 0; i < 24; i++) {
      double e = Math.sqrt(least * most);
      if (triangles(plain(e)) > count) {
        least = e;
      } else {
        most = e;
      }
    }
    return most;
  }
}
