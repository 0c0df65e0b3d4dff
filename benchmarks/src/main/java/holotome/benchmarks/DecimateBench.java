package holotome.benchmarks;

import holotome.core.attribute.Compaction;
import holotome.core.mesh.Mesh;
import holotome.core.reduce.Decimation;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;
import java.nio.FloatBuffer;
import java.nio.IntBuffer;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.util.meshoptimizer.MeshOptimizer;

/**
 * Decimation beside meshoptimizer (through LWJGL) and CGAL (Lindstrom and Turk's method) in the
 * same run: time and surface error.
 */
final class DecimateBench {
  private static final int SAMPLES = 400_000;

  private DecimateBench() {}

  static void run() throws Exception {
    Mesh dragon = Data.dragon();
    System.out.printf("dragon, %,d triangles after tidying%n%n", dragon.triangleCount());
    Table table =
        new Table(
            "to",
            "by",
            "triangles",
            "s",
            "times the reference",
            "RMS, % of diagonal",
            "largest, %");
    for (double share : new double[] {0.1, 0.01}) {
      int target = (int) (dragon.triangleCount() * share);
      Mesh[] out = new Mesh[1];
      double reference = Timing.median(1, 3, () -> out[0] = reference(dragon, target));
      row(table, share, "meshoptimizer", out[0], dragon, reference, 1);
      if (Reference.isThere()) {
        Reference exact = Reference.of("decimate", dragon, target);
        row(
            table,
            share,
            "CGAL",
            exact.mesh(),
            dragon,
            exact.seconds(),
            exact.seconds() / reference);
      }
      double ours =
          Timing.median(
              2,
              3,
              () ->
                  out[0] =
                      Decimation.run(dragon, target, Double.POSITIVE_INFINITY, Work.unwatched()));
      row(table, share, "Holotome", out[0], dragon, ours, ours / reference);
    }
    table.print();
  }

  private static void row(
      Table table, double share, String by, Mesh light, Mesh full, double s, double ratio) {
    double percent = 100 / full.bounds().diagonal();
    SurfaceDistance d =
        SurfaceDistance.of(light, full, SAMPLES, Work.unwatched())
            .worse(SurfaceDistance.of(full, light, SAMPLES, Work.unwatched()));
    table.row(
        (int) Math.rint(100 * share) + " %",
        by,
        String.format("%,d", light.triangleCount()),
        s,
        ratio,
        String.format("%.4f", d.rms() * percent),
        String.format("%.3f", d.max() * percent));
  }

  /** meshoptimizer's simplifier on positions and triangles, one thread. */
  private static Mesh reference(Mesh mesh, int target) {
    IntBuffer indices = MemoryUtil.memAllocInt(mesh.triangles().length);
    IntBuffer out = MemoryUtil.memAllocInt(mesh.triangles().length);
    FloatBuffer xyz = MemoryUtil.memAllocFloat(mesh.xyz().length);
    try {
      indices.put(mesh.triangles()).flip();
      xyz.put(mesh.xyz()).flip();
      long n =
          MeshOptimizer.meshopt_simplify(
              out, indices, xyz, mesh.vertexCount(), 12, 3L * target, 1f, 0, null);
      int[] corners = new int[(int) n];
      out.get(corners);
      int[] map = Compaction.of(corners, mesh.vertexCount());
      float[] kept = new float[3 * map[map.length - 1]];
      for (int v = 0; v < map.length - 1; v++) {
        if (map[v] >= 0) {
          System.arraycopy(mesh.xyz(), 3 * v, kept, 3 * map[v], 3);
        }
      }
      return new Mesh(kept, corners);
    } finally {
      MemoryUtil.memFree(indices);
      MemoryUtil.memFree(out);
      MemoryUtil.memFree(xyz);
    }
  }
}
