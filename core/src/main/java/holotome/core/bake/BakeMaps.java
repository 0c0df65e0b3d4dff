package holotome.core.bake;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.map.MapKind;
import holotome.core.map.MapSettings;
import holotome.core.map.Missed;
import holotome.core.map.MissedPatch;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.UvSquares;
import holotome.core.part.Maps;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Bakes the Scan's detail into pictures for the Cast. */
@Describes(
    id = "bake.maps",
    title = "Bake",
    help =
        "Takes colour and surface detail from the Scan into pictures for the Cast, by rays from the Cast.",
    reads = {"scan", "cast", "frame"},
    writes = {"maps"})
public record BakeMaps(
    @Parameter(help = "Which pictures", preset = "colour, normal") List<MapKind> maps,
    @Parameter(
            help = "Width and height of the pictures",
            unit = "px",
            min = 16,
            max = 16384,
            preset = "2048")
        int size,
    @Parameter(
            help = "Samples per pixel: 1, 4, 9, 16, 25, 36, 49 or 64",
            min = 1,
            max = 64,
            preset = "4")
        int samples,
    @Parameter(
            help =
                "How they are weighed: box, each pixel's own; soft, even and sharp take in those around it",
            preset = "box")
        Filter filter,
    @Parameter(
            help = "How far colours run on past the charts' borders",
            unit = "px",
            min = 0,
            max = 256,
            preset = "8")
        int padding,
    @Parameter(help = "Whether the rest of the pictures is filled too", preset = "true")
        boolean whole,
    @Parameter(
            help =
                "Along what rays run: smooth, normals that turn evenly over hard edges; shaded, those that the Cast is shown with; faces, those of its triangles; or one axis",
            preset = "smooth")
        Along along,
    @Parameter(
            help =
                "How far out of the Cast rays start, and behind it end; else as far as is needed",
            optional = true)
        Length cage,
    @Parameter(
            help =
                "What pixels get whose rays missed: nearest, what of the Scan is; around, what the pixels around them have",
            preset = "nearest")
        Fill missed,
    @Parameter(
            help =
                "How far occlusion, bent normals and thickness look; else a tenth of the Scan's size",
            optional = true,
            when = "maps=occlusion|bent-normal|thickness")
        Length sight,
    @Parameter(
            help = "Rays per pixel for occlusion, bent normals and thickness",
            min = 1,
            max = 4096,
            preset = "16",
            when = "maps=occlusion|bent-normal|thickness")
        int rays,
    @Parameter(
            help = "Bits of normals and shares: 8 or 16. Colours have 8, lengths are floats",
            min = 8,
            max = 16,
            preset = "8")
        int bits,
    @Parameter(
            help = "Which mask or weight of the Scan the map of a mask shows",
            optional = true,
            when = "maps=mask")
        String mask)
    implements Step {
  /** How far maps look where nothing is said, as a share of the Scan's diagonal. */
  static final double USUAL_SIGHT = 0.1;

  /** From here on one mesh is so much larger than the other that they are hardly of one place. */
  private static final double OTHER_SIZE = 5;

  /** What texels get whose rays missed. */
  public enum Fill {
    NEAREST,
    AROUND
  }

  public BakeMaps {
    int side = (int) Math.sqrt(samples);
    if (side * side != samples) {
      throw Failure.usage(CoreWords.of("bake-maps.samples-are-a-square"));
    }
    if (bits != 8 && bits != 16) {
      throw Failure.usage(CoreWords.of("bake-maps.bits"));
    }
    if (maps.isEmpty()) {
      throw Failure.usage(CoreWords.of("bake-maps.name-at-least-one-map"));
    }
    if (cage != null && cage.metres() <= 0 || sight != null && sight.metres() <= 0) {
      throw Failure.usage(CoreWords.of("bake-maps.above-0"));
    }
    if (maps.contains(MapKind.MASK) && mask == null) {
      throw Failure.usage(CoreWords.of("bake-maps.name-the-mask"));
    }
  }

  /** Maps of plain settings. */
  public BakeMaps(List<MapKind> maps, int size, int samples, int padding) {
    this(
        maps,
        size,
        samples,
        Filter.BOX,
        padding,
        true,
        Along.SMOOTH,
        null,
        Fill.NEAREST,
        null,
        16,
        8,
        null);
  }

  @Override
  public Set<Part<?>> reads() {
    Set<Part<?>> out = new HashSet<>(Step.super.reads());
    if (cage == null && sight == null && along.axis() == null) {
      out.remove(Part.FRAME);
    }
    return out;
  }

  @Override
  public long memory(Workpiece in) {
    long texel = 3;
    for (MapKind k : maps) {
      // Filling the rest takes a third more.
      texel += k.rule().channels() * k.rule().sample(bits == 16).bytes() * 4L / 3 + 1;
    }
    boolean isCut = in.cast() != null && in.cast().uv() != null;
    UvSquares squares = isCut ? UvSquares.of(in.cast().uv()) : null;
    long count = isCut ? (long) squares.columns() * squares.rows() : 1;
    return 110L * in.scan().triangleCount() + texel * size * size * count;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = in.cast();
    if (cast == null) {
      throw Failure.cannot(CoreWords.of("bake-maps.there-is-no-cast-to"));
    }
    if (cast.uv() == null) {
      throw Failure.cannot(CoreWords.of("bake-maps.the-cast-has-no-texture"));
    }
    Maps baked = Baking.run(in.scan(), cast, settings(in), run.work());
    return Outcome.of(in.withMaps(baked), notes(in, baked));
  }

  private Baking.Settings settings(Workpiece in) {
    double far =
        sight == null
            ? USUAL_SIGHT * in.scan().bounds().diagonal()
            : in.frame().toBaseLength(sight.metres());
    return new Baking.Settings(
        maps,
        size,
        (int) Math.sqrt(samples),
        padding,
        whole,
        missed == Fill.AROUND,
        filter,
        along,
        along.axis() == null ? null : inBase(in.frame(), along.axis()),
        cage == null ? null : in.frame().toBaseLength(cage.metres()),
        new MapSettings(far, rays, bits == 16, mask));
  }

  private static double[] inBase(Frame f, double[] axis) {
    return Vec.unit(Vec.sub(f.toBase(axis), f.toBase(new double[3])));
  }

  private List<String> notes(Workpiece in, Maps baked) {
    List<String> out = new ArrayList<>();
    out.add(
        CoreWords.of(
            "bake-maps.maps-of-px-of-texels",
            baked.pictures().size(),
            baked.missed().width(),
            baked.missed().height(),
            baked.missedCount(),
            baked.covered(),
            100 * baked.missedShare()));
    for (Missed m : Missed.values()) {
      int texels =
          baked.patches().stream().filter(p -> p.reason() == m).mapToInt(MissedPatch::texels).sum();
      if (texels > 0) {
        out.add(
            CoreWords.of(
                "bake-maps.missed." + m.name().toLowerCase(java.util.Locale.ROOT) + "-texels",
                texels));
      }
    }
    double ratio = in.scan().bounds().diagonal() / in.cast().bounds().diagonal();
    if (ratio > OTHER_SIZE || ratio < 1 / OTHER_SIZE) {
      out.add(CoreWords.of("bake-maps.other-size", ratio));
    }
    return out;
  }
}
