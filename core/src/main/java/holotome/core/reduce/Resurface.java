package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.Reprojection;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.spatial.UsualSize;
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
import java.util.List;
import java.util.Set;

/** Makes a new smooth surface through a scan whose triangles are beyond repair. */
@Describes(
    id = "reduce.resurface",
    title = "New surface",
    help =
        "Makes a new smooth surface through the scan, for triangles that are beyond repair: torn, doubled, crossing, noisy.",
    reads = {"scan", "frame"},
    writes = {"scan", "cast", "maps", "stand-in"})
public record Resurface(
    @Parameter(
            help = "How fine it is; where left out, as fine as the scan",
            min = 0,
            optional = true)
        Length detail,
    @Parameter(help = "Or about how many triangles it has", min = 100, max = 2e8, optional = true)
        Integer triangles,
    @Parameter(
            help = "How closely it follows the scan: 0 is smoothest, 20 takes noise over",
            min = 0,
            max = 100,
            preset = "4")
        double closeness,
    @Parameter(
            help = "Where there was no scan: the surface stays open, or is closed",
            preset = "open")
        Beyond beyond,
    @Parameter(
            help =
                "How far it goes on beyond the scan, and closes holes twice as wide; where left out, twice the detail",
            when = "beyond=open",
            min = 0,
            optional = true)
        Length reach,
    @Parameter(
            help = "What becomes of the result: the Cast, a new Scan, or a stand-in beside it",
            preset = "cast")
        Role as)
    implements Step {
  private static final double REACH = 2;

  /** What happens where there was no scan. */
  public enum Beyond {
    OPEN,
    CLOSED
  }

  public Resurface {
    beyond = beyond == null ? Beyond.OPEN : beyond;
    if (detail != null && triangles != null) {
      throw Failure.usage(CoreWords.of("make-solid.detail-or-triangles"));
    }
  }

  @Override
  public Set<Part<?>> reads() {
    return detail == null && reach == null ? Set.of(Part.SCAN) : Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public Set<Part<?>> writes() {
    return as.writes();
  }

  @Override
  public long memory(Workpiece in) {
    Mesh scan = in.scan();
    return NewSurface.memory(scan.triangleCount(), Measures.area(scan), step(in, scan));
  }

  private double step(Workpiece in, Mesh scan) {
    if (detail != null && detail.metres() > 0) {
      return in.frame().toBaseLength(detail.metres());
    }
    return triangles != null ? NewSurface.forTriangles(scan, triangles) : NewSurface.fitting(scan);
  }

  /** About how many triangles come of it, by the scan's area. */
  public long expected(Workpiece in) {
    return triangles != null ? triangles : NewSurface.triangles(in.scan(), step(in, in.scan()));
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = finite(in.scan());
    if (!(Measures.area(scan) > 0)) {
      throw Failure.cannot(CoreWords.of("resurface.no-area"));
    }
    Work work = run.work();
    List<String> notes = new ArrayList<>();
    Mesh coloured = Lightened.colouredByVertex(scan);
    UsualSize size = UsualSize.of(coloured);
    Mesh plain =
        size.to(
            coloured.with(coloured.attributes().without(Attribute.Kind.UV), coloured.materials()));
    Bvh bvh = Bvh.of(plain, work.part(0.05, CoreWords.of("work.indexing-the-surface")));
    Mesh bare =
        NewSurface.ready(
            new Mesh(plain.xyz(), plain.triangles()),
            bvh,
            notes,
            work.part(0.1, CoreWords.of("work.turning-triangles")));
    NewSurface made =
        made(
            in,
            size,
            bare,
            bvh,
            size.to(step(in, scan)),
            work.part(0.65, CoreWords.of("work.making-the-surface")));
    Mesh light =
        plain.attributes().isEmpty()
            ? made.mesh()
            : Reprojection.of(
                plain, bvh, made.mesh(), work.part(0.15, CoreWords.of("work.carrying-over")));
    notes.addFirst(CoreWords.of("resurface.made", light.triangleCount(), scan.triangleCount()));
    Mesh found = made.lost().isEmpty() ? plain : Submesh.of(plain, t -> !made.lost().get(t), work);
    Work measuring = work.part(0.05, CoreWords.of("work.measuring-deviation"));
    SurfaceDistance off =
        beyond == Beyond.CLOSED
            ? Lightened.ofScan(found, made.bvh(), measuring)
            : Lightened.distance(light, made.bvh(), found, bvh, measuring);
    notes.add(Lightened.inWords(size.back(off.rms()), size.back(off.max())));
    if (made.bridged() > 0) {
      notes.add(CoreWords.of("make-solid.bridged", Length.inBase(size.back(made.bridged()))));
    }
    if (!made.lost().isEmpty()) {
      notes.add(CoreWords.count("resurface.lost", made.lost().cardinality()));
    }
    return new Outcome(as.into(in, size.back(light)), notes);
  }

  /** Without triangles that have a point nowhere. */
  private static Mesh finite(Mesh scan) {
    if (Double.isFinite(Measures.area(scan))) {
      return scan;
    }
    float[] p = scan.xyz();
    int[] tri = scan.triangles();
    return Submesh.of(
        scan,
        t -> {
          float sum = 0;
          for (int k = 0; k < 9; k++) {
            sum += p[3 * tri[3 * t + k / 3] + k % 3] * 0;
          }
          return sum == 0;
        },
        Work.unwatched());
  }

  private NewSurface made(
      Workpiece in, UsualSize size, Mesh bare, Bvh bvh, double step, Work work) {
    NewSurface made = once(in, size, bare, bvh, step, work.part(0.8, work.label()));
    int n = made.mesh().triangleCount();
    boolean isFar = triangles != null && Math.abs(n - triangles) > 0.1 * triangles;
    return isFar
        ? once(
            in,
            size,
            bare,
            bvh,
            step * Math.sqrt((double) n / triangles),
            work.part(0.2, work.label()))
        : made;
  }

  private NewSurface once(
      Workpiece in, UsualSize size, Mesh bare, Bvh bvh, double step, Work work) {
    double far =
        beyond == Beyond.CLOSED
            ? Double.POSITIVE_INFINITY
            : reach == null ? REACH * step : size.to(in.frame().toBaseLength(reach.metres()));
    double farthest = NewSurface.farthest(bare, step);
    if (beyond == Beyond.OPEN && far > farthest) {
      throw Failure.cannot(CoreWords.of("resurface.too-far", Length.inBase(size.back(farthest))));
    }
    return NewSurface.of(bare, bvh, step, closeness, far, work);
  }
}
