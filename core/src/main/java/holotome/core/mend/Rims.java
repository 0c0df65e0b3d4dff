package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/** What is in the way of filling holes, along their rims. */
final class Rims {
  /** A triangle that stands out of a rim by so many times its foot is a tooth. */
  private static final double SHARP = 3;

  private Rims() {}

  /** Joins doubled points along borders, and says so; the same mesh where there are none. */
  static Mesh whole(Mesh mesh, Adjacency adjacency, List<String> notes, Work work) {
    BitSet rim = new BitSet(mesh.vertexCount());
    int[] tri = mesh.triangles();
    for (int h = 0; h < tri.length; h++) {
      if (adjacency.twin()[h] == Adjacency.BORDER) {
        rim.set(tri[h]);
        rim.set(tri[Adjacency.next(h)]);
      }
    }
    PointJoining joining =
        PointJoining.ofSpots(mesh, rim, work.part(0.5, CoreWords.of("work.comparing-points")));
    if (joining.joined() == 0) {
      work.advance(0.5);
      return mesh;
    }
    notes.add(CoreWords.count("rims.joined", joining.joined()));
    return joining.joined(mesh, work.part(0.5, CoreWords.of("work.dropping-triangles")));
  }

  /** Triangles that hang loose in holes, or stand out of their rims like teeth. */
  static BitSet teeth(Mesh mesh, Adjacency adjacency, List<int[]> loops) {
    BitSet out = new BitSet();
    int[] twin = adjacency.twin();
    for (int[] loop : loops) {
      for (int h : loop) {
        int t = h / 3;
        int open = 0;
        int held = -1;
        for (int g = 3 * t; g < 3 * t + 3; g++) {
          open += twin[g] == Adjacency.BORDER ? 1 : 0;
          held = twin[g] == Adjacency.BORDER ? held : g;
        }
        if (open == 3 || open == 2 && isTooth(mesh, held)) {
          out.set(t);
        }
      }
    }
    // What is nothing but teeth is no rim.
    return out.cardinality() < mesh.triangleCount() ? out : new BitSet();
  }

  private static boolean isTooth(Mesh mesh, int held) {
    double[] a = Vec.at(mesh.xyz(), mesh.triangles()[held]);
    double[] b = Vec.at(mesh.xyz(), mesh.triangles()[Adjacency.next(held)]);
    double[] tip = Vec.at(mesh.xyz(), mesh.triangles()[Adjacency.previous(held)]);
    double foot = Vec.distance(a, b);
    return Vec.length(Vec.cross(Vec.sub(b, a), Vec.sub(tip, a))) > SHARP * foot * foot;
  }
}
