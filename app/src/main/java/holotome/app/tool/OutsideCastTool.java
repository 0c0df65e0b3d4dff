package holotome.app.tool;

import holotome.app.model.MeshFiles;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.intake.OpenCast;
import java.io.File;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** Opens a mesh that was modelled elsewhere as the Cast: its file is chosen, or its path typed. */
final class OutsideCastTool extends StepTool {

  OutsideCastTool(Session session) {
    super(
        session,
        OpenCast.class,
        Stage.REDUCE,
        false,
        Map.of(),
        (s, t) -> AppWords.of("outside-cast-tool.open"),
        w -> List.of());
  }

  @Override
  public Node form() {
    Node fields = super.form();
    Button choose = new Button(AppWords.of("outside-cast-tool.choose"));
    choose.setId("choose-cast");
    choose.getStyleClass().setAll("link");
    choose.setOnAction(e -> choose(choose));
    return new VBox(8, choose, fields);
  }

  private void choose(Button near) {
    FileChooser c = new FileChooser();
    c.setTitle(AppWords.of("outside-cast-tool.choose"));
    c.getExtensionFilters()
        .add(
            new FileChooser.ExtensionFilter(
                AppWords.of("outside-cast-tool.meshes"), MeshFiles.patterns()));
    File f = c.showOpenDialog(near.getScene().getWindow());
    if (f != null) {
      fill("file", f.getPath());
    }
  }

  @Override
  public String missing() {
    boolean named = values().get("file") instanceof String s && !s.isBlank();
    return named ? null : AppWords.of("outside-cast-tool.missing");
  }
}
