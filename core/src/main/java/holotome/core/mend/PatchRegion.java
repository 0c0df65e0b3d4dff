package holotome.core.mend;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Material;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.mesh.VertexColours;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.solve.CylinderFit;
import holotome.core.solve.PlaneFit;
import holotome.core.solve.SphereFit;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collections;
import java.util.List;
import java.util.function.Supplier;
import java.util.stream.IntStream;

/**
 * Makes the selected regions anew as plain shapes that follow what is around them, not the noise
 * within: glass and shine, which scanners see as a boiling surface. Each region is cut out, its
 * opening filled, and the filling brought onto a shape fitted to a ring around it, reaching the rim
 * without a step. Colours stay those of the nearest old place, on vertices and in pictures.
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
        boolean common,
    @Parameter(
            help = "Triangles like those around, or few of them, larger towards the middle",
            preset = "matching")
        Meshing mesh)
    implements Step {
  /** Rows of triangles around a region that its shape is fitted to. */
  private static final int ROWS = 2;

  /** What is nearer to the rim than so many of its edges goes over into it. */
  private static final double BLEND = 4;

  /** What is farther off than so many times the median is no part of a shape. */
  private static final double FAR = 3;

  /** Shapes are fitted anew without that so many times. */
  private static final int ROUNDS = 8;

  /** A rim that is off by so many times the noise of the whole lies within what is to go. */
  private static final double PROUD = 12;

  /** What a region becomes. */
  public enum Shape {
    PLANE,
    CYLINDER,
    BALL,
    SMOOTH
  }

  /** How a patch is meshed. */
  public enum Meshing {
    MATCHING,
    FEW
  }

  /** Each splitting of a patch of few triangles makes them larger by so much. */
  private static final double COARSER = 2.5;

  private static final int GRAIN = 1 << 8;

  /** With triangles like those around. */
  public PatchRegion(List<Pick> picks, Shape shape, boolean common) {
    this(picks, shape, common, Meshing.MATCHING);
  }

  public PatchRegion {
    picks = List.copyOf(picks);
    if (picks.isEmpty()) {
      throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return 90L * in.scan().triangleCount()
        + in.scan().materials().stream().mapToLong(PatchRegion::pictureBytes).sum();
  }

  /** The patches' picture is no finer than those there are, and holds no more. */
  private static long pictureBytes(Material m) {
    return m.image() == null ? 0 : 4L * m.image().width() * m.image().height();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = in.scan();
    Work work = run.work();
    BitSet set = Pick.all(picks, scan, in.frame(), work.part(0.05, CoreWords.of("work.selecting")));
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("patch-region.nothing-selected"));
    }
    if (set.cardinality() == scan.triangleCount()) {
      throw Failure.cannot(CoreWords.of("patch-region.everything"));
    }
    Opening opening =
        Opening.of(scan, set, work.part(0.1, CoreWords.of("work.dropping-triangles")));
    Adjacency adjacency =
        Adjacency.of(opening.mesh(), work.part(0.1, CoreWords.of("work.finding-neighbours")));
    List<int[]> loops = opening.loops(adjacency, 1);
    if (FillHoles.anyMeetsItself(opening.mesh(), loops)) {
      // A rim that comes by a point twice: the fans that meet there are parted.
      opening = opening.parted(work.part(0.05, CoreWords.of("work.parting-fans")));
      adjacency =
          Adjacency.of(opening.mesh(), work.part(0.05, CoreWords.of("work.finding-neighbours")));
      loops = opening.loops(adjacency, 1);
    }
    Mesh open = opening.mesh();
    loops = InnerRims.joined(open, loops.toArray(int[][]::new), loops, work);
    VertexFans fans =
        shape == Shape.SMOOTH
            ? null
            : VertexFans.of(open, work.part(0.05, CoreWords.of("work.finding-neighbours")));
    List<PlainShape> shapes = shape == Shape.SMOOTH ? List.of() : shapes(open, fans, loops);
    List<HoleFill> fills =
        fills(
            opening, adjacency, loops, shapes, work.part(0.2, CoreWords.of("work.filling-holes")));
    if (fills.isEmpty() || fills.contains(null)) {
      throw Failure.cannot(CoreWords.of("patch-region.no-rim"));
    }
    // How far off its rows are, RMS, how far the rim, and how rough the rest of the scan is.
    double[] worst = {0, 0, fans == null ? 0 : NoiseLevel.of(open, fans)};
    List<HoleFill> shaped =
        shape == Shape.SMOOTH
            ? fills
            : shaped(
                open, loops, shapes, fills, worst, work.part(0.05, CoreWords.of("work.fitting")));
    OldSurface was = OldSurface.of(scan, set, work.part(0.1, CoreWords.of("work.carrying-over")));
    Mesh filled =
        FillHoles.joined(
            open,
            shaped,
            scan.hasTexture() ? seen(was) : null,
            work.part(0.2, CoreWords.of("work.filling-holes")));
    Mesh coloured = coloured(was, open.vertexCount(), filled);
    List<String> notes = new ArrayList<>();
    notes.add(
        CoreWords.count(
            "patch-region.made", fills.size(), filled.triangleCount() - open.triangleCount()));
    if (shape != Shape.SMOOTH) {
      notes.add(CoreWords.of("patch-region.fits", Length.inBase(worst[0])));
      if (worst[1] > PROUD * worst[2]) {
        notes.add(CoreWords.of("patch-region.rim-off", Length.inBase(worst[1])));
      }
    }
    return new Outcome(in.withScan(coloured), notes, null, fills.size());
  }

  /** Laid flat along the shape, as dense as what is around, where the rim can be; else smooth. */
  private List<HoleFill> fills(
      Opening opening, Adjacency adjacency, List<int[]> loops, List<PlainShape> shapes, Work work) {
    if (shape != Shape.SMOOTH && mesh == Meshing.MATCHING) {
      List<HoleFill> out = new ArrayList<>();
      for (int i = 0; i < loops.size(); i++) {
        Laying laying = Laying.of(shapes.get(i), opening.mesh(), loops.get(i));
        out.add(
            laying == null && shape != Shape.PLANE
                ? null
                : HoleFill.even(
                    opening.mesh(),
                    adjacency,
                    loops.get(i),
                    laying,
                    work.part(0.8 / loops.size(), work.label())));
      }
      if (!out.contains(null)) {
        return out;
      }
    }
    double grade = mesh == Meshing.FEW ? COARSER : 1;
    return opening.fills(adjacency, loops, grade, work.part(0.2, work.label()));
  }

  /** The shapes fitted around the rims, each its own, or all one. */
  private List<PlainShape> shapes(Mesh open, VertexFans fans, List<int[]> loops) {
    List<int[]> frames = new ArrayList<>();
    for (int[] loop : loops) {
      frames.add(around(open, fans, loop));
    }
    if (common) {
      int[] all = frames.stream().flatMapToInt(Arrays::stream).toArray();
      return Collections.nCopies(loops.size(), fitted(open, all));
    }
    return frames.stream().map(frame -> fitted(open, frame)).toList();
  }

  /** Brings fillings onto the shapes. */
  private static List<HoleFill> shaped(
      Mesh open,
      List<int[]> loops,
      List<PlainShape> shapes,
      List<HoleFill> fills,
      double[] worst,
      Work work) {
    List<HoleFill> out = new ArrayList<>();
    for (int i = 0; i < fills.size(); i++) {
      PlainShape s = shapes.get(i);
      worst[0] = Math.max(worst[0], s.rms());
      worst[1] = Math.max(worst[1], off(open, loops.get(i), s));
      out.add(
          onto(open, loops.get(i), fills.get(i), s, work.part(1.0 / fills.size(), work.label())));
    }
    return out;
  }

  /** How far a rim is from a shape at most. */
  private static double off(Mesh mesh, int[] loop, PlainShape shape) {
    double most = 0;
    for (int v : Borders.vertices(mesh, loop)) {
      double[] p = Vec.at(mesh.xyz(), v);
      most = Math.max(most, Vec.distance(p, shape.nearest(p)));
    }
    return most;
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
    double[] n = null;
    if (shape == Shape.CYLINDER) {
      float[] normals = Measures.vertexNormals(mesh);
      n = new double[points.length];
      for (int i = 0; i < n.length; i++) {
        n[i] = normals[3 * frame[i / 3] + i % 3];
      }
    }
    PlainShape s = fitted(points, n);
    for (int round = 0; round < ROUNDS; round++) {
      int[] near = near(points, s);
      if (near.length < 12 || 3 * near.length == points.length) {
        break;
      }
      s = fitted(some(points, near), n == null ? null : some(n, near));
    }
    return s;
  }

  private PlainShape fitted(double[] points, double[] normals) {
    if (shape == Shape.BALL) {
      return new PlainShape.Ball(SphereFit.of(points));
    }
    if (shape == Shape.CYLINDER) {
      return new PlainShape.Tube(CylinderFit.of(points, normals));
    }
    PlaneFit.Sum sum = new PlaneFit.Sum();
    for (int i = 0; i < points.length; i += 3) {
      sum.add(points[i], points[i + 1], points[i + 2], 1);
    }
    return new PlainShape.Plane(sum.fit());
  }

  /** The points that are not far off a shape, as what belongs to a frame around it is. */
  private static int[] near(double[] points, PlainShape shape) {
    double[] off = new double[points.length / 3];
    for (int i = 0; i < off.length; i++) {
      double[] p = Arrays.copyOfRange(points, 3 * i, 3 * i + 3);
      off[i] = Vec.distance(p, shape.nearest(p));
    }
    double[] sorted = off.clone();
    Arrays.sort(sorted);
    double most = FAR * sorted[off.length / 2];
    return IntStream.range(0, off.length).filter(i -> off[i] <= most).toArray();
  }

  private static double[] some(double[] points, int[] which) {
    double[] out = new double[3 * which.length];
    for (int i = 0; i < which.length; i++) {
      System.arraycopy(points, 3 * which[i], out, 3 * i, 3);
    }
    return out;
  }

  /**
   * Brings a filling's own vertices onto a shape; near the rim they are off it by what the nearest
   * rim vertices are, so that there is no step.
   */
  private static HoleFill onto(Mesh mesh, int[] loop, HoleFill fill, PlainShape shape, Work work) {
    int[] rim = Borders.vertices(mesh, loop);
    double reach = BLEND * Borders.perimeter(mesh, loop) / loop.length;
    double[] off = new double[3 * rim.length];
    double[] at = new double[3 * rim.length];
    for (int i = 0; i < rim.length; i++) {
      double[] p = Vec.at(mesh.xyz(), rim[i]);
      double[] q = shape.nearest(p);
      for (int k = 0; k < 3; k++) {
        at[3 * i + k] = p[k];
        off[3 * i + k] = p[k] - q[k];
      }
    }
    float[] xyz = fill.xyz().clone();
    Parallel.range(
        xyz.length / 3,
        GRAIN,
        work,
        (from, to) -> {
          for (int v = from; v < to; v++) {
            double[] q = onto(shape, Vec.at(fill.xyz(), v), at, off, reach);
            for (int k = 0; k < 3; k++) {
              xyz[3 * v + k] = (float) q[k];
            }
          }
        });
    return new HoleFill(xyz, fill.triangles(), fill.settled());
  }

  private static double[] onto(
      PlainShape shape, double[] p, double[] at, double[] off, double reach) {
    double weights = 0;
    double near = Double.POSITIVE_INFINITY;
    double x = 0;
    double y = 0;
    double z = 0;
    for (int i = 0; i < at.length; i += 3) {
      double dx = p[0] - at[i];
      double dy = p[1] - at[i + 1];
      double dz = p[2] - at[i + 2];
      double d = Math.sqrt(dx * dx + dy * dy + dz * dz);
      near = Math.min(near, d);
      double w = 1 / (d * d * d + 1e-30);
      weights += w;
      x += w * off[i];
      y += w * off[i + 1];
      z += w * off[i + 2];
    }
    double f = Math.max(0, 1 - near / reach);
    double share = f > 0 ? f * f * (3 - 2 * f) / weights : 0;
    return Vec.add(shape.nearest(p), Vec.of(x * share, y * share, z * share));
  }

  /** What the region's pictures showed nearest to a place. */
  private static Supplier<Patching.Seen> seen(OldSurface was) {
    return () -> {
      OldSurface.Look look = was.new Look();
      return (x, y, z) -> {
        look.at(x, y, z);
        return VertexColours.at(was.mesh(), look.triangle(), look.u(), look.v());
      };
    };
  }

  /** The filling's vertices with the colours that the nearest places of the region had. */
  private static Mesh coloured(OldSurface was, int first, Mesh now) {
    Attribute had = was.mesh().attributes().first(Kind.COLOUR, Domain.VERTEX);
    Attribute has = now.attributes().first(Kind.COLOUR, Domain.VERTEX);
    if (had == null || has == null) {
      return now;
    }
    OldSurface.Look look = was.new Look();
    int[] colours = has.ints().clone();
    for (int v = first; v < now.vertexCount(); v++) {
      float[] p = now.xyz();
      look.at(p[3 * v], p[3 * v + 1], p[3 * v + 2]);
      int corner = look.u() > 0.5f ? 1 : look.v() > 0.5f ? 2 : 0;
      colours[v] = had.ints()[was.mesh().triangles()[3 * look.triangle() + corner]];
    }
    // Nobody has seen the filling in other colours: what is told of its triangles still holds.
    return now.with(Attribute.of(has.name(), Kind.COLOUR, Domain.VERTEX, colours, null))
        .of(now.lineage());
  }
}
