package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.PriorityQueue;

/**
 * Cuts a mesh into charts that lie flat without overlap.
 *
 * <p>Charts grow from seeds over the neighbours whose normals deviate least (as in Lévy and others,
 * "Least squares conformal maps", SIGGRAPH 2002, section 3), up to a cone of 55 degrees around
 * their mean; small ones join a neighbour where the cone still holds. Each is flattened ({@link
 * ChartFlattening}); one that folds over or overlaps itself is cut in two and tried again, a single
 * triangle being always flat.
 */
final class ChartMaker {
  private static final double CONE = Math.cos(Math.toRadians(55));
  private static final double JOIN_CONE = Math.cos(Math.toRadians(72));

  private final Mesh mesh;
  private final int n;
  private final int[] twin;
  private final double[] normal;
  private final double[] area;
  private final int[] chart;
  private final int speck;

  private ChartMaker(Mesh mesh) {
    this.mesh = mesh;
    n = mesh.triangleCount();
    twin = Adjacency.of(mesh).twin();
    normal = new double[3 * n];
    area = new double[n];
    chart = new int[n];
    speck = Math.max(4, n / 1000);
    for (int t = 0; t < n; t++) {
      double[] c = Measures.cross(mesh, t);
      area[t] = Vec.length(c) / 2;
      for (int k = 0; k < 3; k++) {
        normal[3 * t + k] = area[t] > 0 ? c[k] / (2 * area[t]) : 0;
      }
    }
  }

  static Charts make(Mesh mesh, Work work) {
    ChartMaker m = new ChartMaker(mesh);
    int count = m.grow(work);
    work.advance(0.2);
    count = m.joinSmall(count);
    work.advance(0.1);
    return m.flatten(count, work.part(0.7, CoreWords.of("work.flattening-charts")));
  }

  private record Candidate(double cost, int triangle) {}

  private int grow(Work work) {
    Arrays.fill(chart, -1);
    // Largest first, of equals the lower number: areas as ordered bits above the number.
    long[] seeds = new long[n];
    for (int t = 0; t < n; t++) {
      seeds[t] = (long) ~Float.floatToRawIntBits((float) area[t]) << 32 | t;
    }
    Arrays.sort(seeds);
    int count = 0;
    for (long key : seeds) {
      int seed = (int) key;
      if (chart[seed] >= 0) {
        continue;
      }
      work.check();
      growOne(seed, count++);
    }
    return count;
  }

  private void growOne(int seed, int number) {
    PriorityQueue<Candidate> queue =
        new PriorityQueue<>(
            (a, b) -> a.cost != b.cost ? Double.compare(a.cost, b.cost) : a.triangle - b.triangle);
    double[] sum = new double[3];
    double[] centre = Vec.at(mesh.xyz(), mesh.triangles()[3 * seed]);
    queue.add(new Candidate(0, seed));
    double radius = Math.sqrt(area[seed]) + 1e-30;
    while (!queue.isEmpty()) {
      int t = queue.poll().triangle;
      if (chart[t] >= 0) {
        continue;
      }
      double[] mean = Vec.unit(sum);
      double[] nt = Vec.of(normal[3 * t], normal[3 * t + 1], normal[3 * t + 2]);
      if (t != seed && Vec.dot(mean, nt) < CONE) {
        continue;
      }
      chart[t] = number;
      sum = Vec.add(sum, Vec.mul(nt, area[t]));
      mean = Vec.unit(sum);
      radius = Math.max(radius, Vec.distance(centre, Vec.at(mesh.xyz(), mesh.triangles()[3 * t])));
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        int g = twin[h];
        if (g < 0 || chart[g / 3] >= 0) {
          continue;
        }
        int u = g / 3;
        double deviation =
            1
                - (mean[0] * normal[3 * u]
                    + mean[1] * normal[3 * u + 1]
                    + mean[2] * normal[3 * u + 2]);
        if (deviation > 1 - CONE) {
          continue;
        }
        // Near ones first keeps charts round, with short borders.
        double far = Vec.distance(centre, Vec.at(mesh.xyz(), mesh.triangles()[g])) / radius;
        queue.add(new Candidate(deviation + 0.15 * far, u));
      }
    }
  }

  /** Joins charts of few triangles to the neighbour they share most border with. */
  private int joinSmall(int count) {
    int[] size = new int[count];
    double[][] sum = new double[count][3];
    for (int t = 0; t < n; t++) {
      size[chart[t]]++;
      sum[chart[t]] =
          Vec.add(
              sum[chart[t]],
              Vec.mul(Vec.of(normal[3 * t], normal[3 * t + 1], normal[3 * t + 2]), area[t]));
    }
    List<List<Integer>> members = new ArrayList<>();
    for (int c = 0; c < count; c++) {
      members.add(new ArrayList<>());
    }
    for (int t = 0; t < n; t++) {
      members.get(chart[t]).add(t);
    }
    int small = Math.max(8, n / 400);
    Integer[] order = new Integer[count];
    Arrays.setAll(order, i -> i);
    Arrays.sort(order, (a, b) -> size[a] != size[b] ? size[a] - size[b] : a - b);
    for (int c : order) {
      if (size[c] == 0 || size[c] > small) {
        continue;
      }
      int into = bestNeighbour(c, members.get(c), sum);
      if (into < 0) {
        continue;
      }
      for (int t : members.get(c)) {
        chart[t] = into;
      }
      members.get(into).addAll(members.get(c));
      sum[into] = Vec.add(sum[into], sum[c]);
      size[into] += size[c];
      size[c] = 0;
      members.get(c).clear();
    }
    int[] number = new int[count];
    int used = 0;
    for (int c = 0; c < count; c++) {
      number[c] = size[c] > 0 ? used++ : -1;
    }
    for (int t = 0; t < n; t++) {
      chart[t] = number[chart[t]];
    }
    return used;
  }

  private int bestNeighbour(int c, List<Integer> members, double[][] sum) {
    java.util.TreeMap<Integer, Double> border = new java.util.TreeMap<>();
    for (int t : members) {
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        if (twin[h] >= 0 && chart[twin[h] / 3] != c) {
          double length =
              Vec.distance(
                  Vec.at(mesh.xyz(), mesh.triangles()[h]),
                  Vec.at(mesh.xyz(), mesh.triangles()[Adjacency.next(h)]));
          border.merge(chart[twin[h] / 3], length, Double::sum);
        }
      }
    }
    int best = -1;
    double most = 0;
    for (var e : border.entrySet()) {
      if (e.getValue() <= most) {
        continue;
      }
      double[] mean = Vec.unit(Vec.add(sum[e.getKey()], sum[c]));
      // A speck, such as the wall of a pit, lies flat in whatever surrounds it.
      boolean fits = true;
      for (int t : members.size() > speck ? members : List.<Integer>of()) {
        fits &=
            mean[0] * normal[3 * t] + mean[1] * normal[3 * t + 1] + mean[2] * normal[3 * t + 2]
                >= JOIN_CONE;
      }
      if (fits) {
        best = e.getKey();
        most = e.getValue();
      }
    }
    return best;
  }

  private Charts flatten(int count, Work work) {
    int[][] members = new int[count][];
    int[] fill = new int[count];
    for (int t = 0; t < n; t++) {
      fill[chart[t]]++;
    }
    for (int c = 0; c < count; c++) {
      members[c] = new int[fill[c]];
      fill[c] = 0;
    }
    for (int t = 0; t < n; t++) {
      members[chart[t]][fill[chart[t]]++] = t;
    }
    List<List<Charts.Chart>> done = new ArrayList<>();
    for (int c = 0; c < count; c++) {
      done.add(new ArrayList<>());
    }
    Parallel.range(
        count,
        1,
        work,
        (from, to) -> {
          for (int c = from; c < to; c++) {
            flattenOrCut(members[c], done.get(c), work);
          }
        });
    List<Charts.Chart> all = new ArrayList<>();
    done.forEach(all::addAll);
    for (int c = 0; c < all.size(); c++) {
      for (int t : all.get(c).triangles()) {
        chart[t] = c;
      }
    }
    return new Charts(chart, all);
  }

  private void flattenOrCut(int[] first, List<Charts.Chart> out, Work work) {
    ArrayDeque<int[]> todo = new ArrayDeque<>();
    todo.add(first);
    while (!todo.isEmpty()) {
      work.check();
      int[] members = todo.poll();
      int[][] pieces = pieces(members);
      if (pieces.length > 1) {
        todo.addAll(Arrays.asList(pieces));
        continue;
      }
      Charts.Chart c = ChartFlattening.flatten(mesh, members, normal, area, work);
      if (c != null) {
        out.add(c);
      } else {
        todo.addAll(Arrays.asList(halve(members)));
      }
    }
  }

  /** The parts of a set of triangles that hang together by edges. */
  private int[][] pieces(int[] members) {
    int[] label = flood(members, new int[0]);
    int count = 0;
    for (int l : label) {
      count = Math.max(count, l + 1);
    }
    return split(members, label, count);
  }

  private static int[][] split(int[] members, int[] label, int count) {
    int[][] out = new int[count][];
    for (int c = 0; c < count; c++) {
      int size = 0;
      for (int l : label) {
        size += l == c ? 1 : 0;
      }
      out[c] = new int[size];
      int at = 0;
      for (int i = 0; i < members.length; i++) {
        if (label[i] == c) {
          out[c][at++] = members[i];
        }
      }
    }
    return out;
  }

  /** Two parts, grown breadth first from the two triangles farthest apart. */
  private int[][] halve(int[] members) {
    int a = farthest(members, 0);
    int b = farthest(members, a);
    return split(members, flood(members, new int[] {a, b}), 2);
  }

  private int farthest(int[] members, int from) {
    double[] p = Vec.at(mesh.xyz(), mesh.triangles()[3 * members[from]]);
    int best = from == 0 ? members.length - 1 : 0;
    double most = -1;
    for (int i = 0; i < members.length; i++) {
      double d = Vec.distance(p, Vec.at(mesh.xyz(), mesh.triangles()[3 * members[i]]));
      if (d > most && i != from) {
        most = d;
        best = i;
      }
    }
    return best;
  }

  /** Labels by flooding from seeds at once; without seeds, one label per connected part. */
  private int[] flood(int[] members, int[] seeds) {
    // Members are in rising order, which makes their places findable.
    int[] sorted = members.clone();
    Arrays.sort(sorted);
    System.arraycopy(sorted, 0, members, 0, members.length);
    int[] label = new int[members.length];
    Arrays.fill(label, -1);
    ArrayDeque<Integer> queue = new ArrayDeque<>();
    for (int s = 0; s < seeds.length; s++) {
      label[seeds[s]] = s;
      queue.add(seeds[s]);
    }
    int next = 0;
    for (int i = 0; i <= members.length; i++) {
      while (!queue.isEmpty()) {
        int m = queue.poll();
        for (int h = 3 * members[m]; h < 3 * members[m] + 3; h++) {
          int o = twin[h] < 0 ? -1 : Arrays.binarySearch(members, twin[h] / 3);
          if (o >= 0 && label[o] < 0) {
            label[o] = label[m];
            queue.add(o);
          }
        }
      }
      if (i < members.length && label[i] < 0) {
        label[i] = seeds.length == 0 ? next++ : 0;
        queue.add(i);
      }
    }
    return label;
  }
}
