package holotome.core.quad;

import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A surface's points and ever fewer that stand for two of them each: neighbours whose normals agree
 * and that stand for about as much are joined first (Jakob and others, "Instant field-aligned
 * meshes", 2015, section 5). A field found on few points is handed down and smoothed there.
 *
 * <p>O(V log V), one thread but for the sums; about 300 bytes per vertex.
 *
 * @param levels from the finest to the coarsest
 * @param parents for all levels but the last: the point of the next that stands for each
 * @param holds what each level's points are held to
 */
record FieldLevels(List<FieldLevel> levels, List<int[]> parents, List<Holds> holds) {
  /** As coarse as this is enough. */
  private static final int FEWEST = 24;

  /** A level that is not much smaller than the one before is the last. */
  private static final double LEAST_GAIN = 0.95;

  /** So much larger a piece one point may stand for than the other. */
  private static final double UNLIKE = 1e-3;

  FieldLevel finest() {
    return levels.getFirst();
  }

  static FieldLevels of(FieldLevel finest, Holds held, Work work) {
    List<FieldLevel> levels = new ArrayList<>(List.of(finest));
    List<int[]> parents = new ArrayList<>();
    List<Holds> holds = new ArrayList<>(List.of(held));
    FieldLevel level = finest;
    while (level.size() > FEWEST) {
      work.check();
      int[] parent = new int[level.size()];
      int count = pair(level, parent);
      if (count > LEAST_GAIN * level.size()) {
        break;
      }
      holds.add(holds.getLast().coarser(parent, count, level));
      level = coarser(level, parent, count, work.part(0.05, CoreWords.of("quads.field")));
      parents.add(parent);
      levels.add(level);
    }
    return new FieldLevels(levels, parents, holds);
  }

  /** Joins each point with at most one neighbour; returns how many there are then. */
  private static int pair(FieldLevel level, int[] parent) {
    int n = level.size();
    long[] best = new long[level.near().length / 2 + 1];
    int links = 0;
    for (int v = 0; v < n; v++) {
      for (int i = level.start()[v]; i < level.start()[v + 1]; i++) {
        int u = level.near()[i];
        if (v < u) {
          best[links++] = (long) (int) (rank(level, v, u) * (1 << 24)) << 32 | i;
        }
      }
    }
    Arrays.sort(best, 0, links);
    int[] from = new int[level.near().length];
    for (int v = 0; v < n; v++) {
      Arrays.fill(from, level.start()[v], level.start()[v + 1], v);
    }
    Arrays.fill(parent, -1);
    int count = 0;
    for (int b = links - 1; b >= 0; b--) {
      int i = (int) best[b];
      int v = from[i];
      int u = level.near()[i];
      if (parent[v] < 0 && parent[u] < 0) {
        parent[v] = count;
        parent[u] = count++;
      }
    }
    for (int v = 0; v < n; v++) {
      if (parent[v] < 0) {
        parent[v] = count++;
      }
    }
    return count;
  }

  /** How well two points are joined, from 0 to 1. */
  private static double rank(FieldLevel level, int v, int u) {
    double dot = 0;
    for (int k = 0; k < 3; k++) {
      dot += (double) level.normal()[3 * v + k] * level.normal()[3 * u + k];
    }
    double a = level.area()[v];
    double b = level.area()[u];
    double ratio = a > b ? b / a : b > 0 ? a / b : 1;
    return Math.clamp((dot + 1) / 2 * Math.max(UNLIKE, ratio), 0, 1);
  }

  private static FieldLevel coarser(FieldLevel fine, int[] parent, int count, Work work) {
    float[] area = new float[count];
    double[] at = new double[3 * count];
    double[] normal = new double[3 * count];
    double[] weight = new double[count];
    for (int v = 0; v < parent.length; v++) {
      int p = parent[v];
      // What has no area has a place all the same.
      double a = Math.max(fine.area()[v], Float.MIN_NORMAL);
      area[p] += fine.area()[v];
      weight[p] += a;
      for (int k = 0; k < 3; k++) {
        at[3 * p + k] += a * fine.at()[3 * v + k];
        normal[3 * p + k] += a * fine.normal()[3 * v + k];
      }
    }
    float[] places = new float[3 * count];
    float[] normals = new float[3 * count];
    for (int p = 0; p < count; p++) {
      double l =
          Math.sqrt(
              normal[3 * p] * normal[3 * p]
                  + normal[3 * p + 1] * normal[3 * p + 1]
                  + normal[3 * p + 2] * normal[3 * p + 2]);
      for (int k = 0; k < 3; k++) {
        places[3 * p + k] = (float) (at[3 * p + k] / weight[p]);
        normals[3 * p + k] = l > 0 ? (float) (normal[3 * p + k] / l) : k == 2 ? 1 : 0;
      }
    }
    int[] from = new int[fine.near().length];
    int[] to = new int[from.length];
    for (int v = 0; v < parent.length; v++) {
      for (int i = fine.start()[v]; i < fine.start()[v + 1]; i++) {
        from[i] = parent[v];
        to[i] = parent[fine.near()[i]];
      }
    }
    return FieldLevel.joined(places, normals, area, from, to, fine.weight(), true, work);
  }
}
