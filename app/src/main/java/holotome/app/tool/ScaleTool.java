package holotome.app.tool;

import holotome.app.model.ScanFile;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.datum.DeclareUnit;
import holotome.core.datum.Scale;
import holotome.core.datum.ScaleBar;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepWords;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.CheckBox;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/**
 * The true size: from lengths between picked points, from a size it must have, or by a factor. The
 * points can be picked on the scan as it was opened, whatever has been cut away since: both stand
 * in the same base coordinates.
 */
public final class ScaleTool extends Tool {
  private enum By {
    LENGTHS,
    SIZE,
    FACTOR,
    UNIT
  }

  private By by = By.LENGTHS;
  private final LengthPairs pairs;
  private String size = "";
  private Scale.Along along = Scale.Along.HEIGHT;
  private String factor = "";
  private Length.Unit unit = Length.Unit.MM;
  private boolean asOpened;

  /** The scan as opened, held while the tool is in hand, and the Log it was taken from. */
  private Mesh opened;

  private History openedIn;
  private boolean chosen;
  private double[] pointer;
  private ScanFile lookedAt;
  private History on;

  public ScaleTool(Session session) {
    super(session);
    pairs = new LengthPairs(session, this::pairsEdited);
  }

  private void pairsEdited() {
    edited();
  }

  @Override
  public String id() {
    return "scale";
  }

  @Override
  public Stage stage() {
    return Stage.DATUM;
  }

  @Override
  public String hint() {
    return AppWords.of("scale-tool.pick-both-ends-of-something");
  }

  @Override
  public Node form() {
    if (session.reopened() < 0 && session.history() != on) {
      // Ends picked before the last entry stand elsewhere now.
      pairs.clear();
    }
    on = session.history();
    if (!chosen && session.history() != null) {
      // Not in memory any more: then it is another than the current one.
      Workpiece first = session.history().atHand(0);
      asOpened = first == null || session.current().scan() != first.scan();
    }
    ChoiceBox<String> way = new ChoiceBox<>();
    way.setId("field-by");
    way.getItems()
        .setAll(
            AppWords.of("scale-tool.known-lengths"),
            AppWords.of("scale-tool.a-size"),
            AppWords.of("scale-tool.a-factor"),
            AppWords.of("scale-tool.the-files-unit"));
    way.getSelectionModel().select(by.ordinal());
    CheckBox opened = new CheckBox(AppWords.of("scale-tool.pick-on-the-scan-as"));
    opened.setId("field-as-opened");
    opened.setSelected(asOpened);
    opened.setOnAction(
        e -> {
          asOpened = opened.isSelected();
          chosen = true;
          edited();
        });
    VBox lengths = new VBox(6, opened, pairs.form());
    TextField sizeField = Fields.plain("field-size", size, "640 mm");
    sizeField.textProperty().addListener((o, was, is) -> setSize(is));
    ChoiceBox<String> measure = new ChoiceBox<>();
    measure.setId("field-along");
    for (Scale.Along a : Scale.Along.values()) {
      measure.getItems().add(StepWords.choice(a.name().toLowerCase(java.util.Locale.ROOT)));
    }
    measure.getSelectionModel().select(along.ordinal());
    measure.setOnAction(
        e -> {
          along = Scale.Along.values()[measure.getSelectionModel().getSelectedIndex()];
          edited();
        });
    VBox sizes =
        new VBox(
            6,
            Fields.row(AppWords.of("scale-tool.its"), measure),
            Fields.row(AppWords.of("scale-tool.must-be"), sizeField));
    TextField factorField = Fields.plain("field-factor", factor, "0.001");
    factorField.textProperty().addListener((o, was, is) -> setFactor(is));
    HBox factors = Fields.row(AppWords.of("common.times"), factorField);
    ChoiceBox<String> units = new ChoiceBox<>();
    units.setId("field-unit");
    for (Length.Unit u : Length.Unit.values()) {
      units.getItems().add(declared(u));
    }
    units.getSelectionModel().select(unit.ordinal());
    units.setOnAction(
        e -> {
          unit = Length.Unit.values()[units.getSelectionModel().getSelectedIndex()];
          edited();
        });
    HBox unitRow = Fields.row(AppWords.of("scale-tool.one-unit-is-1"), units);
    Runnable rows =
        () -> {
          show(unitRow, by == By.UNIT);
          show(lengths, by == By.LENGTHS);
          show(sizes, by == By.SIZE);
          show(factors, by == By.FACTOR);
        };
    way.setOnAction(
        e -> {
          by = By.values()[way.getSelectionModel().getSelectedIndex()];
          rows.run();
          edited();
        });
    rows.run();
    lookForBar();
    return new VBox(
        6, Fields.row(AppWords.of("scale-tool.by"), way), lengths, sizes, factors, unitRow);
  }

  /** A unit, and how high the work would be, were the file in it. */
  private String declared(Length.Unit u) {
    if (session.current() == null) {
      return u.symbol();
    }
    Frame f = session.current().frame();
    double high = f.workBounds(session.current().current()).height();
    double file = high * f.toFile().scale() / f.toWork().scale();
    return AppWords.of("scale-tool.high", u.symbol(), Length.format(file * u.metres(), true));
  }

  private void setSize(String text) {
    size = text;
    edited();
  }

  private void setFactor(String text) {
    factor = text;
    edited();
  }

  private static void show(Node n, boolean visible) {
    n.setVisible(visible);
    n.setManaged(visible);
  }

  /** Looks for a scale bar on the scan as opened, once for each. */
  private void lookForBar() {
    if (session.history() == null) {
      return;
    }
    ScanFile file = session.scanFile();
    if (file == lookedAt) {
      return;
    }
    History history = session.history();
    lookedAt = file;
    pairs.propose(null);
    session
        .jobs()
        .look(
            this,
            AppWords.of("scale-tool.looking-for-a-scale-bar"),
            work ->
                java.util.Optional.ofNullable(ScaleBar.find(history.stateAfter(0).scan(), work)),
            bar -> {
              if (lookedAt == file) {
                pairs.propose(bar.orElse(null));
              }
            },
            // Nothing is proposed then; it is looked for again when the tool is next taken up.
            f -> lookedAt = null);
  }

  @Override
  public String missing() {
    return switch (by) {
      case LENGTHS -> pairs.missing();
      case SIZE -> size.isBlank() ? AppWords.of("scale-tool.type-the-size-it-must") : null;
      case FACTOR -> factor.isBlank() ? AppWords.of("scale-tool.type-a-factor-such-as") : null;
      case UNIT -> null;
    };
  }

  @Override
  public Step step() {
    if (by == By.UNIT) {
      return new DeclareUnit(unit);
    }
    Scale scale =
        switch (by) {
          case LENGTHS -> new Scale(pairs.all());
          case SIZE -> new Scale(null, Length.parse(size, Length.Unit.MM), null, along);
          default -> new Scale(null, null, number(factor), along);
        };
    Box b = session.current().frame().workBounds(session.current().current());
    double across = scale.factorFor(b) * Math.max(b.width(), Math.max(b.depth(), b.height()));
    if (across > 20_000 || across < 1e-4) {
      throw Failure.usage(
          AppWords.of("scale-tool.that-would-make-the-scan", Length.format(across, true)));
    }
    return scale;
  }

  private static double number(String text) {
    try {
      double d = Double.parseDouble(text.strip().replace(',', '.'));
      if (d > 0 && Double.isFinite(d)) {
        return d;
      }
    } catch (NumberFormatException e) {
      // Said below, as for nought.
    }
    throw Failure.usage(AppWords.of("scale-tool.is-not-a-number-above", text.strip()));
  }

  @Override
  public void load(Step step) {
    Scale s = (Scale) step;
    along = s.along();
    if (s.lengths() != null) {
      by = By.LENGTHS;
      pairs.load(s.lengths());
    } else if (s.size() != null) {
      by = By.SIZE;
      size = s.size().toString();
    } else {
      by = By.FACTOR;
      factor = String.valueOf(s.factor());
    }
  }

  @Override
  public void end(ViewPort view) {
    opened = null;
    openedIn = null;
    pairs.clear();
    pointer = null;
    chosen = false;
  }

  @Override
  public Draft<?> draft() {
    return by == By.LENGTHS ? pairs.draft() : null;
  }

  @Override
  public void drop(ViewPort view) {
    pairs.clear();
    view.repaint();
    edited();
  }

  @Override
  public String verb(History trial) {
    return switch (by) {
      case LENGTHS -> pairs.verb();
      case SIZE ->
          size.isBlank()
              ? AppWords.of("common.set-the-scale")
              : AppWords.of("scale-tool.set-the-size-to", size.strip());
      case FACTOR ->
          factor.isBlank()
              ? AppWords.of("common.set-the-scale")
              : AppWords.of("scale-tool.scale-by", factor.strip());
      case UNIT -> AppWords.of("common.one-unit-is-1", unit.symbol());
    };
  }

  @Override
  public Workpiece shows() {
    if (!asOpened || by != By.LENGTHS || session.history() == null) {
      return null;
    }
    // The scan as opened, placed as the work stands now; the current one until it was read back.
    Mesh scan = opened();
    return scan == null ? null : Workpiece.of(scan, session.current().frame());
  }

  /** The scan as opened; null while it is read back from disk. */
  private Mesh opened() {
    History h = session.history();
    if (openedIn != h) {
      openedIn = h;
      Workpiece there = h.atHand(0);
      opened = there == null ? null : there.scan();
      if (there == null) {
        session
            .jobs()
            .fetch(
                () -> h.stateAfter(0).scan(),
                m -> {
                  if (openedIn == h) {
                    opened = m;
                    edited();
                  }
                });
      }
    }
    return opened;
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    pointer = new double[] {e.getX(), e.getY()};
    view.repaint();
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    moved(view, e);
    if (by == By.LENGTHS) {
      pairs.hold(view, e.getX(), e.getY());
      take(view, e);
    }
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    moved(view, e);
    if (by == By.LENGTHS) {
      take(view, e);
    }
  }

  private void take(ViewPort view, MouseEvent e) {
    view.pickTriangle(
        e.getX(),
        e.getY(),
        (t, p) -> {
          if (p != null) {
            pairs.picked(view, t, p);
            view.repaint();
            edited();
          }
        });
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (by != By.LENGTHS || session.current() == null) {
      return;
    }
    boolean sized = session.current().frame().trueSize();
    List<double[][]> ends = new ArrayList<>(pairs.ends());
    for (double[][] pair : ends) {
      double[] a = pair[0];
      double[] b = pair[1];
      if (a != null && b != null) {
        Marks.line(view, g, new double[] {a[0], a[1], a[2], b[0], b[1], b[2]}, Marks.VERDIGRIS);
        double[] p = view.project(Vec.mul(Vec.add(a, b), 0.5));
        Marks.slip(
            g,
            p == null ? null : new double[] {p[0], p[1] - 16},
            Length.format(Vec.distance(a, b), sized));
      }
      for (double[] p : pair) {
        if (p != null) {
          Marks.ring(g, view.project(p));
        }
      }
    }
    if (pointer != null && !pairs.isPicked()) {
      Loupe.draw(view, g, pointer);
    }
  }
}
