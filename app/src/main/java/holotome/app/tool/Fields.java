package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.step.StepKind;
import holotome.core.step.StepWords;
import holotome.core.words.Language;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.function.Supplier;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Control;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.TextField;
import javafx.scene.control.Tooltip;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Pane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/** Input fields for the parameters of a kind of step, made from its description. */
final class Fields {
  /** Columns that the three numbers of a point take. */
  private static final int POINT = 24;

  /** Boxes to tick, up to so many beside their label, more in columns below it. */
  private static final int IN_A_ROW = 4;

  private static final int COLUMNS = 2;

  private final VBox box = new VBox(6);
  private final Map<String, Supplier<Object>> readers = new LinkedHashMap<>();
  private final Map<String, Node> nodes = new LinkedHashMap<>();
  private final Map<String, Region> rows = new LinkedHashMap<>();
  private final Map<String, StepKind.Field> described = new LinkedHashMap<>();
  private final Set<String> hidden = new HashSet<>();
  private final Runnable listener;
  private boolean writing;

  Fields(Runnable edited) {
    this.listener = edited;
  }

  private void edited(String name) {
    if (writing) {
      return;
    }
    excludeOthers(name);
    showWhatApplies();
    listener.run();
  }

  /** Of parameters that exclude each other, what was just filled in empties the others. */
  private void excludeOthers(String name) {
    StepKind.Field f = described.get(name);
    if (f == null || f.oneOf().isEmpty() || readers.get(name).get() == null) {
      return;
    }
    described.forEach(
        (other, g) -> {
          if (!other.equals(name) && g.oneOf().equals(f.oneOf())) {
            write(other, "");
          }
        });
  }

  private void showWhatApplies() {
    described.forEach((name, f) -> show(name, applies(f) && !hidden.contains(name)));
  }

  private boolean applies(StepKind.Field f) {
    int eq = f.when().indexOf('=');
    if (eq < 0) {
      return true;
    }
    Supplier<Object> other = readers.get(f.when().substring(0, eq));
    if (other == null) {
      // The parameter that it goes with comes later; it is asked again then.
      return true;
    }
    Object now = other.get();
    java.util.List<String> wanted = java.util.List.of(f.when().substring(eq + 1).split("\\|"));
    return now instanceof java.util.List<?> several
        ? several.stream().anyMatch(wanted::contains)
        : wanted.contains(String.valueOf(now));
  }

  /** Puts a value into a field without telling anyone. */
  private void write(String name, String text) {
    writing = true;
    switch (nodes.get(name)) {
      case TextField t -> t.setText(text);
      case ChoiceBox<?> c -> {
        int at = described.get(name).choices().indexOf(text);
        c.getSelectionModel()
            .select(at + c.getItems().size() - described.get(name).choices().size());
      }
      default -> throw new IllegalArgumentException(name);
    }
    writing = false;
  }

  /** Fills a field in as if typed, and whatever it goes with. */
  void fill(String name, String text) {
    String when = described.get(name).when();
    if (!applies(described.get(name))) {
      write(
          when.substring(0, when.indexOf('=')),
          when.substring(when.indexOf('=') + 1).replaceFirst("\\|.*", ""));
    }
    write(name, text);
    edited(name);
  }

  VBox box() {
    return box;
  }

  /** Keeps a field, but out of sight. */
  void hide(String name) {
    rows.get(name).setVisible(false);
    rows.get(name).setManaged(false);
    hidden.add(name);
  }

  /** Shows a hidden field again, where it applies. */
  void reveal(String name) {
    hidden.remove(name);
    showWhatApplies();
  }

  /** The values as they stand, as plain values; empty texts left out. */
  Map<String, Object> values() {
    Map<String, Object> out = new LinkedHashMap<>();
    readers.forEach(
        (name, reader) -> {
          Object v = reader.get();
          boolean idle = described.containsKey(name) && !applies(described.get(name));
          if (v != null && !idle) {
            out.put(name, v);
          }
        });
    return out;
  }

  /** Adds a parameter of a step; {@code value} is its present value, or null for the preset. */
  void add(StepKind.Field f, Object value) {
    Object v = value != null ? value : f.preset().isEmpty() ? null : f.preset();
    described.put(f.name(), f);
    String label = f.label();
    if (f.isList() && !f.choices().isEmpty()) {
      addSeveral(f, label, v);
    } else if (!f.choices().isEmpty()) {
      addChoice(f.name(), label, f.hint(), f.choices(), v);
    } else if (f.type().equals("true | false")) {
      CheckBox c = new CheckBox(label);
      c.setSelected("true".equals(String.valueOf(v)));
      c.setOnAction(e -> edited(f.name()));
      put(f.name(), c, c, () -> c.isSelected(), f.hint());
    } else {
      String unit = f.unit();
      TextField t = addText(f.name(), label, f.hint(), v == null ? "" : text(v, f, unit), unit);
      if (f.type().equals("numbers")) {
        t.setPrefColumnCount(POINT);
      }
      if (f.optional() && f.oneOf().isEmpty()) {
        t.setPromptText(AppWords.of("fields.not-set"));
      }
    }
    showWhatApplies();
  }

  private static String text(Object v, StepKind.Field f, String unit) {
    if (v instanceof Number n) {
      double d = n.doubleValue();
      String s =
          d == Math.rint(d) ? Long.toString((long) d) : String.format(Locale.ROOT, "%.6g", d);
      return f.type().equals("length") ? holotome.core.unit.Length.typed(d) : s;
    }
    return v instanceof java.util.List<?> l
        ? String.join(", ", l.stream().map(String::valueOf).toList())
        : v.toString();
  }

  /** Boxes to tick, for any of several choices. */
  private void addSeveral(StepKind.Field f, String label, Object value) {
    java.util.List<?> taken =
        value instanceof java.util.List<?> l
            ? l
            : java.util.List.of(String.valueOf(value).split("\\s*,\\s*"));
    boolean isMany = f.choices().size() > IN_A_ROW;
    Pane boxes = isMany ? new GridPane(12, 5) : new HBox(12);
    for (String choice : f.choices()) {
      CheckBox c = new CheckBox(StepWords.choice(choice));
      c.setId("field-" + f.name() + "-" + choice);
      c.setSelected(taken.contains(choice));
      c.setOnAction(e -> edited(f.name()));
      int at = boxes.getChildren().size();
      GridPane.setConstraints(c, at % COLUMNS, at / COLUMNS);
      boxes.getChildren().add(c);
    }
    Region row = isMany ? new VBox(5, new Label(label), boxes) : row(label, boxes);
    put(
        f.name(),
        boxes,
        row,
        () -> {
          java.util.List<String> chosen = new java.util.ArrayList<>();
          for (int i = 0; i < f.choices().size(); i++) {
            if (((CheckBox) boxes.getChildren().get(i)).isSelected()) {
              chosen.add(f.choices().get(i));
            }
          }
          return chosen;
        },
        f.hint());
  }

  private void addChoice(
      String name, String label, String help, java.util.List<String> choices, Object value) {
    ChoiceBox<String> c = new ChoiceBox<>();
    // Symbols of units keep their case.
    c.getItems()
        .setAll(choices.stream().map(x -> name.equals("unit") ? x : StepWords.choice(x)).toList());
    int at = value == null ? 0 : Math.max(0, choices.indexOf(value.toString()));
    boolean none = value == null;
    if (none) {
      c.getItems().addFirst(AppWords.of("fields.as-usual"));
    }
    c.getSelectionModel().select(at);
    c.setOnAction(e -> edited(name));
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
    t.textProperty().addListener((o, was, is) -> edited(name));
    Node field = t;
    if (!unit.isEmpty()) {
      Label u = new Label(unit);
      u.getStyleClass().addAll("soft", "small");
      HBox h = new HBox(6, t, u);
      h.setAlignment(Pos.CENTER_RIGHT);
      field = h;
    }
    put(name, t, row(label, field), () -> typed(name, t.getText()), help);
    return t;
  }

  /** What was typed; in a single figure a comma marks the decimals where the language has it so. */
  private String typed(String name, String text) {
    StepKind.Field f = described.get(name);
    boolean figure = f != null && (f.type().endsWith("number") || f.type().equals("length"));
    String t = text.strip();
    return t.isEmpty() ? null : figure ? Language.typed(t) : t;
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

  /** A field of its own, with an example of what goes into it. */
  static TextField plain(String id, String text, String example) {
    TextField t = new TextField(text);
    t.setId(id);
    t.setPromptText(example);
    t.setAccessibleText(example);
    t.setPrefColumnCount(10);
    return t;
  }

  static HBox row(String label, Node field) {
    Label l = new Label(label);
    l.setMinWidth(Region.USE_PREF_SIZE);
    l.setLabelFor(field);
    name(field, label);
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    HBox h = new HBox(8, l, gap, field);
    h.setAlignment(Pos.CENTER_LEFT);
    return h;
  }

  /** Names a control, or the first within a box of them, for whoever does not see its label. */
  private static void name(Node field, String label) {
    Node control = field instanceof HBox h ? h.getChildren().getFirst() : field;
    boolean speaks = control instanceof Labeled l && !l.getText().isBlank();
    if (control instanceof Control && !speaks) {
      control.setAccessibleText(label);
    }
  }

  /** Gives a row made here another label. */
  static void relabel(Node row, String label) {
    ((Label) ((HBox) row).getChildren().getFirst()).setText(label);
    name(((HBox) row).getChildren().getLast(), label);
  }
}
