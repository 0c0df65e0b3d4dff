package holotome.core.proxy;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Places;
import holotome.core.part.Workpiece;
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
import java.util.Arrays;
import java.util.List;
import java.util.Objects;

/** Makes a solid of few faces from flat parts of the Scan. */
@Describes(
    id = "proxy.planes",
    title = "From planes",
    help =
        "Makes a solid of few faces from flat parts of the Scan: walls, roof, floor become planes that bound each other. It becomes the Cast.",
    reads = {"scan", "frame"},
    writes = {"cast", "maps"})
public record FromPlanes(
    @Parameter(
            help =
                "A place on each flat part, x y z each, in the scan file's coordinates; else they are found",
            optional = true)
        double[] places,
    @Parameter(
            help =
                "How far the Scan lies from the plane of a flat part at most; else as it is rough there",
            optional = true)
        Length within,
    @Parameter(
            help =
                "Planes that are parallel or square to each other but for so much are made exactly so; 0 for none",
            unit = "°",
            min = 0,
            max = 15,
            preset = "3")
        double square,
    @Parameter(
            help = "Sides that nobody saw: closed where what was seen ends, or left open",
            preset = "closed")
        Missing missing)
    implements Step {

  /** What becomes of sides that nobody saw. */
  public enum Missing {
    CLOSED,
    OPEN
  }

  public FromPlanes {
    missing = missing == null ? Missing.CLOSED : missing;
    places = places == null || places.length == 0 ? null : places.clone();
    if (places != null) {
      if (places.length % 3 != 0 || !Arrays.stream(places).allMatch(Double::isFinite)) {
        throw Failure.usage(CoreWords.of("planes.three-numbers"));
      }
      if (places.length / 3 > FlatSearch.MOST) {
        throw Failure.usage(CoreWords.of("planes.too-many", FlatSearch.MOST));
      }
    }
    if (within != null && !(within.metres() > 0)) {
      throw Failure.usage(CoreWords.of("planes.within"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return in.scan().triangleCount() / 8L * (places == null ? 30 : places.length / 3) + 60_000_000L;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Places.check(in.scan());
    if (in.scan().isEmpty()) {
      throw Failure.cannot(CoreWords.of("patch.there-is-no-surface-to"));
    }
    Work work = run.work();
    Frame frame = in.frame();
    LocalScan scan = LocalScan.of(in.scan(), work.part(0.1, CoreWords.of("planes.growing")));
    if (scan.count() == 0) {
      throw Failure.cannot(CoreWords.of("planes.none-found"));
    }
    List<double[]> seeds = seeds(in, scan, work.part(0.3, CoreWords.of("planes.finding")));
    if (seeds.isEmpty()) {
      throw Failure.cannot(CoreWords.of("planes.none-found"));
    }
    List<FlatPart> parts = new ArrayList<>();
    List<String> notes = new ArrayList<>();
    Work growing = work.part(0.4, CoreWords.of("planes.growing"));
    FlatGrowing grow = new FlatGrowing(scan, within(in) / scan.size());
    int nothing = 0;
    for (double[] seed : seeds) {
      FlatPart part = grow.around(seed, growing.part(1.0 / seeds.size(), ""));
      if (part == null) {
        nothing++;
      } else {
        parts.add(part);
      }
    }
    if (parts.isEmpty()) {
      throw Failure.cannot(CoreWords.of("planes.none-found"));
    }
    PlanesSolid solid =
        PlanesSolid.of(
            scan,
            parts,
            PlanesSolid.upright(frame),
            Math.toRadians(square),
            missing == Missing.OPEN,
            work.part(0.2, CoreWords.of("planes.bounding")));
    notes.addAll(notes(solid.figures(), frame));
    if (nothing > 0) {
      notes.add(CoreWords.count("planes.not-flat", nothing));
    }
    return new Outcome(in.withCast(solid.mesh()), notes);
  }

  /**
   * How far points of a flat part may lie from its plane, in base units; 0 for what is rough there.
   */
  double within(Workpiece in) {
    return within == null ? 0 : in.frame().toBaseLength(within.metres());
  }

  private List<double[]> seeds(Workpiece in, LocalScan scan, Work work) {
    if (places == null) {
      return FlatSearch.places(scan, within(in) / scan.size(), work);
    }
    List<double[]> out = new ArrayList<>();
    Similarity toBase = in.frame().toFile().inverse();
    for (int i = 0; i < places.length; i += 3) {
      out.add(scan.toLocal(toBase.apply(places[i], places[i + 1], places[i + 2])));
    }
    return out;
  }

  private static List<String> notes(PlanesSolid.Figures f, Frame frame) {
    List<String> notes = new ArrayList<>();
    double unit = frame.toWork().scale();
    boolean isTrue = frame.trueSize();
    notes.add(CoreWords.of("planes.made", f.faces(), f.corners(), f.walls()));
    notes.add(
        CoreWords.of(
            "planes.off",
            Length.format(f.rms() * unit, isTrue),
            Length.format(f.worst() * unit, isTrue)));
    if (f.turned() > 0) {
      notes.add(CoreWords.count("planes.turned", f.turned(), Math.toDegrees(f.most())));
    }
    notes.add(CoreWords.of("planes.seen", 100 * f.seen()));
    if (f.closed() > 0) {
      notes.add(CoreWords.count("planes.closed", f.closed()));
    }
    if (f.open() > 0) {
      notes.add(CoreWords.count("planes.open", f.open()));
    }
    if (f.idle() > 0) {
      notes.add(CoreWords.count("planes.idle", f.idle()));
    }
    if (f.drawnTogether() > 0) {
      notes.add(CoreWords.count("planes.drawn-together", f.drawnTogether()));
    }
    return notes;
  }

  /** The same from other places; null for those that are found. */
  public FromPlanes with(double[] others) {
    return new FromPlanes(others, within, square, missing);
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof FromPlanes f
        && Arrays.equals(places, f.places)
        && Objects.equals(within, f.within)
        && square == f.square
        && missing == f.missing;
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(places) * 31 + missing.hashCode();
  }
}
