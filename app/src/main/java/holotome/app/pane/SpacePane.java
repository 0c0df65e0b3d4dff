package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.tool.Tool;
import holotome.app.tool.ViewPort;
import holotome.app.words.AppWords;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.mend.Fault;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.picking.Picking;
import holotome.view.scene.Layer;
import holotome.view.scene.Look;
import holotome.view.scene.MeshLayer;
import holotome.view.scene.Scene;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;

/**
 * The view: the picture of the work, drawn by {@link ViewWorker}, with the tool's marks over it.
 * The right button turns about the point under the pointer, the middle one (or Shift + right)
 * shifts, the wheel comes closer; the left button is the tool's.
 */
public final class SpacePane extends PicturePane implements ViewPort {
  private final Session session;
  private final Renderer renderer;
  private final ViewSettings settings;
  private final Overlay marks = new Overlay();
  private final SizeMarks sizes = new SizeMarks();
  private Tool tool;
  private Runnable moved = () -> {};
  private Similarity placed;
  private Workpiece peek;
  private final ShownBorders borders = new ShownBorders();

  /** How near a place is looked at, of the diagonal. */
  private static final double CLOSE = 0.01;

  private final ShownFaults faults = new ShownFaults();
  private boolean through;

  /** Whether the left button went down for the tool: it has all of the drag then. */
  private boolean inTool;

  private final Navigation navigation;

  /** The view that this pane stands beside; null for the view itself. */
  private final SpacePane hub;

  private final Links.Link link;
  private final List<SpacePane> others = new ArrayList<>();
  private final Pointing pointing;
  private final BeforeLine line = new BeforeLine();
  private final StateBefore before;
  private final ShownDeviation deviation;

  public SpacePane(Session session) {
    this(
        session,
        new ViewSettings(session),
        new ShownDeviation(session),
        new Renderer(),
        null,
        Links.TOGETHER);
    setId("view");
  }

  private SpacePane(
      Session session,
      ViewSettings settings,
      ShownDeviation deviation,
      Renderer renderer,
      SpacePane hub,
      Links.Link link) {
    super(
        renderer,
        f -> session.say(AppWords.of("space-pane.while-it-turns-the-scan", f.getMessage())));
    this.hub = hub;
    this.link = link;
    this.navigation = new Navigation(new Ground(), this, link.turns());
    this.session = session;
    this.settings = settings;
    this.deviation = deviation;
    this.renderer = renderer;
    this.before = new StateBefore(session);
    this.pointing =
        new Pointing(
            session, worker(), () -> request(true), this::workpiece, () -> Density.of(this));
    setFocusTraversable(true);
    setAccessibleText(AppWords.of("space-pane.the-work-arrow-keys-turn"));
    setMinSize(200, 200);
    addEventHandler(MouseEvent.MOUSE_PRESSED, this::pressed);
    addEventHandler(MouseEvent.MOUSE_DRAGGED, this::draggedTo);
    addEventHandler(MouseEvent.MOUSE_RELEASED, this::released);
    addEventHandler(MouseEvent.MOUSE_MOVED, this::movedTo);
    addEventHandler(ScrollEvent.SCROLL, this::scrolled);
  }

  public void setTool(Tool next) {
    if (tool != null) {
      tool.end(this);
    }
    tool = next;
    settings.setTool(next);
    inTool = false;
    if (tool != null) {
      tool.begin(this);
    }
    refresh();
  }

  private Workpiece workpiece() {
    if (peek != null) {
      return peek;
    }
    Workpiece own = tool == null || session.lookBack() >= 0 ? null : tool.shows();
    if (own != null) {
      return own;
    }
    return settings.isCompared() && session.isOpen() ? session.current() : session.shown();
  }

  /** Holds up another state, or ends that with null. */
  public void peek(Workpiece other) {
    if (peek != other) {
      peek = other;
      refresh();
    }
  }

  /** What the look is called. */
  public String lookTitle() {
    return settings.title(look(), workpiece());
  }

  /** How the work is shown. */
  public Look look() {
    return settings.look(workpiece(), mesh());
  }

  /** Takes the next look that the mesh at hand allows. */
  public void nextLook() {
    Workpiece w = workpiece();
    deviation.look(w, meshOf(w), this::meshOf);
    settings.nextLook(w, meshOf(w), deviation.against() != null);
    session.changed();
  }

  /** Whether it is shown how far the work lies from something. */
  public boolean showsDeviation() {
    return mesh() != null && look() == Look.DEVIATION;
  }

  /** Shows how far the work lies from the Scan or from what it was, or what was shown before. */
  public void switchDeviation() {
    settings.switchLook(Look.DEVIATION, look());
    session.changed();
  }

  /** What is known of how far the work lies from something. */
  public ShownDeviation deviation() {
    return deviation;
  }

  /** How everything is shown: to be followed by {@link Session#changed} when it is changed. */
  public ViewSettings settings() {
    return settings;
  }

  // --- panes beside it -----------------------------------------------------------------------

  /** Another pane that shows the same with the same settings, its camera linked with this one's. */
  SpacePane companion(String id, Links.Link how) {
    SpacePane other = new SpacePane(session, settings, deviation, renderer.sibling(), this, how);
    other.setId(id);
    others.add(other);
    if (camera() != null) {
      other.follow(how.follow().apply(camera()), placed);
    }
    return other;
  }

  /** Lets all others go. */
  void unlink() {
    others.clear();
  }

  /**
   * Takes a camera over from a pane that may show the work in another place: before it was scaled,
   * levelled or moved.
   *
   * @param from where the work stands there
   */
  private void follow(Camera next, Similarity from) {
    placed = workpiece() == null ? null : workpiece().frame().toWork();
    navigation.set(Links.carried(next, from, placed));
    draw(true);
    repaint();
  }

  private void lead(SpacePane besides) {
    for (SpacePane o : others) {
      if (o != besides) {
        o.follow(o.link.follow().apply(camera()), placed);
      }
    }
  }

  private Mesh meshOf(Workpiece w) {
    return w == null ? null : session.stage().showsCast() ? w.current() : w.scan();
  }

  @Override
  public Mesh mesh() {
    return meshOf(workpiece());
  }

  private Scene scene() {
    Mesh m = mesh();
    return scene(workpiece(), m == null ? null : marked(m));
  }

  /** The triangles that are hatched: what is selected of the Scan, or the charts chosen. */
  private BitSet marked(Mesh m) {
    BitSet charts = session.charts().of(m);
    if (charts != null || session.current() == null || m != session.current().scan()) {
      return charts;
    }
    BitSet s = session.selection();
    return s == null && tool != null ? tool.marked() : s;
  }

  private Scene scene(Workpiece w, BitSet selected) {
    Mesh m = meshOf(w);
    Look look = settings.look(w, m);
    MeshLayer subject =
        new MeshLayer(
            m,
            w.frame().toWork(),
            look,
            selected,
            w.cast() == m ? w.maps() : null,
            settings.map(w),
            look == Look.DEVIATION ? deviation.readings(m) : settings.figures().readings(m, look),
            1);
    boolean grid = settings.hasGrid() && w.frame().trueSize();
    List<Layer> layers = new ArrayList<>(borders.layers(m, session.stage(), w.frame().toWork()));
    if (session.stage() == Stage.MEND) {
      layers.addAll(faults.layers(m, w.frame().toWork()));
    }
    layers.addAll(deviation.layers(w.frame().toWork()));
    layers.addAll(settings.ofTool(w));
    return new Scene(subject, layers, grid, settings.setting(tool));
  }

  /** What is shown on the left of the line; null for nothing. */
  private ViewWorker.Beside beside() {
    Workpiece c = comparison();
    if (c == null || meshOf(c) == null) {
      return null;
    }
    // Scaled or moved since: the same part of the work, as large as on the right.
    Camera there = Links.carried(camera(), workpiece().frame().toWork(), c.frame().toWork());
    return new ViewWorker.Beside(scene(c, null), there, line.at());
  }

  private Workpiece comparison() {
    if (!settings.isCompared() || peek != null || hub != null) {
      return null;
    }
    return isTrying() ? session.current() : before.state();
  }

  /** Whether the tool shows what it would make. */
  private boolean isTrying() {
    return tool != null && session.lookBack() < 0 && tool.shows() != null;
  }

  /** Compares with the state before by a line across the pane, or ends that. */
  public void switchCompared() {
    settings.switchCompared();
    session.changed();
  }

  private Box bounds() {
    return new MeshLayer(mesh(), workpiece().frame().toWork(), Look.CLAY).bounds();
  }

  @Override
  public void refresh() {
    Workpiece w = workpiece();
    if (meshOf(w) == null) {
      clear();
      return;
    }
    if (settings.isCompared()) {
      before.find(this::refresh);
    }
    if (hub == null && settings.look(w, meshOf(w)) == Look.DEVIATION) {
      deviation.look(w, meshOf(w), this::meshOf);
      deviation.measure();
      deviation.measureBeside(comparison(), this::meshOf);
    } else if (hub == null) {
      deviation.rest();
    }
    Similarity now = w.frame().toWork();
    if (camera() == null) {
      navigation.set(Camera.showing(bounds(), Camera.Direction.ASKEW, navigation.aspect()));
    } else if (placed != null && !placed.equals(now)) {
      navigation.follow(placed, now);
    }
    placed = now;
    // Another mesh: a quick picture first, the full one follows by itself.
    boolean other =
        wanted() == null
            || wanted().scene().mesh() != meshOf(w)
            || wanted().beside() == null && comparison() != null;
    draw(other);
    repaint();
  }

  /** Forgets the camera: the next scan is shown whole. */
  public void startAfresh() {
    worker().forget();
    navigation.set(null);
    placed = null;
  }

  @Override
  ViewWorker.Request request(boolean moving) {
    if (camera() == null || mesh() == null) {
      return null;
    }
    return new ViewWorker.Request(
        scene(), beside(), camera(), dense(getWidth()), dense(getHeight()), moving);
  }

  /** Whether what is shown is ready to be drawn in little time. */
  public boolean isPrepared() {
    return mesh() != null && renderer.isPrepared(mesh());
  }

  // --- camera ----------------------------------------------------------------------------------

  /** What the navigation moves over. */
  private final class Ground implements Navigation.Ground {
    @Override
    public Box bounds() {
      return mesh() == null ? null : SpacePane.this.bounds();
    }

    @Override
    public void moved() {
      if (hub != null && hub.camera() != null) {
        Camera there = Links.carried(camera(), placed, hub.placed);
        hub.follow(link.lead().apply(hub.camera(), there), hub.placed);
        hub.lead(SpacePane.this);
      }
      lead(null);
      moved.run();
      draw(true);
      repaint();
    }

    @Override
    public void pick(double x, double y, Consumer<double[]> answer) {
      pointing.place(x, y, answer);
    }
  }

  /** Called when the camera was moved by hand. */
  public void onMoved(Runnable listener) {
    moved = listener;
  }

  /** The camera, to be moved by commands. */
  public Navigation navigation() {
    return navigation;
  }

  /** Comes to a box of working space, keeping the direction. */
  public void showBox(Box box) {
    navigation.showBox(box);
  }

  public void showSelection() {
    showTriangles(session.selection());
  }

  /** Comes to some triangles of the current Scan. */
  public void showTriangles(BitSet triangles) {
    Mesh m = mesh();
    if (triangles == null || m == null || m != session.current().scan()) {
      return;
    }
    Similarity place = workpiece().frame().toWork();
    session.jobs().fetch(() -> Picking.bounds(m, place, triangles), navigation::showBox);
  }

  /** Looks square at the ground that was found, from the side of the subject. */
  public void lookSquareToTheGround() {
    if (session.insight() != null && session.insight().ground() != null && mesh() != null) {
      double[] n = session.insight().ground().normal();
      navigation.lookFrom(workpiece().frame().toWork().direction(n));
    }
  }

  /** Leaves out what is nearer than a plane across the view, or shows all again. */
  public void switchClipping() {
    if (camera() != null) {
      settings.switchClip(camera().forward(), bounds().centre());
      session.changed();
    }
  }

  @Override
  public Camera camera() {
    return navigation.camera();
  }

  @Override
  public double width() {
    return getWidth();
  }

  @Override
  public double height() {
    return getHeight();
  }

  @Override
  public double[] toPixels() {
    return camera().toPixels((int) getWidth(), (int) getHeight(), bounds());
  }

  // --- pointing --------------------------------------------------------------------------------

  @Override
  public void pick(double x, double y, Consumer<double[]> answer) {
    pointing.triangle(x, y, (t, p) -> answer.accept(p));
  }

  @Override
  public void pickTriangle(double x, double y, BiConsumer<Integer, double[]> answer) {
    pointing.triangle(x, y, answer);
  }

  @Override
  public void visibleWithin(double[] outline, Consumer<BitSet> answer) {
    pointing.visibleWithin(outline, answer);
  }

  @Override
  public boolean isThrough() {
    return through;
  }

  public void setThrough(boolean on) {
    through = on;
    session.changed();
  }

  private void pressed(MouseEvent e) {
    requestFocus();
    boolean primary = e.getButton() == MouseButton.PRIMARY;
    if (primary && comparison() != null && line.pressed(e.getX(), e.getY(), getWidth())) {
      return;
    }
    navigation.pressed(e, settings.turnsByMiddle());
    inTool = primary && toolTakes(e);
    if (inTool) {
      tool.pressed(this, e);
      chooseChart(e);
    }
  }

  private boolean isOfCharts() {
    boolean isThere = session.stage() == Stage.UNWRAP || session.stage() == Stage.BAKE;
    return isThere && !tool.takesClicks();
  }

  /** Where the charts are shown beside it, a click chooses one here as well. */
  private void chooseChart(MouseEvent e) {
    Mesh m = mesh();
    if (isOfCharts() && m != null && m.uv() != null && m == session.current().current()) {
      boolean add = e.isShiftDown();
      pickTriangle(e.getX(), e.getY(), (t, p) -> session.charts().choose(m, t, add));
    }
  }

  private void draggedTo(MouseEvent e) {
    if (line.dragged(e.getX(), getWidth())) {
      draw(true);
      repaint();
    } else if (!navigation.dragged(e) && inTool) {
      tool.dragged(this, e);
    }
  }

  /** Whether a press is the tool's: the state on the left of the line is only looked at. */
  private boolean toolTakes(MouseEvent e) {
    return tool != null
        && camera() != null
        && session.lookBack() < 0
        && (comparison() == null || e.getX() >= line.at() * getWidth());
  }

  private void released(MouseEvent e) {
    if (!line.released() && e.getButton() == MouseButton.PRIMARY && inTool) {
      inTool = false;
      tool.released(this, e);
    }
  }

  private void movedTo(MouseEvent e) {
    if (tool != null && camera() != null) {
      tool.moved(this, e);
    }
  }

  private void scrolled(ScrollEvent e) {
    if (camera() == null || e.getDeltaY() == 0 || tool != null && tool.scrolled(this, e)) {
      return;
    }
    if (settings.isClipping() && !e.isShiftDown()) {
      settings.moveClip(e.getDeltaY() * 2.5e-4 * bounds().diagonal());
      session.changed();
      return;
    }
    navigation.wheel(e.getX(), e.getY(), e.getDeltaY());
  }

  public void switchSized() {
    settings.switchSized();
    session.changed();
    repaint();
  }

  // --- overlay ---------------------------------------------------------------------------------

  /**
   * Border loops shown in the view, in base coordinates, for as long as the mesh they were measured
   * on is shown in this stage; empty for none.
   */
  public void showLoops(List<float[]> loops) {
    borders.show(loops, mesh(), session.stage());
    draw(false);
  }

  /**
   * Marks the places of a fault and comes to the worst; where they are marked already, to the one
   * so many further. Null for none.
   */
  public void showFault(Fault fault, int by) {
    faults.show(fault, mesh(), by);
    if (fault != null && camera() != null) {
      navigation.showBox(faults.around(workpiece().frame().toWork(), CLOSE * bounds().diagonal()));
      session.say(AppWords.of("space-pane.place-of", faults.at() + 1, fault.sizes().length));
    }
    draw(false);
  }

  @Override
  public void repaint() {
    GraphicsContext g = cleared();
    if (camera() == null || mesh() == null) {
      return;
    }
    Workpiece w = workpiece();
    marks.axes(g, camera(), getWidth(), getHeight());
    marks.scaleBar(g, camera(), getHeight(), w.frame().trueSize());
    boolean measuring = tool != null && !tool.makesSteps();
    sizes.draw(g, this, w, session, settings.isSized(), measuring);
    if (tool != null && peek == null && session.lookBack() < 0) {
      tool.draw(this, g);
    }
    if (comparison() != null) {
      boolean told = session.failure() != null || !session.message().isEmpty();
      boolean trying = isTrying();
      line.draw(
          g,
          getWidth(),
          getHeight(),
          trying ? AppWords.of("space-pane.now") : before.words(),
          trying ? AppWords.of("space-pane.after") : before.wordsNow(),
          told);
    }
  }
}
