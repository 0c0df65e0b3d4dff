package holotome.core.section;

import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Cuts a mesh by a stack of parallel planes into exact curves: each crossed edge gives one point,
 * computed once in double precision, and curves are joined by the edges they share, so that no
 * tolerance is in it. A vertex on a plane counts as before it (Edelsbrunner and Mücke, "Simulation
 * of simplicity", 1990, in its plainest form), so that nothing is cut twice.
 *
 * <p>O(T + S log S) for T triangles and S crossings; 20 bytes a crossing. The result does not
 * depend on the number of threads.
 */
public final class Slicer {
  private static final int GRAIN = 1 << 15;

  /** Two ends a crossing must fit into one array. */
  private static final long MOST = 1_000_000_000;

  private final Mesh mesh;
  private final double[] row;
  private final double[] place;
  private final SectionPlane plane;
  private final double step;
  private final int count;

  private Slicer(Mesh mesh, Similarity toWork, SectionPlane plane, double step, int count) {
    this.mesh = mesh;
    this.plane = plane;
    this.step = step;
    this.count = count;
    this.place = Placing.matrix(toWork);
    row = new double[4];
    for (int k = 0; k < 4; k++) {
      for (int i = 0; i < 3; i++) {
        row[k] += plane.normal()[i] * place[4 * i + k];
      }
    }
  }

  /** Cuts by one plane. */
  public static Section cut(Mesh mesh, Similarity toWork, SectionPlane plane, Work work) {
    return stack(mesh, toWork, plane, 1, 1, work).getFirst();
  }

  /**
   * Cuts by planes at even distances, from the given one along its normal.
   *
   * @param toWork from the mesh's coordinates to working space, in which the curves are given
   * @param step above zero
   */
  public static List<Section> stack(
      Mesh mesh, Similarity toWork, SectionPlane plane, double step, int count, Work work) {
    return new Slicer(mesh, toWork, plane, step, count).run(work);
  }

  /** The crossings that some triangles gave: which plane, from which edge to which. */
  private static final class Crossings {
    private int[] plane = new int[64];
    private long[] ends = new long[128];
    private int size;

    void add(int k, long from, long to) {
      if (size == plane.length) {
        plane = Arrays.copyOf(plane, 2 * size);
        ends = Arrays.copyOf(ends, 4 * size);
      }
      plane[size] = k;
      ends[2 * size] = from;
      ends[2 * size + 1] = to;
      size++;
    }
  }

  private List<Section> run(Work work) {
    int n = mesh.triangleCount();
    Crossings[] parts = new Crossings[Parallel.chunks(n, GRAIN)];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.6, CoreWords.of("work.cutting")),
        (c, from, to) -> {
          Crossings out = new Crossings();
          for (int t = from; t < to; t++) {
            cross(t, out);
          }
          parts[c] = out;
        });
    long crossings = Arrays.stream(parts).mapToLong(p -> p.size).sum();
    if (crossings > MOST) {
      throw Failure.cannot(CoreWords.of("slicer.the-planes-cross-edges-more", crossings));
    }
    int[] start = new int[count + 1];
    for (Crossings p : parts) {
      for (int i = 0; i < p.size; i++) {
        start[p.plane[i] + 1]++;
      }
    }
    for (int k = 0; k < count; k++) {
      start[k + 1] += start[k];
    }
    long[] ends = new long[2 * start[count]];
    int[] fill = start.clone();
    for (int c = 0; c < parts.length; c++) {
      Crossings p = parts[c];
      for (int i = 0; i < p.size; i++) {
        int at = fill[p.plane[i]]++;
        ends[2 * at] = p.ends[2 * i];
        ends[2 * at + 1] = p.ends[2 * i + 1];
      }
      parts[c] = null;
    }
    Section[] sections = new Section[count];
    Parallel.range(
        count,
        1,
        work.part(0.4, CoreWords.of("work.joining-curves")),
        (from, to) -> {
          for (int k = from; k < to; k++) {
            sections[k] = section(k, Arrays.copyOfRange(ends, 2 * start[k], 2 * start[k + 1]));
          }
        });
    return List.of(sections);
  }

  private double height(int vertex) {
    float[] p = mesh.xyz();
    return row[0] * p[3 * vertex]
        + row[1] * p[3 * vertex + 1]
        + row[2] * p[3 * vertex + 2]
        + row[3];
  }

  private double level(int k) {
    return plane.offset() + k * step;
  }

  private void cross(int t, Crossings out) {
    int[] tri = mesh.triangles();
    int a = tri[3 * t];
    int b = tri[3 * t + 1];
    int c = tri[3 * t + 2];
    double ha = height(a);
    double hb = height(b);
    double hc = height(c);
    double least = Math.min(ha, Math.min(hb, hc));
    double most = Math.max(ha, Math.max(hb, hc));
    double first = Math.max(0, Math.floor((least - plane.offset()) / step) - 1);
    double last = Math.min(count - 1, Math.ceil((most - plane.offset()) / step) + 1);
    for (int k = (int) first; k <= last; k++) {
      double h = level(k);
      if (!(least < h && most >= h)) {
        continue;
      }
      boolean fa = ha >= h;
      boolean fb = hb >= h;
      boolean fc = hc >= h;
      // The one corner that stands alone on its side; the curve runs with the solid on its left.
      if (fb == fc) {
        crossing(k, fa, a, b, c, out);
      } else if (fa == fc) {
        crossing(k, fb, b, c, a, out);
      } else {
        crossing(k, fc, c, a, b, out);
      }
    }
  }

  private static void crossing(
      int k, boolean before, int alone, int next, int last, Crossings out) {
    long one = edge(alone, next);
    long other = edge(alone, last);
    out.add(k, before ? one : other, before ? other : one);
  }

  private static long edge(int a, int b) {
    return (long) Math.min(a, b) << 32 | Math.max(a, b);
  }

  private Section section(int k, long[] ends) {
    int[][] chains = Chains.of(ends);
    List<Curve> curves = new ArrayList<>();
    for (int[] chain : chains) {
      boolean closed = chain[0] == chain[chain.length - 1];
      int n = closed ? chain.length - 1 : chain.length;
      double[] xy = new double[2 * n];
      int kept = 0;
      for (int i = 0; i < n; i++) {
        place(ends[chain[i]], level(k), xy, kept);
        // Where the plane meets a vertex several edges give its very place.
        boolean same =
            kept > 0 && xy[2 * kept] == xy[2 * kept - 2] && xy[2 * kept + 1] == xy[2 * kept - 1];
        kept += same ? 0 : 1;
      }
      if (closed && kept > 1 && xy[0] == xy[2 * kept - 2] && xy[1] == xy[2 * kept - 1]) {
        kept--;
      }
      if (kept > 1) {
        curves.add(new Curve(Arrays.copyOf(xy, 2 * kept), closed && kept > 2));
      }
    }
    curves = Chains.joinOpen(curves);
    double[] length = new double[curves.size()];
    Integer[] order = new Integer[curves.size()];
    for (int i = 0; i < length.length; i++) {
      length[i] = curves.get(i).length();
      order[i] = i;
    }
    Arrays.sort(order, (a, b) -> Double.compare(length[b], length[a]));
    List<Curve> sorted = new ArrayList<>();
    for (int i : order) {
      sorted.add(curves.get(i));
    }
    return new Section(plane.at(level(k)), sorted);
  }

  /** Where an edge crosses a plane, flat. The ends in order of place: alike from all sides. */
  private void place(long edge, double level, double[] xy, int at) {
    int a = (int) (edge >>> 32);
    int b = (int) edge;
    if (after(a, b)) {
      int swap = a;
      a = b;
      b = swap;
    }
    double ha = height(a);
    double hb = height(b);
    double f = (level - ha) / (hb - ha);
    double[] p = Vec.at(mesh.xyz(), a);
    double[] q = Vec.at(mesh.xyz(), b);
    double[] w = new double[3];
    for (int i = 0; i < 3; i++) {
      double s = place[4 * i + 3];
      for (int j = 0; j < 3; j++) {
        s += place[4 * i + j] * (p[j] + f * (q[j] - p[j]));
      }
      w[i] = s;
    }
    xy[2 * at] = Vec.dot(w, plane.right());
    xy[2 * at + 1] = Vec.dot(w, plane.up());
  }

  private boolean after(int a, int b) {
    float[] p = mesh.xyz();
    for (int k = 0; k < 3; k++) {
      int c = Float.compare(p[3 * a + k], p[3 * b + k]);
      if (c != 0) {
        return c > 0;
      }
    }
    return false;
  }
}
