package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.mend.PullSurface;
import holotome.view.camera.Camera;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/** Pulls the surface: pressed on it and dragged, in the picture's plane or along an axis. */
final class PullTool extends RegionTool {
  private final ChoiceBox<String> along = new ChoiceBox<>();
  private double[] held;
  private double startX;
  private double startY;

  PullTool(Session session) {
    super(
        session,
        PullSurface.class,
        (s, t) -> AppWords.of("pull-tool.pull"),
        w -> List.of(),
        AppWords.of("pull-tool.everywhere"));
    along
        .getItems()
        .addAll(
            AppWords.of("pull-tool.picture"),
            AppWords.of("pull-tool.axis", "X"),
            AppWords.of("pull-tool.axis", "Y"),
            AppWords.of("pull-tool.axis", "Z"));
    along.getSelectionModel().select(0);
    along.setId("pull-along");
    along.setAccessibleText(AppWords.of("pull-tool.along"));
    along.setMaxWidth(Double.MAX_VALUE);
  }

  @Override
  public Node form() {
    Label label = new Label(AppWords.of("pull-tool.along"));
    return new VBox(6, label, along, super.form());
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
    if (e.getButton() == MouseButton.PRIMARY) {
      view.pick(startX, startY, p -> held = p);
    }
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (held != null) {
      pull(view, e.getX() - startX, e.getY() - startY);
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    dragged(view, e);
    held = null;
  }

  private void pull(ViewPort view, double dx, double dy) {
    Camera c = view.camera();
    double depth = Vec.dot(Vec.sub(held, c.eye()), c.forward());
    double unit = c.unitsPerPixel((int) view.height());
    if (c.perspective()) {
      unit *= depth / c.distance();
    }
    double[] by = Vec.add(Vec.mul(c.right(), dx * unit), Vec.mul(c.up(), -dy * unit));
    int axis = along.getSelectionModel().getSelectedIndex() - 1;
    if (axis >= 0) {
      double[] only = new double[3];
      only[axis] = by[axis];
      by = only;
    }
    if (Vec.length(by) > 0) {
      fill("point", Points.format(held));
      fill("by", Points.format(by));
    }
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
