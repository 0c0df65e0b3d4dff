package holotome.core.contour;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * The right-hand side of the Poisson equation at the nodes of a level: the integral of the field of
 * normals times the gradient of each node's hat function. Normals are spread over the hat functions
 * of the nodes around them; the integrals are products of one-dimensional ones.
 */
final class BrickLoad {
  private static final int GRAIN = 8;

  /** Places along an axis: a brick's nodes and two more on either side. */
  private static final int WIDE = 12;

  /** Integrals of two hat functions one, nought and one step apart. */
  private static final float[] MASS = {1f / 6, 2f / 3, 1f / 6};

  /** Integrals of a hat function one step before, at and after a node, times its gradient. */
  private static final float[] SLOPE = {0.5f, 0, -0.5f};

  private BrickLoad() {}

  /** For each node of the bricks; normals look outwards, what is inside comes out positive. */
  static float[] of(Bricks bricks, SampleCells cells, Work work) {
    float[] load = new float[Bricks.NODES * bricks.size()];
    Parallel.range(
        bricks.size(),
        GRAIN,
        work,
        (from, to) -> {
          float[][] field = new float[3][WIDE * WIDE * WIDE];
          float[] a = new float[WIDE * WIDE * WIDE];
          float[] b = new float[WIDE * WIDE * WIDE];
          for (int brick = from; brick < to; brick++) {
            if (spread(bricks.key(brick), cells, field)) {
              for (int axis = 0; axis < 3; axis++) {
                filter(field[axis], a, 1, axis == 0 ? SLOPE : MASS);
                filter(a, b, WIDE, axis == 1 ? SLOPE : MASS);
                filter(b, a, WIDE * WIDE, axis == 2 ? SLOPE : MASS);
                add(a, load, Bricks.NODES * brick);
              }
            }
          }
        });
    return load;
  }

  /** The inward normals spread over a brick's nodes and those around; false if there are none. */
  private static boolean spread(long key, SampleCells cells, float[][] field) {
    boolean any = false;
    for (int n = 0; n < 27; n++) {
      int di = n % 3 - 1;
      int dj = n / 3 % 3 - 1;
      int dk = n / 9 - 1;
      int i = Bricks.i(key) + di;
      int j = Bricks.j(key) + dj;
      int k = Bricks.k(key) + dk;
      int b = i < 0 || j < 0 || k < 0 ? -1 : cells.bricks().find(Bricks.key(i, j, k));
      if (b < 0) {
        continue;
      }
      for (int c = cells.start()[b]; c < cells.start()[b + 1]; c++) {
        int local = cells.local()[c];
        int x = 8 * di + (local & 7) + 2;
        int y = 8 * dj + (local >> 3 & 7) + 2;
        int z = 8 * dk + (local >> 6) + 2;
        if (x < 0 || y < 0 || z < 0 || x >= WIDE - 1 || y >= WIDE - 1 || z >= WIDE - 1) {
          continue;
        }
        if (!any) {
          any = true;
          for (float[] f : field) {
            Arrays.fill(f, 0);
          }
        }
        spread(cells.data(), SampleCells.SIZE * c, x + WIDE * (y + WIDE * z), field);
      }
    }
    return any;
  }

  private static void spread(float[] data, int from, int at, float[][] field) {
    for (int corner = 0; corner < 8; corner++) {
      float fx = (corner & 1) != 0 ? data[from + 1] : 1 - data[from + 1];
      float fy = (corner & 2) != 0 ? data[from + 2] : 1 - data[from + 2];
      float fz = (corner & 4) != 0 ? data[from + 3] : 1 - data[from + 3];
      int to = at + (corner & 1) + WIDE * ((corner >> 1 & 1) + WIDE * (corner >> 2));
      float share = fx * fy * fz;
      for (int axis = 0; axis < 3; axis++) {
        field[axis][to] -= share * data[from + 4 + axis];
      }
    }
  }

  private static void filter(float[] from, float[] to, int stride, float[] weights) {
    for (int i = stride; i < from.length - stride; i++) {
      to[i] = weights[0] * from[i - stride] + weights[1] * from[i] + weights[2] * from[i + stride];
    }
  }

  private static void add(float[] from, float[] load, int at) {
    for (int z = 0; z < 8; z++) {
      for (int y = 0; y < 8; y++) {
        int row = 2 + WIDE * (y + 2 + WIDE * (z + 2));
        for (int x = 0; x < 8; x++) {
          load[at + x + 8 * y + 64 * z] += from[row + x];
        }
      }
    }
  }
}
