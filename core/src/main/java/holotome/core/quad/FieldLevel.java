package holotome.core.quad;

import holotome.core.array.Grouping;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Points of a surface with their neighbours, which fields are smoothed over: the vertices of a
 * mesh, or fewer points that stand for some of them each.
 *
 * <p>Points are numbered so that those of one colour follow one another, and no two neighbours have
 * one colour: all of a colour can be worked on side by side, with one result on any number of
 * threads.
 *
 * @param at places, 3 floats each
 * @param normal of unit length, 3 each
 * @param area of the surface that each stands for
 * @param start where the neighbours of each begin, and at the end how many there are
 * @param near the neighbours, rising
 * @param weight what each of them counts
 * @param order all points, colour by colour
 * @param colours where each colour begins in the order, and at the end how many points there are
 */
record FieldLevel(
    float[] at,
    float[] normal,
    float[] area,
    int[] start,
    int[] near,
    float[] weight,
    int[] order,
    int[] colours) {

  int size() {
    return area.length;
  }

  /** The vertices of a mesh, joined by its edges, all of which count the same. O(V + T). */
  static FieldLevel of(Mesh mesh, Work work) {
    int n = mesh.vertexCount();
    int[] tri = mesh.triangles();
    float[] area = new float[n];
    double[] cross = new double[3];
    int[] from = new int[2 * tri.length];
    int[] to = new int[2 * tri.length];
    for (int h = 0; h < tri.length; h++) {
      int next = h % 3 == 2 ? h - 2 : h + 1;
      from[2 * h] = tri[h];
      to[2 * h] = tri[next];
      from[2 * h + 1] = tri[next];
      to[2 * h + 1] = tri[h];
      if (h % 3 == 0) {
        Measures.cross(mesh.xyz(), tri, h / 3, cross);
        float third = (float) (Math.sqrt(square(cross)) / 6);
        for (int k = h; k < h + 3; k++) {
          area[tri[k]] += third;
        }
      }
    }
    float[] weight = new float[from.length];
    Arrays.fill(weight, 1);
    return joined(mesh.xyz(), Measures.vertexNormals(mesh), area, from, to, weight, false, work);
  }

  /**
   * Puts a level together.
   *
   * @param from one end of each link; each link is there both ways
   * @param sums whether links between the same two points add up; else they count once
   */
  static FieldLevel joined(
      float[] at,
      float[] normal,
      float[] area,
      int[] from,
      int[] to,
      float[] weight,
      boolean sums,
      Work work) {
    int n = area.length;
    Grouping by = Grouping.of(from, n, work);
    int[] start = new int[n + 1];
    int[] near = new int[from.length];
    float[] counts = new float[from.length];
    long[] keys = new long[64];
    int count = 0;
    for (int v = 0; v < n; v++) {
      if (v % CrossField.GRAIN == 0) {
        work.check();
      }
      int first = by.start()[v];
      int links = by.start()[v + 1] - first;
      if (links > keys.length) {
        keys = new long[2 * links];
      }
      for (int i = 0; i < links; i++) {
        int link = by.order()[first + i];
        keys[i] = (long) to[link] << 32 | link;
      }
      Arrays.sort(keys, 0, links);
      for (int i = 0; i < links; i++) {
        int other = (int) (keys[i] >>> 32);
        float w = weight[(int) keys[i]];
        if (count > start[v] && near[count - 1] == other) {
          counts[count - 1] += sums ? w : 0;
        } else if (other != v) {
          near[count] = other;
          counts[count++] = w;
        }
      }
      start[v + 1] = count;
    }
    near = Arrays.copyOf(near, count);
    counts = Arrays.copyOf(counts, count);
    int[] colour = coloured(start, near);
    int most = 0;
    for (int c : colour) {
      most = Math.max(most, c + 1);
    }
    Grouping of = Grouping.of(colour, most, work);
    return new FieldLevel(at, normal, area, start, near, counts, of.order(), of.start());
  }

  /** The lowest colour that no neighbour before has. */
  private static int[] coloured(int[] start, int[] near) {
    int n = start.length - 1;
    int[] colour = new int[n];
    int[] seen = new int[64];
    Arrays.fill(seen, -1);
    for (int v = 0; v < n; v++) {
      for (int i = start[v]; i < start[v + 1]; i++) {
        int c = near[i] < v ? colour[near[i]] : -1;
        if (c >= seen.length) {
          int had = seen.length;
          seen = Arrays.copyOf(seen, 2 * c);
          Arrays.fill(seen, had, seen.length, -1);
        }
        if (c >= 0) {
          seen[c] = v;
        }
      }
      int c = 0;
      while (c < seen.length && seen[c] == v) {
        c++;
      }
      colour[v] = c;
    }
    return colour;
  }

  /**
   * The same with normals as they are over a distance: the mean over neighbours, again and again,
   * but not over edges that are lines.
   */
  FieldLevel smoothed(int sweeps, Holds holds) {
    float[] now = normal;
    for (int i = 0; i < sweeps; i++) {
      float[] before = now;
      float[] next = new float[before.length];
      Parallel.range(
          size(),
          CrossField.GRAIN,
          Work.unwatched(),
          (from, to) -> {
            double[] sum = new double[3];
            for (int v = from; v < to; v++) {
              for (int k = 0; k < 3; k++) {
                sum[k] = before[3 * v + k];
              }
              for (int j = start[v]; holds.turns(v) && j < start[v + 1]; j++) {
                for (int k = 0; k < 3; k++) {
                  sum[k] += before[3 * near[j] + k];
                }
              }
              double l = Math.sqrt(square(sum));
              for (int k = 0; k < 3; k++) {
                next[3 * v + k] = l > 1e-3 ? (float) (sum[k] / l) : before[3 * v + k];
              }
            }
          });
      now = next;
    }
    return new FieldLevel(at, now, area, start, near, weight, order, colours);
  }

  private static double square(double[] a) {
    return a[0] * a[0] + a[1] * a[1] + a[2] * a[2];
  }
}
