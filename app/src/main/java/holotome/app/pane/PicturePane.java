package holotome.app.pane;

import holotome.core.task.Failure;
import holotome.view.Renderer;
import java.nio.IntBuffer;
import java.util.function.Consumer;
import javafx.animation.PauseTransition;
import javafx.scene.AccessibleRole;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.image.ImageView;
import javafx.scene.image.PixelBuffer;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.layout.Pane;
import javafx.util.Duration;

/**
 * A pane whose picture is drawn by a {@link ViewWorker}, quickly while it moves and in full once it
 * rests, in the screen's own pixels; marks are drawn over it.
 */
abstract class PicturePane extends Pane {

  /** What is shown in place of a pixel outside of the picture. */
  private static final int NOTHING = 0xffa0a0a0;

  private final ImageView image = new ImageView();
  private final Canvas overlay = new Canvas();
  private final ViewWorker worker;
  private final PauseTransition still = new PauseTransition(Duration.millis(100));
  private int[] pixels = new int[0];
  private int pixelWidth;
  private double frameSeconds;
  private boolean exactShown;
  private ViewWorker.Request wanted;

  /**
   * @param onUnprepared is told why what is shown will be drawn less well while it moves
   */
  PicturePane(Renderer renderer, Consumer<Failure> onUnprepared) {
    worker = new ViewWorker(renderer, this::drawn, onUnprepared);
    getChildren().addAll(image, overlay);
    setAccessibleRole(AccessibleRole.IMAGE_VIEW);
    widthProperty().addListener((o, a, b) -> resized());
    heightProperty().addListener((o, a, b) -> resized());
    Density.watch(this, this::resized);
    still.setOnFinished(e -> draw(false));
  }

  /** What is to be drawn as things stand; null for nothing. */
  abstract ViewWorker.Request request(boolean moving);

  /** Draws the marks over the picture. */
  public abstract void repaint();

  /** The pane has another size, or its screen another density. */
  void resized() {
    overlay.setWidth(getWidth());
    overlay.setHeight(getHeight());
    draw(true);
    repaint();
  }

  final ViewWorker worker() {
    return worker;
  }

  /** What was asked for last. */
  final ViewWorker.Request wanted() {
    return wanted;
  }

  /** A length of the pane in pixels of the screen. */
  final int dense(double length) {
    return (int) Math.round(length * Density.of(this));
  }

  /** Asks for a picture; after a quick one the full one follows by itself. */
  final void draw(boolean moving) {
    ViewWorker.Request r = getWidth() < 2 || getHeight() < 2 ? null : request(moving);
    if (r == null) {
      return;
    }
    exactShown = false;
    wanted = r;
    worker.ask(r);
    if (moving) {
      still.playFromStart();
    }
  }

  /** Draws anew what changes all the time; the full picture follows once it rests. */
  public void refreshQuickly() {
    draw(true);
  }

  private void drawn(ViewWorker.Drawn d) {
    pixels = d.pixels();
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
    image.setFitWidth(d.picture().width() / Density.of(this));
    image.setFitHeight(d.picture().height() / Density.of(this));
    repaint();
  }

  /** Shows no picture, and holds nothing of what was shown. */
  final void clear() {
    image.setImage(null);
    wanted = null;
    worker.letGo();
  }

  /** What marks are drawn with, all earlier ones gone. */
  final GraphicsContext cleared() {
    GraphicsContext g = overlay.getGraphicsContext2D();
    g.clearRect(0, 0, overlay.getWidth(), overlay.getHeight());
    return g;
  }

  /** The drawn picture's colour at a place of the pane. */
  public int pixel(int x, int y) {
    int h = pixelWidth == 0 ? 0 : pixels.length / pixelWidth;
    int px = (int) (x * Density.of(this));
    int py = (int) (y * Density.of(this));
    return px < 0 || py < 0 || px >= pixelWidth || py >= h ? NOTHING : pixels[py * pixelWidth + px];
  }

  /** Seconds the last picture took. */
  public double frameSeconds() {
    return frameSeconds;
  }

  /** Whether the full, smooth picture of what is wanted is up. */
  public boolean isExactShown() {
    return exactShown;
  }

  public void shutDown() {
    still.stop();
    worker.shutDown();
  }
}
