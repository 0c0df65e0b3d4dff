package holotome.core.touch;

import holotome.core.geometry.Similarity;
import holotome.core.map.MapKind;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;

/**
 * One change of the maps by hand: a stroke of a brush, or an area. Places are points of the surface
 * in the scan file's own coordinates, so that it means the same however the work is placed and
 * whatever numbers the Cast's triangles and texels have.
 *
 * @param line points, 3 doubles each: where a brush went, or the outline of an area
 * @param radius of the brush, or how wide the border is over which an area runs into what is around
 *     it, in the file's units
 * @param soft share of the radius over which it falls off
 * @param from 3 doubles, what is copied; null where nothing is
 * @param to 3 doubles; of a brush the place that {@code from} came to, by default where the line
 *     begins, of an area where that point of it goes; null for none
 * @param maps that are changed; null for all
 */
public record Touch(
    @Parameter(
            help =
                "What is done: copy, what is elsewhere comes here as it is; fit, the same in the tone of what is around; blend, a step along the line becomes a slope; fill, made anew from what is around; soften, differences are levelled; restore, as before the first of the list")
        How how,
    @Parameter(
            help =
                "Where the brush went or the outline of an area: points of the surface, x y z each, in the scan file's coordinates")
        double[] line,
    @Parameter(help = "Whether the line is the outline of an area", preset = "false") boolean area,
    @Parameter(
            help =
                "Of the brush, or how wide the rim of an area is, in the scan file's units of length",
            min = 0)
        double radius,
    @Parameter(
            help = "How much of the radius it falls off over",
            unit = "%",
            min = 0,
            max = 100,
            preset = "50")
        double soft,
    @Parameter(help = "How much it does", unit = "%", min = 0, max = 100, preset = "100")
        double strength,
    @Parameter(help = "copy and fit: a point of what is copied, x y z", optional = true)
        double[] from,
    @Parameter(
            help = "Where that point goes, x y z; for a brush where the line begins, if not said",
            optional = true)
        double[] to,
    @Parameter(
            help = "copy and fit: what is copied is turned by so much",
            unit = "°",
            min = -360,
            max = 360,
            preset = "0")
        double turn,
    @Parameter(help = "Which maps are changed; else all", optional = true) List<MapKind> maps) {

  /** What can be done. */
  public enum How {
    /** What is elsewhere comes here, as it is. */
    COPY,
    /** The same, fitted in tone to what is around it here. */
    FIT,
    /** A step along the line becomes a slope. */
    BLEND,
    /** Made anew from what is around it. */
    FILL,
    /** Differences are levelled. */
    SOFTEN,
    /** As it was before all touches of the list. */
    RESTORE;

    /** Whether it needs a place to copy from. */
    public boolean copies() {
      return this == COPY || this == FIT;
    }

    /** Whether what a brush does is known while it is drawn. */
    public boolean isLive() {
      return copies() || this == RESTORE;
    }
  }

  public Touch {
    boolean fits =
        how != null
            && line != null
            && line.length >= (area ? 9 : 3)
            && line.length % 3 == 0
            && radius > 0
            && isFinite(line)
            && isFinite(from)
            && isFinite(to)
            && (from == null || from.length == 3)
            && (to == null || to.length == 3)
            && how.copies() == (from != null)
            && (!area || !how.copies() || to != null)
            && !(area && how == How.BLEND)
            && (maps == null || !maps.isEmpty());
    if (!fits) {
      throw Failure.usage(
          CoreWords.of(
              "touch.does-not-fit", how == null ? "?" : how.name().toLowerCase(Locale.ROOT)));
    }
    maps = maps == null ? null : List.copyOf(maps);
  }

  private static boolean isFinite(double[] points) {
    return points == null || Arrays.stream(points).allMatch(Double::isFinite);
  }

  /** Points so many. */
  public int points() {
    return line.length / 3;
  }

  /** A point of the line. */
  public double[] point(int i) {
    return Arrays.copyOfRange(line, 3 * i, 3 * i + 3);
  }

  /** Whether a map is to be changed. */
  public boolean isOf(MapKind kind) {
    return maps == null || maps.contains(kind);
  }

  /** The same along another line. */
  public Touch along(double[] other) {
    return new Touch(how, other, area, radius, soft, strength, from, to, turn, maps);
  }

  /** The same in other coordinates. */
  public Touch moved(Similarity s) {
    return new Touch(
        how,
        moved(line, s),
        area,
        radius * s.scale(),
        soft,
        strength,
        moved(from, s),
        moved(to, s),
        turn,
        maps);
  }

  private static double[] moved(double[] points, Similarity s) {
    if (points == null) {
      return null;
    }
    double[] out = new double[points.length];
    for (int i = 0; i < points.length; i += 3) {
      System.arraycopy(s.apply(points[i], points[i + 1], points[i + 2]), 0, out, i, 3);
    }
    return out;
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Touch t
        && how == t.how
        && Arrays.equals(line, t.line)
        && area == t.area
        && radius == t.radius
        && soft == t.soft
        && strength == t.strength
        && Arrays.equals(from, t.from)
        && Arrays.equals(to, t.to)
        && turn == t.turn
        && Objects.equals(maps, t.maps);
  }

  @Override
  public int hashCode() {
    return Objects.hash(how, Arrays.hashCode(line), area, radius, soft, strength, turn, maps);
  }
}
