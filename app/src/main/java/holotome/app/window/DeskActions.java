package holotome.app.window;

import holotome.app.model.Jobs;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.pane.Arrangement;
import holotome.app.pane.Panes;
import holotome.app.pane.SpacePane;
import holotome.app.tool.Draft;
import holotome.app.tool.Tool;
import holotome.app.tool.Tools;
import holotome.core.map.MapKind;
import holotome.core.select.Reshape;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import java.nio.file.Path;
import java.util.Locale;
import java.util.function.BooleanSupplier;

/** The window's actions: registers each once, with its words, its key and when it can be done. */
final class DeskActions {
  private final Desk desk;
  private final Actions actions;
  private final Session session;
  private final SpacePane view;
  private final Panes panes;
  private final Tools tools;
  private final Runnable keysPage;
  private final Runnable settingsPage;
  private final Runnable nextUnit;

  /**
   * @param keysPage opens the page of keys
   * @param settingsPage opens the settings
   * @param nextUnit shows the size in another unit
   */
  DeskActions(Desk desk, Tools tools, Runnable keysPage, Runnable settingsPage, Runnable nextUnit) {
    this.desk = desk;
    this.tools = tools;
    this.keysPage = keysPage;
    this.settingsPage = settingsPage;
    this.nextUnit = nextUnit;
    actions = desk.actions();
    session = desk.session();
    view = desk.view();
    panes = desk.panes();
  }

  void fill() {
    Jobs jobs = session.jobs();
    BooleanSupplier open = session::isOpen;
    actions.add("file.open", "Open a scan or project", "Ctrl O", desk::open);
    actions.add("file.demo", "Open the demo scan", "", desk::openDemo);
    actions.add("guide", "First steps, over the demo scan", "", desk::showGuide);
    actions.add("file.save", "Save the project", "Ctrl S", desk::save, open);
    actions.add(
        "file.save-as", "Save the project under another name", "Ctrl Shift S", desk::saveAs, open);
    actions.add("file.close", "Close the work", "Ctrl W", desk::closeWork, open);
    actions.add("edit.undo", "Undo", "Ctrl Z", () -> undo(true), () -> canUndo(true));
    actions.add(
        "edit.redo", "Redo", "Ctrl Shift Z", "Ctrl Y", () -> undo(false), () -> canUndo(false));
    actions.add("edit.copy", "Copy the figures", "Ctrl C", desk::copyFigures, open);
    actions.add(
        "work.cancel",
        "Cancel the running work",
        "Ctrl Period",
        jobs::cancel,
        () -> jobs.shown() != null);
    actions.add("find", "Find an action", "Ctrl Space", desk.finder()::open);
    actions.add("keys", "All keys, and change them", "F1", keysPage);
    actions.add("settings", "Settings", "Ctrl Comma", settingsPage);
    for (Stage s : Stage.values()) {
      String id = "stage." + s.title().toLowerCase(Locale.ROOT);
      actions.add(id, "Go to " + s.title(), "Alt " + (s.ordinal() + 1), () -> session.setStage(s));
    }
    for (Tool t : tools.all()) {
      int number = tools.of(t.stage()).indexOf(t) + 1;
      String key = "Alt " + (t.stage().ordinal() + 1);
      key = number < 10 ? key + ", " + number : number == 10 ? key + ", 0" : key;
      String id = "tool." + (t.stage().title() + "." + t.title()).toLowerCase(Locale.ROOT);
      actions.addByWay(
          id.replace(' ', '-'),
          t.stage().title() + ": " + t.title(),
          key,
          () -> desk.sheet().take(t));
    }
    actions.add("view.next-look", "Next look", "L", view::nextLook, open);
    actions.add(
        "view.through",
        "Select visible or through",
        "V",
        () -> view.setThrough(!view.isThrough()),
        open);
    reshape("invert", "Invert the selection", "I", Reshape.How.INVERT);
    reshape("grow", "Grow the selection", "G", Reshape.How.GROW);
    reshape("shrink", "Shrink the selection", "Shift G", Reshape.How.SHRINK);
    reshape("smooth", "Smooth the outline of the selection", "S", Reshape.How.SMOOTH);
    reshape("fill", "Fill the gaps in the selection", "F", Reshape.How.FILL);
    reshape("islands", "Select whole islands", "W", Reshape.How.ISLANDS);
    actions.add("view.all", "Show everything", "Home", panes::showAll, open);
    actions.add("view.selection", "Show the selection", "End", view::showSelection, open);
    actions.add(
        "view.projection",
        "Perspective or parallel",
        "O",
        view.navigation()::switchProjection,
        open);
    actions.add("view.unit", "Show the size in another unit", "", nextUnit, open);
    setting("grid", "Grid on or off", "", () -> view.settings().switchGrid());
    setting("brighter", "Brighter", "", () -> view.settings().brighten(true));
    setting("dimmer", "Dimmer", "", () -> view.settings().brighten(false));
    setting("usual-light", "Usual brightness", "", () -> view.settings().usualBrightness());
    setting(
        "background",
        "Background: light, middle or dark",
        "B",
        () -> view.settings().nextBackground());
    actions.add("view.clip", "Clip what is near, or nothing", "C", view::switchClipping, open);
    actions.add(
        "view.size", "Show the size beside familiar things, or not", "M", view::switchSized, open);
    actions.add("view.pane", "Panes: the next arrangement", "P", panes::next, open);
    actions.add(
        "view.compare",
        "Before and after by a line across the view, or not",
        "K",
        view::switchCompared,
        open);
    for (Arrangement p : Arrangement.values()) {
      actions.add(
          "view.pane-" + p.name().toLowerCase(Locale.ROOT), p.words(), "", () -> panes.show(p));
    }
    for (int focal : new int[] {24, 38, 50, 85, 135}) {
      actions.add(
          "view.focal-" + focal,
          "Focal length " + focal + " mm",
          "",
          () -> view.navigation().setFocal(focal));
    }
    for (Look l : Look.values()) {
      String id = "look-" + l.name().toLowerCase(Locale.ROOT);
      setting(id, "Look: " + l.title(), "", () -> view.settings().setLook(l));
    }
    for (MapKind k : MapKind.values()) {
      String title = k.rule().title() + " map alone";
      setting("map-" + k.fileName(), "Look: " + title, "", () -> view.settings().setMap(k));
    }
    for (Camera.Direction d : Camera.Direction.values()) {
      String n = d.name().toLowerCase(Locale.ROOT);
      actions.add(
          "view.from-" + n,
          "View from "
              + (d == Camera.Direction.ASKEW
                  ? "askew"
                  : d == Camera.Direction.TOP
                      ? "above"
                      : d == Camera.Direction.BOTTOM ? "below" : "the " + n),
          "",
          () -> view.navigation().look(d));
    }
    actions.add(
        "view.square",
        "View square to the ground",
        "",
        view::lookSquareToTheGround,
        () -> session.insight() != null && session.insight().ground() != null);
    actions.add("paper", "Paper: film or slate", "", desk::switchPaper);
    int n = 0;
    for (Path p : session.home().recent()) {
      actions.add(
          "recent." + n++, "Open " + p.getFileName(), "", () -> desk.ask(() -> session.open(p)));
    }
    n = 0;
    for (Path p : session.home().unsaved()) {
      actions.add(
          "unsaved." + n++,
          "Take up unsaved work: " + session.home().about(p),
          "",
          () -> desk.ask(() -> session.open(p)));
    }
  }

  private Draft<?> draft() {
    return desk.sheet().current() == null || session.lookBack() >= 0
        ? null
        : desk.sheet().current().draft();
  }

  /** A tool's draft comes first: what it was given is taken back before an entry is. */
  private void undo(boolean back) {
    Draft<?> d = draft();
    boolean drafted = d != null && (back ? d.canUndo() : d.canRedo());
    if (drafted && back) {
      d.undo();
    } else if (drafted) {
      d.redo();
    } else if (back) {
      session.undo();
    } else {
      session.redo();
    }
    view.repaint();
  }

  private boolean canUndo(boolean back) {
    Draft<?> d = draft();
    boolean drafted = d != null && (back ? d.canUndo() : d.canRedo());
    return drafted || (back ? session.canUndo() : session.canRedo());
  }

  private void setting(String id, String words, String key, Runnable change) {
    actions.add(
        "view." + id,
        words,
        key,
        () -> {
          change.run();
          session.changed();
        },
        session::isOpen);
  }

  private void reshape(String id, String words, String key, Reshape.How how) {
    actions.add(
        "select." + id,
        words,
        key,
        () -> session.selecting().reshape(how, 1),
        () -> session.isOpen() && session.stage() == Stage.TRIM);
  }
}
