package holotome.core.mend;

import holotome.core.mesh.InRange;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Work;
import java.util.BitSet;

/** What was there before a region is made anew, to be asked for the place nearest to another. */
final class OldSurface {
  private final Mesh mesh;
  private final double by;
  private final Bvh bvh;

  private OldSurface(Mesh mesh, double by, Bvh bvh) {
    this.mesh = mesh;
    this.by = by;
    this.bvh = bvh;
  }

  /**
   * @param region the triangles that go, at least one
   */
  static OldSurface of(Mesh scan, BitSet region, Work work) {
    Mesh mesh = Submesh.of(scan, region, Work.unwatched());
    // Squares of vast distances would leave the range of floats.
    InRange near = InRange.of(mesh);
    return new OldSurface(mesh, near.by(), Bvh.of(near.mesh(), work));
  }

  /** The region's triangles by themselves, with all they carry. */
  Mesh mesh() {
    return mesh;
  }

  /** Asks for places; one for each thread. */
  final class Look {
    private final BvhQuery query = new BvhQuery(bvh);

    /** Finds the place nearest to another: {@link #triangle}, {@link #u} and {@link #v} tell it. */
    void at(double x, double y, double z) {
      query.closest((float) (x * by), (float) (y * by), (float) (z * by), Float.POSITIVE_INFINITY);
    }

    int triangle() {
      return query.triangle;
    }

    /** The weight of the triangle's second corner. */
    float u() {
      return query.u;
    }

    /** The weight of the triangle's third corner. */
    float v() {
      return query.v;
    }
  }
}
