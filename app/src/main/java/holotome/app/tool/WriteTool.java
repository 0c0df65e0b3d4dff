package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.AxisPreset;
import holotome.core.log.History;
import holotome.core.map.MapRule.Values;
import holotome.core.mesh.TextureRectangle;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.ship.WriteAsset;
import holotome.core.step.Step;
import java.io.File;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Function;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.OverrunStyle;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;

/** Writes the asset: the step's own parameters, and the folder that files go to. */
public final class WriteTool extends StepTool {
  private final AxisDrawing axes = new AxisDrawing();

  public WriteTool(
      Session session,
      BiFunction<Step, History, String> verb,
      Function<Workpiece, List<Row>> estimate) {
    super(session, WriteAsset.class, Stage.SHIP, false, Map.of(), verb, estimate);
  }

  @Override
  public Node form() {
    if (session.isOpen() && !isSet("name")) {
      String name = session.source().getFileName().toString();
      int dot = name.lastIndexOf('.');
      set("name", dot > 0 ? name.substring(0, dot) : name);
    }
    Node fields = super.form();
    if (!session.isOpen()) {
      return fields;
    }
    Label folder = new Label(session.output().toString());
    folder.setId("folder");
    folder.setTextOverrun(OverrunStyle.LEADING_ELLIPSIS);
    folder.setTooltip(new Tooltip(session.output().toString()));
    Button choose = new Button(AppWords.of("write-tool.choose-a-folder"));
    choose.setId("choose-folder");
    choose.getStyleClass().setAll("link");
    choose.setOnAction(e -> choose(choose, folder));
    drawAxes();
    showWhatIsPictured();
    return new VBox(6, fields, axes, Fields.row(AppWords.of("write-tool.into"), folder), choose);
  }

  @Override
  protected void changed() {
    drawAxes();
    showWhatIsPictured();
  }

  /** Asks how pictures are written only where there are such pictures, and the format has any. */
  private void showWhatIsPictured() {
    Workpiece w = session.current();
    Maps maps = w == null ? null : w.maps();
    Object given = values().get("format");
    String destination = String.valueOf(values().get("for"));
    String usual = destination.equals("engine") ? "glb" : destination.equals("render") ? "obj" : "";
    String format = given == null ? usual : given.toString();
    boolean isPictured = maps != null && (format.equals("glb") || format.equals("obj"));
    show("pixels", isPictured);
    show("repeat", w != null && TextureRectangle.of(w.current()) != null);
    show("squares", isPictured && maps.columns() * maps.rows() > 1);
    show("measured", isPictured && !maps.ranges().isEmpty());
    show(
        "green",
        isPictured
            && format.equals("obj")
            && maps.pictures().keySet().stream()
                .anyMatch(k -> k.rule().values() == Values.TANGENT_DIRECTION));
  }

  private void show(String field, boolean isWanted) {
    if (isWanted) {
      reveal(field);
    } else {
      hide(field);
    }
  }

  /** Shows what the written coordinates mean. */
  private void drawAxes() {
    Object given = values().get("axes");
    String destination = String.valueOf(values().get("for"));
    AxisPreset preset =
        given != null
            ? AxisPreset.valueOf(given.toString().toUpperCase(Locale.ROOT).replace('-', '_'))
            : switch (destination) {
              case "print", "engineering" -> AxisPreset.MILLIMETRES_Z_UP;
              case "render" -> AxisPreset.METRES_Z_UP;
              case "capture" -> null;
              default -> AxisPreset.METRES_Y_UP;
            };
    axes.show(preset);
  }

  private void choose(Button near, Label folder) {
    DirectoryChooser c = new DirectoryChooser();
    c.setTitle(AppWords.of("write-tool.choose-where-files-are-written"));
    File f = c.showDialog(near.getScene().getWindow());
    if (f != null) {
      session.setOutput(f.toPath());
      folder.setText(f.toString());
      folder.setTooltip(new Tooltip(f.toString()));
    }
  }
}
