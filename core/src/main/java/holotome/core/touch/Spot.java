package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.topology.Adjacency;

/**
 * A place of the Cast's surface, and the normal that the form has there: the mean of the triangles
 * around, but for those beyond a crease. To be set to one place after the other; one per thread.
 */
final class Spot {
  /** Cosine of the bend from which on an edge is a crease: 37 degrees. */
  private static final double CREASE = 0.8;

  /** Triangles around a corner that are looked at. */
  private static final int MOST_AROUND = 64;

  private final TouchGround ground;
  private final float[] p;
  private final int[] tri;

  /** The triangle whose corners' normals are known. */
  private int known = -1;

  private final double[] face = new double[3];
  private final double[] corners = new double[9];
  private final double[] other = new double[3];

  int triangle = -1;

  /** The weights of the second and third corner. */
  double second;

  double third;

  /** Where that is, in base coordinates. */
  double x;

  double y;
  double z;

  private final double[] frame = new double[9];
  private boolean isFrameKnown;

  /** The form's unit normal, once {@link #turn} was called. */
  final double[] normal = new double[3];

  Spot(TouchGround ground) {
    this.ground = ground;
    p = ground.cast().xyz();
    tri = ground.cast().triangles();
  }

  void set(int t, double u, double v) {
    isFrameKnown = false;
    triangle = t;
    second = u;
    third = v;
    double w = 1 - u - v;
    int a = 3 * tri[3 * t];
    int b = 3 * tri[3 * t + 1];
    int c = 3 * tri[3 * t + 2];
    x = w * p[a] + u * p[b] + v * p[c];
    y = w * p[a + 1] + u * p[b + 1] + v * p[c + 1];
    z = w * p[a + 2] + u * p[b + 2] + v * p[c + 2];
  }

  double[] place() {
    return new double[] {x, y, z};
  }

  /** The tangent, bitangent and normal that directions are stored in here, as rows. */
  double[] frame() {
    if (!isFrameKnown) {
      isFrameKnown = true;
      ground.split().frame(triangle, second, third, frame);
    }
    return frame;
  }

  double textureX() {
    return texture(0);
  }

  double textureY() {
    return texture(1);
  }

  private double texture(int k) {
    int[] c = ground.cast().uv().corners();
    float[] uv = ground.cast().uv().coords();
    return (1 - second - third) * uv[2 * c[3 * triangle] + k]
        + second * uv[2 * c[3 * triangle + 1] + k]
        + third * uv[2 * c[3 * triangle + 2] + k];
  }

  /** Finds the normal. */
  void turn() {
    if (known != triangle) {
      known = triangle;
      Measures.cross(p, tri, triangle, face);
      double l = Vec.length(face);
      for (int k = 0; k < 3; k++) {
        face[k] = l > 0 ? face[k] / l : k == 2 ? 1 : 0;
      }
      for (int k = 0; k < 3; k++) {
        around(k, l);
      }
    }
    double w = 1 - second - third;
    double l = 0;
    for (int k = 0; k < 3; k++) {
      normal[k] = w * corners[k] + second * corners[3 + k] + third * corners[6 + k];
      l += normal[k] * normal[k];
    }
    l = Math.sqrt(l);
    for (int k = 0; k < 3; k++) {
      normal[k] = l > 0 ? normal[k] / l : face[k];
    }
  }

  /** The normal at a corner, by the areas of the triangles that no crease parts from this one. */
  private void around(int corner, double area) {
    double[] sum = {area * face[0], area * face[1], area * face[2]};
    int first = 3 * triangle + corner;
    boolean isRound = false;
    int h = ground.twin()[Adjacency.previous(first)];
    for (int n = 0; h >= 0 && n < MOST_AROUND; n++) {
      if (h == first) {
        isRound = true;
        break;
      }
      if (!add(h / 3, sum)) {
        break;
      }
      h = ground.twin()[Adjacency.previous(h)];
    }
    h = isRound ? -1 : ground.twin()[first];
    for (int n = 0; h >= 0 && n < MOST_AROUND; n++) {
      if (!add(h / 3, sum)) {
        break;
      }
      h = ground.twin()[Adjacency.next(h)];
    }
    double l = Vec.length(sum);
    for (int k = 0; k < 3; k++) {
      corners[3 * corner + k] = l > 0 ? sum[k] / l : face[k];
    }
  }

  /** Adds a triangle's area normal; whether it belongs to the same side of every crease. */
  private boolean add(int t, double[] sum) {
    Measures.cross(p, tri, t, other);
    double l = Vec.length(other);
    boolean belongs = Vec.dot(other, face) >= CREASE * l;
    for (int k = 0; belongs && k < 3; k++) {
      sum[k] += other[k];
    }
    return belongs;
  }

  /** The unit normal of the triangle itself, once {@link #turn} was called. */
  double[] face() {
    return face;
  }
}
