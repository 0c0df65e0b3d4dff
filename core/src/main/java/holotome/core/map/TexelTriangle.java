package holotome.core.map;

import holotome.core.mesh.Mesh;

/**
 * Where a triangle lies among the texels of maps: the middle of the texel in column x and row y, of
 * rows from the top, is the point (x, y). To be set to one triangle after the other.
 */
public final class TexelTriangle {
  private final float[] uv;
  private final int[] corners;
  private final int size;
  private final int rows;
  private final int width;
  private final int height;
  private double ax;
  private double ay;
  private double bx;
  private double by;
  private double cx;
  private double cy;
  private double det;

  /** The texels that it can hold the middles of: first and last column and row. */
  public int left;

  public int right;
  public int top;
  public int bottom;

  /**
   * @param mesh with texture coordinates
   * @param size texels of the side of a square of the texture
   * @param columns squares of the texture beside one another
   * @param rows and above one another
   */
  public TexelTriangle(Mesh mesh, int size, int columns, int rows) {
    uv = mesh.uv().coords();
    corners = mesh.uv().corners();
    this.size = size;
    this.rows = rows;
    width = size * columns;
    height = size * rows;
  }

  /** Takes a triangle; whether it has an area in the texture. */
  public boolean take(int t) {
    ax = (double) uv[2 * corners[3 * t]] * size - 0.5;
    ay = (rows - (double) uv[2 * corners[3 * t] + 1]) * size - 0.5;
    bx = (double) uv[2 * corners[3 * t + 1]] * size - 0.5 - ax;
    by = (rows - (double) uv[2 * corners[3 * t + 1] + 1]) * size - 0.5 - ay;
    cx = (double) uv[2 * corners[3 * t + 2]] * size - 0.5 - ax;
    cy = (rows - (double) uv[2 * corners[3 * t + 2] + 1]) * size - 0.5 - ay;
    det = bx * cy - cx * by;
    left = Math.max(0, (int) Math.ceil(ax + Math.min(0, Math.min(bx, cx))));
    right = Math.min(width - 1, (int) Math.floor(ax + Math.max(0, Math.max(bx, cx))));
    top = Math.max(0, (int) Math.ceil(ay + Math.min(0, Math.min(by, cy))));
    bottom = Math.min(height - 1, (int) Math.floor(ay + Math.max(0, Math.max(by, cy))));
    return det != 0;
  }

  /** Leaves out the texels beyond a box. */
  public void within(double x0, double y0, double x1, double y1) {
    left = Math.max(left, (int) Math.ceil(x0));
    right = Math.min(right, (int) Math.floor(x1));
    top = Math.max(top, (int) Math.ceil(y0));
    bottom = Math.min(bottom, (int) Math.floor(y1));
  }

  /** The weight of the second corner at a texel; below 0 beyond the edge across from it. */
  public double second(double x, double y) {
    return ((x - ax) * cy - cx * (y - ay)) / det;
  }

  /** The weight of the third corner at a texel. */
  public double third(double x, double y) {
    return (bx * (y - ay) - (x - ax) * by) / det;
  }

  /** The column of a point given by the weights of its second and third corner. */
  public double x(double second, double third) {
    return ax + second * bx + third * cx;
  }

  public double y(double second, double third) {
    return ay + second * by + third * cy;
  }
}
