package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.part.Maps;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.List;
import java.util.Set;

/** Sets the tone of the colour map. */
@Describes(
    id = "bake.tone",
    title = "Tone",
    help =
        "Sets the tone of the colour map: light, contrast, what counts as grey, how full colours are, how sharp.",
    reads = {"scan", "cast", "maps", "frame"},
    writes = {"maps"})
public record SetTone(
    @Parameter(help = "More or less light; 1 doubles it", min = -6, max = 6, preset = "0")
        double exposure,
    @Parameter(
            help = "How far light and dark lie apart, around middle grey",
            unit = "%",
            min = 0,
            max = 400,
            preset = "100")
        double contrast,
    @Parameter(
            help = "A colour of the picture that is to be grey, red, green and blue from 0 to 255",
            optional = true)
        double[] grey,
    @Parameter(
            help = "How full colours are; 0 makes greys",
            unit = "%",
            min = 0,
            max = 400,
            preset = "100")
        double colour,
    @Parameter(
            help = "How much finer detail is brought out",
            unit = "%",
            min = 0,
            max = 400,
            preset = "0")
        double sharpen,
    @Parameter(
            help = "What is selected, one pick after the other; else all of the map",
            optional = true)
        List<Pick> picks,
    @Parameter(help = "How wide the border of what is selected is, inwards", preset = "0 mm")
        Length soft)
    implements Step {
  /** Light of middle grey: common practice, no source. */
  private static final double MIDDLE = 0.18;

  /** The shares of the colours in how light one looks (IEC 61966-2-1:1999). */
  private static final double[] LUMINANCE = {0.2126, 0.7152, 0.0722};

  /** Of all of the map. */
  public SetTone(double exposure, double contrast, double[] grey, double colour, double sharpen) {
    this(exposure, contrast, grey, colour, sharpen, null, new Length(0));
  }

  public SetTone {
    if (picks != null) {
      picks = List.copyOf(picks);
      if (picks.isEmpty()) {
        throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
      }
    }
    if (soft.metres() < 0) {
      throw Failure.usage(CoreWords.of("tone.soft"));
    }
    if (grey != null) {
      grey = grey.clone();
      boolean isColour = grey.length == 3;
      for (double g : grey) {
        isColour &= g > 0 && g <= 255;
      }
      if (!isColour) {
        throw Failure.usage(CoreWords.of("tone.grey"));
      }
    }
  }

  @Override
  public double[] grey() {
    return grey == null ? null : grey.clone();
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof SetTone t
        && exposure == t.exposure
        && contrast == t.contrast
        && java.util.Arrays.equals(grey, t.grey)
        && colour == t.colour
        && sharpen == t.sharpen
        && java.util.Objects.equals(picks, t.picks)
        && soft.equals(t.soft);
  }

  @Override
  public int hashCode() {
    return java.util.Objects.hash(
        exposure, contrast, java.util.Arrays.hashCode(grey), colour, sharpen, picks, soft);
  }

  @Override
  public long memory(Workpiece in) {
    long texels = in.maps() == null ? 0 : in.maps().missed().width();
    texels *= texels == 0 ? 0 : in.maps().missed().height();
    // A Cast divided finely takes some 100 bytes a triangle.
    return picks == null ? 6 * texels : 8 * texels + 300_000_000;
  }

  /** Meshes, and where they are, matter for a selection alone. */
  @Override
  public Set<Part<?>> reads() {
    if (picks == null) {
      return Set.of(Part.MAPS);
    }
    return SelectedTexels.isOfScan(picks)
        ? Set.of(Part.SCAN, Part.CAST, Part.MAPS, Part.FRAME)
        : Set.of(Part.CAST, Part.MAPS, Part.FRAME);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Maps maps = in.maps();
    Image picture = maps == null ? null : maps.pictures().get(MapKind.COLOUR);
    if (picture == null) {
      throw Failure.cannot(CoreWords.of("tone.no-colour"));
    }
    byte[] share = picks == null ? null : selected(in, run.work().part(0.4, words()));
    double rest = picks == null ? 0.5 : 0.2;
    Image sharp = sharpen == 0 ? picture : sharpened(picture, run.work().part(rest, words()));
    Image toned = toned(sharp, run.work().part(rest, words()));
    Image out =
        share == null ? toned : mixed(picture, toned, share, run.work().part(rest, words()));
    return Outcome.of(in.withMaps(maps.with(MapKind.COLOUR, out)), CoreWords.of("tone.done"));
  }

  private byte[] selected(Workpiece in, Work work) {
    if (in.cast() == null || in.cast().uv() == null) {
      throw Failure.cannot(CoreWords.of("tone.no-colour"));
    }
    double wide = in.frame().toBaseLength(soft.metres());
    return SelectedTexels.of(in, picks, wide, work);
  }

  /** As light, by shares of 255. */
  private static Image mixed(Image was, Image toned, byte[] share, Work work) {
    int width = was.width();
    return like(was)
        .filled(
            (x, y, out) -> {
              int s = share[y * width + x] & 255;
              if (s == 0 || s == 255) {
                (s == 0 ? was : toned).stored(x, y, out);
                return;
              }
              for (int c = 0; c < was.channels(); c++) {
                double light = was.light(x, y, c);
                light += s / 255.0 * (toned.light(x, y, c) - light);
                out[c] = was.storedOfLight(light, c);
              }
            },
            work);
  }

  private static String words() {
    return CoreWords.of("tone.setting");
  }

  /** Light times a factor a colour, then a power about middle grey, then away from its own grey. */
  private Image toned(Image picture, Work work) {
    double[] gain = new double[3];
    double level = 0;
    for (int c = 0; c < 3; c++) {
      gain[c] = grey == null ? 1 : holotome.core.image.LinearLight.of(grey[c] / 255);
      level += LUMINANCE[c] * gain[c];
    }
    for (int c = 0; c < 3; c++) {
      gain[c] = (grey == null ? 1 : level / gain[c]) * Math.pow(2, exposure);
    }
    double power = contrast / 100;
    double full = colour / 100;
    return like(picture)
        .filled(
            (x, y, out) -> {
              double own = 0;
              for (int c = 0; c < 3; c++) {
                double light = picture.light(x, y, c) * gain[c];
                out[c] = power == 1 ? light : MIDDLE * Math.pow(light / MIDDLE, power);
                own += LUMINANCE[c] * out[c];
              }
              for (int c = 0; c < 3; c++) {
                double light = full == 1 ? out[c] : own + full * (out[c] - own);
                out[c] = picture.storedOfLight(Math.max(0, light), c);
              }
            },
            work);
  }

  /** What a pixel differs by from the mean of those around it, added. */
  private Image sharpened(Image picture, Work work) {
    double more = sharpen / 100;
    return like(picture)
        .filled(
            (x, y, out) -> {
              for (int c = 0; c < 3; c++) {
                double around = 0;
                double weights = 0;
                for (int dy = -1; dy <= 1; dy++) {
                  for (int dx = -1; dx <= 1; dx++) {
                    int u = Math.clamp(x + dx, 0, picture.width() - 1);
                    int v = Math.clamp(y + dy, 0, picture.height() - 1);
                    double w = (2 - Math.abs(dx)) * (2 - Math.abs(dy));
                    around += w * picture.light(u, v, c);
                    weights += w;
                  }
                }
                double own = picture.light(x, y, c);
                out[c] =
                    picture.storedOfLight(Math.max(0, own + more * (own - around / weights)), c);
              }
            },
            work);
  }

  private static Image like(Image p) {
    return Image.blank(p.width(), p.height(), p.channels(), p.sample(), p.space());
  }
}
