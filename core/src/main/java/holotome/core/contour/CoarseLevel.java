package holotome.core.contour;

import holotome.core.task.Work;

/**
 * The coarsest level of a screened Poisson equation, solved all over its box by conjugate gradients
 * (Hestenes and Stiefel 1952). At the sides of the box the function is either left free, so that
 * open surfaces run straight on, or held outside, so that they close.
 */
final class CoarseLevel implements PoissonLevel {
  private static final int MOST_ROUNDS = 400;
  private static final double EXACT = 1e-6;

  /** Nodes along each axis. */
  private final int nx;

  private final int ny;
  private final int nz;
  private final boolean held;
  private final float step;
  private final SampleCells cells;
  private final float screening;
  private final float[] value;

  private CoarseLevel(NestedLattice l, SampleCells cells, double screening, boolean held) {
    nx = l.last(0, 0) + 1;
    ny = l.last(0, 1) + 1;
    nz = l.last(0, 2) + 1;
    step = (float) l.stepOf(0);
    this.held = held;
    this.cells = cells;
    this.screening = (float) (screening / step);
    value = new float[nx * ny * nz];
  }

  /**
   * @param load the right-hand side at the nodes, x first
   * @param screening how much being half-way at the surface counts
   * @param held whether the sides of the box are outside
   */
  static CoarseLevel solve(
      NestedLattice l, SampleCells cells, float[] load, double screening, boolean held, Work work) {
    CoarseLevel c = new CoarseLevel(l, cells, screening, held);
    c.solve(load, work);
    return c;
  }

  @Override
  public Reader reader() {
    return new Values();
  }

  /** Beyond the box it is as at its sides. */
  private final class Values implements Reader {
    @Override
    public float at(int i, int j, int k) {
      return value[
          Math.clamp(i, 0, nx - 1)
              + nx * (Math.clamp(j, 0, ny - 1) + ny * Math.clamp(k, 0, nz - 1))];
    }

    @Override
    public float at(double x, double y, double z) {
      return between(x, y, z, (int) Math.floor(x), (int) Math.floor(y), (int) Math.floor(z));
    }
  }

  /** Solves for what is added to minus a half, which is outside. */
  private void solve(float[] load, Work work) {
    int n = value.length;
    float[] r = load.clone();
    float[] inverse = new float[n];
    diagonal(inverse);
    pull(r);
    float[] p = new float[n];
    float[] q = new float[n];
    double rz = 0;
    for (int v = 0; v < n; v++) {
      p[v] = inverse[v] * r[v];
      rz += (double) p[v] * r[v];
    }
    double goal = EXACT * EXACT * rz;
    for (int round = 0; round < MOST_ROUNDS && rz > goal; round++) {
      work.check();
      apply(p, q);
      double pq = 0;
      for (int v = 0; v < n; v++) {
        pq += (double) p[v] * q[v];
      }
      float along = (float) (rz / pq);
      double before = rz;
      rz = 0;
      for (int v = 0; v < n; v++) {
        value[v] += along * p[v];
        r[v] -= along * q[v];
        rz += (double) r[v] * r[v] * inverse[v];
      }
      float keep = (float) (rz / before);
      for (int v = 0; v < n; v++) {
        p[v] = inverse[v] * r[v] + keep * p[v];
      }
    }
    for (int v = 0; v < n; v++) {
      value[v] -= 0.5f;
    }
    work.advance(1);
  }

  /** Half a hat counts half at each free side. */
  private float part(int i, int j, int k) {
    return held
        ? 1
        : (i == 0 || i == nx - 1 ? 0.5f : 1)
            * (j == 0 || j == ny - 1 ? 0.5f : 1)
            * (k == 0 || k == nz - 1 ? 0.5f : 1);
  }

  private void diagonal(float[] out) {
    int v = 0;
    for (int k = 0; k < nz; k++) {
      for (int j = 0; j < ny; j++) {
        for (int i = 0; i < nx; i++, v++) {
          out[v] = Hats.SELF * step * part(i, j, k);
        }
      }
    }
    everyCell(
        (c, low, shares) -> {
          for (int corner = 0; corner < 8; corner++) {
            out[low + offset(corner)] += weight(c) * shares[corner] * shares[corner];
          }
        });
    for (v = 0; v < out.length; v++) {
      out[v] = 1 / out[v];
    }
  }

  /** The surface is to be half-way: half above what is outside. */
  private void pull(float[] r) {
    everyCell(
        (c, low, shares) -> {
          for (int corner = 0; corner < 8; corner++) {
            r[low + offset(corner)] += 0.5f * weight(c) * shares[corner];
          }
        });
  }

  private void apply(float[] p, float[] q) {
    int v = 0;
    for (int k = 0; k < nz; k++) {
      for (int j = 0; j < ny; j++) {
        for (int i = 0; i < nx; i++, v++) {
          q[v] = stiffness(p, i, j, k) * step * part(i, j, k);
        }
      }
    }
    everyCell(
        (c, low, shares) -> {
          float sum = 0;
          for (int corner = 0; corner < 8; corner++) {
            sum += shares[corner] * p[low + offset(corner)];
          }
          sum *= weight(c);
          for (int corner = 0; corner < 8; corner++) {
            q[low + offset(corner)] += sum * shares[corner];
          }
        });
  }

  private float stiffness(float[] p, int i, int j, int k) {
    float edges = 0;
    float corners = 0;
    for (int dk = -1; dk <= 1; dk++) {
      for (int dj = -1; dj <= 1; dj++) {
        for (int di = -1; di <= 1; di++) {
          int apart = Math.abs(di) + Math.abs(dj) + Math.abs(dk);
          if (apart == 2) {
            edges += beside(p, i + di, j + dj, k + dk);
          } else if (apart == 3) {
            corners += beside(p, i + di, j + dj, k + dk);
          }
        }
      }
    }
    return Hats.SELF * p[i + nx * (j + ny * k)] + Hats.EDGE * edges + Hats.CORNER * corners;
  }

  /** Beyond a free side lies the mirror image, beyond a held one nought. */
  private float beside(float[] p, int i, int j, int k) {
    boolean isBeyond = i < 0 || j < 0 || k < 0 || i >= nx || j >= ny || k >= nz;
    if (!isBeyond) {
      return p[i + nx * (j + ny * k)];
    }
    return held ? 0 : p[mirrored(i, nx) + nx * (mirrored(j, ny) + ny * mirrored(k, nz))];
  }

  private static int mirrored(int i, int n) {
    return i < 0 ? -i : i >= n ? 2 * n - 2 - i : i;
  }

  @FunctionalInterface
  private interface Cell {
    void take(int cell, int low, float[] shares);
  }

  private void everyCell(Cell taker) {
    float[] shares = new float[8];
    for (int b = 0; b < cells.bricks().size(); b++) {
      long key = cells.bricks().key(b);
      for (int c = cells.start()[b]; c < cells.start()[b + 1]; c++) {
        int local = cells.local()[c];
        int i = 8 * Bricks.i(key) + (local & 7);
        int j = 8 * Bricks.j(key) + (local >> 3 & 7);
        int k = 8 * Bricks.k(key) + (local >> 6);
        Hats.shares(cells.data(), SampleCells.SIZE * c + 1, shares);
        taker.take(c, i + nx * (j + ny * k), shares);
      }
    }
  }

  private int offset(int corner) {
    return (corner & 1) + nx * ((corner >> 1 & 1) + ny * (corner >> 2));
  }

  private float weight(int cell) {
    return screening * cells.data()[SampleCells.SIZE * cell];
  }
}
