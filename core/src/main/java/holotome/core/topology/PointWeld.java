package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;
import java.util.stream.IntStream;

/**
 * Finds points that stand on exactly the same spot.
 *
 * <p>Points are dealt into buckets by a hash of their bits and matched bucket by bucket in
 * parallel. O(n) expected time, 26 bytes per point. Negative zero equals zero.
 */
public final class PointWeld {
  private static final int BUCKET_BITS = 10;
  private static final int BUCKETS = 1 << BUCKET_BITS;
  private static final int GRAIN = 1 << 16;

  private PointWeld() {}

  /** For each point (3 floats), the lowest number of a point at the same spot. */
  public static int[] representatives(float[] xyz, Work work) {
    int n = xyz.length / 3;
    short[] bucket = new short[n];
    Parallel.range(
        n,
        GRAIN,
        work.part(0.3, CoreWords.of("work.comparing-points")),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            bucket[v] = (short) (hash(xyz, v) >>> 32 - BUCKET_BITS);
          }
        });
    int[] start = new int[BUCKETS + 1];
    int[] order = new int[n];
    float[] dealt = new float[3 * n];
    deal(xyz, bucket, start, order, dealt);
    int[] first = new int[n];
    Parallel.range(
        BUCKETS,
        1,
        work.part(0.7, CoreWords.of("work.comparing-points")),
        (from, to) -> {
          for (int b = from; b < to; b++) {
            match(dealt, order, start[b], start[b + 1], first);
          }
        });
    return first;
  }

  /**
   * The points bucket by bucket, in rising order within each: counted and dealt per chunk, so that
   * the order does not depend on who does it. Places are dealt along, so that matching a bucket
   * stays within the cache.
   *
   * @param start filled with where each bucket begins
   * @param order filled with the points' numbers, bucket by bucket
   * @param dealt filled with their places in that order
   */
  private static void deal(float[] xyz, short[] bucket, int[] start, int[] order, float[] dealt) {
    int n = bucket.length;
    int[][] at = new int[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          int[] count = new int[BUCKETS];
          for (int v = from; v < to; v++) {
            count[bucket[v]]++;
          }
          at[c] = count;
        });
    int sum = 0;
    for (int b = 0; b < BUCKETS; b++) {
      start[b] = sum;
      for (int[] count : at) {
        int here = count[b];
        count[b] = sum;
        sum += here;
      }
    }
    start[BUCKETS] = sum;
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          int[] fill = at[c];
          for (int v = from; v < to; v++) {
            int o = fill[bucket[v]]++;
            order[o] = v;
            dealt[3 * o] = xyz[3 * v];
            dealt[3 * o + 1] = xyz[3 * v + 1];
            dealt[3 * o + 2] = xyz[3 * v + 2];
          }
        });
  }

  private static void match(float[] dealt, int[] order, int from, int to, int[] first) {
    int size = Integer.highestOneBit(Math.max(8, (to - from) * 3)) * 2;
    int[] table = new int[size];
    for (int i = from; i < to; i++) {
      int slot = hash(dealt, i) & (size - 1);
      while (true) {
        int w = table[slot] - 1;
        if (w < 0) {
          table[slot] = i + 1;
          first[order[i]] = order[i];
          break;
        }
        if (dealt[3 * i] == dealt[3 * w]
            && dealt[3 * i + 1] == dealt[3 * w + 1]
            && dealt[3 * i + 2] == dealt[3 * w + 2]) {
          first[order[i]] = order[w];
          break;
        }
        slot = (slot + 1) & (size - 1);
      }
    }
  }

  private static int hash(float[] xyz, int v) {
    // Adding 0 turns negative zero into zero.
    int h = Float.floatToRawIntBits(xyz[3 * v] + 0f) * 0x9E3779B1;
    h = (Integer.rotateLeft(h, 15) ^ Float.floatToRawIntBits(xyz[3 * v + 1] + 0f)) * 0x85EBCA77;
    h = (Integer.rotateLeft(h, 13) ^ Float.floatToRawIntBits(xyz[3 * v + 2] + 0f)) * 0xC2B2AE3D;
    h ^= h >>> 16;
    return h * 0x27D4EB2F ^ h >>> 13;
  }

  /**
   * The points that stand where one of some stands, without those themselves; 3 floats a point. One
   * pass over all points on all cores.
   */
  public static int[] alsoOn(float[] xyz, BitSet some) {
    int mask = Integer.highestOneBit(Math.max(64, some.cardinality())) * 4 - 1;
    int[] table = new int[mask + 1];
    for (int v = some.nextSetBit(0); v >= 0; v = some.nextSetBit(v + 1)) {
      table[slot(xyz, v, table)] = v + 1;
    }
    int n = xyz.length / 3;
    int[][] found = new int[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) ->
            found[c] =
                IntStream.range(from, to)
                    .filter(v -> table[slot(xyz, v, table)] != 0 && !some.get(v))
                    .toArray());
    return Arrays.stream(found).flatMapToInt(Arrays::stream).toArray();
  }

  /** Where a point on this spot is in a table of numbers less 1, or would be. */
  private static int slot(float[] xyz, int v, int[] table) {
    int slot = hash(xyz, v) & table.length - 1;
    while (table[slot] != 0) {
      int w = table[slot] - 1;
      if (xyz[3 * v] == xyz[3 * w]
          && xyz[3 * v + 1] == xyz[3 * w + 1]
          && xyz[3 * v + 2] == xyz[3 * w + 2]) {
        return slot;
      }
      slot = slot + 1 & table.length - 1;
    }
    return slot;
  }

  /** A mesh from loose triangles (9 floats each): points on one spot become one vertex. */
  public static Mesh ofSoup(float[] soup, Work work) {
    int[] first = representatives(soup, work);
    int n = first.length;
    int[] begin = new int[Parallel.chunks(n, GRAIN) + 1];
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          int count = 0;
          for (int v = from; v < to; v++) {
            count += first[v] == v ? 1 : 0;
          }
          begin[c + 1] = count;
        });
    for (int c = 1; c < begin.length; c++) {
      begin[c] += begin[c - 1];
    }
    float[] xyz = new float[3 * begin[begin.length - 1]];
    int[] number = new int[n];
    Parallel.chunked(
        n,
        GRAIN,
        Work.unwatched(),
        (c, from, to) -> {
          int next = begin[c];
          for (int v = from; v < to; v++) {
            if (first[v] == v) {
              xyz[3 * next] = soup[3 * v];
              xyz[3 * next + 1] = soup[3 * v + 1];
              xyz[3 * next + 2] = soup[3 * v + 2];
              number[v] = next++;
            }
          }
        });
    Parallel.range(
        n,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            if (first[v] != v) {
              number[v] = number[first[v]];
            }
          }
        });
    return new Mesh(xyz, number);
  }
}
