package holotome.core.polygon;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.attribute.Attributes;
import holotome.core.geometry.Vec;
import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;
import holotome.core.triangulation.Triangulator;
import java.util.Arrays;
import java.util.List;

/**
 * A polygon mesh as triangles: quadrangles along the shorter of their diagonals that leaves both
 * halves facing as the whole does, others by cutting ears in their mean plane, and where that fails
 * as a fan. Vertices that are left keep their order.
 *
 * @param mesh the triangles, with all attributes
 * @param faceOf the face that each triangle is part of
 * @param vertexOf the vertex that each of the mesh's is
 */
public record Triangulated(Mesh mesh, int[] faceOf, int[] vertexOf) {

  /** Triangulates all faces; O(n log n) for one of n corners. */
  public static Triangulated of(PolygonMesh p) {
    int[] place = new int[p.vertexLimit()];
    int[] vertexOf = new int[p.vertexCount()];
    int n = 0;
    for (int v = 0; v < place.length; v++) {
      if (p.hasVertex(v)) {
        vertexOf[n] = v;
        place[v] = n++;
      }
    }
    float[] xyz = new float[3 * n];
    for (int i = 0; i < n; i++) {
      double[] q = p.position(vertexOf[i]);
      for (int k = 0; k < 3; k++) {
        xyz[3 * i + k] = (float) q[k];
      }
    }
    int[] tri = new int[64];
    int[] corner = new int[64];
    int[] faceOf = new int[32];
    int count = 0;
    for (int f = 0; f < p.faceLimit(); f++) {
      if (!p.hasFace(f)) {
        continue;
      }
      int[] h = p.halfEdges(f);
      int[] cut = triangles(p, h);
      while (3 * count + cut.length > tri.length) {
        tri = Arrays.copyOf(tri, 2 * tri.length);
        corner = Arrays.copyOf(corner, 2 * corner.length);
        faceOf = Arrays.copyOf(faceOf, 2 * faceOf.length);
      }
      for (int i = 0; i < cut.length; i++) {
        corner[3 * count + i] = h[cut[i]];
        tri[3 * count + i] = place[p.origin(h[cut[i]])];
      }
      Arrays.fill(faceOf, count, count + cut.length / 3, f);
      count += cut.length / 3;
    }
    int[] corners = Arrays.copyOf(corner, 3 * count);
    int[] faces = Arrays.copyOf(faceOf, count);
    Attributes all = Attributes.NONE;
    for (String name : p.attributes()) {
      all = all.with(attribute(p, name, vertexOf, corners, faces));
    }
    return new Triangulated(
        new Mesh(xyz, Arrays.copyOf(tri, 3 * count), all, List.of()), faces, vertexOf);
  }

  /** Places in the face's row of corners, three for each triangle. */
  private static int[] triangles(PolygonMesh p, int[] h) {
    double[][] q = new double[h.length][];
    for (int i = 0; i < q.length; i++) {
      q[i] = p.position(p.origin(h[i]));
    }
    return triangles(q);
  }

  /**
   * One face as triangles.
   *
   * @param q its corners, one after the other
   * @return places in that row, three for each triangle
   */
  public static int[] triangles(double[][] q) {
    int n = q.length;
    if (n == 3) {
      return new int[] {0, 1, 2};
    }
    if (n == 4) {
      boolean first = faces(q, 0, 1, 2, 0, 2, 3);
      boolean second = faces(q, 1, 2, 3, 1, 3, 0);
      boolean shorter = Vec.distance(q[0], q[2]) <= Vec.distance(q[1], q[3]);
      return first && (shorter || !second)
          ? new int[] {0, 1, 2, 0, 2, 3}
          : new int[] {1, 2, 3, 1, 3, 0};
    }
    double[] normal = normal(q);
    double[] u = Vec.perpendicular(normal);
    double[] w = Vec.cross(normal, u);
    double[] flat = new double[2 * n];
    int[] numbers = new int[n];
    for (int i = 0; i < n; i++) {
      flat[2 * i] = Vec.dot(q[i], u);
      flat[2 * i + 1] = Vec.dot(q[i], w);
      numbers[i] = i;
    }
    int[] cut = Triangulator.triangulate(List.of(flat), List.of(numbers));
    if (cut != null && cut.length == 3 * (n - 2)) {
      return cut;
    }
    int[] fan = new int[3 * (n - 2)];
    for (int i = 0; i < n - 2; i++) {
      fan[3 * i + 1] = i + 1;
      fan[3 * i + 2] = i + 2;
    }
    return fan;
  }

  private static boolean faces(double[][] q, int a, int b, int c, int d, int e, int f) {
    double[] n = normal(q);
    return Vec.dot(cross(q, a, b, c), n) > 0 && Vec.dot(cross(q, d, e, f), n) > 0;
  }

  private static double[] cross(double[][] q, int a, int b, int c) {
    return Vec.cross(Vec.sub(q[b], q[a]), Vec.sub(q[c], q[a]));
  }

  /** The mean direction of a face, unit (Newell's method, Sutherland and others 1974). */
  static double[] normal(double[][] q) {
    double[] n = new double[3];
    for (int i = 0; i < q.length; i++) {
      double[] a = Vec.sub(q[i], q[0]);
      double[] b = Vec.sub(q[(i + 1) % q.length], q[0]);
      n = Vec.add(n, Vec.cross(a, b));
    }
    double[] unit = Vec.unit(n);
    return Vec.length(unit) < 0.5 ? new double[] {0, 0, 1} : unit;
  }

  private static Attribute attribute(
      PolygonMesh p, String name, int[] vertexOf, int[] corners, int[] faces) {
    Domain domain = p.domain(name);
    int[] from =
        switch (domain) {
          case VERTEX -> vertexOf;
          case CORNER -> corners;
          case TRIANGLE -> faces;
        };
    int[] index = null;
    if (domain == Domain.CORNER) {
      index = new int[from.length];
      Arrays.setAll(index, i -> i);
    }
    Kind kind = p.kind(name);
    return switch (kind) {
      case COLOUR -> {
        int[] c = new int[from.length];
        for (int i = 0; i < c.length; i++) {
          double[] v = p.value(name, from[i]);
          c[i] =
              Colours.argb(v[0], v[1], v[2]) & 0xffffff
                  | Math.clamp(Math.round(v[3]), 0, 255) << 24;
        }
        yield Attribute.of(name, kind, domain, c, index);
      }
      case LABEL -> {
        int[] c = new int[from.length];
        Arrays.setAll(c, i -> (int) Math.round(p.value(name, from[i])[0]));
        yield Attribute.of(name, kind, domain, c, index);
      }
      case MATERIAL -> {
        short[] c = new short[from.length];
        for (int i = 0; i < c.length; i++) {
          c[i] = (short) Math.round(p.value(name, from[i])[0]);
        }
        yield Attribute.materials(c);
      }
      default -> {
        float[] c = new float[kind.width() * from.length];
        for (int i = 0; i < from.length; i++) {
          double[] v = p.value(name, from[i]);
          for (int k = 0; k < kind.width(); k++) {
            c[kind.width() * i + k] = (float) v[k];
          }
        }
        yield Attribute.of(name, kind, domain, c, index);
      }
    };
  }
}
