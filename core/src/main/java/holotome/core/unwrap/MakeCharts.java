package holotome.core.unwrap;

import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/** Gives the Cast texture coordinates. */
@Describes(
    id = "unwrap.charts",
    title = "Charts",
    help =
        "Cuts the Cast into few flat charts of low stretch, along its creases where it can, and packs them into the texture without overlap.",
    reads = {"cast"},
    writes = {"cast", "maps"})
public record MakeCharts(
    @Parameter(
            help = "The picture's width and height the charts are packed for",
            unit = "px",
            min = 64,
            max = 16384,
            preset = "2048")
        int size,
    @Parameter(help = "Space between charts", unit = "px", min = 1, max = 64, preset = "4")
        int gutter,
    @Parameter(
            help =
                "How much a chart may be stretched, by itself: the mean of lengths on the surface beside those in the texture, 1 for not at all",
            min = 1.001,
            max = 3,
            preset = "1.05")
        double stretch,
    @Parameter(
            help =
                "How many charts there may be; the stretch is let go beyond what is allowed to come down to so many where it can. 0 for as few as the stretch allows",
            min = 0,
            max = 100000,
            preset = "0")
        int charts,
    @Parameter(
            help = "Every edge that turns by more is a seam; 180 for none but where charts end",
            unit = "°",
            min = 1,
            max = 180,
            preset = "180")
        double crease,
    @Parameter(
            help =
                "Whether charts of turned bodies become straight strips, where the stretch allows it",
            preset = "false")
        boolean strips)
    implements Step {
  /** Bytes a triangle: 10 million were seen to do in a heap of 8 GB, some 4 GB of it in use. */
  private static final long EACH = 450;

  /** As they lie flattest. */
  public MakeCharts(int size, int gutter, double stretch, int charts, double crease) {
    this(size, gutter, stretch, charts, crease, false);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Work work = run.work();
    Mesh cast = CastAtHand.of(in);
    Charts made =
        ChartMaker.make(
            cast,
            new ChartRule(stretch, charts, crease, strips),
            work.part(0.7, CoreWords.of("work.cutting-charts")));
    Packing packing =
        Packing.pack(made, size, gutter, work.part(0.3, CoreWords.of("work.packing-charts")));
    Mesh out = LaidOver.without(cast).withUv(packing.uv());
    Stretch stretch = Stretch.of(out);
    return Outcome.of(
        in.withCast(out),
        CoreWords.of("make-charts.fill", made.count(), 100 * packing.fill()),
        CoreWords.of("make-charts.stretch", stretch.mean(), stretch.p95()));
  }

  @Override
  public long memory(Workpiece in) {
    long triangles = in.cast() == null ? 0 : in.cast().triangleCount();
    return EACH * triangles + 2L * size * size;
  }
}
