package holotome.core.map;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;

/**
 * How much the Scan bends: above 0 on ridges, below in hollows; one over the radius on a ball. The
 * mean of both principal curvatures of {@link Bend}.
 */
final class CurvatureMap extends MapRule {
  private static final int GRAIN = 1 << 13;

  CurvatureMap() {
    super("curvature", Values.BEND);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    Mesh scan = source.scan();
    float[] bend =
        ofVertices(
            scan, source.normals(work), work.part(1, CoreWords.of("work.finding-neighbours")));
    return rays ->
        new Plain() {
          @Override
          float value(Hit hit) {
            int[] tri = scan.triangles();
            return bend[tri[3 * hit.triangle]] * (1 - hit.u - hit.v)
                + bend[tri[3 * hit.triangle + 1]] * hit.u
                + bend[tri[3 * hit.triangle + 2]] * hit.v;
          }
        };
  }

  private static float[] ofVertices(Mesh scan, float[] normals, Work work) {
    VertexFans fans = VertexFans.of(scan, work);
    float[] out = new float[scan.vertexCount()];
    int[] tri = scan.triangles();
    Parallel.range(
        out.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          Bend bend = new Bend();
          for (int v = from; v < to; v++) {
            bend.begin(normals, v);
            for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
              int t = 3 * fans.triangles()[i];
              int k = tri[t] == v ? 0 : tri[t + 1] == v ? 1 : 2;
              int a = tri[t + (k + 1) % 3];
              int b = tri[t + (k + 2) % 3];
              double angle = angle(scan.xyz(), v, a, b);
              bend.add(scan.xyz(), normals, v, a, angle);
              bend.add(scan.xyz(), normals, v, b, angle);
            }
            out[v] = (float) bend.mean();
          }
        });
    return out;
  }

  private static double angle(float[] p, int v, int a, int b) {
    double dot = 0;
    double aa = 0;
    double bb = 0;
    for (int k = 0; k < 3; k++) {
      double x = (double) p[3 * a + k] - p[3 * v + k];
      double y = (double) p[3 * b + k] - p[3 * v + k];
      dot += x * y;
      aa += x * x;
      bb += y * y;
    }
    double l = Math.sqrt(aa * bb);
    return l > 0 ? Math.acos(Math.clamp(dot / l, -1.0, 1.0)) : 0;
  }
}
