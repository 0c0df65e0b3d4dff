package holotome.core.quad;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Orientation;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * A surface that a grid can be laid on: parted where more than two triangles meet at an edge or
 * several fans at a point, and closed where a hole is smaller than what the grid's steps can go
 * around.
 */
final class Manifold {
  /** So often it is parted; what does not come to be one then is left out. */
  private static final int TRIES = 4;

  private Manifold() {}

  /**
   * The surface, without what the mesh carries.
   *
   * @param hole border loops no longer than this are closed
   */
  static Mesh of(Mesh mesh, double hole, Work work) {
    Mesh plain = new Mesh(mesh.xyz(), mesh.triangles());
    Mesh out = Orientation.agree(plain, new ArrayList<>(), work.part(0.3, label()));
    for (int i = 0; ; i++) {
      Adjacency adjacency = Adjacency.of(out, work.part(i < TRIES ? 0.1 : 0, label()));
      boolean isOne = adjacency.crowdedEdges() == 0 && adjacency.misfitEdges() == 0;
      if (!isOne && i >= TRIES) {
        // Fewer each time: at the latest nothing is left.
        BitSet bad = new BitSet();
        for (int h = 0; h < adjacency.twin().length; h++) {
          if (adjacency.twin()[h] < Adjacency.BORDER) {
            bad.set(h / 3);
          }
        }
        out = Submesh.used(Submesh.of(out, t -> !bad.get(t), Work.unwatched()));
        continue;
      }
      Mesh parted = parted(out, adjacency.twin());
      if (isOne && parted.vertexCount() == out.vertexCount()) {
        return closed(out, adjacency, hole, work);
      }
      out = parted;
    }
  }

  private static String label() {
    return CoreWords.of("work.finding-neighbours");
  }

  /** Every fan around a point has a vertex of its own; those of unused vertices go. */
  private static Mesh parted(Mesh mesh, int[] twin) {
    int[] tri = mesh.triangles();
    int[] next = new int[tri.length];
    Arrays.fill(next, -1);
    float[] xyz = new float[3 * mesh.vertexCount() + 48];
    int n = 0;
    for (int c = 0; c < tri.length; c++) {
      if (next[c] >= 0) {
        continue;
      }
      if (3 * n + 3 > xyz.length) {
        xyz = Arrays.copyOf(xyz, 2 * xyz.length);
      }
      System.arraycopy(mesh.xyz(), 3 * tri[c], xyz, 3 * n, 3);
      // Around to either side, as far as edges have two triangles that agree.
      for (int h = c; h >= 0 && next[h] < 0; h = twin[LatticeSteps.previous(h)]) {
        next[h] = n;
      }
      for (int g = twin[c]; g >= 0 && next[LatticeSteps.next(g)] < 0; ) {
        int h = LatticeSteps.next(g);
        next[h] = n;
        g = twin[h];
      }
      n++;
    }
    return new Mesh(Arrays.copyOf(xyz, 3 * n), next);
  }

  private static Mesh closed(Mesh mesh, Adjacency adjacency, double hole, Work work) {
    List<int[]> small = new ArrayList<>();
    int corners = 0;
    for (int[] loop : Borders.of(adjacency).loops()) {
      if (Borders.perimeter(mesh, loop) <= hole && isPart(mesh, loop)) {
        small.add(Borders.vertices(mesh, loop));
        corners += loop.length;
      }
    }
    work.advance(0.1);
    if (small.isEmpty()) {
      return mesh;
    }
    int n = mesh.vertexCount();
    float[] xyz = Arrays.copyOf(mesh.xyz(), 3 * (n + small.size()));
    int[] tri = Arrays.copyOf(mesh.triangles(), mesh.triangles().length + 3 * corners);
    int at = mesh.triangles().length;
    for (int i = 0; i < small.size(); i++) {
      int[] loop = small.get(i);
      double[] middle = new double[3];
      for (int j = 0; j < loop.length; j++) {
        middle = Vec.add(middle, Vec.mul(Vec.at(mesh.xyz(), loop[j]), 1.0 / loop.length));
        tri[at++] = loop[(j + 1) % loop.length];
        tri[at++] = loop[j];
        tri[at++] = n + i;
      }
      for (int k = 0; k < 3; k++) {
        xyz[3 * (n + i) + k] = (float) middle[k];
      }
    }
    return new Mesh(xyz, tri);
  }

  /** Whether a loop goes around something that is not all of what hangs together with it. */
  private static boolean isPart(Mesh mesh, int[] loop) {
    return loop.length < mesh.triangleCount();
  }
}
