package holotome.core.proxy;

import holotome.core.array.DisjointSets;
import holotome.core.array.LongIndex;
import holotome.core.geometry.TrianglePlaces;
import holotome.core.geometry.Vec;
import holotome.core.polygon.FaceLists;
import holotome.core.polygon.Triangulated;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Settles a mesh of flat faces by shifting each plane along its own normal: edges stay straight,
 * faces flat, and angles what they are. How far a plane shifts is the mean of what many places on
 * it find, without those that lie far from the middle one; planes that find nothing go as the
 * others have them go. Where more than three planes meet in a point they are held together: of all
 * shifts that allow it, the nearest to those wanted, by area (least squares with conditions).
 */
final class StiffPlanes {
  /** Faces side by side whose normals differ by less are one plane. */
  private static final double SAME = Math.cos(Math.toRadians(0.5));

  /** Corners of a face farther from its plane than this share of its size make it bent. */
  private static final double FLAT = 1e-4;

  static final int MOST = 600;
  private static final int PLACES = 2000;

  /** Of a plane's places so many must find the Scan. */
  private static final double SEEN = 0.05;

  /** What a plane that finds nothing weighs beside one of its size that does. */
  private static final double FREE = 1e-6;

  private final FaceLists of;
  private final int[] plane;
  private final double[][] normals;
  private final double[] area;

  private StiffPlanes(FaceLists of) {
    this.of = of;
    int n = of.faces().length;
    double[][] own = new double[n][];
    double[] size = new double[n];
    for (int f = 0; f < n; f++) {
      own[f] = of.normal(f);
      size[f] = area(of.corners(f));
    }
    DisjointSets same = joined(own);
    plane = new int[n];
    int[] number = new int[n];
    Arrays.fill(number, -1);
    int planes = 0;
    for (int f = 0; f < n; f++) {
      int root = same.find(f);
      if (number[root] < 0) {
        number[root] = planes++;
      }
      plane[f] = number[root];
    }
    if (planes > MOST) {
      throw Failure.cannot(CoreWords.of("proxy-settle.too-many-planes", planes, MOST));
    }
    normals = new double[planes][3];
    area = new double[planes];
    for (int f = 0; f < n; f++) {
      area[plane[f]] += size[f];
      normals[plane[f]] = Vec.add(normals[plane[f]], Vec.mul(own[f], size[f]));
    }
    for (int p = 0; p < planes; p++) {
      normals[p] = Vec.unit(normals[p]);
    }
    checkFlat();
  }

  /**
   * What came of it.
   *
   * @param moves 3 doubles a vertex
   * @param seen planes that found the Scan
   * @param most the longest move
   */
  record Moved(double[] moves, int planes, int seen, double most) {}

  private DisjointSets joined(double[][] own) {
    DisjointSets same = new DisjointSets(own.length);
    LongIndex edges = new LongIndex();
    List<Integer> first = new ArrayList<>();
    for (int f = 0; f < own.length; f++) {
      int[] c = of.faces()[f];
      for (int i = 0; i < c.length; i++) {
        int a = c[i];
        int b = c[(i + 1) % c.length];
        int e = edges.add((long) Math.min(a, b) << 32 | Math.max(a, b));
        if (e == first.size()) {
          first.add(f);
        } else if (Vec.dot(own[f], own[first.get(e)]) > SAME) {
          same.join(f, first.get(e));
        }
      }
    }
    return same;
  }

  private void checkFlat() {
    int bent = 0;
    for (int f = 0; f < plane.length; f++) {
      double[][] q = of.corners(f);
      double size = 0;
      double off = 0;
      for (double[] p : q) {
        double[] d = Vec.sub(p, q[0]);
        size = Math.max(size, Vec.length(d));
        off = Math.max(off, Math.abs(Vec.dot(d, normals[plane[f]])));
      }
      bent += off > Math.max(FLAT, 1.01 * Math.sqrt(1 - SAME * SAME)) * size ? 1 : 0;
    }
    if (bent > 0) {
      throw Failure.cannot(CoreWords.count("proxy-settle.bent", bent));
    }
  }

  private static double area(double[][] q) {
    double[] sum = new double[3];
    for (int i = 2; i < q.length; i++) {
      sum = Vec.add(sum, Vec.cross(Vec.sub(q[i - 1], q[0]), Vec.sub(q[i], q[0])));
    }
    return Vec.length(sum) / 2;
  }

  /** Moves of a mesh's vertices. */
  static Moved of(FaceLists faces, ScanReach reach, double within, Work work) {
    StiffPlanes s = new StiffPlanes(faces);
    double[] wanted = new double[s.normals.length];
    double[] weight = new double[wanted.length];
    int seen = 0;
    for (int p = 0; p < wanted.length; p++) {
      work.check();
      Double by = s.shift(p, reach);
      seen += by == null ? 0 : 1;
      wanted[p] = by == null ? 0 : by;
      weight[p] = Math.max(s.area[p], 1e-30) * (by == null ? FREE : 1);
      work.advance(1.0 / wanted.length);
    }
    return s.moved(wanted, weight, seen, within);
  }

  /** How far a plane is to shift; null where it finds nothing. */
  private Double shift(int p, ScanReach reach) {
    double[] found = new double[2 * PLACES + 4 * plane.length];
    int n = 0;
    int asked = 0;
    for (int f = 0; f < plane.length; f++) {
      if (plane[f] != p) {
        continue;
      }
      double[][] q = of.corners(f);
      int[] cut = Triangulated.triangles(q);
      for (int t = 0; t < cut.length; t += 3) {
        double[][] c = {q[cut[t]], q[cut[t + 1]], q[cut[t + 2]]};
        int count = (int) Math.ceil(PLACES * area(c) / area[p]);
        for (int i = 0; i < count && n < found.length; i++) {
          asked++;
          double[] way = reach.from(place(c, i), normals[p]);
          if (way != null) {
            found[n++] = Vec.dot(way, normals[p]);
          }
        }
      }
    }
    return n < Math.max(1, SEEN * asked) ? null : Middle.of(Arrays.copyOf(found, n)).at();
  }

  private static double[] place(double[][] c, int i) {
    double[] ab = TrianglePlaces.weights(i, 0.5);
    double[] first = Vec.mul(Vec.sub(c[1], c[0]), ab[0]);
    return Vec.add(c[0], Vec.add(first, Vec.mul(Vec.sub(c[2], c[0]), ab[1])));
  }

  private Moved moved(double[] wanted, double[] weight, int seen, double within) {
    PlanesMove[] at = new PlanesMove[of.vertexCount()];
    int[][] planes = planesOf();
    Conditions conditions = new Conditions(weight);
    for (int v = 0; v < at.length; v++) {
      at[v] =
          new PlanesMove(
              Arrays.stream(planes[v]).mapToObj(p -> normals[p]).toArray(double[][]::new));
      for (double[] row : at[v].follows()) {
        conditions.add(planes[v], row);
      }
    }
    double[] want = wanted.clone();
    double[] moves = new double[3 * at.length];
    for (int round = 0; ; round++) {
      double[] shifts = conditions.nearest(want);
      double most = 0;
      boolean[] isFar = new boolean[want.length];
      for (int v = 0; v < at.length; v++) {
        double[] way = at[v].by(Arrays.stream(planes[v]).mapToDouble(p -> shifts[p]).toArray());
        System.arraycopy(way, 0, moves, 3 * v, 3);
        double l = Vec.length(way);
        most = Math.max(most, l);
        for (int p : planes[v]) {
          isFar[p] |= l > within;
        }
      }
      if (most <= within) {
        return new Moved(moves, want.length, seen, most);
      }
      // What would go too far goes less far; in the end all of it does.
      double less = round < 20 ? 0.9 * within / most : 0.5;
      for (int p = 0; p < want.length; p++) {
        want[p] *= isFar[p] || round >= 20 ? less : 1;
      }
    }
  }

  private int[][] planesOf() {
    int[][] out = new int[of.vertexCount()][0];
    for (int f = 0; f < plane.length; f++) {
      for (int v : of.faces()[f]) {
        int p = plane[f];
        if (Arrays.stream(out[v]).noneMatch(o -> o == p)) {
          out[v] = Arrays.copyOf(out[v], out[v].length + 1);
          out[v][out[v].length - 1] = p;
        }
      }
    }
    return out;
  }
}
