package holotome.core.attribute;

import holotome.core.array.Ranks;
import java.util.BitSet;

/**
 * Where each vertex and each triangle of a mesh comes from that was made from another.
 *
 * <p>Triangles that go on stand first, in their old order: the new number of one is how many of
 * those before it go on. What is {@link Redrawn} stands behind them, or in the place of one that
 * goes on. Vertices go on by a map, and new ones are {@link Blends} of old ones or made in a patch.
 *
 * <p>Not kept: where a vertex of the new mesh was, other than by the map; which corners shared a
 * vertex before.
 */
public final class Provenance {
  private final int oldVertices;
  private final int oldTriangles;
  private final int vertices;
  private final int triangles;
  private final int[] vertexMap;
  private final Blends added;
  private final Ranks kept;
  private final Redrawn redrawn;
  private final BitSet turned;

  private Provenance(Builder b) {
    oldVertices = b.oldVertices;
    oldTriangles = b.oldTriangles;
    vertexMap = b.vertexMap;
    added = b.added;
    vertices = vertexMap == null ? oldVertices + added.rows() : b.count;
    kept = b.kept;
    redrawn = b.redrawn;
    int last = redrawn.size() == 0 ? 0 : redrawn.triangle(redrawn.size() - 1) + 1;
    triangles = Math.max(keptCount(), last);
    turned = b.turned;
    if (added.hasPatch() && vertexMap != null) {
      throw new IllegalArgumentException("a patch is added to a mesh whose vertices all stay");
    }
  }

  /** Begins with: all stays as it is. */
  public static Builder of(int oldVertices, int oldTriangles) {
    return new Builder(oldVertices, oldTriangles);
  }

  /** What is said of it, piece by piece. */
  public static final class Builder {
    private final int oldVertices;
    private final int oldTriangles;
    private int[] vertexMap;
    private int count;
    private Blends added;
    private Ranks kept;
    private Redrawn redrawn = new Redrawn();
    private BitSet turned;

    private Builder(int oldVertices, int oldTriangles) {
      this.oldVertices = oldVertices;
      this.oldTriangles = oldTriangles;
      this.added = new Blends(oldVertices);
    }

    /**
     * @param map the new number of each old or added vertex, -1 where it goes; may be longer
     * @param vertices how many there are then
     */
    public Builder vertices(int[] map, int vertices) {
      vertexMap = map;
      count = vertices;
      return this;
    }

    /** New vertices, numbered on from the old ones before the map is applied. */
    public Builder added(Blends rows) {
      added = rows;
      return this;
    }

    /** The old triangles that go on; else all do. */
    public Builder kept(Ranks triangles) {
      kept = triangles;
      return this;
    }

    public Builder redrawn(Redrawn triangles) {
      redrawn = triangles;
      return this;
    }

    /** New triangles whose second and third corner changed places: they show their other side. */
    public Builder turned(BitSet triangles) {
      turned = triangles;
      return this;
    }

    public Provenance build() {
      return new Provenance(this);
    }
  }

  public int oldVertices() {
    return oldVertices;
  }

  public int oldTriangles() {
    return oldTriangles;
  }

  /** How many vertices the new mesh has. */
  public int vertices() {
    return vertices;
  }

  /** How many triangles the new mesh has. */
  public int triangles() {
    return triangles;
  }

  /** New number per old or added vertex, -1 where it goes; null where all stay. */
  int[] vertexMap() {
    return vertexMap;
  }

  Blends added() {
    return added;
  }

  /** The old triangles that go on; null for all. */
  public Ranks kept() {
    return kept;
  }

  public int keptCount() {
    return kept == null ? oldTriangles : kept.size();
  }

  public Redrawn redrawn() {
    return redrawn;
  }

  boolean isTurned(int triangle) {
    return turned != null && turned.get(triangle);
  }

  boolean turnsAny() {
    return turned != null && !turned.isEmpty();
  }

  /**
   * Of the triangles that go on, those that are redrawn or turned, by new number; null for none.
   */
  public BitSet changed() {
    BitSet out = turned == null ? new BitSet() : (BitSet) turned.clone();
    for (int i = 0; i < redrawn.size() && redrawn.triangle(i) < keptCount(); i++) {
      out.set(redrawn.triangle(i));
    }
    return out.isEmpty() ? null : out;
  }
}
