package holotome.demo;

import holotome.core.geometry.Similarity;
import holotome.core.image.Colours;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.List;

/**
 * The scan's colour as a texture: the lower half holds the bollard rolled out, the upper left the
 * paving from above, the upper right the bar and a patch of plain grey for debris.
 */
final class Atlas {
  private static final int LARGEST = 4096;

  /** A little more than once around, so that triangles across the seam find their colour. */
  private static final double AROUND = 2 * Math.PI * 1.05;

  private static final double REACH = 1.36;
  private static final double BAR_V = 0.55;

  private Atlas() {}

  static Mesh textured(BollardScan scan, BollardScan.Made made, Work work) {
    Mesh m = made.mesh();
    RingGrid grid = scan.grid();
    int[] ends = made.ends();
    Similarity back = BollardScan.CAPTURE.inverse();
    // Two texture vertices per mesh vertex: the second stands once around from the first.
    float[] coords = new float[Math.multiplyExact(4, m.vertexCount())];
    int v = 0;
    set(coords, v++, 0, 0);
    for (int r = 0; r < grid.rings(); r++) {
      double place = grid.place()[r];
      for (int j = 0; j < grid.points()[r]; j++) {
        if (scan.kept(r, j)) {
          double angle = 2 * Math.PI * j / grid.points()[r];
          set(coords, v++, angle, Math.min(place, Bollard.LENGTH));
        }
      }
    }
    int[] tri = m.triangles();
    int[] corners = new int[tri.length];
    int barEnd = 3 * ends[2];
    for (int i = 0; i < tri.length; i++) {
      corners[i] = 2 * tri[i];
    }
    wrapSeam(tri, corners, coords, 3 * ends[0]);
    float[] all = java.util.Arrays.copyOf(coords, coords.length + 2 * (tri.length - 3 * ends[0]));
    int next = coords.length / 2;
    double[][] bar = Extras.barEnds();
    double[] axis = holotome.core.geometry.Vec.unit(holotome.core.geometry.Vec.sub(bar[1], bar[0]));
    for (int i = 3 * ends[0]; i < tri.length; i++) {
      double[] p =
          back.apply(m.xyz()[3 * tri[i]], m.xyz()[3 * tri[i] + 1], m.xyz()[3 * tri[i] + 2]);
      double u;
      double w;
      if (i < 3 * ends[1]) {
        u = 0.25 + 0.25 * p[0] / REACH;
        w = 0.75 + 0.25 * p[1] / REACH;
      } else if (i < barEnd) {
        double along =
            holotome.core.geometry.Vec.dot(holotome.core.geometry.Vec.sub(p, bar[0]), axis);
        u = 0.52 + 0.4 * along / Extras.BAR_LENGTH;
        w = BAR_V;
      } else {
        u = 0.97;
        w = 0.8;
      }
      all[2 * next] = (float) u;
      all[2 * next + 1] = (float) w;
      corners[i] = next++;
    }
    Raster image = paint(size(m.triangleCount()), work);
    return new Mesh(
        m.xyz(),
        tri,
        null,
        new Uv(all, corners),
        new short[m.triangleCount()],
        List.of(new Material("quay_bollard", 0xffffffff, image)));
  }

  private static void set(float[] coords, int v, double angle, double place) {
    float w = (float) (0.49 * place / Bollard.LENGTH + 0.002);
    coords[4 * v] = (float) (angle / AROUND);
    coords[4 * v + 1] = w;
    coords[4 * v + 2] = (float) ((angle + 2 * Math.PI) / AROUND);
    coords[4 * v + 3] = w;
  }

  private static void wrapSeam(int[] tri, int[] corners, float[] coords, int end) {
    for (int i = 0; i < end; i += 3) {
      float most = 0;
      for (int k = 0; k < 3; k++) {
        most = Math.max(most, coords[4 * tri[i + k]]);
      }
      for (int k = 0; k < 3; k++) {
        float u = coords[4 * tri[i + k]];
        // The second place lies past the right rim for all but the first few degrees.
        if (most - u > 0.5 && coords[4 * tri[i + k] + 2] <= 1) {
          corners[i + k] = 2 * tri[i + k] + 1;
        }
      }
    }
  }

  /** About as fine as the mesh: a few texels per triangle. */
  private static int size(int triangles) {
    int size = 512;
    while (size < LARGEST && (long) size * size < 8L * triangles) {
      size *= 2;
    }
    return size;
  }

  private static Raster paint(int size, Work work) {
    int[] pixels = new int[size * size];
    Parallel.range(
        size,
        16,
        work,
        (from, to) -> {
          double[] p = new double[6];
          for (int y = from; y < to; y++) {
            double v = 1 - (y + 0.5) / size;
            for (int x = 0; x < size; x++) {
              pixels[y * size + x] = colour((x + 0.5) / size, v, p);
            }
          }
        });
    return new Raster(size, size, pixels);
  }

  private static int colour(double u, double v, double[] p) {
    if (v < 0.5) {
      double place = Math.clamp((v - 0.002) / 0.49, 0.0, 1.0) * Bollard.LENGTH;
      Bollard.point(place, u * AROUND, p);
      return Paint.bollard(p[0], p[1], p[2]);
    }
    if (u < 0.5) {
      return Paint.quay((u - 0.25) / 0.25 * REACH, (v - 0.75) / 0.25 * REACH);
    }
    if (v < 0.6) {
      return Paint.bar(Math.clamp((u - 0.52) / 0.4, 0.0, 1.0) * Extras.BAR_LENGTH);
    }
    return Colours.argb(72, 69, 63);
  }
}
