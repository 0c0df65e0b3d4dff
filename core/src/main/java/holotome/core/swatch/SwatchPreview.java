package holotome.core.swatch;

import holotome.core.geometry.Vec;
import holotome.core.image.Image;
import holotome.core.map.MapRule.Values;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * What a laid Swatch would look like as a tile: colour and form of the Scan under it in few pixels,
 * cut over as {@link TileSwatch} does, in a light from the upper left. O(pixels x log triangles).
 *
 * @param side pixels to each side
 * @param argb row by row from the upper side
 * @param aspect how wide the tile is to its height
 */
public record SwatchPreview(int side, int[] argb, double aspect) {
  private static final double[] LIGHT = {-0.45, 0.45, 0.77};
  private static final double SOFT = 2;

  /**
   * Looks at what lies under a Swatch.
   *
   * @param laid the work in which it was laid last
   * @param side pixels to each side of the tile
   * @return null where the Cast is no laid Swatch
   */
  public static SwatchPreview of(Workpiece laid, int side, Work work) {
    Rectangle r = laid.cast() == null ? null : Rectangle.of(laid.cast());
    if (r == null) {
      return null;
    }
    double share = LaidRectangle.apron(laid.cast());
    int over = share > 0 ? Math.max(2, (int) Math.round(share * side)) : 0;
    int size = side + over;
    Bvh index = Bvh.of(laid.scan(), work.part(0.5, CoreWords.of("work.indexing-the-surface")));
    double within = Math.max(r.width(), r.height());
    GroundPicture ground =
        GroundPicture.of(
            laid.scan(),
            index,
            r,
            size,
            size,
            within,
            work.part(0.4, CoreWords.of("lay-swatch.looking")));
    Image colour = colour(ground);
    Image height = height(ground);
    if (over > 0) {
      TileCut cut = new TileCut(size, side, true, SOFT);
      TilePicture colours = new TilePicture(colour, Values.COLOUR, side);
      TilePicture heights = new TilePicture(height, Values.LENGTH, side);
      cut.add(colours, 1);
      cut.add(heights, range(ground));
      cut.make(work.part(0.1, CoreWords.of("tile.cutting")));
      colour = colours.made(Work.unwatched());
      height = heights.made(Work.unwatched());
    }
    double cell = r.width() / size;
    double cellUp = r.height() / size;
    int[] out = new int[side * side];
    for (int y = 0; y < side; y++) {
      for (int x = 0; x < side; x++) {
        out[y * side + x] = lit(colour.argb(x, y), lean(height, x, y, cell, cellUp));
      }
    }
    return new SwatchPreview(side, out, r.width() / r.height());
  }

  private static Image colour(GroundPicture g) {
    return Image.blank(g.columns(), g.rows(), 3, Image.Sample.BYTE, Image.Space.SRGB)
        .filled(
            (x, y, v) -> {
              int at = (g.rows() - 1 - y) * g.columns() + x;
              int c = g.isSeen(at) ? g.colours()[at] : 0xff808080;
              v[0] = c >> 16 & 255;
              v[1] = c >> 8 & 255;
              v[2] = c & 255;
            },
            Work.unwatched());
  }

  private static Image height(GroundPicture g) {
    return Image.blank(g.columns(), g.rows(), 1, Image.Sample.FLOAT, Image.Space.LINEAR)
        .filled(
            (x, y, v) -> {
              int at = (g.rows() - 1 - y) * g.columns() + x;
              v[0] = g.isSeen(at) ? g.heights()[at] : 0;
            },
            Work.unwatched());
  }

  private static double range(GroundPicture g) {
    float low = Float.POSITIVE_INFINITY;
    float high = Float.NEGATIVE_INFINITY;
    for (float h : g.heights()) {
      low = h < low ? h : low;
      high = h > high ? h : high;
    }
    return high > low ? high - low : 0;
  }

  /** The normal by the neighbours, those over the sides too. */
  private static double[] lean(Image height, int x, int y, double cell, double cellUp) {
    int w = height.width();
    int h = height.height();
    double right = height.stored((x + 1) % w, y, 0) - height.stored((x + w - 1) % w, y, 0);
    double up = height.stored(x, (y + h - 1) % h, 0) - height.stored(x, (y + 1) % h, 0);
    return Vec.unit(new double[] {-right / (2 * cell), -up / (2 * cellUp), 1});
  }

  private static int lit(int argb, double[] n) {
    double light = Math.max(0, Vec.dot(n, LIGHT)) / LIGHT[2];
    double by = Math.clamp(light, 0.35, 1.35);
    int out = 0xff;
    for (int shift = 16; shift >= 0; shift -= 8) {
      out = out << 8 | (int) Math.min(255, by * (argb >> shift & 255));
    }
    return out;
  }
}
