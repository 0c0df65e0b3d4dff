package holotome.core.unwrap;

import holotome.core.array.LeastFirst;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Parts a mesh into many small patches, each compact and near a plane, with borders along its
 * creases: variational segmentation (Cohen-Steiner, Alliez and Desbrun, "Variational shape
 * approximation", SIGGRAPH 2004), with a term that keeps patches round. O(rounds x T log T).
 */
final class ChartSeeds {
  private static final int ROUNDS = 4;

  /** What a patch's roundness weighs beside its flatness. */
  private static final double ROUND = 0.6;

  private final int[] twin;
  private final double[] normal;
  private final double[] area;
  private final int n;
  private final double[] centre;
  private final int[] patch;
  private int[] seed;
  private int count;
  private double[] proxy;
  private double size;

  private ChartSeeds(Ground ground) {
    Mesh mesh = ground.mesh();
    twin = ground.twin();
    normal = ground.normal();
    area = ground.area();
    n = area.length;
    centre = new double[3 * n];
    float[] p = mesh.xyz();
    int[] tri = mesh.triangles();
    for (int t = 0; t < n; t++) {
      for (int k = 0; k < 3; k++) {
        centre[3 * t + k] =
            ((double) p[3 * tri[3 * t] + k] + p[3 * tri[3 * t + 1] + k] + p[3 * tri[3 * t + 2] + k])
                / 3;
      }
    }
    patch = new int[n];
  }

  /**
   * The patch of each triangle, numbered from 0.
   *
   * @param wanted patches, about; more where the mesh has more parts
   */
  static int[] of(Ground ground, int wanted, Work work) {
    ChartSeeds s = new ChartSeeds(ground);
    s.begin(wanted);
    for (int r = 0; r < ROUNDS; r++) {
      work.check();
      s.flood();
      if (r < ROUNDS - 1) {
        s.renew();
      }
      work.advance(1.0 / ROUNDS);
    }
    return s.patch;
  }

  /** Seeds at even steps of the area along a path over the surface. */
  private void begin(int wanted) {
    int[] path = new int[n];
    boolean[] seen = new boolean[n];
    int at = 0;
    double all = 0;
    for (int t = 0; t < n; t++) {
      all += area[t];
      if (seen[t]) {
        continue;
      }
      int end = at;
      seen[t] = true;
      path[end++] = t;
      while (at < end) {
        int u = path[at++];
        for (int h = 3 * u; h < 3 * u + 3; h++) {
          if (twin[h] >= 0 && !seen[twin[h] / 3]) {
            seen[twin[h] / 3] = true;
            path[end++] = twin[h] / 3;
          }
        }
      }
    }
    size = Math.max(all / wanted, Double.MIN_NORMAL);
    double due = size / 2;
    int[] found = new int[n];
    for (int t : path) {
      due += area[t];
      if (due >= size) {
        due -= size * Math.floor(due / size);
        found[count++] = t;
      }
    }
    seed = Arrays.copyOf(found, count);
    proxy = new double[6 * count];
    for (int s = 0; s < count; s++) {
      seat(s, seed[s]);
    }
  }

  private void seat(int s, int t) {
    System.arraycopy(normal, 3 * t, proxy, 6 * s, 3);
    System.arraycopy(centre, 3 * t, proxy, 6 * s + 3, 3);
  }

  private double cost(int s, int t) {
    double dot = 0;
    double far = 0;
    for (int k = 0; k < 3; k++) {
      dot += normal[3 * t + k] * proxy[6 * s + k];
      double d = centre[3 * t + k] - proxy[6 * s + 3 + k];
      far += d * d;
    }
    return 2 - 2 * dot + ROUND * far / size;
  }

  private void flood() {
    Arrays.fill(patch, -1);
    LeastFirst queue = new LeastFirst();
    int[] triangle = new int[4 * n + count];
    int[] from = new int[triangle.length];
    int used = 0;
    for (int s = 0; s < count; s++) {
      triangle[used] = seed[s];
      from[used] = s;
      queue.add(0, used++);
    }
    int next = 0;
    while (true) {
      while (!queue.isEmpty()) {
        int i = queue.take();
        int t = triangle[i];
        if (patch[t] >= 0) {
          continue;
        }
        patch[t] = from[i];
        for (int h = 3 * t; h < 3 * t + 3; h++) {
          int u = twin[h] < 0 ? t : twin[h] / 3;
          if (patch[u] < 0) {
            triangle[used] = u;
            from[used] = from[i];
            queue.add(cost(from[i], u), used++);
          }
        }
      }
      while (next < n && patch[next] >= 0) {
        next++;
      }
      if (next == n) {
        return;
      }
      // A part of the mesh that no seed lies in.
      if (count == seed.length) {
        seed = Arrays.copyOf(seed, 2 * count + 1);
        proxy = Arrays.copyOf(proxy, 6 * seed.length);
      }
      seed[count] = next;
      seat(count, next);
      triangle[used] = next;
      from[used] = count++;
      queue.add(0, used++);
    }
  }

  /** Each patch's mean, and its triangle nearest to that as the seed to begin at. */
  private void renew() {
    double[] sum = new double[7 * count];
    for (int t = 0; t < n; t++) {
      int s = 7 * patch[t];
      for (int k = 0; k < 3; k++) {
        sum[s + k] += area[t] * normal[3 * t + k];
        sum[s + 3 + k] += area[t] * centre[3 * t + k];
      }
      sum[s + 6] += area[t];
    }
    for (int s = 0; s < count; s++) {
      double l =
          Math.sqrt(
              sum[7 * s] * sum[7 * s]
                  + sum[7 * s + 1] * sum[7 * s + 1]
                  + sum[7 * s + 2] * sum[7 * s + 2]);
      for (int k = 0; k < 3 && l > 0; k++) {
        proxy[6 * s + k] = sum[7 * s + k] / l;
        proxy[6 * s + 3 + k] = sum[7 * s + 3 + k] / sum[7 * s + 6];
      }
    }
    double[] least = new double[count];
    Arrays.fill(least, Double.POSITIVE_INFINITY);
    for (int t = 0; t < n; t++) {
      double c = cost(patch[t], t);
      if (c < least[patch[t]]) {
        least[patch[t]] = c;
        seed[patch[t]] = t;
      }
    }
  }
}
