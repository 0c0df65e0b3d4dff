package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Lays patches of a mesh flat: a projection along the mean normal, then as rigid as possible,
 * turned triangles brought back. A patch that cannot be laid flat within the stretch allowed is cut
 * in two and tried again; a single triangle always can.
 */
final class PieceFlattening {
  private static final int ROUNDS = 4;

  /** Above so many vertices a piece is moved block by block. */
  private static final int LARGE = 10_000;

  private final Ground ground;
  private final double most;

  /** For each triangle its place among those of the patch in work; of other patches anything. */
  private final int[] slot;

  private final int[] patch;

  /**
   * @param patch of each triangle
   * @param most stretch allowed
   */
  PieceFlattening(Ground ground, int[] patch, double most) {
    this.ground = ground;
    this.patch = patch;
    this.most = most;
    slot = new int[patch.length];
  }

  /** The pieces that a patch is laid flat in; for patches side by side. */
  List<Piece> flat(int[] triangles, Work work) {
    List<Piece> out = new ArrayList<>();
    ArrayDeque<int[]> todo = new ArrayDeque<>();
    todo.add(triangles);
    while (!todo.isEmpty()) {
      work.check();
      int[] members = todo.poll();
      Piece p = flattened(members, work);
      if (p != null) {
        out.add(p);
      } else {
        todo.addAll(halves(members));
      }
    }
    return out;
  }

  private boolean isMember(int[] members, int t) {
    return slot[t] < members.length && members[slot[t]] == t;
  }

  private Piece flattened(int[] members, Work work) {
    if (members.length == 1) {
      return Piece.single(ground.mesh(), members[0], ground.least());
    }
    Piece p = unplaced(members);
    project(p);
    return p.vertices() > LARGE
        ? Settling.checked(Settling.movedByBlocks(p, work), most)
        : Settling.settled(p, ROUNDS, most);
  }

  /** The triangles joined over the edges between them, all vertices at 0 0. */
  Piece unplaced(int[] members) {
    return Piece.unplaced(ground, members, corners(members));
  }

  /** Corners joined over the edges within. */
  private int[] corners(int[] members) {
    for (int i = 0; i < members.length; i++) {
      slot[members[i]] = i;
    }
    DisjointSets sets = new DisjointSets(3 * members.length);
    for (int i = 0; i < members.length; i++) {
      for (int k = 0; k < 3; k++) {
        int g = ground.twin()[3 * members[i] + k];
        if (g >= 0 && patch[g / 3] == patch[members[i]] && isMember(members, g / 3)) {
          int j = 3 * slot[g / 3];
          sets.join(3 * i + k, j + Adjacency.next(g) % 3);
          sets.join(3 * i + (k + 1) % 3, j + g % 3);
        }
      }
    }
    return sets.numbered();
  }

  private void project(Piece p) {
    Mesh mesh = ground.mesh();
    double[] mean = new double[3];
    for (int t : p.triangles()) {
      for (int k = 0; k < 3; k++) {
        mean[k] += ground.normal()[3 * t + k] * ground.area()[t];
      }
    }
    double[] n = Vec.unit(mean);
    if (Vec.length(n) < 0.5) {
      n = Vec.of(0, 0, 1);
    }
    double[] x = Vec.perpendicular(n);
    double[] y = Vec.cross(n, x);
    for (int i = 0; i < p.corners().length; i++) {
      double[] at = Vec.at(mesh.xyz(), mesh.triangles()[3 * p.triangles()[i / 3] + i % 3]);
      p.uv()[2 * p.corners()[i]] = Vec.dot(at, x);
      p.uv()[2 * p.corners()[i] + 1] = Vec.dot(at, y);
    }
  }

  /**
   * Two parts, and a third where some hangs together with neither; grown breadth first from the two
   * triangles farthest apart.
   */
  private List<int[]> halves(int[] members) {
    for (int i = 0; i < members.length; i++) {
      slot[members[i]] = i;
    }
    int a = farthest(members, 0);
    int b = farthest(members, a);
    int[] label = new int[members.length];
    int[] queue = new int[members.length];
    label[a] = 1;
    label[b] = 2;
    queue[0] = a;
    queue[1] = b;
    int end = 2;
    int[] size = {0, 1, 1};
    for (int at = 0; at < end; at++) {
      int t = members[queue[at]];
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        int u = ground.twin()[h] < 0 ? t : ground.twin()[h] / 3;
        if (patch[u] == patch[t] && isMember(members, u) && label[slot[u]] == 0) {
          label[slot[u]] = label[queue[at]];
          size[label[slot[u]]]++;
          queue[end++] = slot[u];
        }
      }
    }
    // What is reached from neither does not hang together with them.
    size[0] = members.length - size[1] - size[2];
    int[][] out = {new int[size[0]], new int[size[1]], new int[size[2]]};
    int[] fill = new int[3];
    for (int i = 0; i < members.length; i++) {
      out[label[i]][fill[label[i]]++] = members[i];
    }
    return Arrays.asList(out).subList(size[0] > 0 ? 0 : 1, 3);
  }

  private int farthest(int[] members, int from) {
    Mesh mesh = ground.mesh();
    double[] p = Vec.at(mesh.xyz(), mesh.triangles()[3 * members[from]]);
    int best = from == 0 ? members.length - 1 : 0;
    double most = -1;
    for (int i = 0; i < members.length; i++) {
      double d = Vec.distance(p, Vec.at(mesh.xyz(), mesh.triangles()[3 * members[i]]));
      if (d > most && i != from) {
        most = d;
        best = i;
      }
    }
    return best;
  }
}
