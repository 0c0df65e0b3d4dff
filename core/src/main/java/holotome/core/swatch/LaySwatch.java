package holotome.core.swatch;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Places;
import holotome.core.part.Workpiece;
import holotome.core.solve.PlaneFit;
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
import java.util.ArrayList;
import java.util.List;

/** Lays a flat rectangle of true size over the Scan. */
@Describes(
    id = "swatch.lay",
    title = "Swatch",
    help =
        "Lays a flat rectangle of true size over the Scan, to make a tileable material of what lies under it. It becomes the Cast, its chart fills the texture square.",
    reads = {"scan", "frame"},
    writes = {"cast", "maps"})
public record LaySwatch(
    @Parameter(help = "A place of the Scan that its middle lies over, x y z in working space")
        double[] point,
    @Parameter(
            help =
                "Whether it lies over that place, or over a better one that is found around it, turned as the ground's pattern is: even, the evenest with the least on it that is no ground; pattern, one whose sides go on in each other, by changing its size a little; largest, the largest even one of its shape",
            preset = "here")
        Find find,
    @Parameter(help = "How wide it is", preset = "2 m") Length width,
    @Parameter(help = "How high", preset = "2 m") Length height,
    @Parameter(
            help = "By how much its lower side is turned from the X axis, about its normal",
            unit = "°",
            min = -360,
            max = 360,
            preset = "0")
        double turn,
    @Parameter(
            help =
                "The direction it faces, x y z in working space; else that of the surface under it",
            optional = true)
        double[] normal,
    @Parameter(
            help =
                "How much more of the Scan is taken in beyond its left and lower side, to be cut over into the other ones when it is made to tile; 0 for none",
            unit = "%",
            min = 0,
            max = 100,
            preset = "12.5")
        double apron)
    implements Step {
  /** Samples along a side for what is said of it. */
  private static final int LOOKED_AT = 64;

  /** More of the Scan than this share of the vertices within is not needed for its plane. */
  private static final int MOST_POINTS = 2_000_000;

  private static final int ROUNDS = 3;

  /** Points so many times the root mean square away do not belong to the plane. */
  private static final double OUTLYING = 2.5;

  /** Where it lies. */
  public enum Find {
    HERE,
    EVEN,
    PATTERN,
    LARGEST
  }

  /** Without an apron, over a place. */
  public LaySwatch(double[] point, Length width, Length height, double turn, double[] normal) {
    this(point, width, height, turn, normal, 0);
  }

  /** Over a place. */
  public LaySwatch(
      double[] point, Length width, Length height, double turn, double[] normal, double apron) {
    this(point, Find.HERE, width, height, turn, normal, apron);
  }

  public LaySwatch {
    if (point == null || point.length != 3 || normal != null && normal.length != 3) {
      throw Failure.usage(CoreWords.of("space.three-numbers"));
    }
    if (!(width.metres() > 0 && height.metres() > 0)) {
      throw Failure.usage(CoreWords.of("lay-swatch.size"));
    }
    if (normal != null && !(Vec.length(normal) > 0)) {
      throw Failure.usage(CoreWords.of("lay-swatch.direction"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return 60L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Work work = run.work();
    Places.check(in.scan());
    Rectangle tile = rectangle(in, work.part(0.2, CoreWords.of("lay-swatch.fitting")));
    Bvh index = Bvh.of(in.scan(), work.part(0.4, CoreWords.of("work.indexing-the-surface")));
    List<String> notes = new ArrayList<>();
    if (find != Find.HERE) {
      SwatchSearch.Found found =
          new SwatchSearch(in.scan(), index, apron / 100, find)
              .of(tile, work.part(0.3, CoreWords.of("lay-swatch.searching")));
      LaySwatch there = at(in, found.place(), turn + Math.toDegrees(found.turned()));
      tile = there.rectangle(in, Work.unwatched());
      notes.add(said(in, there, found));
    }
    Rectangle r = tile.extended(apron / 100);
    double within = Math.max(r.width(), r.height());
    double spacing = within / LOOKED_AT;
    HeightField heights =
        HeightField.of(
            index, r, spacing, 0, within, work.part(0.1, CoreWords.of("lay-swatch.looking")));
    int found = 0;
    float low = Float.POSITIVE_INFINITY;
    float high = Float.NEGATIVE_INFINITY;
    for (float h : heights.heights()) {
      if (!Float.isNaN(h)) {
        found++;
        low = Math.min(low, h);
        high = Math.max(high, h);
      }
    }
    if (found == 0) {
      throw Failure.cannot(CoreWords.of("lay-swatch.nothing-below"));
    }
    boolean isTrue = in.frame().trueSize();
    double toWork = in.frame().toWork().scale();
    notes.addFirst(
        CoreWords.of(
            "lay-swatch.laid",
            Length.format(tile.width() * toWork, isTrue),
            Length.format(tile.height() * toWork, isTrue),
            100.0 * found / heights.heights().length));
    notes.add(
        CoreWords.of(
            "lay-swatch.heights",
            Length.format(low * toWork, isTrue),
            Length.format(high * toWork, isTrue)));
    return Outcome.of(
        in.withCast(LaidRectangle.withApron(r.mesh(), apron / 100)).withMaps(null),
        notes.toArray(String[]::new));
  }

  /**
   * The same, over where it came to lie.
   *
   * @param made the work that it was laid in
   */
  public LaySwatch asLaid(Workpiece made) {
    double share = LaidRectangle.apron(made.cast());
    Rectangle r = LaidRectangle.tileOf(made.cast(), share);
    double[] n = r.normal();
    double[] flat = level(made, n);
    double angle = Math.atan2(Vec.dot(r.across(), Vec.cross(n, flat)), Vec.dot(r.across(), flat));
    return at(made, r, Math.toDegrees(angle));
  }

  private LaySwatch at(Workpiece in, Rectangle place, double degrees) {
    double toWork = in.frame().toWork().scale();
    return new LaySwatch(
        in.frame().toWork().apply(place.at(0.5, 0.5, 0)),
        new Length(place.width() * toWork),
        new Length(place.height() * toWork),
        degrees,
        normal,
        apron);
  }

  private static String said(Workpiece in, LaySwatch there, SwatchSearch.Found found) {
    boolean isTrue = in.frame().trueSize();
    return CoreWords.of(
        "lay-swatch.found",
        Length.format(there.point[0], isTrue),
        Length.format(there.point[1], isTrue),
        Length.format(there.point[2], isTrue),
        tenths(there.turn),
        100 * found.strange(),
        100 * found.fit() / 2);
  }

  /** To tenths, without a sign on nought. */
  private static double tenths(double x) {
    return Math.rint(10 * x) / 10 + 0.0;
  }

  /** Where it lies: over the plane of the Scan within it. */
  private Rectangle rectangle(Workpiece in, Work work) {
    double[] middle = in.frame().toBase(point);
    double w = in.frame().toBaseLength(width.metres());
    double h = in.frame().toBaseLength(height.metres());
    Mesh scan = in.scan();
    double[] n = normal == null ? facing(scan, middle, Math.hypot(w, h) / 2, work) : direction(in);
    Rectangle r = about(in, middle, n, w, h);
    for (int round = 0; round < ROUNDS; round++) {
      work.check();
      PlaneFit fit = plane(scan, r, round == 0 ? Double.POSITIVE_INFINITY : 0);
      if (fit == null) {
        break;
      }
      double[] own = fit.normal();
      if (Vec.dot(own, n) < 0) {
        own = Vec.mul(own, -1);
      }
      n = normal == null ? own : n;
      // Along its normal onto the plane.
      double off = Vec.dot(Vec.sub(fit.point(), middle), own) / Vec.dot(n, own);
      middle = Vec.add(middle, Vec.mul(n, off));
      r = about(in, middle, n, w, h);
      work.advance(1.0 / ROUNDS);
    }
    return r;
  }

  private double[] direction(Workpiece in) {
    double[] zero = in.frame().toBase(new double[3]);
    return Vec.unit(Vec.sub(in.frame().toBase(normal), zero));
  }

  /**
   * Turned from working space's X axis as it lies in the plane, or from Y where that stands on it.
   */
  private Rectangle about(Workpiece in, double[] middle, double[] n, double w, double h) {
    double[] flat = level(in, n);
    double[] side = Vec.cross(n, flat);
    double c = Math.cos(Math.toRadians(turn));
    double s = Math.sin(Math.toRadians(turn));
    double[] across = Vec.add(Vec.mul(flat, c), Vec.mul(side, s));
    double[] up = Vec.cross(n, across);
    double[] corner = Vec.sub(middle, Vec.add(Vec.mul(across, w / 2), Vec.mul(up, h / 2)));
    return new Rectangle(corner, across, up, w, h);
  }

  /** Where the lower side runs that is not turned, in base coordinates. */
  private static double[] level(Workpiece in, double[] n) {
    double[] zero = in.frame().toBase(new double[3]);
    double[] x = Vec.unit(Vec.sub(in.frame().toBase(new double[] {1, 0, 0}), zero));
    if (Math.abs(Vec.dot(x, n)) > 0.9) {
      x = Vec.unit(Vec.sub(in.frame().toBase(new double[] {0, 1, 0}), zero));
    }
    return Vec.unit(Vec.sub(x, Vec.mul(n, Vec.dot(x, n))));
  }

  /** The mean direction of the triangles around a place. */
  private static double[] facing(Mesh scan, double[] middle, double radius, Work work) {
    double[] sum = new double[3];
    for (int t = 0; t < scan.triangleCount(); t++) {
      if ((t & 0xfffff) == 0) {
        work.check();
      }
      int v = 3 * scan.triangles()[3 * t];
      double dx = scan.xyz()[v] - middle[0];
      double dy = scan.xyz()[v + 1] - middle[1];
      double dz = scan.xyz()[v + 2] - middle[2];
      if (dx * dx + dy * dy + dz * dz < radius * radius) {
        double[] c = Measures.cross(scan, t);
        for (int k = 0; k < 3; k++) {
          sum[k] += c[k];
        }
      }
    }
    if (!(Vec.length(sum) > 0)) {
      throw Failure.cannot(CoreWords.of("lay-swatch.nothing-below"));
    }
    return Vec.unit(sum);
  }

  /**
   * The plane of the Scan's vertices within the rectangle seen along its normal; null for none.
   *
   * @param trust where 0, only those near the rectangle count: by how far they lie in the mean
   */
  private static PlaneFit plane(Mesh scan, Rectangle r, double trust) {
    double far = Math.max(r.width(), r.height()) / 2;
    if (trust == 0) {
      far = Math.min(far, OUTLYING * rms(scan, r, far));
    }
    PlaneFit.Sum sum = new PlaneFit.Sum();
    int stride = Math.max(1, scan.vertexCount() / MOST_POINTS);
    for (int v = 0; v < scan.vertexCount(); v += stride) {
      double[] at = r.of(Vec.at(scan.xyz(), v));
      if (isIn(at, far)) {
        sum.add(scan.xyz()[3 * v], scan.xyz()[3 * v + 1], scan.xyz()[3 * v + 2], 1);
      }
    }
    return sum.weight() < 3 ? null : sum.fit();
  }

  private static double rms(Mesh scan, Rectangle r, double far) {
    double sum = 0;
    int n = 0;
    int stride = Math.max(1, scan.vertexCount() / MOST_POINTS);
    for (int v = 0; v < scan.vertexCount(); v += stride) {
      double[] at = r.of(Vec.at(scan.xyz(), v));
      if (isIn(at, far)) {
        sum += at[2] * at[2];
        n++;
      }
    }
    return n == 0 ? far : Math.sqrt(sum / n);
  }

  private static boolean isIn(double[] at, double far) {
    return at[0] >= 0 && at[0] <= 1 && at[1] >= 0 && at[1] <= 1 && Math.abs(at[2]) <= far;
  }
}
