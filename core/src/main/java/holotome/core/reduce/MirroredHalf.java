package holotome.core.reduce;

import holotome.core.attribute.Provenance;
import holotome.core.cut.FieldSplit;
import holotome.core.frame.Frame;
import holotome.core.frame.Mirrored;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Joined;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * A half of a mesh, to be worked on by itself, and what was made of it put together with its mirror
 * image. Points of the cut lie on the plane afterwards, and belong to both.
 *
 * @param point on the plane, in base coordinates
 * @param normal of unit length, towards the half that stays
 */
record MirroredHalf(double[] point, double[] normal) {
  /** What is nearer to the plane than this share of the sides was cut there. */
  private static final double NEAR = 0.3;

  /** What has come to lie beyond the plane is put so far before it, as a share of the sides. */
  private static final double BEFORE = 0.01;

  /** The half on one side of a plane through the working origin; the front looks to -Y. */
  static MirroredHalf of(Decimate.Symmetric side, Frame frame) {
    double[] way =
        switch (side) {
          case LEFT -> new double[] {-1, 0, 0};
          case RIGHT -> new double[] {1, 0, 0};
          case FRONT -> new double[] {0, -1, 0};
          case BACK -> new double[] {0, 1, 0};
          case NO -> throw new IllegalArgumentException("no half");
        };
    return new MirroredHalf(
        frame.toBase(new double[3]), Vec.unit(frame.toWork().inverse().direction(way)));
  }

  /** Mirrors a point that lies on the other side, in place. */
  void fold(double[] p) {
    double off = Vec.dot(Vec.sub(p, point), normal);
    for (int k = 0; k < 3 && off < 0; k++) {
      p[k] -= 2 * off * normal[k];
    }
  }

  /** Costs what {@link FieldSplit} does. */
  Mesh cut(Mesh mesh, Work work) {
    Mesh half = FieldSplit.byPlane(mesh, point, normal, work).mesh();
    if (half.isEmpty() || half.triangleCount() >= mesh.triangleCount()) {
      throw Failure.cannot(CoreWords.of("mirrored-half.not-parted"));
    }
    return half;
  }

  /** O(V + T). */
  Mesh whole(Mesh half, Work work) {
    double side =
        Math.sqrt(4 / Math.sqrt(3) * Measures.area(half) / Math.max(1, half.triangleCount()));
    BitSet seam = seam(half, NEAR * side);
    Mesh snapped = half.withPositions(snapped(half, seam, BEFORE * side));
    int n = half.vertexCount();
    Mesh both = Joined.of(snapped, Mirrored.in(snapped, point, normal));
    int[] map = new int[2 * n];
    int next = n;
    for (int v = 0; v < n; v++) {
      map[v] = v;
      map[n + v] = seam.get(v) ? -1 : next++;
    }
    int[] tri = both.triangles().clone();
    for (int i = 0; i < tri.length; i++) {
      tri[i] = map[tri[i]] >= 0 ? map[tri[i]] : tri[i] - n;
    }
    Provenance p = Provenance.of(2 * n, both.triangleCount()).vertices(map, next).build();
    return both.derive(p, new float[0], tri, work);
  }

  private double off(float[] p, int v) {
    double off = 0;
    for (int k = 0; k < 3; k++) {
      off += (p[3 * v + k] - point[k]) * normal[k];
    }
    return off;
  }

  /** The vertices of open edges that run along the plane. */
  private BitSet seam(Mesh half, double near) {
    int[] twin = Adjacency.of(half).twin();
    int[] tri = half.triangles();
    BitSet out = new BitSet(half.vertexCount());
    for (int h = 0; h < twin.length; h++) {
      int a = tri[h];
      int b = tri[Adjacency.next(h)];
      boolean isOpen = twin[h] == Adjacency.BORDER;
      if (isOpen && Math.abs(off(half.xyz(), a)) <= near && Math.abs(off(half.xyz(), b)) <= near) {
        out.set(a);
        out.set(b);
      }
    }
    return out;
  }

  private float[] snapped(Mesh half, BitSet seam, double before) {
    float[] xyz = Arrays.copyOf(half.xyz(), half.xyz().length);
    for (int v = 0; v < half.vertexCount(); v++) {
      double off = off(xyz, v);
      double by = seam.get(v) ? off : off < before ? off - before : 0;
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (float) (xyz[3 * v + k] - by * normal[k]);
      }
    }
    return xyz;
  }
}
