package holotome.app.window;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.tool.Tool;
import holotome.app.tool.ViewPort;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.picking.Picking;
import holotome.view.scene.Look;
import holotome.view.scene.MeshLayer;
import holotome.view.scene.Scene;
import java.nio.IntBuffer;
import java.util.BitSet;
import java.util.List;
import java.util.function.BiConsumer;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.ImageView;
import javafx.scene.image.PixelBuffer;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;
import javafx.scene.layout.Pane;
import javafx.util.Duration;

/**
 * The view: the picture of the work, drawn by {@link ViewWorker}, with the tool's marks over it.
 * The right button turns about the point under the pointer, the middle one (or Shift + right)
 * shifts, the wheel comes closer; the left button is the tool's.
 */
public final class ViewPane extends Pane implements ViewPort {
  private static final double TURN = 0.0075;

  private final Session session;
  private final ImageView image = new ImageView();
  private final Canvas overlay = new Canvas();
  private final Renderer renderer;
  private final ViewWorker worker;
  private final ViewSettings settings;
  private final PauseTransition still = new PauseTransition(Duration.millis(100));
  private final Overlay marks = new Overlay();
  private final SizeMarks sizes = new SizeMarks();
  private Tool tool;
  private Camera camera;
  private Similarity placed;
  private Workpiece peek;
  private List<float[]> shownLoops = List.of();
  private Mesh loopsOf;
  private Stage loopsIn;
  private boolean through;
  private ViewPane linked;
  private double linkedYaw;
  private int[] pixels = new int[0];
  private int pixelWidth;
  private double frameSeconds;
  private boolean exactShown;
  private ViewWorker.Request wanted;
  private double[] pivot;
  private double lastX;
  private double lastY;
  private boolean shifting;
  private MouseButton held = MouseButton.NONE;
  private final WheelZoom wheel = new WheelZoom(this::pickPlace, () -> camera, this::move);

  public ViewPane(Session session) {
    this(session, new ViewSettings(session), new Renderer());
    setId("view");
  }

  private ViewPane(Session session, ViewSettings settings, Renderer renderer) {
    this.session = session;
    this.settings = settings;
    this.renderer = renderer;
    this.worker = new ViewWorker(renderer, this::drawn, this::unprepared);
    getChildren().addAll(image, overlay);
    setFocusTraversable(true);
    setMinSize(200, 200);
    widthProperty().addListener((o, a, b) -> resized());
    heightProperty().addListener((o, a, b) -> resized());
    still.setOnFinished(e -> draw(false));
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
    if (tool != null) {
      tool.begin(this);
    }
    refresh();
  }

  private void resized() {
    overlay.setWidth(getWidth());
    overlay.setHeight(getHeight());
    draw(true);
    repaint();
  }

  // --- what is shown ---------------------------------------------------------------------------

  private Workpiece workpiece() {
    if (peek != null) {
      return peek;
    }
    Workpiece own = tool == null || session.lookBack() >= 0 ? null : tool.shows();
    return own != null ? own : session.shown();
  }

  /** Holds up another state, or ends that with null. */
  public void peek(Workpiece other) {
    if (peek != other) {
      peek = other;
      refresh();
    }
  }

  public Look look() {
    Workpiece w = workpiece();
    return settings.look(w, meshOf(w));
  }

  /** Takes the next look that the mesh at hand allows. */
  public void nextLook() {
    Workpiece w = workpiece();
    settings.nextLook(w, meshOf(w));
    session.changed();
  }

  /** How everything is shown: to be followed by {@link Session#changed} when it is changed. */
  ViewSettings settings() {
    return settings;
  }

  // --- a second pane -----------------------------------------------------------------------------

  /**
   * Another pane that shows the same with the same settings, its camera linked with this one's.
   *
   * @param yaw how far it looks from farther to the right, in radians
   */
  ViewPane companion(double yaw) {
    ViewPane other = new ViewPane(session, settings, renderer.sibling());
    other.setId("second-view");
    other.linked = this;
    other.linkedYaw = -yaw;
    linked = other;
    linkedYaw = yaw;
    if (camera != null) {
      other.follow(camera.turned(yaw, 0, camera.target()));
    }
    return other;
  }

  void unlink() {
    linked = null;
  }

  private void follow(Camera next) {
    camera = next;
    placed = workpiece() == null ? null : workpiece().frame().toWork();
    draw(true);
    repaint();
  }

  private Mesh meshOf(Workpiece w) {
    return w == null ? null : session.stage().showsCast() ? w.current() : w.scan();
  }

  @Override
  public Mesh mesh() {
    return meshOf(workpiece());
  }

  private Scene scene() {
    Workpiece w = workpiece();
    Mesh m = meshOf(w);
    BitSet s = null;
    if (m != null && session.current() != null && m == session.current().scan()) {
      s = session.selection();
      s = s == null && tool != null ? tool.marked() : s;
    }
    MeshLayer subject =
        new MeshLayer(m, w.frame().toWork(), look(), s, w.cast() == m ? w.maps() : null, 1);
    boolean grid = settings.hasGrid() && w.frame().trueSize();
    return new Scene(subject, List.of(), grid, settings.setting());
  }

  private Box bounds() {
    Workpiece w = workpiece();
    return new MeshLayer(meshOf(w), w.frame().toWork(), Look.CLAY).bounds();
  }

  @Override
  public void refresh() {
    Workpiece w = workpiece();
    if (meshOf(w) == null) {
      image.setImage(null);
      return;
    }
    Similarity now = w.frame().toWork();
    if (camera == null) {
      camera = Camera.showing(bounds(), Camera.Direction.ASKEW, aspect());
    } else if (placed != null && !placed.equals(now)) {
      camera = camera.following(placed.inverse().then(now));
    }
    placed = now;
    // Another mesh: a quick picture first, the full one follows by itself.
    boolean other = wanted == null || wanted.scene().mesh() != meshOf(w);
    draw(other);
    repaint();
  }

  /** Forgets the camera: the next scan is shown whole. */
  public void startAfresh() {
    worker.forget();
    camera = null;
    placed = null;
  }

  private double aspect() {
    return Math.max(0.2, getWidth() / Math.max(1, getHeight()));
  }

  private void draw(boolean moving) {
    if (camera == null || getWidth() < 2 || getHeight() < 2 || mesh() == null) {
      return;
    }
    exactShown = false;
    wanted = request(moving);
    worker.ask(wanted);
    if (moving) {
      still.playFromStart();
    }
  }

  private ViewWorker.Request request(boolean moving) {
    return new ViewWorker.Request(scene(), camera, (int) getWidth(), (int) getHeight(), moving);
  }

  private void unprepared(Failure f) {
    session.say("While it turns the scan is drawn as dots: " + f.getMessage());
  }

  private void drawn(ViewWorker.Drawn d) {
    pixels = d.picture().pixels();
    pixelWidth = d.picture().width();
    frameSeconds = d.seconds();
    exactShown = d.smooth() && d.request() == wanted;
    PixelBuffer<IntBuffer> b =
        new PixelBuffer<>(
            d.picture().width(),
            d.picture().height(),
            IntBuffer.wrap(pixels),
            PixelFormat.getIntArgbPreInstance());
    image.setImage(new WritableImage(b));
    repaint();
  }

  /** Seconds the last picture took. */
  public double frameSeconds() {
    return frameSeconds;
  }

  /** Whether what is shown is ready to be drawn in little time. */
  public boolean isPrepared() {
    return mesh() != null && renderer.isPrepared(mesh());
  }

  /** Whether the full, smooth picture is up. */
  public boolean isExactShown() {
    return exactShown;
  }

  // --- camera ----------------------------------------------------------------------------------

  private void move(Camera next) {
    camera = next;
    if (linked != null) {
      linked.follow(next.turned(linkedYaw, 0, next.target()));
    }
    draw(true);
    repaint();
  }

  public void showAll() {
    if (mesh() != null) {
      Camera.Direction d = Camera.Direction.ASKEW;
      Camera c = camera == null ? Camera.showing(bounds(), d, aspect()) : camera;
      move(c.fitting(bounds(), aspect()));
    }
  }

  /**
   * How much of the view the work takes, by the larger of its width and height; 1 where it is not
   * known.
   */
  double share() {
    if (camera == null || mesh() == null || getHeight() < 2) {
      return 1;
    }
    Box b = bounds();
    double[] low = {Double.MAX_VALUE, Double.MAX_VALUE};
    double[] high = {-Double.MAX_VALUE, -Double.MAX_VALUE};
    for (int i = 0; i < 8; i++) {
      double[] p =
          project(
              new double[] {
                (i & 1) == 0 ? b.minX() : b.maxX(),
                (i & 2) == 0 ? b.minY() : b.maxY(),
                (i & 4) == 0 ? b.minZ() : b.maxZ()
              });
      if (p == null) {
        return 1;
      }
      for (int k = 0; k < 2; k++) {
        low[k] = Math.min(low[k], p[k]);
        high[k] = Math.max(high[k], p[k]);
      }
    }
    return Math.max((high[0] - low[0]) / getWidth(), (high[1] - low[1]) / getHeight());
  }

  /** Comes to a box of working space, keeping the direction. */
  public void showBox(Box box) {
    if (camera != null && !box.isEmpty()) {
      double grow = 0.15 * Math.max(box.diagonal(), 0.02 * bounds().diagonal());
      Box b =
          new Box(
              box.minX() - grow,
              box.minY() - grow,
              box.minZ() - grow,
              box.maxX() + grow,
              box.maxY() + grow,
              box.maxZ() + grow);
      move(camera.fitting(b, aspect()));
    }
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
    session.jobs().fetch(() -> Picking.bounds(m, place, triangles), this::showBox);
  }

  public void look(Camera.Direction d) {
    if (camera != null) {
      move(camera.looking(bounds().centre(), d.yaw(), d.pitch()));
    }
  }

  /** Looks square at the ground that was found, from the side of the subject. */
  public void lookSquareToTheGround() {
    if (camera == null || session.insight() == null || session.insight().ground() == null) {
      return;
    }
    double[] n = workpiece().frame().toWork().direction(session.insight().ground().normal());
    move(camera.lookingFrom(n, bounds().centre()));
  }

  /** Looks at a place from a side, as far off as shows a height. */
  public void showFrom(double[] direction, double[] at, double height) {
    if (camera != null) {
      Camera c = camera.lookingFrom(direction, at);
      double shown = c.unitsPerPixel((int) getHeight()) * getHeight();
      move(c.closer(height / shown, at));
    }
  }

  public void turnBy(double yaw, double pitch) {
    if (camera != null) {
      move(camera.turned(yaw, pitch, camera.target()));
    }
  }

  /** Swings to the next view along an axis. */
  public void swing(int dx, int dy) {
    if (camera == null) {
      return;
    }
    double q = Math.PI / 2;
    double yaw =
        dx == 0
            ? Math.rint(camera.yaw() / q) * q
            : (dx > 0 ? Math.floor(camera.yaw() / q + 1.001) : Math.ceil(camera.yaw() / q - 1.001))
                * q;
    double pitch =
        dy == 0
            ? (dx == 0 ? camera.pitch() : Math.rint(camera.pitch() / q) * q)
            : (dy > 0
                    ? Math.floor(camera.pitch() / q + 1.001)
                    : Math.ceil(camera.pitch() / q - 1.001))
                * q;
    Camera c = camera.looking(bounds().centre(), camera.yaw(), camera.pitch());
    move(
        c.turned(yaw - camera.yaw(), Math.clamp(pitch, -q, q) - camera.pitch(), bounds().centre()));
  }

  /** Leaves out what is nearer than a plane across the view, or shows all again. */
  public void switchClipping() {
    if (camera != null) {
      settings.switchClip(camera.forward(), bounds().centre());
      session.changed();
    }
  }

  public void setFocal(double focal) {
    if (camera != null) {
      move(camera.withFocal(focal));
    }
  }

  public void switchProjection() {
    if (camera != null) {
      move(camera.withPerspective(!camera.perspective()));
    }
  }

  @Override
  public Camera camera() {
    return camera;
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
    return camera.toPixels((int) getWidth(), (int) getHeight(), bounds());
  }

  @Override
  public int pixel(int x, int y) {
    int h = pixelWidth == 0 ? 0 : pixels.length / pixelWidth;
    return x < 0 || y < 0 || x >= pixelWidth || y >= h ? 0xffa0a0a0 : pixels[y * pixelWidth + x];
  }

  // --- pointing --------------------------------------------------------------------------------

  @Override
  public void pick(double x, double y, Consumer<double[]> answer) {
    pickTriangle(x, y, (t, p) -> answer.accept(p));
  }

  @Override
  public void pickTriangle(double x, double y, BiConsumer<Integer, double[]> answer) {
    if (mesh() == null || camera == null) {
      answer.accept(-1, null);
      return;
    }
    ViewWorker.Request r = request(true);
    Workpiece asked = workpiece();
    worker.pick(
        r,
        x,
        y,
        t -> {
          // Undone, or another state shown meanwhile: the place is one of another mesh.
          Workpiece now = workpiece();
          if (now != null && now.scan() == asked.scan() && now.frame() == asked.frame()) {
            answer.accept(t, t < 0 ? null : r.pointOn(t, x, y));
          }
        });
  }

  /** As {@link #pick}, for what only moves the camera: always answered. */
  private void pickPlace(double x, double y, Consumer<double[]> answer) {
    if (mesh() == null || camera == null) {
      answer.accept(null);
      return;
    }
    ViewWorker.Request r = request(true);
    worker.pick(r, x, y, t -> answer.accept(t < 0 ? null : r.pointOn(t, x, y)));
  }

  @Override
  public void visibleWithin(double[] outline, Consumer<BitSet> answer) {
    ViewWorker.Request r = request(true);
    session
        .jobs()
        .<BitSet>elsewhere(
            "Selecting what is seen",
            (work, found) -> worker.visible(r, outline, work, found),
            set -> {
              if (mesh() == r.scene().mesh()) {
                answer.accept(set);
              }
            });
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
    held = e.getButton();
    lastX = e.getX();
    lastY = e.getY();
    if (camera == null) {
      return;
    }
    if (e.getButton() == MouseButton.SECONDARY || e.getButton() == MouseButton.MIDDLE) {
      MouseButton shifts = settings.turnsByMiddle() ? MouseButton.SECONDARY : MouseButton.MIDDLE;
      shifting = e.getButton() == shifts || e.isShiftDown();
      pivot = camera.target();
      double x = e.getX();
      double y = e.getY();
      pick(x, y, p -> pivot = p == null ? pivot : p);
    } else if (e.getButton() == MouseButton.PRIMARY && tool != null && session.lookBack() < 0) {
      tool.pressed(this, e);
    }
  }

  private void draggedTo(MouseEvent e) {
    if (camera == null) {
      return;
    }
    // By the button that went down: not every platform repeats it while dragging.
    if (held == MouseButton.SECONDARY || held == MouseButton.MIDDLE) {
      double dx = e.getX() - lastX;
      double dy = e.getY() - lastY;
      lastX = e.getX();
      lastY = e.getY();
      if (shifting) {
        move(camera.shifted(dx, dy, (int) getHeight()));
      } else {
        move(camera.turned(-dx * TURN, dy * TURN, pivot));
      }
    } else if (held == MouseButton.PRIMARY && tool != null && session.lookBack() < 0) {
      tool.dragged(this, e);
    }
  }

  private void released(MouseEvent e) {
    if (e.getButton() == MouseButton.PRIMARY
        && tool != null
        && camera != null
        && session.lookBack() < 0) {
      tool.released(this, e);
    }
  }

  private void movedTo(MouseEvent e) {
    if (tool != null && camera != null) {
      tool.moved(this, e);
    }
  }

  private void scrolled(ScrollEvent e) {
    if (camera == null || e.getDeltaY() == 0 || tool != null && tool.scrolled(this, e)) {
      return;
    }
    if (settings.isClipping() && !e.isShiftDown()) {
      settings.moveClip(e.getDeltaY() * 2.5e-4 * bounds().diagonal());
      session.changed();
      return;
    }
    wheel.turned(e.getX(), e.getY(), e.getDeltaY());
  }

  void switchSized() {
    settings.switchSized();
    session.changed();
    repaint();
  }

  // --- overlay ---------------------------------------------------------------------------------

  /**
   * Border loops drawn over the view, in base coordinates, for as long as the mesh they were
   * measured on is shown in this stage; empty for none.
   */
  public void showLoops(List<float[]> loops) {
    shownLoops = loops;
    loopsOf = loops.isEmpty() ? null : mesh();
    loopsIn = session.stage();
    repaint();
  }

  @Override
  public void repaint() {
    GraphicsContext g = overlay.getGraphicsContext2D();
    g.clearRect(0, 0, overlay.getWidth(), overlay.getHeight());
    if (camera == null || mesh() == null) {
      return;
    }
    Workpiece w = workpiece();
    if (loopsOf == mesh() && loopsIn == session.stage()) {
      marks.loops(g, this, shownLoops, w.frame().toWork());
    }
    marks.axes(g, camera, getWidth(), getHeight());
    marks.scaleBar(g, camera, getHeight(), w.frame().trueSize());
    boolean measuring = tool != null && !tool.makesSteps();
    sizes.draw(g, this, w, session, settings.isSized(), measuring);
    if (tool != null && peek == null && session.lookBack() < 0) {
      tool.draw(this, g);
    }
  }

  public void shutDown() {
    still.stop();
    worker.shutDown();
  }
}
