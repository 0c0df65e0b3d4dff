package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Map;

/**
 * Brings a hierarchy in line with an edited mesh: leaves that lost or gained triangles are made
 * anew, and the light meshes above them; all else is shared and only gets its triangles' new
 * numbers. O(T) for the numbers, but a small part of the cost of a new hierarchy.
 */
final class Update {
  /** With more of the new mesh's triangles unknown than this share, starting over is better. */
  private static final double MOST_ADDED = 0.2;

  private static final int GRAIN = 64;

  private final Hierarchy old;
  private final Mesh mesh;
  private final MeshMatch match;
  private final int[] normals;
  private final Leaves maker;

  /** Triangles added, by the leaf of the old tree they reach into. */
  private final Map<Node, Ints> added = new IdentityHashMap<>();

  /** Triangles added where the old tree had no leaf, by node above and octant. */
  private final Map<Node, Ints[]> addedBeside = new IdentityHashMap<>();

  private final Map<Node, Node> made = new IdentityHashMap<>();
  private final List<List<Node>> dirty = new ArrayList<>();

  private Update(Hierarchy old, Mesh mesh, MeshMatch match) {
    this.old = old;
    this.mesh = mesh;
    this.match = match;
    normals = new int[mesh.vertexCount()];
    maker = new Leaves(mesh, old.cells, normals);
  }

  /** The hierarchy of the edited mesh; null where it is better made from nothing. */
  static Hierarchy of(Hierarchy old, Mesh mesh, Work work) {
    if (mesh.isEmpty() || mesh.triangleCount() < old.mesh().triangleCount() / 4) {
      return null;
    }
    MeshMatch match = MeshMatch.of(old.mesh(), mesh, work.part(0.3, "Preparing the view"));
    if (match.added().length > MOST_ADDED * mesh.triangleCount()) {
      return null;
    }
    for (int t : match.added()) {
      for (int k = 0; k < 3; k++) {
        if (!old.cells.holds(mesh.xyz(), mesh.triangles()[3 * t + k])) {
          return null;
        }
      }
    }
    return new Update(old, mesh, match).run(work.part(0.7, "Preparing the view"));
  }

  private Hierarchy run(Work work) {
    for (int t : match.added()) {
      deal(t);
    }
    List<List<Node>> depths = new ArrayList<>();
    Hierarchy.collect(old.root(), depths);
    List<Node> leaves = new ArrayList<>();
    depths.forEach(d -> d.stream().filter(Node::isLeaf).forEach(leaves::add));
    renew(leaves, work.part(0.6, "Preparing the view"));
    Node root = assemble(old.root());
    Levels levels = new Levels(mesh, old.cells, normals);
    Work rest = work.part(0.4, "Preparing the view");
    for (int d = dirty.size() - 1; d >= 0; d--) {
      List<Node> all = new ArrayList<>();
      atDepth(root, d, all);
      levels.make(
          dirty.get(d),
          dirty.get(d),
          Levels.byKey(all),
          rest.part(1.0 / dirty.size(), "Preparing the view"));
    }
    return new Hierarchy(mesh, old.cells, root, normals);
  }

  /** Notes an added triangle at each leaf that a corner of it lies in. */
  private void deal(int t) {
    for (int k = 0; k < 3; k++) {
      long finest = old.cells.of(mesh.xyz(), mesh.triangles()[3 * t + k]);
      Node n = old.root();
      while (!n.isLeaf()) {
        Node child = child(n, Cells.node(finest, n.depth + 1));
        if (child == null) {
          break;
        }
        n = child;
      }
      if (n.isLeaf()) {
        added.computeIfAbsent(n, x -> new Ints()).addOnce(t);
      } else {
        int octant = Cells.octant(Cells.node(finest, n.depth + 1));
        Ints[] beside = addedBeside.computeIfAbsent(n, x -> new Ints[8]);
        if (beside[octant] == null) {
          beside[octant] = new Ints();
        }
        beside[octant].addOnce(t);
      }
    }
  }

  private static Node child(Node n, long key) {
    for (Node c : n.children) {
      if (c.key == key) {
        return c;
      }
    }
    return null;
  }

  /** Makes the new leaves: first those that only change their numbers, then those that change. */
  private void renew(List<Node> leaves, Work work) {
    Node[] fresh = new Node[leaves.size()];
    boolean[] changed = new boolean[leaves.size()];
    Parallel.range(
        leaves.size(),
        GRAIN,
        work.part(0.5, "Preparing the view"),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            Node leaf = leaves.get(i);
            changed[i] = added.containsKey(leaf) || lost(leaf);
            if (!changed[i]) {
              fresh[i] = renumbered(leaf);
              keepNormals(leaf);
            }
          }
        });
    Parallel.range(
        leaves.size(),
        GRAIN,
        work.part(0.5, "Preparing the view"),
        (from, to) -> {
          Leaves.Scratch s = new Leaves.Scratch();
          for (int i = from; i < to; i++) {
            if (changed[i]) {
              fresh[i] = remade(leaves.get(i), s);
            }
          }
        });
    for (int i = 0; i < fresh.length; i++) {
      made.put(leaves.get(i), fresh[i]);
    }
  }

  private boolean lost(Node leaf) {
    for (int[] ids : leaf.leaf.ids()) {
      for (int id : ids) {
        if (match.to()[id] < 0) {
          return true;
        }
      }
    }
    return false;
  }

  private Piece[] renumbered(Piece[] pieces) {
    Piece[] out = new Piece[pieces.length];
    for (int i = 0; i < out.length; i++) {
      int[] ids = pieces[i].ids().clone();
      for (int k = 0; k < ids.length; k++) {
        ids[k] = match.to()[ids[k]];
      }
      out[i] = pieces[i].withIds(ids);
    }
    return out;
  }

  private Node renumbered(Node leaf) {
    Node n = new Node(leaf.depth, leaf.key, null);
    n.leaf = leaf.leaf.renumbered(mesh, match.to());
    n.takeShape(leaf);
    return n;
  }

  /** Takes the normals of a leaf's vertices over; those of leaves that change are made after. */
  private void keepNormals(Node leaf) {
    int[] before = old.mesh().triangles();
    int[] now = mesh.triangles();
    for (int[] ids : leaf.leaf.ids()) {
      for (int id : ids) {
        int t = match.to()[id];
        for (int k = 0; k < 3; k++) {
          normals[now[3 * t + k]] = old.normals()[before[3 * id + k]];
        }
      }
    }
  }

  /** Null where nothing is left. */
  private Node remade(Node leaf, Leaves.Scratch s) {
    Ints list = new Ints();
    for (int[] ids : leaf.leaf.ids()) {
      for (int id : ids) {
        if (match.to()[id] >= 0) {
          list.add(match.to()[id]);
        }
      }
    }
    Ints more = added.get(leaf);
    if (more != null) {
      list.addAll(more);
    }
    return filled(leaf.depth, leaf.key, list, s);
  }

  private Node filled(int depth, long key, Ints list, Leaves.Scratch s) {
    if (list.size() == 0) {
      return null;
    }
    Node n = new Node(depth, key, null);
    maker.fill(n, list.array(), 0, list.size(), s);
    return n;
  }

  /** The new node in place of an old one, from the new leaves up; null where nothing is left. */
  private Node assemble(Node was) {
    if (was.isLeaf()) {
      return made.get(was);
    }
    List<Node> children = new ArrayList<>(8);
    boolean same = true;
    for (Node c : was.children) {
      Node now = assemble(c);
      same &= now != null && now.isShared;
      if (now != null) {
        children.add(now);
      }
    }
    Ints[] beside = addedBeside.get(was);
    if (beside != null) {
      same = false;
      Leaves.Scratch s = new Leaves.Scratch();
      for (int o = 0; o < 8; o++) {
        if (beside[o] != null) {
          children.add(filled(was.depth + 1, Cells.child(was.key, o), beside[o], s));
        }
      }
    }
    if (children.isEmpty()) {
      return null;
    }
    Node n = new Node(was.depth, was.key, children.toArray(Node[]::new));
    if (same) {
      n.takeShape(was);
      n.light = was.light == null ? null : renumbered(was.light);
    } else {
      while (dirty.size() <= n.depth) {
        dirty.add(new ArrayList<>());
      }
      dirty.get(n.depth).add(n);
    }
    return n;
  }

  private static void atDepth(Node n, int depth, List<Node> into) {
    if (n.depth == depth) {
      into.add(n);
    } else if (!n.isLeaf()) {
      for (Node c : n.children) {
        atDepth(c, depth, into);
      }
    }
  }

  /** A growing list of whole numbers. */
  private static final class Ints {
    private int[] list = new int[16];
    private int size;

    void add(int x) {
      if (size == list.length) {
        list = Arrays.copyOf(list, 2 * size);
      }
      list[size++] = x;
    }

    /** Adds a number unless it was the last one added. */
    void addOnce(int x) {
      if (size == 0 || list[size - 1] != x) {
        add(x);
      }
    }

    void addAll(Ints other) {
      for (int i = 0; i < other.size; i++) {
        add(other.list[i]);
      }
    }

    int size() {
      return size;
    }

    int[] array() {
      return list;
    }
  }
}
