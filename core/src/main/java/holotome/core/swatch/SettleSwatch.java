package holotome.core.swatch;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Places;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.List;

/** Lets a laid Swatch follow the slope of the Scan. */
@Describes(
    id = "swatch.settle",
    title = "Settle",
    help =
        "Lets the Swatch follow the slope and the long waves of the Scan along its normal, in as few cells as that takes. What is shorter stays for the height map.",
    reads = {"scan", "cast", "frame"},
    writes = {"cast", "maps"})
public record SettleSwatch(
    @Parameter(
            help =
                "Waves longer than this are taken by the Swatch, shorter ones stay above and below it",
            preset = "300 mm")
        Length reach,
    @Parameter(
            help = "How far its cells may lie from that, for as few of them as possible",
            preset = "1 mm")
        Length tolerance,
    @Parameter(
            help = "So far above and below the laid rectangle the Scan counts; else half its size",
            optional = true)
        Length within)
    implements Step {
  /** Samples to the reach. */
  private static final double SAMPLES = 40;

  private static final int MOST_SAMPLES = 3000;
  private static final int MOST_CELLS = 512;

  public SettleSwatch {
    boolean isWithin = within == null || within.metres() > 0;
    if (!(reach.metres() > 0 && tolerance.metres() > 0 && isWithin)) {
      throw Failure.usage(CoreWords.of("settle.above-0"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return 60L * in.scan().triangleCount() + 100L * MOST_SAMPLES * MOST_SAMPLES / 4;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Rectangle r = in.cast() == null ? null : Rectangle.of(in.cast());
    if (r == null) {
      throw Failure.cannot(CoreWords.of("settle.nothing-laid"));
    }
    Work work = run.work();
    Places.check(in.scan());
    double wave = in.frame().toBaseLength(reach.metres());
    double side = Math.max(r.width(), r.height());
    double far = within == null ? side / 2 : in.frame().toBaseLength(within.metres());
    double beyond = Math.min(side, LocalPlanes.margin(wave));
    double spacing = Math.max(wave / SAMPLES, (side + 2 * beyond) / MOST_SAMPLES);
    // A Swatch smaller than the reach still is looked at closely.
    spacing = Math.min(spacing, side / SAMPLES);
    Bvh index = Bvh.of(in.scan(), work.part(0.4, CoreWords.of("work.indexing-the-surface")));
    HeightField heights =
        HeightField.of(
            index, r, spacing, beyond, far, work.part(0.2, CoreWords.of("lay-swatch.looking")));
    HeightField base = LocalPlanes.of(heights, wave, work.part(0.35, CoreWords.of("settle.base")));
    if (base == null) {
      throw Failure.cannot(CoreWords.of("lay-swatch.nothing-below"));
    }
    double off = in.frame().toBaseLength(tolerance.metres());
    int[] cells = cells(r, base, off, work.part(0.05, CoreWords.of("settle.cells")));
    Mesh grid = r.grid(cells[0], cells[1], base::at);
    Mesh shaded = grid.with(grid.attributes().with(normals(r, base, grid)), grid.materials());
    Mesh out =
        LaidRectangle.withApron(
            LaidRectangle.withLift(shaded, lift(base, grid)), LaidRectangle.apron(in.cast()));
    return Outcome.of(
        in.withCast(out).withMaps(null),
        notes(heights, base, cells, in, off).toArray(String[]::new));
  }

  /** The fewest cells, near to square, whose corners lie on the base and the rest near to it. */
  private static int[] cells(Rectangle r, HeightField base, double tolerance, Work work) {
    double longer = Math.max(r.width(), r.height());
    int n = 1;
    while (true) {
      int columns = (int) Math.max(1, Math.round(n * r.width() / longer));
      int rows = (int) Math.max(1, Math.round(n * r.height() / longer));
      work.check();
      if (n >= MOST_CELLS || off(base, columns, rows) <= tolerance) {
        work.advance(1);
        return new int[] {columns, rows};
      }
      n = n < 4 ? n + 1 : n + n / 2;
    }
  }

  /** How far the triangles of a grid lie from the base, at most, at its samples. */
  private static double off(HeightField base, int columns, int rows) {
    double[] corner = new double[(columns + 1) * (rows + 1)];
    for (int i = 0; i < corner.length; i++) {
      corner[i] =
          base.at((double) (i % (columns + 1)) / columns, (double) (i / (columns + 1)) / rows);
    }
    double most = 0;
    int across = base.columns() - 1 - 2 * base.margin();
    int up = base.rows() - 1 - 2 * base.margin();
    for (int j = 0; j <= up; j++) {
      for (int i = 0; i <= across; i++) {
        double x = (double) i / across * columns;
        double y = (double) j / up * rows;
        int a = Math.min(columns - 1, (int) x);
        int b = Math.min(rows - 1, (int) y);
        double fx = x - a;
        double fy = y - b;
        int k = b * (columns + 1) + a;
        double low = corner[k];
        double over = corner[k + columns + 2];
        // The cells' diagonals run from the lower left to the upper right.
        double z =
            fx >= fy
                ? low + fx * (corner[k + 1] - low) + fy * (over - corner[k + 1])
                : low
                    + fy * (corner[k + columns + 1] - low)
                    + fx * (over - corner[k + columns + 1]);
        int sample = (j + base.margin()) * base.columns() + i + base.margin();
        most = Math.max(most, Math.abs(z - base.heights()[sample]));
      }
    }
    return most;
  }

  private static float[] lift(HeightField base, Mesh grid) {
    float[] out = new float[grid.vertexCount()];
    for (int v = 0; v < out.length; v++) {
      out[v] = (float) base.at(grid.uv().coords()[2 * v], grid.uv().coords()[2 * v + 1]);
    }
    return out;
  }

  /** The base's own normals at the corners. */
  private static Attribute normals(Rectangle r, HeightField base, Mesh grid) {
    float[] uv = grid.uv().coords();
    float[] out = new float[3 * grid.vertexCount()];
    double du = base.step() / r.width();
    double dv = base.stepUp() / r.height();
    for (int v = 0; v < grid.vertexCount(); v++) {
      double slope =
          (base.at(uv[2 * v] + du, uv[2 * v + 1]) - base.at(uv[2 * v] - du, uv[2 * v + 1]))
              / (2 * base.step());
      double rise =
          (base.at(uv[2 * v], uv[2 * v + 1] + dv) - base.at(uv[2 * v], uv[2 * v + 1] - dv))
              / (2 * base.stepUp());
      double[] n =
          Vec.unit(Vec.sub(Vec.sub(r.normal(), Vec.mul(r.across(), slope)), Vec.mul(r.up(), rise)));
      for (int k = 0; k < 3; k++) {
        out[3 * v + k] = (float) n[k];
      }
    }
    return Attribute.of(
        "normal", Attribute.Kind.NORMAL, Attribute.Domain.CORNER, out, grid.triangles().clone());
  }

  private static List<String> notes(
      HeightField heights, HeightField base, int[] cells, Workpiece in, double tolerance) {
    double toWork = in.frame().toWork().scale();
    boolean isTrue = in.frame().trueSize();
    double low = 0;
    double high = 0;
    double lowest = Double.POSITIVE_INFINITY;
    double highest = Double.NEGATIVE_INFINITY;
    int missing = 0;
    int all = 0;
    for (int i = 0; i < heights.heights().length; i++) {
      if (heights.isWithin(i)) {
        all++;
        float b = base.heights()[i];
        lowest = Math.min(lowest, b);
        highest = Math.max(highest, b);
        float off = heights.heights()[i] - b;
        missing += Float.isNaN(off) ? 1 : 0;
        low = Math.min(low, Float.isNaN(off) ? 0 : off);
        high = Math.max(high, Float.isNaN(off) ? 0 : off);
      }
    }
    String made =
        CoreWords.of(
            "settle.settled",
            cells[0],
            cells[1],
            Length.format((highest - lowest) * toWork, isTrue));
    String left =
        CoreWords.of(
            "settle.left",
            Length.format(low * toWork, isTrue),
            Length.format(high * toWork, isTrue));
    List<String> out = new java.util.ArrayList<>(List.of(made, left));
    if (missing > 0) {
      out.add(CoreWords.of("settle.missing", 100.0 * missing / all));
    }
    if (Math.max(cells[0], cells[1]) >= MOST_CELLS && off(base, cells[0], cells[1]) > tolerance) {
      out.add(CoreWords.of("settle.coarse", MOST_CELLS));
    }
    return out;
  }
}
