package holotome.core.bake;

import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import java.util.BitSet;

/** Which texels of a Cast's maps have surface: those whose middle lies in a triangle. O(texels). */
final class Coverage {
  private Coverage() {}

  /** One bit a texel, by rows from the top. */
  static BitSet of(Mesh cast, Maps maps) {
    int width = maps.missed().width();
    int height = maps.missed().height();
    int size = maps.size();
    int rows = maps.rows();
    BitSet out = new BitSet(Math.multiplyExact(width, height));
    int[] c = cast.uv().corners();
    float[] uv = cast.uv().coords();
    for (int t = 0; t < cast.triangleCount(); t++) {
      double ax = (double) uv[2 * c[3 * t]] * size - 0.5;
      double ay = (rows - (double) uv[2 * c[3 * t] + 1]) * size - 0.5;
      double bx = (double) uv[2 * c[3 * t + 1]] * size - 0.5;
      double by = (rows - (double) uv[2 * c[3 * t + 1] + 1]) * size - 0.5;
      double cx = (double) uv[2 * c[3 * t + 2]] * size - 0.5;
      double cy = (rows - (double) uv[2 * c[3 * t + 2] + 1]) * size - 0.5;
      double det = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
      if (det == 0) {
        continue;
      }
      int y0 = Math.max(0, (int) Math.ceil(Math.min(ay, Math.min(by, cy))));
      int y1 = Math.min(height - 1, (int) Math.floor(Math.max(ay, Math.max(by, cy))));
      int x0 = Math.max(0, (int) Math.ceil(Math.min(ax, Math.min(bx, cx))));
      int x1 = Math.min(width - 1, (int) Math.floor(Math.max(ax, Math.max(bx, cx))));
      for (int y = y0; y <= y1; y++) {
        for (int x = x0; x <= x1; x++) {
          double u = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / det;
          double v = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / det;
          if (u >= 0 && v >= 0 && u + v <= 1) {
            out.set(y * width + x);
          }
        }
      }
    }
    return out;
  }
}
