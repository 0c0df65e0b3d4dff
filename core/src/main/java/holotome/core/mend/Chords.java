package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.topology.Adjacency;
import java.util.HashMap;
import java.util.HashSet;
import java.util.Map;
import java.util.Set;

/**
 * Pairs of places on a hole's ring that the mesh joins by an edge of its own, away from the ring. A
 * patch must not join them again: the edge would have more than two triangles.
 */
final class Chords {
  private final Set<Long> taken = new HashSet<>();

  /**
   * @param loop the hole's border half-edges
   * @param ring the places around it, as the patch numbers them
   */
  Chords(Mesh mesh, Adjacency adjacency, int[] loop, HoleRing ring) {
    Map<Integer, Integer> place = new HashMap<>();
    for (int i = 0; i < ring.size(); i++) {
      place.put(ring.vertices()[i], i);
    }
    int[] tri = mesh.triangles();
    int[] twin = adjacency.twin();
    for (int h : loop) {
      int me = place.get(tri[h]);
      int e = h;
      for (int guard = 0; guard < 100_000; guard++) {
        Integer other = place.get(tri[Adjacency.next(e)]);
        if (other != null && !ring.areNeighbours(me, other)) {
          taken.add(key(me, other));
        }
        int back = Adjacency.previous(e);
        other = place.get(tri[back]);
        if (other != null && !ring.areNeighbours(me, other)) {
          taken.add(key(me, other));
        }
        if (twin[back] < 0) {
          break;
        }
        e = twin[back];
      }
    }
  }

  private static long key(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  /** Whether the mesh itself joins these two places. */
  boolean has(int a, int b) {
    return !taken.isEmpty() && taken.contains(key(a, b));
  }

  /**
   * Swaps the patch's edges that are taken for the other diagonal of their two triangles, in place.
   * Returns whether none is left.
   */
  boolean swapAway(int[] patch) {
    for (int round = 0; round < 8; round++) {
      Map<Long, Integer> half = new HashMap<>();
      for (int h = 0; h < patch.length; h++) {
        half.put((long) patch[h] << 32 | patch[Adjacency.next(h)], h);
      }
      boolean clean = true;
      Set<Integer> touched = new HashSet<>();
      for (int h = 0; h < patch.length; h++) {
        int a = patch[h];
        int b = patch[Adjacency.next(h)];
        if (!has(a, b)) {
          continue;
        }
        clean = false;
        Integer g = half.get((long) b << 32 | a);
        if (g == null || touched.contains(h / 3) || touched.contains(g / 3)) {
          continue;
        }
        int c = patch[Adjacency.previous(h)];
        int d = patch[Adjacency.previous(g)];
        if (has(c, d)
            || half.containsKey((long) c << 32 | d)
            || half.containsKey((long) d << 32 | c)) {
          continue;
        }
        touched.add(h / 3);
        touched.add(g / 3);
        set(patch, h / 3 * 3, c, a, d);
        set(patch, g / 3 * 3, d, b, c);
      }
      if (clean) {
        return true;
      }
      if (touched.isEmpty()) {
        return false;
      }
    }
    return false;
  }

  private static void set(int[] patch, int at, int a, int b, int c) {
    patch[at] = a;
    patch[at + 1] = b;
    patch[at + 2] = c;
  }
}
