package holotome.core.spatial;

import java.util.Arrays;

/**
 * How often a surface winds around a point: 1 within a closed surface, 0 outside, in between where
 * the surface is open (Jacobson, Kavan and Sorkine-Hornung, "Robust inside-outside segmentation
 * using generalized winding numbers", 2013). Summed over a {@link Bvh}: nodes that are far off for
 * their size count as one dipole (Barill and others, "Fast winding numbers for soups and clouds",
 * 2018), triangles nearby by their exact solid angle (van Oosterom and Strackee, 1983).
 *
 * <p>Sums of nodes are made once, some 12 bytes a triangle; asked by any number of threads through
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
    if (bvh.ids.length > 0) {
      w.sum(0, new double[8]);
    }
    return w;
  }

  /** Sums a subtree: normal times area, middle times area, area; and its box's spread. */
  private void sum(int ref, double[] out) {
    Arrays.fill(out, 0);
    if (ref < 0) {
      leaf(ref, out);
      return;
    }
    double[] part = new double[8];
    for (int i = 0; i < Bvh.WIDE && bvh.children[Bvh.WIDE * ref + i] != Bvh.NONE; i++) {
      sum(bvh.children[Bvh.WIDE * ref + i], part);
      int at = 7 * (Bvh.WIDE * ref + i);
      double far = 0;
      for (int k = 0; k < 3; k++) {
        float low = bvh.plane(ref, i, k);
        float high = bvh.plane(ref, i, 3 + k);
        sums[at + k] = (float) part[k];
        sums[at + 3 + k] = part[6] > 0 ? (float) (part[3 + k] / part[6]) : (low + high) / 2;
        double d = Math.max(sums[at + 3 + k] - (double) low, high - (double) sums[at + 3 + k]);
        far += d * d;
      }
      sums[at + 6] = (float) Math.sqrt(far);
      for (int k = 0; k < 7; k++) {
        out[k] += part[k];
      }
    }
  }

  /** A corner's coordinate in the corners of a leaf. */
  private double corner(int leaf, int triangle, int corner, int axis) {
    return bvh.corners[9 * Bvh.firstOf(leaf) + (3 * corner + axis) * Bvh.countOf(leaf) + triangle];
  }

  private void leaf(int ref, double[] out) {
    for (int i = 0; i < Bvh.countOf(ref); i++) {
      double ux = corner(ref, i, 1, 0) - corner(ref, i, 0, 0);
      double uy = corner(ref, i, 1, 1) - corner(ref, i, 0, 1);
      double uz = corner(ref, i, 1, 2) - corner(ref, i, 0, 2);
      double vx = corner(ref, i, 2, 0) - corner(ref, i, 0, 0);
      double vy = corner(ref, i, 2, 1) - corner(ref, i, 0, 1);
      double vz = corner(ref, i, 2, 2) - corner(ref, i, 0, 2);
      double nx = (uy * vz - uz * vy) / 2;
      double ny = (uz * vx - ux * vz) / 2;
      double nz = (ux * vy - uy * vx) / 2;
      double area = Math.sqrt(nx * nx + ny * ny + nz * nz);
      out[0] += nx;
      out[1] += ny;
      out[2] += nz;
      for (int k = 0; k < 3; k++) {
        out[3 + k] +=
            area * (corner(ref, i, 0, k) + corner(ref, i, 1, k) + corner(ref, i, 2, k)) / 3;
      }
      out[6] += area;
    }
  }

  public Query query() {
    return new Query();
  }

  /** Asks; holds its own stack. */
  public final class Query {
    private final int[] stack = new int[640];

    private Query() {}

    public double at(double x, double y, double z) {
      if (bvh.ids.length == 0) {
        return 0;
      }
      double solid = 0;
      double dipoles = 0;
      int top = 0;
      stack[top++] = 0;
      while (top > 0) {
        int ref = stack[--top];
        if (ref < 0) {
          for (int i = 0; i < Bvh.countOf(ref); i++) {
            solid += angle(ref, i, x, y, z);
          }
          continue;
        }
        for (int i = 0; i < Bvh.WIDE && bvh.children[Bvh.WIDE * ref + i] != Bvh.NONE; i++) {
          int at = 7 * (Bvh.WIDE * ref + i);
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
            stack[top++] = bvh.children[Bvh.WIDE * ref + i];
          }
        }
      }
      return (2 * solid + dipoles) / (4 * Math.PI);
    }

    /** Half the solid angle of a triangle. */
    private double angle(int leaf, int i, double x, double y, double z) {
      double ax = corner(leaf, i, 0, 0) - x;
      double ay = corner(leaf, i, 0, 1) - y;
      double az = corner(leaf, i, 0, 2) - z;
      double bx = corner(leaf, i, 1, 0) - x;
      double by = corner(leaf, i, 1, 1) - y;
      double bz = corner(leaf, i, 1, 2) - z;
      double cx = corner(leaf, i, 2, 0) - x;
      double cy = corner(leaf, i, 2, 1) - y;
      double cz = corner(leaf, i, 2, 2) - z;
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
