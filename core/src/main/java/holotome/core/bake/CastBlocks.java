package holotome.core.bake;

import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;

/**
 * Which triangles of a Cast reach into each square block of texels; of charts laid over each other
 * the leading one alone.
 *
 * @param across blocks side by side
 * @param down blocks above one another, from the top
 * @param start per block where its triangles begin, and the end
 * @param triangles block by block, in their order
 */
record CastBlocks(int across, int down, int[] start, int[] triangles) {

  /**
   * @param columns squares of the texture side by side
   * @param size texels of a square's side
   * @param margin texels beyond the block that it takes samples from
   */
  static CastBlocks of(Mesh cast, int size, int columns, int rows, int block, int margin) {
    int across = (size * columns + block - 1) / block;
    int down = (size * rows + block - 1) / block;
    int[] over = LaidOver.of(cast);
    int[] c = cast.uv().corners();
    float[] uv = cast.uv().coords();
    int[] start = new int[across * down + 1];
    int[] triangles = null;
    for (int pass = 0; pass < 2; pass++) {
      for (int t = 0; t < cast.triangleCount(); t++) {
        if (over != null && over[t] < 0) {
          continue;
        }
        double x0 = Double.POSITIVE_INFINITY;
        double x1 = Double.NEGATIVE_INFINITY;
        double y0 = Double.POSITIVE_INFINITY;
        double y1 = Double.NEGATIVE_INFINITY;
        for (int k = 0; k < 3; k++) {
          double x = (double) uv[2 * c[3 * t + k]] * size;
          double y = (rows - (double) uv[2 * c[3 * t + k] + 1]) * size;
          x0 = Math.min(x0, x);
          x1 = Math.max(x1, x);
          y0 = Math.min(y0, y);
          y1 = Math.max(y1, y);
        }
        if (!(x1 >= 0 && y1 >= 0 && x0 <= (double) size * columns && y0 <= (double) size * rows)) {
          continue;
        }
        int bx0 = Math.clamp((int) Math.floor((x0 - margin) / block), 0, across - 1);
        int bx1 = Math.clamp((int) Math.floor((x1 + margin) / block), 0, across - 1);
        int by0 = Math.clamp((int) Math.floor((y0 - margin) / block), 0, down - 1);
        int by1 = Math.clamp((int) Math.floor((y1 + margin) / block), 0, down - 1);
        for (int by = by0; by <= by1; by++) {
          for (int bx = bx0; bx <= bx1; bx++) {
            if (pass == 0) {
              start[by * across + bx + 1]++;
            } else {
              triangles[start[by * across + bx]++] = t;
            }
          }
        }
      }
      if (pass == 0) {
        for (int b = 0; b < across * down; b++) {
          start[b + 1] = Math.addExact(start[b + 1], start[b]);
        }
        triangles = new int[start[across * down]];
      }
    }
    // Filling moved every start on to where the next one was.
    System.arraycopy(start, 0, start, 1, across * down);
    start[0] = 0;
    return new CastBlocks(across, down, start, triangles);
  }

  /** The last triangle that a place of the texture lies in; -1 for none. */
  int triangleAt(Mesh cast, int size, int rows, int block, double u, double v) {
    int b =
        Math.clamp((int) ((rows - v) * size) / block, 0, down - 1) * across
            + Math.clamp((int) (u * size) / block, 0, across - 1);
    int[] c = cast.uv().corners();
    float[] uv = cast.uv().coords();
    for (int i = start[b + 1] - 1; i >= start[b]; i--) {
      int t = triangles[i];
      double ax = uv[2 * c[3 * t]];
      double ay = uv[2 * c[3 * t] + 1];
      double bx = uv[2 * c[3 * t + 1]] - ax;
      double by = uv[2 * c[3 * t + 1] + 1] - ay;
      double cx = uv[2 * c[3 * t + 2]] - ax;
      double cy = uv[2 * c[3 * t + 2] + 1] - ay;
      double det = bx * cy - cx * by;
      double s = ((u - ax) * cy - cx * (v - ay)) / det;
      double r = (bx * (v - ay) - (u - ax) * by) / det;
      if (s >= 0 && r >= 0 && s + r <= 1) {
        return t;
      }
    }
    return start[b + 1] > start[b] ? triangles[start[b + 1] - 1] : -1;
  }
}
