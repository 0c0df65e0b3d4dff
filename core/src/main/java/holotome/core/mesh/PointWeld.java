package holotome.core.mesh;

import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * Finds points that stand on exactly the same spot.
 *
 * <p>Points are dealt into buckets by a hash of their bits and matched bucket by bucket in
 * parallel. O(n) expected time, 12 bytes per point. Negative zero equals zero.
 */
public final class PointWeld {
  private static final int BUCKETS = 256;

  private PointWeld() {}

  /** For each point (3 floats), the lowest number of a point at the same spot. */
  public static int[] representatives(float[] xyz, Work work) {
    int n = xyz.length / 3;
    byte[] bucket = new byte[n];
    Parallel.range(
        n,
        1 << 16,
        work.part(0.3, "Comparing points"),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            bucket[v] = (byte) (hash(xyz, v) >>> 24);
          }
        });
    int[] start = new int[BUCKETS + 1];
    for (byte b : bucket) {
      start[(b & 255) + 1]++;
    }
    for (int b = 0; b < BUCKETS; b++) {
      start[b + 1] += start[b];
    }
    int[] order = new int[n];
    int[] fill = start.clone();
    for (int v = 0; v < n; v++) {
      order[fill[bucket[v] & 255]++] = v;
    }
    int[] first = new int[n];
    Parallel.range(
        BUCKETS,
        1,
        work.part(0.7, "Comparing points"),
        (from, to) -> {
          for (int b = from; b < to; b++) {
            match(xyz, order, start[b], start[b + 1], first);
          }
        });
    return first;
  }

  private static void match(float[] xyz, int[] order, int from, int to, int[] first) {
    int size = Integer.highestOneBit(Math.max(8, (to - from) * 3)) * 2;
    int[] table = new int[size];
    for (int i = from; i < to; i++) {
      int v = order[i];
      int slot = hash(xyz, v) & (size - 1);
      while (true) {
        int w = table[slot] - 1;
        if (w < 0) {
          table[slot] = v + 1;
          first[v] = v;
          break;
        }
        if (xyz[3 * v] == xyz[3 * w]
            && xyz[3 * v + 1] == xyz[3 * w + 1]
            && xyz[3 * v + 2] == xyz[3 * w + 2]) {
          first[v] = w;
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

  /** A mesh from loose triangles (9 floats each): points on one spot become one vertex. */
  public static Mesh ofSoup(float[] soup, Work work) {
    int[] first = representatives(soup, work);
    int n = first.length;
    int[] number = new int[n];
    int count = 0;
    for (int v = 0; v < n; v++) {
      number[v] = first[v] == v ? count++ : number[first[v]];
    }
    float[] xyz = new float[3 * count];
    for (int v = 0; v < n; v++) {
      if (first[v] == v) {
        System.arraycopy(soup, 3 * v, xyz, 3 * number[v], 3);
      }
    }
    return new Mesh(xyz, number);
  }
}
