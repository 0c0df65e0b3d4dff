package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unwrap.SparseHidden;
import holotome.view.scene.Look;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/**
 * Finds what is hidden, and shows what came of it. From where it will be looked at is told by
 * looking from there.
 */
final class HiddenTool extends StepTool {
  private static final String VIEWS = "views";

  private final StepKind kind = StepKind.of(SparseHidden.class);
  private final Button add = new Button(AppWords.of("hidden-tool.add"));
  private final Button forget = new Button(AppWords.of("hidden-tool.forget"));
  private final Label known = new Label();
  private final VBox looking = new VBox(6, new HBox(6, add, forget), known);
  private ViewPort view;

  /** Towards those who look, in working space. */
  private double[] views = {};

  HiddenTool(Session session) {
    super(
        session,
        SparseHidden.class,
        Stage.UNWRAP,
        false,
        Map.of(),
        (s, t) -> AppWords.of("tools.give-less-to-it"),
        w -> List.of());
    add.setId("unwrap-hidden-add");
    add.getStyleClass().setAll("small-button");
    add.setOnAction(e -> addView());
    forget.setId("unwrap-hidden-forget");
    forget.getStyleClass().setAll("small-button");
    forget.setOnAction(e -> take(new double[0]));
    known.setId("unwrap-hidden-known");
    known.setWrapText(true);
    known.getStyleClass().addAll("soft", "small");
  }

  private void addView() {
    if (view != null) {
      double[] more = Arrays.copyOf(views, views.length + 3);
      System.arraycopy(Vec.mul(view.camera().forward(), -1), 0, more, views.length, 3);
      take(more);
    }
  }

  private void take(double[] now) {
    views = now;
    show();
    edited();
  }

  private static boolean isAsked(Map<String, Object> values) {
    return "views".equals(values.get("from")) && !"blank".equals(values.get("what"));
  }

  /** Only where single directions are asked for. */
  private void show() {
    boolean isAsked = isAsked(values());
    looking.setVisible(isAsked);
    looking.setManaged(isAsked);
    forget.setDisable(views.length == 0);
    known.setText(
        views.length == 0
            ? AppWords.of("hidden-tool.none")
            : AppWords.count("hidden-tool.known", views.length / 3));
  }

  @Override
  public Look look() {
    return Look.IMPORTANCE;
  }

  @Override
  public Node form() {
    Node form = super.form();
    hide(VIEWS);
    show();
    return new VBox(8, form, looking);
  }

  @Override
  public Step step() {
    show();
    Map<String, Object> v = new LinkedHashMap<>(values());
    v.remove(VIEWS);
    if (isAsked(v) && views.length > 0) {
      v.put(VIEWS, StepKind.plain(views));
    }
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    double[] stored = ((SparseHidden) step).views();
    views = stored == null ? new double[0] : stored;
  }

  @Override
  public void begin(ViewPort port) {
    view = port;
  }

  @Override
  public void end(ViewPort port) {
    view = null;
  }
}
