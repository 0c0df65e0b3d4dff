package holotome.benchmarks;

import holotome.core.datum.Level;
import holotome.core.datum.ScaleBar;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.measure.Hull;
import holotome.core.measure.Patch;
import holotome.core.measure.SurfacePath;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.section.SectionPlane;
import holotome.core.section.Silhouette;
import holotome.core.section.Slicer;
import holotome.core.step.Run;
import holotome.core.task.Work;

/** What Datum computes, beside touching each corner of the mesh once. */
final class DatumBench {
  private DatumBench() {}

  static void run() throws Exception {
    Table table = new Table("what", "triangles", "s", "times touching the corners");
    for (int n : new int[] {1_200_000, 10_000_000}) {
      measure(table, Data.demo(n));
    }
    table.print();
  }

  private static void measure(Table table, Mesh m) throws Exception {
    Work w = Work.unwatched();
    Box b = m.bounds();
    SectionPlane middle = SectionPlane.of(b.centre(), Vec.of(0, 0, 1));
    SectionPlane lowest = SectionPlane.of(b.min(), Vec.of(0, 0, 1));
    double touch = Timing.median(1, 3, () -> touch(m));
    double[] p = Vec.at(m.xyz(), 1000);
    double[] q = Vec.at(m.xyz(), m.vertexCount() / 20);
    row(table, m, touch, "one section", () -> Slicer.cut(m, Similarity.IDENTITY, middle, w));
    row(
        table,
        m,
        touch,
        "200 sections",
        () -> Slicer.stack(m, Similarity.IDENTITY, lowest, b.height() / 200, 200, w));
    row(table, m, touch, "outline", () -> Silhouette.of(m, Similarity.IDENTITY, middle, 2048, w));
    row(table, m, touch, "scale bar found", () -> ScaleBar.find(m, w));
    row(table, m, touch, "hull", () -> Hull.of(m.xyz()));
    row(table, m, touch, "way along the surface", () -> SurfacePath.between(m, p, q, w));
    row(
        table,
        m,
        touch,
        "plane of a region",
        () -> Patch.around(m, p, 0.02 * b.diagonal(), w).plane());
    row(
        table,
        m,
        touch,
        "level by the ground",
        () ->
            new Level(Level.By.LARGEST, null, null)
                .apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched()));
  }

  private static void row(
      Table table, Mesh m, double touch, String name, java.util.concurrent.Callable<?> what)
      throws Exception {
    double s = Timing.median(1, 3, what);
    table.row(name, String.format("%,d", m.triangleCount()), s, s / touch);
  }

  private static double touch(Mesh mesh) {
    double sum = 0;
    for (int v : mesh.triangles()) {
      sum += mesh.xyz()[3 * v];
    }
    return sum;
  }
}
