package holotome.app.tool;

import holotome.app.model.EditingProxy;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.polygon.FaceLists;
import holotome.core.proxy.ProxyEdit.How;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.FlowPane;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;

/** The Sheet of {@link ProxyEditTool}: what a click takes and what can be done to it. */
final class ProxyEditForm {
  private static final Map<How, KeyCode> KEYS =
      Map.ofEntries(
          Map.entry(How.PULL, KeyCode.P),
          Map.entry(How.INSET, KeyCode.I),
          Map.entry(How.BEVEL, KeyCode.V),
          Map.entry(How.SPLIT, KeyCode.D),
          Map.entry(How.RING, KeyCode.N),
          Map.entry(How.MERGE, KeyCode.J),
          Map.entry(How.BRIDGE, KeyCode.G),
          Map.entry(How.CAP, KeyCode.A),
          Map.entry(How.CUT, KeyCode.K),
          Map.entry(How.MIRROR, KeyCode.Y),
          Map.entry(How.STRIP, KeyCode.H),
          Map.entry(How.DISSOLVE, KeyCode.U),
          Map.entry(How.DELETE, KeyCode.DELETE));

  private final ProxyEditTool tool;
  private final EditingProxy hand;
  private final ChoiceBox<String> takes = new ChoiceBox<>();
  private final Along along = new Along("proxy-along");
  private final CheckBox scan = new CheckBox(AppWords.of("proxy-edit-form.scan"));
  private final CheckBox onto = new CheckBox(AppWords.of("proxy-edit-form.onto"));
  private final CheckBox handles = new CheckBox(AppWords.of("proxy-edit-form.handles"));
  private final TextField far = new TextField("20 cm");
  private final TextField share = new TextField("50 %");
  private final TextField by = new TextField("0 0 0");
  private final TextField turn = new TextField("15°");
  private final TextField times = new TextField("1.1");
  private final Map<How, Button> buttons = new EnumMap<>(How.class);
  private final Label made = new Label();
  private final VBox box = new VBox(6);
  private ViewPort view;

  ProxyEditForm(ProxyEditTool tool, EditingProxy hand) {
    this.tool = tool;
    this.hand = hand;
    for (String t : List.of("nearest", "points", "edges", "faces")) {
      takes.getItems().add(AppWords.of("proxy-edit-form." + t));
    }
    takes.getSelectionModel().select(0);
    takes.setId("proxy-takes");
    takes.setAccessibleText(AppWords.of("edit-form.takes"));
    takes.setMaxWidth(Double.MAX_VALUE);
    scan.setId("proxy-scan");
    scan.setSelected(true);
    scan.selectedProperty().addListener((o, was, is) -> seen());
    onto.setId("proxy-onto");
    handles.setId("proxy-handles");
    handles.selectedProperty().addListener((o, was, is) -> tool.seenAnew());
    FlowPane flow = new FlowPane(6, 6);
    for (How how :
        List.of(
            How.PULL,
            How.INSET,
            How.BEVEL,
            How.SPLIT,
            How.RING,
            How.MERGE,
            How.BRIDGE,
            How.CAP,
            How.CUT,
            How.MIRROR,
            How.STRIP,
            How.DISSOLVE,
            How.DELETE)) {
      flow.getChildren().add(button(how));
    }
    GridPane choices = grid();
    choices.addRow(0, new Label(AppWords.of("proxy-edit-form.takes")), takes);
    choices.addRow(1, new Label(AppWords.of("proxy-edit-form.moves")), along.box());
    GridPane grid = grid();
    row(grid, 0, "far", far, null);
    row(grid, 1, "share", share, null);
    row(grid, 2, "move", by, How.MOVE);
    row(grid, 3, "turn", turn, How.TURN);
    row(grid, 4, "scale", times, How.SCALE);
    made.getStyleClass().addAll("soft", "small");
    made.setId("proxy-made");
    box.getChildren().addAll(choices, scan, onto, handles, flow, grid, made);
  }

  private static GridPane grid() {
    GridPane grid = new GridPane();
    grid.setHgap(8);
    grid.setVgap(4);
    ColumnConstraints wide = new ColumnConstraints();
    wide.setHgrow(Priority.ALWAYS);
    grid.getColumnConstraints().addAll(new ColumnConstraints(), wide, new ColumnConstraints());
    return grid;
  }

  private Button button(How how) {
    String id = how.name().toLowerCase(Locale.ROOT);
    Button b = new Button(AppWords.of("proxy-edit-form." + id));
    b.setId("proxy-" + id);
    b.getStyleClass().setAll("small-button");
    KeyCode key = KEYS.get(how);
    String tip = AppWords.of("proxy-edit-form.tip." + id);
    String words =
        key == KeyCode.DELETE ? AppWords.keys("Delete") : key == null ? "" : key.getName();
    b.setTooltip(new Tooltip(key == null ? tip : AppWords.of("common.keyed", tip, words)));
    b.setOnAction(e -> run(how));
    buttons.put(how, b);
    return b;
  }

  private void row(GridPane grid, int row, String name, TextField field, How how) {
    Label label = new Label(AppWords.of("proxy-edit-form.field." + name));
    label.setLabelFor(field);
    field.setId("proxy-field-" + name);
    field.setAccessibleText(label.getText());
    field.setPrefColumnCount(8);
    grid.addRow(row, label, field);
    if (how != null) {
      field.setOnAction(e -> run(how));
      grid.add(button(how), 2, row);
    }
  }

  Node node() {
    return box;
  }

  Along along() {
    return along;
  }

  /** The view in which the tool is at hand; null for none. */
  void take(ViewPort port) {
    view = port;
  }

  ViewPort view() {
    return view;
  }

  /** What a click takes: 1 points, 2 edges, 3 faces, 0 whatever is nearest. */
  int size() {
    return takes.getSelectionModel().getSelectedIndex();
  }

  boolean isScanSeen() {
    return scan.isSelected();
  }

  /** Whether what is dragged goes where the Scan is under the pointer. */
  boolean isOnScan() {
    return scan.isSelected() && onto.isSelected();
  }

  boolean hasHandles() {
    return handles.isSelected();
  }

  private void seen() {
    onto.setVisible(scan.isSelected());
    onto.setManaged(scan.isSelected());
    tool.seenAnew();
  }

  /** The mean of all corners. */
  static double[] middle(List<Feature> of) {
    double[] sum = new double[3];
    List<double[]> all = Feature.all(of);
    for (double[] p : all) {
      sum = Vec.add(sum, p);
    }
    return Vec.mul(sum, 1.0 / Math.max(1, all.size()));
  }

  private int count(int size) {
    return (int) tool.chosen().stream().filter(f -> Math.min(3, f.size()) == size).count();
  }

  private boolean can(How how) {
    int faces = count(3);
    int edges = count(2);
    int points = count(1);
    return (hand.faces() != null || how == How.STRIP)
        && switch (how) {
          case PULL, INSET -> faces > 0;
          case BEVEL, SPLIT, RING, CAP -> edges > 0;
          case MERGE -> Feature.all(tool.chosen()).size() > 1;
          case BRIDGE -> faces == 2 || faces == 0 && edges == 2;
          case DISSOLVE -> edges + points > 0;
          case CUT, MIRROR, STRIP -> true;
          case MOVE, TURN, SCALE, DELETE -> faces + edges + points > 0;
        };
  }

  /** Brings buttons in line with what is chosen and done. */
  void update() {
    buttons.forEach((how, b) -> b.setDisable(!can(how)));
    int n = hand.edits().size();
    made.setText(n > 0 ? AppWords.count("edit-form.made", n) : "");
    FaceLists f = hand.faces();
    if (n == 0 && f != null) {
      made.setText(AppWords.of("proxy-edit-form.has", f.faces().length, f.vertexCount()));
    }
  }

  boolean key(KeyCode code) {
    for (Map.Entry<How, KeyCode> e : KEYS.entrySet()) {
      boolean isIt = e.getValue() == code || e.getKey() == How.DELETE && code == KeyCode.BACK_SPACE;
      if (isIt && !buttons.get(e.getKey()).isDisabled()) {
        run(e.getKey());
        return true;
      }
    }
    return false;
  }

  private void run(How how) {
    try {
      act(how);
      // The button may be of no use after that; keys are for what is seen, not for the next field.
      if (view != null) {
        view.requestFocus();
      }
    } catch (Failure f) {
      made.setText(f.getMessage());
    }
  }

  private void act(How how) {
    switch (how) {
      case PULL -> {
        double l = Length.parse(far.getText()).metres();
        double[] normal = tool.normal();
        boolean isOne = count(3) == 1 && normal != null;
        List<Feature> then =
            isOne
                ? tool.chosen().stream()
                    .filter(f -> f.size() > 2)
                    .map(f -> f.moved(Vec.mul(normal, l)))
                    .toList()
                : List.of();
        tool.make(how, null, null, tool.inFile(l), then);
      }
      case INSET, BEVEL ->
          tool.make(how, null, null, tool.inFile(Length.parse(far.getText()).metres()), List.of());
      case SPLIT, RING -> tool.make(how, null, null, number(share) / 100, List.of());
      case MOVE -> tool.move(three());
      case TURN -> tool.make(how, axis(2), null, number(turn), List.of());
      case SCALE ->
          tool.make(how, along.isAxis() ? axis(0) : null, null, number(times), tool.chosen());
      case MIRROR -> {
        double[] n = axis(0);
        double side = tool.chosen().isEmpty() ? 1 : Vec.dot(middle(tool.chosen()), n);
        tool.make(how, Vec.mul(n, side < 0 ? -1 : 1), new double[3], null, List.of());
      }
      case CUT -> tool.cutNext(!tool.isCutting());
      case STRIP -> tool.stripNext(!tool.isStripping());
      default -> tool.make(how, null, null, null, List.of());
    }
  }

  /** The distance that is filled in, in metres; a tenth where that is none. */
  double far() {
    try {
      return Math.max(1e-6, Math.abs(Length.parse(far.getText()).metres()));
    } catch (Failure f) {
      return 0.1;
    }
  }

  /** The axis that a drag goes along, or another one where it goes along none. */
  private double[] axis(int usual) {
    double[] own = along.axis(tool.normal());
    double[] out = new double[3];
    out[usual] = 1;
    return own == null ? out : own;
  }

  private static double number(TextField field) {
    String text = field.getText().replaceAll("[%°×]", "").strip().replace(',', '.');
    try {
      return Double.parseDouble(text);
    } catch (NumberFormatException e) {
      throw Failure.usage(AppWords.of("proxy-edit-form.number", field.getText()));
    }
  }

  /** Three lengths in working space, in metres. */
  private double[] three() {
    String[] parts = by.getText().strip().split("[\\s;]+(?=[-+0-9.])");
    if (parts.length != 3) {
      throw Failure.usage(AppWords.of("proxy-edit-form.three", by.getText()));
    }
    double[] out = new double[3];
    for (int k = 0; k < 3; k++) {
      out[k] = Length.parse(parts[k]).metres();
    }
    return out;
  }
}
