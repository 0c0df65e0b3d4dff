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
      throw Failure.usage("an outline is one drawing; leave the count at 1");
    }
    if (point.length != 3 || normal.length != 3) {
      throw Failure.usage("point and normal need three numbers each");
    }
    if (!(Vec.length(normal) > 0)) {
      throw Failure.usage("the normal must not be null");
    }
    if (count > 1 && step == null) {
      throw Failure.usage("a stack needs a step from plane to plane");
    }
    if (name.isBlank()
        || name.startsWith(".")
        || !name.matches("[^/\\\\:*?\"<>|\\p{Cntrl}]{1,200}")) {
      throw Failure.usage(
          "\"" + name + "\" is not a file name; leave out directories and / \\ : * ? \" < > |");
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
      throw Failure.cannot("The plane does not meet the mesh; move it");
    }
    List<String> notes = new ArrayList<>();
    if (run.out() != null) {
      try (SafeFiles files = new SafeFiles()) {
        for (DrawingFile.Format f : format) {
          String file = name + "." + f.name().toLowerCase(Locale.ROOT);
          DrawingFile.add(files, run.out().resolve(file), sections, tolerance.metres(), f);
          notes.add(file + " written");
        }
        files.commit();
      }
    }
    boolean size = in.frame().trueSize();
    double length = sections.stream().mapToDouble(Section::length).sum();
    long curves = sections.stream().mapToLong(s -> s.curves().size()).sum();
    long open = sections.stream().mapToLong(Section::openCurves).sum();
    notes.add(
        String.format(
            "%,d %s, %,d %s%s, %s long",
            count,
            draw == Draw.OUTLINE ? "outline" : count == 1 ? "section" : "sections",
            curves,
            curves == 1 ? "curve" : "curves",
            open == 0 ? "" : String.format(" (%,d open)", open),
            Length.format(length, size)));
    if (count == 1) {
      notes.add("Area " + Length.formatArea(sections.getFirst().area(), size));
    } else {
      double volume = step.metres() * sections.stream().mapToDouble(Section::area).sum();
      notes.add("Areas times step: " + Length.formatVolume(volume, size));
    }
    if (!size) {
      notes.add("The true size is unknown, the file's own units were taken as metres");
    }
    return new Outcome(in, notes);
  }
}
