package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.lang.invoke.MethodHandles;
import java.lang.invoke.VarHandle;
import java.util.Arrays;

/**
 * Which half-edge lies across each half-edge.
 *
 * <p>Half-edge {@code h = 3t + k} of triangle t runs from its corner k to corner (k + 1) mod 3.
 * {@code twin[h]} is the opposite half-edge where exactly two half-edges share the edge and run in
 * opposite directions; {@link #BORDER} where it is alone; {@link #CROWDED} where more than two
 * share it; and {@code ~p} minus 2 (see {@link #misfit}) where its only partner p runs the same
 * way.
 *
 * <p>Half-edges are chained under their lower vertex and sorted there: O(V + T) time on all cores
 * and 4 V bytes beside the result.
 */
public final class Adjacency {
  public static final int BORDER = -1;
  public static final int CROWDED = -2;
  private static final int GRAIN = 1 << 15;

  private static final VarHandle CHAIN = MethodHandles.arrayElementVarHandle(int[].class);

  private final Mesh mesh;
  private final int[] twin;
  private final long edgeCount;
  private final long crowdedEdges;
  private final long misfitEdges;
  private final long borderEdges;

  private Adjacency(Mesh mesh, int[] twin, long[] counts) {
    this.mesh = mesh;
    this.twin = twin;
    this.edgeCount = counts[0];
    this.borderEdges = counts[1];
    this.crowdedEdges = counts[2];
    this.misfitEdges = counts[3];
  }

  public static int next(int h) {
    return h % 3 == 2 ? h - 2 : h + 1;
  }

  public static int previous(int h) {
    return h % 3 == 0 ? h + 2 : h - 1;
  }

  /** The partner that runs the same way, for a twin value below {@link #CROWDED}; else -1. */
  public static int misfit(int twinValue) {
    return twinValue < CROWDED ? -3 - twinValue : -1;
  }

  public static Adjacency of(Mesh mesh) {
    return of(mesh, Work.unwatched());
  }

  public static Adjacency of(Mesh mesh, Work work) {
    int[] tri = mesh.triangles();
    int n = mesh.vertexCount();
    // Per vertex the half-edges it is the lower end of, as a chain in any order. The links stand
    // where the twins will: a chain is gone along before its twins are written.
    int[] head = new int[n];
    int[] twin = new int[tri.length];
    Parallel.range(
        tri.length / 3,
        GRAIN,
        work.part(0.4, CoreWords.of("work.finding-neighbours")),
        (from, to) -> {
          for (int h = 3 * from; h < 3 * to; h += 3) {
            int a = tri[h];
            int b = tri[h + 1];
            int c = tri[h + 2];
            twin[h] = (int) CHAIN.getAndSet(head, Math.min(a, b), h + 1);
            twin[h + 1] = (int) CHAIN.getAndSet(head, Math.min(b, c), h + 2);
            twin[h + 2] = (int) CHAIN.getAndSet(head, Math.min(c, a), h + 3);
          }
        });
    long[][] counts = new long[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.6, CoreWords.of("work.finding-neighbours")),
        (c, from, to) -> {
          Matching m = new Matching(tri, twin);
          for (int v = from; v < to; v++) {
            m.match(v, head[v]);
          }
          counts[c] = m.counts;
        });
    long[] sum = new long[4];
    for (long[] k : counts) {
      for (int i = 0; i < 4; i++) {
        sum[i] += k[i];
      }
    }
    return new Adjacency(mesh, twin, sum);
  }

  /** Pairs up the half-edges that have one vertex as their lower end. */
  private static final class Matching {
    private final int[] tri;
    private final int[] twin;
    private final long[] counts = new long[4];

    /** Far end and number of each, rising once sorted: so the order of the chain is all one. */
    private long[] keys = new long[64];

    Matching(int[] tri, int[] twin) {
      this.tri = tri;
      this.twin = twin;
    }

    void match(int v, int first) {
      int n = 0;
      for (int h = first - 1; h >= 0; h = twin[h] - 1) {
        int a = tri[h];
        int far = a == v ? tri[next(h)] : a;
        if (n == keys.length) {
          keys = Arrays.copyOf(keys, 2 * n);
        }
        keys[n++] = (long) far << 32 | h;
      }
      sort(n);
      int i = 0;
      while (i < n) {
        int far = (int) (keys[i] >>> 32);
        int j = i + 1;
        while (j < n && (int) (keys[j] >>> 32) == far) {
          j++;
        }
        pair(i, j);
        i = j;
      }
    }

    /** By insertion: a vertex has about three; one with many more is sorted by the library. */
    private void sort(int n) {
      if (n > 64) {
        Arrays.sort(keys, 0, n);
        return;
      }
      for (int i = 1; i < n; i++) {
        long key = keys[i];
        int j = i - 1;
        while (j >= 0 && keys[j] > key) {
          keys[j + 1] = keys[j];
          j--;
        }
        keys[j + 1] = key;
      }
    }

    /** The half-edges of one edge. */
    private void pair(int from, int to) {
      int a = (int) keys[from];
      counts[0]++;
      if (to - from == 1) {
        twin[a] = BORDER;
        counts[1]++;
      } else if (to - from == 2) {
        int b = (int) keys[from + 1];
        boolean isMisfit = tri[a] == tri[b];
        twin[a] = isMisfit ? -3 - b : b;
        twin[b] = isMisfit ? -3 - a : a;
        counts[3] += isMisfit ? 1 : 0;
      } else {
        for (int k = from; k < to; k++) {
          twin[(int) keys[k]] = CROWDED;
        }
        counts[2]++;
      }
    }
  }

  public Mesh mesh() {
    return mesh;
  }

  /** One entry per half-edge; see the class comment. Not to be written to. */
  public int[] twin() {
    return twin;
  }

  public long edgeCount() {
    return edgeCount;
  }

  public long borderEdges() {
    return borderEdges;
  }

  /** Edges that more than two triangles share. */
  public long crowdedEdges() {
    return crowdedEdges;
  }

  /** Edges whose two triangles disagree about the direction of the surface. */
  public long misfitEdges() {
    return misfitEdges;
  }
}
