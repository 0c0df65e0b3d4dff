package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.words.ViewWords;
import java.util.Arrays;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * Makes the light meshes of the nodes above the leaves: vertices in one cell of the node's grid
 * become their mean (vertex clustering: Rossignac and Borrel, "Multi-resolution 3D approximations
 * for rendering complex scenes", 1993), level by level, each from the one below. Colours and
 * normals are means too, so that a light mesh drawn at a pixel a cell looks like the mesh.
 *
 * <p>Where a node's triangles reach into a neighbour they end at that one's own vertices, so that
 * neighbours of one level meet without a gap; at a neighbour that is a leaf they end at its true
 * vertices. O(T) in all.
 */
final class Levels {
  private static final int GRAIN = 32;

  /** Vertices of a light mesh are numbered by 16 bits. */
  private static final int MOST_VERTICES = 1 << 16;

  /** Sets the keys of true vertices apart from those of cells. */
  private static final long TRUE = Long.MIN_VALUE;

  private final Mesh mesh;
  private final Cells cells;
  private final int[] meshNormals;
  private final boolean coloured;

  Levels(Mesh mesh, Cells cells, int[] meshNormals) {
    this.mesh = mesh;
    this.cells = cells;
    this.meshNormals = meshNormals;
    this.coloured = mesh.hasColour();
  }

  /**
   * Makes the light meshes of some nodes of one depth, whose children are done.
   *
   * @param gather nodes whose own vertices are worked out
   * @param build nodes whose triangles are made; those of {@code gather} among them
   * @param all every node of that depth, by its key
   */
  void make(List<Node> gather, Collection<Node> build, Map<Long, Node> all, Work work) {
    Parallel.range(
        gather.size(),
        GRAIN,
        work.part(0.5, ViewWords.of("common.preparing-the-view")),
        (from, to) -> {
          Gather g = new Gather();
          for (int i = from; i < to; i++) {
            g.run(gather.get(i));
          }
        });
    Node[] nodes = build.toArray(Node[]::new);
    Joined[] joined = new Joined[nodes.length];
    Parallel.range(
        nodes.length,
        GRAIN,
        work.part(0.5, ViewWords.of("common.preparing-the-view")),
        (from, to) -> {
          Join j = new Join(all);
          for (int i = from; i < to; i++) {
            joined[i] = j.run(nodes[i]);
          }
        });
    // Only now: while joining, nodes read each other's own vertices.
    for (int i = 0; i < nodes.length; i++) {
      joined[i].give(nodes[i]);
    }
  }

  /** What a node is to hold once all of its depth are joined; all null but the sphere for none. */
  private record Joined(
      float[] xyz,
      int[] normals,
      int[] colours,
      long[] cells,
      Piece[] pieces,
      float[] far,
      float error,
      Bounds bounds) {
    /** The root of the mean square. */
    private float typical() {
      if (far == null || far.length == 0) {
        return error;
      }
      double sum = 0;
      for (float f : far) {
        sum += (double) f * f;
      }
      return (float) Math.sqrt(sum / far.length);
    }

    void give(Node node) {
      node.xyz = xyz;
      node.normals = normals;
      node.colours = colours;
      node.cells = cells;
      node.light = pieces;
      node.far = far;
      node.error = error;
      node.typical = typical();
      bounds.give(node);
    }
  }

  static Map<Long, Node> byKey(List<Node> nodes) {
    Map<Long, Node> map = new HashMap<>(2 * nodes.size());
    for (Node n : nodes) {
      map.put(n.key, n);
    }
    return map;
  }

  /** The cell of a child's vertex in its parent's grid. */
  private long cell(Node parent, Node child, float[] xyz, int vertex) {
    if (!child.isLeaf() && child.cells[vertex] >= 0) {
      return Cells.coarser(child.cells[vertex], 1);
    }
    return Cells.coarser(cells.of(xyz, vertex), Cells.DEEPEST - parent.depth);
  }

  /** Whether a vertex of a child lies in that child's own cube. */
  private boolean isOwn(Node child, float[] xyz, int vertex) {
    return child.isLeaf()
        ? Cells.node(cells.of(xyz, vertex), child.depth) == child.key
        : vertex < child.own;
  }

  /** Works out a node's own vertices: the means over its cells. */
  private final class Gather {
    private final LongIndex index = new LongIndex();
    private long[] key = new long[0];
    private double[] sum = new double[0];
    private int[] at = new int[0];

    /** Where each cell stands once they are in order. */
    private int[] place = new int[0];

    void run(Node node) {
      if (Arrays.stream(node.children).anyMatch(c -> !c.hasPieces())) {
        return;
      }
      index.clear();
      key = key.length == 0 ? new long[4096] : key;
      sum = sum.length == 0 ? new double[10 * 4096] : sum;
      int entries = 0;
      for (Node child : node.children) {
        for (Piece p : child.pieces()) {
          entries = add(node, child, p, entries);
          if (!child.isLeaf()) {
            // The pieces of a light mesh share their vertices.
            break;
          }
        }
      }
      settle(node);
      node.numbers = new char[entries];
      for (int i = 0; i < entries; i++) {
        node.numbers[i] = at[i] < 0 ? Node.OUTSIDE : (char) place[at[i]];
      }
    }

    private int add(Node node, Node child, Piece p, int entries) {
      int n = p.xyz().length / 3;
      int[] corner = child.isLeaf() ? firstCorners(p, n) : null;
      if (at.length < entries + n) {
        at = Arrays.copyOf(at, Math.max(2 * at.length, entries + n));
      }
      float[] q = new float[3];
      for (int v = 0; v < n; v++) {
        if (!isOwn(child, p.xyz(), v)) {
          at[entries + v] = -1;
          continue;
        }
        long cell = cell(node, child, p.xyz(), v);
        int known = index.size();
        int i = index.of(cell);
        if (i == known) {
          if (i == key.length) {
            key = Arrays.copyOf(key, 2 * i);
            sum = Arrays.copyOf(sum, 20 * i);
          }
          key[i] = cell;
          Arrays.fill(sum, 10 * i, 10 * i + 10, 0);
        }
        at[entries + v] = i;
        int normal = corner == null ? p.normals()[v] : meshNormals[mesh.triangles()[corner[v]]];
        PackedNormal.unpack(normal, q, 0);
        int s = 10 * i;
        for (int k = 0; k < 3; k++) {
          sum[s + k] += p.xyz()[3 * v + k];
          sum[s + 3 + k] += q[k];
        }
        if (coloured) {
          int c = corner == null ? p.colours()[v] : colour(corner[v]);
          sum[s + 6] += c >> 16 & 255;
          sum[s + 7] += c >> 8 & 255;
          sum[s + 8] += c & 255;
        }
        sum[s + 9]++;
      }
      return entries + n;
    }

    private int[] firstCorners(Piece p, int n) {
      int[] corner = new int[n];
      for (int c = p.corners().length - 1; c >= 0; c--) {
        corner[p.corners()[c]] = 3 * p.ids()[c / 3] + c % 3;
      }
      return corner;
    }

    private int colour(int corner) {
      int[] own = mesh.colours();
      return own != null && !mesh.hasTexture()
          ? own[mesh.triangles()[corner]]
          : VertexColours.at(mesh, corner / 3, corner % 3 == 1 ? 1 : 0, corner % 3 == 2 ? 1 : 0);
    }

    /** Puts the means into the node, in the order of their cells. */
    private void settle(Node node) {
      int n = index.size();
      long[] sorted = Arrays.copyOf(key, n);
      Arrays.sort(sorted);
      node.own = n;
      node.cells = sorted;
      node.xyz = new float[3 * n];
      node.normals = new int[n];
      node.colours = coloured ? new int[n] : null;
      if (place.length < n) {
        place = new int[2 * n];
      }
      for (int i = 0; i < n; i++) {
        int first = index.of(sorted[i]);
        place[first] = i;
        int s = 10 * first;
        double w = sum[s + 9];
        for (int k = 0; k < 3; k++) {
          node.xyz[3 * i + k] = (float) (sum[s + k] / w);
        }
        node.normals[i] = PackedNormal.pack(sum[s + 3], sum[s + 4], sum[s + 5]);
        if (coloured) {
          node.colours[i] =
              0xff000000
                  | (int) (sum[s + 6] / w + 0.5) << 16
                  | (int) (sum[s + 7] / w + 0.5) << 8
                  | (int) (sum[s + 8] / w + 0.5);
        }
      }
    }
  }

  /** Makes a node's triangles, whose corners may be a neighbour's vertices. */
  private final class Join {
    private final Map<Long, Node> all;
    private final LongIndex outside = new LongIndex();
    private final LongIndex triangles = new LongIndex();
    private int[] map = new int[0];
    private char[] corners = new char[0];
    private int[] ids = new int[0];
    private float[] xyz;
    private int[] normals;
    private int[] colours;
    private long[] cellOf;
    private int vertices;
    private final Deviation deviation = new Deviation();

    Join(Map<Long, Node> all) {
      this.all = all;
    }

    Joined run(Node node) {
      Bounds bounds = new Bounds();
      double nx = 0;
      double ny = 0;
      double nz = 0;
      for (Node c : node.children) {
        bounds.add(c.cx, c.cy, c.cz, c.radius);
        nx += c.nx;
        ny += c.ny;
        nz += c.nz;
      }
      node.nx = (float) nx;
      node.ny = (float) ny;
      node.nz = (float) nz;
      Joined made =
          Arrays.stream(node.children).allMatch(Node::hasPieces) ? make(node, bounds) : null;
      return made != null
          ? made
          : new Joined(null, null, null, null, null, null, Float.POSITIVE_INFINITY, bounds);
    }

    /** Null where there are too many vertices for a light mesh. */
    private Joined make(Node node, Bounds bounds) {
      int own = node.own;
      xyz = Arrays.copyOf(node.xyz, 3 * own + 3 * 512);
      normals = Arrays.copyOf(node.normals, own + 512);
      colours = coloured ? Arrays.copyOf(node.colours, own + 512) : null;
      cellOf = Arrays.copyOf(node.cells, own + 512);
      vertices = own;
      outside.clear();
      triangles.clear();
      int n = 0;
      int first = 0;
      for (Node child : node.children) {
        for (Piece p : child.pieces()) {
          n = add(node, child, p, first, n);
          if (n < 0) {
            return null;
          }
          if (child.isLeaf()) {
            first += p.xyz().length / 3;
          }
        }
        if (!child.isLeaf() && child.light.length > 0) {
          first += child.xyz.length / 3;
        }
      }
      float[] points = Arrays.copyOf(xyz, 3 * vertices);
      float[] far = deviation.of(node, points, corners, n, cells.width(node.depth));
      node.numbers = null;
      int[] packed = Arrays.copyOf(normals, vertices);
      int[] paint = coloured ? Arrays.copyOf(colours, vertices) : null;
      Piece[] pieces = new Piece[(n + Piece.MOST - 1) / Piece.MOST];
      for (int i = 0; i < pieces.length; i++) {
        int from = i * Piece.MOST;
        int to = Math.min(n, from + Piece.MOST);
        pieces[i] =
            new Piece(
                points,
                Arrays.copyOfRange(corners, 3 * from, 3 * to),
                Arrays.copyOfRange(ids, from, to),
                packed,
                paint,
                false);
      }
      bounds.add(points);
      return new Joined(
          points,
          packed,
          paint,
          Arrays.copyOf(cellOf, vertices),
          pieces,
          far,
          deviation.error(),
          bounds);
    }

    /**
     * Adds a child's triangles; -1 where there are too many vertices for a light mesh.
     *
     * @param first where the piece's vertices begin among the node's numbers
     */
    private int add(Node node, Node child, Piece p, int first, int count) {
      int n = count;
      int points = p.xyz().length / 3;
      if (map.length < points) {
        map = new int[2 * points];
      }
      for (int v = 0; v < points; v++) {
        char own = node.numbers[first + v];
        map[v] = own == Node.OUTSIDE ? -1 : own;
      }
      if (ids.length < n + p.ids().length) {
        ids = Arrays.copyOf(ids, 2 * (n + p.ids().length));
        corners = Arrays.copyOf(corners, 3 * ids.length);
      }
      for (int t = 0; t < p.ids().length; t++) {
        int a = map(node, child, p, p.corners()[3 * t]);
        int b = map(node, child, p, p.corners()[3 * t + 1]);
        int c = map(node, child, p, p.corners()[3 * t + 2]);
        if (vertices > MOST_VERTICES) {
          return -1;
        }
        if (a == b || b == c || c == a) {
          continue;
        }
        while (a > b || a > c) {
          int turned = a;
          a = b;
          b = c;
          c = turned;
        }
        int known = triangles.size();
        if (triangles.of((long) a << 32 | (long) b << 16 | c) < known) {
          continue;
        }
        corners[3 * n] = (char) a;
        corners[3 * n + 1] = (char) b;
        corners[3 * n + 2] = (char) c;
        ids[n++] = p.ids()[t];
      }
      return n;
    }

    private int map(Node node, Node child, Piece p, int v) {
      if (map[v] < 0) {
        map[v] = find(node, child, p, v);
      }
      return map[v];
    }

    private int find(Node node, Node child, Piece p, int v) {
      long cell = cell(node, child, p.xyz(), v);
      long owner = Cells.coarser(cell, Cells.SPLIT);
      if (owner == node.key) {
        int i = Arrays.binarySearch(node.cells, 0, node.own, cell);
        if (i >= 0) {
          return i;
        }
      }
      Node other = all.get(owner);
      int i =
          other == null || other.cells == null
              ? -1
              : Arrays.binarySearch(other.cells, 0, other.own, cell);
      long key = i >= 0 ? cell : TRUE | cells.of(p.xyz(), v);
      int known = outside.size();
      int found = outside.of(key);
      if (found == known) {
        if (i >= 0) {
          put(other.xyz, i, other.normals[i], coloured ? other.colours[i] : 0, cell);
        } else {
          boolean light = !child.isLeaf();
          int corner = light ? 0 : corner(p, v);
          put(
              p.xyz(),
              v,
              light ? p.normals()[v] : meshNormals[mesh.triangles()[corner]],
              !coloured ? 0 : light ? p.colours()[v] : colour(corner),
              -1);
        }
      }
      return node.own + found;
    }

    private int corner(Piece p, int v) {
      int c = 0;
      while (p.corners()[c] != v) {
        c++;
      }
      return 3 * p.ids()[c / 3] + c % 3;
    }

    private int colour(int corner) {
      return VertexColours.at(mesh, corner / 3, corner % 3 == 1 ? 1 : 0, corner % 3 == 2 ? 1 : 0);
    }

    private void put(float[] from, int v, int normal, int colour, long cell) {
      if (vertices == cellOf.length) {
        int more = 2 * vertices;
        xyz = Arrays.copyOf(xyz, 3 * more);
        normals = Arrays.copyOf(normals, more);
        colours = coloured ? Arrays.copyOf(colours, more) : null;
        cellOf = Arrays.copyOf(cellOf, more);
      }
      System.arraycopy(from, 3 * v, xyz, 3 * vertices, 3);
      normals[vertices] = normal;
      if (coloured) {
        colours[vertices] = colour;
      }
      cellOf[vertices++] = cell;
    }
  }
}
