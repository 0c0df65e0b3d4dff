package holotome.view.cluster;

/**
 * A cube of the hierarchy. A leaf holds the true triangles with any corner in it; another node
 * holds its children and a lighter mesh that stands for all they hold.
 *
 * <p>Written while the hierarchy is built, never after.
 */
public final class Node {
  /** Of a child's vertex that lies in no own cell of the node. */
  static final char OUTSIDE = Character.MAX_VALUE;

  final int depth;

  /** Three numbers of the cube among those of its depth, as in {@link Cells}. */
  final long key;

  /** Null in a leaf. */
  final Node[] children;

  /** Null in a leaf, and where no light mesh could be made: the children are drawn instead. */
  Piece[] light;

  /** Null but in a leaf. */
  LeafPieces leaf;

  /** How far the mesh's vertices are from the light mesh, at most; base units. */
  float error;

  /** The root mean square of {@link #far}. */
  float typical;

  /** A sphere around all that the node and its children draw. */
  float cx;

  float cy;
  float cz;
  float radius;

  /** The sum of its triangles' normals, weighted by area: which way the node looks. */
  float nx;

  float ny;
  float nz;

  /** Of a light mesh: the cell of each vertex in the node's grid, own ones first and in order. */
  long[] cells;

  /** How many vertices of the light mesh lie in the node's own cells. */
  int own;

  /** Per own vertex: how far the vertices it stands for are from the light mesh, at most. */
  float[] far;

  /**
   * While a light mesh is made: for each vertex of the children which of the node's own it becomes.
   */
  char[] numbers;

  float[] xyz;
  int[] normals;
  int[] colours;

  /** Whether the node's shape is that of one in the hierarchy this one was made from. */
  boolean isShared;

  Node(int depth, long key, Node[] children) {
    this.depth = depth;
    this.key = key;
    this.children = children;
  }

  /** Takes over from a node of an earlier hierarchy all but the pieces. */
  void takeShape(Node other) {
    isShared = true;
    error = other.error;
    typical = other.typical;
    cx = other.cx;
    cy = other.cy;
    cz = other.cz;
    radius = other.radius;
    nx = other.nx;
    ny = other.ny;
    nz = other.nz;
    cells = other.cells;
    own = other.own;
    far = other.far;
    xyz = other.xyz;
    normals = other.normals;
    colours = other.colours;
  }

  public boolean isLeaf() {
    return children == null;
  }

  public Node[] children() {
    return children;
  }

  /** Whether there is something to draw in place of the children. */
  public boolean hasPieces() {
    return light != null || leaf != null;
  }

  /** What is drawn; null where that is the children. */
  public Piece[] pieces() {
    return leaf != null ? leaf.get() : light;
  }

  /** How far the mesh's vertices are from the light mesh, at most; base units. */
  public float error() {
    return error;
  }

  /** How far they are as a rule: the root mean square over the light mesh's vertices. */
  public float typical() {
    return typical;
  }

  public float centreX() {
    return cx;
  }

  public float centreY() {
    return cy;
  }

  public float centreZ() {
    return cz;
  }

  public float radius() {
    return radius;
  }

  /** The mean direction, x 0, y 1, z 2; not of unit length. */
  public float normal(int axis) {
    return axis == 0 ? nx : axis == 1 ? ny : nz;
  }
}
