package holotome.core.proxy;

import holotome.core.attribute.Attribute;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Places;
import holotome.core.part.Workpiece;
import holotome.core.polygon.FaceLists;
import holotome.core.polygon.Subdivision;
import holotome.core.spatial.Bvh;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/** Lets the Cast settle onto the Scan. */
@Describes(
    id = "proxy.settle",
    title = "Settle",
    help =
        "Moves the points of the Cast onto the Scan, or shifts its flat faces there and keeps them flat and square. It can be divided into finer quads on the way.",
    reads = {"scan", "cast", "frame"},
    writes = {"cast", "maps"})
public record SettleProxy(
    @Parameter(
            help =
                "Which way the Scan is looked for: the nearest, along normals, or along one axis",
            preset = "normals")
        Way along,
    @Parameter(
            help = "No point goes farther than this; else a twentieth of the Cast's diagonal",
            optional = true)
        Length within,
    @Parameter(
            help =
                "What stays as it is: nothing, each point goes by itself; or flat faces, which only shift, so that they stay flat, edges straight and angles right",
            preset = "nothing")
        Keep keep,
    @Parameter(
            help = "Moves are evened out over about so far; else point by point",
            optional = true)
        Length smooth,
    @Parameter(
            help = "So many times each face is parted into quads",
            min = 0,
            max = 6,
            preset = "0")
        int divide,
    @Parameter(help = "Parted flat, or rounded at the edges", preset = "flat") Shape shape,
    @Parameter(help = "Parted before it settles, or after", preset = "before") When when)
    implements Step {
  private static final int GRAIN = 1 << 9;
  private static final long MOST_QUADS = 2_000_000;

  /** Which way the Scan is looked for. */
  public enum Way {
    NORMALS,
    NEAREST,
    X,
    Y,
    Z
  }

  /** What stays as it is. */
  public enum Keep {
    NOTHING,
    FLAT
  }

  /** How faces are parted. */
  public enum Shape {
    FLAT,
    ROUND
  }

  /** When faces are parted. */
  public enum When {
    BEFORE,
    AFTER
  }

  public SettleProxy {
    along = along == null ? Way.NORMALS : along;
    keep = keep == null ? Keep.NOTHING : keep;
    shape = shape == null ? Shape.FLAT : shape;
    when = when == null ? When.BEFORE : when;
    if (within != null && !(within.metres() > 0) || smooth != null && !(smooth.metres() > 0)) {
      throw Failure.usage(CoreWords.of("proxy-settle.above-0"));
    }
    if (smooth != null && keep == Keep.FLAT) {
      throw Failure.usage(CoreWords.of("proxy-settle.flat-is-not-smooth"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    long cast = in.cast() == null ? 0 : in.cast().triangleCount();
    return 60L * in.scan().triangleCount() + 300L * (cast << 2 * divide);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = in.cast();
    if (cast == null || cast.isEmpty()) {
      throw Failure.cannot(CoreWords.of("proxy-settle.no-cast"));
    }
    if (in.scan().isEmpty()) {
      throw Failure.cannot(CoreWords.of("patch.there-is-no-surface-to"));
    }
    Places.check(in.scan(), cast);
    Work work = run.work();
    double far =
        within == null ? cast.bounds().diagonal() / 20 : in.frame().toBaseLength(within.metres());
    Mesh before = whole(when == When.BEFORE ? divided(cast) : cast);
    Bvh index = Bvh.of(in.scan(), work.part(0.6, CoreWords.of("work.indexing-the-surface")));
    ScanReach.Settling how =
        new ScanReach.Settling(axis(in.frame()), along == Way.NEAREST, far, isClosed(before));
    List<String> notes = new ArrayList<>();
    Work settling = work.part(0.4, CoreWords.of("proxy-settle.settling"));
    double[] moves =
        keep == Keep.FLAT
            ? stiff(before, new ScanReach(in.scan(), index, how), far, notes, settling)
            : points(before, in, index, how, notes, settling);
    Mesh settled = moved(before, moves);
    Mesh out = when == When.AFTER ? divided(settled) : settled;
    if (out.triangleCount() != cast.triangleCount()) {
      notes.add(CoreWords.of("proxy-settle.divided", FaceLists.of(out).faces().length));
    }
    if (cast.uv() != null && out.uv() == null) {
      notes.add(CoreWords.of("proxy-edit.charts-gone"));
    }
    return new Outcome(in.withCast(out).withMaps(null), notes);
  }

  /** Up and down which axis, in base coordinates; null for another way. */
  private double[] axis(Frame frame) {
    int k = along.ordinal() - Way.X.ordinal();
    if (k < 0) {
      return null;
    }
    double[] one = new double[3];
    one[k] = 1;
    return Vec.unit(Vec.sub(frame.toBase(one), frame.toBase(new double[3])));
  }

  private Mesh divided(Mesh mesh) {
    if (divide == 0) {
      return mesh;
    }
    FaceLists faces = FaceLists.of(mesh);
    if (Subdivision.quads(faces) << 2 * (divide - 1) > MOST_QUADS) {
      throw Failure.cannot(CoreWords.of("proxy-settle.too-fine", MOST_QUADS));
    }
    for (int i = 0; i < divide; i++) {
      faces = Subdivision.of(faces, shape == Shape.ROUND);
    }
    return faces.mesh();
  }

  /** Faces that are to stay flat go without points that are no corner of them. */
  private Mesh whole(Mesh mesh) {
    if (keep == Keep.NOTHING) {
      return mesh;
    }
    FaceLists faces = FaceLists.of(mesh);
    return faces.vertexCount() < mesh.vertexCount() ? faces.mesh() : mesh;
  }

  private static boolean isClosed(Mesh mesh) {
    Adjacency a = Adjacency.of(mesh);
    return a.borderEdges() + a.crowdedEdges() + a.misfitEdges() == 0;
  }

  private static Mesh moved(Mesh mesh, double[] moves) {
    float[] xyz = mesh.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) (xyz[i] + moves[i]);
    }
    Mesh out = mesh.withPositions(xyz);
    // Whatever way its corners faced before, they face another one now.
    return out.with(out.attributes().without(Attribute.Kind.NORMAL), out.materials());
  }

  private double[] stiff(Mesh mesh, ScanReach reach, double far, List<String> notes, Work work) {
    StiffPlanes.Moved m = StiffPlanes.of(FaceLists.of(mesh), reach, far, work);
    if (m.seen() == 0) {
      throw Failure.cannot(CoreWords.of("proxy-settle.nothing-near"));
    }
    notes.add(CoreWords.of("proxy-settle.planes", m.seen(), Length.inBase(m.most())));
    if (m.seen() < m.planes()) {
      notes.add(CoreWords.count("proxy-settle.planes-missed", m.planes() - m.seen()));
    }
    return m.moves();
  }

  private double[] points(
      Mesh mesh, Workpiece in, Bvh index, ScanReach.Settling how, List<String> notes, Work work) {
    int n = mesh.vertexCount();
    double[] moves = new double[3 * n];
    boolean[] known = new boolean[n];
    double[] normals = PointNormals.of(mesh);
    Parallel.range(
        n,
        GRAIN,
        work.part(0.5, CoreWords.of("proxy-settle.settling")),
        (from, to) -> {
          ScanReach reach = new ScanReach(in.scan(), index, how);
          for (int v = from; v < to; v++) {
            double[] normal = Arrays.copyOfRange(normals, 3 * v, 3 * v + 3);
            boolean isAny = Vec.length(normal) > 0;
            double[] way = isAny ? reach.from(Vec.at(mesh.xyz(), v), normal) : null;
            known[v] = way != null;
            if (known[v]) {
              System.arraycopy(way, 0, moves, 3 * v, 3);
            }
          }
        });
    int missed = 0;
    for (boolean k : known) {
      missed += k ? 0 : 1;
    }
    if (missed == n) {
      throw Failure.cannot(CoreWords.of("proxy-settle.nothing-near"));
    }
    double reach = smooth == null ? 0 : in.frame().toBaseLength(smooth.metres());
    boolean ended =
        new EvenedMoves(mesh)
            .fill(moves, known, reach, work.part(0.5, CoreWords.of("proxy-settle.settling")));
    double most = 0;
    double sum = 0;
    for (int v = 0; v < n; v++) {
      double l = Math.sqrt(square(moves, v));
      // The equations are solved to a few digits; what is allowed is not.
      for (int k = 0; k < 3 && l > how.within(); k++) {
        moves[3 * v + k] *= how.within() / l;
      }
      most = Math.max(most, Math.min(l, how.within()));
      sum += Math.min(l, how.within());
    }
    notes.add(
        CoreWords.of(
            "proxy-settle.points", n - missed, Length.inBase(sum / n), Length.inBase(most)));
    if (missed > 0) {
      notes.add(CoreWords.count("proxy-settle.points-missed", missed));
    }
    if (!ended) {
      notes.add(CoreWords.of("proxy-settle.not-even"));
    }
    return moves;
  }

  private static double square(double[] moves, int v) {
    double sum = 0;
    for (int k = 0; k < 3; k++) {
      sum += moves[3 * v + k] * moves[3 * v + k];
    }
    return sum;
  }
}
