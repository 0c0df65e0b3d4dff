package holotome.core.unwrap;

import holotome.core.mesh.Uv;
import java.util.BitSet;
import java.util.List;

/** Texture coordinates put together chart by chart, where each comes to lie. */
final class PackedUv {
  private final int size;
  private final float[] coords;
  private final int[] corners;
  private final BitSet mayMirror = new BitSet();
  private int base;

  /**
   * @param all charts that will be put
   * @param size of a square, in pixels
   */
  PackedUv(List<Charts.Chart> all, int size) {
    this.size = size;
    int vertices = 0;
    int triangles = 0;
    for (Charts.Chart c : all) {
      vertices += c.points().length / 2;
      triangles += c.triangles().length;
      for (Charts.Chart o : c.beside()) {
        triangles += o.triangles().length;
      }
      for (Charts.Chart o : c.over()) {
        vertices += o.uv().length / 2;
        triangles += o.triangles().length;
      }
    }
    coords = new float[2 * vertices];
    corners = new int[3 * triangles];
  }

  /**
   * A chart, those beside and those laid over it: scaled to pixels, turned, and then moved by so
   * many.
   */
  void put(Charts.Chart chart, double scale, double angle, double x, double y) {
    double c = scale * Math.cos(angle);
    double s = scale * Math.sin(angle);
    double[] p = chart.uv();
    for (int i = 0; i < p.length; i += 2) {
      coords[2 * base + i] = (float) ((c * p[i] - s * p[i + 1] + x) / size);
      coords[2 * base + i + 1] = (float) ((s * p[i] + c * p[i + 1] + y) / size);
    }
    int[] k = chart.corners();
    for (int i = 0; i < k.length; i++) {
      corners[3 * chart.triangles()[i / 3] + i % 3] = base + k[i];
    }
    base += p.length / 2;
    for (Charts.Chart b : chart.beside()) {
      put(b, scale, angle, x, y);
    }
    for (Charts.Chart o : chart.over()) {
      for (int t : o.triangles()) {
        mayMirror.set(t);
      }
      put(o, scale, angle, x, y);
    }
  }

  /** The coordinates; none but what is laid over others lies on its back by rounding. */
  Uv uv() {
    int n = corners.length / 3;
    int[] upright = new int[corners.length - 3 * mayMirror.cardinality()];
    int at = 0;
    for (int t = mayMirror.nextClearBit(0); t < n; t = mayMirror.nextClearBit(t + 1)) {
      System.arraycopy(corners, 3 * t, upright, at, 3);
      at += 3;
    }
    UprightFloats.mend(coords, upright);
    return new Uv(coords, corners);
  }
}
