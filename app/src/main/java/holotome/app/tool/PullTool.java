package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.mend.PullSurface;
import holotome.core.mesh.Mesh;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Label;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/** Pulls the surface: pressed on it and dragged, in the picture's plane or along an axis. */
final class PullTool extends RegionTool {
  private final Along along = new Along("pull-along");
  private double[] held;
  private double[] normal;
  private double startX;
  private double startY;
  private double lastX;
  private double lastY;
  private int press;

  PullTool(Session session) {
    super(
        session,
        PullSurface.class,
        (s, t) -> AppWords.of("pull-tool.pull"),
        w -> List.of(),
        AppWords.of("pull-tool.everywhere"));
  }

  @Override
  public Node form() {
    Label label = new Label(AppWords.of("pull-tool.along"));
    return new VBox(6, label, along.box(), super.form());
  }

  @Override
  public String missing() {
    return isSet("point") && isSet("by") || session.current() == null
        ? null
        : AppWords.of("pull-tool.press-and-drag");
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    held = null;
    startX = e.getX();
    startY = e.getY();
    lastX = startX;
    lastY = startY;
    int mine = ++press;
    if (e.getButton() == MouseButton.PRIMARY) {
      view.pickTriangle(
          startX,
          startY,
          (t, p) -> {
            if (press == mine && p != null) {
              held = p;
              normal = normal(view.mesh(), t);
              // The pointer may have gone on, or let go, before it was known what it is on.
              pull(view, lastX - startX, lastY - startY);
            }
          });
    }
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    lastX = e.getX();
    lastY = e.getY();
    if (held != null) {
      pull(view, lastX - startX, lastY - startY);
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    dragged(view, e);
  }

  private void pull(ViewPort view, double dx, double dy) {
    double[] by = along.way(view, held, normal, dx, dy);
    if (Vec.length(by) > 0) {
      fill("point", Points.format(held));
      fill("by", Points.format(by));
    }
  }

  private double[] normal(Mesh mesh, int t) {
    double[][] p = new double[3][];
    for (int k = 0; k < 3; k++) {
      int v = 3 * mesh.triangles()[3 * t + k];
      p[k] =
          session
              .current()
              .frame()
              .toWork()
              .apply(mesh.xyz()[v], mesh.xyz()[v + 1], mesh.xyz()[v + 2]);
    }
    double[] n = Vec.cross(Vec.sub(p[1], p[0]), Vec.sub(p[2], p[0]));
    return Vec.length(n) > 0 ? Vec.unit(n) : null;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    super.draw(view, g);
    Object point = values().get("point");
    Object by = values().get("by");
    if (point instanceof String p && by instanceof String b) {
      double[] at = Points.parse(p);
      double[] way = Points.parse(b);
      if (at != null && way != null) {
        double[] end = Vec.add(at, way);
        double[] both = {at[0], at[1], at[2], end[0], end[1], end[2]};
        Marks.line(view, g, both, Marks.VERDIGRIS);
        Marks.ring(g, view.project(end));
      }
    }
  }
}
