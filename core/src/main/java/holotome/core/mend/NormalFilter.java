package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;

/**
 * Takes noise off and leaves sharp edges: the triangles' normals are averaged with those around,
 * each by how near it is and how little it differs (bilateral normal filtering, local scheme:
 * Zheng, Fu, Au and Tai 2011), and the vertices are then moved along those normals until the
 * triangles lie by them (Sun, Rosin, Martin and Langbein 2007).
 *
 * <p>How much normals may differ and still be one surface follows from the noise and the size of
 * the triangles: noise of s tilts a triangle with edges of h by about s / h. No vertex moves
 * farther than {@link #FARTHEST} times the noise.
 *
 * <p>O(rounds x T) on all cores; 76 bytes a triangle and 28 a vertex. Triangles without area have
 * no normal: they follow.
 */
final class NormalFilter {
  /** Rounds of averaging normals. */
  private static final int NORMAL_ROUNDS = 10;

  /** Rounds of moving vertices. */
  private static final int VERTEX_ROUNDS = 15;

  /** No vertex moves farther than so many times the noise. */
  static final double FARTHEST = 5;

  /**
   * Difference of normals that counts by the noise in terms of edges; from trials on known noise.
   */
  private static final double TILT = 3.0;

  /** Bounds of that difference: below, rounding would be kept; above, right angles would go. */
  private static final double LEAST_TILT = 0.08;

  private static final double MOST_TILT = 0.55;
  private static final int GRAIN = 1 << 14;

  private final float[] xyz;
  private final int[] corners;
  private final VertexFans fans;
  private final float[] weight;
  private final double noise;
  private float[] normals;
  private float[] centres;
  private float[] areas;

  /**
   * @param weight vertices of weight 0 stay; null for none
   * @param noise in base coordinates, above zero
   */
  private NormalFilter(float[] xyz, int[] corners, VertexFans fans, float[] weight, double noise) {
    this.xyz = xyz;
    this.corners = corners;
    this.fans = fans;
    this.weight = weight;
    this.noise = noise;
  }

  /** The vertices' places without the noise. */
  static float[] run(
      float[] xyz, int[] corners, VertexFans fans, float[] weight, double noise, Work work) {
    NormalFilter f = new NormalFilter(xyz, corners, fans, weight, noise);
    f.triangles(work.part(0.04, ""));
    f.averageNormals(work.part(0.7, ""));
    return f.moved(work.part(0.26, ""));
  }

  private void triangles(Work work) {
    int n = corners.length / 3;
    normals = new float[3 * n];
    centres = new float[3 * n];
    areas = new float[n];
    Parallel.range(
        n,
        GRAIN,
        work,
        (from, to) -> {
          double[] cross = new double[3];
          for (int t = from; t < to; t++) {
            triangle(t, cross);
          }
        });
  }

  private void triangle(int t, double[] cross) {
    Measures.cross(xyz, corners, t, cross);
    double l = Vec.length(cross);
    areas[t] = (float) (l / 2);
    for (int k = 0; k < 3; k++) {
      normals[3 * t + k] = (float) (l > 0 ? cross[k] / l : 0);
    }
    centre(t, xyz);
  }

  private void averageNormals(Work work) {
    float[][] both = {normals, new float[normals.length]};
    for (int round = 0; round < NORMAL_ROUNDS; round++) {
      float[] from = both[round & 1];
      float[] to = both[1 - (round & 1)];
      Parallel.range(
          areas.length,
          GRAIN,
          work.part(1.0 / NORMAL_ROUNDS, ""),
          (first, last) -> {
            for (int t = first; t < last; t++) {
              average(t, from, to);
            }
          });
    }
    normals = both[NORMAL_ROUNDS & 1];
  }

  /** One triangle's normal from those that share a vertex with it. */
  private void average(int t, float[] from, float[] to) {
    double nx = from[3 * t];
    double ny = from[3 * t + 1];
    double nz = from[3 * t + 2];
    // Edges of an even triangle of this area; its neighbours' middles are about 0.58 of that away.
    double edge = Math.max(1e-30, Math.sqrt(2.309 * areas[t]));
    double tilt = Math.clamp(TILT * noise / edge, LEAST_TILT, MOST_TILT);
    double byTilt = 1 / (2 * tilt * tilt);
    double byPlace = 1 / (2 * edge * edge);
    double x = nx * areas[t];
    double y = ny * areas[t];
    double z = nz * areas[t];
    for (int k = 0; k < 3; k++) {
      int v = corners[3 * t + k];
      for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
        int u = fans.triangles()[i];
        if (u == t) {
          continue;
        }
        double dx = from[3 * u] - nx;
        double dy = from[3 * u + 1] - ny;
        double dz = from[3 * u + 2] - nz;
        double px = centres[3 * u] - centres[3 * t];
        double py = centres[3 * u + 1] - centres[3 * t + 1];
        double pz = centres[3 * u + 2] - centres[3 * t + 2];
        double w =
            areas[u]
                * Math.exp(
                    -(dx * dx + dy * dy + dz * dz) * byTilt
                        - (px * px + py * py + pz * pz) * byPlace);
        x += w * from[3 * u];
        y += w * from[3 * u + 1];
        z += w * from[3 * u + 2];
      }
    }
    double l = Math.sqrt(x * x + y * y + z * z);
    double by = l > 0 ? 1 / l : 0;
    to[3 * t] = (float) (x * by);
    to[3 * t + 1] = (float) (y * by);
    to[3 * t + 2] = (float) (z * by);
  }

  private float[] moved(Work work) {
    float[] now = xyz.clone();
    float[] next = new float[xyz.length];
    for (int round = 0; round < VERTEX_ROUNDS; round++) {
      float[] p = now;
      float[] q = next;
      Parallel.range(
          areas.length,
          GRAIN,
          work.part(0.3 / VERTEX_ROUNDS, ""),
          (from, to) -> {
            for (int t = from; t < to; t++) {
              centre(t, p);
            }
          });
      Parallel.range(
          xyz.length / 3,
          GRAIN,
          work.part(0.7 / VERTEX_ROUNDS, ""),
          (from, to) -> {
            for (int v = from; v < to; v++) {
              move(v, p, q);
            }
          });
      now = q;
      next = p;
    }
    return now;
  }

  private void centre(int t, float[] p) {
    int a = 3 * corners[3 * t];
    int b = 3 * corners[3 * t + 1];
    int c = 3 * corners[3 * t + 2];
    for (int k = 0; k < 3; k++) {
      centres[3 * t + k] = (p[a + k] + p[b + k] + p[c + k]) / 3;
    }
  }

  private void move(int v, float[] p, float[] q) {
    int first = fans.start()[v];
    int last = fans.start()[v + 1];
    boolean moves = weight == null || weight[v] > 0;
    double x = 0;
    double y = 0;
    double z = 0;
    for (int i = first; i < last && moves; i++) {
      int t = 3 * fans.triangles()[i];
      double off =
          normals[t] * (centres[t] - p[3 * v])
              + normals[t + 1] * (centres[t + 1] - p[3 * v + 1])
              + normals[t + 2] * (centres[t + 2] - p[3 * v + 2]);
      x += off * normals[t];
      y += off * normals[t + 1];
      z += off * normals[t + 2];
    }
    double by = last > first && moves ? 1.0 / (last - first) : 0;
    // Measured from where the vertex was at first: it is not to wander.
    double mx = p[3 * v] + by * x - xyz[3 * v];
    double my = p[3 * v + 1] + by * y - xyz[3 * v + 1];
    double mz = p[3 * v + 2] + by * z - xyz[3 * v + 2];
    double far = Math.sqrt(mx * mx + my * my + mz * mz);
    double most = FARTHEST * noise;
    double held = far > most ? most / far : 1;
    q[3 * v] = (float) (xyz[3 * v] + held * mx);
    q[3 * v + 1] = (float) (xyz[3 * v + 1] + held * my);
    q[3 * v + 2] = (float) (xyz[3 * v + 2] + held * mz);
  }
}
