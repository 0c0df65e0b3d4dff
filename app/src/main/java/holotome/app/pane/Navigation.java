package holotome.app.pane;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.view.camera.Camera;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.Region;

/**
 * How a pane's camera is moved: turned and shifted by the pointer, brought closer by the wheel,
 * sent to boxes and directions. Knows nothing of what is shown but its box.
 */
public final class Navigation {
  private static final double TURN = 0.0075;

  private final Ground ground;
  private final Region pane;
  private final boolean turns;
  private final WheelZoom wheel;
  private Camera camera;
  private double[] pivot;
  private double lastX;
  private double lastY;
  private boolean shifting;
  private MouseButton held = MouseButton.NONE;

  /** What a navigation moves over. */
  interface Ground extends WheelZoom.Picker {
    /** Of what is shown, in working space; null for nothing. */
    Box bounds();

    /** The camera was moved by hand. */
    void moved();
  }

  /**
   * @param pane whose size the camera is for
   * @param turns whether the camera can be turned; else both buttons shift
   */
  Navigation(Ground ground, Region pane, boolean turns) {
    this.ground = ground;
    this.pane = pane;
    this.turns = turns;
    wheel = new WheelZoom(ground, () -> camera, this::move);
  }

  Camera camera() {
    return camera;
  }

  /** Puts the camera somewhere without telling. */
  void set(Camera next) {
    camera = next;
  }

  /** Puts the camera somewhere, as if by hand. */
  public void move(Camera next) {
    camera = next;
    ground.moved();
  }

  double aspect() {
    return Math.max(0.2, pane.getWidth() / Math.max(1, pane.getHeight()));
  }

  // --- by pointer ------------------------------------------------------------------------------

  /** The button that is down, as far as is known. */
  MouseButton held() {
    return held;
  }

  /** Whether a button is the navigation's. */
  static boolean owns(MouseButton b) {
    return b == MouseButton.SECONDARY || b == MouseButton.MIDDLE;
  }

  /**
   * @param turnsByMiddle whether the middle button turns and the right one shifts
   */
  void pressed(MouseEvent e, boolean turnsByMiddle) {
    held = e.getButton();
    lastX = e.getX();
    lastY = e.getY();
    if (camera != null && owns(held)) {
      MouseButton shifts = turnsByMiddle ? MouseButton.SECONDARY : MouseButton.MIDDLE;
      shifting = !turns || held == shifts || e.isShiftDown();
      pivot = camera.target();
      if (!shifting) {
        ground.pick(e.getX(), e.getY(), p -> pivot = p == null ? pivot : p);
      }
    }
  }

  /** Whether the drag was the navigation's. */
  boolean dragged(MouseEvent e) {
    // By the button that went down: not every platform repeats it while dragging.
    if (!owns(held) || camera == null) {
      return false;
    }
    double dx = e.getX() - lastX;
    double dy = e.getY() - lastY;
    lastX = e.getX();
    lastY = e.getY();
    move(
        shifting
            ? camera.shifted(dx, dy, (int) pane.getHeight())
            : camera.turned(-dx * TURN, dy * TURN, pivot));
    return true;
  }

  void wheel(double x, double y, double delta) {
    wheel.turned(x, y, delta);
  }

  // --- by command ------------------------------------------------------------------------------

  public void showAll() {
    Box b = ground.bounds();
    if (b != null) {
      Camera c = camera == null ? Camera.showing(b, Camera.Direction.ASKEW, aspect()) : camera;
      move(c.fitting(b, aspect()));
    }
  }

  /** Comes to a box of working space, keeping the direction. */
  void showBox(Box box) {
    if (camera != null && !box.isEmpty()) {
      double grow = 0.15 * Math.max(box.diagonal(), 0.02 * ground.bounds().diagonal());
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

  public void look(Camera.Direction d) {
    if (camera != null) {
      move(camera.looking(ground.bounds().centre(), d.yaw(), d.pitch()));
    }
  }

  /** Looks along a direction at the middle of what is shown. */
  void lookFrom(double[] direction) {
    if (camera != null) {
      move(camera.lookingFrom(direction, ground.bounds().centre()));
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
    double yaw = quarter(camera.yaw(), dx);
    double pitch = quarter(camera.pitch(), dy);
    double[] centre = ground.bounds().centre();
    Camera c = camera.looking(centre, camera.yaw(), camera.pitch());
    double up = Math.clamp(pitch, -QUARTER, QUARTER) - camera.pitch();
    move(c.turned(yaw - camera.yaw(), up, centre));
  }

  private static final double QUARTER = Math.PI / 2;

  /** The next whole quarter turn in a direction, or the nearest for none. */
  private static double quarter(double angle, int direction) {
    double q = angle / QUARTER;
    double whole =
        direction == 0
            ? Math.rint(q)
            : direction > 0 ? Math.floor(q + 1.001) : Math.ceil(q - 1.001);
    return whole * QUARTER;
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

  /** Follows what is shown from one place to another. */
  void follow(Similarity before, Similarity now) {
    camera = camera.following(before.inverse().then(now));
  }

  /**
   * How much of the pane what is shown takes, by the larger of its width and height; 1 where it is
   * not known.
   */
  public double share() {
    Box b = ground.bounds();
    if (camera == null || b == null || pane.getHeight() < 2) {
      return 1;
    }
    double[] m = camera.toPixels((int) pane.getWidth(), (int) pane.getHeight(), b);
    double[] low = {Double.MAX_VALUE, Double.MAX_VALUE};
    double[] high = {-Double.MAX_VALUE, -Double.MAX_VALUE};
    for (int i = 0; i < 8; i++) {
      double[] p = {
        (i & 1) == 0 ? b.minX() : b.maxX(),
        (i & 2) == 0 ? b.minY() : b.maxY(),
        (i & 4) == 0 ? b.minZ() : b.maxZ()
      };
      double w = Vec.dot(new double[] {m[12], m[13], m[14]}, p) + m[15];
      if (!(w > 0)) {
        return 1;
      }
      for (int k = 0; k < 2; k++) {
        double[] row = {m[4 * k], m[4 * k + 1], m[4 * k + 2]};
        double at = (Vec.dot(row, p) + m[4 * k + 3]) / w;
        low[k] = Math.min(low[k], at);
        high[k] = Math.max(high[k], at);
      }
    }
    return Math.max((high[0] - low[0]) / pane.getWidth(), (high[1] - low[1]) / pane.getHeight());
  }
}
