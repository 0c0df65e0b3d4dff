package holotome.app;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.app.words.AppWords;
import holotome.core.step.StepWords;
import holotome.core.words.CoreWords;
import holotome.core.words.Language;
import holotome.core.words.Wording;
import holotome.view.words.ViewWords;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.ResourceBundle;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Control;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextInputControl;
import javafx.scene.control.Tooltip;
import javafx.scene.input.KeyCode;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** In German the window says nothing in English, and nothing that is put together from pieces. */
class GermanTest extends WindowCase {
  private static final List<Wording> ALL =
      List.of(AppWords.WORDING, ViewWords.WORDING, CoreWords.WORDING, StepWords.WORDING);

  /** Figures, units, names of files, formats and languages. */
  private static final Pattern NEUTRAL =
      Pattern.compile(
          "(?:[\\d.,+−–…×±<>‹›/ -]*(?:mm|cm|m|km|in|ft|px|px/m|MB|GB|k|M|°|%|mm²|cm²|m²|cm³|l|s)?)"
              + "|Holotome|English|Deutsch|\\S*(bollard|Sandmouth)\\S*|/\\S+|Alt \\d|[A-Zxyz]|F\\d+|\\d\\d:\\d\\d"
              + "|GLB|OBJ|STL|PLY|DXF|SVG|CSV|PLY, .*|\\S+\\.(glb|ply|obj|stl)|section");

  private List<Pattern> said;
  private Set<String> whole;

  /** Most texts are seen in every tool, and their places in many texts. */
  private Map<String, Boolean> judged;

  @Override
  int triangles() {
    return 30_000;
  }

  @BeforeEach
  @Override
  void openTheScan() throws Exception {
    Language.speak(Language.GERMAN);
    said = new ArrayList<>();
    whole = new HashSet<>();
    judged = new HashMap<>();
    for (Wording w : ALL) {
      ResourceBundle b = w.bundle(Language.GERMAN);
      for (String k : b.keySet()) {
        learn(b.getString(k));
      }
    }
    super.openTheScan();
  }

  @AfterEach
  @Override
  void close() {
    super.close();
    Language.speak(Language.ENGLISH);
  }

  /** A text with places is a pattern; one that is nearly all places says nothing. */
  private void learn(String text) {
    String[] fixed = text.split("%(?:\\d+\\$)?[-+,]*(?:\\.\\d+)?[a-zA-Z]", -1);
    if (fixed.length == 1) {
      whole.add(text);
      return;
    }
    StringBuilder pattern = new StringBuilder();
    int letters = 0;
    for (int i = 0; i < fixed.length; i++) {
      String f = fixed[i].replace("%%", "%");
      letters += (int) f.chars().filter(Character::isLetter).count();
      pattern.append(i == 0 ? "" : "(.*)").append(Pattern.quote(f));
    }
    if (letters >= 2) {
      said.add(Pattern.compile(pattern.toString(), Pattern.DOTALL));
    }
  }

  /** Whether a text is one of the bundles', or a figure, or such in a row, and so is each place. */
  private boolean isSaid(String text) {
    String t = text.strip();
    Boolean known = judged.get(t);
    if (known == null) {
      known = judge(t);
      judged.put(t, known);
    }
    return known;
  }

  private boolean judge(String t) {
    if (t.isEmpty() || NEUTRAL.matcher(t).matches() || whole.contains(t)) {
      return true;
    }
    for (Pattern p : said) {
      var m = p.matcher(t);
      if (m.matches()) {
        boolean all = true;
        for (int g = 1; g <= m.groupCount() && all; g++) {
          all = isSaid(m.group(g));
        }
        if (all) {
          return true;
        }
      }
    }
    for (String apart : new String[] {"\n", " (", "; ", ": ", " · ", " × ", ", ", "  ", " "}) {
      int at = apart.equals(" (") ? t.lastIndexOf(apart) : t.indexOf(apart);
      boolean sentence = apart.equals(" ") && t.length() > 24;
      if (at > 0 && !sentence && isSaid(t.substring(0, at))) {
        String rest = t.substring(at + apart.length());
        if (isSaid(apart.equals(" (") && rest.endsWith(")") ? cut(rest) : rest)) {
          return true;
        }
      }
    }
    return t.endsWith(".") && isSaid(cut(t));
  }

  private static String cut(String t) {
    return t.substring(0, t.length() - 1);
  }

  private static void texts(Node n, Set<String> out) {
    if (!n.isVisible()) {
      return;
    }
    if (n instanceof Labeled l && l.getText() != null) {
      out.add(l.getText());
    }
    if (n instanceof TextInputControl t && t.getPromptText() != null) {
      out.add(t.getPromptText());
    }
    if (n instanceof ChoiceBox<?> c) {
      c.getItems().forEach(i -> out.add(i.toString()));
    }
    if (n.getAccessibleText() != null) {
      out.add(n.getAccessibleText());
    }
    Tooltip tip =
        n instanceof Control c && c.getTooltip() != null
            ? c.getTooltip()
            : (Tooltip) n.getProperties().get("javafx.scene.control.Tooltip");
    if (tip != null) {
      out.add(tip.getText());
    }
    if (n instanceof Parent p) {
      p.getChildrenUnmodifiable().forEach(c -> texts(c, out));
    }
    if (n instanceof ScrollPane s && s.getContent() != null) {
      texts(s.getContent(), out);
    }
  }

  /** German is longer than English: nothing may be cut for it. */
  private final Set<String> cut = new TreeSet<>();

  private void check(String where, Set<String> foreign) {
    d.on(
        () -> {
          Set<String> all = new TreeSet<>();
          texts(d.scene().getRoot(), all);
          CutTexts.collect(where, d.scene().getRoot(), cut);
          assertThat(all).as(where).hasSizeGreaterThan(20);
          all.stream().filter(t -> !isSaid(t)).forEach(t -> foreign.add(where + ": " + t));
          return null;
        });
  }

  @Test
  void everyToolIsInGermanBeforeAndAfterTheJob() {
    TreeSet<String> foreign = new TreeSet<>();
    everyTool(at -> check("before, " + at, foreign));
    stage(KeyCode.DIGIT2);
    d.click("tool-islands");
    apply();
    stage(KeyCode.DIGIT5);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    apply();
    stage(KeyCode.DIGIT6);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    apply();
    stage(KeyCode.DIGIT7);
    d.keys(KeyCode.DIGIT1);
    d.settle();
    apply();
    everyTool(at -> check("after, " + at, foreign));
    d.keys(KeyCode.CONTROL, KeyCode.COMMA);
    d.settle();
    check("settings", foreign);
    d.keys(KeyCode.ESCAPE);
    d.keys(KeyCode.F1);
    d.settle();
    check("keys", foreign);
    d.keys(KeyCode.ESCAPE);
    assertThat(foreign).isEmpty();
    assertThat(cut).isEmpty();
  }

  @Test
  void figuresAreWrittenAndReadWithACommaForTheDecimals() {
    assertThat(holotome.core.unit.Length.format(1.2345, true)).isEqualTo("1.235 mm");
    assertThat(holotome.core.unit.Length.format(12.345, true)).isEqualTo("12,35 m");
    stage(KeyCode.DIGIT4);
    d.find("Bezug: Drehen");
    d.on(
        () -> {
          ((TextInputControl) d.node("field-angle")).setText("12,5");
          return null;
        });
    d.settle();
    apply();
    assertThat(((holotome.core.datum.Turn) step(0)).angle()).isEqualTo(12.5);
  }
}
