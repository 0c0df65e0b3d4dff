package holotome.benchmarks;

import holotome.core.frame.Frame;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimation;
import holotome.core.reduce.Remeshing;
import holotome.core.reduce.Resurface;
import holotome.core.reduce.Role;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Even triangles and new surfaces, beside CGAL's in the same run. */
final class RemeshBench {
  private static final int SAMPLES = 400_000;
  private static final double SHARP = 60;

  /** Triangles in pictures: few enough to be seen. */
  private static final int FEW = 60_000;

  /** The reference's new surfaces take minutes for more triangles than this. */
  private static final int MOST = 60_000;

  private RemeshBench() {}

  /**
   * @param which of even, surfaces and pictures; empty for all
   */
  static void run(List<String> which) throws Exception {
    if (which.isEmpty() || which.contains("even")) {
      even();
    }
    if (which.isEmpty() || which.contains("surfaces")) {
      surfaces();
    }
    if (which.isEmpty() || which.contains("pictures")) {
      pictures();
    }
  }

  /** The demo scan of a million made of 60,000 triangles, by both, even and decimated. */
  private static void pictures() throws Exception {
    Mesh scan = Data.demo(1_000_000);
    Mesh tidy = Tidy.tidy(scan, new ArrayList<>(), Work.unwatched());
    Mesh bare = new Mesh(tidy.xyz(), tidy.triangles());
    Shot.edges(Remeshing.even(bare, FEW, SHARP, Work.unwatched()), "even");
    Shot.edges(Decimation.run(bare, FEW, Double.POSITIVE_INFINITY, Work.unwatched()), "decimated");
    if (Reference.isThere()) {
      double side = Math.sqrt(4 / Math.sqrt(3) * Measures.area(bare) / FEW);
      Shot.edges(Reference.of("remesh", bare, side).mesh(), "even-reference");
      Shot.edges(Reference.of("decimate", bare, FEW).mesh(), "decimated-reference");
    }
  }

  private static void even() throws Exception {
    Mesh dragon = Data.dragon();
    Table even =
        new Table(
            "even triangles",
            "by",
            "triangles",
            "s",
            "times the reference",
            "median smallest angle",
            "RMS, %",
            "largest, %");
    for (int count : new int[] {200_000, 50_000}) {
      double side = Math.sqrt(4 / Math.sqrt(3) * Measures.area(dragon) / count);
      double seconds = Double.NaN;
      if (Reference.isThere()) {
        Reference r = Reference.of("remesh", dragon, side);
        seconds = r.seconds();
        evenRow(even, "CGAL", r.mesh(), dragon, seconds, 1);
      }
      Mesh[] out = new Mesh[1];
      double ours =
          Timing.median(
              3, 3, () -> out[0] = Remeshing.even(dragon, count, SHARP, Work.unwatched()));
      evenRow(even, "Holotome", out[0], dragon, ours, ours / seconds);
    }
    even.print();
  }

  private static void surfaces() throws Exception {
    Table surface =
        new Table(
            "new surface", "by", "triangles", "s", "times the reference", "RMS, %", "largest, %");
    surface(surface, "dragon-res4.ply", 20_000);
    surface(surface, "dragon-res3.ply", 50_000);
    surface(surface, "dragon-res2.ply", 150_000);
    surface(surface, "dragon.ply", 700_000);
    surface.print();
  }

  private static void surface(Table table, String name, int count) throws Exception {
    Mesh scan = Data.scan(name);
    double step = Math.sqrt(2.85 * Measures.area(scan) / count);
    double seconds = Double.NaN;
    if (Reference.isThere() && scan.triangleCount() <= MOST) {
      Reference r = Reference.of("resurface", scan, step);
      seconds = r.seconds();
      row(table, name, "CGAL", r.mesh(), scan, seconds, 1);
    }
    Resurface how =
        new Resurface(new Length(step), null, 4, Resurface.Beyond.CLOSED, null, Role.CAST);
    Mesh[] out = new Mesh[1];
    double ours =
        Timing.median(
            1,
            3,
            () ->
                out[0] = how.apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched()).work().cast());
    row(table, name, "Holotome", out[0], scan, ours, ours / seconds);
  }

  private static SurfaceDistance off(Mesh made, Mesh full) {
    return SurfaceDistance.of(made, full, SAMPLES, Work.unwatched())
        .worse(SurfaceDistance.of(full, made, SAMPLES, Work.unwatched()));
  }

  private static void evenRow(
      Table table, String by, Mesh made, Mesh full, double s, double ratio) {
    double percent = 100 / full.bounds().diagonal();
    SurfaceDistance d = off(made, full);
    table.row(
        "dragon",
        by,
        String.format("%,d", made.triangleCount()),
        s,
        Double.isNaN(ratio) ? "–" : ratio,
        String.format("%.1f°", smallestAngle(made)),
        String.format("%.4f", d.rms() * percent),
        String.format("%.3f", d.max() * percent));
  }

  private static void row(
      Table table, String name, String by, Mesh made, Mesh full, double s, double ratio) {
    double percent = 100 / full.bounds().diagonal();
    SurfaceDistance d = off(made, full);
    table.row(
        name,
        by,
        String.format("%,d", made.triangleCount()),
        s,
        Double.isNaN(ratio) ? "–" : ratio,
        String.format("%.4f", d.rms() * percent),
        String.format("%.3f", d.max() * percent));
  }

  /** The median over all triangles of their smallest angle, in degrees. */
  private static double smallestAngle(Mesh m) {
    double[] angles = new double[m.triangleCount()];
    double[] side = new double[3];
    for (int t = 0; t < angles.length; t++) {
      for (int k = 0; k < 3; k++) {
        int a = 3 * m.triangles()[3 * t + k];
        int b = 3 * m.triangles()[3 * t + (k + 1) % 3];
        double x = m.xyz()[a] - m.xyz()[b];
        double y = m.xyz()[a + 1] - m.xyz()[b + 1];
        double z = m.xyz()[a + 2] - m.xyz()[b + 2];
        side[k] = Math.sqrt(x * x + y * y + z * z);
      }
      Arrays.sort(side);
      double c =
          (side[1] * side[1] + side[2] * side[2] - side[0] * side[0]) / (2 * side[1] * side[2]);
      angles[t] = Math.toDegrees(Math.acos(Math.clamp(c, -1.0, 1.0)));
    }
    Arrays.sort(angles);
    return angles[angles.length / 2];
  }
}
