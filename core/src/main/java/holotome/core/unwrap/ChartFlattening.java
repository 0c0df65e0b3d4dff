package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.solve.SparseSystem;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Arrays;

/**
 * Lays one chart flat: a projection along its mean normal, then as rigid as possible (Liu, Zhang,
 * Xu, Gotsman and Gortler, "A local/global approach to mesh parameterization", SGP 2008), accepted
 * only if no triangle folds over and the outline does not meet itself, which together make it free
 * of overlap.
 */
final class ChartFlattening {
  private static final int ROUNDS = 8;

  private final Mesh mesh;
  private final int[] members;
  private final int[] corners;
  private final int[] vertices;
  private final double[] flat;

  private ChartFlattening(Mesh mesh, int[] members) {
    this.mesh = mesh;
    this.members = members;
    corners = new int[3 * members.length];
    int[] used = new int[corners.length];
    for (int i = 0; i < members.length; i++) {
      System.arraycopy(mesh.triangles(), 3 * members[i], used, 3 * i, 3);
    }
    int[] sorted = used.clone();
    Arrays.sort(sorted);
    int count = 0;
    for (int i = 0; i < sorted.length; i++) {
      if (i == 0 || sorted[i] != sorted[i - 1]) {
        sorted[count++] = sorted[i];
      }
    }
    vertices = Arrays.copyOf(sorted, count);
    for (int i = 0; i < used.length; i++) {
      corners[i] = Arrays.binarySearch(vertices, used[i]);
    }
    // Each triangle on its own plane: first corner at 0 0, second at x 0, third at x y.
    flat = new double[3 * members.length];
    for (int i = 0; i < members.length; i++) {
      double[] a = Vec.at(mesh.xyz(), used[3 * i]);
      double[] u = Vec.sub(Vec.at(mesh.xyz(), used[3 * i + 1]), a);
      double[] v = Vec.sub(Vec.at(mesh.xyz(), used[3 * i + 2]), a);
      double l = Math.max(Vec.length(u), 1e-30);
      flat[3 * i] = l;
      flat[3 * i + 1] = Vec.dot(u, v) / l;
      flat[3 * i + 2] = Vec.length(Vec.cross(u, v)) / l;
    }
  }

  /** The flattened chart, or null where it folds over or overlaps itself. */
  static Charts.Chart flatten(
      Mesh mesh, int[] members, double[] normals, double[] areas, Work work) {
    ChartFlattening f = new ChartFlattening(mesh, members);
    double[] uv = f.project(normals, areas);
    if (members.length == 1) {
      return f.chart(f.single());
    }
    boolean sound = f.sound(uv);
    double[] relaxed = f.relax(uv, work);
    if (relaxed != null && f.sound(relaxed)) {
      return f.chart(relaxed);
    }
    return sound ? f.chart(uv) : null;
  }

  private Charts.Chart chart(double[] uv) {
    return new Charts.Chart(members, corners, uv);
  }

  private double[] single() {
    double[] uv = new double[6];
    uv[2 * corners[1]] = flat[0];
    uv[2 * corners[2]] = flat[1];
    uv[2 * corners[2] + 1] = flat[2];
    return uv;
  }

  private double[] project(double[] normals, double[] areas) {
    double[] mean = new double[3];
    for (int t : members) {
      for (int k = 0; k < 3; k++) {
        mean[k] += normals[3 * t + k] * areas[t];
      }
    }
    double[] n = Vec.unit(mean);
    if (Vec.length(n) < 0.5) {
      n = Vec.of(0, 0, 1);
    }
    double[] x = Vec.perpendicular(n);
    double[] y = Vec.cross(n, x);
    double[] uv = new double[2 * vertices.length];
    for (int v = 0; v < vertices.length; v++) {
      double[] p = Vec.at(mesh.xyz(), vertices[v]);
      uv[2 * v] = Vec.dot(p, x);
      uv[2 * v + 1] = Vec.dot(p, y);
    }
    return uv;
  }

  private double[] relax(double[] start, Work work) {
    int n = vertices.length;
    double[] cot = new double[corners.length];
    for (int t = 0; t < members.length; t++) {
      for (int k = 0; k < 3; k++) {
        cot[3 * t + k] = cotangent(t, k);
      }
    }
    SparseSystem laplace = laplacian(cot);
    double[] u = new double[n];
    double[] v = new double[n];
    for (int i = 0; i < n; i++) {
      u[i] = start[2 * i];
      v[i] = start[2 * i + 1];
    }
    double[] bu = new double[n];
    double[] bv = new double[n];
    for (int round = 0; round < ROUNDS; round++) {
      Arrays.fill(bu, 0);
      Arrays.fill(bv, 0);
      for (int t = 0; t < members.length; t++) {
        turnInto(t, cot, u, v, bu, bv);
      }
      laplace.solve(bu, u, 1e-6, 400, work);
      laplace.solve(bv, v, 1e-6, 400, work);
    }
    double[] out = new double[2 * n];
    for (int i = 0; i < n; i++) {
      if (!Double.isFinite(u[i] + v[i])) {
        return null;
      }
      out[2 * i] = u[i];
      out[2 * i + 1] = v[i];
    }
    return out;
  }

  private double px(int t, int k) {
    return k == 0 ? 0 : flat[3 * t + k - 1];
  }

  private double py(int t, int k) {
    return k == 2 ? flat[3 * t + 2] : 0;
  }

  /** The cotangent of the angle across the edge from corner k to the next; bounded, above zero. */
  private double cotangent(int t, int k) {
    int a = k;
    int b = (k + 1) % 3;
    int c = (k + 2) % 3;
    double ux = px(t, a) - px(t, c);
    double uy = py(t, a) - py(t, c);
    double vx = px(t, b) - px(t, c);
    double vy = py(t, b) - py(t, c);
    double cross = Math.abs(ux * vy - uy * vx);
    double dot = ux * vx + uy * vy;
    return Math.clamp(cross > 0 ? dot / cross : 0, 0.02, 50.0);
  }

  private SparseSystem laplacian(double[] cot) {
    int n = vertices.length;
    long[] keys = new long[2 * corners.length];
    double[] values = new double[keys.length];
    Integer[] order = new Integer[keys.length];
    int count = 0;
    double[] diagonal = new double[n];
    for (int h = 0; h < corners.length; h++) {
      int a = corners[h];
      int b = corners[Adjacency.next(h)];
      for (int s = 0; s < 2; s++) {
        keys[count] = s == 0 ? (long) a << 32 | b : (long) b << 32 | a;
        values[count] = -cot[h];
        order[count] = count;
        count++;
      }
      diagonal[a] += cot[h];
      diagonal[b] += cot[h];
    }
    Arrays.sort(order, (i, j) -> keys[i] != keys[j] ? Long.compare(keys[i], keys[j]) : i - j);
    int[] start = new int[n + 1];
    int[] column = new int[count + n];
    double[] value = new double[count + n];
    int at = 0;
    int i = 0;
    for (int row = 0; row < n; row++) {
      column[at] = row;
      // A breath of weight on the diagonal pins what translation leaves free.
      value[at++] = diagonal[row] * (1 + 1e-9);
      while (i < count && keys[order[i]] >>> 32 == row) {
        long key = keys[order[i]];
        double sum = 0;
        while (i < count && keys[order[i]] == key) {
          sum += values[order[i++]];
        }
        column[at] = (int) key;
        value[at++] = sum;
      }
      start[row + 1] = at;
    }
    return new SparseSystem(start, Arrays.copyOf(column, at), Arrays.copyOf(value, at));
  }

  /** Adds a triangle's pull: its own shape, turned as it lies now. */
  private void turnInto(int t, double[] cot, double[] u, double[] v, double[] bu, double[] bv) {
    double a = 0;
    double b = 0;
    for (int k = 0; k < 3; k++) {
      int l = (k + 1) % 3;
      double w = cot[3 * t + k];
      double ex = px(t, k) - px(t, l);
      double ey = py(t, k) - py(t, l);
      double fx = u[corners[3 * t + k]] - u[corners[3 * t + l]];
      double fy = v[corners[3 * t + k]] - v[corners[3 * t + l]];
      a += w * (ex * fx + ey * fy);
      b += w * (ex * fy - ey * fx);
    }
    double r = Math.sqrt(a * a + b * b);
    if (!(r > 0)) {
      return;
    }
    double c = a / r;
    double s = b / r;
    for (int k = 0; k < 3; k++) {
      int l = (k + 1) % 3;
      double w = cot[3 * t + k];
      double ex = px(t, k) - px(t, l);
      double ey = py(t, k) - py(t, l);
      double dx = w * (c * ex - s * ey);
      double dy = w * (s * ex + c * ey);
      bu[corners[3 * t + k]] += dx;
      bv[corners[3 * t + k]] += dy;
      bu[corners[3 * t + l]] -= dx;
      bv[corners[3 * t + l]] -= dy;
    }
  }

  /** Whether every triangle keeps its side and the outline meets itself nowhere. */
  private boolean sound(double[] uv) {
    for (int t = 0; t < members.length; t++) {
      int a = 2 * corners[3 * t];
      int b = 2 * corners[3 * t + 1];
      int c = 2 * corners[3 * t + 2];
      double twice =
          (uv[b] - uv[a]) * (uv[c + 1] - uv[a + 1]) - (uv[c] - uv[a]) * (uv[b + 1] - uv[a + 1]);
      double own = flat[3 * t] * flat[3 * t + 2];
      if (!(twice > 0.02 * own) && own > 0) {
        return false;
      }
    }
    return !ChartOutline.meetsItself(corners, uv);
  }
}
