package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.geometry.Similarity;
import holotome.core.log.History;
import holotome.core.memory.Claim;
import holotome.core.memory.Spare;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.MakeLevels;
import holotome.core.reduce.Remesh;
import holotome.core.reduce.Resurface;
import holotome.core.spatial.Deviation;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.view.scene.DotLayer;
import holotome.view.scene.Layer;
import holotome.view.scene.Readings;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.function.Function;

/**
 * How far the mesh that is shown lies from the Scan, or from what it was before: measured once that
 * is to be seen, and kept for the last few. Lives on the interface thread.
 */
public final class ShownDeviation implements Spare.Holder {

  /** What the mesh is compared with. */
  public enum Against {
    SCAN,
    BEFORE
  }

  private static final int INK = 0xff1f2a2e;
  private static final int KEPT = 3;

  /** Pairs with more triangles than this are not held beside another. */
  private static final int LARGE = 30_000_000;

  private static final double PATIENCE = 10;

  /** The range of colours reaches this far beyond what 95 % stay under, at first. */
  private static final double BEYOND = 1.25;

  private final Session session;
  private final StateBefore before;
  private final List<Deviation> known = new CopyOnWriteArrayList<>();
  private Against wanted = Against.SCAN;
  private Mesh scan;
  private Mesh earlier;

  /** Whether the Scan is shown, and the Cast is what it is compared with. */
  private boolean isCast;

  private Mesh mesh;
  private Mesh askedMesh;
  private Mesh askedReference;
  private Failure failure;
  private Deviation ranged;
  private Deviation marked;
  private double range;

  ShownDeviation(Session session) {
    this.session = session;
    before = new StateBefore(session);
    session.onOpen(this::letGo);
    Spare.add(this);
  }

  /** What the mesh is compared with now; null where there is nothing to compare it with. */
  public Against against() {
    Mesh preferred = wanted == Against.SCAN ? scan : earlier;
    if (preferred != null) {
      return wanted;
    }
    return scan != null ? Against.SCAN : earlier != null ? Against.BEFORE : null;
  }

  /** Whether there are two things to compare it with. */
  public boolean isChoice() {
    return scan != null && earlier != null;
  }

  /** Compares with the other thing from now on. */
  public void switchAgainst() {
    wanted = against() == Against.SCAN ? Against.BEFORE : Against.SCAN;
    session.changed();
  }

  /** What it is compared with, in words. */
  public String words() {
    return against() != Against.SCAN
        ? before.words()
        : AppWords.of(isCast ? "deviation.the-cast" : "deviation.the-scan");
  }

  /** What was measured of the mesh that is shown; null where it was not, or is being measured. */
  public Deviation now() {
    Mesh r = reference();
    return r == null ? null : of(mesh, r);
  }

  /** Why there is nothing measured; null where it was, or is to be. */
  public Failure failure() {
    return mesh == askedMesh ? failure : null;
  }

  private Mesh reference() {
    return against() == null ? null : against() == Against.SCAN ? scan : earlier;
  }

  private Deviation of(Mesh m, Mesh reference) {
    for (Deviation d : known) {
      if (d.mesh() == m && d.reference() == reference) {
        return d;
      }
    }
    return null;
  }

  /**
   * Finds what there is to compare a mesh with.
   *
   * @param of the mesh of a state that would be shown
   */
  void look(Workpiece w, Mesh m, Function<Workpiece, Mesh> of) {
    mesh = m;
    Workpiece whole = session.lookBack() < 0 ? session.whole() : null;
    Mesh whatever = whole == null ? w.scan() : whole.scan();
    scan = w.scan() != m ? w.scan() : whatever != m ? whatever : null;
    // Where a tool shows the Scan alone it is held against what is modelled over it.
    Workpiece now = session.lookBack() < 0 ? session.current() : null;
    boolean isOver = now != null && session.stage().showsCast() && now.scan() == m;
    isCast = scan == null && isOver && now.cast() != null;
    scan = isCast ? now.cast() : scan;
    before.find(session::changed);
    Workpiece b = before.state();
    earlier = b == null || of.apply(b) == m || of.apply(b) == scan ? null : of.apply(b);
  }

  /** Something else is looked at: no mesh is held for what is not to be seen. */
  void rest() {
    if (askedMesh != null) {
      session.jobs().stopLooking(this);
    }
    mesh = null;
    scan = null;
    earlier = null;
    askedMesh = null;
    askedReference = null;
    marked = null;
    ranged = null;
  }

  /** Measures what is to be seen, unless that is known or was tried in vain. */
  void measure() {
    Mesh r = reference();
    if (r == null || now() != null || mesh == askedMesh && r == askedReference) {
      return;
    }
    measure(mesh, r);
  }

  /** Measures a mesh that is shown beside it as well, once its own is known. */
  void measureBeside(Workpiece beside, Function<Workpiece, Mesh> of) {
    Mesh other = beside == null ? null : of.apply(beside);
    Mesh otherScan = beside == null ? null : beside.scan();
    boolean ready = now() != null && other != null && other != otherScan;
    boolean asked = other == askedMesh && otherScan == askedReference;
    if (ready && against() == Against.SCAN && of(other, otherScan) == null && !asked) {
      measure(other, otherScan);
    }
  }

  private void measure(Mesh m, Mesh r) {
    askedMesh = m;
    askedReference = r;
    failure = null;
    session
        .jobs()
        .look(
            this,
            AppWords.of("deviation.measuring"),
            work -> {
              try (Claim room = Claim.of(Deviation.memory(m, r))) {
                room.require(PATIENCE, AppWords.of("deviation.measuring"), work);
                return Deviation.of(m, r, work);
              }
            },
            d -> {
              keep(d);
              session.changed();
            },
            f -> {
              failure = f;
              session.changed();
            });
  }

  private void keep(Deviation d) {
    known.addFirst(d);
    long size = (long) d.mesh().triangleCount() + d.reference().triangleCount();
    while (known.size() > (size > LARGE ? 1 : KEPT)) {
      known.removeLast();
    }
  }

  @Override
  public void letGo() {
    known.clear();
    askedMesh = null;
    askedReference = null;
  }

  /** Marks the place that is farthest off, from now on; returns it in base coordinates. */
  public double[] markWorst() {
    marked = now();
    session.changed();
    return marked == null ? null : marked.both().at();
  }

  /** The mark of the place that is farthest off, where it was asked for. */
  List<Layer> layers(Similarity toWork) {
    return marked == null || marked != now()
        ? List.of()
        : List.of(
            new DotLayer(
                toWork.apply(marked.both().at()), DotLayer.Form.RING, INK, 33, Layer.Hidden.SHOWN));
  }

  /** How far the colours reach, in base units; above 0. */
  public double range() {
    Deviation d = now();
    if (d == null) {
      return 1;
    }
    if (ranged != d) {
      ranged = d;
      double usual = BEYOND * Math.max(d.forth().summary().p95(), 0.1 * d.forth().summary().max());
      range = Math.max(usual, least(d));
    }
    return range;
  }

  /** Takes another reach of the colours, within reason. */
  public void setRange(double to) {
    Deviation d = now();
    if (d != null && to > 0) {
      double most = Math.max(4 * d.both().max(), least(d));
      range = Math.clamp(to, Math.min(least(d), most), most);
      ranged = d;
      session.changed();
    }
  }

  /** Goes back to the reach it began with. */
  public void usualRange() {
    ranged = null;
    session.changed();
  }

  private static double least(Deviation d) {
    return Math.max(1e-6 * d.mesh().bounds().diagonal(), Double.MIN_NORMAL);
  }

  /** The tolerance that the mesh was made by, in base units; 0 for none. */
  public double tolerance() {
    if (!session.isOpen() || session.history() == null) {
      return 0;
    }
    List<History.Line> lines = session.history().lines();
    int end = session.lookBack() >= 0 ? session.lookBack() : lines.size();
    for (int i = end - 1; i >= 0; i--) {
      if (lines.get(i).entry().on() && makes(lines.get(i).entry().step())) {
        Length t = tolerance(lines.get(i).entry().step());
        return t == null ? 0 : session.shown().frame().toBaseLength(t.metres());
      }
    }
    return 0;
  }

  private static boolean makes(Step s) {
    return s instanceof Decimate
        || s instanceof Remesh
        || s instanceof Resurface
        || s instanceof MakeLevels;
  }

  private static Length tolerance(Step s) {
    return switch (s) {
      case Decimate d -> d.tolerance();
      case Remesh r -> r.tolerance();
      default -> null;
    };
  }

  /** The colours of a mesh; null where nothing is known of it. */
  Readings readings(Mesh m) {
    Deviation d = mesh == m ? now() : null;
    for (Deviation other : known) {
      boolean besides = other.mesh() == m && against() == Against.SCAN;
      d = d == null && besides ? other : d;
    }
    return d == null ? null : new Readings(d.forth().signed(), range(), tolerance());
  }

  /** The same scale for the legend, without a mesh. */
  public Readings scale() {
    return new Readings(new float[0], range(), tolerance());
  }
}
