package holotome.core.quad;

import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * How many steps of the lattice lead from one end of each half-edge to the other, in whole numbers
 * along and across the direction at its origin, and by how many right angles the direction at its
 * end is turned against that.
 *
 * @param along per half-edge, and across
 * @param turns per half-edge, 0 to 3: a way (x, y) at the origin is {@link #turned} by so many at
 *     the end
 * @param exactAlong the same before it was rounded, and exactAcross
 */
record LatticeSteps(
    byte[] along, byte[] across, byte[] turns, float[] exactAlong, float[] exactAcross) {

  /**
   * Finds them.
   *
   * @param tri three vertices a triangle
   * @param twin the half-edge across each, below nought where there is none
   */
  static LatticeSteps of(
      FieldLevel level,
      int[] tri,
      int[] twin,
      float[] field,
      float[] places,
      float[] side,
      Work work) {
    int n = tri.length;
    LatticeSteps s =
        new LatticeSteps(new byte[n], new byte[n], new byte[n], new float[n], new float[n]);
    Parallel.range(
        n / 3,
        CrossField.GRAIN,
        work,
        (from, to) -> {
          Crosses crosses = new Crosses();
          Lattices lattices = new Lattices();
          for (int h = 3 * from; h < 3 * to; h++) {
            int g = twin[h];
            if (g < 0 || h < g) {
              s.find(level, tri, h, field, places, side, crosses, lattices);
              if (g >= 0) {
                s.reverse(h, g);
              }
            }
          }
        });
    return s;
  }

  private void find(
      FieldLevel level,
      int[] tri,
      int h,
      float[] field,
      float[] places,
      float[] side,
      Crosses crosses,
      Lattices lattices) {
    int v = tri[h];
    int u = tri[next(h)];
    crosses.match(field, level.normal(), v, u);
    lattices.match(level, places, v, u, crosses, side[v], side[u]);
    int x = lattices.alongA - lattices.alongB;
    int y = lattices.acrossA - lattices.acrossB;
    // The two points may lie apart: so much of a step more it is than the whole number says.
    float[] n = level.normal();
    double dx = lattices.bx - lattices.ax;
    double dy = lattices.by - lattices.ay;
    double dz = lattices.bz - lattices.az;
    double offX = dx * crosses.ax + dy * crosses.ay + dz * crosses.az;
    double offY =
        dx * (n[3 * v + 1] * crosses.az - n[3 * v + 2] * crosses.ay)
            + dy * (n[3 * v + 2] * crosses.ax - n[3 * v] * crosses.az)
            + dz * (n[3 * v] * crosses.ay - n[3 * v + 1] * crosses.ax);
    double fx = x + offX / side[v];
    double fy = y + offY / side[v];
    int t = crosses.turnsA;
    along[h] = (byte) Math.clamp(turnedX(x, y, t), -100, 100);
    across[h] = (byte) Math.clamp(turnedY(x, y, t), -100, 100);
    exactAlong[h] = (float) turned(fx, fy, t, true);
    exactAcross[h] = (float) turned(fx, fy, t, false);
    turns[h] = (byte) (crosses.turnsB - t & 3);
  }

  private void reverse(int h, int g) {
    int t = turns[h];
    along[g] = (byte) -endX(along[h], across[h], t);
    across[g] = (byte) -endY(along[h], across[h], t);
    exactAlong[g] = (float) -turned(exactAlong[h], exactAcross[h], t, true);
    exactAcross[g] = (float) -turned(exactAlong[h], exactAcross[h], t, false);
    turns[g] = (byte) (-t & 3);
  }

  /** Adds to a half-edge's steps, and to its twin's what is the same there. */
  void add(int h, int g, int x, int y) {
    along[h] += (byte) x;
    across[h] += (byte) y;
    if (g >= 0) {
      along[g] -= (byte) endX(x, y, turns[h]);
      across[g] -= (byte) endY(x, y, turns[h]);
    }
  }

  /** A way at a half-edge's origin as the direction at its end has it. */
  static int endX(int x, int y, int turns) {
    return turnedX(x, y, turns);
  }

  static int endY(int x, int y, int turns) {
    return turnedY(x, y, turns);
  }

  /** (x, y) turned counter-clockwise by so many right angles. */
  static int turnedX(int x, int y, int turns) {
    return switch (turns & 3) {
      case 0 -> x;
      case 1 -> -y;
      case 2 -> -x;
      default -> y;
    };
  }

  static int turnedY(int x, int y, int turns) {
    return switch (turns & 3) {
      case 0 -> y;
      case 1 -> x;
      case 2 -> -y;
      default -> -x;
    };
  }

  private static double turned(double x, double y, int turns, boolean isX) {
    return switch (turns & 3) {
      case 0 -> isX ? x : y;
      case 1 -> isX ? -y : x;
      case 2 -> isX ? -x : -y;
      default -> isX ? y : -x;
    };
  }

  static int next(int h) {
    return h % 3 == 2 ? h - 2 : h + 1;
  }

  static int previous(int h) {
    return h % 3 == 0 ? h + 2 : h - 1;
  }

  /** By how many right angles the direction is turned after a walk around a triangle, 0 to 3. */
  int around(int t) {
    return turns[3 * t] + turns[3 * t + 1] + turns[3 * t + 2] & 3;
  }

  /**
   * By how many right angles a way at a triangle's first corner is turned as the direction at a
   * half-edge's origin has it.
   */
  int turnsBefore(int h) {
    int t = h / 3 * 3;
    int out = 0;
    for (int k = t; k < h; k++) {
      out += turns[k];
    }
    return out & 3;
  }

  /** What the steps around a triangle come to, along the direction at its first corner. */
  int restX(int t) {
    return rest(t, true);
  }

  int restY(int t) {
    return rest(t, false);
  }

  private int rest(int t, boolean isX) {
    int sum = 0;
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      int by = -turnsBefore(h);
      sum += isX ? turnedX(along[h], across[h], by) : turnedY(along[h], across[h], by);
    }
    return sum;
  }

  /**
   * 0 where both ends are one point of the lattice, 1 for a side, 2 for a diagonal, more if far.
   */
  int span(int h) {
    int x = Math.abs(along[h]);
    int y = Math.abs(across[h]);
    return x <= 1 && y <= 1 ? x + y : 2 + x + y;
  }
}
