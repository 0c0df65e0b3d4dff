package holotome.core.ship;

import holotome.core.io.GlbWriter;
import holotome.core.io.MeshWriter;
import holotome.core.io.Pictures;
import holotome.core.io.SafeFiles;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Raster;
import holotome.core.mesh.Similarity;
import holotome.core.step.Describes;
import holotome.core.step.MapKind;
import holotome.core.step.Maps;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.file.Path;
import java.util.List;

/** Writes the finished asset. */
@Describes(
    id = "ship.write",
    title = "Write",
    help =
        "Writes the Cast with its pictures (or the Scan, where there is no Cast) for where it goes next.")
public record WriteAsset(
    @Parameter(
            help =
                "Where it goes: engine (GLB, metres, Y up), render (OBJ and PNG, metres), print (STL, millimetres), engineering (PLY, millimetres), capture (PLY in the capture's own frame)",
            preset = "engine")
        Destination for_,
    @Parameter(help = "The files' name, without an ending") String name,
    @Parameter(help = "Another format than the destination's own", optional = true) Format format,
    @Parameter(
            help =
                "Another frame than the destination's own: the working one, or the file's original one",
            optional = true)
        InFrame frame,
    @Parameter(help = "Which mesh: the Cast where there is one, or the Scan", preset = "cast")
        What what)
    implements Step {

  /** What the asset is for. */
  public enum Destination {
    ENGINE(Format.GLB),
    RENDER(Format.OBJ),
    PRINT(Format.STL),
    ENGINEERING(Format.PLY),
    CAPTURE(Format.PLY);

    private final Format format;

    Destination(Format format) {
      this.format = format;
    }
  }

  /** File formats, by their endings. */
  public enum Format {
    GLB,
    OBJ,
    STL,
    PLY
  }

  /** Which coordinates are written. */
  public enum InFrame {
    WORKING,
    ORIGINAL
  }

  /** Which mesh is written. */
  public enum What {
    CAST,
    SCAN
  }

  public WriteAsset {
    // What any common file system refuses, so that the same Log runs everywhere.
    if (name.isBlank()
        || name.startsWith(".")
        || !name.matches("[^/\\\\:*?\"<>|\\p{Cntrl}]{1,200}")) {
      throw Failure.usage(
          "\""
              + name
              + "\" is not a file name; leave out directories and the signs / \\ : * ? \" < > |");
    }
  }

  /** The format that will be written. */
  public Format written() {
    return format != null ? format : for_.format;
  }

  /** The main file's name. */
  public String fileName() {
    return name + "." + written().name().toLowerCase(java.util.Locale.ROOT);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    if (run.out() == null) {
      throw Failure.cannot("There is no directory to write to; name one");
    }
    Mesh mesh = what == What.CAST ? in.current() : in.scan();
    Maps maps = mesh == in.cast() ? in.maps() : null;
    boolean original = frame == InFrame.ORIGINAL || frame == null && for_ == Destination.CAPTURE;
    Similarity placing = original ? in.frame().toFile() : in.frame().toWork();
    boolean millimetres = for_ == Destination.PRINT || for_ == Destination.ENGINEERING;
    if (!original && millimetres) {
      placing = placing.then(Similarity.scaling(1000));
    }
    if (written() == Format.GLB && original) {
      throw Failure.cannot(
          "GLB holds metres with Y up and cannot carry the original frame; choose ply or obj");
    }
    Path file = run.out().resolve(fileName());
    try (SafeFiles files = new SafeFiles()) {
      write(files, file, mesh, maps, placing, run.work());
      files.commit();
    }
    String note =
        String.format(
            "%s written: %,d triangles%s",
            file.getFileName(), mesh.triangleCount(), original ? ", in the original frame" : "");
    if (!in.frame().trueSize() && !original) {
      note += "; the true size is unknown, the file's own units were taken as metres";
    }
    return Outcome.of(in, note);
  }

  private void write(
      SafeFiles files, Path file, Mesh mesh, Maps maps, Similarity placing, Work work) {
    Raster colour = maps == null ? null : maps.pictures().get(MapKind.COLOUR);
    Raster normal = maps == null ? null : maps.pictures().get(MapKind.NORMAL);
    if (written() == Format.GLB) {
      GlbWriter.Surface surface = maps == null ? null : new GlbWriter.Surface(colour, normal);
      files.add(file, out -> GlbWriter.write(out, mesh, surface, placing, name, work));
      return;
    }
    Mesh out =
        colour == null
            ? mesh
            : mesh.withMaterials(null, List.of(new Material(name, 0xffffffff, colour)));
    MeshWriter.add(files, file, out, placing, work);
    if (written() == Format.OBJ && normal != null) {
      files.add(
          file.resolveSibling(name + "_normal.png"),
          stream -> Pictures.writePng(normal, stream, work));
    }
  }
}
