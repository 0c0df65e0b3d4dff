package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.bake.SetTone;
import holotome.core.image.Image;
import holotome.core.image.LinearLight;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;

/** Sets the tone of the colour map; a click in either pane says what is to be grey. */
final class ToneTool extends StepTool implements FlatTool {
  /** The colour is the mean of so many texels to each side of the one that is clicked. */
  private static final int AROUND = 2;

  private final StepKind kind = StepKind.of(SetTone.class);
  private final Label hint = new Label(AppWords.of("tone-tool.click"));
  private final Label where = new Label();
  private final SelectedPart selected;

  ToneTool(Session session) {
    super(
        session,
        SetTone.class,
        Stage.BAKE,
        true,
        Map.of(),
        (s, t) -> AppWords.of("tone-tool.set"),
        w -> List.of());
    selected = new SelectedPart(session, kind);
    where.setId("tone-where");
    for (Label l : List.of(hint, where)) {
      l.setWrapText(true);
      l.getStyleClass().addAll("soft", "small");
    }
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide("picks");
    showSoft();
    return new VBox(8, form, where, hint);
  }

  /** Asks for the border's width only where something is selected. */
  private void showSoft() {
    if (selected.isSome()) {
      reveal("soft");
    } else {
      hide("soft");
    }
  }

  /** Where something is selected the tone is set there alone. */
  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    selected.put(v);
    where.setText(selected.words(AppWords.of("tone-tool.everywhere")));
    showSoft();
    if (!selected.isSome()) {
      v.remove("soft");
    }
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    selected.load(step);
  }

  @Override
  public void end(ViewPort view) {
    super.end(view);
    selected.clear();
  }

  @Override
  public boolean takesClicks() {
    return true;
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    Workpiece w = session.current();
    Mesh cast = w == null ? null : w.cast();
    if (cast == null || cast.uv() == null || w.maps() == null) {
      return;
    }
    view.pickTriangle(
        e.getX(),
        e.getY(),
        (triangle, point) -> {
          if (triangle >= 0 && session.current() == w) {
            double[] uv = NearTexture.texture(cast, triangle, w.frame().toBase(point));
            take(w.maps(), uv[0], uv[1]);
          }
        });
  }

  /** Takes the colour of a place of the texture for grey. */
  private void take(Maps maps, double u, double v) {
    Image colour = maps.pictures().get(MapKind.COLOUR);
    if (colour == null) {
      return;
    }
    int x = (int) Math.floor(u * maps.size());
    int y = (int) Math.floor((maps.rows() - v) * maps.size());
    double[] light = new double[3];
    int n = 0;
    for (int j = y - AROUND; j <= y + AROUND; j++) {
      for (int i = x - AROUND; i <= x + AROUND; i++) {
        if (i >= 0 && j >= 0 && i < colour.width() && j < colour.height()) {
          for (int c = 0; c < 3; c++) {
            light[c] += colour.light(i, j, c);
          }
          n++;
        }
      }
    }
    if (n == 0) {
      return;
    }
    StringBuilder text = new StringBuilder();
    for (double l : light) {
      text.append(text.isEmpty() ? "" : " ").append(Math.max(1, LinearLight.storedByte(l / n)));
    }
    fill("grey", text.toString());
  }

  @Override
  public boolean isMaking() {
    return false;
  }

  @Override
  public void flatPressed(FlatPort pane, MouseEvent e) {
    double[] uv = pane.place(e.getX(), e.getY());
    Workpiece w = session.current();
    if (w != null && w.maps() != null) {
      take(w.maps(), uv[0], uv[1]);
    }
  }

  @Override
  public void flatDragged(FlatPort pane, MouseEvent e) {}

  @Override
  public void flatReleased(FlatPort pane, MouseEvent e) {}

  @Override
  public void drawFlat(FlatPort pane, GraphicsContext g) {}
}
