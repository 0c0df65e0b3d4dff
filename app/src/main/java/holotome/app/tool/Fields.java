package holotome.app.tool;

import holotome.core.step.StepKind;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Input fields for the parameters of a kind of step, made from its description. */
final class Fields {
  private final VBox box = new VBox(6);
  private final Map<String, Supplier<Object>> readers = new LinkedHashMap<>();
  private final Map<String, Node> nodes = new LinkedHashMap<>();
  private final Map<String, Region> rows = new LinkedHashMap<>();
  private final Runnable edited;

  Fields(Runnable edited) {
    this.edited = edited;
  }

  VBox box() {
    return box;
  }

  /** The values as they stand, as plain values; empty texts left out. */
  Map<String, Object> values() {
    Map<String, Object> out = new LinkedHashMap<>();
    readers.forEach(
        (name, reader) -> {
          Object v = reader.get();
          if (v != null) {
            out.put(name, v);
          }
        });
    return out;
  }

  /** Adds a parameter of a step; {@code value} is its present value, or null for the preset. */
  void add(StepKind.Field f, Object value) {
    Object v = value != null ? value : f.preset().isEmpty() ? null : f.preset();
    String label = words(f.name());
    if (!f.choices().isEmpty()) {
      addChoice(f.name(), label, f.help(), f.choices(), v);
    } else if (f.type().equals("true | false")) {
      CheckBox c = new CheckBox(label);
      c.setSelected("true".equals(String.valueOf(v)));
      c.setOnAction(e -> edited.run());
      put(f.name(), c, c, () -> c.isSelected(), f.help());
    } else {
      String unit = f.unit();
      addText(f.name(), label, f.help(), v == null ? "" : text(v, f, unit), unit);
    }
  }

  private static String text(Object v, StepKind.Field f, String unit) {
    if (v instanceof Number n) {
      double d = n.doubleValue();
      String s =
          d == Math.rint(d) ? Long.toString((long) d) : String.format(Locale.ROOT, "%.6g", d);
      return f.type().equals("length")
          ? holotome.core.step.Length.format(d, true).replace(",", "")
          : s;
    }
    return v instanceof java.util.List<?> l
        ? String.join(", ", l.stream().map(String::valueOf).toList())
        : v.toString();
  }

  private void addChoice(
      String name, String label, String help, java.util.List<String> choices, Object value) {
    ChoiceBox<String> c = new ChoiceBox<>();
    // Symbols of units keep their case.
    c.getItems().setAll(choices.stream().map(x -> name.equals("unit") ? x : words(x)).toList());
    int at = value == null ? 0 : Math.max(0, choices.indexOf(value.toString()));
    boolean none = value == null;
    if (none) {
      c.getItems().addFirst("as usual");
    }
    c.getSelectionModel().select(at);
    c.setOnAction(e -> edited.run());
    put(
        name,
        c,
        row(label, c),
        () -> {
          int i = c.getSelectionModel().getSelectedIndex() - (none ? 1 : 0);
          return i < 0 ? null : choices.get(i);
        },
        help);
  }

  TextField addText(String name, String label, String help, String value, String unit) {
    TextField t = new TextField(value);
    t.setPrefColumnCount(9);
    t.textProperty().addListener((o, was, is) -> edited.run());
    Node field = t;
    if (!unit.isEmpty()) {
      Label u = new Label(unit);
      u.getStyleClass().addAll("soft", "small");
      HBox h = new HBox(6, t, u);
      h.setAlignment(Pos.CENTER_RIGHT);
      field = h;
    }
    put(name, t, row(label, field), () -> t.getText().isBlank() ? null : t.getText().strip(), help);
    return t;
  }

  private void put(String name, Node control, Region row, Supplier<Object> reader, String help) {
    control.setId("field-" + name);
    Tooltip.install(row, new Tooltip(help));
    readers.put(name, reader);
    nodes.put(name, control);
    rows.put(name, row);
    box.getChildren().add(row);
  }

  void show(String name, boolean visible) {
    rows.get(name).setVisible(visible);
    rows.get(name).setManaged(visible);
  }

  Node node(String name) {
    return nodes.get(name);
  }

  static HBox row(String label, Node field) {
    Label l = new Label(label);
    l.setMinWidth(Region.USE_PREF_SIZE);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox h = new HBox(8, l, gap, field);
    h.setAlignment(Pos.CENTER_LEFT);
    return h;
  }

  static String words(String name) {
    String s = name.replace('-', ' ');
    return s.isEmpty() ? s : Character.toUpperCase(s.charAt(0)) + s.substring(1);
  }
}
