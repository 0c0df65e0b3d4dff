package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Places;
import holotome.core.part.Workpiece;
import holotome.core.quad.QuadFigures;
import holotome.core.quad.QuadLayout;
import holotome.core.quad.QuadMesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.spatial.UsualSize;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.LongLines;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * An even mesh in the place of a large one, which quads are laid out on, and what becomes of them:
 * fitted to it, mirrored where that is asked for.
 */
final class QuadGround {
  /** Triangles of the even mesh to a quad, and at least. */
  private static final int PER_QUAD = 10;

  /** Where other faces are allowed the grid is as fine as the quads, not half. */
  private static final int PER_FACE = 24;

  private static final int LEAST = 20_000;

  /** Larger meshes are decimated to so many times as many first. */
  private static final int FIRST = 4;

  private static final int MOST_SHOWN = 2500;

  private static final int GRAIN = 1 << 12;

  private final UsualSize size;
  private final MirroredHalf half;
  private final Mesh surface;
  private final QuadLayout layout;
  private final double side;
  private final List<String> notes = new ArrayList<>();

  private QuadGround(
      UsualSize size, MirroredHalf half, Mesh surface, QuadLayout layout, double side) {
    this.size = size;
    this.half = half;
    this.surface = surface;
    this.layout = layout;
    this.side = side;
  }

  /** Quads as triangles in base coordinates that know their faces, and how good they are. */
  record Made(Mesh mesh, QuadFigures figures) {}

  /** About how many triangles the even mesh has. */
  static int triangles(MakeQuads step) {
    int each = step.faces() == MakeQuads.Only.QUADS ? PER_QUAD : PER_FACE;
    return (int) Math.max(LEAST, Math.min(2e8, (double) each * wanted(step)));
  }

  /** Of a half only half of the quads. */
  private static int wanted(MakeQuads step) {
    return step.symmetric() == Decimate.Symmetric.NO ? step.quads() : (step.quads() + 1) / 2;
  }

  /**
   * An even mesh, or half of one.
   *
   * @param mesh in sizes that floats are best at
   * @param half null for a whole one
   */
  record Even(Mesh mesh, UsualSize size, MirroredHalf half) {
    /** Makes it of what a step is to be applied to. */
    static Even of(Workpiece in, Mesh mesh, MakeQuads step, Work work) {
      Places.check(mesh);
      MirroredHalf half =
          step.symmetric() == Decimate.Symmetric.NO
              ? null
              : MirroredHalf.of(step.symmetric(), in.frame());
      Mesh plain = new Mesh(mesh.xyz(), mesh.triangles());
      Mesh given =
          half == null ? plain : half.cut(plain, work.part(0.2, CoreWords.of("work.cutting")));
      if (!(Measures.area(given) > 0)) {
        throw Failure.cannot(CoreWords.of("quads.no-area"));
      }
      UsualSize size = UsualSize.of(given);
      Work evening = work.part(half == null ? 1 : 0.8, CoreWords.of("work.evening"));
      return new Even(even(size.to(given), step, evening), size, half);
    }
  }

  /** Finds how quads would run on an even mesh. */
  static QuadGround of(Workpiece in, Even even, MakeQuads step, Work work) {
    double side = Math.sqrt(Measures.area(even.mesh) / wanted(step));
    Mesh surface =
        QuadLayout.ready(even.mesh, side, work.part(0.25, CoreWords.of("work.finding-neighbours")));
    if (!(Measures.area(surface) > 0)) {
      throw Failure.cannot(CoreWords.of("quads.only-crumbs"));
    }
    List<double[]> guides = guides(step, in, even.size, even.half);
    double grid = step.faces() == MakeQuads.Only.QUADS ? 2 * side : side;
    QuadLayout layout =
        QuadLayout.of(
            surface, grid, step.sharp(), guides, work.part(0.75, CoreWords.of("quads.field")));
    return new QuadGround(even.size, even.half, surface, layout, side).noted(even.mesh);
  }

  /** What of the mesh no quads are laid on. */
  private QuadGround noted(Mesh even) {
    double less = 1 - Measures.area(surface) / Measures.area(even);
    if (less > 0.001) {
      notes.add(CoreWords.of("quads.crumbs", 100 * less));
    }
    return this;
  }

  List<String> notes() {
    return notes;
  }

  private static Mesh even(Mesh mesh, MakeQuads step, Work work) {
    int target = triangles(step);
    Mesh start = mesh;
    int first = (int) Math.min(Integer.MAX_VALUE, (long) FIRST * target);
    if (mesh.triangleCount() > first) {
      Work part = work.part(0.6, CoreWords.of("work.decimating"));
      start = Decimation.of(mesh, first, Double.POSITIVE_INFINITY, null, Wedges.NONE, part).mesh();
    }
    double cos = Math.cos(Math.toRadians(step.sharp()));
    byte[] lines =
        Wedges.of(start, false, false, cos, work.part(0.1, CoreWords.of("work.finding-seams")))
            .lines();
    byte[] seen = LongLines.of(start, lines, Remeshing.SEEN * Remeshing.lengthFor(start, target));
    // What has fewer triangles than that would be rounded off.
    Bvh bvh =
        start.triangleCount() < target
            ? Bvh.of(start, work.part(0, CoreWords.of("work.indexing-the-surface")))
            : null;
    return Remeshing.toCount(
            start,
            Remeshing.untouched(start, seen),
            target,
            bvh,
            work.part(0.3, CoreWords.of("work.evening")))
        .mesh();
  }

  /** The guides as the surface has them; of a half those on its side, the others mirrored. */
  private static List<double[]> guides(
      MakeQuads step, Workpiece in, UsualSize size, MirroredHalf half) {
    List<double[]> out = new ArrayList<>();
    if (step.guides() == null) {
      return out;
    }
    Similarity toBase = in.frame().toFile().inverse();
    for (Guide g : step.guides()) {
      double[] line = new double[g.line().length];
      for (int i = 0; i < line.length; i += 3) {
        double[] p = toBase.apply(g.line()[i], g.line()[i + 1], g.line()[i + 2]);
        if (half != null) {
          half.fold(p);
        }
        for (int k = 0; k < 3; k++) {
          line[i + k] = size.to(p[k]);
        }
      }
      out.add(line);
    }
    return out;
  }

  /** Lays quads out, fits them to the surface and puts both halves together. */
  Made quads(MakeQuads step, Work work) {
    boolean isPure = step.faces() == MakeQuads.Only.QUADS;
    float[] sizes =
        step.sizes() == Remesh.Sizes.EVEN
            ? null
            : curved(work.part(0.1, CoreWords.of("work.finding-neighbours")));
    QuadMesh laid =
        layout.quads(wanted(step), sizes, isPure, work.part(0.6, CoreWords.of("quads.lattice")));
    Mesh mesh = laid.triangles();
    float[] fitted = mesh.xyz().clone();
    fit(mesh, fitted, laid.onLine(), work.part(0.2, CoreWords.of("work.fitting")));
    double[] at = new double[fitted.length];
    for (int i = 0; i < at.length; i++) {
      at[i] = fitted[i];
    }
    QuadFigures figures = QuadFigures.of(new QuadMesh(at, laid.faces(), laid.onLine()));
    Mesh out = size.back(mesh.withPositions(fitted));
    if (half != null) {
      out = mirrored(out, work.part(0.1, CoreWords.of("work.cutting")));
      figures = figures.twice();
    }
    return new Made(out, figures);
  }

  /** How long sides are to be by the curvature, against one another. */
  private float[] curved(Work work) {
    double finest = side / 3;
    CurvatureLengths lengths = new CurvatureLengths(surface, null, finest, 3 * side, work);
    return lengths.forCount(2 * Measures.area(surface) / (side * side));
  }

  /** Moves points so that the surface lies on both sides of their faces, in the mean. */
  private void fit(Mesh light, float[] xyz, boolean[] onLine, Work work) {
    Bvh bvh = Bvh.of(light, work.part(0.2, CoreWords.of("work.indexing-the-surface")));
    int[] root = new int[surface.vertexCount()];
    float[] p = surface.xyz();
    Parallel.range(
        root.length,
        GRAIN,
        work.part(0.3, CoreWords.of("work.fitting")),
        (from, to) -> {
          BvhQuery query = new BvhQuery(bvh);
          for (int v = from; v < to; v++) {
            boolean isFound =
                query.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], Float.POSITIVE_INFINITY);
            root[v] = isFound ? nearest(light, query) : -1;
          }
        });
    SurfaceFit.fit(
        surface,
        root,
        xyz,
        light.triangles(),
        onLine.clone(),
        work.part(0.5, CoreWords.of("work.fitting")));
  }

  /** The corner that is nearest to where a triangle was met. */
  private static int nearest(Mesh light, BvhQuery q) {
    float rest = 1 - q.u - q.v;
    int corner = rest >= q.u && rest >= q.v ? 0 : q.u >= q.v ? 1 : 2;
    return light.triangles()[3 * q.triangle + corner];
  }

  /** Both halves; the faces of the other have numbers of their own. */
  private Mesh mirrored(Mesh one, Work work) {
    int[] face = one.attributes().named(Attribute.FACE).ints();
    int most = 0;
    for (int f : face) {
      most = Math.max(most, f + 1);
    }
    Mesh both = half.whole(new Mesh(one.xyz(), one.triangles()), work);
    int[] of = new int[2 * face.length];
    for (int t = 0; t < face.length; t++) {
      of[t] = face[t];
      of[face.length + t] = most + face[t];
    }
    return both.with(
        Attribute.of(Attribute.FACE, Attribute.Kind.LABEL, Attribute.Domain.TRIANGLE, of, null));
  }

  /** Short lines along the directions, 6 numbers each, in working space. */
  double[] flow(Frame frame) {
    // No more than the eye can follow; as long as quads are where there are few.
    double apart = Math.max(side, Math.sqrt(Measures.area(surface) / MOST_SHOWN));
    float[] ends = layout.flow(apart, Work.unwatched()).ends();
    double[] out = new double[ends.length];
    for (int i = 0; i < ends.length; i += 3) {
      double[] p =
          frame.toWork().apply(size.back(ends[i]), size.back(ends[i + 1]), size.back(ends[i + 2]));
      System.arraycopy(p, 0, out, i, 3);
    }
    return out;
  }
}
