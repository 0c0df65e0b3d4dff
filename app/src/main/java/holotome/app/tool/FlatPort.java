package holotome.app.tool;

import java.util.function.IntConsumer;

/** What a tool can see and ask of the flat pane. */
public interface FlatPort {
  /** A point of the texture, u v, in pixels of the pane. */
  double[] project(double u, double v);

  /** A pixel of the pane as a point of the texture, u v. */
  double[] place(double x, double y);

  /** The triangle under a pixel, -1 for none; answered on the interface thread. */
  void pickTriangle(double x, double y, IntConsumer answer);

  /** Draws what lies over the picture again. */
  void repaint();

  /** Draws the picture again, for something that changes all the time. */
  void refreshQuickly();
}
