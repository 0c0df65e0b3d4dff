package holotome.core.quad;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Crumbs;
import holotome.core.topology.LongLines;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;

/**
 * Lays a grid of quads over a surface, along its form: directions ({@link CrossField}), a lattice
 * along them ({@link LatticeField}), whose steps are put together to faces ({@link LatticeSteps},
 * {@link StepRepair}, {@link Contraction}, {@link Pairing}), of which irregular ones are taken out
 * ({@link QuadTidy}). For quads alone the grid is laid at twice the size and each face is divided
 * ({@link QuadSplit}), as Jakob and others have it. What comes out is laid on the surface again
 * ({@link QuadSettle}).
 *
 * <p>The surface keeps being a manifold all through, with the borders and handles it has: edges are
 * contracted and taken away, never faces put together from points.
 *
 * <p>About 25 µs a vertex of the surface on one core, most of it on all cores; 600 bytes each.
 */
public final class QuadLayout {
  /** Lines no wider than so many sides are not held. */
  private static final double SEEN = 4;

  /** What is less than so many sides across is left out, and holes so far around are closed. */
  private static final double CRUMB = 2;

  private static final double HOLE = 8;

  /** The count asked for is met within this; else the grid is laid once more, a little off. */
  private static final double CLOSE = 0.04;

  private static final int TRIES = 3;
  private static final int ROUNDS = 6;

  /** Sides grow by no more than this part of the way between two points. */
  private static final double GROWTH = 0.12;

  private static final int GRADINGS = 24;

  /** Over this part of a side normals are taken together: smaller forms do not turn the grid. */
  private static final double SMOOTH = 0.4;

  private final Mesh surface;
  private final int[] twin;
  private final boolean[] held;
  private final SurfaceLines lines;
  private final Holds holds;
  private final FieldLevels levels;
  private final float[] field;
  private final double side;

  private QuadLayout(
      Mesh surface,
      int[] twin,
      boolean[] held,
      SurfaceLines lines,
      Holds holds,
      FieldLevels levels,
      double side,
      Work work) {
    this.surface = surface;
    this.twin = twin;
    this.held = held;
    this.lines = lines;
    this.holds = holds;
    this.levels = levels;
    this.side = side;
    field = CrossField.of(levels, work);
  }

  /**
   * A surface that a grid can be laid on: without pieces smaller than two sides, parted where it is
   * no manifold, holes a grid cannot go around closed.
   *
   * @param mesh of even triangles
   * @param side how long the sides of quads are to be
   */
  public static Mesh ready(Mesh mesh, double side, Work work) {
    Mesh without = Crumbs.dropped(mesh, CRUMB * side, work.part(0.3, label()));
    return Manifold.of(without, HOLE * side, work.part(0.7, label()));
  }

  private static String label() {
    return CoreWords.of("work.finding-neighbours");
  }

  /**
   * Finds the directions.
   *
   * @param surface as {@link #ready} has it
   * @param side about how long the sides of the grid are to be
   * @param sharp edges that turn by more than this are lines that the grid lies along, in degrees
   * @param guides lines that the grid follows where they run, points of 3 numbers one after the
   *     other
   */
  public static QuadLayout of(
      Mesh surface, double side, double sharp, List<double[]> guides, Work work) {
    int[] tri = surface.triangles();
    int[] twin = Adjacency.of(surface, work.part(0.05, label())).twin();
    byte[] all = sharp(surface, twin, Math.cos(Math.toRadians(sharp)));
    byte[] seen = LongLines.of(surface, all, SEEN * side);
    boolean[] held = new boolean[tri.length];
    for (int h = 0; h < tri.length; h++) {
      held[h] = twin[h] < 0 || (seen[h / 3] >> h % 3 & 1) != 0;
    }
    FieldLevel level = FieldLevel.of(surface, work.part(0.05, label()));
    SurfaceLines lines = SurfaceLines.of(level, tri, twin, held);
    Holds holds = lines.holds(0.75 * side);
    Guides.hold(surface, level, guides, 0.5 * side, holds, work.part(0.05, label()));
    double edge = Math.sqrt(Measures.area(surface) / Math.max(1, tri.length / 3) * 4 / 1.732);
    double steps = SMOOTH * side / edge;
    FieldLevel smooth = level.smoothed((int) Math.clamp(steps * steps, 0, 40), holds);
    FieldLevels levels = FieldLevels.of(smooth, holds, work.part(0.3, CoreWords.of("quads.field")));
    return new QuadLayout(
        surface,
        twin,
        held,
        lines,
        holds,
        levels,
        side,
        work.part(0.6, CoreWords.of("quads.field")));
  }

  /** Three bits a triangle: the half-edges that turn by more than an angle. */
  private static byte[] sharp(Mesh mesh, int[] twin, double cos) {
    byte[] out = new byte[twin.length / 3];
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] > h) {
        double[] a = Measures.cross(mesh, h / 3);
        double[] b = Measures.cross(mesh, twin[h] / 3);
        double aa = a[0] * a[0] + a[1] * a[1] + a[2] * a[2];
        double bb = b[0] * b[0] + b[1] * b[1] + b[2] * b[2];
        double ab = a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
        if (aa > 0 && bb > 0 && ab < cos * Math.sqrt(aa) * Math.sqrt(bb)) {
          out[h / 3] |= (byte) (1 << h % 3);
          out[twin[h] / 3] |= (byte) (1 << twin[h] % 3);
        }
      }
    }
    return out;
  }

  /**
   * Makes quads.
   *
   * @param wanted about how many
   * @param sizes how long sides are to be at each vertex of the surface, against one another; null
   *     for the same everywhere
   * @param isPure whether there are to be no other faces
   */
  public QuadMesh quads(int wanted, float[] sizes, boolean isPure, Work work) {
    float[] sides = new float[surface.vertexCount()];
    Arrays.fill(sides, (float) side);
    if (sizes != null) {
      System.arraycopy(sizes, 0, sides, 0, sides.length);
      grade(sides);
    }
    scale(sides, Math.sqrt(expected(sides) / wanted) * (isPure ? 2 : 1));
    Faces faces = null;
    double off = Double.POSITIVE_INFINITY;
    for (int i = 0; i < TRIES && off > CLOSE; i++) {
      Work part = work.part(i == 0 ? 0.6 : 0.15, CoreWords.of("quads.lattice"));
      Faces base = base(sides, part);
      Faces made =
          isPure
              ? QuadTidy.of(
                  QuadSplit.of(base),
                  levels.finest().normal(),
                  false,
                  part.part(0.05, CoreWords.of("quads.faces")))
              : base;
      double ratio = (double) made.corners().length / wanted;
      if (Math.abs(ratio - 1) < off) {
        off = Math.abs(ratio - 1);
        faces = made;
      }
      scale(sides, Math.sqrt(ratio));
    }
    return QuadSettle.of(
        surface,
        levels.finest().normal(),
        lines,
        holds,
        faces,
        ROUNDS,
        work.part(0.1, CoreWords.of("quads.settling")));
  }

  /** How many squares of these sides the surface holds. */
  private double expected(float[] sides) {
    float[] area = levels.finest().area();
    double sum = 0;
    for (int v = 0; v < sides.length; v++) {
      sum += area[v] / ((double) sides[v] * sides[v]);
    }
    return sum;
  }

  /** Makes sides grow slowly from point to point, so that few rows of the grid begin or end. */
  private void grade(float[] sides) {
    FieldLevel level = levels.finest();
    float[] p = level.at();
    for (int i = 0; i < GRADINGS; i++) {
      for (int v = 0; v < sides.length; v++) {
        for (int j = level.start()[v]; j < level.start()[v + 1]; j++) {
          int u = level.near()[j];
          double x = p[3 * u] - p[3 * v];
          double y = p[3 * u + 1] - p[3 * v + 1];
          double z = p[3 * u + 2] - p[3 * v + 2];
          double most = sides[u] + GROWTH * Math.sqrt(x * x + y * y + z * z);
          sides[v] = (float) Math.min(sides[v], most);
        }
      }
    }
  }

  /**
   * Some directions of the grid, to be drawn: see {@link FlowLines}.
   *
   * @param apart how far from one another they are, and how long
   */
  public FlowLines flow(double apart, Work work) {
    return FlowLines.of(levels.finest(), field, apart, work);
  }

  private static void scale(float[] sides, double by) {
    for (int v = 0; v < sides.length; v++) {
      sides[v] *= (float) by;
    }
  }

  private Faces base(float[] sides, Work work) {
    int[] tri = surface.triangles().clone();
    float[] places =
        LatticeField.of(levels, field, sides, work.part(0.7, CoreWords.of("quads.lattice")));
    LatticeSteps steps =
        LatticeSteps.of(
            levels.finest(),
            tri,
            twin,
            field,
            places,
            sides,
            work.part(0.05, CoreWords.of("quads.steps")));
    StepRepair.run(steps, twin, held, work.part(0.1, CoreWords.of("quads.steps")));
    byte[] span = new byte[tri.length];
    for (int h = 0; h < tri.length; h++) {
      span[h] = (byte) steps.span(h);
    }
    Contraction c = new Contraction(sides.length, tri, twin.clone(), span, held.clone());
    c.run(work.part(0.1, CoreWords.of("quads.faces")));
    int[] from = new int[sides.length];
    double[] at = gathered(c, places, from);
    Faces faces = Pairing.of(c, tri.length / 3, at, from);
    return QuadTidy.of(
        faces, levels.finest().normal(), true, work.part(0.05, CoreWords.of("quads.faces")));
  }

  /**
   * Where the points of the lattice are: in the middle of what the vertices say that became one, of
   * those held to most.
   */
  private double[] gathered(Contraction c, float[] places, int[] from) {
    int n = from.length;
    double[] at = new double[3 * n];
    int[] count = new int[n];
    byte[] most = new byte[n];
    Arrays.fill(most, (byte) -1);
    for (int v = 0; v < n; v++) {
      int r = c.root(v);
      byte kind = lineKind(v);
      if (kind > most[r]) {
        most[r] = kind;
        count[r] = 0;
        from[r] = v;
        Arrays.fill(at, 3 * r, 3 * r + 3, 0);
      }
      if (kind == most[r]) {
        count[r]++;
        for (int k = 0; k < 3; k++) {
          at[3 * r + k] += places[3 * v + k];
        }
      }
    }
    for (int i = 0; i < at.length; i++) {
      at[i] /= Math.max(1, count[i / 3]);
    }
    new Ends(surface, levels.finest().normal()).find(c, most, at, from);
    return at;
  }

  /** A guide's direction is no place: only lines count. */
  private byte lineKind(int v) {
    byte kind = holds.kind()[v];
    return kind == Holds.ALONG ? Holds.FREE : kind;
  }
}
