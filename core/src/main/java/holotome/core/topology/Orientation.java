package holotome.core.topology;

import holotome.core.attribute.Provenance;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/**
 * Turns triangles so that neighbours agree on the outside: a flood over the edges of two triangles,
 * patch by patch; in each patch the side that holds more triangles stays. O(T). A one-sided surface
 * keeps the edges where the flood meets itself the wrong way round.
 */
public final class Orientation {
  private Orientation() {}

  public static Mesh agree(Mesh mesh, List<String> notes, Work work) {
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.6, CoreWords.of("work.finding-neighbours")));
    if (adjacency.misfitEdges() == 0) {
      return mesh;
    }
    int[] twin = adjacency.twin();
    int n = mesh.triangleCount();
    byte[] side = new byte[n];
    int[] queue = new int[n];
    int turned = 0;
    for (int seed = 0; seed < n; seed++) {
      if (side[seed] != 0) {
        continue;
      }
      int head = 0;
      int tail = 0;
      queue[tail++] = seed;
      side[seed] = 1;
      int against = 0;
      while (head < tail) {
        int t = queue[head++];
        for (int h = 3 * t; h < 3 * t + 3; h++) {
          int g = twin[h];
          int other = g >= 0 ? g : Adjacency.misfit(g);
          if (other >= 0 && side[other / 3] == 0) {
            side[other / 3] = (byte) (g >= 0 ? side[t] : -side[t]);
            against += side[other / 3] < 0 ? 1 : 0;
            queue[tail++] = other / 3;
          }
        }
      }
      boolean keepMinus = 2 * against > tail;
      for (int i = 0; i < tail; i++) {
        int t = queue[i];
        boolean turn = side[t] < 0 != keepMinus;
        side[t] = (byte) (turn ? 2 : 1);
        turned += turn ? 1 : 0;
      }
    }
    work.advance(0.3);
    if (turned == 0) {
      return mesh;
    }
    notes.add(CoreWords.of("common.triangles-turned-over", turned));
    int[] tri = mesh.triangles().clone();
    BitSet over = new BitSet(n);
    for (int t = 0; t < n; t++) {
      if (side[t] == 2) {
        swap(tri, 3 * t + 1);
        over.set(t);
      }
    }
    Provenance p = Provenance.of(mesh.vertexCount(), n).turned(over).build();
    return mesh.derive(
        p, new float[0], tri, work.part(0.1, CoreWords.of("work.turning-triangles")));
  }

  private static void swap(int[] a, int i) {
    int s = a[i];
    a[i] = a[i + 1];
    a[i + 1] = s;
  }
}
