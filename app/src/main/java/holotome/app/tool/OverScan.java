package holotome.app.tool;

import holotome.app.model.Session;
import holotome.core.log.History;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.polygon.FaceLists;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import java.util.List;
import java.util.function.Supplier;

/**
 * For tools that make the Cast of a few faces: the Scan is what is seen while they are at hand, and
 * the edges of what would be made are drawn over it.
 */
final class OverScan {
  private final Session session;
  private double[] edges;
  private Workpiece edgesOf;
  private Workpiece bare;
  private Workpiece bareOf;

  OverScan(Session session) {
    this.session = session;
  }

  /** Takes over what was tried. */
  void tried(History trial) {
    edgesOf = session.current();
    Workpiece made = trial.current();
    edges = edges(FaceLists.of(made.cast()).placed(made.frame().toWork()));
    session.changed();
  }

  /** The edges of what was last tried, as {@link Tool#surfaceLines} has them. */
  double[] lines() {
    return edgesOf != null && edgesOf == session.current() ? edges : null;
  }

  /** Nothing is to be made now. */
  void forget() {
    edges = null;
  }

  /** Lets go of all. */
  void end() {
    edges = null;
    edgesOf = null;
    bare = null;
    bareOf = null;
  }

  /** The Scan alone where there is a Cast, unless what the Sheet says was made just now. */
  Workpiece shows(Supplier<Step> step) {
    return isDone(step) ? null : bare();
  }

  /** The Scan alone where there is a Cast; null where there is none. */
  Workpiece bare() {
    Workpiece w = session.current();
    if (w == null || w.cast() == null) {
      return null;
    }
    if (bareOf != w) {
      bareOf = w;
      bare = w.with(Part.CAST, null).with(Part.MAPS, null);
    }
    return bare;
  }

  /** Whether the last entry is what the Sheet says: then what came of it is seen. */
  boolean isDone(Supplier<Step> step) {
    try {
      List<History.Line> lines = session.history().lines();
      return !lines.isEmpty() && step.get().equals(lines.getLast().entry().step());
    } catch (Failure f) {
      return false;
    }
  }

  /** The edges of faces, both ends of each, 6 doubles an edge. */
  static double[] edges(FaceLists faces) {
    List<int[]> edges = faces.edges();
    double[] out = new double[6 * edges.size()];
    for (int e = 0; e < edges.size(); e++) {
      System.arraycopy(faces.xyz(), 3 * edges.get(e)[0], out, 6 * e, 3);
      System.arraycopy(faces.xyz(), 3 * edges.get(e)[1], out, 6 * e + 3, 3);
    }
    return out;
  }
}
