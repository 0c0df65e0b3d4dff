package holotome.core.attribute;

import java.util.Arrays;

/**
 * The values of an attribute at the corners of redrawn triangles: mixed within the old triangle, so
 * that nothing is mixed across a seam. Corners at one vertex that mix the same two values share the
 * result, so that charts hang together along a cut as they did before it.
 */
final class RedrawnCorners {
  private final Attribute a;
  private final Provenance p;
  private final int[] next;
  private final Blends rows;

  /** Open addressing: row plus one by slot; its vertex and its two values. */
  private int[] table = new int[256];

  private int[] keys = new int[3 * 128];
  private int[] numbers = new int[128];
  private int count;

  RedrawnCorners(Attribute a, Provenance p, int[] next) {
    this.a = a;
    this.p = p;
    this.next = next;
    rows = new Blends(a.count());
  }

  /** Sets the corners' values in an index; returns all values, the new ones behind. */
  Object into(int[] index) {
    Redrawn r = p.redrawn();
    int[] value = new int[3];
    float[] weight = new float[3];
    for (int i = 0; i < r.size(); i++) {
      int t = r.source(i);
      if (t == Redrawn.PATCH) {
        continue;
      }
      for (int k = 0; k < 3; k++) {
        int n = 0;
        for (int j = 0; j < 3; j++) {
          float w = r.weight(i, k, j);
          int v = a.index()[3 * t + j];
          if (w == 0) {
            continue;
          }
          int same = 0;
          while (same < n && value[same] != v) {
            same++;
          }
          if (same < n) {
            weight[same] += w;
          } else {
            value[n] = v;
            weight[n++] = w;
          }
        }
        int c = 3 * r.triangle(i) + k;
        index[c] = mixed(next[c], n, value, weight);
      }
    }
    int width = a.kind().width();
    Object out = Values.grown(a.values(), width, rows.rows());
    Object added = Values.blended(a.kind(), a.values(), width, rows);
    System.arraycopy(added, 0, out, width * a.count(), width * rows.rows());
    return out;
  }

  private int mixed(int vertex, int n, int[] value, float[] weight) {
    if (n == 1) {
      return value[0];
    }
    if (n == 3) {
      return rows.between(value[0], value[1], value[2], weight[0], weight[1], weight[2]);
    }
    boolean inOrder = value[0] < value[1];
    int low = inOrder ? value[0] : value[1];
    int high = inOrder ? value[1] : value[0];
    int mask = table.length - 1;
    int slot = slot(vertex, low, high) & mask;
    while (table[slot] != 0) {
      int known = table[slot] - 1;
      if (keys[3 * known] == vertex && keys[3 * known + 1] == low && keys[3 * known + 2] == high) {
        return numbers[known];
      }
      slot = slot + 1 & mask;
    }
    int row = rows.between(low, high, inOrder ? weight[1] : weight[0]);
    note(slot, vertex, low, high, row);
    return row;
  }

  private void note(int slot, int vertex, int low, int high, int row) {
    if (3 * count == keys.length) {
      keys = Arrays.copyOf(keys, 2 * keys.length);
      numbers = Arrays.copyOf(numbers, 2 * numbers.length);
    }
    keys[3 * count] = vertex;
    keys[3 * count + 1] = low;
    keys[3 * count + 2] = high;
    numbers[count++] = row;
    table[slot] = count;
    if (2 * count > table.length) {
      table = new int[2 * table.length];
      for (int i = 0; i < count; i++) {
        int s = slot(keys[3 * i], keys[3 * i + 1], keys[3 * i + 2]) & table.length - 1;
        while (table[s] != 0) {
          s = s + 1 & table.length - 1;
        }
        table[s] = i + 1;
      }
    }
  }

  private static int slot(int vertex, int low, int high) {
    int h = vertex * 0x9E3779B1 ^ Integer.rotateLeft(low * 0x85EBCA77, 13) ^ high * 0xC2B2AE3D;
    h ^= h >>> 16;
    return h * 0x27D4EB2F ^ h >>> 13;
  }
}
