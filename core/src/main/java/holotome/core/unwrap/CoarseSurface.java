package holotome.core.unwrap;

import holotome.core.array.LeastFirst;
import holotome.core.array.LongIndex;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;

/**
 * A light stand-in for a heavy mesh, to find charts on: its vertices gathered in cells around
 * evenly spread ones by the way along edges (Dijkstra, 1959, from all of them at once), and a
 * triangle wherever three cells meet. O(V log V).
 *
 * @param mesh one vertex per cell, at the mean of the cell
 * @param cell of each vertex of the heavy mesh; -1 where none is reached
 */
record CoarseSurface(Mesh mesh, int[] cell) {
  private static final int OFTEN = 0xFFFF;

  /**
   * @param ground the heavy mesh
   * @param wanted cells, about
   */
  static CoarseSurface of(Ground ground, int wanted, Work work) {
    int[] seed = seeds(ground, wanted, work);
    work.advance(0.1);
    int[] cell = cells(ground, seed, work);
    Mesh fine = ground.mesh();
    float[] mean = means(fine, cell, seed.length);
    return new CoarseSurface(new Mesh(mean, meetings(fine, cell)), cell);
  }

  /**
   * One vertex for each cube of space and side of the surface: a sheet's two sides get one each.
   * The first of each by number.
   */
  private static int[] seeds(Ground ground, int wanted, Work work) {
    double all = 0;
    for (double a : ground.area()) {
      all += a;
    }
    double side = Math.sqrt(all / wanted);
    float[] p = ground.mesh().xyz();
    int[] tri = ground.mesh().triangles();
    LongIndex cubes = new LongIndex();
    int[] out = new int[wanted];
    int count = 0;
    for (int h = 0; h < tri.length; h++) {
      if ((h & OFTEN) == 0) {
        work.check();
      }
      int v = 3 * tri[h];
      long key = facing(ground.normal(), h / 3);
      for (int k = 0; k < 3; k++) {
        key = key << 20 | (long) Math.floor(p[v + k] / side) + (1 << 19) & (1 << 20) - 1;
      }
      if (cubes.add(key) == count) {
        out = count < out.length ? out : Arrays.copyOf(out, 2 * count);
        out[count++] = tri[h];
      }
    }
    return Arrays.stream(out, 0, count).sorted().distinct().toArray();
  }

  /** Which way a triangle faces most: one of six. */
  private static int facing(double[] normal, int t) {
    int best = 0;
    for (int k = 1; k < 3; k++) {
      if (Math.abs(normal[3 * t + k]) > Math.abs(normal[3 * t + best])) {
        best = k;
      }
    }
    return 2 * best + (normal[3 * t + best] < 0 ? 1 : 0);
  }

  private static int[] cells(Ground ground, int[] seed, Work work) {
    Mesh mesh = ground.mesh();
    int[] tri = mesh.triangles();
    int[] start = new int[mesh.vertexCount() + 1];
    for (int v : tri) {
      start[v + 1]++;
    }
    for (int v = 0; v < mesh.vertexCount(); v++) {
      start[v + 1] += start[v];
    }
    int[] around = new int[tri.length];
    for (int h = tri.length - 1; h >= 0; h--) {
      around[--start[tri[h] + 1]] = h;
    }
    // Filled from behind, each list's start has moved to the next one's place.
    System.arraycopy(start, 1, start, 0, start.length - 1);
    start[start.length - 1] = tri.length;
    int[] cell = new int[mesh.vertexCount()];
    Arrays.fill(cell, -1);
    float[] far = new float[cell.length];
    Arrays.fill(far, Float.POSITIVE_INFINITY);
    LeastFirst queue = new LeastFirst();
    for (int s = 0; s < seed.length; s++) {
      far[seed[s]] = 0;
      cell[seed[s]] = s;
      queue.add(0, seed[s]);
    }
    int taken = 0;
    while (!queue.isEmpty()) {
      double key = queue.key();
      int v = queue.take();
      if (key > far[v]) {
        continue;
      }
      if ((++taken & OFTEN) == 0) {
        work.check();
        work.advance(0.9 * (OFTEN + 1) / cell.length);
      }
      for (int i = start[v]; i < start[v + 1]; i++) {
        int h = around[i];
        for (int e = 0; e < 2; e++) {
          int edge = e == 0 ? h : Adjacency.previous(h);
          int w = e == 0 ? tri[Adjacency.next(h)] : tri[edge];
          float next = far[v] + (float) ground.length(edge);
          if (next < far[w]) {
            far[w] = next;
            cell[w] = cell[v];
            queue.add(next, w);
          }
        }
      }
    }
    return cell;
  }

  private static float[] means(Mesh mesh, int[] cell, int cells) {
    double[] sum = new double[4 * cells];
    for (int v = 0; v < cell.length; v++) {
      if (cell[v] >= 0) {
        for (int k = 0; k < 3; k++) {
          sum[4 * cell[v] + k] += mesh.xyz()[3 * v + k];
        }
        sum[4 * cell[v] + 3]++;
      }
    }
    float[] out = new float[3 * cells];
    for (int c = 0; c < cells; c++) {
      for (int k = 0; k < 3; k++) {
        out[3 * c + k] = (float) (sum[4 * c + k] / Math.max(1, sum[4 * c + 3]));
      }
    }
    return out;
  }

  /** A triangle for every three cells that meet, once. */
  private static int[] meetings(Mesh mesh, int[] cell) {
    int[] tri = mesh.triangles();
    LongIndex seen = new LongIndex();
    int[] out = new int[1024];
    int n = 0;
    for (int t = 0; t < tri.length; t += 3) {
      int a = cell[tri[t]];
      int b = cell[tri[t + 1]];
      int c = cell[tri[t + 2]];
      if (a < 0 || b < 0 || c < 0 || a == b || b == c || c == a) {
        continue;
      }
      while (a > b || a > c) {
        int first = a;
        a = b;
        b = c;
        c = first;
      }
      // 21 bits each: there are some ten thousand cells.
      if (seen.add((long) a << 42 | (long) b << 21 | c) == n / 3) {
        out = n + 3 < out.length ? out : Arrays.copyOf(out, 2 * out.length);
        out[n++] = a;
        out[n++] = b;
        out[n++] = c;
      }
    }
    return Arrays.copyOf(out, n);
  }
}
