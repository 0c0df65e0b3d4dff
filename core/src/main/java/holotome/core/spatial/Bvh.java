package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * A bounding-volume hierarchy over the triangles of a mesh: up to eight children per node, split by
 * the surface-area heuristic (Wald, "On fast construction of SAH-based bounding volume
 * hierarchies", 2007), their boxes in whole steps of the node's own (Ylitie, Karras and Laine,
 * "Efficient incoherent ray traversal on GPUs through compressed wide BVHs", 2017), so that most of
 * it stays in the processor's caches.
 *
 * <p>Queries go through a {@link BvhQuery}, one per thread. Building costs O(T log T) and takes
 * about 40 bytes per triangle while at work, the index 46; at most 200 million triangles.
 *
 * <p>Layout: node i has a frame in {@code frames[6 i ...]} (x, y, z of where step 0 is, then the
 * length of a step along x, y, z), eight low x, eight low y, eight low z, eight high x, y and z in
 * {@code planes[48 i ...]} (from -128 to 127 steps; the box that they make holds the child, with a
 * thousandth of a step to spare), and its children in {@code children[8 i ...]}: a node number, for
 * a leaf {@code ~(first * 8 + count - 1)} into the triangles in leaf order, or {@link #NONE} after
 * the last. A leaf of n triangles has 9 n floats from {@code corners[9 first]} on: x of all first
 * corners, y of them, z of them, x of all second corners, and so on. Node 0 is the root, where
 * there are triangles.
 */
public final class Bvh {
  /** Children of a node, and triangles of a leaf, at most. */
  static final int WIDE = 8;

  /** No child. */
  static final int NONE = Integer.MIN_VALUE;

  final float[] frames;
  final byte[] planes;
  final int[] children;

  /** With eight floats more at the end, for eight are read at once. */
  final float[] corners;

  final int[] ids;
  private final float[] rootBox;

  Bvh(BvhNodes nodes, float[] corners, int[] ids, float[] rootBox) {
    frames = nodes.frames;
    planes = nodes.planes;
    children = nodes.children;
    this.corners = corners;
    this.ids = ids;
    this.rootBox = rootBox;
  }

  public static Bvh of(Mesh mesh) {
    return of(mesh, Work.unwatched());
  }

  /** The index of a mesh's triangles, made anew or kept from before ({@link KeptIndexes}). */
  public static Bvh of(Mesh mesh, Work work) {
    return KeptIndexes.of(mesh, work);
  }

  public int triangleCount() {
    return ids.length;
  }

  /** The box around everything: min x, y, z, max x, y, z. */
  public float[] bounds() {
    return rootBox.clone();
  }

  /** A side of a child's box: axis 0 to 2 for the low ones, 3 to 5 for the high ones. */
  float plane(int node, int child, int side) {
    int axis = side % 3;
    return frames[6 * node + axis]
        + planes[48 * node + WIDE * side + child] * frames[6 * node + 3 + axis];
  }

  static int leaf(int first, int count) {
    return ~(first * WIDE + count - 1);
  }

  static int firstOf(int leaf) {
    return ~leaf >>> 3;
  }

  static int countOf(int leaf) {
    return (~leaf & WIDE - 1) + 1;
  }
}
