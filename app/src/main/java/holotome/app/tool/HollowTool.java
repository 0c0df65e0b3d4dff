package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.mend.HollowOut;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/** Hollows a solid; each click in the view places a drain hole, one on a hole takes it away. */
final class HollowTool extends StepTool {
  /** A hole's width where a place was clicked before one was stated. */
  private static final String WIDTH = "3 mm";

  /** Pixels within which a click means a hole that is there. */
  private static final double NEAR = 8;

  HollowTool(Session session) {
    super(
        session,
        HollowOut.class,
        Stage.MEND,
        false,
        Map.of(),
        (s, t) -> AppWords.of("tools.hollow-it"),
        w -> List.of());
  }

  private List<double[]> places() {
    List<double[]> out = new ArrayList<>();
    if (values().get("at") instanceof String text) {
      String[] n = text.strip().split("[\\s,]+");
      for (int i = 0; i + 2 < n.length; i += 3) {
        double[] p = Points.parse(n[i] + " " + n[i + 1] + " " + n[i + 2]);
        if (p != null) {
          out.add(p);
        }
      }
    }
    return out;
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (e.getButton() != MouseButton.PRIMARY) {
      return;
    }
    List<double[]> places = places();
    boolean taken =
        places.removeIf(
            p -> {
              double[] at = view.project(p);
              return at != null && Math.hypot(at[0] - e.getX(), at[1] - e.getY()) < NEAR;
            });
    if (taken) {
      write(places);
      return;
    }
    view.pick(
        e.getX(),
        e.getY(),
        p -> {
          if (p != null) {
            List<double[]> now = places();
            now.add(p);
            write(now);
          }
        });
  }

  private void write(List<double[]> places) {
    if (!places.isEmpty() && !(values().get("drain") instanceof String)) {
      fill("drain", WIDTH);
    }
    fill("at", String.join("  ", places.stream().map(Points::format).toList()));
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    places().forEach(p -> Marks.ring(g, view.project(p)));
  }
}
