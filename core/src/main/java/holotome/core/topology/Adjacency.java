package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * Which half-edge lies across each half-edge.
 *
 * <p>Half-edge {@code h = 3t + k} of triangle t runs from its corner k to corner (k + 1) mod 3.
 * {@code twin[h]} is the opposite half-edge where exactly two half-edges share the edge and run in
 * opposite directions; {@link #BORDER} where it is alone; {@link #CROWDED} where more than two
 * share it; and {@code ~p} minus 2 (see {@link #misfit}) where its only partner p runs the same
 * way.
 *
 * <p>Built by bucketing half-edges under their lower vertex: O(V + T) time and 4 (V + 6T) bytes
 * beside the result; all but the bucketing runs in parallel.
 */
public final class Adjacency {
  public static final int BORDER = -1;
  public static final int CROWDED = -2;
  private static final int GRAIN = 1 << 15;

  /** Loops of one thread look for a cancel whenever these bits are all zero. */
  private static final int OFTEN = (1 << 20) - 1;

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
    int[] start = new int[n + 1];
    for (int h = 0; h < tri.length; h++) {
      if ((h & OFTEN) == 0) {
        work.check();
      }
      start[Math.min(tri[h], tri[next(h)]) + 1]++;
    }
    work.advance(0.2);
    for (int v = 0; v < n; v++) {
      start[v + 1] += start[v];
    }
    int[] bucket = new int[tri.length];
    int[] fill = new int[n];
    for (int h = 0; h < tri.length; h++) {
      if ((h & OFTEN) == 0) {
        work.check();
      }
      int v = Math.min(tri[h], tri[next(h)]);
      bucket[start[v] + fill[v]++] = h;
    }
    work.advance(0.3);
    int[] twin = new int[tri.length];
    long[][] counts = new long[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.5, CoreWords.of("work.finding-neighbours")),
        (c, from, to) -> {
          long[] k = new long[4];
          for (int v = from; v < to; v++) {
            matchBucket(tri, twin, bucket, start[v], start[v + 1], v, k);
          }
          counts[c] = k;
        });
    long[] sum = new long[4];
    for (long[] k : counts) {
      for (int i = 0; i < 4; i++) {
        sum[i] += k[i];
      }
    }
    return new Adjacency(mesh, twin, sum);
  }

  private static int far(int[] tri, int h, int v) {
    int a = tri[h];
    return a == v ? tri[next(h)] : a;
  }

  /** Pairs up the half-edges of one bucket: all have v as their lower end. */
  private static void matchBucket(
      int[] tri, int[] twin, int[] bucket, int from, int to, int v, long[] counts) {
    // Insertion sort by the far end, then by number: buckets hold about six half-edges; a vertex
    // with thousands is sorted by the library instead.
    if (to - from > 64) {
      sortLarge(tri, bucket, from, to, v);
    } else {
      for (int i = from + 1; i < to; i++) {
        int h = bucket[i];
        int key = far(tri, h, v);
        int j = i - 1;
        while (j >= from && far(tri, bucket[j], v) > key) {
          bucket[j + 1] = bucket[j];
          j--;
        }
        bucket[j + 1] = h;
      }
    }
    int i = from;
    while (i < to) {
      int key = far(tri, bucket[i], v);
      int j = i + 1;
      while (j < to && far(tri, bucket[j], v) == key) {
        j++;
      }
      counts[0]++;
      if (j - i == 1) {
        twin[bucket[i]] = BORDER;
        counts[1]++;
      } else if (j - i == 2) {
        int a = bucket[i];
        int b = bucket[i + 1];
        if (tri[a] == tri[b]) {
          twin[a] = -3 - b;
          twin[b] = -3 - a;
          counts[3]++;
        } else {
          twin[a] = b;
          twin[b] = a;
        }
      } else {
        for (int k = i; k < j; k++) {
          twin[bucket[k]] = CROWDED;
        }
        counts[2]++;
      }
      i = j;
    }
  }

  private static void sortLarge(int[] tri, int[] bucket, int from, int to, int v) {
    long[] keyed = new long[to - from];
    for (int i = from; i < to; i++) {
      keyed[i - from] = (long) far(tri, bucket[i], v) << 32 | bucket[i];
    }
    java.util.Arrays.sort(keyed);
    for (int i = from; i < to; i++) {
      bucket[i] = (int) keyed[i - from];
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
