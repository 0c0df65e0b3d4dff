package holotome.core.contour;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.function.IntToDoubleFunction;

/**
 * A finer level of a screened Poisson equation: what is to be added to the coarser solution, in
 * bricks around the surface, by conjugate gradients with the diagonal as preconditioner; nought
 * beyond. Sums are made chunk by chunk in one order, whatever the number of threads.
 */
final class BrickLevel implements PoissonLevel {
  private static final int GRAIN = 16;
  private static final int WIDE = Bricks.WIDE;

  /** Nodes of the coarser level along an axis that a brick and those around it lie between. */
  private static final int COARSE = 6;

  /** Rounds at most, and by how much what is left over is to shrink. */
  private static final int MOST_ROUNDS = 24;

  /** As many as are mostly needed. */
  private static final int USUAL_ROUNDS = 6;

  private static final double EXACT = 1e-2;

  private final int level;
  private final NestedLattice lattice;
  private final Bricks bricks;
  private final SampleCells cells;
  private final PoissonLevel coarser;
  private final float step;
  private final float screening;
  private final float[] value;

  /** One over the diagonal; nought where the value is held. */
  private final float[] inverse;

  private BrickLevel(
      int level,
      NestedLattice lattice,
      Bricks bricks,
      SampleCells cells,
      double screening,
      PoissonLevel coarser) {
    this.level = level;
    this.lattice = lattice;
    this.bricks = bricks;
    this.cells = cells;
    this.coarser = coarser;
    step = (float) lattice.stepOf(level);
    this.screening = (float) (screening / step);
    value = new float[Bricks.NODES * bricks.size()];
    inverse = new float[value.length];
  }

  /**
   * @param load the right-hand side; used up
   */
  static BrickLevel solve(
      int level,
      NestedLattice lattice,
      Bricks bricks,
      SampleCells cells,
      float[] load,
      double screening,
      PoissonLevel coarser,
      Work work) {
    BrickLevel b = new BrickLevel(level, lattice, bricks, cells, screening, coarser);
    b.solve(load, work);
    return b;
  }

  @Override
  public Reader reader() {
    return new Values();
  }

  private final class Values implements Reader {
    private final Bricks.Nodes nodes = bricks.nodes();
    private final Reader below = coarser.reader();

    @Override
    public float at(int i, int j, int k) {
      int node = nodes.node(i, j, k);
      return node >= 0 ? value[node] : below.at(i / 2.0, j / 2.0, k / 2.0);
    }

    @Override
    public float at(double x, double y, double z) {
      int i = (int) Math.floor(x);
      int j = (int) Math.floor(y);
      int k = (int) Math.floor(z);
      return nodes.reaches(i, j, k) ? between(x, y, z, i, j, k) : below.at(x / 2, y / 2, z / 2);
    }
  }

  private void solve(float[] r, Work work) {
    begin(r, work.part(0.15, CoreWords.of("work.making-the-surface")));
    float[] p = new float[value.length];
    float[] q = new float[value.length];
    double rz = turn(r, p, 0);
    double goal = EXACT * EXACT * rz;
    Work rounds = work.part(0.85, CoreWords.of("work.making-the-surface"));
    int round = 0;
    while (round < MOST_ROUNDS && rz > goal) {
      double share = round < USUAL_ROUNDS ? 1.0 / USUAL_ROUNDS : 0;
      float along = (float) (rz / applied(p, q, rounds.part(share, rounds.label())));
      double before = rz;
      rz = step(p, q, r, along);
      turn(r, p, (float) (rz / before));
      round++;
    }
    rounds.advance(Math.max(0, 1 - (double) round / USUAL_ROUNDS));
  }

  /** Takes the values from the coarser level over and what is left of the right-hand side. */
  private void begin(float[] r, Work work) {
    Parallel.range(
        bricks.size(),
        GRAIN,
        work,
        (from, to) -> {
          Reader below = coarser.reader();
          float[] coarse = new float[COARSE * COARSE * COARSE];
          float[] room = new float[WIDE * WIDE * WIDE];
          float[] q = new float[Bricks.NODES];
          BrickStencil stencil = new BrickStencil(bricks, cells, step, screening);
          for (int b = from; b < to; b++) {
            refine(b, below, coarse, room);
            stencil.apply(b, room, q);
            int at = Bricks.NODES * b;
            for (int n = 0; n < Bricks.NODES; n++) {
              int x = n & 7;
              int y = n >> 3 & 7;
              int z = n >> 6;
              value[at + n] = room[x + 1 + WIDE * (y + 1 + WIDE * (z + 1))];
              r[at + n] -= q[n];
            }
            stencil.diagonal(b, q);
            for (int n = 0; n < Bricks.NODES; n++) {
              inverse[at + n] = isWithin(b, n) ? 1 / q[n] : 0;
            }
          }
        });
  }

  private boolean isWithin(int brick, int n) {
    long key = bricks.key(brick);
    int i = 8 * Bricks.i(key) + (n & 7);
    int j = 8 * Bricks.j(key) + (n >> 3 & 7);
    int k = 8 * Bricks.k(key) + (n >> 6);
    return i > 0
        && j > 0
        && k > 0
        && i < lattice.last(level, 0)
        && j < lattice.last(level, 1)
        && k < lattice.last(level, 2);
  }

  /** The coarser level's function at the nodes of a brick and around it. */
  private void refine(int brick, Reader below, float[] coarse, float[] room) {
    long key = bricks.key(brick);
    int i = 4 * Bricks.i(key) - 1;
    int j = 4 * Bricks.j(key) - 1;
    int k = 4 * Bricks.k(key) - 1;
    for (int n = 0; n < coarse.length; n++) {
      coarse[n] = below.at(i + n % COARSE, j + n / COARSE % COARSE, k + n / (COARSE * COARSE));
    }
    // Node -1 lies half-way between the first two of the coarser level, node 0 on the second.
    for (int z = 0; z < WIDE; z++) {
      for (int y = 0; y < WIDE; y++) {
        for (int x = 0; x < WIDE; x++) {
          room[x + WIDE * (y + WIDE * z)] = between(coarse, x, y, z);
        }
      }
    }
  }

  private static float between(float[] coarse, int x, int y, int z) {
    int i = x >> 1;
    int j = y >> 1;
    int k = z >> 1;
    int di = 1 - (x & 1);
    int dj = COARSE * (1 - (y & 1));
    int dk = COARSE * COARSE * (1 - (z & 1));
    int at = (x & 1) + i + COARSE * ((y & 1) + j + COARSE * ((z & 1) + k));
    float sum = 0;
    for (int c = 0; c < 8; c++) {
      sum +=
          coarse[at + ((c & 1) != 0 ? di : 0) + ((c & 2) != 0 ? dj : 0) + ((c & 4) != 0 ? dk : 0)];
    }
    return sum / 8;
  }

  /** Applies the operator to all; returns the product with what it was applied to. */
  private double applied(float[] p, float[] q, Work work) {
    double[] sums = new double[Parallel.chunks(bricks.size(), GRAIN)];
    Parallel.chunked(
        bricks.size(),
        GRAIN,
        work,
        (c, from, to) -> {
          float[] room = new float[WIDE * WIDE * WIDE];
          float[] out = new float[Bricks.NODES];
          BrickStencil stencil = new BrickStencil(bricks, cells, step, screening);
          double sum = 0;
          for (int b = from; b < to; b++) {
            bricks.gather(p, b, room);
            stencil.apply(b, room, out);
            int at = Bricks.NODES * b;
            System.arraycopy(out, 0, q, at, Bricks.NODES);
            for (int n = 0; n < Bricks.NODES; n++) {
              sum += (double) p[at + n] * out[n];
            }
          }
          sums[c] = sum;
        });
    return total(sums);
  }

  /** Goes along a way; returns what is left over. */
  private double step(float[] p, float[] q, float[] r, float along) {
    return summed(
        v -> {
          value[v] += along * p[v];
          r[v] -= along * q[v];
          return (double) r[v] * r[v] * inverse[v];
        });
  }

  /** The next way: down, and a share of the last one; returns what is left over, for the first. */
  private double turn(float[] r, float[] p, float keep) {
    return summed(
        v -> {
          float z = inverse[v] * r[v];
          p[v] = z + keep * p[v];
          return (double) z * r[v];
        });
  }

  private double summed(IntToDoubleFunction ofNode) {
    double[] sums = new double[Parallel.chunks(bricks.size(), GRAIN)];
    Parallel.chunked(
        bricks.size(),
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          double sum = 0;
          for (int v = Bricks.NODES * from; v < Bricks.NODES * to; v++) {
            sum += ofNode.applyAsDouble(v);
          }
          sums[c] = sum;
        });
    return total(sums);
  }

  private static double total(double[] sums) {
    double sum = 0;
    for (double s : sums) {
      sum += s;
    }
    return sum;
  }
}
