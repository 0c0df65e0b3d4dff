package holotome.view;

import holotome.core.mesh.Box;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * A light stand-in for drawing a large mesh while it moves: vertices in one cell of a regular grid
 * become their first (Rossignac and Borrel, "Multi-resolution 3D approximations for rendering
 * complex scenes", 1993). O(V + T); never used for picking or selecting.
 */
public final class Coarse {
  private Coarse() {}

  /** The mesh with its vertices in a grid of {@code cells} along the longest side of its box. */
  public static Mesh of(Mesh mesh, int cells, Work work) {
    Box b = mesh.bounds();
    double longest = Math.max(b.width(), Math.max(b.depth(), b.height()));
    double k = cells / Math.max(1e-30, longest * 1.0001);
    float[] p = mesh.xyz();
    int n = mesh.vertexCount();
    long[] key = new long[n];
    Parallel.range(
        n,
        1 << 16,
        work.part(0.2, "Preparing the view"),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            long x = (long) ((p[3 * v] - b.minX()) * k);
            long y = (long) ((p[3 * v + 1] - b.minY()) * k);
            long z = (long) ((p[3 * v + 2] - b.minZ()) * k);
            key[v] = x << 42 | y << 21 | z;
          }
        });
    int[] cell = number(key);
    work.advance(0.3);
    int count = 0;
    int[] first = new int[n];
    for (int v = 0; v < n; v++) {
      if (cell[v] == count) {
        first[count++] = v;
      }
    }
    float[] xyz = new float[3 * count];
    int[] colours = mesh.colours() == null ? null : new int[count];
    for (int i = 0; i < count; i++) {
      System.arraycopy(p, 3 * first[i], xyz, 3 * i, 3);
      if (colours != null) {
        colours[i] = mesh.colours()[first[i]];
      }
    }
    int[] tri = mesh.triangles();
    int[] out = new int[1 << 16];
    int at = 0;
    for (int i = 0; i < tri.length; i += 3) {
      int a = cell[tri[i]];
      int c = cell[tri[i + 1]];
      int d = cell[tri[i + 2]];
      if (a != c && c != d && d != a) {
        if (at + 3 > out.length) {
          out = Arrays.copyOf(out, 2 * out.length);
        }
        out[at++] = a;
        out[at++] = c;
        out[at++] = d;
      }
    }
    work.advance(0.5);
    return new Mesh(xyz, Arrays.copyOf(out, at), colours);
  }

  /** Numbers equal keys alike, in order of first appearance. */
  private static int[] number(long[] key) {
    int size = Integer.highestOneBit(Math.max(16, key.length)) * 2;
    int[] table = new int[size];
    int[] number = new int[key.length];
    int count = 0;
    for (int v = 0; v < key.length; v++) {
      long h = key[v] * 0x9E3779B97F4A7C15L;
      int slot = (int) (h >>> 32) & (size - 1);
      while (table[slot] != 0 && key[table[slot] - 1] != key[v]) {
        slot = (slot + 1) & (size - 1);
      }
      if (table[slot] == 0) {
        table[slot] = v + 1;
        number[v] = count++;
      } else {
        number[v] = number[table[slot] - 1];
      }
    }
    return number;
  }
}
