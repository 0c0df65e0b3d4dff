package holotome.core.measure;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.solve.CircleFit;
import holotome.core.solve.SphereFit;
import holotome.core.task.Work;

/** What a picked point is drawn to. */
public enum Snap {
  SURFACE,
  VERTEX,
  EDGE,
  BORDER,
  HOLE_CENTRE,
  SPHERE_CENTRE;

  /**
   * The point that is meant by one picked on a triangle, in the mesh's coordinates.
   *
   * @param borders loops of border points, 3 floats each
   * @param reach around the point, for a sphere's surface; a border farther off is not meant
   * @return the point itself where there is nothing of the kind near
   * @throws holotome.core.task.Failure where the surface there is no sphere's
   */
  public double[] of(
      Mesh mesh, int triangle, double[] at, float[][] borders, double reach, Work work) {
    return switch (this) {
      case SURFACE -> at;
      case VERTEX -> vertex(mesh, triangle, at);
      case EDGE -> edge(mesh, triangle, at);
      case BORDER -> border(at, borders, reach);
      case HOLE_CENTRE -> {
        float[] loop = nearest(at, borders, Double.POSITIVE_INFINITY);
        yield loop == null || loop.length < 9 ? at : CircleFit.of(doubles(loop)).centre();
      }
      case SPHERE_CENTRE -> SphereFit.of(Patch.around(mesh, at, reach, work).thinned()[0]).centre();
    };
  }

  private static double[] vertex(Mesh mesh, int triangle, double[] at) {
    double[] best = at;
    double least = Double.POSITIVE_INFINITY;
    for (int k = 3 * triangle; k < 3 * triangle + 3; k++) {
      double[] p = Vec.at(mesh.xyz(), mesh.triangles()[k]);
      if (Vec.distance(p, at) < least) {
        least = Vec.distance(p, at);
        best = p;
      }
    }
    return best;
  }

  private static double[] edge(Mesh mesh, int triangle, double[] at) {
    double[] best = at;
    double least = Double.POSITIVE_INFINITY;
    for (int k = 0; k < 3; k++) {
      double[] q =
          onLine(
              Vec.at(mesh.xyz(), mesh.triangles()[3 * triangle + k]),
              Vec.at(mesh.xyz(), mesh.triangles()[3 * triangle + (k + 1) % 3]),
              at);
      if (Vec.distance(q, at) < least) {
        least = Vec.distance(q, at);
        best = q;
      }
    }
    return best;
  }

  private static double[] onLine(double[] a, double[] b, double[] p) {
    double[] d = Vec.sub(b, a);
    double l2 = Vec.dot(d, d);
    double f = l2 > 0 ? Math.clamp(Vec.dot(Vec.sub(p, a), d) / l2, 0.0, 1.0) : 0;
    return Vec.add(a, Vec.mul(d, f));
  }

  private static double[] border(double[] at, float[][] borders, double reach) {
    float[] loop = nearest(at, borders, reach);
    if (loop == null) {
      return at;
    }
    double[] best = at;
    double least = Double.POSITIVE_INFINITY;
    int n = loop.length / 3;
    for (int i = 0; i < n; i++) {
      double[] q = onLine(Vec.at(loop, i), Vec.at(loop, (i + 1) % n), at);
      if (Vec.distance(q, at) < least) {
        least = Vec.distance(q, at);
        best = q;
      }
    }
    return best;
  }

  private static float[] nearest(double[] at, float[][] borders, double reach) {
    float[] best = null;
    double least = reach;
    for (float[] loop : borders) {
      for (int i = 0; i < loop.length / 3; i++) {
        double d = Vec.distance(Vec.at(loop, i), at);
        if (d < least) {
          least = d;
          best = loop;
        }
      }
    }
    return best;
  }

  private static double[] doubles(float[] a) {
    double[] out = new double[a.length];
    for (int i = 0; i < a.length; i++) {
      out[i] = a[i];
    }
    return out;
  }
}
