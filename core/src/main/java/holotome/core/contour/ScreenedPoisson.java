package holotome.core.contour;

import holotome.core.array.LongIndex;
import holotome.core.geometry.Box;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * What is inside a surface that may be torn, doubled, noisy and open: the function whose gradient
 * comes nearest to the surface's normals, held half-way at the surface (screened Poisson surface
 * reconstruction, Kazhdan and Hoppe 2013), over hat functions as in "An adaptive multi-grid solver
 * for applications in computer graphics" (Kazhdan and Hoppe 2019), from coarse to fine, each level
 * in bricks around the surface that add to the coarser solution.
 *
 * <p>The mesh's triangles are the samples, each by its area, so that large and small ones count for
 * what they are. For a surface that passes n cells: O(T + n), about 400 bytes a cell and 12 a
 * triangle.
 */
public final class ScreenedPoisson implements Field {
  private static final int GRAIN = 16;

  /** Cells with surface that can be numbered, about. */
  private static final double MOST = 2e8;

  /** Nodes around the cells with surface that a level reaches at least. */
  private static final int REACH = 2;

  private final NestedLattice lattice;
  private final PoissonLevel finest;

  private final SampleCells[] cells;

  /** The mean at the surface. */
  private final double level;

  private ScreenedPoisson(
      NestedLattice lattice, PoissonLevel finest, SampleCells[] cells, double level) {
    this.cells = cells;
    this.lattice = lattice;
    this.finest = finest;
    this.level = level;
  }

  /**
   * @param mesh its triangles look outwards
   * @param step of the finest lattice, in base units
   * @param screening how much being half-way at the surface counts, beside the normals
   * @param closed whether the surface closes within some room around the mesh; otherwise it runs on
   *     where the mesh ends
   */
  public static ScreenedPoisson of(
      Mesh mesh, double step, double screening, boolean closed, Work work) {
    NestedLattice l = NestedLattice.around(mesh.bounds(), step);
    if (!(Measures.area(mesh) < MOST * step * step)) {
      throw Failure.cannot(CoreWords.of("lattice.detail-is-too-fine"));
    }
    SampleCells[] cells = new SampleCells[l.finest() + 1];
    cells[l.finest()] =
        SampleCells.of(mesh, l, work.part(0.25, CoreWords.of("work.making-the-surface")));
    for (int d = l.finest() - 1; d >= 0; d--) {
      cells[d] = cells[d + 1].coarser();
    }
    Bricks[] bricks = new Bricks[l.finest() + 1];
    for (int d = l.finest(); d > 0; d--) {
      bricks[d] = bricks(l, d, cells[d], d < l.finest() ? bricks[d + 1] : null);
    }
    float[][] load = new float[l.finest() + 1][];
    load[l.finest()] =
        BrickLoad.of(
            bricks[l.finest()],
            cells[l.finest()],
            work.part(0.1, CoreWords.of("work.making-the-surface")));
    for (int d = l.finest() - 1; d > 0; d--) {
      load[d] = coarser(bricks[d + 1], load[d + 1], bricks[d]);
    }
    load[0] = coarsest(bricks[1], load[1], l);
    PoissonLevel at =
        CoarseLevel.solve(
            l,
            cells[0],
            load[0],
            screening,
            closed,
            work.part(0.05, CoreWords.of("work.making-the-surface")));
    for (int d = 1; d <= l.finest(); d++) {
      Work part = work.part(0.3 / (1 << l.finest() - d), CoreWords.of("work.making-the-surface"));
      at = BrickLevel.solve(d, l, bricks[d], cells[d], load[d], screening, at, part);
      load[d] = null;
    }
    return new ScreenedPoisson(l, at, cells, mean(at, cells[l.finest()]));
  }

  /**
   * How far from a box on every side the function is known, in base units.
   *
   * @param step of the finest lattice, in base units
   */
  public static double room(Box box, double step) {
    return NestedLattice.around(box, step).room(box);
  }

  /**
   * What lies within some steps of the surface, and at most three times as far; everywhere, where
   * that is more than a cell of the coarsest lattice.
   *
   * @param steps of the finest lattice
   */
  public Reach within(double steps) {
    if (lattice.stepOf(0) < steps) {
      return Reach.ALL;
    }
    int d = lattice.finest();
    while (d > 0 && lattice.stepOf(d) < steps) {
      d--;
    }
    double size = lattice.stepOf(d);
    SampleCells c = cells[d];
    LongIndex near = new LongIndex();
    for (int b = 0; b < c.bricks().size(); b++) {
      long key = c.bricks().key(b);
      for (int i = c.start()[b]; i < c.start()[b + 1]; i++) {
        int local = c.local()[i];
        for (int n = 0; n < 27; n++) {
          near.add(
              Bricks.key(
                  8 * Bricks.i(key) + (local & 7) + n % 3,
                  8 * Bricks.j(key) + (local >> 3 & 7) + n / 3 % 3,
                  8 * Bricks.k(key) + (local >> 6) + n / 9));
        }
      }
    }
    return (x, y, z) ->
        near.find(
                Bricks.key(
                    (int) (lattice.toX(x) / size) + 1,
                    (int) (lattice.toY(y) / size) + 1,
                    (int) (lattice.toZ(z) / size) + 1))
            >= 0;
  }

  /** The lattice of the finest level, for which the field is exact. */
  public Lattice window() {
    return Lattice.of(
        lattice.x(),
        lattice.y(),
        lattice.z(),
        lattice.step(),
        lattice.last(lattice.finest(), 0) + 1,
        lattice.last(lattice.finest(), 1) + 1,
        lattice.last(lattice.finest(), 2) + 1);
  }

  /** The part of it around a box. */
  public Lattice window(Box box, int room) {
    return lattice.window(box, room);
  }

  /** The bricks around cells, and those that the finer level's bricks take values from. */
  private static Bricks bricks(NestedLattice l, int level, SampleCells cells, Bricks finer) {
    LongIndex out = new LongIndex();
    for (int b = 0; b < cells.bricks().size(); b++) {
      long key = cells.bricks().key(b);
      boolean[] used = new boolean[27];
      for (int c = cells.start()[b]; c < cells.start()[b + 1]; c++) {
        int local = cells.local()[c];
        int[] i = around(local & 7);
        int[] j = around(local >> 3 & 7);
        int[] k = around(local >> 6);
        for (int n = 0; n < 8; n++) {
          used[13 + i[n & 1] + 3 * j[n >> 1 & 1] + 9 * k[n >> 2]] = true;
        }
      }
      for (int n = 0; n < 27; n++) {
        if (used[n]) {
          add(
              out,
              l,
              level,
              Bricks.i(key) + n % 3 - 1,
              Bricks.j(key) + n / 3 % 3 - 1,
              Bricks.k(key) + n / 9 - 1);
        }
      }
    }
    for (int b = 0; finer != null && b < finer.size(); b++) {
      long key = finer.key(b);
      // Half a brick and a node more on either side.
      for (int n = 0; n < 8; n++) {
        add(
            out,
            l,
            level,
            (4 * Bricks.i(key) - 1 + 6 * (n & 1)) >> 3,
            (4 * Bricks.j(key) - 1 + 6 * (n >> 1 & 1)) >> 3,
            (4 * Bricks.k(key) - 1 + 6 * (n >> 2)) >> 3);
      }
    }
    return new Bricks(out);
  }

  private static void add(LongIndex out, NestedLattice l, int level, int i, int j, int k) {
    if (i >= 0
        && j >= 0
        && k >= 0
        && 8 * i <= l.last(level, 0)
        && 8 * j <= l.last(level, 1)
        && 8 * k <= l.last(level, 2)) {
      out.add(Bricks.key(i, j, k));
    }
  }

  /** The bricks, seen from its own, that nodes around a cell lie in: the lowest and the highest. */
  private static int[] around(int cell) {
    return new int[] {cell - REACH >> 3, cell + 1 + REACH >> 3};
  }

  /** The right-hand side of a coarser level: its hats are sums of finer ones. */
  private static float[] coarser(Bricks fine, float[] load, Bricks coarse) {
    float[] out = new float[Bricks.NODES * coarse.size()];
    Parallel.range(
        coarse.size(),
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          Bricks.Nodes nodes = fine.nodes();
          for (int b = from; b < to; b++) {
            long key = coarse.key(b);
            for (int n = 0; n < Bricks.NODES; n++) {
              int i = 8 * Bricks.i(key) + (n & 7);
              int j = 8 * Bricks.j(key) + (n >> 3 & 7);
              int k = 8 * Bricks.k(key) + (n >> 6);
              out[Bricks.NODES * b + n] = gathered(nodes, load, i, j, k);
            }
          }
        });
    return out;
  }

  private static float[] coarsest(Bricks fine, float[] load, NestedLattice l) {
    int nx = l.last(0, 0) + 1;
    int ny = l.last(0, 1) + 1;
    int nz = l.last(0, 2) + 1;
    float[] out = new float[nx * ny * nz];
    Bricks.Nodes nodes = fine.nodes();
    for (int v = 0; v < out.length; v++) {
      out[v] = gathered(nodes, load, v % nx, v / nx % ny, v / nx / ny);
    }
    return out;
  }

  private static float gathered(Bricks.Nodes fine, float[] load, int i, int j, int k) {
    float sum = 0;
    for (int dk = -1; dk <= 1; dk++) {
      for (int dj = -1; dj <= 1; dj++) {
        for (int di = -1; di <= 1; di++) {
          int node = fine.node(2 * i + di, 2 * j + dj, 2 * k + dk);
          if (node >= 0) {
            sum += load[node] * Math.scalb(1f, -Math.abs(di) - Math.abs(dj) - Math.abs(dk));
          }
        }
      }
    }
    return sum;
  }

  private static double mean(PoissonLevel at, SampleCells cells) {
    double[] sums = new double[2 * Parallel.chunks(cells.bricks().size(), GRAIN)];
    Parallel.chunked(
        cells.bricks().size(),
        GRAIN,
        Work.unwatched(),
        (chunk, from, to) -> {
          float[] shares = new float[8];
          PoissonLevel.Reader reader = at.reader();
          for (int b = from; b < to; b++) {
            long key = cells.bricks().key(b);
            for (int c = cells.start()[b]; c < cells.start()[b + 1]; c++) {
              int local = cells.local()[c];
              Hats.shares(cells.data(), SampleCells.SIZE * c + 1, shares);
              double value = 0;
              for (int n = 0; n < 8; n++) {
                value +=
                    shares[n]
                        * reader.at(
                            8 * Bricks.i(key) + (local & 7) + (n & 1),
                            8 * Bricks.j(key) + (local >> 3 & 7) + (n >> 1 & 1),
                            8 * Bricks.k(key) + (local >> 6) + (n >> 2));
              }
              double area = cells.data()[SampleCells.SIZE * c];
              sums[2 * chunk] += area * value;
              sums[2 * chunk + 1] += area;
            }
          }
        });
    double sum = 0;
    double area = 0;
    for (int c = 0; c < sums.length; c += 2) {
      sum += sums[c];
      area += sums[c + 1];
    }
    return area > 0 ? sum / area : 0;
  }

  @Override
  public boolean isLinear() {
    return true;
  }

  @Override
  public Probe probe() {
    return new Asked();
  }

  /** Asks; linear within the cells of the finest level. */
  private final class Asked implements Probe {
    /** Places nearer to a node than this are on it. */
    private static final double HAIR = 1e-3;

    private final PoissonLevel.Reader reader = finest.reader();

    @Override
    public double at(double x, double y, double z) {
      return LEVEL - level + value(lattice.toX(x), lattice.toY(y), lattice.toZ(z));
    }

    private double value(double x, double y, double z) {
      return reader.at(snapped(x), snapped(y), snapped(z));
    }

    private static double snapped(double x) {
      double node = Math.rint(x);
      return Math.abs(x - node) < HAIR ? node : x;
    }

    @Override
    public boolean outwards(double x, double y, double z, double[] out) {
      double gx = lattice.toX(x);
      double gy = lattice.toY(y);
      double gz = lattice.toZ(z);
      out[0] = value(gx - 1, gy, gz) - value(gx + 1, gy, gz);
      out[1] = value(gx, gy - 1, gz) - value(gx, gy + 1, gz);
      out[2] = value(gx, gy, gz - 1) - value(gx, gy, gz + 1);
      double l = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
      for (int k = 0; k < 3; k++) {
        out[k] /= l;
      }
      return l > 1e-6;
    }
  }
}
