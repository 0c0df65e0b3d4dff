package holotome.core.contour;

import holotome.core.array.LongIndex;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.solve.PlanesPoint;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * The surface of a body as a mesh of even triangles: dual contouring (Ju, Losasso, Schaefer and
 * Warren, 2002) over a well-composed set of lattice points ({@link Cells}). One vertex in each cell
 * the surface passes through, where the planes of the mesh's crossings with the cell's edges meet,
 * so that sharp edges stay; two triangles around each edge that leads out of the body.
 *
 * <p>What comes out is closed, two-manifold and outward by construction. It is free of
 * self-intersection because what crosses is drawn towards the middles of its cells, where nothing
 * does: triangles over middles are sides of cubes.
 *
 * <p>Costs, for a surface of n cells, O(n) time, about n questions to the field, and 300 bytes a
 * cell; {@link SelfIntersections} at least once.
 */
public final class DualSurface {
  private static final int GRAIN = 1 << 11;

  /** Steps of halving where no triangle says how far along an edge the body ends. */
  private static final int HALVINGS = 8;

  /** Vertices stay so far from the walls of their cells, in steps. */
  private static final double MARGIN = 0.02;

  /** After so many rounds what still crosses is put into the middle. */
  private static final int GENTLE = 4;

  private final Mesh scan;
  private final boolean tells;
  private final float[] normals;
  private final Lattice lattice;
  private final Field field;
  private final EdgeHits hits;
  private final Cells cells;

  /** Edges that lead out of the body. */
  private final LongIndex edges = new LongIndex();

  /** Per such edge whether its lower end is the inner one. */
  private final BitSet upward = new BitSet();

  /** Vertices by cell; -1 where the surface does not pass. */
  private int[] vertex;

  private long[] cellOf;
  private double[] at;

  private DualSurface(
      Mesh scan,
      boolean tells,
      float[] normals,
      Lattice lattice,
      Field field,
      Reach reach,
      Work work) {
    this.scan = scan;
    this.tells = tells;
    this.normals = normals;
    this.lattice = lattice;
    this.field = field;
    hits = EdgeHits.of(scan, lattice, work.part(0.1, CoreWords.of("work.making-the-surface")));
    cells =
        Cells.of(
            lattice, field, hits, reach, work.part(0.5, CoreWords.of("work.making-the-surface")));
    cells.sound(work);
  }

  /**
   * @param mesh the surface
   * @param flipped lattice points that were put inside so that nothing touches by an edge or a
   *     corner alone
   * @param drawnIn vertices drawn towards the middle of their cells so that nothing crosses
   */
  public record Result(Mesh mesh, int flipped, int drawnIn) {}

  /**
   * @param scan whose triangles say where exactly the body ends
   * @param field what is inside
   */
  public static Result of(Mesh scan, Lattice lattice, Field field, Work work) {
    return of(scan, true, lattice, field, Reach.ALL, work);
  }

  /**
   * The same of a body that no mesh bounds.
   *
   * @param seeds triangles along its surface, for each piece of it some: where it is looked for
   */
  public static Result from(Mesh seeds, Lattice lattice, Field field, Work work) {
    return of(seeds, false, lattice, field, Reach.ALL, work);
  }

  /**
   * The same as far as something reaches: open where that ends, and there alone it may touch itself
   * in single vertices.
   */
  public static Result within(Reach reach, Mesh seeds, Lattice lattice, Field field, Work work) {
    return of(seeds, false, lattice, field, reach, work);
  }

  private static Result of(
      Mesh scan, boolean tells, Lattice lattice, Field field, Reach reach, Work work) {
    float[] normals = Measures.vertexNormals(scan);
    DualSurface s =
        new DualSurface(
            scan,
            tells,
            normals,
            lattice,
            field,
            reach,
            work.part(0.5, CoreWords.of("work.making-the-surface")));
    s.collect();
    s.place();
    work.advance(0.1);
    return s.withoutCrossings(work.part(0.4, CoreWords.of("work.making-the-surface")));
  }

  /** Numbers the vertices, and the edges that lead out. */
  private void collect() {
    int n = cells.size();
    vertex = new int[n];
    cellOf = new long[n];
    int count = 0;
    for (int c = 0; c < n; c++) {
      int mask = cells.corners(c);
      vertex[c] = mask == 0 || mask == 255 ? -1 : count;
      if (vertex[c] < 0) {
        continue;
      }
      long low = cells.cell(c);
      cellOf[count++] = low;
      for (int axis = 0; axis < 3; axis++) {
        boolean in = (mask & 1) != 0;
        if (in != ((mask >> (1 << axis) & 1) != 0) && cells.isWhole(low, axis)) {
          int e = edges.add(Lattice.edge(low, axis));
          upward.set(e, in);
        }
      }
    }
    at = new double[3 * count];
    vertices = count;
  }

  private int vertices;

  /** Where each edge leads out, and the plane there; then the vertices. */
  private void place() {
    int n = edges.size();
    float[] along = new float[n];
    float[] normal = new float[3 * n];
    Parallel.range(
        n,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          Field.Probe probe = field.probe();
          for (int e = from; e < to; e++) {
            along[e] = crossing(e, normal, probe);
          }
        });
    Parallel.range(
        vertices,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            settle(v, along, normal);
          }
        });
  }

  /** How far along an edge the body ends; fills in the normal, which stays nought if unknown. */
  private float crossing(int e, float[] normal, Field.Probe probe) {
    long key = edges.key(e);
    int axis = (int) (key & 3);
    boolean up = upward.get(e);
    int best = -1;
    boolean bestAgrees = false;
    double[] n = new double[3];
    int first = tells ? hits.first(key) : -1;
    for (int h = first; h >= 0 && h < hits.size() && hits.edges()[h] == key; h++) {
      normalAt(h, key, n);
      boolean agrees = n[axis] > 0 == up;
      boolean isFarther =
          best < 0
              || (up ? hits.along()[h] > hits.along()[best] : hits.along()[h] < hits.along()[best]);
      if (best < 0 || agrees && !bestAgrees || agrees == bestAgrees && isFarther) {
        best = h;
        bestAgrees = agrees;
      }
    }
    if (best >= 0) {
      normalAt(best, key, n);
      for (int k = 0; k < 3; k++) {
        normal[3 * e + k] = (float) n[k];
      }
      return hits.along()[best];
    }
    float at = field.isLinear() ? between(key, axis) : halved(key, axis, up, probe);
    double x = lattice.placeX(key >> 2) + (axis == 0 ? at * lattice.step() : 0);
    double y = lattice.placeY(key >> 2) + (axis == 1 ? at * lattice.step() : 0);
    double z = lattice.placeZ(key >> 2) + (axis == 2 ? at * lattice.step() : 0);
    if (probe.outwards(x, y, z, n)) {
      for (int k = 0; k < 3; k++) {
        normal[3 * e + k] = (float) n[k];
      }
    }
    return at;
  }

  /** Where a field that is linear along the edge passes the level. */
  private float between(long key, int axis) {
    double low = cells.value(key >> 2) - Field.LEVEL;
    double high = cells.value((key >> 2) + lattice.stride(axis)) - Field.LEVEL;
    // Points that were put inside need not be so by the field.
    boolean isPassed = low > 0 != high > 0;
    return (float) (isPassed ? Math.clamp(low / (low - high), MARGIN, 1 - MARGIN) : 0.5);
  }

  private float halved(long key, int axis, boolean up, Field.Probe probe) {
    long point = key >> 2;
    double lo = 0;
    double hi = 1;
    double x = lattice.placeX(point);
    double y = lattice.placeY(point);
    double z = lattice.placeZ(point);
    double s = lattice.step();
    for (int i = 0; i < HALVINGS; i++) {
      double mid = (lo + hi) / 2;
      double value =
          probe.at(
              axis == 0 ? x + mid * s : x,
              axis == 1 ? y + mid * s : y,
              axis == 2 ? z + mid * s : z);
      if (value > Field.LEVEL == up) {
        lo = mid;
      } else {
        hi = mid;
      }
    }
    return (float) Math.clamp((lo + hi) / 2, MARGIN, 1 - MARGIN);
  }

  /**
   * The normal at a crossing: that of the triangle, or, where triangles are smaller than half a
   * step, the mean around it, which noise sways less.
   */
  private void normalAt(int hit, long key, double[] out) {
    int t = hits.triangle()[hit];
    int[] tri = scan.triangles();
    float[] p = scan.xyz();
    Measures.cross(p, tri, t, out);
    double twice = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
    if (twice < lattice.step() * lattice.step() / 4) {
      double[] own = out.clone();
      for (int k = 0; k < 3; k++) {
        out[k] = 0;
        for (int c = 0; c < 3; c++) {
          out[k] += normals[3 * tri[3 * t + c] + k];
        }
      }
      double l = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
      if (l > 1e-6) {
        scale(out, 1 / l);
        return;
      }
      System.arraycopy(own, 0, out, 0, 3);
    }
    scale(out, twice > 0 ? 1 / twice : 0);
  }

  private static void scale(double[] v, double by) {
    for (int k = 0; k < 3; k++) {
      v[k] *= by;
    }
  }

  /** Puts a vertex where its cell's planes meet, within the cell; in steps from its low corner. */
  private void settle(int v, float[] along, float[] normal) {
    long low = cellOf[v];
    double[] mean = new double[3];
    double[] places = new double[36];
    int[] of = new int[12];
    int n = 0;
    for (int e = 0; e < 12; e++) {
      int axis = e / 4;
      int edge = edges.find(Lattice.edge(cells.corner(low, Cells.EDGES[e][0]), axis));
      if (edge < 0) {
        continue;
      }
      for (int k = 0; k < 3; k++) {
        double x = k == axis ? along[edge] : Cells.EDGES[e][0] >> k & 1;
        places[3 * n + k] = x;
        mean[k] += x;
      }
      of[n++] = edge;
    }
    scale(mean, 1.0 / n);
    PlanesPoint planes = new PlanesPoint();
    for (int i = 0; i < n; i++) {
      double d = 0;
      for (int k = 0; k < 3; k++) {
        d += normal[3 * of[i] + k] * (places[3 * i + k] - mean[k]);
      }
      planes.add(normal[3 * of[i]], normal[3 * of[i] + 1], normal[3 * of[i] + 2], d);
    }
    double[] way = planes.solve();
    double share = 1;
    for (int k = 0; k < 3; k++) {
      mean[k] = Math.clamp(mean[k], MARGIN, 1 - MARGIN);
      double room = way[k] > 0 ? 1 - MARGIN - mean[k] : mean[k] - MARGIN;
      if (Math.abs(way[k]) > room) {
        share = Math.min(share, room / Math.abs(way[k]));
      }
    }
    for (int k = 0; k < 3; k++) {
      at[3 * v + k] = mean[k] + share * way[k];
    }
  }

  private Result withoutCrossings(Work work) {
    BitSet drawn = new BitSet();
    for (int round = 0; ; round++) {
      Mesh mesh = mesh();
      SelfIntersections found =
          SelfIntersections.of(mesh, work.part(0.9 / (1 << Math.min(round, 20) + 1), work.label()));
      if (found.count() == 0) {
        return new Result(mesh, cells.flipped(), drawn.cardinality());
      }
      BitSet move = new BitSet(vertices);
      int[] tri = mesh.triangles();
      for (int t : found.pairs()) {
        for (int k = 0; k < 3; k++) {
          move.set(tri[3 * t + k]);
        }
      }
      if (round >= GENTLE) {
        widen(tri, move);
      }
      double keep = round < GENTLE ? 0.5 : 0;
      move.stream()
          .forEach(
              v -> {
                for (int k = 0; k < 3; k++) {
                  at[3 * v + k] = 0.5 + keep * (at[3 * v + k] - 0.5);
                }
              });
      drawn.or(move);
    }
  }

  /** Adds all that have a triangle in common with what is in the set. */
  private static void widen(int[] tri, BitSet set) {
    BitSet before = (BitSet) set.clone();
    for (int t = 0; t < tri.length; t += 3) {
      if (before.get(tri[t]) || before.get(tri[t + 1]) || before.get(tri[t + 2])) {
        set.set(tri[t]);
        set.set(tri[t + 1]);
        set.set(tri[t + 2]);
      }
    }
  }

  private Mesh mesh() {
    // Rounded to a millionth of a step: differences are then exact in doubles, as the exact
    // predicates like them.
    double grain = Math.scalb(1.0, Math.getExponent(lattice.step()) - 20);
    float[] xyz = new float[3 * vertices];
    for (int v = 0; v < vertices; v++) {
      for (int k = 0; k < 3; k++) {
        double x = lattice.place(cellOf[v], k) + lattice.step() * at[3 * v + k];
        xyz[3 * v + k] = (float) (Math.rint(x / grain) * grain);
      }
    }
    int[] tri = new int[6 * edges.size()];
    Parallel.range(
        edges.size(),
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int e = from; e < to; e++) {
            quad(e, xyz, tri);
          }
        });
    return new Mesh(xyz, tri);
  }

  private void quad(int e, float[] xyz, int[] tri) {
    long key = edges.key(e);
    long p = key >> 2;
    int axis = (int) (key & 3);
    long u = lattice.stride((axis + 1) % 3);
    long v = lattice.stride((axis + 2) % 3);
    int a = vertex[cells.find(p - u - v)];
    int b = vertex[cells.find(p - v)];
    int c = vertex[cells.find(p)];
    int d = vertex[cells.find(p - u)];
    if (!upward.get(e)) {
      int s = b;
      b = d;
      d = s;
    }
    // The flatter way to part it; the same whoever asks.
    boolean other = bend(xyz, b, c, d, a) > bend(xyz, a, b, c, d) + 1e-6;
    int[] six = other ? new int[] {b, c, d, b, d, a} : new int[] {a, b, c, a, c, d};
    System.arraycopy(six, 0, tri, 6 * e, 6);
  }

  /** How far the normals of the triangles a b c and a c d agree, -1 to 1. */
  private static double bend(float[] p, int a, int b, int c, int d) {
    double[] m = new double[3];
    double[] n = new double[3];
    Measures.cross(p, new int[] {a, b, c}, 0, m);
    Measures.cross(p, new int[] {a, c, d}, 0, n);
    double l =
        Math.sqrt(
            (m[0] * m[0] + m[1] * m[1] + m[2] * m[2]) * (n[0] * n[0] + n[1] * n[1] + n[2] * n[2]));
    return l > 0 ? (m[0] * n[0] + m[1] * n[1] + m[2] * n[2]) / l : -1;
  }
}
