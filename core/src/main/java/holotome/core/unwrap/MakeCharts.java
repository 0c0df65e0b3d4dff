package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/** Gives the Cast texture coordinates. */
@Describes(
    id = "unwrap.charts",
    title = "Charts",
    help =
        "Cuts the Cast into flat charts of low stretch and packs them into the texture without overlap.",
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
        int gutter)
    implements Step {

  @Override
  public Outcome apply(Workpiece in, Run run) {
    if (in.cast() == null) {
      throw Failure.cannot(CoreWords.of("make-charts.there-is-no-cast-to"));
    }
    Work work = run.work();
    Mesh cast = in.cast();
    Charts charts = ChartMaker.make(cast, work.part(0.7, CoreWords.of("work.cutting-charts")));
    Packing packing =
        Packing.pack(charts, size, gutter, work.part(0.3, CoreWords.of("work.packing-charts")));
    Mesh out = cast.withUv(packing.uv());
    Stretch stretch = Stretch.of(out);
    return Outcome.of(
        in.withCast(out),
        CoreWords.of("make-charts.fill", charts.count(), 100 * packing.fill()),
        CoreWords.of("make-charts.stretch", stretch.mean(), stretch.p95()));
  }
}
