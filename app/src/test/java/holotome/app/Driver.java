package holotome.app;

import holotome.app.model.Home;
import holotome.app.tool.ViewPort;
import holotome.app.window.Desk;
import java.nio.file.Path;
import java.util.Locale;
import java.util.concurrent.Callable;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.FutureTask;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import javafx.application.Platform;
import javafx.event.EventType;
import javafx.geometry.Bounds;
import javafx.geometry.Point2D;
import javafx.scene.Node;
import javafx.scene.Scene;
import javafx.scene.control.Label;
import javafx.scene.control.Labeled;
import javafx.scene.control.ScrollPane;
import javafx.scene.control.TextField;
import javafx.scene.input.KeyCode;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.robot.Robot;
import javafx.stage.Stage;

/**
 * Drives the real window off screen as a person would: pointer and key events through the
 * platform's robot, then waiting for what should be seen. Only looking is done by other ways.
 */
public final class Driver implements AutoCloseable {
  private static final long PATIENCE =
      TimeUnit.SECONDS.toNanos(Integer.getInteger("holotome.patience", 90));
  private static boolean started;

  private final Desk desk;
  private final Stage stage;
  private final Robot robot;

  private Driver(Desk desk, Stage stage, Robot robot) {
    this.desk = desk;
    this.stage = stage;
    this.robot = robot;
  }

  /** Starts what draws windows, once in a process. */
  public static synchronized void startToolkit() throws InterruptedException {
    if (!started) {
      // As the application does when it starts.
      Locale.setDefault(Locale.Category.FORMAT, Locale.ROOT);
      CountDownLatch up = new CountDownLatch(1);
      Platform.startup(up::countDown);
      up.await();
      Platform.setImplicitExit(false);
      started = true;
    }
  }

  /** Opens a window of 1280 x 800 whose own files go to {@code home}. */
  public static Driver open(Path home) throws Exception {
    return open(home, 1280, 800);
  }

  public static Driver open(Path home, int width, int height) throws Exception {
    startToolkit();
    FutureTask<Driver> task =
        new FutureTask<>(
            () -> {
              HolotomeApp.loadFonts();
              Desk desk = new Desk(new Home(home));
              Stage stage = new Stage();
              stage.setScene(HolotomeApp.scene(desk, width, height));
              stage.setX(0);
              stage.setY(0);
              stage.show();
              return new Driver(desk, stage, new Robot());
            });
    Platform.runLater(task);
    return task.get();
  }

  public Desk desk() {
    return desk;
  }

  /** Reads or does something on the interface thread. */
  public <T> T on(Callable<T> what) {
    if (Platform.isFxApplicationThread()) {
      // Asked while something is awaited.
      try {
        return what.call();
      } catch (Exception e) {
        throw new AssertionError(e);
      }
    }
    FutureTask<T> task = new FutureTask<>(what);
    Platform.runLater(task);
    try {
      return task.get();
    } catch (Exception e) {
      throw new AssertionError(e);
    }
  }

  /** Whether the window is on a display, not off screen. */
  private static final boolean REAL = !"Headless".equals(System.getProperty("glass.platform"));

  private static void pause() {
    try {
      Thread.sleep(50);
    } catch (InterruptedException e) {
      throw new AssertionError(e);
    }
  }

  private void act(Runnable what) {
    on(
        () -> {
          what.run();
          return null;
        });
    // Lets what the event set off run before anything else is looked at.
    on(() -> null);
    if (REAL) {
      // What the robot does comes back through the display: it is not there at once.
      pause();
    }
  }

  /**
   * Waits until something holds, looking again and again; fails in words after a minute and a half,
   * or as long as is said.
   */
  public void await(String what, BooleanSupplier holds) {
    long end = System.nanoTime() + PATIENCE;
    while (!on(holds::getAsBoolean)) {
      if (System.nanoTime() > end) {
        throw new AssertionError("never came: " + what + "; the window says: " + message());
      }
      try {
        Thread.sleep(15);
      } catch (InterruptedException e) {
        throw new AssertionError(e);
      }
    }
  }

  public Node node(String id) {
    return desk.lookup("#" + id);
  }

  /** The text of a label or button by its id. */
  public String text(String id) {
    return on(() -> textOf(node(id)));
  }

  /** As {@link #text}, when already on the interface thread. */
  public String textNow(String id) {
    return textOf(node(id));
  }

  private static String textOf(Node n) {
    if (n instanceof Labeled l && !l.getText().isEmpty()) {
      return l.getText();
    }
    StringBuilder s = new StringBuilder();
    for (Node c : n.lookupAll(".label")) {
      if (c instanceof Label l && c != n) {
        s.append(l.getText()).append(' ');
      }
    }
    return s.toString().strip();
  }

  public String message() {
    return on(
        () ->
            desk.session().failure() != null
                ? desk.session().failure().getMessage()
                : desk.session().message());
  }

  // --- pointer ---------------------------------------------------------------------------------

  private Point2D screen(Node n, double x, double y) {
    return n.localToScreen(x, y);
  }

  private void moveTo(Node n, double x, double y) {
    act(
        () -> {
          Point2D p = screen(n, x, y);
          robot.mouseMove(p.getX(), p.getY());
        });
  }

  public void click(String id) {
    await(id + " to be there", () -> node(id) != null && !node(id).isDisabled());
    Node n = node(id);
    on(
        () -> {
          desk.applyCss();
          desk.layout();
          scrollTo(n);
          return null;
        });
    Bounds b = on(n::getLayoutBounds);
    clickAt(n, b.getCenterX(), b.getCenterY());
  }

  /** Scrolls what holds a node until it is in sight, as the wheel would. */
  private static void scrollTo(Node n) {
    for (Node p = n.getParent(); p != null; p = p.getParent()) {
      if (p instanceof ScrollPane pane) {
        Node content = pane.getContent();
        double at = content.sceneToLocal(n.localToScene(n.getLayoutBounds())).getCenterY();
        double height = content.getLayoutBounds().getHeight();
        double seen = pane.getViewportBounds().getHeight();
        if (height > seen) {
          double above = pane.getVvalue() * (height - seen);
          boolean inSight = at > above + 8 && at < above + seen - 8;
          if (!inSight) {
            pane.setVvalue(Math.clamp((at - seen / 2) / (height - seen), 0, 1));
            pane.layout();
          }
        }
      }
    }
  }

  /** Clicks the first button with these words within a part of the window. */
  public void clickWords(String within, String words) {
    await("a button \"" + words + "\"", () -> button(within, words) != null);
    // Lists are made anew and move while the window settles: the button must stay where it is.
    Node[] seen = new Node[1];
    double[] at = {Double.NaN, Double.NaN};
    await(
        "a button \"" + words + "\" at rest",
        () -> {
          desk.applyCss();
          desk.layout();
          Node n = button(within, words);
          if (n == null) {
            return false;
          }
          scrollTo(n);
          Point2D p = n.localToScene(0, 0);
          boolean rests = n == seen[0] && p.getX() == at[0] && p.getY() == at[1];
          seen[0] = n;
          at[0] = p.getX();
          at[1] = p.getY();
          return rests;
        });
    Bounds b = on(seen[0]::getLayoutBounds);
    clickAt(seen[0], b.getCenterX(), b.getCenterY());
  }

  private Node button(String within, String words) {
    for (Node n : node(within).lookupAll(".link")) {
      if (n instanceof Labeled l && l.getText().equals(words) && !n.isDisabled()) {
        return n;
      }
    }
    return null;
  }

  public void clickAt(Node n, double x, double y) {
    moveTo(n, x, y);
    act(() -> robot.mousePress(MouseButton.PRIMARY));
    act(() -> robot.mouseRelease(MouseButton.PRIMARY));
  }

  /** Presses a button at the first point, goes along the others, lets go: x, y in turn. */
  public void drag(Node n, MouseButton button, double... path) {
    moveTo(n, path[0], path[1]);
    if (button == MouseButton.NONE) {
      return;
    }
    act(() -> robot.mousePress(button));
    for (int i = 2; i < path.length; i += 2) {
      double x0 = path[i - 2];
      double y0 = path[i - 1];
      int steps = (int) Math.max(1, Math.hypot(path[i] - x0, path[i + 1] - y0) / 12);
      for (int k = 1; k <= steps; k++) {
        double f = (double) k / steps;
        moveTo(n, x0 + f * (path[i] - x0), y0 + f * (path[i + 1] - y0));
      }
    }
    act(() -> robot.mouseRelease(button));
  }

  /**
   * As a drag with the left button and keys held. The off-screen platform's robot does not tell the
   * window of keys held with the pointer, so these events are made by hand.
   */
  public void drag(Node n, Held held, double... path) {
    int last = path.length - 2;
    for (int i = 0; i < path.length; i += 2) {
      double x = path[i];
      double y = path[i + 1];
      if (i == 0) {
        act(() -> fire(n, MouseEvent.MOUSE_PRESSED, held, x, y, true));
      }
      act(() -> fire(n, MouseEvent.MOUSE_DRAGGED, held, x, y, true));
      if (i == last) {
        act(() -> fire(n, MouseEvent.MOUSE_RELEASED, held, x, y, false));
      }
    }
  }

  /** Keys held while the pointer is dragged. */
  public enum Held {
    NONE,
    SHIFT,
    CONTROL,
    BOTH
  }

  private static void fire(
      Node n, EventType<MouseEvent> type, Held held, double x, double y, boolean down) {
    Point2D s = n.localToScreen(x, y);
    Point2D p = n.localToScene(x, y);
    javafx.event.Event.fireEvent(
        n,
        new MouseEvent(
            type,
            p.getX(),
            p.getY(),
            s.getX(),
            s.getY(),
            MouseButton.PRIMARY,
            1,
            held == Held.SHIFT || held == Held.BOTH,
            held == Held.CONTROL || held == Held.BOTH,
            false,
            false,
            down,
            false,
            false,
            true,
            false,
            false,
            null));
  }

  /** Turns the wheel with Ctrl held, by hand as above. */
  public void controlWheel(Node n, double x, double y, double delta) {
    Point2D s = n.localToScreen(x, y);
    Point2D p = n.localToScene(x, y);
    act(
        () ->
            javafx.event.Event.fireEvent(
                n,
                new javafx.scene.input.ScrollEvent(
                    javafx.scene.input.ScrollEvent.SCROLL,
                    p.getX(),
                    p.getY(),
                    s.getX(),
                    s.getY(),
                    false,
                    true,
                    false,
                    false,
                    false,
                    false,
                    0,
                    delta,
                    0,
                    delta,
                    javafx.scene.input.ScrollEvent.HorizontalTextScrollUnits.NONE,
                    0,
                    javafx.scene.input.ScrollEvent.VerticalTextScrollUnits.NONE,
                    0,
                    0,
                    null)));
  }

  /** Takes one of the choices of a choice box, by its place in the list. */
  public void choose(String id, int index) {
    on(
        () -> {
          ((javafx.scene.control.ChoiceBox<?>) node(id)).getSelectionModel().select(index);
          return null;
        });
    settle();
  }

  /** Takes the first action whose name holds the words. */
  public void find(String words) {
    keys(KeyCode.CONTROL, KeyCode.SPACE);
    type(words);
    keys(KeyCode.ENTER);
    settle();
  }

  public void wheel(Node n, double x, double y, int notches) {
    moveTo(n, x, y);
    double before = on(() -> desk.view().camera().distance());
    act(() -> robot.mouseWheel(notches));
    await("the wheel to move the view", () -> desk.view().camera().distance() != before);
    for (int i = 0; REAL && i < Math.abs(notches); i++) {
      // On a display each notch comes by itself.
      pause();
    }
  }

  // --- keys ------------------------------------------------------------------------------------

  /** Presses keys together, as in {@code keys(CONTROL, Z)}. */
  public void keys(KeyCode... codes) {
    for (KeyCode c : codes) {
      act(() -> robot.keyPress(c));
    }
    for (int i = codes.length - 1; i >= 0; i--) {
      KeyCode c = codes[i];
      act(() -> robot.keyRelease(c));
    }
  }

  public void hold(KeyCode code) {
    act(() -> robot.keyPress(code));
  }

  public void release(KeyCode code) {
    act(() -> robot.keyRelease(code));
  }

  /** Types into what has the focus: letters, digits, and the usual signs. */
  public void type(String text) {
    for (char c : text.toCharArray()) {
      act(
          () -> {
            Node focus = desk.getScene().getFocusOwner();
            KeyCode code = codeOf(c);
            javafx.event.Event.fireEvent(
                focus, key(javafx.scene.input.KeyEvent.KEY_PRESSED, "", code));
            javafx.event.Event.fireEvent(
                focus,
                key(javafx.scene.input.KeyEvent.KEY_TYPED, String.valueOf(c), KeyCode.UNDEFINED));
            javafx.event.Event.fireEvent(
                focus, key(javafx.scene.input.KeyEvent.KEY_RELEASED, "", code));
          });
    }
  }

  private static KeyCode codeOf(char c) {
    KeyCode k = KeyCode.getKeyCode(String.valueOf(Character.toUpperCase(c)));
    return k == null ? KeyCode.UNDEFINED : k;
  }

  private static javafx.scene.input.KeyEvent key(
      javafx.event.EventType<javafx.scene.input.KeyEvent> type, String text, KeyCode code) {
    return new javafx.scene.input.KeyEvent(type, text, text, code, false, false, false, false);
  }

  /** Clicks into a field, replaces what it holds. */
  public void fill(String id, String text) {
    click(id);
    keys(KeyCode.CONTROL, KeyCode.A);
    keys(KeyCode.DELETE);
    type(text);
    // Confirmed, which leaves a field that has no use for Enter of its own.
    boolean own = on(() -> !(node(id) instanceof TextField t) || t.getOnAction() != null);
    if (!own) {
      keys(KeyCode.ENTER);
    }
  }

  // --- looking ---------------------------------------------------------------------------------

  public Scene scene() {
    return desk.getScene();
  }

  /** The pixel in the view where a point of working space is seen. */
  public double[] pixel(double[] workPoint) {
    return on(() -> ((ViewPort) desk.view()).project(workPoint));
  }

  /** Waits until nothing runs, everything is measured, and the full picture is up. */
  public void settle() {
    await(
        "rest",
        () ->
            !desk.session().jobs().isBusy()
                && !desk.session().jobs().isQuietRunning()
                && !desk.session().jobs().isLooking()
                && (!desk.session().isOpen()
                    || desk.session().insight() != null && desk.isEveryPaneShown()));
  }

  public void picture(Path file) {
    on(
        () -> {
          HolotomeApp.savePicture(scene(), file);
          return null;
        });
  }

  @Override
  public void close() {
    on(
        () -> {
          stage.hide();
          desk.shutDown();
          return null;
        });
  }
}
