package holotome.demo;

import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;

/**
 * The hero scan: a mooring bollard on the quay of Sandmouth beside a scale bar, with what scans
 * suffer from: arbitrary scale, tilt and place, paving attached, debris, holes below the rim, a
 * boiling puddle, noise, uneven triangles.
 *
 * <p>Everything follows from the triangle count and fixed seeds: same count, same bytes. Triangles
 * come in the order subject, paving, bar, debris. The surface is made ring by ring, so that a scan
 * of any size can be streamed.
 */
public final class BollardScan {
  /** True metres to the scan's coordinates: an arbitrary scale, tilt and place. */
  public static final Similarity CAPTURE =
      Similarity.turning(new double[] {0, 0, 1}, Math.toRadians(37))
          .then(Similarity.turning(new double[] {0.8, -0.6, 0}, Math.toRadians(11.4)))
          .then(Similarity.scaling(3137.4))
          .then(Similarity.translation(new double[] {412.7, -286.3, 655.1}));

  public static final int LEAST = 20_000;
  public static final int MOST = 100_000_000;

  private final RingGrid grid;
  private final Extras extras;
  private final boolean asScanned;
  private final double cell;

  private BollardScan(double cell, boolean asScanned) {
    this.cell = cell;
    grid = RingGrid.of(cell);
    extras = new Extras(cell);
    this.asScanned = asScanned;
  }

  /** A scan of about so many triangles (within 3 %). */
  public static BollardScan of(int triangles) {
    if (triangles < LEAST || triangles > MOST) {
      throw Failure.usage("a demo scan has from 20,000 to 100,000,000 triangles");
    }
    return new BollardScan(cellFor(triangles), true);
  }

  private static double cellFor(int triangles) {
    double small = 1e-4;
    double large = 0.03;
    // Triangles lost along ragged edges, as counted on scans from 20,000 to 18 million.
    double wanted = triangles / (0.983 - 5.4 / Math.sqrt(triangles));
    for (int i = 0; i < 24; i++) {
      double mid = Math.sqrt(small * large);
      RingGrid g = RingGrid.of(mid);
      double n = new Extras(mid).triangles();
      double reached = 0;
      for (int r = 0; r + 1 < g.rings(); r++) {
        double out = RingGrid.radius(g.place()[r]);
        // About this share of a paving ring lies within the scan's ragged edge.
        double share = r < g.foot() ? 0.987 : 1 - Noise.smoothStep(1.08, 1.28, out);
        reached += share * g.strip(r);
      }
      if (n + reached > wanted) {
        small = mid;
      } else {
        large = mid;
      }
    }
    return Math.sqrt(small * large);
  }

  /**
   * The bollard's true surface in true metres, worn but without scan noise and holes, foot open.
   */
  public static Mesh trueSubject(double cell) {
    BollardScan s = new BollardScan(cell, false);
    return s.assemble(s.grid.foot() + 1, false, Work.unwatched()).mesh();
  }

  /**
   * A whole scan in memory.
   *
   * @param ends where subject, paving, bar and debris end, in triangles
   */
  public record Made(Mesh mesh, int[] ends) {}

  public Made make(Work work) {
    return assemble(grid.rings(), true, work);
  }

  RingGrid grid() {
    return grid;
  }

  Extras extras() {
    return extras;
  }

  /** Whether a point of a ring is there at all. */
  boolean kept(int ring, int j) {
    if (!asScanned) {
      return true;
    }
    double place = grid.place()[ring];
    double angle = 2 * Math.PI * j / grid.points()[ring];
    if (place > Bollard.LENGTH) {
      return RingGrid.radius(place) <= Quay.reach(angle);
    }
    return !Holes.at(place, angle);
  }

  /** Positions (3 doubles, true metres) and colours of a ring's points, kept or not. */
  void ring(int ring, double[] xyz, int[] colours) {
    int n = grid.points()[ring];
    double place = grid.place()[ring];
    double next = ring + 1 < grid.rings() ? grid.place()[ring + 1] : place;
    double before = ring > 0 ? grid.place()[ring - 1] : 0;
    double step = (next - before) / 2;
    boolean atFoot = ring == grid.foot();
    double[] p = new double[6];
    for (int j = 0; j < n; j++) {
      double shake = asScanned && !atFoot ? 0.22 : 0;
      double angle = 2 * Math.PI * (j + shake * Noise.bell(ring, j, 71)) / n;
      double at = place + step * shake * Noise.bell(ring, j, 72);
      double noise = asScanned ? scanNoise(ring, j) : 0;
      if (place <= Bollard.LENGTH) {
        Bollard.point(Math.min(at, Bollard.LENGTH), angle, p);
        colours[j] = Paint.bollard(p[0], p[1], p[2]);
        for (int k = 0; k < 3; k++) {
          xyz[3 * j + k] = p[k] + p[3 + k] * noise;
        }
      } else {
        double r = RingGrid.radius(at);
        double x = r * Math.cos(angle);
        double y = r * Math.sin(angle);
        double wet = Quay.puddle(x, y);
        double boil =
            wet
                * (0.010 * Noise.octaves(70 * x, 70 * y, 1, 73, 3)
                    + 0.012 * Math.max(0, Noise.bell(ring, j, 74)));
        xyz[3 * j] = x;
        xyz[3 * j + 1] = y;
        xyz[3 * j + 2] = Quay.height(x, y) + boil + noise;
        colours[j] = Paint.quay(x, y);
      }
    }
  }

  private static double scanNoise(int ring, int j) {
    return 0.00028 * Noise.bell(ring, j, 75);
  }

  /** The triangles between ring i and the next: numbers of points within the two rings, woven. */
  interface Weave {
    void triangle(int ringA, int a, int ringB, int b, int ringC, int c);
  }

  void weave(int i, Weave out) {
    int n = grid.points()[i];
    int m = grid.points()[i + 1];
    if (m == n) {
      for (int j = 0; j < n; j++) {
        int k = j + 1 == n ? 0 : j + 1;
        if ((Noise.hash(i, j, 76) & 1) == 0) {
          out.triangle(i, j, i + 1, j, i + 1, k);
          out.triangle(i, j, i + 1, k, i, k);
        } else {
          out.triangle(i, j, i + 1, j, i, k);
          out.triangle(i, k, i + 1, j, i + 1, k);
        }
      }
    } else if (m == 2 * n) {
      for (int j = 0; j < n; j++) {
        int k = j + 1 == n ? 0 : j + 1;
        int l = 2 * j + 2 == m ? 0 : 2 * j + 2;
        out.triangle(i, j, i + 1, 2 * j, i + 1, 2 * j + 1);
        out.triangle(i, j, i + 1, 2 * j + 1, i, k);
        out.triangle(i, k, i + 1, 2 * j + 1, i + 1, l);
      }
    } else {
      for (int j = 0; j < m; j++) {
        int k = j + 1 == m ? 0 : j + 1;
        int l = 2 * j + 2 == n ? 0 : 2 * j + 2;
        out.triangle(i, 2 * j, i + 1, j, i, 2 * j + 1);
        out.triangle(i, 2 * j + 1, i + 1, j, i + 1, k);
        out.triangle(i, 2 * j + 1, i + 1, k, i, l);
      }
    }
  }

  private Made assemble(int rings, boolean withRest, Work work) {
    int[][] number = new int[rings][];
    int vertices = 1;
    for (int r = 0; r < rings; r++) {
      number[r] = new int[grid.points()[r]];
      for (int j = 0; j < number[r].length; j++) {
        number[r][j] = kept(r, j) ? vertices++ : -1;
      }
    }
    int extraVertices = withRest ? extras.vertices() : 0;
    float[] xyz = new float[3 * (vertices + extraVertices)];
    int[] colours = new int[vertices + extraVertices];
    Similarity place = asScanned ? CAPTURE : Similarity.IDENTITY;
    double[] top = new double[6];
    Bollard.point(0, 0, top);
    put(place, top, 0, xyz, 0);
    colours[0] = Paint.bollard(top[0], top[1], top[2]);
    Parallel.range(
        rings,
        4,
        work.part(0.8, "Making the demo scan"),
        (from, to) -> {
          for (int r = from; r < to; r++) {
            double[] p = new double[3 * number[r].length];
            int[] c = new int[number[r].length];
            ring(r, p, c);
            for (int j = 0; j < c.length; j++) {
              if (number[r][j] >= 0) {
                put(place, p, 3 * j, xyz, number[r][j]);
                colours[number[r][j]] = c[j];
              }
            }
          }
        });
    IntList tri = new IntList();
    int[] ends = new int[4];
    for (int j = 0; j < number[0].length; j++) {
      addKept(tri, 0, number[0][j], number[0][(j + 1) % number[0].length]);
    }
    for (int r = 0; r + 1 < rings; r++) {
      if (r == grid.foot()) {
        ends[0] = tri.size() / 3;
      }
      weave(r, (ra, a, rb, b, rc, c) -> addKept(tri, number[ra][a], number[rb][b], number[rc][c]));
    }
    ends[1] = tri.size() / 3;
    if (withRest) {
      extras.append(place, xyz, colours, vertices, tri, ends);
    }
    work.advance(0.2);
    return new Made(new Mesh(xyz, tri.toArray(), colours), ends);
  }

  private static void addKept(IntList out, int a, int b, int c) {
    if (a >= 0 && b >= 0 && c >= 0) {
      out.add(a);
      out.add(b);
      out.add(c);
    }
  }

  static void put(Similarity place, double[] p, int at, float[] xyz, int vertex) {
    double[] q = place.apply(p[at], p[at + 1], p[at + 2]);
    for (int k = 0; k < 3; k++) {
      xyz[3 * vertex + k] = (float) q[k];
    }
  }

  double cell() {
    return cell;
  }
}
