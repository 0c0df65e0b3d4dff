package holotome.app.tool;

import holotome.core.frame.Frame;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/**
 * Places on the Scan that were clicked one after the other, in the coordinates of its file; each
 * undone by itself.
 */
final class ClickedPlaces {
  /** Presses that are dragged farther than this turn the view. */
  private static final double CLICK = 4;

  private final Draft<List<double[]>> places;
  private final Runnable changed;
  private double pressedX;
  private double pressedY;

  /**
   * @param changed told whenever there are others
   */
  ClickedPlaces(Runnable changed) {
    this.changed = changed;
    places = new Draft<>(List.of(), p -> changed.run());
  }

  Draft<?> draft() {
    return places;
  }

  int count() {
    return places.now().size();
  }

  boolean isEmpty() {
    return places.now().isEmpty();
  }

  /** 3 doubles each. */
  double[] flat() {
    return places.now().stream().flatMapToDouble(Arrays::stream).toArray();
  }

  /** Begins anew with those of an entry; null for none. */
  void load(double[] all) {
    places.begin(parted(all == null ? new double[0] : all));
  }

  private static List<double[]> parted(double[] all) {
    List<double[]> out = new ArrayList<>();
    for (int i = 0; i < all.length; i += 3) {
      out.add(Arrays.copyOfRange(all, i, i + 3));
    }
    return List.copyOf(out);
  }

  /** Goes on to others, as a step that can be undone. */
  void set(List<double[]> next) {
    places.set(List.copyOf(next));
    changed.run();
  }

  /** Takes a place of working space in. */
  void add(Frame f, double[] working) {
    List<double[]> next = new ArrayList<>(places.now());
    next.add(InFile.places(f, working));
    set(next);
  }

  /** Lets go of one. */
  void remove(int i) {
    List<double[]> next = new ArrayList<>(places.now());
    next.remove(i);
    set(next);
  }

  void pressed(MouseEvent e) {
    pressedX = e.getX();
    pressedY = e.getY();
  }

  /** Whether a release is a click, and no end of a drag. */
  boolean isClick(MouseEvent e) {
    boolean isStill = Math.hypot(e.getX() - pressedX, e.getY() - pressedY) <= CLICK;
    return e.getButton() == MouseButton.PRIMARY && isStill;
  }

  /** Where they are in working space, 3 doubles each. */
  double[] working(Frame f) {
    double[] out = flat();
    for (int i = 0; i < out.length; i += 3) {
      double[] base = f.toFile().inverse().apply(out[i], out[i + 1], out[i + 2]);
      System.arraycopy(f.toWork().apply(base), 0, out, i, 3);
    }
    return out;
  }

  void draw(ViewPort view, GraphicsContext g, Frame f) {
    for (double[] p : parted(working(f))) {
      double[] at = view.project(p);
      if (at != null) {
        Marks.dot(g, at);
      }
    }
  }
}
