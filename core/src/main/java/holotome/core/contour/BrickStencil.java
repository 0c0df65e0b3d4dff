package holotome.core.contour;

import java.util.Arrays;

/** The screened Laplacian of a level's hat functions, brick by brick; one for each thread. */
final class BrickStencil {
  private static final int WIDE = Bricks.WIDE;

  private final Bricks bricks;
  private final SampleCells cells;
  private final float step;
  private final float screening;
  private final float[] faces = new float[WIDE];
  private final float[] edges = new float[WIDE];
  private final float[] shares = new float[8];

  /**
   * @param step the level's, in steps of the finest
   * @param screening what a square of the finest step of surface counts
   */
  BrickStencil(Bricks bricks, SampleCells cells, float step, float screening) {
    this.bricks = bricks;
    this.cells = cells;
    this.step = step;
    this.screening = screening;
  }

  /**
   * Applies it.
   *
   * @param room the function at the brick's nodes and those around it
   * @param out at the brick's nodes, filled
   */
  void apply(int brick, float[] room, float[] out) {
    for (int z = 0; z < 8; z++) {
      for (int y = 0; y < 8; y++) {
        int row = WIDE * (y + 1 + WIDE * (z + 1));
        int up = row + WIDE * WIDE;
        int down = row - WIDE * WIDE;
        for (int x = 0; x < WIDE; x++) {
          faces[x] = room[row + x - WIDE] + room[row + x + WIDE] + room[up + x] + room[down + x];
          edges[x] =
              room[up + x - WIDE]
                  + room[up + x + WIDE]
                  + room[down + x - WIDE]
                  + room[down + x + WIDE];
        }
        int to = 8 * y + 64 * z;
        for (int x = 0; x < 8; x++) {
          out[to + x] =
              step
                  * (Hats.SELF * room[row + x + 1]
                      + Hats.EDGE * (faces[x] + faces[x + 2] + edges[x + 1])
                      + Hats.CORNER * (edges[x] + edges[x + 2]));
        }
      }
    }
    screen(brick, room, out);
  }

  /** The cells that have corners in a brick: its own, and of those before it the last ones. */
  private void screen(int brick, float[] room, float[] out) {
    long key = bricks.key(brick);
    for (int n = 0; n < 8; n++) {
      int b = cellsBefore(key, n);
      for (int c = b < 0 ? 0 : cells.start()[b]; b >= 0 && c < cells.start()[b + 1]; c++) {
        int x = x(c, n);
        int y = y(c, n);
        int z = z(c, n);
        if (x < -1 || y < -1 || z < -1) {
          continue;
        }
        Hats.shares(cells.data(), SampleCells.SIZE * c + 1, shares);
        int at = x + 1 + WIDE * (y + 1 + WIDE * (z + 1));
        float sum =
            shares[0] * room[at]
                + shares[1] * room[at + 1]
                + shares[2] * room[at + WIDE]
                + shares[3] * room[at + WIDE + 1];
        int up = at + WIDE * WIDE;
        sum +=
            shares[4] * room[up]
                + shares[5] * room[up + 1]
                + shares[6] * room[up + WIDE]
                + shares[7] * room[up + WIDE + 1];
        sum *= screening * cells.data()[SampleCells.SIZE * c];
        add(x, y, z, sum, out, false);
      }
    }
  }

  private void add(int x, int y, int z, float by, float[] out, boolean squared) {
    for (int corner = 0; corner < 8; corner++) {
      int i = x + (corner & 1);
      int j = y + (corner >> 1 & 1);
      int k = z + (corner >> 2);
      if ((i | j | k) >= 0 && i < 8 && j < 8 && k < 8) {
        out[i + 8 * j + 64 * k] += by * shares[corner] * (squared ? shares[corner] : 1);
      }
    }
  }

  /** Its diagonal at a brick's nodes. */
  void diagonal(int brick, float[] out) {
    Arrays.fill(out, Hats.SELF * step);
    long key = bricks.key(brick);
    for (int n = 0; n < 8; n++) {
      int b = cellsBefore(key, n);
      for (int c = b < 0 ? 0 : cells.start()[b]; b >= 0 && c < cells.start()[b + 1]; c++) {
        Hats.shares(cells.data(), SampleCells.SIZE * c + 1, shares);
        add(x(c, n), y(c, n), z(c, n), screening * cells.data()[SampleCells.SIZE * c], out, true);
      }
    }
  }

  /** The cells' brick that lies before one along the axes of the bits set; -1 for none. */
  private int cellsBefore(long key, int bits) {
    int i = Bricks.i(key) - (bits & 1);
    int j = Bricks.j(key) - (bits >> 1 & 1);
    int k = Bricks.k(key) - (bits >> 2);
    return i < 0 || j < 0 || k < 0 ? -1 : cells.bricks().find(Bricks.key(i, j, k));
  }

  private int x(int cell, int bits) {
    return (cells.local()[cell] & 7) - 8 * (bits & 1);
  }

  private int y(int cell, int bits) {
    return (cells.local()[cell] >> 3 & 7) - 4 * (bits & 2);
  }

  private int z(int cell, int bits) {
    return (cells.local()[cell] >> 6) - 2 * (bits & 4);
  }
}
