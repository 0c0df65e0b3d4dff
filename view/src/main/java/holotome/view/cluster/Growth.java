package holotome.view.cluster;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;

/**
 * Makes parts of a hierarchy anew from the triangles that reach into them: leaves where they are
 * few, else nodes with leaves below, whose light meshes are still to be made. O(T log T) for the
 * triangles given, on all cores.
 */
final class Growth {
  private final Mesh mesh;
  private final Cells cells;
  private final Leaves leaves;

  Growth(Mesh mesh, Cells cells, Leaves leaves) {
    this.mesh = mesh;
    this.cells = cells;
    this.leaves = leaves;
  }

  /**
   * A cube to be filled.
   *
   * @param triangles all with a corner in it, each once
   */
  record Seed(int depth, long key, int[] triangles) {}

  /** A cube to be filled, and where the node for it goes. */
  private record Task(Node[] into, int place, Seed seed) {}

  /** The nodes for some cubes; null for one without triangles. */
  Node[] of(List<Seed> seeds, Work work) {
    Node[] out = new Node[seeds.size()];
    List<Task> tasks = new ArrayList<>();
    for (int i = 0; i < out.length; i++) {
      if (seeds.get(i).triangles.length > 0) {
        tasks.add(new Task(out, i, seeds.get(i)));
      }
    }
    while (!tasks.isEmpty()) {
      List<Task> now = tasks;
      Task[][] below = new Task[now.size()][];
      Parallel.range(
          now.size(),
          1,
          Work.unwatched(),
          (from, to) -> {
            Leaves.Scratch s = new Leaves.Scratch();
            for (int i = from; i < to; i++) {
              work.check();
              below[i] = make(now.get(i), s);
            }
          });
      tasks = new ArrayList<>();
      for (Task[] b : below) {
        tasks.addAll(List.of(b));
      }
    }
    work.advance(1);
    return out;
  }

  /** Makes one node, and tells what is to be made below it. */
  private Task[] make(Task task, Leaves.Scratch s) {
    Seed seed = task.seed;
    if (seed.triangles.length <= Piece.MOST || seed.depth == Cells.DEEPEST) {
      Node leaf = new Node(seed.depth, seed.key, null);
      leaves.fill(leaf, seed.triangles, 0, seed.triangles.length, s);
      task.into[task.place] = leaf;
      return new Task[0];
    }
    IntList[] parts = parts(seed);
    int count = 0;
    for (IntList p : parts) {
      count += p == null ? 0 : 1;
    }
    Node[] children = new Node[count];
    Task[] below = new Task[count];
    int c = 0;
    for (int o = 0; o < 8; o++) {
      if (parts[o] != null) {
        Seed part = new Seed(seed.depth + 1, Cells.child(seed.key, o), parts[o].toArray());
        below[c] = new Task(children, c, part);
        c++;
      }
    }
    task.into[task.place] = new Node(seed.depth, seed.key, children);
    return below;
  }

  /** The triangles of each eighth of a cube; null for none. */
  private IntList[] parts(Seed seed) {
    IntList[] parts = new IntList[8];
    int[] tri = mesh.triangles();
    for (int t : seed.triangles) {
      for (int k = 0; k < 3; k++) {
        long finest = cells.of(mesh.xyz(), tri[3 * t + k]);
        if (Cells.node(finest, seed.depth) != seed.key) {
          continue;
        }
        int o = Cells.octant(Cells.node(finest, seed.depth + 1));
        if (parts[o] == null) {
          parts[o] = new IntList();
        }
        parts[o].addOnce(t);
      }
    }
    return parts;
  }
}
