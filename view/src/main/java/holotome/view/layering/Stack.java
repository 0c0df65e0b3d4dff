package holotome.view.layering;

import holotome.core.image.Colours;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.buffer.VisibilityBuffer;
import java.util.ArrayList;
import java.util.List;

/**
 * Puts drawn meshes together into one picture: in each pixel from the farthest to the nearest, each
 * mixed over what is behind it by its strength. Up to 127 meshes; takes 5 bytes a pixel.
 */
public final class Stack {
  private static final int GRAIN = 16;

  private final int width;
  private final int height;
  private final int[] backdrop;
  private final List<Drawn> drawn = new ArrayList<>();
  private float[] depths;
  private byte[] fronts;

  /** A mesh as drawn alone. */
  private record Drawn(VisibilityBuffer buffer, int[] pixels, float strength) {}

  /**
   * @param backdrop what is seen where there is no mesh, by rows
   */
  public Stack(int width, int height, int[] backdrop) {
    this.width = width;
    this.height = height;
    this.backdrop = backdrop;
  }

  /** Adds a mesh's picture; both arrays must stay as they are until {@link #compose}. */
  public void add(VisibilityBuffer buffer, int[] pixels, double strength) {
    drawn.add(new Drawn(buffer, pixels, (float) strength));
  }

  /** The picture of all, as a new array by rows. */
  public int[] compose(Work work) {
    int[] out = new int[width * height];
    depths = new float[width * height];
    fronts = new byte[width * height];
    Parallel.range(
        height,
        GRAIN,
        work,
        (from, to) -> {
          int[] order = new int[drawn.size()];
          for (int i = from * width; i < to * width; i++) {
            out[i] = pixel(i, order);
          }
        });
    return out;
  }

  private int pixel(int i, int[] order) {
    int n = byDistance(i, order);
    int colour = backdrop[i];
    float nearest = 1;
    byte front = -1;
    for (int k = 0; k < n; k++) {
      Drawn d = drawn.get(order[k]);
      boolean hides = d.strength >= 1;
      colour = hides ? d.pixels[i] : Colours.mix(colour, d.pixels[i], d.strength);
      if (hides) {
        nearest = VisibilityBuffer.depth(d.buffer.cells[i]);
      }
      front = (byte) order[k];
    }
    depths[i] = nearest;
    fronts[i] = front;
    return colour;
  }

  /**
   * Which meshes a pixel shows, the farthest first; of two as far, the one added first is nearer.
   */
  private int byDistance(int i, int[] order) {
    int n = 0;
    for (int k = drawn.size() - 1; k >= 0; k--) {
      long cell = drawn.get(k).buffer.cells[i];
      if (cell != VisibilityBuffer.EMPTY) {
        float depth = VisibilityBuffer.depth(cell);
        int at = n++;
        while (at > 0 && VisibilityBuffer.depth(drawn.get(order[at - 1]).buffer.cells[i]) < depth) {
          order[at] = order[at - 1];
          at--;
        }
        order[at] = k;
      }
    }
    return n;
  }

  /** Of the nearest surface that hides what is behind it, 0 to 1, by rows; 1 for none. */
  public float[] depths() {
    return depths;
  }

  /** The number of the mesh in front in each pixel, in the order added; -1 for none. */
  public byte[] fronts() {
    return fronts;
  }
}
