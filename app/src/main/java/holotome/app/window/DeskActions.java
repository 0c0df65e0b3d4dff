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
import holotome.app.words.AppWords;
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
    actions.add(
        "file.open", AppWords.of("desk-actions.open-a-scan-or-project"), "Ctrl O", desk::open);
    actions.add("file.demo", AppWords.of("desk-actions.open-the-demo-scan"), "", desk::openDemo);
    actions.add(
        "guide", AppWords.of("desk-actions.first-steps-over-the-demo"), "", desk::showGuide);
    actions.add("file.save", AppWords.of("common.save-the-project"), "Ctrl S", desk::save, open);
    actions.add(
        "file.save-as",
        AppWords.of("desk-actions.save-the-project-under-another"),
        "Ctrl Shift S",
        desk::saveAs,
        open);
    actions.add(
        "file.close", AppWords.of("desk-actions.close-the-work"), "Ctrl W", desk::closeWork, open);
    actions.add(
        "edit.undo",
        AppWords.of("desk-actions.undo"),
        "Ctrl Z",
        () -> undo(true),
        () -> canUndo(true));
    actions.add(
        "edit.redo",
        AppWords.of("desk-actions.redo"),
        "Ctrl Shift Z",
        "Ctrl Y",
        () -> undo(false),
        () -> canUndo(false));
    actions.add(
        "edit.copy",
        AppWords.of("desk-actions.copy-the-figures"),
        "Ctrl C",
        desk::copyFigures,
        open);
    actions.add(
        "work.cancel",
        AppWords.of("desk-actions.cancel-the-running-work"),
        "Ctrl Period",
        jobs::cancel,
        () -> jobs.shown() != null);
    actions.add("find", AppWords.of("common.find-an-action"), "Ctrl Space", desk.finder()::open);
    actions.add("keys", AppWords.of("desk-actions.all-keys-and-change-them"), "F1", keysPage);
    actions.add("settings", AppWords.of("common.settings"), "Ctrl Comma", settingsPage);
    for (Stage s : Stage.values()) {
      String id = "stage." + s.id();
      actions.add(
          id,
          AppWords.of("desk-actions.go-to", s.title()),
          "Alt " + (s.ordinal() + 1),
          () -> session.setStage(s));
    }
    for (Tool t : tools.all()) {
      int number = tools.of(t.stage()).indexOf(t) + 1;
      String key = "Alt " + (t.stage().ordinal() + 1);
      key = number < 10 ? key + ", " + number : number == 10 ? key + ", 0" : key;
      actions.addByWay(
          "tool." + t.stage().id() + "." + t.id(),
          t.stage().title() + ": " + t.title(),
          key,
          () -> desk.sheet().take(t));
    }
    actions.add("view.next-look", AppWords.of("desk-actions.next-look"), "L", view::nextLook, open);
    actions.add(
        "view.deviation",
        AppWords.of("desk-actions.deviation"),
        "D",
        view::switchDeviation,
        () -> session.isOpen() && view.mesh() != null);
    actions.add(
        "view.through",
        AppWords.of("desk-actions.select-visible-or-through"),
        "V",
        () -> view.setThrough(!view.isThrough()),
        open);
    reshape("invert", AppWords.of("desk-actions.invert-the-selection"), "I", Reshape.How.INVERT);
    reshape("grow", AppWords.of("desk-actions.grow-the-selection"), "G", Reshape.How.GROW);
    reshape(
        "shrink", AppWords.of("desk-actions.shrink-the-selection"), "Shift G", Reshape.How.SHRINK);
    reshape(
        "smooth", AppWords.of("desk-actions.smooth-the-outline-of-the"), "S", Reshape.How.SMOOTH);
    reshape("fill", AppWords.of("desk-actions.fill-the-gaps-in-the"), "F", Reshape.How.FILL);
    reshape("islands", AppWords.of("desk-actions.select-whole-islands"), "W", Reshape.How.ISLANDS);
    actions.add(
        "view.all", AppWords.of("desk-actions.show-everything"), "Home", panes::showAll, open);
    actions.add(
        "view.selection",
        AppWords.of("desk-actions.show-the-selection"),
        "End",
        view::showSelection,
        open);
    actions.add(
        "view.projection",
        AppWords.of("desk-actions.perspective-or-parallel"),
        "O",
        view.navigation()::switchProjection,
        open);
    actions.add(
        "view.unit", AppWords.of("desk-actions.show-the-size-in-another"), "", nextUnit, open);
    setting(
        "grid", AppWords.of("desk-actions.grid-on-or-off"), "", () -> view.settings().switchGrid());
    setting(
        "brighter", AppWords.of("desk-actions.brighter"), "", () -> view.settings().brighten(true));
    setting(
        "dimmer", AppWords.of("desk-actions.dimmer"), "", () -> view.settings().brighten(false));
    setting(
        "usual-light",
        AppWords.of("desk-actions.usual-brightness"),
        "",
        () -> view.settings().usualBrightness());
    setting(
        "background",
        AppWords.of("desk-actions.background-light-middle-or-dark"),
        "B",
        () -> view.settings().nextBackground());
    actions.add(
        "view.clip",
        AppWords.of("desk-actions.clip-what-is-near-or"),
        "C",
        view::switchClipping,
        open);
    actions.add(
        "view.size",
        AppWords.of("desk-actions.show-the-size-beside-familiar"),
        "M",
        view::switchSized,
        open);
    actions.add(
        "view.pane",
        AppWords.of("desk-actions.panes-the-next-arrangement"),
        "P",
        panes::next,
        open);
    actions.add(
        "view.compare",
        AppWords.of("desk-actions.before-and-after-by-a"),
        "K",
        view::switchCompared,
        open);
    actions.add(
        "trial.begin",
        AppWords.of("desk-actions.begin-a-trial"),
        "T",
        session.trials()::begin,
        open);
    actions.add(
        "trial.next",
        AppWords.of("desk-actions.next-trial"),
        "Shift T",
        session.trials()::next,
        session.trials()::areSeveral);
    actions.add("trial.all", AppWords.of("desk-actions.all-trials"), "", desk::showTrials, open);
    actions.add(
        "work.part",
        AppWords.of("desk-actions.next-part"),
        "Q",
        session.partAtHand()::next,
        () -> session.partAtHand().all().size() > 1);
    for (Arrangement p : Arrangement.values()) {
      actions.add(
          "view.pane-" + p.name().toLowerCase(Locale.ROOT), p.words(), "", () -> panes.show(p));
    }
    for (int focal : new int[] {24, 38, 50, 85, 135}) {
      actions.add(
          "view.focal-" + focal,
          AppWords.of("desk-actions.focal-length-mm", focal),
          "",
          () -> view.navigation().setFocal(focal));
    }
    for (Look l : Look.values()) {
      String id = "look-" + l.name().toLowerCase(Locale.ROOT);
      setting(
          id, AppWords.of("desk-actions.look", l.title()), "", () -> view.settings().setLook(l));
    }
    for (MapKind k : MapKind.values()) {
      String title = AppWords.of("desk-actions.look-map-alone", k.rule().title());
      setting("map-" + k.fileName(), title, "", () -> view.settings().setMap(k));
    }
    for (Camera.Direction d : Camera.Direction.values()) {
      String n = d.name().toLowerCase(Locale.ROOT);
      actions.add(
          "view.from-" + n, AppWords.of("direction." + n), "", () -> view.navigation().look(d));
    }
    actions.add(
        "view.square",
        AppWords.of("desk-actions.view-square-to-the-ground"),
        "",
        view::lookSquareToTheGround,
        () -> session.insight() != null && session.insight().ground() != null);
    actions.add("paper", AppWords.of("desk-actions.paper-film-or-slate"), "", desk::switchPaper);
    int n = 0;
    for (Path p : session.home().recent()) {
      actions.add(
          "recent." + n++,
          AppWords.of("desk-actions.open", p.getFileName()),
          "",
          () -> desk.ask(() -> session.open(p)));
    }
    n = 0;
    for (Path p : session.home().unsaved()) {
      actions.add(
          "unsaved." + n++,
          AppWords.of("desk-actions.take-up-unsaved-work", session.home().about(p)),
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
