package holotome.app.window;

import holotome.app.model.Settings;
import holotome.app.words.AppWords;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.io.File;
import java.nio.file.Path;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;
import javafx.stage.DirectoryChooser;

/** What the user can set for good. */
final class SettingsPage extends Page {
  private static final int[] SIZES = {100, 115, 130, 150, 175, 200};

  /** Percent of the machine's memory. */
  private static final int[] MEMORY = {25, 50, Settings.USUAL_MEMORY, 85};

  private final Settings settings;
  private final Runnable changed;
  private final VBox rows = new VBox(8);

  SettingsPage(Settings settings, Runnable changed, Runnable closed) {
    super("settings", AppWords.of("common.settings"), closed);
    this.settings = settings;
    this.changed = changed;
    setMaxHeight(Region.USE_PREF_SIZE);
    hold(rows);
  }

  @Override
  void fill() {
    ChoiceBox<String> paper =
        box(
            "setting-paper",
            AppWords.of("settings-page.film"),
            AppWords.of("settings-page.slate"),
            AppWords.of("settings-page.as-the-system-has-it"));
    paper.getSelectionModel().select(settings.paper().ordinal());
    paper.setOnAction(
        e -> {
          settings.setPaper(Settings.Paper.values()[paper.getSelectionModel().getSelectedIndex()]);
          changed.run();
        });
    ChoiceBox<String> size = new ChoiceBox<>();
    size.setId("setting-text");
    for (int s : SIZES) {
      size.getItems().add(s + " %");
      if (s <= settings.textSize()) {
        size.getSelectionModel().select(size.getItems().size() - 1);
      }
    }
    size.setOnAction(
        e -> {
          settings.setTextSize(SIZES[size.getSelectionModel().getSelectedIndex()]);
          changed.run();
        });
    ChoiceBox<String> unit = new ChoiceBox<>();
    unit.setId("setting-unit");
    unit.getItems().add(AppWords.of("settings-page.as-it-reads-best"));
    for (Length.Unit u : Settings.UNITS) {
      unit.getItems().add(u.symbol());
    }
    unit.getSelectionModel()
        .select(1 + java.util.Arrays.asList(Settings.UNITS).indexOf(settings.unit()));
    unit.setOnAction(
        e -> {
          int at = unit.getSelectionModel().getSelectedIndex();
          settings.setUnit(at == 0 ? null : Settings.UNITS[at - 1]);
          changed.run();
        });
    ChoiceBox<String> language = new ChoiceBox<>();
    language.setId("setting-language");
    language.getItems().add(AppWords.of("settings-page.as-the-system-has-it"));
    for (Language l : Language.values()) {
      language.getItems().add(l.ownName());
    }
    language
        .getSelectionModel()
        .select(settings.language() == null ? 0 : 1 + settings.language().ordinal());
    language.setOnAction(
        e -> {
          int at = language.getSelectionModel().getSelectedIndex();
          settings.setLanguage(at == 0 ? null : Language.values()[at - 1]);
          changed.run();
        });
    ChoiceBox<String> turn =
        box(
            "setting-turn",
            AppWords.of("settings-page.the-right-button"),
            AppWords.of("settings-page.the-middle-button"));
    turn.getSelectionModel().select(settings.turnsByMiddle() ? 1 : 0);
    turn.setOnAction(
        e -> {
          settings.setTurnsByMiddle(turn.getSelectionModel().getSelectedIndex() == 1);
          changed.run();
        });
    ChoiceBox<String> memory = new ChoiceBox<>();
    memory.setId("setting-memory");
    for (int m : MEMORY) {
      memory.getItems().add(m + " %");
      if (m <= settings.memory()) {
        memory.getSelectionModel().select(memory.getItems().size() - 1);
      }
    }
    memory.setOnAction(
        e -> {
          settings.setMemory(MEMORY[memory.getSelectionModel().getSelectedIndex()]);
          changed.run();
        });
    Label folder = new Label(settings.output().toString());
    folder.getStyleClass().add("soft");
    folder.setWrapText(true);
    Button choose = new Button(AppWords.of("settings-page.choose"));
    choose.setId("setting-output");
    choose.getStyleClass().setAll("link");
    choose.setOnAction(e -> chooseFolder());
    rows.getChildren()
        .setAll(
            row(AppWords.of("settings-page.paper"), paper),
            row(AppWords.of("settings-page.text-size"), size),
            row(AppWords.of("settings-page.language-from-the-next-start"), language),
            row(AppWords.of("settings-page.size-of-the-work-in"), unit),
            row(AppWords.of("settings-page.the-view-turns-by"), turn),
            row(AppWords.of("settings-page.memory-to-take-from-the"), memory),
            row(AppWords.of("settings-page.files-go-below"), choose),
            folder);
  }

  private void chooseFolder() {
    DirectoryChooser c = new DirectoryChooser();
    c.setTitle(AppWords.of("settings-page.where-written-files-go"));
    File f = c.showDialog(getScene().getWindow());
    if (f != null) {
      setOutput(f.toPath());
    }
  }

  void setOutput(Path directory) {
    settings.setOutput(directory);
    changed.run();
    fill();
  }

  private static ChoiceBox<String> box(String id, String... choices) {
    ChoiceBox<String> c = new ChoiceBox<>();
    c.setId(id);
    c.getItems().setAll(choices);
    return c;
  }

  private static HBox row(String words, Region control) {
    Region gap = new Region();
    HBox.setHgrow(gap, Priority.ALWAYS);
    control.setAccessibleText(words);
    HBox h = new HBox(12, new Label(words), gap, control);
    h.setAlignment(Pos.CENTER_LEFT);
    return h;
  }
}
