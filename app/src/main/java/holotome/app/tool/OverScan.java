package holotome.app.tool;

import holotome.app.model.Session;
import holotome.core.attribute.Attribute;
import holotome.core.log.History;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import java.util.Arrays;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.Supplier;
import java.util.stream.DoubleStream;

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
    edges = edges(trial.current());
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
    Workpiece w = session.current();
    if (w == null || w.cast() == null || isDone(step)) {
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

  /** The edges between faces of the Cast, both ends of each, in working space. */
  static double[] edges(Workpiece made) {
    Mesh m = made.cast();
    Attribute face = m.attributes().named(Attribute.FACE);
    int[] tri = m.triangles();
    Map<Long, Integer> beyond = new HashMap<>();
    for (int c = 0; c < tri.length; c++) {
      int to = tri[c % 3 == 2 ? c - 2 : c + 1];
      beyond.put((long) tri[c] << 32 | to, faceOf(face, c / 3));
    }
    DoubleStream.Builder out = DoubleStream.builder();
    for (int c = 0; c < tri.length; c++) {
      int to = tri[c % 3 == 2 ? c - 2 : c + 1];
      Integer other = beyond.get((long) to << 32 | tri[c]);
      if (other == null || tri[c] < to && other != faceOf(face, c / 3)) {
        for (int v : new int[] {tri[c], to}) {
          double x = m.xyz()[3 * v];
          double[] p = made.frame().toWork().apply(x, m.xyz()[3 * v + 1], m.xyz()[3 * v + 2]);
          Arrays.stream(p).forEach(out::add);
        }
      }
    }
    return out.build().toArray();
  }

  private static int faceOf(Attribute face, int triangle) {
    return face == null ? triangle : face.ints()[triangle];
  }
}
