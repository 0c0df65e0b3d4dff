package holotome.app.pane;

import holotome.app.model.ArrangingCharts;
import holotome.app.model.ChartSheet;
import holotome.app.model.Session;
import holotome.app.tool.FlatPort;
import holotome.app.tool.FlatTool;
import holotome.app.tool.Marks;
import holotome.app.words.AppWords;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.UvSquares;
import holotome.core.part.GrowingMaps;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.unit.RoundLength;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.scene.Layer;
import holotome.view.scene.LineLayer;
import holotome.view.scene.Look;
import holotome.view.scene.MeshLayer;
import holotome.view.scene.Scene;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.IntConsumer;
import javafx.animation.Animation;
import javafx.animation.KeyFrame;
import javafx.animation.Timeline;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;
import javafx.util.Duration;

/**
 * The flat pane: the charts of the Cast in the squares of the texture, in the look of the space
 * pane as far as it has one, drawn as that is. The same mouse shifts it and comes closer; a click
 * chooses a chart, Shift + click one more.
 */
public final class FlatPane extends PicturePane implements FlatPort {
  private static final Box SQUARE = new Box(0, 0, 0, 1, 1, 0);

  /** How long the ruler is at most, in pixels of the pane. */
  private static final double RULER = 160;

  private static final int INK = 0xff1d2b33;

  /** More squares than these are not drawn: coordinates may be anything. */
  private static final int MOST_SQUARES = 100;

  /** How often what is being baked is shown anew, in milliseconds. */
  private static final double FOLLOWED = 400;

  private final Session session;
  private final ViewSettings settings;
  private final Navigation navigation = new Navigation(new Ground(), this, false);
  private ChartSheet shown;

  /** The tool that the left button went down for. */
  private FlatTool held;

  /** What was pressed while an edit was made, or charts were found. */
  private final WaitingGesture waiting = new WaitingGesture();

  /** Whether the user came closer: then it stays there when the pane is made larger. */
  private boolean placed;

  private boolean isFollowing;

  FlatPane(Session session, ViewSettings settings) {
    super(new Renderer(), f -> {});
    this.session = session;
    this.settings = settings;
    setId("flat-view");
    setAccessibleText(AppWords.of("flat-pane.charts-and-maps-in-the"));
    setMinSize(160, 160);
    addEventHandler(MouseEvent.MOUSE_PRESSED, this::pressed);
    addEventHandler(MouseEvent.MOUSE_DRAGGED, this::dragged);
    addEventHandler(MouseEvent.MOUSE_RELEASED, this::released);
    addEventHandler(MouseEvent.MOUSE_MOVED, this::moved);
    addEventHandler(ScrollEvent.SCROLL, this::scrolled);
    Timeline tick = new Timeline(new KeyFrame(Duration.millis(FOLLOWED), e -> follow()));
    tick.setCycleCount(Animation.INDEFINITE);
    tick.play();
  }

  /** All squares that are drawn. */
  private Box squares() {
    UvSquares s = shown == null ? null : shown.squares();
    boolean isAny = s != null && s.columns() * s.rows() <= MOST_SQUARES;
    return isAny ? new Box(0, 0, 0, s.columns(), s.rows(), 0) : SQUARE;
  }

  /** What the navigation moves over: the squares. */
  private final class Ground implements Navigation.Ground {
    @Override
    public Box bounds() {
      return squares();
    }

    @Override
    public void moved() {
      draw(true);
      repaint();
    }

    @Override
    public void pick(double x, double y, Consumer<double[]> answer) {
      double[] r = place(x, y);
      answer.accept(new double[] {r[0], r[1], 0});
    }
  }

  @Override
  void resized() {
    if (navigation.camera() == null && getWidth() > 1 && getHeight() > 1) {
      navigation.set(
          Camera.showing(squares(), Camera.Direction.TOP, navigation.aspect())
              .withPerspective(false));
    }
    super.resized();
    if (navigation.camera() != null && !placed) {
      navigation.showAll();
    }
  }

  /** Shows all squares. */
  public void showAll() {
    placed = false;
    navigation.showAll();
  }

  /** The tool that acts here; null for none. */
  private FlatTool tool() {
    return session.lookBack() < 0 && settings.tool() instanceof FlatTool t ? t : null;
  }

  private void moved(MouseEvent e) {
    if (tool() != null && shown != null && mesh() != null) {
      tool().flatMoved(this, e);
    }
  }

  private void scrolled(ScrollEvent e) {
    boolean isTools = tool() != null && shown != null && mesh() != null;
    if (isTools && tool().flatScrolled(this, e)) {
      return;
    }
    placed = true;
    navigation.wheel(e.getX(), e.getY(), e.getDeltaY());
  }

  private void pressed(MouseEvent e) {
    navigation.pressed(e, settings.turnsByMiddle());
    waiting.drop();
    if (e.getButton() == MouseButton.PRIMARY && mesh() != null && !isReady()) {
      held = null;
      waiting.press(e);
      return;
    }
    take(e);
  }

  /** Whether a press can be answered: not while what was done last is being made. */
  private boolean isReady() {
    return shown != null && !(settings.tool() instanceof FlatTool t && t.isMaking());
  }

  private void take(MouseEvent e) {
    Mesh mesh = mesh();
    held = null;
    if (e.getButton() == MouseButton.PRIMARY && mesh != null && shown != null) {
      held = tool();
      if (held != null) {
        held.flatPressed(this, e);
      } else {
        pickTriangle(e.getX(), e.getY(), t -> session.charts().choose(mesh, t, e.isShiftDown()));
      }
    }
  }

  private void dragged(MouseEvent e) {
    if (waiting.isBegun()) {
      waiting.drag(e);
    } else if (held != null) {
      held.flatDragged(this, e);
    } else {
      placed |= navigation.dragged(e);
    }
  }

  private void released(MouseEvent e) {
    if (waiting.isBegun()) {
      waiting.release(e);
    } else if (held != null) {
      held.flatReleased(this, e);
      held = null;
    }
  }

  @Override
  public void pickTriangle(double x, double y, IntConsumer answer) {
    Mesh mesh = mesh();
    worker()
        .pick(
            request(true),
            x * Density.of(this),
            y * Density.of(this),
            t -> {
              if (mesh() == mesh) {
                answer.accept(t);
              }
            });
  }

  @Override
  public double[] place(double x, double y) {
    double[] r = navigation.camera().ray(x, y, (int) getWidth(), (int) getHeight());
    return new double[] {r[0], r[1]};
  }

  /** The work as it is, or as the tool shows it. */
  private Workpiece workpiece() {
    boolean isTools = session.lookBack() < 0 && settings.tool() != null;
    Workpiece own = isTools ? settings.tool().shows() : null;
    return own != null ? own : session.shown();
  }

  /** The Cast as shown, if it has charts. */
  private Mesh mesh() {
    Workpiece w = workpiece();
    Mesh m = w == null ? null : w.current();
    return m == null || m.uv() == null ? null : m;
  }

  /** Brings the pane in line with the session. */
  void refresh() {
    Mesh m = mesh();
    Box before = squares();
    shown = m == null ? null : session.charts().sheet(m);
    if (shown == null) {
      clear();
    } else if (!placed && navigation.camera() != null && !before.equals(squares())) {
      navigation.showAll();
    }
    draw(false);
    repaint();
  }

  private void playWaiting() {
    if (waiting.isBegun() && mesh() == null) {
      waiting.drop();
    } else if (waiting.isBegun() && isReady()) {
      waiting.play(this::take, this::dragged, this::released);
    }
  }

  /** What is being baked onto the Cast that is shown; null for nothing. */
  private Maps growing() {
    Work work = session.jobs().running();
    boolean isOurs = work != null && work.offered() instanceof GrowingMaps g && g.cast() == mesh();
    return isOurs ? ((GrowingMaps) work.offered()).maps() : null;
  }

  /** Shows what has come since, as long as something is being baked. */
  private void follow() {
    Maps now = growing();
    if (now != null || isFollowing) {
      isFollowing = now != null;
      draw(false);
    }
  }

  private Look look() {
    if (growing() != null) {
      return Look.BAKED;
    }
    Workpiece w = workpiece();
    Look space = settings.look(w, w.current());
    boolean isFlat = space.needsUv() || space == Look.IMPORTANCE;
    return isFlat ? space : w.maps() != null ? Look.BAKED : Look.CHARTS;
  }

  private Scene scene() {
    Workpiece w = workpiece();
    Maps growing = growing();
    // Another one each time: what is in it has changed.
    Maps maps = growing == null ? w.maps() : growing.alike();
    MeshLayer charts =
        new MeshLayer(
            shown.charts().flat(),
            Similarity.IDENTITY,
            look(),
            session.charts().of(w.current()),
            maps,
            growing == null ? settings.map(w) : alone(growing),
            settings.figures().readings(w.current(), look()),
            1);
    List<Layer> over = new ArrayList<>();
    over.add(new LineLayer(rims(), INK, 1.4f, Layer.Hidden.SHOWN));
    over.add(new LineLayer(shown.outlines().ends(), INK, 0.9f, Layer.Hidden.SHOWN));
    return new Scene(charts, over, false, settings.setting().withClip(null));
  }

  /** The sides of all squares. */
  private double[] rims() {
    int columns = (int) squares().maxX();
    int rows = (int) squares().maxY();
    double[] out = new double[6 * (columns + rows + 2)];
    int at = 0;
    for (int c = 0; c <= columns; c++, at += 6) {
      out[at] = c;
      out[at + 3] = c;
      out[at + 4] = rows;
    }
    for (int r = 0; r <= rows; r++, at += 6) {
      out[at + 1] = r;
      out[at + 3] = columns;
      out[at + 4] = r;
    }
    return out;
  }

  /** Normals alone show no colour: then the map itself is shown, as it is. */
  private static MapKind alone(Maps growing) {
    return growing.pictures().containsKey(MapKind.COLOUR)
        ? MapKind.COLOUR
        : growing.pictures().keySet().stream().sorted().findFirst().orElse(null);
  }

  @Override
  ViewWorker.Request request(boolean moving) {
    if (shown == null || mesh() == null || navigation.camera() == null) {
      return null;
    }
    return new ViewWorker.Request(
        scene(), navigation.camera(), dense(getWidth()), dense(getHeight()), moving);
  }

  /** Whether what is wanted is up, in full; nothing is wanted where there are no charts. */
  @Override
  public boolean isExactShown() {
    return super.isExactShown() || mesh() == null;
  }

  @Override
  public double[] project(double u, double v) {
    double[] m = navigation.camera().toPixels((int) getWidth(), (int) getHeight(), SQUARE);
    return new double[] {m[0] * u + m[1] * v + m[3], m[4] * u + m[5] * v + m[7]};
  }

  @Override
  public void repaint() {
    GraphicsContext g = cleared();
    g.setFont(Font.font("IBM Plex Sans", 13));
    g.setTextBaseline(VPos.CENTER);
    if (shown == null || mesh() == null) {
      g.setTextAlign(TextAlignment.CENTER);
      String none =
          mesh() == null
              ? AppWords.of("common.the-cast-has-no-charts")
              : AppWords.of("common.finding-the-charts");
      Marks.text(g, none, getWidth() / 2, getHeight() / 2);
      return;
    }
    g.setTextAlign(TextAlignment.LEFT);
    if (navigation.camera() != null && !shown.squares().isOne()) {
      numbers(g);
    }
    Marks.text(g, caption(), 14, getHeight() - 18);
    if (navigation.camera() != null) {
      ruler(g, workpiece());
    }
    if (tool() != null) {
      tool().drawFlat(this, g);
    }
    playWaiting();
  }

  /** The squares' numbers, each in its upper left corner. */
  private void numbers(GraphicsContext g) {
    int columns = (int) squares().maxX();
    for (int i = 0; i < columns * (int) squares().maxY(); i++) {
      double[] at = project(i % columns, i / columns + 1.0);
      if (i % columns < UvSquares.IN_ROW) {
        String number = Integer.toString(UvSquares.number(i % columns, i / columns));
        Marks.text(g, number, at[0] + 6, at[1] + 12);
      }
    }
  }

  /** How long some texels are in the picture, and on the work in the mean. */
  private void ruler(GraphicsContext g, Workpiece w) {
    double side = project(1, 0)[0] - project(0, 0)[0];
    Maps maps = w.maps();
    int picture = maps != null ? maps.size() : new ArrangingCharts(session).picture()[0];
    double texels = Math.max(1, RoundLength.below(RULER / side * picture));
    double length = texels / picture / shown.perUnit() * w.frame().toWork().scale();
    String far = Double.isFinite(length) ? Length.format(length, w.frame().trueSize()) : "–";
    String text = AppWords.of("flat-pane.ruler", texels, far);
    Overlay.bar(g, getHeight() - 44, texels / picture * side, text);
  }

  private String caption() {
    String look = settings.title(look(), workpiece());
    String charts = AppWords.count("flat-pane.charts", shown.charts().count());
    if (shown.laid() > 0) {
      charts += AppWords.of("flat-pane.laid", shown.laid());
    }
    return shown.squares().count() == 1
        ? AppWords.of("flat-pane.of-the-square", look, charts, 100 * shown.share())
        : AppWords.of(
            "flat-pane.of-squares", look, charts, 100 * shown.share(), shown.squares().count());
  }
}
