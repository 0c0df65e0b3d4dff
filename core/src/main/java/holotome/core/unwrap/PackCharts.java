package holotome.core.unwrap;

import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Set;

/** Lays the charts of the Cast into the texture anew. */
@Describes(
    id = "unwrap.pack",
    title = "Pack",
    help =
        "Lays the charts that the Cast has into the texture anew: by their true outlines, turned as they fit, into each other's holes. Those laid over another stay on it.",
    reads = {"cast", "frame"},
    writes = {"cast", "maps"})
public record PackCharts(
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
                "Whether all charts get the same pixels to a metre; otherwise they keep the sizes that they have beside one another",
            preset = "true")
        boolean even,
    @Parameter(
            help =
                "Charts that stay where they are, each by a point of it, x y z in working space, one after the other; the others get their pixels to a metre where that fits",
            optional = true)
        double[] stay)
    implements Step {

  /** Of all charts. */
  public PackCharts(int size, int gutter, boolean even) {
    this(size, gutter, even, null);
  }

  public PackCharts {
    if (stay != null && (stay.length == 0 || stay.length % 3 != 0)) {
      throw Failure.usage(CoreWords.of("space.three-numbers"));
    }
  }

  /** Where the points are is asked only where there are some. */
  @Override
  public Set<Part<?>> reads() {
    return stay == null ? Set.of(Part.CAST) : Set.of(Part.CAST, Part.FRAME);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = in.cast();
    if (cast == null) {
      throw Failure.cannot(CoreWords.of("make-charts.there-is-no-cast-to"));
    }
    if (cast.uv() == null) {
      throw Failure.cannot(CoreWords.of("pack-charts.no-charts"));
    }
    Work finds = run.work().part(0.1, CoreWords.of("work.finding-charts"));
    BitSet kept =
        stay == null ? new BitSet() : ChartPoints.of(cast, in.frame(), finds).triangles(stay);
    GivenCharts given = GivenCharts.of(cast, even, kept, finds);
    Work packs = run.work().part(0.9, CoreWords.of("work.packing-charts"));
    if (given.charts().count() == 0) {
      throw Failure.cannot(CoreWords.of("pack-charts.all-stay"));
    }
    Packing packing = Packing.pack(given.charts(), given.staying(), size, gutter, packs);
    Mesh out = cast.withUv(packing.uv());
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("make-charts.fill", given.charts().count(), 100 * packing.fill()));
    Stretch stretch = Stretch.of(out);
    notes.add(CoreWords.of("make-charts.stretch", stretch.mean(), stretch.p95()));
    if (given.over() > 0) {
      notes.add(CoreWords.count("pack-charts.over", given.over()));
    }
    int staying = given.staying().charts().size();
    if (staying > 0) {
      notes.add(CoreWords.count("pack-charts.stay", staying));
    }
    if (given.laid() > 0) {
      notes.add(CoreWords.count("pack-charts.laid", given.laid()));
    }
    if (given.flat() > 0) {
      notes.add(CoreWords.count("pack-charts.flat", given.flat()));
    }
    if (cast.hasTexture()) {
      out =
          out.with(
              out.attributes(),
              out.materials().stream().map(m -> new Material(m.name(), m.argb(), null)).toList());
      notes.add(CoreWords.of("pack-charts.pictures"));
    }
    return new Outcome(in.withCast(out), notes);
  }

  @Override
  public long memory(Workpiece in) {
    long triangles = in.cast() == null ? 0 : in.cast().triangleCount();
    return 200L * triangles + 2L * size * size;
  }
}
