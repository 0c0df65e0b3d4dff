package holotome.core.cut;

import holotome.core.array.Ranks;
import holotome.core.attribute.Redrawn;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;

/**
 * A mesh cut along the facets of a {@link Knife}, and the part within or without it.
 *
 * <p>Triangles that cross a facet are split along its plane; a neighbour beyond the facet's end
 * that shares a split edge is split at the same vertex, so that nothing opens but along the facets.
 * One facet comes after the other, on what the earlier ones left; a corner between two facets so
 * becomes a vertex. What is split then lies wholly within or without, told by its centre. Vertices
 * nearer to a plane than a hair (2e-7 of the diagonal) count as lying on it. One parallel pass over
 * the mesh, then work in proportion to the triangles along the facets.
 */
public final class KnifeSplit {
  private static final int GRAIN = 1 << 14;

  private final Mesh mesh;
  private final int[] tri;
  private final Knife knife;
  private final double hair;

  /** The triangles along the facets and their neighbours, rising; each with its pieces. */
  private int[] owner = new int[0];

  private int[] firstPiece;
  private final Pieces pieces;

  private KnifeSplit(Mesh mesh, Knife knife) {
    this.mesh = mesh;
    this.tri = mesh.triangles();
    this.knife = knife;
    this.hair = 2e-7 * mesh.bounds().diagonal();
    this.pieces = new Pieces(mesh);
  }

  /** The part within (or without) the knife's bounds. */
  public static Mesh of(Mesh mesh, Knife knife, boolean within, Work work) {
    return new KnifeSplit(mesh, knife).run(within, work);
  }

  private Mesh run(boolean within, Work work) {
    int n = mesh.triangleCount();
    Met met = meetings(work.part(0.4, CoreWords.of("work.cutting")));
    BitSet touched = new BitSet(n);
    for (long m : met.pairs) {
      touched.set((int) m);
    }
    gatherOwners(touched);
    int[][] neighbours = neighbours();
    work.advance(0.1);
    cutAlongFacets(met, neighbours, work.part(0.2, CoreWords.of("work.cutting")));
    return assemble(within, work.part(0.3, CoreWords.of("work.cutting")));
  }

  /**
   * @param pairs facet << 32 | triangle, rising
   */
  private record Met(long[] pairs) {}

  private Met meetings(Work work) {
    int n = mesh.triangleCount();
    long[][] parts = new long[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work,
        (c, from, to) -> {
          long[][] list = {new long[16]};
          int[] count = {0};
          double[] nine = new double[9];
          for (int t = from; t < to; t++) {
            int triangle = t;
            corners(t, nine);
            knife.facetsOf(
                nine,
                f -> {
                  if (count[0] == list[0].length) {
                    list[0] = Arrays.copyOf(list[0], 2 * count[0]);
                  }
                  list[0][count[0]++] = (long) f << 32 | triangle;
                });
          }
          parts[c] = Arrays.copyOf(list[0], count[0]);
        });
    int total = Arrays.stream(parts).mapToInt(p -> p.length).sum();
    long[] all = new long[total];
    int at = 0;
    for (long[] p : parts) {
      System.arraycopy(p, 0, all, at, p.length);
      at += p.length;
    }
    Arrays.parallelSort(all);
    return new Met(all);
  }

  private void corners(int t, double[] nine) {
    float[] p = mesh.xyz();
    for (int k = 0; k < 3; k++) {
      int v = 3 * tri[3 * t + k];
      nine[3 * k] = p[v];
      nine[3 * k + 1] = p[v + 1];
      nine[3 * k + 2] = p[v + 2];
    }
  }

  /** The touched triangles and all that share two vertices with one of them. */
  private void gatherOwners(BitSet touched) {
    byte[] marked = new byte[mesh.vertexCount()];
    for (int t = touched.nextSetBit(0); t >= 0; t = touched.nextSetBit(t + 1)) {
      marked[tri[3 * t]] = 1;
      marked[tri[3 * t + 1]] = 1;
      marked[tri[3 * t + 2]] = 1;
    }
    int n = mesh.triangleCount();
    int count = 0;
    int[] list = new int[Math.max(16, 3 * touched.cardinality())];
    for (int t = 0; t < n; t++) {
      if (marked[tri[3 * t]] + marked[tri[3 * t + 1]] + marked[tri[3 * t + 2]] >= 2) {
        if (count == list.length) {
          list = Arrays.copyOf(list, 2 * count);
        }
        list[count++] = t;
      }
    }
    owner = Arrays.copyOf(list, count);
    firstPiece = new int[count];
    for (int i = 0; i < count; i++) {
      firstPiece[i] = pieces.addWhole(owner[i]);
    }
  }

  /** Per owner the owners that share an edge with it. */
  private int[][] neighbours() {
    Map<Long, int[]> byEdge = new HashMap<>();
    for (int i = 0; i < owner.length; i++) {
      for (int k = 0; k < 3; k++) {
        long key = Pieces.key(tri[3 * owner[i] + k], tri[3 * owner[i] + (k + 1) % 3]);
        byEdge.merge(key, new int[] {i}, KnifeSplit::append);
      }
    }
    int[][] out = new int[owner.length][];
    for (int i = 0; i < owner.length; i++) {
      int[] all = new int[0];
      for (int k = 0; k < 3; k++) {
        long key = Pieces.key(tri[3 * owner[i] + k], tri[3 * owner[i] + (k + 1) % 3]);
        for (int j : byEdge.get(key)) {
          if (j != i) {
            all = append(all, new int[] {j});
          }
        }
      }
      out[i] = all;
    }
    return out;
  }

  private static int[] append(int[] a, int[] b) {
    int[] out = Arrays.copyOf(a, a.length + b.length);
    System.arraycopy(b, 0, out, a.length, b.length);
    return out;
  }

  private void cutAlongFacets(Met met, int[][] neighbours, Work work) {
    int from = 0;
    Map<Long, Integer> split = new HashMap<>();
    BitSet group = new BitSet(owner.length);
    double[] nine = new double[9];
    while (from < met.pairs.length) {
      int facet = (int) (met.pairs[from] >>> 32);
      int to = from;
      split.clear();
      group.clear();
      while (to < met.pairs.length && (int) (met.pairs[to] >>> 32) == facet) {
        int o = Arrays.binarySearch(owner, (int) met.pairs[to]);
        group.set(o);
        for (int piece = firstPiece[o]; piece >= 0; piece = pieces.next(piece)) {
          pieces.corners(piece, nine);
          if (knife.meets(facet, nine)) {
            markCrossings(facet, piece, split);
          }
        }
        to++;
      }
      if (!split.isEmpty()) {
        BitSet reached = (BitSet) group.clone();
        for (int o = group.nextSetBit(0); o >= 0; o = group.nextSetBit(o + 1)) {
          for (int other : neighbours[o]) {
            reached.set(other);
          }
        }
        for (int o = reached.nextSetBit(0); o >= 0; o = reached.nextSetBit(o + 1)) {
          pieces.splitAll(firstPiece[o], split);
        }
      }
      work.advance((double) (to - from) / met.pairs.length);
      from = to;
    }
  }

  /** Gives every edge of a piece that crosses the facet's plane a vertex there. */
  private void markCrossings(int facet, int piece, Map<Long, Integer> split) {
    double[] side = new double[3];
    for (int k = 0; k < 3; k++) {
      int v = pieces.vertex(piece, k);
      double d = knife.side(facet, pieces.x(v), pieces.y(v), pieces.z(v));
      side[k] = Math.abs(d) <= hair ? 0 : d;
    }
    for (int k = 0; k < 3; k++) {
      int l = (k + 1) % 3;
      if (side[k] < 0 && side[l] > 0 || side[k] > 0 && side[l] < 0) {
        int a = pieces.vertex(piece, k);
        int b = pieces.vertex(piece, l);
        long key = Pieces.key(a, b);
        if (!split.containsKey(key)) {
          // From the lower number on, so that every triangle at the edge finds the same place.
          double f = a < b ? side[k] / (side[k] - side[l]) : side[l] / (side[l] - side[k]);
          split.put(key, pieces.addVertex(Math.min(a, b), Math.max(a, b), f));
        }
      }
    }
  }

  private Mesh assemble(boolean within, Work work) {
    int n = mesh.triangleCount();
    long[] words = new long[(n + 63) / 64];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.5, CoreWords.of("work.cutting")),
        (from, to) -> {
          double[] nine = new double[9];
          for (int t = from; t < to; t++) {
            corners(t, nine);
            if (isWithin(nine) == within) {
              words[t >>> 6] |= 1L << t;
            }
          }
        });
    BitSet keep = BitSet.valueOf(words);
    int count = pieces.count();
    for (int o : owner) {
      keep.clear(o);
    }
    BitSet keptPieces = new BitSet(count);
    double[] nine = new double[9];
    for (int p = 0; p < count; p++) {
      pieces.corners(p, nine);
      keptPieces.set(p, isWithin(nine) == within);
    }
    Ranks kept = Submesh.chosen(n, keep::get, work.part(0.1, CoreWords.of("work.cutting")));
    int[] corners = new int[3 * (kept.size() + keptPieces.cardinality())];
    int at = 0;
    for (int t = keep.nextSetBit(0); t >= 0; t = keep.nextSetBit(t + 1)) {
      System.arraycopy(tri, 3 * t, corners, 3 * at++, 3);
    }
    Redrawn redrawn = new Redrawn();
    float[] weights = new float[9];
    for (int o = 0; o < owner.length; o++) {
      for (int p = firstPiece[o]; p >= 0; p = pieces.next(p)) {
        if (keptPieces.get(p)) {
          for (int k = 0; k < 3; k++) {
            corners[3 * at + k] = pieces.vertex(p, k);
          }
          pieces.weights(p, weights);
          redrawn.add(at++, owner[o], weights);
        }
      }
    }
    work.advance(0.2);
    return pieces.assemble(kept, redrawn, corners, work.part(0.2, CoreWords.of("work.cutting")));
  }

  private boolean isWithin(double[] t) {
    return knife.contains(
        (t[0] + t[3] + t[6]) / 3, (t[1] + t[4] + t[7]) / 3, (t[2] + t[5] + t[8]) / 3);
  }
}
