package holotome.core.quad;

import holotome.core.array.LongIndex;
import holotome.core.attribute.Attribute;
import holotome.core.mesh.Mesh;
import holotome.core.polygon.Triangulated;

/**
 * A mesh of quads, and of faces with fewer or more corners where it may have them.
 *
 * @param at places, 3 doubles a point
 * @param faces the points of each face, counter-clockwise seen from outside
 * @param onLine the points that lie on lines of the surface, open edges among them
 */
public record QuadMesh(double[] at, int[][] faces, boolean[] onLine) {

  /**
   * As triangles that say which face each is part of ({@link Attribute#FACE}). Quads are cut along
   * the shorter diagonal, unless there is an edge between its ends already or both lie on lines.
   * O(faces).
   */
  public Mesh triangles() {
    int count = 0;
    LongIndex edges = new LongIndex();
    for (int[] f : faces) {
      count += f.length - 2;
      for (int i = 0; i < f.length; i++) {
        edges.add(Faces.edge(f[i], f[(i + 1) % f.length]));
      }
    }
    int[] tri = new int[3 * count];
    int[] faceOf = new int[count];
    int n = 0;
    for (int f = 0; f < faces.length; f++) {
      int[] c = faces[f];
      for (int corner : c.length == 4 ? cut(c, edges) : cut(c)) {
        faceOf[n / 3] = f;
        tri[n++] = c[corner];
      }
    }
    float[] xyz = new float[at.length];
    for (int i = 0; i < at.length; i++) {
      xyz[i] = (float) at[i];
    }
    return new Mesh(xyz, tri)
        .with(
            Attribute.of(
                Attribute.FACE, Attribute.Kind.LABEL, Attribute.Domain.TRIANGLE, faceOf, null));
  }

  private int[] cut(int[] c, LongIndex taken) {
    double first = cost(c[0], c[2], taken);
    double second = cost(c[1], c[3], taken);
    boolean isFirst = first <= second;
    taken.add(isFirst ? Faces.edge(c[0], c[2]) : Faces.edge(c[1], c[3]));
    return isFirst ? new int[] {0, 1, 2, 0, 2, 3} : new int[] {0, 1, 3, 1, 2, 3};
  }

  /**
   * How long a diagonal is; along a line it would lie in the face beside it or its mirror image,
   * and where there is an edge it would be one of three faces'.
   */
  private double cost(int a, int b, LongIndex taken) {
    double worse = taken.find(Faces.edge(a, b)) >= 0 ? 1e6 : onLine[a] && onLine[b] ? 1e3 : 1;
    return worse * Shape.distance(at, a, b);
  }

  private int[] cut(int[] c) {
    double[][] ring = new double[c.length][];
    for (int i = 0; i < c.length; i++) {
      ring[i] = new double[] {at[3 * c[i]], at[3 * c[i] + 1], at[3 * c[i] + 2]};
    }
    return Triangulated.triangles(ring);
  }
}
