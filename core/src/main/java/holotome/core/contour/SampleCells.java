package holotome.core.contour;

import holotome.core.array.Grouping;
import holotome.core.array.LongIndex;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * What of a surface lies in each cell of a level: its area, the middle of it, and its normal times
 * area. Cells are kept brick by brick; those without surface are not kept.
 *
 * <p>Triangles larger than a cell are parted until none is. O(T + pieces); 12 bytes a triangle and
 * 30 bytes a cell. The result does not depend on the number of threads.
 *
 * @param bricks keys of the bricks that hold surface
 * @param start where the cells of each brick begin, and at the end how many there are
 * @param local a cell's number within its brick
 * @param data seven a cell: the area, the middle within the cell (0 to 1 along each axis), the
 *     normal times area; areas in squares of the finest step
 */
record SampleCells(LongIndex bricks, int[] start, short[] local, float[] data) {
  static final int SIZE = 7;
  private static final int GRAIN = 1 << 14;
  private static final int BRICK_GRAIN = 16;

  /** Takes pieces of triangles: the middle and the normal times area, in steps. */
  @FunctionalInterface
  private interface Piece {
    void take(double x, double y, double z, double nx, double ny, double nz);
  }

  int count() {
    return local.length;
  }

  static SampleCells of(Mesh mesh, NestedLattice l, Work work) {
    int n = mesh.triangleCount();
    int chunks = Parallel.chunks(n, GRAIN);
    LongIndex[] keys = new LongIndex[chunks];
    int[][] pairs = new int[chunks][];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.3, CoreWords.of("work.making-the-surface")),
        (c, from, to) -> {
          keys[c] = new LongIndex();
          pairs[c] = pairs(mesh, l, from, to, keys[c]);
        });
    LongIndex bricks = new LongIndex();
    long total = 0;
    for (int c = 0; c < chunks; c++) {
      for (int i = 0; i < keys[c].size(); i++) {
        bricks.add(keys[c].key(i));
      }
      total += pairs[c].length / 2;
    }
    if (total > 1 << 30) {
      throw Failure.cannot(CoreWords.of("lattice.detail-is-too-fine"));
    }
    int[] triangle = new int[(int) total];
    int[] brick = new int[(int) total];
    int at = 0;
    for (int c = 0; c < chunks; c++) {
      for (int i = 0; i < pairs[c].length; i += 2) {
        triangle[at] = pairs[c][i];
        brick[at++] = bricks.find(keys[c].key(pairs[c][i + 1]));
      }
      pairs[c] = null;
    }
    Grouping by =
        Grouping.of(brick, bricks.size(), work.part(0.2, CoreWords.of("work.making-the-surface")));
    Collected out = new Collected(bricks.size());
    Parallel.chunked(
        bricks.size(),
        BRICK_GRAIN,
        work.part(0.5, CoreWords.of("work.making-the-surface")),
        (c, from, to) -> {
          Sums sums = new Sums();
          Parting parting = new Parting(mesh, l);
          for (int b = from; b < to; b++) {
            long key = bricks.key(b);
            int i0 = 8 * Bricks.i(key);
            int j0 = 8 * Bricks.j(key);
            int k0 = 8 * Bricks.k(key);
            for (int i = by.start()[b]; i < by.start()[b + 1]; i++) {
              parting.within(
                  triangle[by.order()[i]],
                  i0,
                  j0,
                  k0,
                  (x, y, z, nx, ny, nz) -> sums.add(x - i0, y - j0, z - k0, nx, ny, nz));
            }
            out.set(b, sums);
          }
        });
    return out.cells(bricks);
  }

  /** Which bricks each of some triangles has pieces in: triangle and number, two and two. */
  private static int[] pairs(Mesh mesh, NestedLattice l, int from, int to, LongIndex keys) {
    int[] out = new int[2 * (to - from) + 64];
    int size = 0;
    Parting parting = new Parting(mesh, l);
    for (int t = from; t < to; t++) {
      long only = parting.only(t);
      if (only >= 0) {
        if (size + 2 > out.length) {
          out = Arrays.copyOf(out, 2 * size);
        }
        out[size++] = t;
        out[size++] = keys.add(only);
        continue;
      }
      LongIndex own = parting.bricks(t);
      if (size + 2 * own.size() > out.length) {
        out = Arrays.copyOf(out, 2 * (size + own.size()));
      }
      for (int i = 0; i < own.size(); i++) {
        out[size++] = t;
        out[size++] = keys.add(own.key(i));
      }
    }
    return Arrays.copyOf(out, size);
  }

  /** The same of the next coarser level. */
  SampleCells coarser() {
    LongIndex up = new LongIndex();
    for (int b = 0; b < bricks.size(); b++) {
      long key = bricks.key(b);
      up.add(Bricks.key(Bricks.i(key) >> 1, Bricks.j(key) >> 1, Bricks.k(key) >> 1));
    }
    Collected out = new Collected(up.size());
    Parallel.range(
        up.size(),
        BRICK_GRAIN,
        Work.unwatched(),
        (from, to) -> {
          Sums sums = new Sums();
          for (int b = from; b < to; b++) {
            long key = up.key(b);
            for (int child = 0; child < 8; child++) {
              int di = child & 1;
              int dj = child >> 1 & 1;
              int dk = child >> 2;
              int fine =
                  bricks.find(
                      Bricks.key(
                          2 * Bricks.i(key) + di, 2 * Bricks.j(key) + dj, 2 * Bricks.k(key) + dk));
              for (int c = fine < 0 ? 0 : start[fine]; fine >= 0 && c < start[fine + 1]; c++) {
                sums.addCell(
                    4 * di + ((local[c] & 7) + data[SIZE * c + 1]) / 2,
                    4 * dj + ((local[c] >> 3 & 7) + data[SIZE * c + 2]) / 2,
                    4 * dk + ((local[c] >> 6) + data[SIZE * c + 3]) / 2,
                    data,
                    SIZE * c);
              }
            }
            out.set(b, sums);
          }
        });
    return out.cells(up);
  }

  /** Triangles parted into pieces no larger than a cell. */
  private static final class Parting {
    private static final double LARGEST = 1;

    private final Mesh mesh;
    private final NestedLattice lattice;
    private final double[] p = new double[9];

    Parting(Mesh mesh, NestedLattice lattice) {
      this.mesh = mesh;
      this.lattice = lattice;
    }

    private void load(int t) {
      for (int k = 0; k < 3; k++) {
        int v = 3 * mesh.triangles()[3 * t + k];
        p[3 * k] = lattice.toX(mesh.xyz()[v]);
        p[3 * k + 1] = lattice.toY(mesh.xyz()[v + 1]);
        p[3 * k + 2] = lattice.toZ(mesh.xyz()[v + 2]);
      }
    }

    /** The brick of a triangle that is one piece; -1 if it is more. */
    long only(int t) {
      load(t);
      boolean isSmall =
          square(p[3] - p[0], p[4] - p[1], p[5] - p[2]) <= LARGEST
              && square(p[6] - p[3], p[7] - p[4], p[8] - p[5]) <= LARGEST
              && square(p[0] - p[6], p[1] - p[7], p[2] - p[8]) <= LARGEST;
      return isSmall
          ? brick((p[0] + p[3] + p[6]) / 3, (p[1] + p[4] + p[7]) / 3, (p[2] + p[5] + p[8]) / 3)
          : -1;
    }

    private static long brick(double x, double y, double z) {
      return Bricks.key((int) x >> 3, (int) y >> 3, (int) z >> 3);
    }

    /** The bricks that a triangle has pieces in. */
    LongIndex bricks(int t) {
      LongIndex own = new LongIndex();
      pieces(t, null, (x, y, z, nx, ny, nz) -> own.add(brick(x, y, z)));
      return own;
    }

    /** The pieces in the brick that begins at a cell. */
    void within(int t, int i0, int j0, int k0, Piece piece) {
      long only = Bricks.key(i0 >> 3, j0 >> 3, k0 >> 3);
      pieces(
          t,
          new int[] {i0, j0, k0},
          (x, y, z, nx, ny, nz) -> {
            if (brick(x, y, z) == only) {
              piece.take(x, y, z, nx, ny, nz);
            }
          });
    }

    private void pieces(int t, int[] low, Piece piece) {
      load(t);
      part(p[0], p[1], p[2], p[3], p[4], p[5], p[6], p[7], p[8], low, piece);
    }

    /** Halves the longest side until it is no longer than a cell. */
    private static void part(
        double ax,
        double ay,
        double az,
        double bx,
        double by,
        double bz,
        double cx,
        double cy,
        double cz,
        int[] low,
        Piece piece) {
      double ab = square(bx - ax, by - ay, bz - az);
      double bc = square(cx - bx, cy - by, cz - bz);
      double ca = square(ax - cx, ay - cy, az - cz);
      double most = Math.max(ab, Math.max(bc, ca));
      if (most == Double.POSITIVE_INFINITY) {
        return;
      }
      if (!(most > LARGEST)) {
        double ux = bx - ax;
        double uy = by - ay;
        double uz = bz - az;
        double vx = cx - ax;
        double vy = cy - ay;
        double vz = cz - az;
        piece.take(
            (ax + bx + cx) / 3,
            (ay + by + cy) / 3,
            (az + bz + cz) / 3,
            (uy * vz - uz * vy) / 2,
            (uz * vx - ux * vz) / 2,
            (ux * vy - uy * vx) / 2);
        return;
      }
      if (low != null
          && (isApart(ax, bx, cx, low[0])
              || isApart(ay, by, cy, low[1])
              || isApart(az, bz, cz, low[2]))) {
        return;
      }
      if (ab == most) {
        double mx = (ax + bx) / 2;
        double my = (ay + by) / 2;
        double mz = (az + bz) / 2;
        part(ax, ay, az, mx, my, mz, cx, cy, cz, low, piece);
        part(mx, my, mz, bx, by, bz, cx, cy, cz, low, piece);
      } else if (bc == most) {
        part(bx, by, bz, cx, cy, cz, ax, ay, az, low, piece);
      } else {
        part(cx, cy, cz, ax, ay, az, bx, by, bz, low, piece);
      }
    }

    private static boolean isApart(double a, double b, double c, int low) {
      return Math.max(a, Math.max(b, c)) < low || Math.min(a, Math.min(b, c)) >= low + 8;
    }

    private static double square(double x, double y, double z) {
      return x * x + y * y + z * z;
    }
  }

  /** Sums over the cells of one brick. */
  private static final class Sums {
    private final double[] sum = new double[SIZE * Bricks.NODES];
    private final int[] used = new int[Bricks.NODES];
    private int size;

    /** Adds a piece; its place in steps from the brick's first node. */
    void add(double x, double y, double z, double nx, double ny, double nz) {
      double area = Math.sqrt(nx * nx + ny * ny + nz * nz);
      if (area > 0) {
        int at = at(x, y, z, area);
        sum[at + 4] += nx;
        sum[at + 5] += ny;
        sum[at + 6] += nz;
      }
    }

    void addCell(double x, double y, double z, float[] data, int from) {
      int at = at(x, y, z, data[from]);
      for (int k = 4; k < SIZE; k++) {
        sum[at + k] += data[from + k];
      }
    }

    private int at(double x, double y, double z, double area) {
      int i = Math.min(7, (int) x);
      int j = Math.min(7, (int) y);
      int k = Math.min(7, (int) z);
      int cell = i + 8 * j + 64 * k;
      int at = SIZE * cell;
      if (sum[at] == 0) {
        used[size++] = cell;
      }
      sum[at] += area;
      sum[at + 1] += area * (x - i);
      sum[at + 2] += area * (y - j);
      sum[at + 3] += area * (z - k);
      return at;
    }
  }

  /** The cells of all bricks, until they are put one after the other. */
  private static final class Collected {
    private final short[][] local;
    private final float[][] data;

    Collected(int bricks) {
      local = new short[bricks][];
      data = new float[bricks][];
    }

    /** Takes the sums of a brick and clears them. */
    void set(int brick, Sums s) {
      Arrays.sort(s.used, 0, s.size);
      local[brick] = new short[s.size];
      data[brick] = new float[SIZE * s.size];
      for (int i = 0; i < s.size; i++) {
        int at = SIZE * s.used[i];
        local[brick][i] = (short) s.used[i];
        double area = s.sum[at];
        for (int k = 0; k < SIZE; k++) {
          boolean isPlace = k >= 1 && k <= 3;
          data[brick][SIZE * i + k] = (float) (isPlace ? s.sum[at + k] / area : s.sum[at + k]);
          s.sum[at + k] = 0;
        }
      }
      s.size = 0;
    }

    SampleCells cells(LongIndex bricks) {
      int[] start = new int[local.length + 1];
      for (int b = 0; b < local.length; b++) {
        start[b + 1] = start[b] + local[b].length;
      }
      short[] all = new short[start[local.length]];
      float[] sums = new float[SIZE * all.length];
      for (int b = 0; b < local.length; b++) {
        System.arraycopy(local[b], 0, all, start[b], local[b].length);
        System.arraycopy(data[b], 0, sums, SIZE * start[b], data[b].length);
        local[b] = null;
        data[b] = null;
      }
      return new SampleCells(bricks, start, all, sums);
    }
  }
}
