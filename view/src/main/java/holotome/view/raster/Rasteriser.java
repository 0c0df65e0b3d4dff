package holotome.view.raster;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.buffer.VisibilityBuffer;

/**
 * Draws all triangles of a mesh into a visibility buffer, on all cores. Triangles are numbered as
 * in the mesh. Keeps its working arrays between pictures: 12 bytes per vertex.
 */
public final class Rasteriser {
  private static final int GRAIN = 1 << 14;

  private long[] places = new long[0];
  private float[] depths = new float[0];

  public void draw(
      Mesh mesh, Projection projection, VisibilityBuffer out, double[] clip, Work work) {
    project(mesh, projection, work);
    bound(mesh.bounds(), projection, out);
    out.clear();
    TriangleFill fill = new TriangleFill(out, clip);
    Parallel.range(
        mesh.triangleCount(),
        GRAIN,
        work,
        (from, to) -> drawRange(mesh, projection, fill, from, to));
  }

  /**
   * Draws a dot of four pixels for each of some triangles, spread evenly over the mesh's order: a
   * first sight of a mesh too large to be drawn whole in time.
   */
  public static void dots(
      Mesh mesh, Projection projection, VisibilityBuffer out, double[] clip, int most, Work work) {
    bound(mesh.bounds(), projection, out);
    out.clear();
    TriangleFill fill = new TriangleFill(out, clip);
    int n = Math.min(most, mesh.triangleCount());
    double stride = (double) mesh.triangleCount() / n;
    Parallel.range(
        n,
        GRAIN,
        work,
        (from, to) -> {
          long[] place = new long[1];
          float[] depth = new float[1];
          float[] at = new float[3];
          for (int i = from; i < to; i++) {
            int t = (int) (i * stride);
            System.arraycopy(mesh.xyz(), 3 * mesh.triangles()[3 * t], at, 0, 3);
            projection.places(at, 0, 1, place, depth);
            if (place[0] != TriangleFill.NOWHERE) {
              fill.dot(place[0], depth[0], t);
            }
          }
        });
  }

  /** Notes in the buffer which part of it a box can reach; all of it if behind the eye. */
  public static void bound(Box b, Projection projection, VisibilityBuffer out) {
    float[] corner = new float[3];
    float[] p = new float[4];
    double[] reach = {out.width(), out.height(), 0, 0};
    for (int i = 0; i < 8 && !b.isEmpty(); i++) {
      corner[0] = (float) ((i & 1) == 0 ? b.minX() : b.maxX());
      corner[1] = (float) ((i & 2) == 0 ? b.minY() : b.maxY());
      corner[2] = (float) ((i & 4) == 0 ? b.minZ() : b.maxZ());
      projection.apply(corner, 0, p, 0);
      if (!(p[3] > 1e-12f)) {
        reach = new double[] {0, 0, out.width(), out.height()};
        break;
      }
      reach[0] = Math.min(reach[0], p[0] / p[3] - 2);
      reach[1] = Math.min(reach[1], p[1] / p[3] - 2);
      reach[2] = Math.max(reach[2], p[0] / p[3] + 2);
      reach[3] = Math.max(reach[3], p[1] / p[3] + 2);
    }
    out.x0 = Math.clamp((long) reach[0], 0, out.width());
    out.y0 = Math.clamp((long) reach[1], 0, out.height());
    out.x1 = Math.clamp((long) reach[2], out.x0, out.width());
    out.y1 = Math.clamp((long) reach[3], out.y0, out.height());
  }

  private void project(Mesh mesh, Projection projection, Work work) {
    int n = mesh.vertexCount();
    if (places.length < n) {
      places = new long[n];
      depths = new float[n];
    }
    Parallel.range(
        n, GRAIN, work, (from, to) -> projection.places(mesh.xyz(), from, to, places, depths));
  }

  private void drawRange(Mesh mesh, Projection projection, TriangleFill fill, int from, int to) {
    int[] tri = mesh.triangles();
    float[] corner = new float[12];
    for (int t = from; t < to; t++) {
      int va = tri[3 * t];
      int vb = tri[3 * t + 1];
      int vc = tri[3 * t + 2];
      long a = places[va];
      long b = places[vb];
      long c = places[vc];
      if (a == TriangleFill.NOWHERE || b == TriangleFill.NOWHERE || c == TriangleFill.NOWHERE) {
        for (int k = 0; k < 3; k++) {
          projection.apply(mesh.xyz(), tri[3 * t + k], corner, 4 * k);
        }
        fill.reaching(corner, t);
      } else if (fill.reaches(a, b, c) != 0) {
        fill.triangle(a, b, c, depths[va], depths[vb], depths[vc], t);
      }
    }
  }
}
