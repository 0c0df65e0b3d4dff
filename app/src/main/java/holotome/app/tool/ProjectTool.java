package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.unwrap.ProjectCharts;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.layout.VBox;

/** Projects charts: also as the space pane looks at them now. */
final class ProjectTool extends ChosenTool {
  private final Button asSeen = new Button(AppWords.of("project-tool.as-seen"));
  private ViewPort view;

  ProjectTool(Session session) {
    super(session, ProjectCharts.class, "project-tool.project");
    asSeen.setId("unwrap-project-as-seen");
    asSeen.getStyleClass().setAll("small-button");
    asSeen.setOnAction(e -> fillAsSeen());
  }

  /** From where the view looks, what is up in it up in the texture. */
  private void fillAsSeen() {
    if (view != null) {
      fill("how", "flat");
      fill("axis", Points.direction(Vec.mul(view.camera().forward(), -1)));
      fill("side", Points.direction(view.camera().up()));
    }
  }

  @Override
  public Node details() {
    return new VBox(6, asSeen, super.details());
  }

  @Override
  public void begin(ViewPort port) {
    view = port;
  }

  @Override
  public void end(ViewPort port) {
    super.end(port);
    view = null;
  }
}
