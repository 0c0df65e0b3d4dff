package holotome.core.polygon;

import holotome.core.array.Grouping;
import holotome.core.array.LongIndex;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * The faces, with three corners or more, that the triangles of a mesh are parts of: triangles with
 * one number in the attribute {@link Attribute#FACE} are one face, as long as they still lie around
 * one another as the parts of a face do, and no seam parts them.
 *
 * @param start where the corners of each face begin, and at the end how many there are
 * @param corners of the mesh (three times the triangle, and which of its corners), in turn
 */
public record FaceRings(int[] start, int[] corners) {
  public int count() {
    return start.length - 1;
  }

  /** A corner's triangle: the face's material is that of its first. */
  public int triangle(int face) {
    return corners[start[face]] / 3;
  }

  /** Corners of the face that has most. */
  public int most() {
    int most = 0;
    for (int f = 0; f < count(); f++) {
      most = Math.max(most, start[f + 1] - start[f]);
    }
    return most;
  }

  /** How many have more than three corners. */
  public int polygons() {
    int n = 0;
    for (int f = 0; f < count(); f++) {
      n += start[f + 1] - start[f] > 3 ? 1 : 0;
    }
    return n;
  }

  /** Null for a mesh whose triangles are not known to be parts of anything. */
  public static FaceRings of(Mesh mesh) {
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
    int[] start = new int[n + 1];
    int[] corners = new int[3 * n];
    int faces = 0;
    int filled = 0;
    for (int f = 0; f < numbers.size(); f++) {
      int[] parts = Arrays.copyOfRange(by.order(), by.start()[f], by.start()[f + 1]);
      int[] ring = ring(mesh, parts);
      for (int i = 0; i < (ring == null ? parts.length : 1); i++) {
        start[faces++] = filled;
        for (int c : ring != null ? ring : triangleCorners(parts[i])) {
          corners[filled++] = c;
        }
      }
    }
    start[faces] = filled;
    return new FaceRings(Arrays.copyOf(start, faces + 1), Arrays.copyOf(corners, filled));
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
}
