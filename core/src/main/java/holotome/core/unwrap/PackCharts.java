package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.mesh.UvSquares;
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
import java.util.Objects;
import java.util.Set;
import java.util.stream.Stream;

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
        Double density,
    @Parameter(
            help =
                "Squares of the texture that the charts are shared out among, 1001, 1002 …, ten in a row, each of the size above",
            min = 1,
            max = 100,
            preset = "1")
        int squares,
    @Parameter(
            help =
                "How they are shared out: room, all squares alike; importance, those that matter most into the first ones",
            preset = "room")
        By by,
    @Parameter(
            help =
                "Charts that get the last of several squares to themselves and fill it, each by a point of it, as above",
            optional = true)
        double[] alone,
    @Parameter(
            help =
                "What follows from a density asked for: size, that of the picture; squares, how many of the size above there are, whatever their number above",
            preset = "size")
        Follows follows)
    implements Step {
  /** By what charts are shared out among squares. */
  public enum By {
    ROOM,
    IMPORTANCE
  }

  /** What a density asked for is met by. */
  public enum Follows {
    SIZE,
    SQUARES
  }

  /** Pictures that are tried where a density is asked for. */
  private static final int LEAST_SIZE = 64;

  private static final int MOST_SIZE = 16384;

  /** As the presets are. */
  private static final int FIRST_SIZE = 2048;

  private static final int FIRST_GUTTER = 4;

  /** More of the square than this is never covered. */
  private static final double FULL = 0.95;

  private static final int MOST_SQUARES = 100;

  /** Pictures of all squares together have no more pixels. */
  private static final long MOST_PIXELS = 1L << 30;

  /** Of all charts, for a picture of a size. */
  public PackCharts(int size, int gutter, boolean even) {
    this(size, gutter, even, null, null, null);
  }

  /** Around those that stay. */
  public PackCharts(int size, int gutter, boolean even, double[] stay) {
    this(size, gutter, even, stay, null, null);
  }

  /** Into one square, some as asked. */
  public PackCharts(
      int size, int gutter, boolean even, double[] stay, double[] sized, double[] together) {
    this(size, gutter, even, stay, sized, together, null, 1, By.ROOM, null, Follows.SIZE);
  }

  /** For a density. */
  public PackCharts(int gutter, double density) {
    this(FIRST_SIZE, gutter, true, null, null, null, density, 1, By.ROOM, null, Follows.SIZE);
  }

  /** Into several squares. */
  public PackCharts(int size, int gutter, int squares, By by, double[] alone) {
    this(size, gutter, true, null, null, null, null, squares, by, alone, Follows.SIZE);
  }

  public PackCharts {
    if (density != null && !even) {
      throw Failure.usage(CoreWords.of("pack-charts.density-is-even"));
    }
    if (alone != null && squares < 2 && follows == Follows.SIZE) {
      throw Failure.usage(CoreWords.of("pack-charts.alone-of-several"));
    }
    for (double[] points : new double[][] {stay, sized, together, alone}) {
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
    return stay != null || sized != null || together != null || alone != null;
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
    if (given.count() == 0) {
      throw Failure.cannot(CoreWords.of("pack-charts.all-stay"));
    }
    double metre = density == null ? 1 : in.frame().toWork().scale();
    Packed packed =
        density == null ? packed(given, size, squares, packs) : dense(given, metre, packs);
    Mesh out = cast.withUv(packed.uv(given));
    List<String> notes = new ArrayList<>();
    if (density != null) {
      double reached = packed.perUnit() / metre;
      notes.add(CoreWords.of("pack-charts.dense", packed.size, reached));
    }
    notes.add(CoreWords.of("make-charts.fill", given.count(), 100 * packed.fill()));
    packed.notes(given, by, notes);
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
    return new Outcome(in.withCast(out), notes, null, packed.size);
  }

  private GivenCharts.Asked asked(Mesh cast, Workpiece in, Work work) {
    if (!namesCharts()) {
      return GivenCharts.Asked.NOTHING;
    }
    ChartPoints points = ChartPoints.of(cast, in.frame(), work);
    BitSet[] out = new BitSet[4];
    double[][] all = {stay, sized, together, alone};
    for (int i = 0; i < out.length; i++) {
      out[i] = all[i] == null ? new BitSet() : points.triangles(all[i]);
    }
    return new GivenCharts.Asked(out[0], out[1], out[2], out[3]);
  }

  /**
   * Charts packed for pictures of a size.
   *
   * @param shared those in all squares but one that others have for themselves; null for none
   * @param alone those others; null for none
   */
  private record Packed(Packing shared, Packing alone, int size) {
    private List<Packing> all() {
      return Stream.of(shared, alone).filter(Objects::nonNull).toList();
    }

    Uv uv(GivenCharts given) {
      return Packing.uv(all(), given.staying());
    }

    int squares() {
      return all().stream().mapToInt(p -> p.squares().count()).sum();
    }

    /** Share of all squares that is covered. */
    double fill() {
      double sum = all().stream().mapToDouble(p -> p.fill() * p.squares().count()).sum();
      return sum / squares();
    }

    /** Pixels to a unit of the surface where it matters as usual: the least that any have. */
    double perUnit() {
      return all().stream()
          .filter(p -> p.charts().area() > 0)
          .mapToDouble(Packing::scale)
          .min()
          .orElse(Double.POSITIVE_INFINITY);
    }

    /** What there is to say of several squares. */
    void notes(GivenCharts given, By by, List<String> notes) {
      if (squares() == 1) {
        return;
      }
      int last = squares() - 1;
      int number = UvSquares.number(last % UvSquares.IN_ROW, last / UvSquares.IN_ROW);
      notes.add(CoreWords.of("pack-charts.squares", squares(), size, number));
      if (alone != null) {
        notes.add(CoreWords.count("pack-charts.alone", given.alone().count(), number));
      }
      if (by == By.IMPORTANCE && !given.isRanked()) {
        notes.add(CoreWords.of("pack-charts.all-alike"));
      }
    }
  }

  /** Packs for pictures of a size, into so many squares. */
  private Packed packed(GivenCharts given, int pixels, int count, Work work) {
    long columns = Math.min(count, UvSquares.IN_ROW);
    long rows = (count + UvSquares.IN_ROW - 1) / UvSquares.IN_ROW;
    if (columns * rows * pixels * pixels > MOST_PIXELS) {
      throw Failure.cannot(CoreWords.of("pack-charts.too-many-pixels", count, pixels));
    }
    boolean isAlone = given.alone().count() > 0;
    boolean isShared = given.charts().count() > 0;
    double[] rank = by == By.IMPORTANCE && given.isRanked() ? given.rank() : null;
    int shared = isAlone ? count - 1 : count;
    double share = isAlone ? (double) shared / count : 1;
    String label = CoreWords.of("work.packing-charts");
    Packing most =
        !isShared
            ? null
            : Packing.pack(
                given.charts(),
                given.staying(),
                new PackSquares(pixels, gutter, 0, shared),
                rank,
                work.part(share, label));
    Packing rest =
        !isAlone
            ? null
            : Packing.pack(
                given.alone(),
                given.staying(),
                new PackSquares(pixels, gutter, shared, 1),
                null,
                work.part(1 - share, label));
    return new Packed(most, rest, pixels);
  }

  private Packed dense(GivenCharts given, double metre, Work work) {
    return follows == Follows.SIZE ? sized(given, metre, work) : counted(given, metre, work);
  }

  /** The smallest picture that has the pixels asked for. */
  private Packed sized(GivenCharts given, double metre, Work work) {
    double perUnit = density * metre;
    double least = perUnit * Math.sqrt(area(given) / (FULL * squares));
    int now = LEAST_SIZE;
    while (now < least && now < MOST_SIZE) {
      now *= 2;
    }
    // What not even a full square holds is not tried: the largest pictures take minutes.
    for (double share = 0.5; least <= MOST_SIZE && now <= MOST_SIZE; now *= 2, share /= 2) {
      Work part = work.part(share, CoreWords.of("work.packing-charts"));
      Packed out = tried(given, now, squares, now == MOST_SIZE, part);
      if (out != null && out.perUnit() >= perUnit) {
        return out;
      }
    }
    throw Failure.cannot(CoreWords.of("pack-charts.too-dense", density, MOST_SIZE));
  }

  private static double area(GivenCharts given) {
    return given.charts().area() + given.alone().area();
  }

  /** The fewest squares that have the pixels asked for. */
  private Packed counted(GivenCharts given, double metre, Work work) {
    double perUnit = density * metre;
    int own = given.alone().count() > 0 ? 1 : 0;
    double full = FULL * Math.pow(size / perUnit, 2);
    int now = own + (int) Math.max(1 - own, Math.ceil(given.charts().area() / full));
    PackSquares one = new PackSquares(size, gutter);
    double most = Math.min(Packing.most(given.charts(), one), Packing.most(given.alone(), one));
    int last = most < perUnit ? 0 : Math.min(MOST_SQUARES, own + given.charts().count());
    for (double share = 0.5; now <= last; now++, share /= 2) {
      Work part = work.part(share, CoreWords.of("work.packing-charts"));
      Packed out = tried(given, size, now, now == last, part);
      if (out != null && out.perUnit() >= perUnit) {
        return out;
      }
      if (out != null && own == 1 && out.alone.scale() < perUnit) {
        break;
      }
    }
    throw Failure.cannot(CoreWords.of("pack-charts.too-dense-for-squares", density, size));
  }

  /** Null where so small a picture, or so few, have no room for all. */
  private Packed tried(GivenCharts given, int now, int count, boolean isLast, Work work) {
    try {
      return packed(given, now, count, work);
    } catch (Failure f) {
      if (f.kind() != Failure.Kind.CANNOT || isLast) {
        throw f;
      }
      return null;
    }
  }

  @Override
  public long memory(Workpiece in) {
    long triangles = in.cast() == null ? 0 : in.cast().triangleCount();
    boolean isSized = density != null && follows == Follows.SIZE;
    long pixels = isSized ? MOST_SIZE / 2 : size;
    long grids = density != null && follows == Follows.SQUARES ? MOST_SQUARES / 4 : squares;
    return 200L * triangles + Math.min(MOST_PIXELS, 2 * pixels * pixels * grids);
  }
}
