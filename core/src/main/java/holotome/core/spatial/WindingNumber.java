package holotome.core.spatial;

/**
 * How often a surface winds around a point: 1 within a closed surface, 0 outside, in between where
 * the surface is open (Jacobson, Kavan and Sorkine-Hornung, "Robust inside-outside segmentation
 * using generalized winding numbers", 2013). Summed over a {@link Bvh}: nodes that are far off for
 * their size count as one dipole (Barill and others, "Fast winding numbers for soups and clouds",
 * 2018), triangles nearby by their exact solid angle (van Oosterom and Strackee, 1983).
 *
 * <p>Sums of nodes are made once, 28 bytes a triangle or so; asked by any number of threads through
 * {@link Query}, one each. An answer costs O(log T) and is within about 0.02 of the exact sum.
 */
public final class WindingNumber {
  /** Nodes farther off than so many of their radii are summed as one. */
  private static final double FAR = 2.8;

  private final Bvh bvh;

  /** Per child of a node: normal times area, the middle, the radius. */
  private final float[] sums;

  private WindingNumber(Bvh bvh, float[] sums) {
    this.bvh = bvh;
    this.sums = sums;
  }

  public static WindingNumber of(Bvh bvh) {
    WindingNumber w = new WindingNumber(bvh, new float[7 * bvh.children.length]);
    if (bvh.ids.length > 0 && bvh.root >= 0) {
      w.sum(bvh.root, new double[8]);
    }
    return w;
  }

  /** Sums a subtree: normal times area, middle times area, area; and its box's spread. */
  private void sum(int ref, double[] out) {
    if (ref < 0) {
      leaf(ref, out);
      return;
    }
    double[] part = new double[8];
    java.util.Arrays.fill(out, 0);
    for (int side = 0; side < 2; side++) {
      int child = bvh.children[2 * ref + side];
      sum(child, part);
      int at = 7 * (2 * ref + side);
      for (int k = 0; k < 3; k++) {
        sums[at + k] = (float) part[k];
        sums[at + 3 + k] =
            part[6] > 0
                ? (float) (part[3 + k] / part[6])
                : (bvh.boxes[12 * ref + 6 * side + k] + bvh.boxes[12 * ref + 6 * side + 3 + k]) / 2;
      }
      double far = 0;
      for (int k = 0; k < 3; k++) {
        double lo = sums[at + 3 + k] - (double) bvh.boxes[12 * ref + 6 * side + k];
        double hi = bvh.boxes[12 * ref + 6 * side + 3 + k] - (double) sums[at + 3 + k];
        double d = Math.max(lo, hi);
        far += d * d;
      }
      sums[at + 6] = (float) Math.sqrt(far);
      for (int k = 0; k < 7; k++) {
        out[k] += part[k];
      }
    }
  }

  private void leaf(int ref, double[] out) {
    java.util.Arrays.fill(out, 0);
    int first = ~ref >>> 3;
    float[] c = bvh.corners;
    for (int i = first; i <= first + (~ref & 7); i++) {
      int o = 9 * i;
      double ux = (double) c[o + 3] - c[o];
      double uy = (double) c[o + 4] - c[o + 1];
      double uz = (double) c[o + 5] - c[o + 2];
      double vx = (double) c[o + 6] - c[o];
      double vy = (double) c[o + 7] - c[o + 1];
      double vz = (double) c[o + 8] - c[o + 2];
      double nx = (uy * vz - uz * vy) / 2;
      double ny = (uz * vx - ux * vz) / 2;
      double nz = (ux * vy - uy * vx) / 2;
      double area = Math.sqrt(nx * nx + ny * ny + nz * nz);
      out[0] += nx;
      out[1] += ny;
      out[2] += nz;
      for (int k = 0; k < 3; k++) {
        out[3 + k] += area * ((double) c[o + k] + c[o + 3 + k] + c[o + 6 + k]) / 3;
      }
      out[6] += area;
    }
  }

  public Query query() {
    return new Query();
  }

  /** Asks; holds its own stack. */
  public final class Query {
    private final int[] stack = new int[192];

    private Query() {}

    public double at(double x, double y, double z) {
      if (bvh.ids.length == 0) {
        return 0;
      }
      double solid = 0;
      double dipoles = 0;
      int top = 0;
      stack[top++] = bvh.root;
      while (top > 0) {
        int ref = stack[--top];
        if (ref < 0) {
          int first = ~ref >>> 3;
          for (int i = first; i <= first + (~ref & 7); i++) {
            solid += angle(9 * i, x, y, z);
          }
          continue;
        }
        for (int side = 0; side < 2; side++) {
          int at = 7 * (2 * ref + side);
          double dx = sums[at + 3] - x;
          double dy = sums[at + 4] - y;
          double dz = sums[at + 5] - z;
          double square = dx * dx + dy * dy + dz * dz;
          double r = FAR * sums[at + 6];
          if (square > r * r) {
            dipoles +=
                (sums[at] * dx + sums[at + 1] * dy + sums[at + 2] * dz)
                    / (square * Math.sqrt(square));
          } else {
            stack[top++] = bvh.children[2 * ref + side];
          }
        }
      }
      return (2 * solid + dipoles) / (4 * Math.PI);
    }

    /** Half the solid angle of a triangle. */
    private double angle(int o, double x, double y, double z) {
      float[] c = bvh.corners;
      double ax = c[o] - x;
      double ay = c[o + 1] - y;
      double az = c[o + 2] - z;
      double bx = c[o + 3] - x;
      double by = c[o + 4] - y;
      double bz = c[o + 5] - z;
      double cx = c[o + 6] - x;
      double cy = c[o + 7] - y;
      double cz = c[o + 8] - z;
      double a = Math.sqrt(ax * ax + ay * ay + az * az);
      double b = Math.sqrt(bx * bx + by * by + bz * bz);
      double l = Math.sqrt(cx * cx + cy * cy + cz * cz);
      double det = ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
      double under =
          a * b * l
              + (ax * bx + ay * by + az * bz) * l
              + (bx * cx + by * cy + bz * cz) * a
              + (cx * ax + cy * ay + cz * az) * b;
      return det == 0 && under == 0 ? 0 : Math.atan2(det, under);
    }
  }
}
