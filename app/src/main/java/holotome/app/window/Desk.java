package holotome.app.window;

import holotome.app.model.Finding;
import holotome.app.model.Home;
import holotome.app.model.Jobs;
import holotome.app.model.MeshFiles;
import holotome.app.model.ScanFile;
import holotome.app.model.Session;
import holotome.app.model.Settings;
import holotome.app.model.Stage;
import holotome.app.pane.Panes;
import holotome.app.pane.SpacePane;
import holotome.app.tool.Tools;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.demo.DemoFiles;
import java.io.File;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.Clipboard;
import javafx.scene.input.ClipboardContent;
import javafx.scene.input.DragEvent;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.TransferMode;
import javafx.scene.layout.BorderPane;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Priority;
import javafx.scene.layout.Region;
import javafx.scene.layout.StackPane;
import javafx.scene.layout.VBox;
import javafx.stage.FileChooser;

/** The whole window: puts the parts together and keeps them in line with the session. */
public final class Desk extends StackPane {
  /** Height of the Tape and the facts beside it. */
  private static final double BOTTOM = 96;

  /** What lies over the view leaves this much below for its scale. */
  private static final double ABOVE_SCALE = 54;

  private static final int DEMO_TRIANGLES = 1_200_000;

  private final Session session;
  private final Tools tools;
  private final SpacePane view;
  private final Panes panes;
  private final Tape tape;
  private final Sheet sheet;
  private final FindingsPanel findingsPanel = new FindingsPanel();
  private final Findings findings;
  private final StageBar stageBar;
  private final FactsPanel facts;
  private final Actions actions = new Actions();
  private final ActionFinder finder;
  private final Settings settings;
  private final KeysPage keysPage;
  private final TrialsPage trialsPage;
  private final HBox bottom;
  private final SettingsPage settingsPage;
  private final Question question = new Question();
  private final ViewChips chips;
  private final Guide guide;
  private final DeviationLegend legend;
  private final FigureLegend figures;
  private final VBox welcome = new VBox();
  private final StackPane middle = new StackPane();

  /** What the view was last brought in line with. */
  private History seen;

  private ScanFile seenOf;
  private double seenSize;

  public Desk(Home home) {
    Jobs[] jobs = new Jobs[1];
    Session[] made = new Session[1];
    jobs[0] = new Jobs(f -> made[0].fail(f));
    made[0] = new Session(jobs[0], home);
    session = made[0];
    tools = new Tools(session);
    view = new SpacePane(session);
    panes = new Panes(session, view);
    tape = new Tape(session);
    sheet = new Sheet(session, tools, view, tape);
    facts = new FactsPanel(session);
    settings = new Settings(home);
    finder = new ActionFinder(actions, view::requestFocus);
    keysPage = new KeysPage(actions, settings, view::requestFocus);
    trialsPage = new TrialsPage(session, this::compareTrials, view::requestFocus);
    settingsPage = new SettingsPage(settings, this::showSettings, view::requestFocus);
    stageBar = new StageBar(session, finder::open);
    findings = new Findings(session, view, this::take);
    sheet.onNext(this::next);
    chips = new ViewChips(session, view);
    guide = new Guide(this);
    legend = new DeviationLegend(session, view);
    figures = new FigureLegend(session, view);
    middle.getChildren().addAll(panes, legend, figures, chips, guide, welcome);
    StackPane.setAlignment(chips, Pos.TOP_CENTER);
    StackPane.setAlignment(legend, Pos.BOTTOM_LEFT);
    StackPane.setMargin(legend, new Insets(0, 0, ABOVE_SCALE, 14));
    StackPane.setAlignment(figures, Pos.BOTTOM_LEFT);
    StackPane.setMargin(figures, new Insets(0, 0, ABOVE_SCALE, 14));
    buildWelcome();
    HBox.setHgrow(tape, Priority.ALWAYS);
    bottom = new HBox(tape, facts);
    bottom.getStyleClass().add("bottom");
    bottom.setMinHeight(BOTTOM);
    bottom.setPrefHeight(BOTTOM);
    bottom.setMaxHeight(BOTTOM);
    BorderPane all = new BorderPane(middle, stageBar, sheet, bottom, findingsPanel);
    StackPane.setAlignment(finder, Pos.TOP_RIGHT);
    StackPane.setMargin(finder, new Insets(48, 12, 0, 0));
    for (Region page : List.of(keysPage, trialsPage, settingsPage, question)) {
      StackPane.setAlignment(page, Pos.CENTER);
    }
    getChildren().addAll(all, finder, keysPage, trialsPage, settingsPage, question);
    new Keys(this).install();
    new DeskActions(this, tools, keysPage::open, settingsPage::open, facts::nextUnit).fill();
    actions.choose(settings.keys());
    middle.setOnDragOver(this::dragOver);
    middle.setOnDragDropped(this::dropped);
    session.onOpen(view::startAfresh);
    session.onChange(this::update);
    view.onMoved(guide::update);
    showSettings();
  }

  public Session session() {
    return session;
  }

  public SpacePane view() {
    return view;
  }

  Panes panes() {
    return panes;
  }

  /** Whether the pictures of all panes are up, smooth and whole. */
  public boolean isEveryPaneShown() {
    return view.isExactShown() && panes.isExactShown();
  }

  Tape tape() {
    return tape;
  }

  Sheet sheet() {
    return sheet;
  }

  /** The step that the Sheet would apply now; null while it is incomplete. */
  public Step sheetStep() {
    return sheet.step();
  }

  Actions actions() {
    return actions;
  }

  ActionFinder finder() {
    return finder;
  }

  /** Takes up the tool that makes steps of this type. */
  void take(Class<? extends Step> type) {
    sheet.take(tools.making(type));
  }

  /**
   * What may come after an entry: the stage's first finding that asks for something, or the next
   * stage.
   */
  private Sheet.Next next() {
    if (!session.isOpen() || session.insight() == null && session.unmeasured() == null) {
      return null;
    }
    for (Finding f : findings.of(session.stage())) {
      boolean asks =
          f.severity() == Finding.Severity.WARN || f.severity() == Finding.Severity.ERROR;
      if (asks && f.action() != null) {
        return new Sheet.Next(AppWords.of("desk.next", f.actionName()), f.action());
      }
    }
    int after = session.stage().ordinal() + 1;
    if (after >= Stage.values().length) {
      return null;
    }
    Stage stage = Stage.values()[after];
    return new Sheet.Next(
        AppWords.of("desk.go-on-to", stage.title()), () -> session.setStage(stage));
  }

  /** Comes closer by itself where an entry left a tenth of the work or less. */
  private void comeCloser() {
    History now = session.history();
    if (now == seen) {
      return;
    }
    boolean sameScan = seenOf == session.scanFile();
    boolean grew = sameScan && seen != null && now != null && now.size() == seen.size() + 1;
    double size = session.isOpen() ? session.current().scan().bounds().diagonal() : 0;
    boolean small = grew && size < 0.1 * seenSize;
    seen = now;
    seenOf = session.scanFile();
    seenSize = size;
    if (small) {
      view.navigation().showAll();
    }
  }

  private void update() {
    comeCloser();
    stageBar.update();
    sheet.update();
    findingsPanel.show(
        session.stage().title(), findings.of(session.stage()), session.jobs().isBusy());
    facts.update();
    // From the second Trial beside on the Tape is higher by a row for each.
    double beside = Math.max(0, TapeForks.height(session.trials()) - TapeForks.ROW);
    bottom.setMinHeight(BOTTOM + beside);
    bottom.setPrefHeight(BOTTOM + beside);
    bottom.setMaxHeight(BOTTOM + beside);
    tape.draw();
    trialsPage.update();
    chips.update();
    welcome.setVisible(!session.isOpen());
    welcome.setManaged(!session.isOpen());
    if (!session.isOpen()) {
      buildWelcome();
    }
    view.refresh();
    legend.update();
    figures.update();
    panes.update();
    guide.update();
  }

  // --- opening and saving ----------------------------------------------------------------------

  private void buildWelcome() {
    welcome.setId("welcome");
    welcome.getStyleClass().setAll("welcome");
    welcome.setMaxHeight(Region.USE_PREF_SIZE);
    Label title = new Label("Holotome");
    title.getStyleClass().add("title");
    Label text = new Label(AppWords.of("desk.open-a-scanned-mesh-or"));
    text.setWrapText(true);
    text.getStyleClass().add("soft");
    HBox begin =
        new HBox(
            16,
            link(AppWords.of("desk.open-a-scan", actions.keyText("file.open")), "open", this::open),
            link(AppWords.of("desk.try-it-on-the-demo"), "open-demo", this::openDemoFirst));
    welcome.getChildren().setAll(title, text, begin);
    List<Path> unsaved = session.home().unsaved();
    if (!unsaved.isEmpty()) {
      Label left =
          new Label(
              AppWords.of("desk.work-of-an-earlier-run", session.home().about(unsaved.getFirst())));
      left.setWrapText(true);
      HBox both =
          new HBox(
              16,
              link(
                  AppWords.of("desk.take-it-up-again"),
                  "recover",
                  () -> session.open(unsaved.getFirst())),
              link(
                  AppWords.of("desk.discard-it"),
                  "discard",
                  () -> session.keeping().discard(unsaved.getFirst())));
      welcome.getChildren().addAll(FindingsPanel.rule(), left, both);
    }
    List<Path> recent = session.home().recent();
    if (!recent.isEmpty()) {
      Label l = new Label(AppWords.of("desk.recent"));
      l.getStyleClass().addAll("soft", "small");
      welcome.getChildren().addAll(FindingsPanel.rule(), l);
      for (Path p : recent.subList(0, Math.min(4, recent.size()))) {
        String id = "recent-" + recent.indexOf(p);
        welcome.getChildren().add(link(p.getFileName().toString(), id, () -> session.open(p)));
      }
    }
  }

  private static Button link(String text, String id, Runnable run) {
    Button b = new Button(text);
    b.setId(id);
    b.getStyleClass().setAll("link");
    b.setOnAction(e -> run.run());
    return b;
  }

  /** Opens the made-up scan with the first steps over it, unless they were seen. */
  public void openDemoFirst() {
    if (!settings.isGuideSeen()) {
      settings.setGuideSeen();
      guide.begin();
      showSettings();
    }
    openDemo();
  }

  /** Shows the first steps again, over the demo scan if nothing is open. */
  void showGuide() {
    guide.begin();
    if (!session.isOpen()) {
      openDemo();
    }
  }

  Guide guide() {
    return guide;
  }

  /** Opens the made-up scan; makes it the first time. */
  public void openDemo() {
    Path file = session.home().demoScan(DEMO_TRIANGLES);
    if (Files.isRegularFile(file)) {
      session.open(file);
      return;
    }
    session
        .jobs()
        .run(
            AppWords.of("desk.making-the-demo-scan"),
            work -> {
              DemoFiles.write("bollard", file, DEMO_TRIANGLES, work);
              return file;
            },
            session::open);
    session.changed();
  }

  void open() {
    FileChooser c = new FileChooser();
    c.setTitle(AppWords.of("desk.open-a-scan-or-a"));
    List<String> patterns = new ArrayList<>(MeshFiles.patterns());
    patterns.add("*.holotome");
    c.getExtensionFilters()
        .add(new FileChooser.ExtensionFilter(AppWords.of("desk.meshes-and-projects"), patterns));
    List<File> files = c.showOpenMultipleDialog(getScene().getWindow());
    if (files != null && !files.isEmpty()) {
      ask(() -> openAll(files.stream().map(File::toPath).toList()));
    }
  }

  /** Opens a file, or several meshes as one Scan. */
  void openAll(List<Path> files) {
    if (files.size() == 1) {
      session.open(files.getFirst());
    } else {
      session.openTogether(files);
    }
  }

  void save() {
    if (!session.isOpen()) {
      return;
    }
    if (session.keeping().project() != null) {
      session.save(session.keeping().project());
    } else {
      saveAs();
    }
  }

  void saveAs() {
    FileChooser c = new FileChooser();
    c.setTitle(AppWords.of("common.save-the-project"));
    c.getExtensionFilters()
        .add(new FileChooser.ExtensionFilter(AppWords.of("desk.holotome-project"), "*.holotome"));
    String name = session.source().getFileName().toString();
    c.setInitialFileName(name.substring(0, name.lastIndexOf('.')) + ".holotome");
    File f = c.showSaveDialog(getScene().getWindow());
    if (f != null) {
      session.save(f.toPath());
    }
  }

  private void dragOver(DragEvent e) {
    if (e.getDragboard().hasFiles()) {
      e.acceptTransferModes(TransferMode.COPY);
      e.consume();
    }
  }

  private void dropped(DragEvent e) {
    List<File> files = e.getDragboard().getFiles();
    if (!files.isEmpty()) {
      ask(() -> openAll(files.stream().map(File::toPath).toList()));
      e.setDropCompleted(true);
      e.consume();
    }
  }

  void switchPaper() {
    settings.setPaper(isSlate() ? Settings.Paper.FILM : Settings.Paper.SLATE);
    showSettings();
  }

  private boolean isSlate() {
    return getStyleClass().contains("slate");
  }

  private static void widen(Region panel, double width) {
    panel.setMinWidth(width);
    panel.setPrefWidth(width);
    panel.setMaxWidth(width);
  }

  /** Brings the window in line with the settings, and keeps them. */
  void showSettings() {
    boolean slate = settings.isSlate();
    if (slate != isSlate()) {
      if (slate) {
        getStyleClass().add("slate");
      } else {
        getStyleClass().remove("slate");
      }
      tape.setSlate(slate);
    }
    double larger = settings.textSize() / 100.0;
    setStyle(String.format(Locale.ROOT, "-fx-font-size: %.1fpx;", 13 * larger));
    widen(sheet, 292 * larger);
    widen(facts, 292 * larger);
    widen(findingsPanel, 236 * larger);
    stageBar.setMinHeight(44 * larger);
    stageBar.setMaxHeight(44 * larger);
    facts.setUnit(settings.unit());
    view.settings().setTurnsByMiddle(settings.turnsByMiddle());
    session.home().setOutput(settings.output());
    try {
      settings.keep();
    } catch (Failure f) {
      session.fail(f);
      return;
    }
    session.changed();
  }

  // --- everyday ----------------------------------------------------------------------------------

  /**
   * Puts the figures of the work on the clipboard: what stands at the lower right, and its sizes.
   */
  void copyFigures() {
    ClipboardContent content = new ClipboardContent();
    content.putString(facts.text() + sheet.figuresText());
    Clipboard.getSystemClipboard().setContent(content);
    session.say(AppWords.of("desk.the-figures-are-on-the"));
  }

  /** Goes on at once, or after asking where work would be left unsaved or half written. */
  void ask(Runnable go) {
    question.ask(session, go, this::save);
  }

  /** Leaves the program, after asking where something would be lost. */
  public void leave(Runnable exit) {
    ask(exit);
  }

  /** Draws the line between the current Trial and the one it is compared with. */
  private void compareTrials() {
    if (!view.settings().isCompared()) {
      view.switchCompared();
    }
  }

  /** Shows the Trials side by side in figures. */
  void showTrials() {
    trialsPage.open();
  }

  void closeWork() {
    ask(session::close);
  }

  /** Whether a page or the finder is up and takes the keys. */
  boolean overlayTakesKeys(KeyCombo key, KeyEvent e) {
    if (keysPage.isVisible()) {
      return keysPage.takes(key, e);
    }
    if (settingsPage.isVisible() || trialsPage.isVisible() || question.isVisible()) {
      if (key.code() == KeyCode.ESCAPE) {
        settingsPage.close();
        trialsPage.close();
        question.close();
        e.consume();
      }
      return true;
    }
    return finder.isVisible();
  }

  /** Whether the focus is where arrow keys have a use of their own. */
  boolean ownsArrows(Node focus) {
    return focus == tape || findingsPanel.holds(focus);
  }

  public void shutDown() {
    sheet.shutDown();
    facts.shutDown();
    session.jobs().shutDown();
    view.shutDown();
    panes.shutDown();
  }
}
