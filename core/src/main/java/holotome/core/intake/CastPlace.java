package holotome.core.intake;

import holotome.core.frame.AxisPreset;
import holotome.core.frame.Frame;
import holotome.core.frame.Mirrored;
import holotome.core.frame.NamedFrame;
import holotome.core.geometry.Similarity;
import holotome.core.io.FrameFile;
import holotome.core.io.Loaded;
import holotome.core.step.StepWords;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * A way to take the coordinates of a mesh that comes back from other programs.
 *
 * @param toBase from the read mesh's base coordinates, mirrored at x first where {@code mirrored},
 *     to those of the Scan
 * @param words what it takes the coordinates for, in plain words
 * @param isUsual whether it is a way that files are meant to come in, no mistake
 */
record CastPlace(Similarity toBase, boolean mirrored, String words, boolean isUsual) {
  static final String ORIGINAL = "original";
  static final String WORKING = "working";

  /** Units that files come in, in metres, and powers of ten that are typed wrong. */
  private static final double[] UNITS = {1, 0.001, 0.01, 0.1, 10, 100, 1000, 0.0254, 0.3048};

  private static final Similarity Y_UP = AxisPreset.METRES_Y_UP.fromWork();

  /** By the side file beside it; null where there is none. */
  static CastPlace bySideFile(Loaded cast, Frame scan) {
    NamedFrame original = FrameFile.original(cast.frame());
    return original == null
        ? null
        : new CastPlace(
            original.fromBase().then(scan.toFile().inverse()),
            false,
            CoreWords.of("cast-place.by-its-side-file"),
            true);
  }

  /**
   * As it is said to be.
   *
   * @param frame working, original or a kept frame's name
   * @param axes of the working frame; null for metres with Z up
   */
  static CastPlace said(Loaded cast, Frame scan, String frame, AxisPreset axes) {
    if (frame.equals(WORKING)) {
      return working(cast, scan, axes == null ? AxisPreset.METRES_Z_UP : axes);
    }
    if (axes != null) {
      throw Failure.usage(CoreWords.of("write-asset.a-kept-frame-has-axes"));
    }
    if (frame.equals(ORIGINAL)) {
      return original(cast, scan);
    }
    NamedFrame kept = scan.named(frame);
    if (kept == null) {
      throw Failure.cannot(
          CoreWords.of(
              "common.no-frame-is-kept-under",
              frame,
              Stream.concat(
                      Stream.of(WORKING, ORIGINAL), scan.named().stream().map(NamedFrame::name))
                  .collect(Collectors.joining(", "))));
    }
    return kept(cast, kept);
  }

  /** All ways, the likely ones first. */
  static List<CastPlace> all(Loaded cast, Frame scan) {
    List<CastPlace> out = new ArrayList<>();
    CastPlace side = bySideFile(cast, scan);
    if (side != null) {
      out.add(side);
    }
    out.add(original(cast, scan));
    for (AxisPreset a : AxisPreset.values()) {
      out.add(working(cast, scan, a));
    }
    scan.named().forEach(f -> out.add(kept(cast, f)));
    for (boolean mirrored : new boolean[] {false, true}) {
      for (double unit : UNITS) {
        for (boolean yUp : new boolean[] {false, true}) {
          out.add(mistaken(cast, scan, unit, yUp, mirrored, true));
          out.add(mistaken(cast, scan, unit, yUp, mirrored, false));
        }
      }
    }
    return out;
  }

  private static CastPlace original(Loaded cast, Frame scan) {
    boolean turned = scan.leftHandedFile();
    return new CastPlace(
        placing(cast, turned, 0).then(scan.toFile().inverse()),
        turned,
        CoreWords.of("cast-place.original"),
        true);
  }

  private static CastPlace kept(Loaded cast, NamedFrame f) {
    return new CastPlace(
        cast.frame().toFile().then(f.fromBase().inverse()),
        false,
        CoreWords.of("cast-place.kept", f.name()),
        true);
  }

  private static CastPlace working(Loaded cast, Frame scan, AxisPreset a) {
    return new CastPlace(
        placing(cast, a.isLeftHanded(), a.turnedAxis())
            .then(a.fromWork().inverse())
            .then(scan.toWork().inverse()),
        a.isLeftHanded(),
        CoreWords.of(
            "cast-place.working",
            StepWords.choice(a.name().toLowerCase(Locale.ROOT).replace('_', '-'))),
        true);
  }

  /** In another unit, with another axis up or mirrored, against the working or original frame. */
  private static CastPlace mistaken(
      Loaded cast, Frame scan, double unit, boolean yUp, boolean mirrored, boolean working) {
    Similarity s = placing(cast, mirrored, 0).then(Similarity.scaling(unit));
    s = yUp ? s.then(Y_UP.inverse()) : s;
    return new CastPlace(
        s.then(working ? scan.toWork().inverse() : scan.toFile().inverse()),
        mirrored,
        CoreWords.of(
            "cast-place.mistaken",
            CoreWords.of(working ? "cast-place.the-working-frame" : "cast-place.the-original"),
            unit,
            CoreWords.of(yUp ? "cast-place.y-up" : "cast-place.z-up"),
            CoreWords.of(mirrored ? "cast-place.mirrored" : "cast-place.not-mirrored")),
        false);
  }

  private static Similarity placing(Loaded cast, boolean mirrored, int axis) {
    Similarity file = cast.frame().toFile();
    return mirrored ? Mirrored.placing(file, axis) : file;
  }
}
