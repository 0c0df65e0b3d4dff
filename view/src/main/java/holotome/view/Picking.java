package holotome.view;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Similarity;
import holotome.core.mesh.Vec;
import holotome.core.trim.Fence;
import java.util.BitSet;

/** What lies under pixels: from the very buffer that was drawn. */
public final class Picking {
  private Picking() {}

  /**
   * The point of a triangle under a pixel's centre, in working space: where the ray through the
   * pixel meets the triangle's plane, held within the triangle.
   */
  public static double[] point(
      Mesh mesh,
      Similarity place,
      int triangle,
      Camera camera,
      double x,
      double y,
      int width,
      int height) {
    double[] ray = camera.ray(x, y, width, height);
    double[] o = {ray[0], ray[1], ray[2]};
    double[] d = {ray[3], ray[4], ray[5]};
    double[][] p = new double[3][];
    for (int k = 0; k < 3; k++) {
      p[k] = place.apply(Vec.at(mesh.xyz(), mesh.triangles()[3 * triangle + k]));
    }
    double[] u = Vec.sub(p[1], p[0]);
    double[] v = Vec.sub(p[2], p[0]);
    double[] n = Vec.cross(u, v);
    double down = Vec.dot(n, d);
    if (Math.abs(down) < 1e-12 * Vec.length(n)) {
      return p[0];
    }
    double t = Vec.dot(n, Vec.sub(p[0], o)) / down;
    double[] hit = Vec.add(o, Vec.mul(d, t));
    double nn = Vec.dot(n, n);
    double[] r = Vec.sub(hit, p[0]);
    double b = Vec.dot(Vec.cross(r, v), n) / nn;
    double c = Vec.dot(Vec.cross(u, r), n) / nn;
    b = Math.clamp(b, 0.0, 1.0);
    c = Math.clamp(c, 0.0, 1 - b);
    return Vec.add(p[0], Vec.add(Vec.mul(u, b), Vec.mul(v, c)));
  }

  /**
   * The triangles seen in any pixel whose centre lies inside an outline (x, y in turn, in pixels).
   */
  public static BitSet visible(VisibilityBuffer buffer, double[] outline) {
    double minX = Double.POSITIVE_INFINITY;
    double minY = minX;
    double maxX = -minX;
    double maxY = -minX;
    for (int i = 0; i < outline.length; i += 2) {
      minX = Math.min(minX, outline[i]);
      maxX = Math.max(maxX, outline[i]);
      minY = Math.min(minY, outline[i + 1]);
      maxY = Math.max(maxY, outline[i + 1]);
    }
    BitSet out = new BitSet();
    int y0 = Math.max(0, (int) Math.floor(minY));
    int y1 = Math.min(buffer.height() - 1, (int) Math.ceil(maxY));
    int x0 = Math.max(0, (int) Math.floor(minX));
    int x1 = Math.min(buffer.width() - 1, (int) Math.ceil(maxX));
    for (int y = y0; y <= y1; y++) {
      for (int x = x0; x <= x1; x++) {
        int t = buffer.triangle(x, y);
        if (t >= 0 && Fence.contains(outline, x + 0.5, y + 0.5)) {
          out.set(t);
        }
      }
    }
    return out;
  }

  /**
   * The triangles of a mesh that face the viewer, lie inside an outline and are hidden by nothing:
   * those seen in a pixel, and those too small to hold a pixel's centre whose middle lies at the
   * depth of what is seen there.
   *
   * @param toPixels as the buffer was drawn with
   * @param slack how much deeper than what is seen a middle may lie, as a share of the scene's
   *     depth
   */
  public static BitSet visible(
      Mesh mesh,
      Similarity place,
      VisibilityBuffer buffer,
      double[] toPixels,
      double[] outline,
      double slack) {
    BitSet out = visible(buffer, outline);
    int[] tri = mesh.triangles();
    long[] words = new long[(mesh.triangleCount() + 63) / 64];
    double[] m = Projection.multiply(toPixels, place);
    holotome.core.task.Parallel.range(
        mesh.triangleCount(),
        1 << 14,
        holotome.core.task.Work.unwatched(),
        (from, to) -> {
          float[] p = mesh.xyz();
          for (int t = from; t < to; t++) {
            double[] c = new double[3];
            for (int k = 0; k < 9; k++) {
              c[k % 3] += p[3 * tri[3 * t + k / 3] + k % 3] / 3.0;
            }
            double w = m[12] * c[0] + m[13] * c[1] + m[14] * c[2] + m[15];
            if (!(w > 0)) {
              continue;
            }
            double x = (m[0] * c[0] + m[1] * c[1] + m[2] * c[2] + m[3]) / w;
            double y = (m[4] * c[0] + m[5] * c[1] + m[6] * c[2] + m[7]) / w;
            int px = (int) Math.floor(x);
            int py = (int) Math.floor(y);
            if (px < 0 || py < 0 || px >= buffer.width() || py >= buffer.height()) {
              continue;
            }
            long cell = buffer.cells[py * buffer.width() + px];
            if (cell == VisibilityBuffer.EMPTY) {
              continue;
            }
            double seen = VisibilityBuffer.depth(cell);
            double z = (m[8] * c[0] + m[9] * c[1] + m[10] * c[2] + m[11]) / w;
            if (z <= seen + slack && Fence.contains(outline, x, y) && faces(m, p, tri, t)) {
              words[t >>> 6] |= 1L << t;
            }
          }
        });
    out.or(BitSet.valueOf(words));
    return out;
  }

  /** Whether a triangle turns its front to the viewer. */
  private static boolean faces(double[] m, float[] p, int[] tri, int t) {
    double[] s = new double[6];
    for (int k = 0; k < 3; k++) {
      int v = 3 * tri[3 * t + k];
      double w = m[12] * p[v] + m[13] * p[v + 1] + m[14] * p[v + 2] + m[15];
      s[2 * k] = (m[0] * p[v] + m[1] * p[v + 1] + m[2] * p[v + 2] + m[3]) / w;
      s[2 * k + 1] = (m[4] * p[v] + m[5] * p[v + 1] + m[6] * p[v + 2] + m[7]) / w;
    }
    return (s[2] - s[0]) * (s[5] - s[1]) - (s[4] - s[0]) * (s[3] - s[1]) < 0;
  }
}
