package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import holotome.core.topology.Adjacency;
import java.util.Arrays;

/**
 * Two pieces made one along the border that they share: the second is turned to where that border
 * fits best (the plane's rigid fit, by the sums of products of points), and both are then laid flat
 * together. Where they meet in several stretches the longest is joined, and what else fits; the
 * rest stays a seam.
 */
final class PieceJoin {
  /** Beside the length of the joined stretch: how far its points may lie off, root mean square. */
  private static final double OFF = 0.25;

  /** The same for what is joined beside the longest stretch. */
  private static final double MORE_OFF = 1;

  /** Vertices moved: so many for each of the smaller piece, and so many in any case. */
  private static final int REACH = 3;

  private static final int LEAST_REACH = 60;
  private static final int ROUNDS = 5;
  private final Piece a;
  private final Piece b;

  /** Per shared edge: its two ends in the first piece, and the same ends in the second. */
  private final int[] endA;

  private final int[] endB;
  private final int edges;

  /**
   * @param shared local half-edges of the first piece, 3 per triangle
   * @param opposite those of the second that lie on them
   */
  PieceJoin(Piece a, Piece b, int[] shared, int[] opposite) {
    this.a = a;
    this.b = b;
    edges = shared.length;
    endA = new int[2 * edges];
    endB = new int[2 * edges];
    for (int e = 0; e < edges; e++) {
      endA[2 * e] = a.corners()[shared[e]];
      endA[2 * e + 1] = a.corners()[Adjacency.next(shared[e])];
      endB[2 * e] = b.corners()[Adjacency.next(opposite[e])];
      endB[2 * e + 1] = b.corners()[opposite[e]];
    }
  }

  /**
   * Both as one piece, stretched no more than allowed; null where that cannot be.
   *
   * @param isWhole whether they are to be joined all along their border
   */
  Piece joined(double most, boolean isWhole) {
    int[] stretch = stretches();
    double[] length = new double[edges];
    for (int e = 0; e < edges; e++) {
      length[stretch[e]] += length(e);
    }
    int main = 0;
    for (int s = 0; s < edges; s++) {
      if (length[s] > length[main]) {
        main = s;
      }
    }
    boolean[] isJoined = new boolean[edges];
    for (int e = 0; e < edges; e++) {
      isJoined[e] = stretch[e] == main;
    }
    double[] fit = fit(isJoined);
    double bound = OFF * length[main];
    if (off(isJoined, fit) > bound) {
      return null;
    }
    boolean[] isMore = isJoined.clone();
    boolean hasMore = false;
    for (int s = 0; s < edges; s++) {
      if (s == main || !(length[s] > 0)) {
        continue;
      }
      boolean[] only = new boolean[edges];
      for (int e = 0; e < edges; e++) {
        only[e] = stretch[e] == s;
      }
      if (isWhole || off(only, fit) <= MORE_OFF * length[main]) {
        hasMore = true;
        for (int e = 0; e < edges; e++) {
          isMore[e] |= only[e];
        }
      }
    }
    Piece out = hasMore ? settled(isMore, fit(isMore), most) : null;
    return out != null || isWhole && hasMore ? out : settled(isJoined, fit, most);
  }

  private Piece settled(boolean[] isJoined, double[] fit, double most) {
    Piece u = union(isJoined, fit);
    int small = Math.min(a.vertices(), b.vertices());
    int from = a.vertices() == small ? 0 : a.triangles().length;
    int to = from == 0 ? a.triangles().length : u.triangles().length;
    return Settling.settledNear(
        u,
        Arrays.copyOfRange(u.corners(), 3 * from, 3 * to),
        REACH * small + LEAST_REACH,
        ROUNDS,
        most);
  }

  private double length(int e) {
    double[] p = a.uv();
    return Math.hypot(
        p[2 * endA[2 * e]] - p[2 * endA[2 * e + 1]],
        p[2 * endA[2 * e] + 1] - p[2 * endA[2 * e + 1] + 1]);
  }

  /** The stretch of each edge, by its lowest edge: edges that meet in both pieces. */
  private int[] stretches() {
    DisjointSets sets = new DisjointSets(edges);
    // Ends are matched by the vertices of both pieces; few, so by sorting.
    long[] key = new long[2 * edges];
    Integer[] order = new Integer[2 * edges];
    for (int i = 0; i < key.length; i++) {
      key[i] = (long) endA[i] << 32 | endB[i];
      order[i] = i;
    }
    Arrays.sort(order, (i, j) -> key[i] != key[j] ? Long.compare(key[i], key[j]) : i - j);
    for (int i = 1; i < order.length; i++) {
      if (key[order[i]] == key[order[i - 1]]) {
        sets.join(order[i] / 2, order[i - 1] / 2);
      }
    }
    int[] out = new int[edges];
    Arrays.setAll(out, sets::find);
    return out;
  }

  /** The turn and shift of the second piece: cosine, sine, x, y. */
  private double[] fit(boolean[] isJoined) {
    double weight = 0;
    double ax = 0;
    double ay = 0;
    double bx = 0;
    double by = 0;
    double dot = 0;
    double cross = 0;
    for (int i = 0; i < endA.length; i++) {
      if (!isJoined[i / 2]) {
        continue;
      }
      double w = length(i / 2);
      double px = a.uv()[2 * endA[i]];
      double py = a.uv()[2 * endA[i] + 1];
      double qx = b.uv()[2 * endB[i]];
      double qy = b.uv()[2 * endB[i] + 1];
      weight += w;
      ax += w * px;
      ay += w * py;
      bx += w * qx;
      by += w * qy;
      dot += w * (px * qx + py * qy);
      cross += w * (py * qx - px * qy);
    }
    dot -= (ax * bx + ay * by) / weight;
    cross -= (ay * bx - ax * by) / weight;
    double r = Math.hypot(dot, cross);
    double c = r > 0 ? dot / r : 1;
    double s = r > 0 ? cross / r : 0;
    return new double[] {
      c, s, (ax - c * bx + s * by) / weight, (ay - s * bx - c * by) / weight,
    };
  }

  private double off(boolean[] isCounted, double[] fit) {
    double sum = 0;
    double weight = 0;
    for (int i = 0; i < endA.length; i++) {
      if (!isCounted[i / 2]) {
        continue;
      }
      double w = length(i / 2);
      double qx = b.uv()[2 * endB[i]];
      double qy = b.uv()[2 * endB[i] + 1];
      double dx = fit[0] * qx - fit[1] * qy + fit[2] - a.uv()[2 * endA[i]];
      double dy = fit[1] * qx + fit[0] * qy + fit[3] - a.uv()[2 * endA[i] + 1];
      sum += w * (dx * dx + dy * dy);
      weight += w;
    }
    return weight > 0 ? Math.sqrt(sum / weight) : 0;
  }

  private Piece union(boolean[] isJoined, double[] fit) {
    int n = a.vertices();
    int m = b.vertices();
    DisjointSets sets = new DisjointSets(n + m);
    for (int i = 0; i < endA.length; i++) {
      if (isJoined[i / 2]) {
        sets.join(endA[i], n + endB[i]);
      }
    }
    int[] number = sets.numbered();
    int count = 0;
    for (int v : number) {
      count = Math.max(count, v + 1);
    }
    double[] uv = new double[2 * count];
    int[] share = new int[count];
    for (int v = 0; v < n + m; v++) {
      double x;
      double y;
      if (v < n) {
        x = a.uv()[2 * v];
        y = a.uv()[2 * v + 1];
      } else {
        double qx = b.uv()[2 * (v - n)];
        double qy = b.uv()[2 * (v - n) + 1];
        x = fit[0] * qx - fit[1] * qy + fit[2];
        y = fit[1] * qx + fit[0] * qy + fit[3];
      }
      uv[2 * number[v]] += x;
      uv[2 * number[v] + 1] += y;
      share[number[v]]++;
    }
    for (int v = 0; v < count; v++) {
      uv[2 * v] /= share[v];
      uv[2 * v + 1] /= share[v];
    }
    int ka = a.corners().length;
    int[] corners = Arrays.copyOf(a.corners(), ka + b.corners().length);
    for (int i = 0; i < ka; i++) {
      corners[i] = number[corners[i]];
    }
    for (int i = 0; i < b.corners().length; i++) {
      corners[ka + i] = number[n + b.corners()[i]];
    }
    int[] triangles = Arrays.copyOf(a.triangles(), ka / 3 + b.triangles().length);
    System.arraycopy(b.triangles(), 0, triangles, ka / 3, b.triangles().length);
    double[] rest = Arrays.copyOf(a.rest(), corners.length);
    System.arraycopy(b.rest(), 0, rest, ka, b.rest().length);
    return new Piece(triangles, corners, rest, uv);
  }
}
