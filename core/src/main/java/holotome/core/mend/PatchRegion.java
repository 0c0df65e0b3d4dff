package holotome.core.mend;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.solve.CylinderFit;
import holotome.core.solve.PlaneFit;
import holotome.core.solve.SphereFit;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Makes the selected regions anew as plain shapes that follow what is around them, not the noise
 * within: glass and shine, which scanners see as a boiling surface. Each region is cut out, its
 * opening filled, and the filling brought onto a shape fitted to a ring around it, reaching the rim
 * without a step. Colours on vertices stay those of the nearest old place.
 */
@Describes(
    id = "mend.patch",
    title = "Patch",
    help =
        "Makes the selected region anew as a plane, cylinder, ball or smooth sheet that follows what is around it and meets it without a step; keeps its colour.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record PatchRegion(
    @Parameter(help = "What is selected, one pick after the other") List<Pick> picks,
    @Parameter(help = "Which shape", preset = "plane") Shape shape,
    @Parameter(
            help = "One shape for all regions, such as the panes of one window, or one each",
            preset = "false")
        boolean common)
    implements Step {
  /** Rows of triangles around a region that its shape is fitted to. */
  private static final int ROWS = 2;

  /** What is nearer to the rim than so many of its edges goes over into it. */
  private static final double BLEND = 4;

  /** What a region becomes. */
  public enum Shape {
    PLANE,
    CYLINDER,
    BALL,
    SMOOTH
  }

  public PatchRegion {
    picks = List.copyOf(picks);
    if (picks.isEmpty()) {
      throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return 90L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    BitSet set = Pick.all(picks, mesh, in.frame(), work.part(0.05, CoreWords.of("work.selecting")));
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("patch-region.nothing-selected"));
    }
    if (set.cardinality() == mesh.triangleCount()) {
      throw Failure.cannot(CoreWords.of("patch-region.everything"));
    }
    Opening opening =
        Opening.of(mesh, set, work.part(0.1, CoreWords.of("work.dropping-triangles")));
    Mesh open = opening.mesh();
    Adjacency adjacency =
        Adjacency.of(open, work.part(0.15, CoreWords.of("work.finding-neighbours")));
    List<int[]> loops = opening.loops(adjacency, 1);
    List<HoleFill> fills =
        opening.fills(adjacency, loops, work.part(0.2, CoreWords.of("work.filling-holes")));
    for (int i = fills.size() - 1; i >= 0; i--) {
      if (fills.get(i) == null) {
        fills.remove(i);
        loops.remove(i);
      }
    }
    if (fills.isEmpty()) {
      throw Failure.cannot(CoreWords.of("patch-region.no-rim"));
    }
    double[] worst = new double[1];
    List<HoleFill> shaped =
        shape == Shape.SMOOTH
            ? fills
            : shaped(open, loops, fills, worst, work.part(0.1, CoreWords.of("work.fitting")));
    Mesh filled =
        FillHoles.joined(open, shaped, work.part(0.2, CoreWords.of("work.filling-holes")));
    Mesh coloured = coloured(mesh, set, open.vertexCount(), filled, work);
    List<String> notes = new ArrayList<>();
    notes.add(
        CoreWords.count(
            "patch-region.made", fills.size(), filled.triangleCount() - open.triangleCount()));
    if (shape != Shape.SMOOTH) {
      notes.add(CoreWords.of("patch-region.fits", Length.inBase(worst[0])));
    }
    return new Outcome(in.withScan(coloured), notes, null, fills.size());
  }

  /** Brings fillings onto shapes fitted around them. */
  private List<HoleFill> shaped(
      Mesh open, List<int[]> loops, List<HoleFill> fills, double[] worst, Work work) {
    VertexFans fans = VertexFans.of(open, work);
    List<int[]> frames = new ArrayList<>();
    for (int[] loop : loops) {
      frames.add(around(open, fans, loop));
    }
    PlainShape all =
        common ? fitted(open, frames.stream().flatMapToInt(Arrays::stream).toArray()) : null;
    List<HoleFill> out = new ArrayList<>();
    for (int i = 0; i < fills.size(); i++) {
      work.check();
      PlainShape s = common ? all : fitted(open, frames.get(i));
      worst[0] = Math.max(worst[0], s.rms());
      out.add(onto(open, loops.get(i), fills.get(i), s));
    }
    return out;
  }

  /** The vertices of a few rows of triangles around a border, without the border's own. */
  private static int[] around(Mesh mesh, VertexFans fans, int[] loop) {
    int[] rim = Borders.vertices(mesh, loop);
    BitSet in = fans.near(rim, ROWS, mesh.triangles());
    for (int v : rim) {
      in.clear(v);
    }
    return in.stream().toArray();
  }

  private PlainShape fitted(Mesh mesh, int[] frame) {
    if (frame.length < 12) {
      throw Failure.cannot(CoreWords.of("patch-region.no-rim"));
    }
    double[] points = new double[3 * frame.length];
    for (int i = 0; i < points.length; i++) {
      points[i] = mesh.xyz()[3 * frame[i / 3] + i % 3];
    }
    if (shape == Shape.BALL) {
      return new PlainShape.Ball(SphereFit.of(points));
    }
    if (shape == Shape.CYLINDER) {
      float[] normals = Measures.vertexNormals(mesh);
      double[] n = new double[points.length];
      for (int i = 0; i < n.length; i++) {
        n[i] = normals[3 * frame[i / 3] + i % 3];
      }
      return new PlainShape.Tube(CylinderFit.of(points, n));
    }
    PlaneFit.Sum sum = new PlaneFit.Sum();
    for (int i = 0; i < points.length; i += 3) {
      sum.add(points[i], points[i + 1], points[i + 2], 1);
    }
    return new PlainShape.Plane(sum.fit());
  }

  /**
   * Brings a filling's own vertices onto a shape; near the rim they are off it by what the nearest
   * rim vertices are, so that there is no step.
   */
  private static HoleFill onto(Mesh mesh, int[] loop, HoleFill fill, PlainShape shape) {
    int[] rim = Borders.vertices(mesh, loop);
    double reach = BLEND * Borders.perimeter(mesh, loop) / loop.length;
    double[][] off = new double[rim.length][];
    double[][] at = new double[rim.length][];
    for (int i = 0; i < rim.length; i++) {
      at[i] = Vec.at(mesh.xyz(), rim[i]);
      off[i] = Vec.sub(at[i], shape.nearest(at[i]));
    }
    float[] xyz = fill.xyz().clone();
    for (int v = 0; v < xyz.length / 3; v++) {
      double[] p = Vec.at(xyz, v);
      double weights = 0;
      double near = Double.POSITIVE_INFINITY;
      double[] sum = new double[3];
      for (int i = 0; i < rim.length; i++) {
        double d = Vec.distance(p, at[i]);
        near = Math.min(near, d);
        double w = 1 / (d * d * d + 1e-30);
        weights += w;
        sum = Vec.add(sum, Vec.mul(off[i], w));
      }
      double f = Math.max(0, 1 - near / reach);
      double[] q = Vec.add(shape.nearest(p), Vec.mul(sum, f * f * (3 - 2 * f) / weights));
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (float) q[k];
      }
    }
    return new HoleFill(xyz, fill.triangles(), fill.settled());
  }

  /** The filling's vertices with the colours that the nearest places of the region had. */
  private static Mesh coloured(Mesh old, BitSet region, int first, Mesh now, Work work) {
    Attribute had = old.attributes().first(Kind.COLOUR, Domain.VERTEX);
    Attribute has = now.attributes().first(Kind.COLOUR, Domain.VERTEX);
    if (had == null || has == null || first == now.vertexCount()) {
      return now;
    }
    Mesh was = Submesh.of(old, region, Work.unwatched());
    int[] of = was.attributes().first(Kind.COLOUR, Domain.VERTEX).ints();
    BvhQuery q = new BvhQuery(Bvh.of(was, work.part(0.1, CoreWords.of("work.carrying-over"))));
    int[] colours = has.ints().clone();
    for (int v = first; v < now.vertexCount(); v++) {
      float[] p = now.xyz();
      q.closest(p[3 * v], p[3 * v + 1], p[3 * v + 2], Float.POSITIVE_INFINITY);
      int t = 3 * q.triangle;
      int corner = q.u > 0.5f ? 1 : q.v > 0.5f ? 2 : 0;
      colours[v] = of[was.triangles()[t + corner]];
    }
    // Nobody has seen the filling in other colours: what is told of its triangles still holds.
    return now.with(Attribute.of(has.name(), Kind.COLOUR, Domain.VERTEX, colours, null))
        .of(now.lineage());
  }
}
