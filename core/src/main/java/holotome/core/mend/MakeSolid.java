package holotome.core.mend;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SolidProof;
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

/** Makes a proved solid of any triangles: closed, two-manifold, outward, crossing nowhere. */
@Describes(
    id = "mend.solid",
    title = "Solid",
    help =
        "Makes a closed solid and proves it: mends the surface as it is, or makes a new one that follows the scan at a stated detail and bridges what is open.",
    reads = {"scan", "frame"},
    writes = {"scan", "cast", "maps"})
public record MakeSolid(
    @Parameter(
            help =
                "How: keep the surface and mend it, make a new one, or whatever can be proved first",
            preset = "auto")
        How how,
    @Parameter(
            help = "How fine a new surface is; where left out, as fine as the scan",
            when = "how=auto|new",
            min = 0,
            optional = true)
        Length detail,
    @Parameter(
            help = "Or about how many triangles a new surface has",
            when = "how=auto|new",
            min = 100,
            max = 2e8,
            optional = true)
        Integer triangles,
    @Parameter(
            help = "The widest opening that may be bridged; where left out, any",
            min = 0,
            optional = true)
        Length gaps,
    @Parameter(help = "What becomes of the solid: the Scan, or the Cast", preset = "scan") As as)
    implements Step {

  /** How a solid is made. */
  public enum How {
    AUTO,
    KEEP,
    NEW
  }

  /** What the result becomes. */
  public enum As {
    SCAN,
    CAST
  }

  public MakeSolid {
    if (detail != null && triangles != null) {
      throw Failure.usage(CoreWords.of("make-solid.detail-or-triangles"));
    }
  }

  @Override
  public Set<Part<?>> reads() {
    return Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public Set<Part<?>> writes() {
    return as == As.CAST ? Set.of(Part.CAST, Part.MAPS) : Set.of(Part.SCAN);
  }

  @Override
  public long memory(Workpiece in) {
    Mesh scan = in.scan();
    return SolidSurface.memory(scan.triangleCount(), Measures.area(scan), detail(scan, in));
  }

  private double detail(Mesh scan, Workpiece in) {
    if (detail != null && detail.metres() > 0) {
      return in.frame().toBaseLength(detail.metres());
    }
    return triangles != null
        ? SolidSurface.forTriangles(scan, triangles)
        : SolidSurface.fitting(scan);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    List<String> notes = new ArrayList<>();
    Work work = run.work();
    Mesh ready =
        SolidSurface.prepared(in.scan(), notes, work.part(0.15, CoreWords.of("work.making-ready")));
    notes.remove(CoreWords.of("tidy.nothing-to-tidy"));
    Mesh made = null;
    if (how != How.NEW) {
      made = kept(in, ready, notes, work.part(how == How.KEEP ? 0.85 : 0.25, run.work().label()));
    }
    if (made == null) {
      made = renewed(in, ready, notes, work.part(0.6, CoreWords.of("work.making-the-surface")));
    }
    return new Outcome(as == As.CAST ? in.withCast(made) : in.withScan(made), notes);
  }

  /** The surface with its holes filled, if that is a solid; null, or a failure, if it is not. */
  private Mesh kept(Workpiece in, Mesh ready, List<String> notes, Work work) {
    Mesh filled = ready;
    List<String> said = new ArrayList<>();
    if (how == How.KEEP || detail == null && triangles == null) {
      Outcome fill =
          new FillHoles(FillHoles.How.SMOOTH, null, false)
              .apply(in.withScan(ready), new Run(work.part(0.5, work.label()), null));
      filled = fill.work().scan();
      if (fill.amount() > 0) {
        said.addAll(fill.stated());
      }
    }
    SolidProof proof = SolidProof.of(filled, work.part(0.5, CoreWords.of("work.proving")));
    boolean isWanted = how == How.KEEP || detail == null && triangles == null;
    if (proof.holds() && isWanted) {
      notes.addAll(said);
      notes.addFirst(CoreWords.of("make-solid.kept", filled.triangleCount()));
      return filled;
    }
    if (how == How.KEEP) {
      throw Failure.cannot(CoreWords.of("make-solid.cannot-keep", proof.problem()));
    }
    return null;
  }

  private Mesh renewed(Workpiece in, Mesh ready, List<String> notes, Work work) {
    double step = detail(ready, in);
    SolidSurface s =
        SolidSurface.of(ready, step, work.part(0.6, CoreWords.of("work.making-the-surface")));
    int n = s.mesh().triangleCount();
    if (triangles != null && Math.abs(n - triangles) > 0.1 * triangles) {
      step *= Math.sqrt((double) n / triangles);
      s = SolidSurface.of(ready, step, work.part(0.2, CoreWords.of("work.making-the-surface")));
    }
    double allowed =
        gaps == null ? Double.POSITIVE_INFINITY : in.frame().toBaseLength(gaps.metres()) + 2 * step;
    if (s.bridged() > allowed) {
      throw Failure.cannot(
          CoreWords.of("make-solid.gap-too-wide", length(in, s.bridged()), gaps.toString()));
    }
    SolidProof proof = SolidProof.of(s.mesh(), work.part(0.2, CoreWords.of("work.proving")));
    if (!proof.holds()) {
      throw Failure.cannot(CoreWords.of("make-solid.not-proved", proof.problem()));
    }
    notes.addFirst(
        CoreWords.of(
            "make-solid.renewed",
            s.mesh().triangleCount(),
            Length.inBase(step),
            Length.inBase(s.rms())));
    if (s.bridged() > 0) {
      notes.add(1, CoreWords.of("make-solid.bridged", Length.inBase(s.bridged())));
    }
    return s.mesh();
  }

  private static String length(Workpiece in, double base) {
    return Length.format(base * in.frame().toWork().scale(), in.frame().trueSize());
  }
}
