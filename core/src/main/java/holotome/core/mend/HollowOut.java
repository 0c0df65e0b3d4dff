package holotome.core.mend;

import holotome.core.contour.DualSurface;
import holotome.core.contour.Field;
import holotome.core.contour.Lattice;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Joined;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.spatial.Outward;
import holotome.core.spatial.Reprojection;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.spatial.WindingNumber;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Set;

/**
 * Hollows a solid: a second surface inside, at least as far from the first as the wall is thick,
 * measured at its vertices, the middles of its edges and of its triangles, and farther by about a
 * quarter of its detail at most where that is fine. The outside stays as it is.
 *
 * <p>Costs one closest point and mostly one winding number a lattice point near the inner surface.
 */
@Describes(
    id = "mend.hollow",
    title = "Hollow",
    help =
        "Hollows a solid to a wall of a stated thickness, with holes to drain it where asked; the outside stays as it is.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record HollowOut(
    @Parameter(help = "How thick the wall is", min = 0, preset = "2 mm") Length wall,
    @Parameter(
            help = "How fine the inner surface is; where left out, half the wall",
            min = 0,
            optional = true)
        Length detail,
    @Parameter(
            help = "How wide holes are by which what is inside runs out; none where left out",
            min = 0,
            optional = true)
        Length drain,
    @Parameter(
            help =
                "How many of them, at the lowest places, where none are placed; one where left out",
            min = 1,
            max = 12,
            optional = true)
        Integer drains,
    @Parameter(
            help = "Where they are, x y z in working space, one after the other",
            optional = true)
        double[] at)
    implements Step {
  /** The inner surface is no finer than this part of the diagonal, unless asked for. */
  private static final double FINEST = 1.0 / 400;

  private static final int ROOM = 4;

  /** The inner surface is made deeper so many times where it comes nearer than the wall. */
  private static final int TRIES = 3;

  public HollowOut {
    if (at != null && (at.length == 0 || at.length % 3 != 0)) {
      throw Failure.usage(CoreWords.of("fill-holes.three-numbers-each"));
    }
  }

  /** Without holes. */
  public HollowOut(Length wall, Length detail) {
    this(wall, detail, null, null, null);
  }

  private boolean hasDrains() {
    return drain != null && drain.metres() > 0;
  }

  @Override
  public Set<Part<?>> reads() {
    return Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public long memory(Workpiece in) {
    Mesh scan = in.scan();
    return SolidSurface.memory(scan.triangleCount(), Measures.area(scan), step(in));
  }

  private double step(Workpiece in) {
    if (detail != null && detail.metres() > 0) {
      return in.frame().toBaseLength(detail.metres());
    }
    double half = in.frame().toBaseLength(wall.metres()) / 2;
    return Math.max(half, FINEST * in.scan().bounds().diagonal());
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    double thick = in.frame().toBaseLength(wall.metres());
    if (!(thick > 0)) {
      throw Failure.usage(CoreWords.of("hollow-out.no-wall"));
    }
    SolidProof proof = SolidProof.of(mesh, work.part(0.2, CoreWords.of("work.proving")));
    if (!proof.holds()) {
      throw Failure.cannot(CoreWords.of("hollow-out.no-solid", proof.problem()));
    }
    Bvh bvh = Bvh.of(mesh, work.part(0.1, CoreWords.of("work.indexing-the-surface")));
    WindingNumber winding = WindingNumber.of(bvh);
    double step = step(in);
    Lattice lattice = Lattice.around(mesh.bounds(), step, ROOM);
    // A little more than asked: the surface between the lattice's edges cuts corners.
    double depth = thick + 0.12 * step;
    Mesh cavity = null;
    double[] real = null;
    for (int i = 0; real == null || real[0] < thick && i < TRIES; i++) {
      depth += real == null ? 0 : 1.05 * (thick - real[0]);
      cavity =
          DualSurface.from(
                  seeds(mesh, depth),
                  lattice,
                  within(bvh, winding, depth),
                  work.part(0.4 / TRIES, CoreWords.of("work.making-the-surface")))
              .mesh();
      if (cavity.isEmpty()) {
        throw Failure.cannot(CoreWords.of("hollow-out.too-thick"));
      }
      real = walls(cavity, bvh, work.part(0.1 / TRIES, CoreWords.of("work.measuring")));
    }
    if (real[0] < thick) {
      throw Failure.cannot(CoreWords.of("hollow-out.too-thin"));
    }
    Mesh carried =
        Reprojection.of(mesh, bvh, cavity, work.part(0.1, CoreWords.of("work.carrying-over")));
    BitSet all = new BitSet();
    all.set(0, carried.triangleCount());
    Mesh out = Joined.of(mesh, Outward.turned(carried, all, Work.unwatched()));
    int holes = 0;
    if (hasDrains()) {
      Drains drains =
          new Drains(
              in.frame(),
              mesh,
              bvh,
              cavity,
              in.frame().toBaseLength(drain.metres()) / 2,
              work.part(0.05, CoreWords.of("work.indexing-the-surface")));
      int most = this.drains == null ? 1 : this.drains;
      out = drains.cut(out, at, most, work.part(0.05, CoreWords.of("work.cutting")));
      holes = drains.made();
    }
    SolidProof hollow = SolidProof.of(out, work.part(0.2, CoreWords.of("work.proving")));
    if (!hollow.holds()) {
      throw Failure.cannot(CoreWords.of("hollow-out.not-proved", hollow.problem()));
    }
    List<String> notes = new ArrayList<>();
    notes.add(
        CoreWords.of(
            "hollow-out.done",
            Length.inBase(real[0]),
            Length.inBase(real[1]),
            100 * hollow.volume() / proof.volume(),
            cavity.triangleCount()));
    if (holes > 0) {
      notes.add(CoreWords.count("drains.cut", holes));
    }
    return new Outcome(in.withScan(out), notes);
  }

  /** The thinnest and the thickest wall, at the inner surface's vertices, edges and triangles. */
  private static double[] walls(Mesh cavity, Bvh bvh, Work work) {
    int n = cavity.triangleCount();
    float[] points = new float[3 * (cavity.vertexCount() + 4 * n)];
    System.arraycopy(cavity.xyz(), 0, points, 0, cavity.xyz().length);
    int at = cavity.xyz().length;
    int[] tri = cavity.triangles();
    float[] p = cavity.xyz();
    for (int t = 0; t < n; t++) {
      for (int k = 0; k < 3; k++) {
        float a = p[3 * tri[3 * t] + k];
        float b = p[3 * tri[3 * t + 1] + k];
        float c = p[3 * tri[3 * t + 2] + k];
        points[at + k] = (a + b) / 2;
        points[at + 3 + k] = (b + c) / 2;
        points[at + 6 + k] = (c + a) / 2;
        points[at + 9 + k] = (a + b + c) / 3;
      }
      at += 12;
    }
    double least = Double.POSITIVE_INFINITY;
    double most = 0;
    for (float d : SurfaceDistance.distances(points, bvh, work)) {
      least = Math.min(least, d);
      most = Math.max(most, d);
    }
    return new double[] {least, most};
  }

  /** Inside the cavity: within the solid, farther than the wall from its surface. */
  private static Field within(Bvh bvh, WindingNumber winding, double thick) {
    return () -> {
      WindingNumber.Query w = winding.query();
      BvhQuery q = new BvhQuery(bvh);
      return (x, y, z) -> {
        q.closest((float) x, (float) y, (float) z, Float.POSITIVE_INFINITY);
        // Far from the surface the sign is asked last: most places near it are outside anyway.
        if (q.distance <= thick || w.at(x, y, z) < Field.LEVEL) {
          return Math.min(Field.LEVEL, Field.LEVEL * q.distance / thick);
        }
        return Field.LEVEL * q.distance / thick;
      };
    };
  }

  /** Small triangles where the cavity may begin: so far within each triangle of the surface. */
  private static Mesh seeds(Mesh mesh, double within) {
    int n = mesh.triangleCount();
    float[] xyz = new float[9 * n];
    int[] tri = new int[3 * n];
    double[] c = new double[3];
    for (int t = 0; t < n; t++) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, c);
      double l = Vec.length(c);
      for (int k = 0; k < 3; k++) {
        tri[3 * t + k] = 3 * t + k;
        for (int d = 0; d < 3; d++) {
          double at = mesh.xyz()[3 * mesh.triangles()[3 * t + k] + d];
          xyz[9 * t + 3 * k + d] = (float) (at - (l > 0 ? within * c[d] / l : 0));
        }
      }
    }
    return new Mesh(xyz, tri);
  }
}
