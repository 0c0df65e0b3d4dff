package holotome.core.io;

import holotome.core.array.Grouping;
import holotome.core.array.LongIndex;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.attribute.Attributes;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.polygon.Triangulated;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The faces, with three corners or more, that the triangles of a mesh are parts of: triangles with
 * one number in the attribute {@link Attribute#FACE} are one face, as long as they still lie around
 * one another as the parts of a face do, and no seam parts them.
 *
 * @param start where the corners of each face begin, and at the end how many there are
 * @param corners of the mesh (three times the triangle, and which of its corners), in turn
 */
record Faces(int[] start, int[] corners) {
  /** Faces of more corners are left as the fans they came in. */
  private static final int LARGEST = 1 << 12;

  int count() {
    return start.length - 1;
  }

  /** A corner's triangle: the face's material is that of its first. */
  int triangle(int face) {
    return corners[start[face]] / 3;
  }

  /** Corners of the face that has most. */
  int most() {
    int most = 0;
    for (int f = 0; f < count(); f++) {
      most = Math.max(most, start[f + 1] - start[f]);
    }
    return most;
  }

  /** How many have more than three corners. */
  int polygons() {
    int n = 0;
    for (int f = 0; f < count(); f++) {
      n += start[f + 1] - start[f] > 3 ? 1 : 0;
    }
    return n;
  }

  /** Null for a mesh whose triangles are not known to be parts of anything. */
  static Faces of(Mesh mesh) {
    Attribute face = mesh.attributes().named(Attribute.FACE);
    if (face == null || face.kind() != Kind.LABEL || face.domain() != Domain.TRIANGLE) {
      return null;
    }
    int n = mesh.triangleCount();
    LongIndex numbers = new LongIndex();
    int[] of = new int[n];
    for (int t = 0; t < n; t++) {
      of[t] = numbers.add(face.ints()[t]);
    }
    Grouping by = Grouping.of(of, numbers.size(), Work.unwatched());
    Ints start = new Ints(n);
    Ints corners = new Ints(3 * n);
    for (int f = 0; f < numbers.size(); f++) {
      int[] parts = Arrays.copyOfRange(by.order(), by.start()[f], by.start()[f + 1]);
      int[] ring = ring(mesh, parts);
      for (int i = 0; i < (ring == null ? parts.length : 1); i++) {
        start.add(corners.n);
        for (int c : ring != null ? ring : triangleCorners(parts[i])) {
          corners.add(c);
        }
      }
    }
    start.add(corners.n);
    return new Faces(start.toArray(), corners.toArray());
  }

  private static int[] triangleCorners(int t) {
    return new int[] {3 * t, 3 * t + 1, 3 * t + 2};
  }

  /** The corners around triangles that make one face; null where they do not. */
  private static int[] ring(Mesh mesh, int[] parts) {
    int[] tri = mesh.triangles();
    // Half-edges of the parts by their ends; those that have no other on their far side are around.
    LongIndex ends = new LongIndex();
    for (int t : parts) {
      for (int k = 0; k < 3; k++) {
        long ab = (long) tri[3 * t + k] << 32 | tri[3 * t + (k + 1) % 3];
        int had = ends.size();
        if (ends.add(ab) < had) {
          return null;
        }
      }
    }
    LongIndex from = new LongIndex();
    int[] next = new int[parts.length + 2];
    int[] corner = new int[parts.length + 2];
    int first = -1;
    for (int i = 0; i < ends.size(); i++) {
      long ab = ends.key(i);
      if (ends.find(ab << 32 | ab >>> 32) >= 0) {
        continue;
      }
      // A face of so many triangles has two corners more.
      int had = from.size();
      int at = from.add(ab >>> 32);
      if (at < had || at == next.length) {
        return null;
      }
      next[at] = (int) ab;
      corner[at] = 3 * parts[i / 3] + i % 3;
      first = first < 0 || corner[at] < corner[first] ? at : first;
    }
    int[] ring = new int[next.length];
    int at = first;
    for (int i = 0; i < ring.length; i++) {
      if (at < 0 || i > 0 && at == first) {
        return null;
      }
      ring[i] = corner[at];
      at = from.find(next[at]);
    }
    return at == first && isWhole(mesh, parts, ring) ? ring : null;
  }

  /** Whether all triangles have at each of the ring's vertices what the ring's corner has there. */
  private static boolean isWhole(Mesh mesh, int[] parts, int[] ring) {
    LongIndex vertices = new LongIndex();
    for (int c : ring) {
      vertices.add(mesh.triangles()[c]);
    }
    for (int t : parts) {
      if (mesh.material() != null && mesh.material()[t] != mesh.material()[parts[0]]) {
        return false;
      }
      for (int k = 0; k < 3; k++) {
        int at = vertices.find(mesh.triangles()[3 * t + k]);
        if (at < 0) {
          return false;
        }
        for (Attribute a : mesh.attributes()) {
          if (a.domain() == Domain.CORNER && a.index()[3 * t + k] != a.index()[ring[at]]) {
            return false;
          }
        }
      }
    }
    return true;
  }

  /**
   * A mesh that was read with its faces as fans, cut better: along the shorter diagonal, or by
   * ears.
   *
   * @param faceOf the face of each triangle; those of one face stand one after the other
   */
  static Mesh cut(Mesh fans, int[] faceOf) {
    int n = fans.triangleCount();
    int[] from = new int[3 * n];
    boolean any = false;
    for (int t = 0, end; t < n; t = end) {
      end = t + 1;
      while (end < n && faceOf[end] == faceOf[t]) {
        end++;
      }
      for (int c = 3 * t; c < 3 * end; c++) {
        from[c] = c;
      }
      if (end - t > 1) {
        any = true;
        cut(fans, t, end, from);
      }
    }
    if (!any) {
      return fans;
    }
    List<Attribute> all = new ArrayList<>();
    for (Attribute a : fans.attributes()) {
      all.add(a.domain() == Domain.CORNER ? a.indexed(picked(a.index(), from)) : a);
    }
    all.add(Attribute.of(Attribute.FACE, Kind.LABEL, Domain.TRIANGLE, faceOf, null));
    Attributes carried = Attributes.of(all.toArray(Attribute[]::new));
    return new Mesh(fans.xyz(), picked(fans.triangles(), from), carried, fans.materials());
  }

  private static void cut(Mesh fans, int t, int end, int[] from) {
    int corners = end - t + 2;
    if (corners > LARGEST) {
      return;
    }
    int[] ring = new int[corners];
    double[][] at = new double[corners][];
    for (int i = 0; i < corners; i++) {
      ring[i] = i < 2 ? 3 * t + i : 3 * (t + i - 2) + 2;
      at[i] = Vec.at(fans.xyz(), fans.triangles()[ring[i]]);
    }
    int[] cut = Triangulated.triangles(at);
    for (int i = 0; i < cut.length; i++) {
      from[3 * t + i] = ring[cut[i]];
    }
  }

  private static int[] picked(int[] a, int[] from) {
    int[] out = new int[from.length];
    for (int i = 0; i < out.length; i++) {
      out[i] = a[from[i]];
    }
    return out;
  }
}
