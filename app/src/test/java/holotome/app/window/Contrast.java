package holotome.app.window;

import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Bounds;
import javafx.scene.Node;
import javafx.scene.Parent;
import javafx.scene.layout.BackgroundFill;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;
import javafx.scene.text.Text;

/**
 * The contrast of all text on a screen with what is behind it (Web Content Accessibility Guidelines
 * 2.2, relative luminance and contrast ratio, 1.4.3).
 */
public final class Contrast {
  private Contrast() {}

  /** The ratio of two colours, 1 to 21. */
  public static double ratio(Color a, Color b) {
    double x = luminance(a);
    double y = luminance(b);
    return (Math.max(x, y) + 0.05) / (Math.min(x, y) + 0.05);
  }

  private static double luminance(Color c) {
    return 0.2126 * linear(c.getRed())
        + 0.7152 * linear(c.getGreen())
        + 0.0722 * linear(c.getBlue());
  }

  private static double linear(double v) {
    return v <= 0.04045 ? v / 12.92 : Math.pow((v + 0.055) / 1.055, 2.4);
  }

  /** All text below a node that is seen and has less contrast than asked, in words. */
  public static List<String> tooLow(Node root, double least) {
    List<String> out = new ArrayList<>();
    look(root, Color.WHITE, 1, least, out);
    return out;
  }

  private static void look(Node n, Color behind, double opacity, double least, List<String> out) {
    if (!n.isVisible() || n.getOpacity() == 0) {
      return;
    }
    Color ground = n instanceof Region r ? over(behind, r) : behind;
    double seen = opacity * n.getOpacity();
    if (n instanceof Text t && !t.getText().isBlank() && t.getFill() instanceof Color ink) {
      Bounds b = t.getBoundsInLocal();
      Color shown = ground.interpolate(ink, ink.getOpacity() * seen);
      double ratio = ratio(shown, ground);
      if (b.getWidth() > 0 && ratio < least) {
        out.add(
            String.format(
                java.util.Locale.ROOT,
                "\"%s\" %.2f : 1 (%s on %s)",
                t.getText(),
                ratio,
                shown,
                ground));
      }
    }
    if (n instanceof Parent p) {
      for (Node c : p.getChildrenUnmodifiable()) {
        look(c, ground, seen, least, out);
      }
    }
  }

  private static Color over(Color behind, Region r) {
    Color now = behind;
    if (r.getBackground() != null) {
      for (BackgroundFill f : r.getBackground().getFills()) {
        if (f.getFill() instanceof Color c) {
          now =
              now.interpolate(new Color(c.getRed(), c.getGreen(), c.getBlue(), 1), c.getOpacity());
        }
      }
    }
    return now;
  }
}
