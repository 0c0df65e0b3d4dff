package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.log.Checkpoints;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.log.LineFile;
import holotome.core.log.Lines;
import holotome.core.log.LogFile;
import holotome.core.mend.Survey;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.function.Consumer;

/**
 * The work at hand: the Log with its states, undo and redo, what is selected, what was measured,
 * and what the user is looking at. Lives on the interface thread; computation goes through {@link
 * Jobs}.
 */
public final class Session {
  private final Jobs jobs;
  private final Home home;
  private final Checkpoints checkpoints;
  private final List<Runnable> listeners = new ArrayList<>();
  private final List<Runnable> openers = new ArrayList<>();
  private final UndoPath undoPath = new UndoPath();
  private final ChosenCharts charts;
  private final Selecting selecting = new Selecting(this);
  private final Measurements measurements = new Measurements(this);
  private final Measuring measuring = new Measuring(this);
  private final Trials trials = new Trials(this);
  private final Keeping keeping;
  private final PartAtHand partAtHand = new PartAtHand(this);

  /** The Log with its states; null while nothing is open. */
  private Lines lines;

  private ScanFile scanFile;
  private List<Path> sources = List.of();
  private Path output;
  private Stage stage = Stage.INTAKE;
  private int lookBack = -1;
  private int reopened = -1;
  private Selected selected;

  /** The state after the last entry: what is worked on is never only on disk. */
  private Workpiece current;

  private Workpiece shownState;
  private Failure failure;
  private String message = "";

  public Session(Jobs jobs, Home home) {
    this.jobs = jobs;
    this.home = home;
    this.keeping = new Keeping(this, home);
    this.charts = new ChosenCharts(jobs, this::changed, new ArrangingCharts(this)::picture);
    this.checkpoints = new Checkpoints(Runtime.getRuntime().maxMemory() / 3, home.states());
  }

  public void onChange(Runnable listener) {
    listeners.add(listener);
  }

  /** Called when another scan is opened, before anything is told of the change. */
  public void onOpen(Runnable listener) {
    openers.add(listener);
  }

  public void changed() {
    measurements.update();
    List.copyOf(listeners).forEach(Runnable::run);
  }

  public Jobs jobs() {
    return jobs;
  }

  public Home home() {
    return home;
  }

  public boolean isOpen() {
    return lines != null;
  }

  public History history() {
    return lines == null ? null : lines.current().history();
  }

  Lines lines() {
    return lines;
  }

  /** The ways of doing the work that stand side by side. */
  public Trials trials() {
    return trials;
  }

  /** Which mesh the tools of Trim and Mend work on. */
  public PartAtHand partAtHand() {
    return partAtHand;
  }

  /** The file the work began with; null before one is open. */
  public ScanFile scanFile() {
    return scanFile;
  }

  public Path source() {
    return scanFile == null ? null : scanFile.path();
  }

  public Stage stage() {
    return stage;
  }

  public void setStage(Stage next) {
    partAtHand.keeping(() -> stage = next);
    reopened = -1;
    message = "";
    failure = null;
    changed();
    measureIfIdle();
  }

  /** The workpiece as it stands after the last entry, as the tools see it. */
  public Workpiece current() {
    return partAtHand.seen(current);
  }

  /** The workpiece as it stands after the last entry, with all its parts in their places. */
  public Workpiece whole() {
    return current;
  }

  /** The workpiece to be shown: looking back shows an earlier one. */
  public Workpiece shown() {
    return partAtHand.seen(shownState != null ? shownState : current);
  }

  /** Looks back at the state after so many entries; -1 ends looking back. */
  public void lookBackAt(int entries) {
    int next = !isOpen() || entries >= history().size() ? -1 : Math.max(-1, entries);
    if (next == lookBack) {
      return;
    }
    lookBack = next;
    History of = history();
    Workpiece there = next < 0 ? null : of.atHand(next);
    if (next < 0 || there != null) {
      shownState = there;
    } else {
      jobs.fetch(
          () -> of.stateAfter(next),
          state -> {
            if (lookBack == next && history() == of) {
              shownState = state;
              changed();
            }
          });
    }
    changed();
  }

  public int lookBack() {
    return lookBack;
  }

  /** The entry whose parameters are on the Sheet for changing; -1 for none. */
  public int reopened() {
    return reopened;
  }

  public void reopen(int index) {
    reopened = index;
    if (index >= 0) {
      Entry e = history().lines().get(index).entry();
      Stage of = Stage.valueOf(StepKind.of(e.step()).stage().toUpperCase(Locale.ROOT));
      partAtHand.keeping(
          () -> {
            stage = of;
            partAtHand.follow(e.part());
          });
    }
    changed();
  }

  /** The triangles selected on the current Scan; null for none. */
  public BitSet selection() {
    return selected == null ? null : selected.set();
  }

  public Selected selected() {
    return selected;
  }

  /** Changes what is selected, and keeps what was. */
  public Selecting selecting() {
    return selecting;
  }

  /** Which charts of the Cast are chosen. */
  public ChosenCharts charts() {
    return charts;
  }

  /** What is measured on the work. */
  public Measurements measurements() {
    return measurements;
  }

  /** Another mesh is worked on: what was selected belongs to the one before. */
  void otherMesh() {
    selected = null;
    if (isOpen()) {
      showThenMeasure();
    }
  }

  /** Selects triangles of the current Scan; null for none. */
  public void select(Selected next) {
    if (next != selected) {
      undoPath.leave(moment());
      selected = next;
    }
    changed();
  }

  private UndoPath.Moment moment() {
    return new UndoPath.Moment(lines, selected);
  }

  /** What was measured on the current Scan; null while it is being measured. */
  public Insight insight() {
    return current == null ? null : measuring.of(current().scan());
  }

  /** All that is wrong with the mesh at hand; null while that is looked for, or not at all. */
  public Survey survey() {
    return current == null ? null : measuring.surveyOf(current().scan());
  }

  /** Why the mesh at hand could not be looked at closely; null where it was, or is to be. */
  public Failure unseen() {
    return current == null ? null : measuring.unseen(current().scan());
  }

  public Failure failure() {
    return failure;
  }

  public String message() {
    return message;
  }

  public void say(String text) {
    message = text;
    failure = null;
    changed();
  }

  /** Shows a failure inline; a cancel is a message, no error. */
  public void fail(Failure f) {
    if (f.kind() == Failure.Kind.CANCELLED) {
      message = f.getMessage();
      failure = null;
    } else {
      failure = f;
      message = "";
    }
    changed();
  }

  public void dismiss() {
    failure = null;
    message = "";
    changed();
  }

  // --- opening -------------------------------------------------------------------------------

  /** Opens a mesh file, or a project with its Scan and Log. */
  public void open(Path file) {
    open(file, OpenedFile.isProject(file), List.of(file));
  }

  /** Opens several mesh files as one Scan. */
  public void openTogether(List<Path> files) {
    for (Path f : files) {
      if (OpenedFile.isProject(f)) {
        fail(Failure.usage(AppWords.of("session.is-a-project-which-is", f.getFileName())));
        return;
      }
    }
    open(files.getFirst(), false, files);
  }

  private void open(Path file, boolean isProject, List<Path> files) {
    jobs.run(
        files.size() == 1
            ? AppWords.of("session.opening", file.getFileName())
            : AppWords.of("session.opening-files-as-one-scan", files.size()),
        work -> OpenedFile.read(file, isProject, files, checkpoints, home, work),
        this::opened);
    changed();
  }

  /** Closes the work: nothing is open then. */
  public void close() {
    jobs.cancel();
    jobs.stopQuiet();
    openers.forEach(Runnable::run);
    lines = null;
    current = null;
    scanFile = null;
    sources = List.of();
    keeping.end();
    forget();
    selecting.load(java.util.Map.of());
    measurements.load(List.of());
    stage = Stage.INTAKE;
    message = "";
    failure = null;
    changed();
  }

  /** What was undone, selected, looked back at or reopened belongs to the work before. */
  private void forget() {
    undoPath.clear();
    measuring.clear();
    charts.keepOnly(null);
    selected = null;
    lookBack = -1;
    shownState = null;
    reopened = -1;
  }

  private void opened(OpenedFile o) {
    openers.forEach(Runnable::run);
    scanFile = o.scan();
    sources = o.scans();
    lines = Lines.of(o.log().line() == null ? "" : o.log().line(), o.history());
    for (LineFile l : o.log().others()) {
      lines = lines.beside(l.name(), l.all(o.log().entries()));
    }
    partAtHand.follow(null);
    current = history().current();
    selecting.load(o.log().selections());
    measurements.load(o.log().measurements());
    boolean recovered = home.isRecovery(o.file());
    keeping.begin(o);
    output = null;
    forget();
    failure = null;
    message = String.join("; ", scanFile.notes());
    if (message.isEmpty() && !recovered && !home.unsaved().isEmpty()) {
      message = AppWords.of("session.earlier-work-was-not-saved");
    }
    if (!recovered) {
      try {
        home.addRecent(o.isProject() ? o.file() : source());
      } catch (Failure f) {
        message = f.getMessage();
      }
    }
    showThenMeasure();
  }

  /** The view asks for memory first: what is worked on must be seen, findings may wait. */
  private void showThenMeasure() {
    measuring.setAtHand(current().scan());
    charts.keepOnly(current.current());
    changed();
    measuring.begin();
  }

  /** Why there is no {@link #insight}; null where it is being measured. */
  public Failure unmeasured() {
    return measuring.failure();
  }

  /** Tries once more to measure what could not be. */
  public void measureAgain() {
    measuring.begin();
    changed();
  }

  /** Takes the measuring up again after another quiet job ended it. */
  public void measureIfIdle() {
    measuring.beginIfIdle();
  }

  // --- changing ------------------------------------------------------------------------------

  /** A change to the Log that takes time. */
  @FunctionalInterface
  public interface Change {
    History make(History from, Run run);
  }

  /** Makes a change as a main job and, when done, the current state of things. */
  public void change(String title, Change change) {
    if (!isOpen()) {
      return;
    }
    History from = history();
    Path out = output();
    jobs.run(title, work -> measured(change.make(from, new Run(work, out))), this::accept);
    changed();
  }

  public void apply(Step step) {
    Entry entry = partAtHand.entry(step);
    change(StepKind.of(step).title(), (h, run) -> h.apply(entry, run));
  }

  /** Works out what the window will ask first, so that it need not while it is drawn. */
  static History measured(History h) {
    Workpiece w = h.current();
    w.frame().workBounds(w.scan());
    w.frame().workBounds(w.current());
    w.scan().bounds();
    w.current().bounds();
    return h;
  }

  /** Takes over a History made elsewhere from the current one. */
  public void accept(History next) {
    atHand(
        AppWords.of("session.fetching-the-result"),
        next,
        state -> {
          undoPath.leave(moment());
          settle(lines.changed(next), state, null);
        });
  }

  /** Goes to other lines of the Log, or another of them; undo comes back. */
  void move(Lines next, Selected then) {
    atHand(
        AppWords.of("session.fetching-the-result"),
        next.current().history(),
        state -> {
          undoPath.leave(moment());
          settle(next, state, then);
        });
  }

  /** Goes on once a History's last state is in memory: reading it back may take a moment. */
  private void atHand(String title, History of, Consumer<Workpiece> then) {
    Workpiece there = of.atHand(of.size());
    if (there != null) {
      then.accept(there);
      return;
    }
    jobs.run(title, work -> of.current(), then);
    changed();
  }

  private void settle(Lines next, Workpiece state, Selected then) {
    lines = next;
    current = state;
    selected = then;
    lookBack = -1;
    shownState = null;
    reopened = -1;
    failure = keeping.afterChange();
    List<History.Line> done = history().lines();
    message = done.isEmpty() ? "" : String.join("; ", done.getLast().effect().notes());
    showThenMeasure();
  }

  public boolean canUndo() {
    return undoPath.canGo(true) && !jobs.isBusy();
  }

  public boolean canRedo() {
    return undoPath.canGo(false) && !jobs.isBusy();
  }

  public void undo() {
    if (canUndo()) {
      go(true, AppWords.of("session.undoing"));
    }
  }

  public void redo() {
    if (canRedo()) {
      go(false, AppWords.of("session.redoing"));
    }
  }

  private void go(boolean back, String title) {
    UndoPath.Moment next = undoPath.next(back);
    if (next.lines() == lines) {
      undoPath.go(back, moment());
      selected = next.selected();
      changed();
      return;
    }
    atHand(
        title,
        next.history(),
        state -> {
          undoPath.go(back, moment());
          settle(next.lines(), state, next.selected());
        });
  }

  /** Where written files go: beside the project, or where the user said, or the usual place. */
  public Path output() {
    if (output != null) {
      return output;
    }
    Path project = keeping.project();
    return project != null ? project.toAbsolutePath().getParent() : home.output(source());
  }

  public void setOutput(Path directory) {
    output = directory;
    changed();
  }

  // --- keeping -------------------------------------------------------------------------------

  LogFile logFile() {
    List<Entry> entries = history().entries();
    List<String> paths = sources.stream().map(p -> p.toAbsolutePath().toString()).toList();
    List<LineFile> beside = new ArrayList<>();
    trials.others().forEach(l -> beside.add(LineFile.beside(l.name(), l.entries(), entries)));
    String line = trials.current().isEmpty() ? null : trials.current();
    return new LogFile(entries, paths, selecting.named(), measurements.all(), line, beside);
  }

  /** Where the work is kept. */
  public Keeping keeping() {
    return keeping;
  }

  /** Keeps what belongs to the project beside its entries, and says what it was. */
  void keep(String what) {
    failure = keeping.afterChange();
    message = what;
    changed();
  }

  /** Saves the project to a file and keeps it there from now on. */
  public void save(Path given) {
    try {
      say(AppWords.of("session.saved", keeping.save(given).getFileName()));
    } catch (Failure f) {
      fail(f);
    }
  }

  /** Runs a step without taking the result over: for figures before applying. Any thread. */
  public History trial(Entry entry, int revising, History on, Work work) {
    Run run = Run.of(work);
    return measured(revising >= 0 ? on.revise(revising, entry.step(), run) : on.apply(entry, run));
  }
}
