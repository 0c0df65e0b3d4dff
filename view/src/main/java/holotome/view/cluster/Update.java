package holotome.view.cluster;

import holotome.core.array.Ranks;
import holotome.core.mesh.Lineage;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.words.ViewWords;
import java.util.ArrayList;
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

  /** Loops of one thread look for a cancel whenever these bits are all zero. */
  private static final int OFTEN = (1 << 16) - 1;

  private final Hierarchy old;
  private final Mesh mesh;
  private final Lineage.Common match;
  private final int[] fresh;
  private final int[] normals;
  private final Leaves maker;

  /** Triangles added, by the leaf of the old tree they reach into. */
  private final Map<Node, IntList> added = new IdentityHashMap<>();

  /** Triangles added where the old tree had no leaf, by node above and octant. */
  private final Map<Node, IntList[]> addedBeside = new IdentityHashMap<>();

  private final Map<Node, Node> made = new IdentityHashMap<>();

  /** What {@link #addedBeside} led to. */
  private final Map<Node, List<Node>> madeBeside = new IdentityHashMap<>();

  private final List<List<Node>> dirty = new ArrayList<>();

  private Update(Hierarchy old, Mesh mesh, Lineage.Common match, int[] fresh) {
    this.old = old;
    this.mesh = mesh;
    this.match = match;
    this.fresh = fresh;
    normals = new int[mesh.vertexCount()];
    maker = new Leaves(mesh, old.cells, normals);
  }

  /** The hierarchy of the edited mesh; null where it is better made from nothing. */
  static Hierarchy of(Hierarchy old, Mesh mesh, Work work) {
    if (mesh.isEmpty() || mesh.triangleCount() < old.mesh().triangleCount() / 4) {
      return null;
    }
    Lineage.Common match = Lineage.common(old.mesh().lineage(), mesh.lineage());
    if (match == null) {
      return null;
    }
    int[] fresh = fresh(mesh, match, work.part(0.3, ViewWords.of("common.preparing-the-view")));
    if (fresh.length > MOST_ADDED * mesh.triangleCount()) {
      return null;
    }
    for (int t : fresh) {
      for (int k = 0; k < 3; k++) {
        if (!old.cells.holds(mesh.xyz(), mesh.triangles()[3 * t + k])) {
          return null;
        }
      }
    }
    return new Update(old, mesh, match, fresh)
        .run(work.part(0.7, ViewWords.of("common.preparing-the-view")));
  }

  /** The triangles that are none of the old mesh's, rising. */
  private static int[] fresh(Mesh mesh, Lineage.Common match, Work work) {
    int n = mesh.triangleCount();
    Ranks all = Submesh.chosen(n, t -> match.from(t) < 0, work);
    int[] out = new int[all.size()];
    for (int i = 0; i < out.length; i++) {
      out[i] = all.select(i);
    }
    return out;
  }

  private Hierarchy run(Work work) {
    for (int t : fresh) {
      if ((t & OFTEN) == 0) {
        work.check();
      }
      deal(t);
    }
    List<List<Node>> depths = new ArrayList<>();
    Hierarchy.collect(old.root(), depths);
    List<Node> leaves = new ArrayList<>();
    depths.forEach(d -> d.stream().filter(Node::isLeaf).forEach(leaves::add));
    renew(leaves, work.part(0.6, ViewWords.of("common.preparing-the-view")));
    Node root = assemble(old.root());
    Levels levels = new Levels(mesh, old.cells, normals);
    Work rest = work.part(0.4, ViewWords.of("common.preparing-the-view"));
    for (int d = dirty.size() - 1; d >= 0; d--) {
      List<Node> all = new ArrayList<>();
      atDepth(root, d, all);
      levels.make(
          dirty.get(d),
          dirty.get(d),
          Levels.byKey(all),
          rest.part(1.0 / dirty.size(), ViewWords.of("common.preparing-the-view")));
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
        added.computeIfAbsent(n, x -> new IntList()).addOnce(t);
      } else {
        int octant = Cells.octant(Cells.node(finest, n.depth + 1));
        IntList[] beside = addedBeside.computeIfAbsent(n, x -> new IntList[8]);
        if (beside[octant] == null) {
          beside[octant] = new IntList();
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
    Node[] kept = new Node[leaves.size()];
    boolean[] changed = new boolean[leaves.size()];
    Parallel.range(
        leaves.size(),
        GRAIN,
        work.part(0.5, ViewWords.of("common.preparing-the-view")),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            Node leaf = leaves.get(i);
            changed[i] = added.containsKey(leaf) || lost(leaf);
            if (!changed[i]) {
              kept[i] = renumbered(leaf);
              keepNormals(leaf);
            }
          }
        });
    List<Node> gone = new ArrayList<>();
    for (int i = 0; i < kept.length; i++) {
      if (changed[i]) {
        gone.add(leaves.get(i));
      } else {
        made.put(leaves.get(i), kept[i]);
      }
    }
    grow(gone, work.part(0.5, ViewWords.of("common.preparing-the-view")));
  }

  /** Makes what comes in place of leaves that changed, and where there was none. */
  private void grow(List<Node> gone, Work work) {
    List<Growth.Seed> seeds = new ArrayList<>();
    for (Node leaf : gone) {
      seeds.add(new Growth.Seed(leaf.depth, leaf.key, left(leaf)));
    }
    List<Node> above = new ArrayList<>(addedBeside.keySet());
    for (Node n : above) {
      IntList[] beside = addedBeside.get(n);
      for (int o = 0; o < 8; o++) {
        if (beside[o] != null) {
          seeds.add(new Growth.Seed(n.depth + 1, Cells.child(n.key, o), beside[o].toArray()));
        }
      }
    }
    Node[] grown = new Growth(mesh, old.cells, maker).of(seeds, work);
    int next = 0;
    for (Node leaf : gone) {
      made.put(leaf, grown[next++]);
    }
    for (Node n : above) {
      for (IntList part : addedBeside.get(n)) {
        if (part != null) {
          madeBeside.computeIfAbsent(n, x -> new ArrayList<>()).add(grown[next++]);
        }
      }
    }
  }

  private boolean lost(Node leaf) {
    for (int[] ids : leaf.leaf.ids()) {
      for (int id : ids) {
        if (match.to(id) < 0) {
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
        ids[k] = match.to(ids[k]);
      }
      out[i] = pieces[i].withIds(ids);
    }
    return out;
  }

  private Node renumbered(Node leaf) {
    Node n = new Node(leaf.depth, leaf.key, null);
    n.leaf = leaf.leaf.renumbered(mesh, match);
    n.takeShape(leaf);
    return n;
  }

  /** Takes the normals of a leaf's vertices over; those of leaves that change are made after. */
  private void keepNormals(Node leaf) {
    int[] before = old.mesh().triangles();
    int[] now = mesh.triangles();
    for (int[] ids : leaf.leaf.ids()) {
      for (int id : ids) {
        int t = match.to(id);
        for (int k = 0; k < 3; k++) {
          normals[now[3 * t + k]] = old.normals()[before[3 * id + k]];
        }
      }
    }
  }

  /** The triangles of a leaf that changed, under their new numbers. */
  private int[] left(Node leaf) {
    IntList list = new IntList();
    for (int[] ids : leaf.leaf.ids()) {
      for (int id : ids) {
        int t = match.to(id);
        if (t >= 0) {
          list.add(t);
        }
      }
    }
    IntList more = added.get(leaf);
    if (more != null) {
      list.addAll(more);
    }
    return list.toArray();
  }

  /** The new node in place of an old one, from the new leaves up; null where nothing is left. */
  private Node assemble(Node was) {
    if (was.isLeaf()) {
      return noted(made.get(was));
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
    for (Node grown : madeBeside.getOrDefault(was, List.of())) {
      same = false;
      children.add(noted(grown));
    }
    if (children.isEmpty()) {
      return null;
    }
    Node n = new Node(was.depth, was.key, children.toArray(Node[]::new));
    if (same) {
      n.takeShape(was);
      n.light = was.light == null ? null : renumbered(was.light);
    } else {
      note(n);
    }
    return n;
  }

  /** Notes all above the leaves of what was made anew: their light meshes are to be made. */
  private Node noted(Node grown) {
    if (grown != null && !grown.isLeaf()) {
      note(grown);
      for (Node c : grown.children) {
        noted(c);
      }
    }
    return grown;
  }

  private void note(Node n) {
    while (dirty.size() <= n.depth) {
      dirty.add(new ArrayList<>());
    }
    dirty.get(n.depth).add(n);
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
}
