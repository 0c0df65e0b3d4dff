package holotome.app.window;

import holotome.app.model.Home;
import holotome.app.model.Jobs;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.tool.Tool;
import holotome.app.tool.Tools;
import holotome.core.select.Reshape;
import holotome.core.step.Step;
import holotome.demo.DemoFiles;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import java.io.File;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.ZoneId;
import java.time.format.DateTimeFormatter;
import java.util.List;
import javafx.geometry.Insets;
import javafx.geometry.Pos;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.DragEvent;
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
  private static final int DEMO_TRIANGLES = 1_200_000;

  private final Session session;
  private final Tools tools;
  private final ViewPane view;
  private final ViewPair panes;
  private final Tape tape;
  private final Sheet sheet;
  private final FindingsPanel findingsPanel = new FindingsPanel();
  private final Findings findings;
  private final StageBar stageBar;
  private final FactsPanel facts;
  private final Actions actions = new Actions();
  private final ActionFinder finder;
  private final ViewChips chips;
  private final VBox welcome = new VBox();
  private final StackPane middle = new StackPane();

  public Desk(Home home) {
    Jobs[] jobs = new Jobs[1];
    Session[] made = new Session[1];
    jobs[0] = new Jobs(f -> made[0].fail(f));
    made[0] = new Session(jobs[0], home);
    session = made[0];
    tools = new Tools(session);
    view = new ViewPane(session);
    panes = new ViewPair(session, view);
    tape = new Tape(session);
    sheet = new Sheet(session, tools, view, tape);
    facts = new FactsPanel(session);
    finder = new ActionFinder(actions, view::requestFocus);
    stageBar = new StageBar(session, finder::open);
    findings = new Findings(session, view, this::take);
    chips = new ViewChips(session, view);
    middle.getChildren().addAll(panes, chips, welcome);
    StackPane.setAlignment(chips, Pos.TOP_CENTER);
    buildWelcome();
    HBox.setHgrow(tape, Priority.ALWAYS);
    HBox bottom = new HBox(tape, facts);
    bottom.getStyleClass().add("bottom");
    bottom.setPrefHeight(96);
    bottom.setMinHeight(96);
    bottom.setMaxHeight(96);
    BorderPane all = new BorderPane(middle, stageBar, sheet, bottom, findingsPanel);
    StackPane.setAlignment(finder, Pos.TOP_RIGHT);
    StackPane.setMargin(finder, new Insets(48, 12, 0, 0));
    getChildren().addAll(all, finder);
    new Keys(this).install();
    fillActions();
    middle.setOnDragOver(this::dragOver);
    middle.setOnDragDropped(this::dropped);
    session.onOpen(view::startAfresh);
    session.onChange(this::update);
    update();
  }

  public Session session() {
    return session;
  }

  public ViewPane view() {
    return view;
  }

  ViewPair panes() {
    return panes;
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

  private void update() {
    stageBar.update();
    sheet.update();
    findingsPanel.show(
        session.stage().title(), findings.of(session.stage()), session.jobs().isBusy());
    facts.update();
    tape.draw();
    chips.update();
    welcome.setVisible(!session.isOpen());
    welcome.setManaged(!session.isOpen());
    if (!session.isOpen()) {
      buildWelcome();
    }
    view.refresh();
    panes.update();
  }

  // --- opening and saving ----------------------------------------------------------------------

  private void buildWelcome() {
    welcome.setId("welcome");
    welcome.getStyleClass().setAll("welcome");
    welcome.setMaxHeight(Region.USE_PREF_SIZE);
    Label title = new Label("Holotome");
    title.getStyleClass().add("title");
    Label text =
        new Label(
            "Open a scanned mesh, or drop one here: ply, obj, stl or off. The file itself is never changed.");
    text.setWrapText(true);
    text.getStyleClass().add("soft");
    HBox begin =
        new HBox(
            16,
            link("Open a scan…  Ctrl O", "open", this::open),
            link("Try it on the demo scan", "open-demo", this::openDemo));
    welcome.getChildren().setAll(title, text, begin);
    List<Path> unsaved = session.home().unsaved();
    if (!unsaved.isEmpty()) {
      Label left = new Label("Work of an earlier run was not saved: " + when(unsaved.getFirst()));
      left.setWrapText(true);
      HBox both =
          new HBox(
              16,
              link("Take it up again", "recover", () -> session.open(unsaved.getFirst())),
              link("Discard it", "discard", () -> session.discard(unsaved.getFirst())));
      welcome.getChildren().addAll(FindingsPanel.rule(), left, both);
    }
    List<Path> recent = session.home().recent();
    if (!recent.isEmpty()) {
      Label l = new Label("Recent");
      l.getStyleClass().addAll("soft", "small");
      welcome.getChildren().addAll(FindingsPanel.rule(), l);
      for (Path p : recent.subList(0, Math.min(4, recent.size()))) {
        String id = "recent-" + recent.indexOf(p);
        welcome.getChildren().add(link(p.getFileName().toString(), id, () -> session.open(p)));
      }
    }
  }

  /** When work was last autosaved, in words. */
  private static String when(Path file) {
    try {
      return Files.getLastModifiedTime(file)
          .toInstant()
          .atZone(ZoneId.systemDefault())
          .format(DateTimeFormatter.ofPattern("d MMMM, HH:mm"));
    } catch (IOException e) {
      return file.getFileName().toString();
    }
  }

  private static Button link(String text, String id, Runnable run) {
    Button b = new Button(text);
    b.setId(id);
    b.getStyleClass().setAll("link");
    b.setOnAction(e -> run.run());
    return b;
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
            "Making the demo scan",
            work -> {
              DemoFiles.write("bollard", file, DEMO_TRIANGLES, work);
              return file;
            },
            session::open);
    session.changed();
  }

  void open() {
    FileChooser c = new FileChooser();
    c.setTitle("Open a scan or a project");
    c.getExtensionFilters()
        .add(
            new FileChooser.ExtensionFilter(
                "Meshes and projects",
                "*.ply",
                "*.obj",
                "*.stl",
                "*.off",
                "*.holotome",
                "*.PLY",
                "*.OBJ",
                "*.STL",
                "*.OFF"));
    File f = c.showOpenDialog(getScene().getWindow());
    if (f != null) {
      session.open(f.toPath());
    }
  }

  void save() {
    if (!session.isOpen()) {
      return;
    }
    if (session.project() != null) {
      session.save(session.project());
      return;
    }
    FileChooser c = new FileChooser();
    c.setTitle("Save the project");
    c.getExtensionFilters().add(new FileChooser.ExtensionFilter("Holotome project", "*.holotome"));
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
      session.open(files.getFirst().toPath());
      e.setDropCompleted(true);
      e.consume();
    }
  }

  // --- actions ---------------------------------------------------------------------------------

  private void fillActions() {
    actions.add("Open a scan or project", "Ctrl O", this::open);
    actions.add("Open the demo scan", "", this::openDemo);
    actions.add("Save the project", "Ctrl S", this::save, session::isOpen);
    actions.add("Undo", "Ctrl Z", session::undo, session::canUndo);
    actions.add("Redo", "Ctrl Shift Z", session::redo, session::canRedo);
    actions.add("Cancel the running work", "", session.jobs()::cancel, session.jobs()::isBusy);
    for (Stage s : Stage.values()) {
      actions.add("Go to " + s.title(), "Alt " + (s.ordinal() + 1), () -> session.setStage(s));
    }
    for (Tool t : tools.all()) {
      int number = tools.of(t.stage()).indexOf(t) + 1;
      String key = "Alt " + (t.stage().ordinal() + 1);
      key = number < 10 ? key + ", " + number : number == 10 ? key + ", 0" : key;
      actions.add(t.stage().title() + ": " + t.title(), key, () -> sheet.take(t));
    }
    actions.add("Next look", "L", view::nextLook);
    actions.add("Select visible or through", "V", () -> view.setThrough(!view.isThrough()));
    reshape("Invert the selection", "I", Reshape.How.INVERT);
    reshape("Grow the selection", "G", Reshape.How.GROW);
    reshape("Shrink the selection", "Shift G", Reshape.How.SHRINK);
    reshape("Smooth the outline of the selection", "S", Reshape.How.SMOOTH);
    reshape("Fill the gaps in the selection", "F", Reshape.How.FILL);
    reshape("Select whole islands", "W", Reshape.How.ISLANDS);
    actions.add("Show everything", "Home", view::showAll);
    actions.add("Show the selection", "End", view::showSelection);
    actions.add("Perspective or parallel", "O", view::switchProjection);
    actions.add("Show the size in another unit", "", facts::nextUnit);
    setting("Grid on or off", "", () -> view.settings().switchGrid());
    setting("Brighter", "", () -> view.settings().brighten(true));
    setting("Dimmer", "", () -> view.settings().brighten(false));
    setting("Usual brightness", "", () -> view.settings().usualBrightness());
    setting("Background: light, middle or dark", "B", () -> view.settings().nextBackground());
    actions.add("Clip what is near, or nothing", "C", view::switchClipping);
    actions.add("Show the size beside familiar things, or not", "M", view::switchSized);
    actions.add("Second pane: before, right, behind, off", "P", panes::next);
    for (ViewPair.Second p : ViewPair.Second.values()) {
      actions.add(p.words(), "", () -> panes.show(p));
    }
    for (int focal : new int[] {24, 38, 50, 85, 135}) {
      actions.add("Focal length " + focal + " mm", "", () -> view.setFocal(focal));
    }
    for (Look l : Look.values()) {
      setting("Look: " + l.title(), "", () -> view.settings().setLook(l));
    }
    for (Camera.Direction d : Camera.Direction.values()) {
      String n = d.name().toLowerCase(java.util.Locale.ROOT);
      actions.add(
          "View from "
              + (d == Camera.Direction.ASKEW
                  ? "askew"
                  : d == Camera.Direction.TOP
                      ? "above"
                      : d == Camera.Direction.BOTTOM ? "below" : "the " + n),
          "",
          () -> view.look(d));
    }
    actions.add(
        "View square to the ground",
        "",
        view::lookSquareToTheGround,
        () -> session.insight() != null && session.insight().ground() != null);
    actions.add("Paper: film or slate", "", this::switchPaper);
    for (Path p : session.home().recent()) {
      actions.add("Open " + p.getFileName(), "", () -> session.open(p));
    }
    for (Path p : session.home().unsaved()) {
      actions.add("Take up unsaved work of " + when(p), "", () -> session.open(p));
    }
  }

  private void setting(String name, String key, Runnable change) {
    actions.add(
        name,
        key,
        () -> {
          change.run();
          session.changed();
        });
  }

  private void reshape(String name, String key, Reshape.How how) {
    actions.add(name, key, () -> session.selecting().reshape(how, 1), session::isOpen);
  }

  private void switchPaper() {
    boolean slate = !getStyleClass().contains("slate");
    if (slate) {
      getStyleClass().add("slate");
    } else {
      getStyleClass().remove("slate");
    }
    tape.setSlate(slate);
  }

  public void shutDown() {
    sheet.shutDown();
    facts.shutDown();
    session.jobs().shutDown();
    view.shutDown();
    panes.shutDown();
  }
}
