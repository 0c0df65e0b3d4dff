package holotome.core.ship;

import holotome.core.attribute.Attribute;
import holotome.core.frame.AxisPreset;
import holotome.core.frame.Frame;
import holotome.core.frame.Mirrored;
import holotome.core.frame.NamedFrame;
import holotome.core.geometry.Similarity;
import holotome.core.image.Image;
import holotome.core.image.Raster;
import holotome.core.io.FrameFile;
import holotome.core.io.GlbWriter;
import holotome.core.io.ImageFile;
import holotome.core.io.MeshWriter;
import holotome.core.io.SafeFiles;
import holotome.core.map.MapKind;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.TextureRectangle;
import holotome.core.part.Maps;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** Writes the finished asset. */
@Describes(
    id = "ship.write",
    title = "Write",
    help =
        "Writes the Cast with its pictures (or the Scan, where there is no Cast) for where it goes next.",
    reads = {"scan", "cast", "maps", "frame"},
    writes = {})
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
                "Another frame than the destination's own: working, original, or one kept under a name",
            optional = true)
        String frame,
    @Parameter(
            help = "Another unit, up axis and handedness than the destination's own",
            optional = true)
        AxisPreset axes,
    @Parameter(
            help =
                "Which mesh: the Cast where there is one, the Scan, the stand-in or one of the levels",
            preset = "cast")
        What what,
    @Parameter(help = "Which level", preset = "1", min = 1, max = 8, when = "what=level") int level,
    @Parameter(
            help =
                "Whether a file beside it carries the frames, for other tools and for reading it back",
            preset = "false")
        boolean frameFile,
    @Parameter(
            help =
                "How maps of lengths, bends and places are written: exr, floats as they are; png or tiff, 16 bits over the range that a note beside them gives",
            preset = "exr")
        Measured measured,
    @Parameter(
            help = "Where green of tangent-space normals points in the picture; in GLB always up",
            preset = "up")
        Green green,
    @Parameter(
            help =
                "Pictures have at most so many pixels to a side, halved from those that were baked",
            unit = "px",
            min = 16,
            max = 16384,
            optional = true)
        Integer pixels,
    @Parameter(
            help =
                "Pictures of several squares of the texture: each, one for every square that has charts, its number (1001 …) in the file's name; one, over all of them",
            preset = "each")
        Squares squares,
    @Parameter(
            help =
                "How often a tile is put beside itself each way: it is written so many times as large, with texture coordinates that go on",
            preset = "1",
            min = 1,
            max = 1000)
        int repeat)
    implements Step {
  private static final String ORIGINAL = "original";
  private static final String WORKING = "working";

  /** What the asset is for. */
  public enum Destination {
    ENGINE(Format.GLB, AxisPreset.METRES_Z_UP),
    RENDER(Format.OBJ, AxisPreset.METRES_Z_UP),
    PRINT(Format.STL, AxisPreset.MILLIMETRES_Z_UP),
    ENGINEERING(Format.PLY, AxisPreset.MILLIMETRES_Z_UP),
    CAPTURE(Format.PLY, AxisPreset.METRES_Z_UP);

    private final Format format;

    /** GLB turns the up axis itself. */
    private final AxisPreset axes;

    Destination(Format format, AxisPreset axes) {
      this.format = format;
      this.axes = axes;
    }
  }

  /** File formats, by their endings. */
  public enum Format {
    GLB,
    OBJ,
    STL,
    PLY
  }

  /** Which mesh is written. */
  public enum What {
    CAST,
    SCAN,
    STAND_IN,
    LEVEL
  }

  /** How maps of lengths, bends and places are written. */
  public enum Measured {
    /** OpenEXR, floats, as they are. */
    EXR(ImageFile.Format.EXR_FLOAT),
    /** 16 bits over their range. */
    PNG(ImageFile.Format.PNG_16),
    /** The same, as TIFF. */
    TIFF(ImageFile.Format.TIFF_16);

    private final ImageFile.Format format;

    Measured(ImageFile.Format format) {
      this.format = format;
    }

    ImageFile.Format format() {
      return format;
    }
  }

  /** How pictures of several squares of the texture are written. */
  public enum Squares {
    EACH,
    ONE
  }

  /** Which way a normal map's green points. */
  public enum Green {
    UP,
    DOWN
  }

  public WriteAsset(Destination for_, String name, Format format, String frame, What what) {
    this(for_, name, format, frame, null, what, 1, false);
  }

  public WriteAsset(
      Destination for_,
      String name,
      Format format,
      String frame,
      AxisPreset axes,
      What what,
      int level,
      boolean frameFile) {
    this(
        for_,
        name,
        format,
        frame,
        axes,
        what,
        level,
        frameFile,
        Measured.EXR,
        Green.UP,
        null,
        Squares.EACH,
        1);
  }

  public WriteAsset(
      Destination for_,
      String name,
      Format format,
      String frame,
      AxisPreset axes,
      What what,
      boolean frameFile) {
    this(for_, name, format, frame, axes, what, 1, frameFile);
  }

  public WriteAsset {
    // What any common file system refuses, so that the same Log runs everywhere.
    if (name.isBlank()
        || name.startsWith(".")
        || !name.matches("[^/\\\\:*?\"<>|\\p{Cntrl}]{1,200}")) {
      throw Failure.usage(CoreWords.of("write-asset.is-not-a-file-name", name));
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

  /** The part that is written beside the Scan and the Cast. */
  private Part<Mesh> beside() {
    return Part.mesh(what == What.STAND_IN ? "stand-in" : "level-" + level);
  }

  @Override
  public Set<Part<?>> reads() {
    Set<Part<?>> out = new HashSet<>(Step.super.reads());
    if (what == What.STAND_IN || what == What.LEVEL) {
      out.add(beside());
    }
    return out;
  }

  @Override
  public boolean writesFiles() {
    return true;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    if (run.out() == null) {
      throw Failure.cannot(CoreWords.of("write-asset.there-is-no-directory-to"));
    }
    Mesh mesh =
        switch (what) {
          case CAST -> in.current();
          case SCAN -> in.scan();
          case STAND_IN, LEVEL -> in.require(beside());
        };
    // Levels of a Cast with charts lie in the texture square where it does: its maps are theirs.
    boolean isMapped = mesh == in.cast() || what == What.LEVEL && mesh.uv() != null;
    Maps maps = isMapped ? in.maps() : null;
    if (maps != null && pixels != null) {
      maps = maps.upTo(pixels, run.work());
    }
    if (repeat > 1 && TextureRectangle.of(mesh) == null) {
      throw Failure.cannot(CoreWords.of("write-asset.no-tile"));
    }
    Target target = target(in.frame());
    if (written() == Format.GLB && (target.frame != null || axes != null)) {
      throw Failure.cannot(CoreWords.of("write-asset.glb-holds-metres-with-y"));
    }
    Path file = run.out().resolve(fileName());
    try (SafeFiles files = new SafeFiles()) {
      Similarity placing = target.placing;
      Mesh out = mesh;
      if (target.mirrored >= 0) {
        Mirrored m = Mirrored.of(mesh, placing, target.mirrored);
        out = m.mesh();
        placing = m.placing();
      }
      write(files, file, out, maps, placing, in.frame(), run.work());
      // One that is there already would tell of the mesh that is replaced.
      if (frameFile || Files.exists(FrameFile.beside(file))) {
        boolean turned = written() == Format.GLB;
        FrameFile.add(
            files,
            file,
            in.frame(),
            turned ? placing.then(AxisPreset.METRES_Y_UP.fromWork()) : target.placing,
            target.mirrored);
      }
      files.commit();
    }
    String note =
        target.frame == null
            ? CoreWords.of(
                "write-asset.written-triangles", file.getFileName(), mesh.triangleCount())
            : CoreWords.of(
                "write-asset.written-triangles-in-the-frame",
                file.getFileName(),
                mesh.triangleCount(),
                target.frame);
    if (!in.frame().trueSize() && target.frame == null) {
      note += "; " + CoreWords.of("write-asset.the-true-size-is-unknown");
    }
    return Outcome.of(in, note);
  }

  /**
   * Where the written coordinates stand.
   *
   * @param frame the kept frame's name; null for the working one
   * @param mirrored the axis that changes its sign at last; -1 for none
   */
  private record Target(Similarity placing, String frame, int mirrored) {}

  private Target target(Frame f) {
    String name = frame != null ? frame : for_ == Destination.CAPTURE ? ORIGINAL : WORKING;
    if (name.equals(WORKING)) {
      AxisPreset a = axes != null ? axes : for_.axes;
      return new Target(
          f.toWork().then(a.fromWork()), null, a.isLeftHanded() ? a.turnedAxis() : -1);
    }
    if (axes != null) {
      throw Failure.usage(CoreWords.of("write-asset.a-kept-frame-has-axes"));
    }
    if (name.equals(ORIGINAL)) {
      return new Target(f.toFile(), ORIGINAL, f.leftHandedFile() ? 0 : -1);
    }
    NamedFrame kept = f.named(name);
    if (kept == null) {
      throw Failure.cannot(
          CoreWords.of(
              "common.no-frame-is-kept-under",
              name,
              Stream.concat(Stream.of(WORKING, ORIGINAL), f.named().stream().map(NamedFrame::name))
                  .collect(Collectors.joining(", "))));
    }
    return new Target(kept.fromBase(), name, -1);
  }

  private static Raster picture(Maps maps, MapKind kind) {
    Image i = maps.pictures().get(kind);
    return i == null ? null : i.raster();
  }

  private void write(
      SafeFiles files, Path file, Mesh given, Maps maps, Similarity placing, Frame f, Work work) {
    boolean isGlb = written() == Format.GLB;
    boolean isPictured = isGlb || written() == Format.OBJ;
    Work rest = work.part(0.3, CoreWords.of("work.writing-the-picture"));
    if (maps == null || !isPictured) {
      Mesh mesh = beside(given);
      if (isGlb) {
        files.add(file, out -> GlbWriter.write(out, mesh, null, placing, name, work));
      } else {
        MeshWriter.add(files, file, mesh, placing, work);
      }
      return;
    }
    SquarePictures pictures = SquarePictures.of(given, maps, squares == Squares.EACH);
    if (isGlb) {
      Mesh mesh =
          beside(pictures.sets().size() == 1 ? pictures.inFirst() : inParts(pictures, false));
      List<GlbWriter.Surface> surfaces = new ArrayList<>();
      for (SquarePictures.Set s : pictures.sets()) {
        surfaces.add(
            new GlbWriter.Surface(
                picture(s.maps(), MapKind.COLOUR),
                picture(s.maps(), MapKind.NORMAL),
                picture(s.maps(), MapKind.OCCLUSION)));
      }
      files.add(file, out -> GlbWriter.write(out, mesh, surfaces, placing, name, work));
    } else {
      boolean isColoured = maps.pictures().containsKey(MapKind.COLOUR);
      Mesh out = beside(isColoured ? inParts(pictures, true) : pictures.mesh());
      List<String> endings =
          isColoured
              ? pictures.sets().stream().map(SquarePictures.Set::ending).toList()
              : List.of();
      // Who cuts faces into triangles along other diagonals sees baked normals askew.
      boolean hasNormals = maps.pictures().containsKey(MapKind.NORMAL);
      MeshWriter.add(
          files,
          file,
          hasNormals ? out.with(out.attributes().without(Attribute.FACE), out.materials()) : out,
          placing,
          endings,
          work);
    }
    // What the file itself holds, or names, is not written twice.
    Set<MapKind> within =
        isGlb ? Set.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.OCCLUSION) : Set.of(MapKind.COLOUR);
    Similarity place = isGlb ? placing.then(AxisPreset.METRES_Y_UP.fromWork()) : placing;
    double millimetres = 1000 * f.toWork().scale();
    new MapFiles(maps, measured, !isGlb && green == Green.DOWN, place, millimetres)
        .add(
            files,
            pictures.sets(),
            file,
            name,
            within,
            f.trueSize(),
            TextureRectangle.of(given),
            rest);
  }

  /** A tile beside itself as often as is asked for; else the mesh as it is. */
  private Mesh beside(Mesh mesh) {
    return repeat > 1 ? TextureRectangle.repeated(mesh, repeat) : mesh;
  }

  /**
   * The mesh with a material for each set of pictures.
   *
   * @param isColoured whether materials have the colour pictures, and charts stay in their squares
   */
  private Mesh inParts(SquarePictures pictures, boolean isColoured) {
    List<Material> materials = new ArrayList<>();
    for (SquarePictures.Set s : pictures.sets()) {
      Raster colour = isColoured ? picture(s.maps(), MapKind.COLOUR) : null;
      materials.add(new Material(name + s.ending(), 0xffffffff, colour));
    }
    Mesh mesh = isColoured ? pictures.mesh() : pictures.inFirst();
    return mesh.withMaterials(
        pictures.sets().size() == 1 ? null : pictures.ofTriangle(), materials);
  }
}
