package holotome.core.datum;

import holotome.core.geometry.Vec;
import holotome.core.io.SafeFiles;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.section.DrawingFile;
import holotome.core.section.Section;
import holotome.core.section.SectionPlane;
import holotome.core.section.Silhouette;
import holotome.core.section.Slicer;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** Cuts sections and writes them as drawings. */
@Describes(
    id = "datum.section",
    title = "Sections",
    help =
        "Cuts the mesh by a plane, or a stack of them, into exact curves, and writes them in true millimetres as DXF, SVG or a table.",
    reads = {"scan", "cast", "frame"},
    writes = {})
public record WriteSection(
    @Parameter(help = "A point on the plane, x y z in working space") double[] point,
    @Parameter(help = "Its normal; a stack grows along it", preset = "0, 0, 1") double[] normal,
    @Parameter(help = "How many planes", preset = "1", min = 1, max = 10000) int count,
    @Parameter(
            help = "How far from plane to plane; not needed for one",
            min = Double.MIN_VALUE,
            optional = true)
        Length step,
    @Parameter(
            help = "Lines and arcs are fitted within this; 0 writes every point",
            min = 0,
            preset = "0 mm")
        Length tolerance,
    @Parameter(help = "What is written", preset = "dxf, svg") List<DrawingFile.Format> format,
    @Parameter(help = "The files' name, without an ending", preset = "section") String name,
    @Parameter(help = "What the plane cuts, or the outline seen against its normal", preset = "cut")
        Draw draw)
    implements Step {
  private static final int OUTLINE_CELLS = 2048;

  /** What is drawn. */
  public enum Draw {
    CUT,
    OUTLINE
  }

  public WriteSection {
    if (draw == Draw.OUTLINE && count != 1) {
      throw Failure.usage(CoreWords.of("write-section.an-outline-is-one-drawing"));
    }
    if (point.length != 3 || normal.length != 3) {
      throw Failure.usage(CoreWords.of("common.point-and-normal-need-three"));
    }
    if (!(Vec.length(normal) > 0)) {
      throw Failure.usage(CoreWords.of("common.the-normal-must-not-be"));
    }
    if (count > 1 && step == null) {
      throw Failure.usage(CoreWords.of("write-section.a-stack-needs-a-step"));
    }
    if (name.isBlank()
        || name.startsWith(".")
        || !name.matches("[^/\\\\:*?\"<>|\\p{Cntrl}]{1,200}")) {
      throw Failure.usage(CoreWords.of("write-section.is-not-a-file-name", name));
    }
    format = List.copyOf(format);
  }

  /** The sections, without writing them. */
  public List<Section> cut(Workpiece in, Run run) {
    Mesh mesh = in.current();
    if (draw == Draw.OUTLINE) {
      SectionPlane plane = SectionPlane.of(point, normal);
      return List.of(Silhouette.of(mesh, in.frame().toWork(), plane, OUTLINE_CELLS, run.work()));
    }
    return Slicer.stack(
        mesh,
        in.frame().toWork(),
        SectionPlane.of(point, normal),
        step == null ? 1 : step.metres(),
        count,
        run.work());
  }

  @Override
  public boolean writesFiles() {
    return true;
  }

  @Override
  public long memory(Workpiece in) {
    return LITTLE + 30L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    List<Section> sections = cut(in, run);
    if (sections.stream().allMatch(Section::isEmpty)) {
      throw Failure.cannot(CoreWords.of("write-section.the-plane-does-not-meet"));
    }
    List<String> notes = new ArrayList<>();
    if (run.out() != null) {
      try (SafeFiles files = new SafeFiles()) {
        for (DrawingFile.Format f : format) {
          String file = name + "." + f.name().toLowerCase(Locale.ROOT);
          DrawingFile.add(files, run.out().resolve(file), sections, tolerance.metres(), f);
          notes.add(CoreWords.of("write-section.written", file));
        }
        files.commit();
      }
    }
    boolean size = in.frame().trueSize();
    double length = sections.stream().mapToDouble(Section::length).sum();
    long curves = sections.stream().mapToLong(s -> s.curves().size()).sum();
    long open = sections.stream().mapToLong(Section::openCurves).sum();
    notes.add(
        CoreWords.of(
            "write-section.long",
            draw == Draw.OUTLINE
                ? CoreWords.count("write-section.outlines", count)
                : CoreWords.count("write-section.sections", count),
            open == 0
                ? CoreWords.count("write-section.curves", curves)
                : CoreWords.count("write-section.curves-open", curves, open),
            Length.format(length, size)));
    if (count == 1) {
      notes.add(
          CoreWords.of("write-section.area", Length.formatArea(sections.getFirst().area(), size)));
    } else {
      double volume = step.metres() * sections.stream().mapToDouble(Section::area).sum();
      notes.add(CoreWords.of("write-section.areas-times-step", Length.formatVolume(volume, size)));
    }
    if (!size) {
      notes.add(CoreWords.of("write-section.the-true-size-is-unknown"));
    }
    return new Outcome(in, notes);
  }
}
