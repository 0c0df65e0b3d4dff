package holotome.core.touch;

import holotome.core.image.Image;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The texels that a touch reaches, in the squares that pictures are kept in: how far each lies out
 * of the middle, and where on the surface. 20 bytes a texel of every square that is reached.
 */
final class Region {
  private static final int SIDE = Image.TILE;

  /** A square of texels. */
  static final class Tile {
    final int left;
    final int top;

    /** In radii; infinite for texels that are not reached. */
    final float[] far = new float[SIDE * SIDE];

    /** The dab, and how far on to the next. */
    final float[] along = new float[SIDE * SIDE];

    /** Radii to the left of the line. */
    final float[] across = new float[SIDE * SIDE];

    final int[] triangle = new int[SIDE * SIDE];
    final float[] second = new float[SIDE * SIDE];
    final float[] third = new float[SIDE * SIDE];

    /** Texels that came nearer since this was last asked, and how many. */
    private final boolean[] isFresh = new boolean[SIDE * SIDE];

    private int freshCount;

    Tile(int left, int top) {
      this.left = left;
      this.top = top;
      Arrays.fill(far, Float.POSITIVE_INFINITY);
    }

    int x(int at) {
      return left + at % SIDE;
    }

    int y(int at) {
      return top + at / SIDE;
    }

    private void note(int at) {
      freshCount += isFresh[at] ? 0 : 1;
      isFresh[at] = true;
    }

    /** The texels that came nearer since this was last called, by rows, as places in the arrays. */
    int[] takeFresh() {
      int[] out = new int[freshCount];
      for (int at = 0, n = 0; n < out.length; at++) {
        if (isFresh[at]) {
          out[n++] = at;
          isFresh[at] = false;
        }
      }
      freshCount = 0;
      return out;
    }
  }

  private final int across;
  private final Tile[] tiles;
  private final List<Tile> reached = new ArrayList<>();

  Region(int width, int height) {
    across = (width + SIDE - 1) / SIDE;
    tiles = new Tile[across * ((height + SIDE - 1) / SIDE)];
  }

  /** Notes where a texel lies, if that is nearer than what is known. */
  void reach(int x, int y, double far, double[] found, int triangle, double second, double third) {
    int number = y / SIDE * across + x / SIDE;
    Tile t = tiles[number];
    if (t == null) {
      t = new Tile(x / SIDE * SIDE, y / SIDE * SIDE);
      tiles[number] = t;
      reached.add(t);
    }
    int at = y % SIDE * SIDE + x % SIDE;
    if (far < t.far[at]) {
      t.far[at] = (float) far;
      t.along[at] = (float) found[0];
      t.across[at] = (float) found[1];
      t.triangle[at] = triangle;
      t.second[at] = (float) second;
      t.third[at] = (float) third;
      t.note(at);
    }
  }

  /** The squares with texels that are reached, in the order they were. */
  List<Tile> tiles() {
    return reached;
  }

  /** How many texels lie within the radius. */
  int count() {
    int n = 0;
    for (Tile t : reached) {
      for (float f : t.far) {
        n += f <= 1 ? 1 : 0;
      }
    }
    return n;
  }
}
