package holotome.core.io;

import holotome.core.array.LongIndex;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;

/**
 * Normals at the corners by smoothing groups: around a vertex the triangles of one group share
 * theirs, the mean by the angle there, which does not depend on how faces are cut (Thürmer and
 * Wüthrich 1998); faces in group 0 are flat. O(T).
 */
final class GroupNormals {
  /** Beyond the numbers of groups. */
  private static final long FLAT = 1L << 32;

  private GroupNormals() {}

  static Attribute of(Mesh mesh, int[] faceOf, int[] group) {
    int n = mesh.triangleCount();
    LongIndex groups = new LongIndex();
    LongIndex shared = new LongIndex();
    int[] corners = new int[3 * n];
    float[] sums = new float[9 * n];
    double[] cross = new double[3];
    for (int t = 0; t < n; t++) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, cross);
      double l = Math.sqrt(cross[0] * cross[0] + cross[1] * cross[1] + cross[2] * cross[2]);
      // A flat face is a group of its own.
      int g = groups.add(group[t] == 0 ? FLAT + faceOf[t] : group[t]);
      for (int k = 0; k < 3; k++) {
        int at = shared.add((long) mesh.triangles()[3 * t + k] << 32 | g);
        corners[3 * t + k] = at;
        if (!(l > 0)) {
          continue;
        }
        double angle = angle(mesh, t, k);
        for (int d = 0; d < 3; d++) {
          sums[3 * at + d] += (float) (angle * cross[d] / l);
        }
      }
    }
    float[] normals = new float[3 * shared.size()];
    for (int i = 0; i < normals.length; i += 3) {
      double l =
          Math.sqrt(
              (double) sums[i] * sums[i]
                  + (double) sums[i + 1] * sums[i + 1]
                  + (double) sums[i + 2] * sums[i + 2]);
      for (int d = 0; d < 3; d++) {
        normals[i + d] = l > 0 ? (float) (sums[i + d] / l) : d == 2 ? 1 : 0;
      }
    }
    return Attribute.of(Attribute.NORMAL, Kind.NORMAL, Domain.CORNER, normals, corners);
  }

  private static double angle(Mesh mesh, int t, int k) {
    double[] at = Vec.at(mesh.xyz(), mesh.triangles()[3 * t + k]);
    double[] a = Vec.sub(Vec.at(mesh.xyz(), mesh.triangles()[3 * t + (k + 1) % 3]), at);
    double[] b = Vec.sub(Vec.at(mesh.xyz(), mesh.triangles()[3 * t + (k + 2) % 3]), at);
    return Math.atan2(Vec.length(Vec.cross(a, b)), Vec.dot(a, b));
  }
}
