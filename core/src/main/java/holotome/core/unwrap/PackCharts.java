package holotome.core.unwrap;

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
        double[] stay,
    @Parameter(
            help =
                "Charts that keep the size that they have in the picture, each by a point of it, as above; the others share what is left",
            optional = true)
        double[] sized,
    @Parameter(
            help =
                "Charts that keep their places beside one another and are packed as one, each by a point of it, as above",
            optional = true)
        double[] together,
    @Parameter(
            help =
                "So many pixels to a metre at least: the picture is then the smallest of 64, 128, 256 … pixels that has them, whatever its size above",
            unit = "px/m",
            min = 0.001,
            optional = true)
        Double density)
    implements Step {
  /** Pictures that are tried where a density is asked for. */
  private static final int LEAST_SIZE = 64;

  private static final int MOST_SIZE = 16384;

  /** As the presets are. */
  private static final int FIRST_SIZE = 2048;

  private static final int FIRST_GUTTER = 4;

  /** More of the square than this is never covered. */
  private static final double FULL = 0.95;

  /** Of all charts, for a picture of a size. */
  public PackCharts(int size, int gutter, boolean even) {
    this(size, gutter, even, null, null, null, null);
  }

  /** Around those that stay. */
  public PackCharts(int size, int gutter, boolean even, double[] stay) {
    this(size, gutter, even, stay, null, null, null);
  }

  /** For a density. */
  public PackCharts(int gutter, double density) {
    this(FIRST_SIZE, gutter, true, null, null, null, density);
  }

  public PackCharts {
    if (density != null && !even) {
      throw Failure.usage(CoreWords.of("pack-charts.density-is-even"));
    }
    for (double[] points : new double[][] {stay, sized, together}) {
      if (points != null && (points.length == 0 || points.length % 3 != 0)) {
        throw Failure.usage(CoreWords.of("space.three-numbers"));
      }
    }
  }

  /** Where points are and how long a metre is, is asked only where that matters. */
  @Override
  public Set<Part<?>> reads() {
    boolean isPlaced = namesCharts() || density != null;
    return isPlaced ? Set.of(Part.CAST, Part.FRAME) : Set.of(Part.CAST);
  }

  private boolean namesCharts() {
    return stay != null || sized != null || together != null;
  }

  /**
   * Charts that were made by hand and lie nowhere yet, packed for a picture of the usual size.
   *
   * @param work a part of it is taken for this
   */
  static Mesh first(Mesh mesh, Work work) {
    GivenCharts given =
        GivenCharts.of(mesh, true, work.part(0.05, CoreWords.of("work.finding-charts")));
    Work packs = work.part(0.1, CoreWords.of("work.packing-charts"));
    return mesh.withUv(Packing.pack(given.charts(), FIRST_SIZE, FIRST_GUTTER, packs).uv());
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.withCharts(in);
    Work finds = run.work().part(0.1, CoreWords.of("work.finding-charts"));
    GivenCharts given = GivenCharts.of(cast, even, asked(cast, in, finds), finds);
    Work packs = run.work().part(0.9, CoreWords.of("work.packing-charts"));
    if (given.charts().count() == 0) {
      throw Failure.cannot(CoreWords.of("pack-charts.all-stay"));
    }
    double metre = density == null ? 1 : in.frame().toWork().scale();
    Sized sized =
        density == null
            ? new Sized(Packing.pack(given.charts(), given.staying(), size, gutter, packs), size)
            : dense(given, metre, packs);
    Packing packing = sized.packing;
    Mesh out = cast.withUv(packing.uv());
    List<String> notes = new ArrayList<>();
    if (density != null) {
      double reached = sized.perUnit(given) / metre;
      notes.add(CoreWords.of("pack-charts.dense", sized.size, reached));
    }
    notes.add(CoreWords.of("make-charts.fill", given.count(), 100 * packing.fill()));
    Stretch stretch = Stretch.of(out);
    notes.add(CoreWords.of("make-charts.stretch", stretch.mean(), stretch.p95()));
    if (given.over() > 0) {
      notes.add(CoreWords.count("pack-charts.over", given.over()));
    }
    int staying = given.staying().charts().size();
    if (staying > 0) {
      notes.add(CoreWords.count("pack-charts.stay", staying));
    }
    if (given.held() > 0) {
      notes.add(CoreWords.count("pack-charts.sized", given.held()));
    }
    if (given.together() > 0) {
      notes.add(CoreWords.count("pack-charts.together", given.together()));
    }
    if (given.laid() > 0) {
      notes.add(CoreWords.count("pack-charts.laid", given.laid()));
    }
    if (given.flat() > 0) {
      notes.add(CoreWords.count("pack-charts.flat", given.flat()));
    }
    if (cast.hasTexture()) {
      out = CastAtHand.withoutPictures(out);
      notes.add(CoreWords.of("pack-charts.pictures"));
    }
    return new Outcome(in.withCast(out), notes, null, sized.size);
  }

  private GivenCharts.Asked asked(Mesh cast, Workpiece in, Work work) {
    if (!namesCharts()) {
      return GivenCharts.Asked.NOTHING;
    }
    ChartPoints points = ChartPoints.of(cast, in.frame(), work);
    BitSet[] out = new BitSet[3];
    double[][] all = {stay, sized, together};
    for (int i = 0; i < out.length; i++) {
      out[i] = all[i] == null ? new BitSet() : points.triangles(all[i]);
    }
    return new GivenCharts.Asked(out[0], out[1], out[2]);
  }

  /** Charts packed for a picture of a size. */
  private record Sized(Packing packing, int size) {
    /** Pixels to a unit of the surface, where it matters as usual. */
    double perUnit(GivenCharts given) {
      double area = given.charts().area();
      double share = packing.fill() - given.staying().area() - given.charts().held();
      return area > 0 ? size * Math.sqrt(share / area) : Double.POSITIVE_INFINITY;
    }
  }

  /** The smallest picture that has the pixels asked for. */
  private Sized dense(GivenCharts given, double metre, Work work) {
    double perUnit = density * metre;
    double least = perUnit * Math.sqrt(given.charts().area() / FULL);
    int now = LEAST_SIZE;
    while (now < least && now < MOST_SIZE) {
      now *= 2;
    }
    // What not even a full square holds is not tried: the largest pictures take minutes.
    for (double share = 0.5; least <= MOST_SIZE && now <= MOST_SIZE; now *= 2, share /= 2) {
      Work part = work.part(share, CoreWords.of("work.packing-charts"));
      Sized out = tried(given, now, part);
      if (out != null && out.perUnit(given) >= perUnit) {
        return out;
      }
    }
    throw Failure.cannot(CoreWords.of("pack-charts.too-dense", density, MOST_SIZE));
  }

  /** Null where so small a picture has no room for all. */
  private Sized tried(GivenCharts given, int now, Work work) {
    try {
      return new Sized(Packing.pack(given.charts(), given.staying(), now, gutter, work), now);
    } catch (Failure f) {
      if (f.kind() != Failure.Kind.CANNOT || now == MOST_SIZE) {
        throw f;
      }
      return null;
    }
  }

  @Override
  public long memory(Workpiece in) {
    long triangles = in.cast() == null ? 0 : in.cast().triangleCount();
    long pixels = density == null ? size : MOST_SIZE / 2;
    return 200L * triangles + 2 * pixels * pixels;
  }
}
