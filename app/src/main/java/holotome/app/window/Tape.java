package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.step.StepKind;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.VPos;
import javafx.scene.AccessibleRole;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Pane;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.FontWeight;
import javafx.scene.text.Text;
import javafx.scene.text.TextAlignment;

/**
 * The Log drawn as a tape: a length per entry, as high as the mesh had triangles after it. Dragging
 * along it looks back, a click on an entry reopens it. The step being prepared stands dashed at the
 * end.
 */
final class Tape extends Pane {
  private static final Font TITLE = Font.font("IBM Plex Sans", FontWeight.NORMAL, 12);
  private static final Font FIGURE = Font.font("IBM Plex Mono", 11);
  static final double LEFT = 62;

  /** Room for the name of a Trial behind its last entry. */
  static final double NAME = 96;

  private static final double TOP = 14;
  private static final double FLOOR = 14;

  private final Session session;
  private final Canvas canvas = new Canvas();
  private final List<double[]> lengths = new ArrayList<>();
  private final TapeForks forks = new TapeForks();
  private String pendingTitle;
  private int pendingTriangles = -1;
  private double pressedAt;
  private boolean dragging;
  private boolean slate;

  Tape(Session session) {
    this.session = session;
    setId("tape");
    getChildren().add(canvas);
    widthProperty().addListener((o, a, b) -> draw());
    heightProperty().addListener((o, a, b) -> draw());
    addEventHandler(
        MouseEvent.MOUSE_PRESSED,
        e -> {
          pressedAt = e.getX();
          dragging = false;
        });
    setFocusTraversable(true);
    setAccessibleRole(AccessibleRole.LIST_VIEW);
    setAccessibleText(AppWords.of("tape.tape-the-entries-of-the"));
    focusedProperty().addListener((o, a, b) -> draw());
    addEventHandler(KeyEvent.KEY_PRESSED, this::key);
    addEventHandler(MouseEvent.MOUSE_DRAGGED, this::dragged);
    addEventHandler(MouseEvent.MOUSE_RELEASED, this::released);
  }

  void setSlate(boolean on) {
    slate = on;
    draw();
  }

  /** The step being prepared: its name and, where known, the triangles it would leave. */
  void setPending(String title, int triangles) {
    pendingTitle = title;
    pendingTriangles = triangles;
    draw();
  }

  /** Left and right look back and forth, Enter reopens the entry that led to what is shown. */
  private void key(KeyEvent e) {
    if (!session.isOpen() || session.jobs().isBusy()) {
      return;
    }
    int last = session.history().size();
    int now = session.lookBack() < 0 ? last : session.lookBack();
    switch (e.getCode()) {
      case LEFT -> session.lookBackAt(Math.max(0, now - 1));
      case RIGHT -> session.lookBackAt(now + 1 >= last ? -1 : now + 1);
      default -> {
        return;
      }
    }
    e.consume();
  }

  /** Reopens the entry that led to what is shown; whether there is one. */
  boolean reopenShown() {
    int shown = session.lookBack() < 0 ? session.history().size() : session.lookBack();
    if (shown < 1) {
      return false;
    }
    session.lookBackAt(-1);
    session.reopen(shown - 1);
    return true;
  }

  /** Whether a step that is not applied yet is drawn. */
  boolean isPending() {
    return pendingTitle != null;
  }

  private int at(double x) {
    for (int i = 0; i < lengths.size(); i++) {
      if (x < lengths.get(i)[1]) {
        return i;
      }
    }
    return lengths.size() - 1;
  }

  private void dragged(MouseEvent e) {
    if (!session.isOpen() || session.jobs().isBusy()) {
      return;
    }
    if (Math.abs(e.getX() - pressedAt) > 4) {
      dragging = true;
    }
    if (dragging) {
      session.lookBackAt(at(e.getX()));
    }
  }

  private void released(MouseEvent e) {
    if (!session.isOpen() || dragging) {
      return;
    }
    String other = forks.at(e.getX(), e.getY());
    if (other != null) {
      session.trials().take(other);
      return;
    }
    int i = at(e.getX());
    if (i == 0) {
      session.lookBackAt(session.history().size() == 0 ? -1 : 0);
    } else if (i - 1 < session.history().size() && i >= 1 && e.getX() <= lengths.getLast()[1]) {
      session.lookBackAt(-1);
      session.reopen(session.reopened() == i - 1 ? -1 : i - 1);
    }
  }

  private Color ink() {
    return slate ? Color.web("#E6E3DA") : Color.web("#1D2B33");
  }

  private Color soft() {
    return slate ? Color.web("#A3AEB3") : Color.web("#5A666D");
  }

  private Color verdigris() {
    return slate ? Color.web("#5FC3B0") : Color.web("#1F7A6D");
  }

  void draw() {
    canvas.setWidth(getWidth());
    canvas.setHeight(getHeight());
    GraphicsContext g = canvas.getGraphicsContext2D();
    double h = getHeight();
    double w = getWidth();
    g.clearRect(0, 0, w, h);
    double floor = h - FLOOR;
    g.setStroke(ink());
    g.setLineWidth(1);
    g.strokeLine(0, floor + 0.5, w, floor + 0.5);
    for (double x = LEFT; x < w; x += 24) {
      g.strokeLine(Math.round(x) + 0.5, floor + 1, Math.round(x) + 0.5, floor + 4);
    }
    lengths.clear();
    if (!session.isOpen()) {
      g.setFill(soft());
      g.setFont(Font.font("IBM Plex Sans", 12));
      g.setTextBaseline(VPos.CENTER);
      g.fillText(AppWords.of("tape.the-tape-every-step-will"), 14, h / 2 - 6);
      return;
    }
    double own = floor - TapeForks.height(session.trials());
    double length = drawEntries(g, own, w);
    forks.draw(g, session.trials(), lengths, own, w, length, ink(), soft());
    if (isFocusVisible()) {
      g.setStroke(verdigris());
      g.setLineDashes(3, 3);
      g.strokeRect(1.5, 1.5, w - 3, h - 3);
      g.setLineDashes();
    }
  }

  /** Draws the current line; gives the length of a block. */
  private double drawEntries(GraphicsContext g, double floor, double width) {
    List<History.Line> lines = session.history().lines();
    int first = session.scanFile().triangles();
    boolean pending = pendingTitle != null;
    int count = Math.max(lines.size() + 1 + (pending ? 1 : 0), longest() + 1);
    // The name of a Trial stands at its end.
    double free = session.trials().areSeveral() ? width - NAME : width - 20;
    double length = Math.clamp((free - LEFT) / count, 60, 168);
    // More entries than fit: the tape is drawn from the end, older ones run off to the left.
    double x = Math.min(LEFT, free - count * length);
    double most = Math.max(first, pendingTriangles);
    for (History.Line l : lines) {
      most = Math.max(most, l.effect().triangles());
    }
    g.setFill(soft());
    g.setFont(Font.font("IBM Plex Mono", 11));
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(VPos.TOP);
    if (x >= LEFT) {
      g.fillText(StageBar.count((int) most), 10, TOP - 2);
    }
    int shownState = session.lookBack() >= 0 ? session.lookBack() : lines.size();
    for (int i = 0; i <= lines.size(); i++) {
      int triangles = i == 0 ? first : lines.get(i - 1).effect().triangles();
      String title =
          i == 0
              ? AppWords.of("tape.opened", session.source().getFileName())
              : title(lines.get(i - 1).entry());
      boolean off = i > 0 && !lines.get(i - 1).entry().on();
      int change = i == 0 ? 0 : lines.get(i - 1).effect().change();
      String figure = off ? AppWords.of("tape.off") : figure(change, triangles, false);
      String brief = off ? figure : figure(change, triangles, true);
      double top = floor - Math.max(3, (floor - TOP) * triangles / most);
      boolean future = i > shownState;
      boolean open = i > 0 && session.reopened() == i - 1;
      g.setFill(
          open
              ? Color.web("#6C4AB6", 0.16)
              : Color.web("#1F7A6D", future ? 0.05 : slate ? 0.30 : 0.14));
      g.fillRect(x, top, length, floor - top);
      g.setStroke(open ? Color.web("#6C4AB6") : future ? soft() : verdigris());
      g.setLineWidth(open ? 2 : 1);
      g.setLineDashes(off ? new double[] {4, 3} : null);
      g.strokeRect(x + 0.5, top + 0.5, length - 1, floor - top - 1);
      g.setLineDashes();
      words(g, x, floor, top, length, title, figure, brief, future || off ? soft() : ink());
      lengths.add(new double[] {x, x + length});
      x += length;
      if (i == shownState) {
        g.setFill(verdigris());
        g.fillRect(x - 1, TOP - 4, 2, floor - TOP + 10);
        g.fillPolygon(
            new double[] {x - 6, x + 6, x}, new double[] {TOP - 12, TOP - 12, TOP - 4}, 3);
      }
    }
    if (pending) {
      double top =
          pendingTriangles < 0
              ? TOP + 10
              : floor - Math.max(3, (floor - TOP) * pendingTriangles / most);
      g.setStroke(slate ? Color.web("#B49BF2") : Color.web("#6C4AB6"));
      g.setLineWidth(1.2);
      g.setLineDashes(5, 4);
      g.strokeRect(x + 4.5, top + 0.5, length - 6, floor - top - 1);
      g.setLineDashes();
      words(
          g,
          x + 5,
          floor,
          top,
          length - 6,
          pendingTitle,
          pendingTriangles < 0 ? "" : figure(0, pendingTriangles, false),
          pendingTriangles < 0 ? "" : figure(0, pendingTriangles, true),
          slate ? Color.web("#B49BF2") : Color.web("#6C4AB6"));
      x += length;
    }
    if (session.trials().areSeveral()) {
      g.setFill(verdigris());
      fill(
          g,
          TITLE,
          session.trials().current(),
          Math.min(x + 10, width - NAME + 8),
          floor - 17,
          NAME - 12);
    }
    return length;
  }

  /** How many entries the longest Trial beside has, with those it shares. */
  private int longest() {
    return session.trials().others().stream().mapToInt(l -> l.entries().size()).max().orElse(0);
  }

  /** What an entry is called: the step, and the mesh it is for where that is not the Scan. */
  static String title(Entry e) {
    String title = StepKind.of(e.step()).title();
    return e.part() == null ? title : AppWords.of("tape.on-part", title, PartNames.of(e.part()));
  }

  /** Title and figure at the foot of a high block, above a low one. */
  private void words(
      GraphicsContext g,
      double x,
      double floor,
      double top,
      double length,
      String title,
      String figure,
      String brief,
      Color titleColour) {
    double foot = floor - top >= 38 ? floor : floor - top >= 20 ? top + 16 : top - 1;
    double figureAt = floor - top >= 20 ? floor - 19 : foot - 18;
    g.setFill(titleColour);
    fill(g, TITLE, title, x + 7, foot - 35, length - 9);
    g.setFill(soft());
    boolean whole = width(figure, FIGURE) <= length - 9;
    fill(g, FIGURE, whole ? figure : brief, x + 7, figureAt, length - 9);
  }

  static double width(String text, Font font) {
    Text t = new Text(text);
    t.setFont(font);
    return t.getLayoutBounds().getWidth();
  }

  /** Writes as much of a text as fits. */
  private static void fill(
      GraphicsContext g, Font font, String text, double x, double y, double width) {
    g.setFont(font);
    g.fillText(fitting(text, font, width), x, y);
  }

  /** As much of a text as fits. */
  static String fitting(String text, Font font, double width) {
    String t = text;
    for (int n = text.length() - 1; n > 0 && width(t, font) > width; n--) {
      t = text.substring(0, n) + "…";
    }
    return t;
  }

  /**
   * A change, or the count where nothing changed; in few digits: one that is cut reads as another.
   */
  private static String figure(int change, int triangles, boolean brief) {
    int n = change == 0 ? triangles : Math.abs(change);
    String sign = change > 0 ? "+" : change < 0 ? "−" : "";
    return sign + (brief ? StageBar.count(n) : Language.format("%,d", n));
  }
}
