package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.solve.SparseSystem;
import holotome.core.topology.Adjacency;
import java.util.Arrays;
import java.util.HashMap;
import java.util.Map;

/**
 * The umbrella operator over a patch and the ring of mesh vertices around it: for each vertex of
 * the patch, the mean of its neighbours, weighted by the inverse of the edge lengths, less itself.
 *
 * <p>Numbering: border vertices, inner vertices, then the mesh's vertices one edge outside.
 */
final class Umbrella {
  private final int patch;
  private final int[] start;
  private final int[] neighbour;
  private final double[] weight;
  private final double[] positions;

  Umbrella(
      Mesh mesh,
      Adjacency adjacency,
      int[] loop,
      int[] ring,
      double[] p,
      int vertices,
      int[] tri,
      int corners) {
    patch = vertices;
    Map<Integer, Integer> place = new HashMap<>();
    for (int i = 0; i < ring.length; i++) {
      place.put(ring[i], i);
    }
    // Edges of the patch, and of the mesh's fans around the border, as ordered pairs.
    long[] pairs = new long[2 * corners + 64];
    int count = 0;
    for (int h = 0; h < corners; h++) {
      pairs[count++] = pair(tri[h], tri[Adjacency.next(h)]);
      pairs[count++] = pair(tri[Adjacency.next(h)], tri[h]);
    }
    int[] meshTri = mesh.triangles();
    int[] twin = adjacency.twin();
    double[] all = Arrays.copyOf(p, 3 * vertices);
    int total = vertices;
    for (int h : loop) {
      // Turn around the start of h from one border edge to the other.
      int me = place.get(meshTri[h]);
      int e = h;
      while (true) {
        int far = meshTri[Adjacency.next(e)];
        Integer known = place.get(far);
        if (known == null) {
          if (3 * total + 3 > all.length) {
            all = Arrays.copyOf(all, 2 * all.length);
          }
          for (int k = 0; k < 3; k++) {
            all[3 * total + k] = mesh.xyz()[3 * far + k];
          }
          known = total++;
          place.put(far, known);
        }
        if (count + 2 > pairs.length) {
          pairs = Arrays.copyOf(pairs, 2 * pairs.length);
        }
        pairs[count++] = pair(me, known);
        int back = Adjacency.previous(e);
        if (twin[back] < 0) {
          break;
        }
        e = twin[back];
      }
    }
    positions = Arrays.copyOf(all, 3 * total);
    Arrays.sort(pairs, 0, count);
    int unique = 0;
    for (int i = 0; i < count; i++) {
      if ((int) (pairs[i] >>> 32) < patch && (i == 0 || pairs[i] != pairs[i - 1])) {
        pairs[unique++] = pairs[i];
      }
    }
    start = new int[patch + 1];
    neighbour = new int[unique];
    weight = new double[unique];
    for (int i = 0; i < unique; i++) {
      start[(int) (pairs[i] >>> 32) + 1]++;
      neighbour[i] = (int) pairs[i];
    }
    for (int v = 0; v < patch; v++) {
      start[v + 1] += start[v];
    }
    for (int v = 0; v < patch; v++) {
      double sum = 0;
      for (int i = start[v]; i < start[v + 1]; i++) {
        weight[i] = 1 / Math.max(1e-30, distance(v, neighbour[i]));
        sum += weight[i];
      }
      for (int i = start[v]; i < start[v + 1]; i++) {
        weight[i] /= sum;
      }
    }
  }

  private static long pair(int a, int b) {
    return (long) a << 32 | b;
  }

  private double distance(int a, int b) {
    double s = 0;
    for (int k = 0; k < 3; k++) {
      double d = positions[3 * a + k] - positions[3 * b + k];
      s += d * d;
    }
    return Math.sqrt(s);
  }

  /** 3 doubles per vertex, in this numbering. */
  double[] positions() {
    return positions;
  }

  /** Inner neighbours with equal pull: symmetric, so that it suits conjugate gradients. */
  SparseSystem membrane(int border, int inner) {
    int[] s = new int[inner + 1];
    int[] c = new int[neighbour.length + inner];
    double[] w = new double[c.length];
    int n = 0;
    for (int i = 0; i < inner; i++) {
      int v = border + i;
      c[n] = i;
      w[n++] = start[v + 1] - start[v];
      for (int k = start[v]; k < start[v + 1]; k++) {
        int u = neighbour[k];
        if (u >= border && u < border + inner) {
          c[n] = u - border;
          w[n++] = -1;
        }
      }
      s[i + 1] = n;
    }
    return new SparseSystem(s, Arrays.copyOf(c, n), Arrays.copyOf(w, n));
  }

  /** The pull of the known values on the inner vertices. */
  double[] membraneRight(int axis, double[] known, int border, int inner) {
    double[] b = new double[inner];
    for (int i = 0; i < inner; i++) {
      int v = border + i;
      for (int k = start[v]; k < start[v + 1]; k++) {
        int u = neighbour[k];
        if (u < border || u >= border + inner) {
          b[i] += known[3 * u + axis];
        }
      }
    }
    return b;
  }

  /** The normal equations of all umbrellas over the patch, for its inner vertices. */
  SparseSystem plate(int border, int inner) {
    int[] s = new int[inner + 1];
    products(border, inner, (row, column, value) -> s[row + 1]++);
    for (int i = 0; i < inner; i++) {
      s[i + 1] += s[i];
    }
    int[] c = new int[s[inner]];
    double[] w = new double[s[inner]];
    int[] fill = s.clone();
    products(
        border,
        inner,
        (row, column, value) -> {
          c[fill[row]] = column;
          w[fill[row]++] = value;
        });
    int n = 0;
    for (int row = 0; row < inner; row++) {
      int from = s[row];
      int to = s[row + 1];
      sortByColumn(c, w, from, to);
      s[row] = n;
      for (int k = from; k < to; k++) {
        if (n > s[row] && c[n - 1] == c[k]) {
          w[n - 1] += w[k];
        } else {
          c[n] = c[k];
          w[n++] = w[k];
        }
      }
    }
    s[inner] = n;
    return new SparseSystem(s, Arrays.copyOf(c, n), Arrays.copyOf(w, n));
  }

  private interface Product {
    void take(int row, int column, double value);
  }

  /** All products of two weights of one umbrella, among the inner vertices. */
  private void products(int border, int inner, Product out) {
    for (int v = 0; v < patch; v++) {
      int from = start[v] - 1;
      for (int i = from; i < start[v + 1]; i++) {
        int a = i == from ? v : neighbour[i];
        double wa = i == from ? 1 : -weight[i];
        if (a < border || a >= border + inner) {
          continue;
        }
        for (int j = from; j < start[v + 1]; j++) {
          int b = j == from ? v : neighbour[j];
          if (b >= border && b < border + inner) {
            out.take(a - border, b - border, wa * (j == from ? 1 : -weight[j]));
          }
        }
      }
    }
  }

  /** By insertion: a row holds some fifty, and equal columns keep their order. */
  private static void sortByColumn(int[] column, double[] value, int from, int to) {
    for (int i = from + 1; i < to; i++) {
      int c = column[i];
      double w = value[i];
      int j = i - 1;
      while (j >= from && column[j] > c) {
        column[j + 1] = column[j];
        value[j + 1] = value[j];
        j--;
      }
      column[j + 1] = c;
      value[j + 1] = w;
    }
  }

  double[] plateRight(int axis, double[] known, int border, int inner) {
    double[] b = new double[inner];
    for (int v = 0; v < patch; v++) {
      double fixed = v < border ? known[3 * v + axis] : 0;
      for (int i = start[v]; i < start[v + 1]; i++) {
        int u = neighbour[i];
        if (u < border || u >= border + inner) {
          fixed -= weight[i] * known[3 * u + axis];
        }
      }
      if (v >= border) {
        b[v - border] -= fixed;
      }
      for (int i = start[v]; i < start[v + 1]; i++) {
        int u = neighbour[i];
        if (u >= border && u < border + inner) {
          b[u - border] += weight[i] * fixed;
        }
      }
    }
    return b;
  }
}
