package holotome.core.tangent;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;

/**
 * The tangent space that baked normals are exchanged in: Mikkelsen, "Simulation of wrinkled
 * surfaces revisited" (2008), section 3, as his reference (MikkTSpace) has it and glTF 2.0 asks
 * for. Around a vertex, triangles that share edges and have their texture turned the same way form
 * a group with one tangent: the mean of their directions of growing u, laid into the plane of the
 * normal, each by the triangle's angle there. Triangles without area in the texture go with any
 * group and add nothing.
 *
 * <p>O(T), 60 bytes a triangle while at work.
 */
final class StandardTangents {
  private static final float[] UNIT_X = {1, 0, 0};

  private final float[] p;
  private final int[] tri;
  private final float[] uv;
  private final int[] uvCorners;
  private final float[] normals;

  /** Corners of one place, normal and texture coordinate, by values. */
  private final int[] corners;

  private final int[] twin;

  /** Per triangle: 1 where u, v turn as the triangle does, -1 where against it, 0 for either. */
  private final byte[] turned;

  /** The same, where those that go with either have the way of the first group that took them. */
  private final byte[] goes;

  /** Per corner, the number of its group; -1 for none yet. */
  final int[] group;

  int groups;

  /** Unit, and the handedness of the bitangent: 4 floats a group. */
  float[] tangents;

  /**
   * @param mesh with texture coordinates
   * @param corners per corner a number that corners have in common where place, normal and texture
   *     coordinates are the same
   * @param normals 3 floats for each such number
   */
  StandardTangents(Mesh mesh, int[] corners, float[] normals) {
    this.p = mesh.xyz();
    this.tri = mesh.triangles();
    this.uv = mesh.uv().coords();
    this.uvCorners = mesh.uv().corners();
    this.corners = corners;
    this.normals = normals;
    int n = tri.length / 3;
    turned = new byte[n];
    for (int t = 0; t < n; t++) {
      turned[t] = (byte) (isWithoutSize(t) ? 0 : Math.signum(area(t)));
    }
    goes = turned.clone();
    float[] places = new float[normals.length];
    for (int c = 0; c < corners.length; c++) {
      System.arraycopy(p, 3 * tri[c], places, 3 * corners[c], 3);
    }
    twin = Adjacency.of(new Mesh(places, corners), Work.unwatched()).twin();
    group = new int[corners.length];
    Arrays.fill(group, -1);
    find();
  }

  /** Twice the signed area in the texture. */
  private float area(int t) {
    int a = 2 * uvCorners[3 * t];
    int b = 2 * uvCorners[3 * t + 1];
    int c = 2 * uvCorners[3 * t + 2];
    return (uv[b] - uv[a]) * (uv[c + 1] - uv[a + 1]) - (uv[b + 1] - uv[a + 1]) * (uv[c] - uv[a]);
  }

  /** Whether two corners are at one place. */
  private boolean isWithoutSize(int t) {
    return isSame(tri[3 * t], tri[3 * t + 1])
        || isSame(tri[3 * t + 1], tri[3 * t + 2])
        || isSame(tri[3 * t + 2], tri[3 * t]);
  }

  private boolean isSame(int v, int w) {
    return p[3 * v] == p[3 * w] && p[3 * v + 1] == p[3 * w + 1] && p[3 * v + 2] == p[3 * w + 2];
  }

  private void find() {
    tangents = new float[4 * 1024];
    int[] fan = new int[64];
    for (int c = 0; c < corners.length; c++) {
      if (group[c] < 0 && turned[c / 3] != 0) {
        byte way = turned[c / 3];
        fan[0] = c;
        group[c] = groups;
        int n = 1;
        // To both sides, as far as the texture turns the same way.
        for (int side = 0; side < 2; side++) {
          int next = beside(c, side);
          while (next >= 0 && joins(next, way)) {
            group[next] = groups;
            fan = n == fan.length ? Arrays.copyOf(fan, 2 * n) : fan;
            fan[n++] = next;
            next = beside(next, side);
          }
        }
        Arrays.sort(fan, 0, n);
        add(fan, n, way);
      }
    }
    // Whatever is left has no direction of its own. A triangle without size takes that of another
    // at the vertex; all else has what the reference gives it.
    int[] ofVertex = new int[normals.length / 3];
    Arrays.fill(ofVertex, -1);
    for (int c = 0; c < corners.length; c++) {
      if (group[c] >= 0 && ofVertex[corners[c]] < 0) {
        ofVertex[corners[c]] = group[c];
      }
    }
    int none = -1;
    for (int c = 0; c < corners.length; c++) {
      if (group[c] < 0 && isWithoutSize(c / 3)) {
        group[c] = ofVertex[corners[c]];
      }
      if (group[c] < 0) {
        if (none < 0) {
          none = groups;
          put(UNIT_X, -1);
        }
        group[c] = none;
      }
    }
    tangents = Arrays.copyOf(tangents, 4 * groups);
  }

  private boolean joins(int corner, byte way) {
    int t = corner / 3;
    if (group[corner] >= 0 || isWithoutSize(t)) {
      return false;
    }
    if (goes[t] == 0) {
      goes[t] = way;
    }
    return goes[t] == way;
  }

  /**
   * The corner at the same vertex in the triangle across one of the two edges there; -1 for none.
   */
  private int beside(int corner, int side) {
    int t = 3 * (corner / 3);
    int k = corner % 3;
    int edge = side == 0 ? corner : t + (k + 2) % 3;
    int across = twin[edge];
    if (across < 0) {
      return -1;
    }
    int u = 3 * (across / 3);
    // The edge runs the other way there: from its far end to the vertex, or from the vertex.
    return side == 0 ? u + (across - u + 1) % 3 : across;
  }

  private void add(int[] fan, int n, byte way) {
    double x = 0;
    double y = 0;
    double z = 0;
    float[] d = new float[3];
    for (int i = 0; i < n; i++) {
      if (turned[fan[i] / 3] == 0 || !along(fan[i] / 3, d)) {
        continue;
      }
      int v = 3 * corners[fan[i]];
      if (!flatten(d, v)) {
        continue;
      }
      double angle = angle(fan[i]);
      x += angle * d[0];
      y += angle * d[1];
      z += angle * d[2];
    }
    double l = Math.sqrt(x * x + y * y + z * z);
    put(
        l > Float.MIN_NORMAL
            ? new float[] {(float) (x / l), (float) (y / l), (float) (z / l)}
            : UNIT_X,
        way);
  }

  private void put(float[] tangent, int way) {
    if (4 * groups == tangents.length) {
      tangents = Arrays.copyOf(tangents, 2 * tangents.length);
    }
    System.arraycopy(tangent, 0, tangents, 4 * groups, 3);
    tangents[4 * groups++ + 3] = way;
  }

  /** The direction in which u grows over a triangle, of unit length; whether there is any. */
  private boolean along(int t, float[] out) {
    int a = 2 * uvCorners[3 * t];
    int b = 2 * uvCorners[3 * t + 1];
    int c = 2 * uvCorners[3 * t + 2];
    float t1 = uv[b + 1] - uv[a + 1];
    float t2 = uv[c + 1] - uv[a + 1];
    double square = 0;
    double[] d = new double[3];
    for (int k = 0; k < 3; k++) {
      float e1 = p[3 * tri[3 * t + 1] + k] - p[3 * tri[3 * t] + k];
      float e2 = p[3 * tri[3 * t + 2] + k] - p[3 * tri[3 * t] + k];
      d[k] = turned[t] * ((double) t2 * e1 - (double) t1 * e2);
      square += d[k] * d[k];
    }
    double l = Math.sqrt(square);
    for (int k = 0; k < 3; k++) {
      out[k] = (float) (d[k] / l);
    }
    return l > 0;
  }

  /**
   * Lays a direction into the plane of a normal, of unit length; whether anything is left of it.
   */
  private boolean flatten(float[] d, int v) {
    double dot =
        (double) d[0] * normals[v]
            + (double) d[1] * normals[v + 1]
            + (double) d[2] * normals[v + 2];
    double square = 0;
    for (int k = 0; k < 3; k++) {
      d[k] -= (float) (dot * normals[v + k]);
      square += (double) d[k] * d[k];
    }
    float l = (float) Math.sqrt(square);
    for (int k = 0; k < 3; k++) {
      d[k] = l > 0 ? d[k] / l : 0;
    }
    return l > Float.MIN_NORMAL;
  }

  /** The triangle's angle at a corner, as it is seen along the normal. */
  private double angle(int corner) {
    int t = 3 * (corner / 3);
    int k = corner - t;
    int v = 3 * corners[corner];
    float[] before = new float[3];
    float[] after = new float[3];
    for (int i = 0; i < 3; i++) {
      float here = p[3 * tri[corner] + i];
      before[i] = p[3 * tri[t + (k + 2) % 3] + i] - here;
      after[i] = p[3 * tri[t + (k + 1) % 3] + i] - here;
    }
    flatten(before, v);
    flatten(after, v);
    double dot = before[0] * after[0] + before[1] * after[1] + before[2] * after[2];
    return Math.acos(Math.clamp(dot, -1.0, 1.0));
  }
}
