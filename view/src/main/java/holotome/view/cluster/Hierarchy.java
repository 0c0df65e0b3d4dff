package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.view.words.ViewWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;

/**
 * A mesh as an octree of pieces of some hundred triangles, each node with a lighter mesh that
 * stands for all below it and the distance it is from what it stands for. Drawing chooses for each
 * place the lightest that is right within a pixel, after the batched and view-dependent hierarchies
 * of Cignoni and others ("Batched multi triangulation", 2005), with the light meshes made by vertex
 * clustering on nested grids.
 *
 * <p>Immutable once made. Building costs O(T), on all cores but for dealing out the vertices, and
 * 26 to 32 bytes per triangle, of which about half are let go where memory is short; about 5 more
 * while it is built.
 */
public final class Hierarchy {
  private final Mesh mesh;
  final Cells cells;
  private final Node root;
  private final int[] normals;

  Hierarchy(Mesh mesh, Cells cells, Node root, int[] normals) {
    this.mesh = mesh;
    this.cells = cells;
    this.root = root;
    this.normals = normals;
  }

  public static Hierarchy of(Mesh mesh, Work work) {
    Cells cells = Cells.around(mesh);
    VertexTree tree =
        new VertexTree(mesh, cells, work.part(0.25, ViewWords.of("common.preparing-the-view")));
    int[] normals = new int[mesh.vertexCount()];
    new Leaves(mesh, cells, normals)
        .fill(tree, work.part(0.4, ViewWords.of("common.preparing-the-view")));
    List<List<Node>> depths = new ArrayList<>();
    collect(tree.root, depths);
    Levels levels = new Levels(mesh, cells, normals);
    Work rest = work.part(0.35, ViewWords.of("common.preparing-the-view"));
    for (int d = depths.size() - 1; d >= 0; d--) {
      List<Node> inner = depths.get(d).stream().filter(n -> !n.isLeaf()).toList();
      Map<Long, Node> all = Levels.byKey(depths.get(d));
      levels.make(
          inner,
          inner,
          all,
          rest.part(1.0 / depths.size(), ViewWords.of("common.preparing-the-view")));
    }
    return new Hierarchy(mesh, cells, tree.root, normals);
  }

  /**
   * The hierarchy of an edited mesh, made from this one of the mesh before; from nothing where they
   * have too little in common. Costs a pass over both meshes and what the edit touched.
   */
  public Hierarchy updated(Mesh edited, Work work) {
    Hierarchy h =
        Update.of(this, edited, work.part(0.5, ViewWords.of("common.preparing-the-view")));
    return h != null ? h : of(edited, work.part(0.5, ViewWords.of("common.preparing-the-view")));
  }

  /** The nodes by depth, each depth in the order of the curve. */
  static void collect(Node node, List<List<Node>> depths) {
    while (depths.size() <= node.depth) {
      depths.add(new ArrayList<>());
    }
    depths.get(node.depth).add(node);
    if (!node.isLeaf()) {
      for (Node c : node.children) {
        collect(c, depths);
      }
    }
  }

  public Mesh mesh() {
    return mesh;
  }

  public Node root() {
    return root;
  }

  /** Lets go of all that can be made again from the mesh when it is next drawn. */
  public void letGo() {
    letGo(root);
  }

  private static void letGo(Node n) {
    if (n.isLeaf()) {
      n.leaf.letGo();
      return;
    }
    for (Node c : n.children) {
      letGo(c);
    }
  }

  /** How far apart the vertices of a node's light mesh are, about; base units. */
  public double grain(Node n) {
    return cells.width(n.depth);
  }

  /** Packed normals, one per vertex of the mesh; see {@link PackedNormal}. */
  public int[] normals() {
    return normals;
  }
}
