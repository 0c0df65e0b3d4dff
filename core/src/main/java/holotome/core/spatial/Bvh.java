package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * A bounding-volume hierarchy over the triangles of a mesh: two children per node, split by the
 * surface-area heuristic over 16 bins (Wald, "On fast construction of SAH-based bounding volume
 * hierarchies", 2007).
 *
 * <p>Queries go through a {@link BvhQuery}, one per thread. Building costs O(T log T) and about 110
 * bytes per triangle; at most 200 million triangles.
 *
 * <p>Layout: inner node i holds the boxes of its two children in {@code boxes[12 i ...]} (min x, y,
 * z, max x, y, z of the one, then of the other) and the children in {@code children[2 i]} and
 * {@code [2 i + 1]}: a node number, or for a leaf {@code ~(first * 8 + count - 1)} into the
 * triangles in leaf order. {@code corners} holds 9 floats per triangle in leaf order.
 */
public final class Bvh {
  static final int LEAF = 4;

  final float[] boxes;
  final int[] children;
  final float[] corners;
  final int[] ids;
  final int root;
  private final float[] rootBox;

  Bvh(float[] boxes, int[] children, float[] corners, int[] ids, int root, float[] rootBox) {
    this.boxes = boxes;
    this.children = children;
    this.corners = corners;
    this.ids = ids;
    this.root = root;
    this.rootBox = rootBox;
  }

  public static Bvh of(Mesh mesh) {
    return of(mesh, Work.unwatched());
  }

  public static Bvh of(Mesh mesh, Work work) {
    return new BvhBuilder(mesh).build(work);
  }

  public int triangleCount() {
    return ids.length;
  }

  /** The box around everything: min x, y, z, max x, y, z. */
  public float[] bounds() {
    return rootBox.clone();
  }
}
