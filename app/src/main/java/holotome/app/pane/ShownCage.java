package holotome.app.pane;

import holotome.app.model.Problems;
import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.bake.CageShell;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import holotome.view.scene.Layer;
import holotome.view.scene.Look;
import holotome.view.scene.MeshLayer;
import java.util.List;

/**
 * From where rays start, as a shell around the Cast; found once it is to be seen. The last one is
 * shown until that is. Lives on the interface thread.
 */
final class ShownCage {
  /** How much of it is seen: the Cast shows through. */
  private static final double STRENGTH = 0.5;

  /** With more triangles its lines would be a blur: then it is a veil. */
  private static final int DENSE = 100_000;

  private final Session session;
  private Mesh scan;
  private Mesh cast;
  private Mesh shell;

  ShownCage(Session session) {
    this.session = session;
    session.onOpen(this::rest);
  }

  /** Nothing is to be seen of it. */
  void rest() {
    session.jobs().stopLooking(this);
    scan = null;
    cast = null;
    shell = null;
  }

  /** The shell as a layer of a scene; none until it is found. */
  List<Layer> layers(Workpiece w) {
    if (w.cast() == null) {
      return List.of();
    }
    find(w);
    if (shell == null) {
      return List.of();
    }
    Look look = shell.triangleCount() > DENSE ? Look.CLAY : Look.WIRE;
    return List.of(new MeshLayer(shell, w.frame().toWork(), look).faint(STRENGTH));
  }

  private void find(Workpiece w) {
    if (w.scan() == scan && w.cast() == cast) {
      return;
    }
    Mesh ofScan = w.scan();
    Mesh ofCast = w.cast();
    scan = ofScan;
    cast = ofCast;
    session
        .jobs()
        .look(
            this,
            AppWords.of("cage-tool.finding"),
            work -> CageShell.of(ofCast, ofScan, work),
            found -> {
              shell = found;
              session.changed();
            },
            f -> {
              if (f.kind() != Failure.Kind.CANCELLED) {
                Problems.note(AppWords.of("cage-tool.finding"), f);
              }
            });
  }
}
