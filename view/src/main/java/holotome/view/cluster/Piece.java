package holotome.view.cluster;

/**
 * Up to {@link #MOST} triangles that lie together, with their own vertices, ready for drawing.
 *
 * @param xyz 3 floats per local vertex; pieces of one node may share it
 * @param corners 3 local vertices per triangle
 * @param ids per triangle: the triangle of the mesh it is, or, in a light piece, one of those it
 *     stands for
 * @param normals packed by {@link PackedNormal}, one per local vertex; null in a piece of true
 *     triangles, whose normals are kept per vertex of the mesh
 * @param colours 0xAARRGGBB per local vertex in a light piece; null where there is no colour
 * @param exact whether these are the mesh's own triangles
 */
public record Piece(
    float[] xyz, char[] corners, int[] ids, int[] normals, int[] colours, boolean exact) {
  /** Triangles are numbered within a piece by this many bits. */
  public static final int BITS = 11;

  public static final int MOST = 1 << BITS;

  public int triangleCount() {
    return ids.length;
  }

  /** The same triangles under other numbers. */
  Piece withIds(int[] other) {
    return new Piece(xyz, corners, other, normals, colours, exact);
  }
}
