package holotome.app.tool;

import holotome.app.words.AppWords;
import holotome.core.swatch.SwatchPreview;
import javafx.geometry.Pos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.Label;
import javafx.scene.image.PixelFormat;
import javafx.scene.image.WritableImage;
import javafx.scene.layout.HBox;
import javafx.scene.paint.Color;

/** Shows a tile flat in a corner of the view, beside itself as often as is chosen on the Sheet. */
final class SwatchCanvas {
  private static final double SIDE = 216;
  private static final double FROM_CORNER = 14;
  private static final int MOST = 5;
  private static final Color FRAME = Color.web("#1D2B33");

  private final ChoiceBox<Integer> times = new ChoiceBox<>();
  private final HBox box;
  private SwatchPreview preview;
  private WritableImage image;

  /**
   * @param changed is called when it is to be drawn again
   */
  SwatchCanvas(Runnable changed) {
    times.setId("swatch-times");
    for (int i = 1; i <= MOST; i++) {
      times.getItems().add(i);
    }
    times.setValue(2);
    Label label = new Label(AppWords.of("swatch-tool.times"));
    label.setLabelFor(times);
    times.setAccessibleText(AppWords.of("swatch-tool.times"));
    times.valueProperty().addListener((o, was, is) -> changed.run());
    box = new HBox(8, label, times);
    box.setAlignment(Pos.CENTER_LEFT);
    clear();
  }

  HBox box() {
    return box;
  }

  void clear() {
    preview = null;
    box.setVisible(false);
    box.setManaged(false);
  }

  void show(SwatchPreview p) {
    preview = p;
    image = new WritableImage(p.side(), p.side());
    image
        .getPixelWriter()
        .setPixels(
            0, 0, p.side(), p.side(), PixelFormat.getIntArgbInstance(), p.argb(), 0, p.side());
    box.setVisible(true);
    box.setManaged(true);
  }

  void draw(ViewPort view, GraphicsContext g) {
    if (preview == null) {
      return;
    }
    int n = times.getValue();
    double wide = Math.rint(preview.aspect() >= 1 ? SIDE : SIDE * preview.aspect());
    double high = Math.rint(preview.aspect() >= 1 ? SIDE / preview.aspect() : SIDE);
    double left = Math.rint(view.width() - wide - FROM_CORNER);
    for (int j = 0; j < n; j++) {
      for (int i = 0; i < n; i++) {
        // Borders on whole pixels, or they show.
        double x0 = Math.rint(wide * i / n);
        double y0 = Math.rint(high * j / n);
        double x1 = Math.rint(wide * (i + 1) / n);
        double y1 = Math.rint(high * (j + 1) / n);
        g.drawImage(image, left + x0, FROM_CORNER + y0, x1 - x0, y1 - y0);
      }
    }
    g.setStroke(FRAME);
    g.setLineWidth(1);
    g.strokeRect(left - 0.5, FROM_CORNER - 0.5, wide + 1, high + 1);
  }
}
