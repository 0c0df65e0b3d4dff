package holotome.core.image;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A picture of one to four channels, 8 or 16 bits or a float each, in square tiles that copies
 * share: a change of a few pixels ({@link #edit}) costs the tiles they lie in, whatever the size of
 * the picture. Immutable; row 0 is at the top, alpha (the second of two channels, the fourth of
 * four) is not multiplied in.
 *
 * <p>Memory: width x height x channels x bytes per sample, rounded up to whole tiles; tiles that
 * are all zero are shared.
 */
public final class Image {

  /** Tiles are so many pixels wide and high. */
  public static final int TILE = 128;

  private static final int SHIFT = 7;
  private static final int WITHIN = TILE - 1;

  /** How a value is stored. */
  public enum Sample {
    /** 0 to 255 for 0 to 1. */
    BYTE(1, 255),
    /** 0 to 65,535 for 0 to 1. */
    SHORT(2, 65535),
    /** Any value, as it is. */
    FLOAT(4, 1);

    private final int bytes;
    private final int one;

    Sample(int bytes, int one) {
      this.bytes = bytes;
      this.one = one;
    }

    public int bytes() {
      return bytes;
    }

    /** What is stored for 1. */
    public int one() {
      return one;
    }
  }

  /** What the colour channels stand for; alpha stands for itself. */
  public enum Space {
    /** Light through the curve of IEC 61966-2-1:1999. */
    SRGB,
    /** Light, or whatever else is measured, as it is. */
    LINEAR
  }

  /** What lies beyond the rim. */
  public enum Wrap {
    CLAMP,
    REPEAT,
    MIRROR
  }

  private final int width;
  private final int height;
  private final int channels;
  private final Sample sample;
  private final Space space;
  private final int across;

  /** byte[], short[] or float[], pixel by pixel; rows of tiles from the top. */
  private final Object[] tiles;

  private Image(int width, int height, int channels, Sample sample, Space space, Object[] tiles) {
    this.width = width;
    this.height = height;
    this.channels = channels;
    this.sample = sample;
    this.space = space;
    this.across = tilesIn(width);
    this.tiles = tiles;
  }

  private static int tilesIn(int pixels) {
    return (pixels + TILE - 1) >> SHIFT;
  }

  /**
   * A picture of zeros.
   *
   * @throws IllegalArgumentException for a size below 1 or other than one to four channels
   */
  public static Image blank(int width, int height, int channels, Sample sample, Space space) {
    if (width < 1 || height < 1 || channels < 1 || channels > 4) {
      throw new IllegalArgumentException("image of " + width + " x " + height + " x " + channels);
    }
    Object[] tiles = new Object[Math.multiplyExact(tilesIn(width), tilesIn(height))];
    Arrays.fill(tiles, zeros(channels, sample));
    return new Image(width, height, channels, sample, space, tiles);
  }

  private static Object zeros(int channels, Sample sample) {
    int n = TILE * TILE * channels;
    return switch (sample) {
      case BYTE -> new byte[n];
      case SHORT -> new short[n];
      case FLOAT -> new float[n];
    };
  }

  /** An 8-bit picture as tiles: four channels, or three where all of it is opaque. */
  public static Image of(Raster r) {
    boolean opaque = Arrays.stream(r.pixels()).allMatch(p -> p >>> 24 == 255);
    int n = opaque ? 3 : 4;
    return blank(r.width(), r.height(), n, Sample.BYTE, Space.SRGB)
        .filled(
            (x, y, out) -> {
              int p = r.pixels()[y * r.width() + x];
              out[0] = p >> 16 & 255;
              out[1] = p >> 8 & 255;
              out[2] = p & 255;
              if (n == 4) {
                out[3] = p >>> 24;
              }
            },
            Work.unwatched());
  }

  /** What a pixel is to hold. */
  @FunctionalInterface
  public interface Filler {
    /** Sets the stored values of a pixel. Called by several threads. */
    void fill(int x, int y, double[] stored);
  }

  /** A picture of this size and kind, every pixel filled, tile by tile on all cores. */
  public Image filled(Filler filler, Work work) {
    Object[] out = new Object[tiles.length];
    Image made = new Image(width, height, channels, sample, space, out);
    Parallel.range(
        out.length,
        1,
        work,
        (from, to) -> {
          double[] v = new double[4];
          for (int t = from; t < to; t++) {
            work.check();
            out[t] = zeros(channels, sample);
            int x1 = Math.min(width, (t % across + 1) << SHIFT);
            int y1 = Math.min(height, (t / across + 1) << SHIFT);
            for (int y = t / across << SHIFT; y < y1; y++) {
              for (int x = t % across << SHIFT; x < x1; x++) {
                filler.fill(x, y, v);
                made.put(x, y, v);
              }
            }
          }
        });
    return made;
  }

  public int width() {
    return width;
  }

  public int height() {
    return height;
  }

  public int channels() {
    return channels;
  }

  public Sample sample() {
    return sample;
  }

  public Space space() {
    return space;
  }

  public boolean hasAlpha() {
    return channels == 2 || channels == 4;
  }

  /** What its samples take, without what is shared. */
  public long bytes() {
    return (long) tiles.length * TILE * TILE * channels * sample.bytes;
  }

  private int at(int x, int y) {
    return (((y & WITHIN) << SHIFT) + (x & WITHIN)) * channels;
  }

  private int tile(int x, int y) {
    return (y >> SHIFT) * across + (x >> SHIFT);
  }

  /** A channel of a pixel as stored; see {@link Sample}. */
  public double stored(int x, int y, int channel) {
    int i = at(x, y) + channel;
    return switch (tiles[tile(x, y)]) {
      case byte[] b -> b[i] & 255;
      case short[] s -> s[i] & 65535;
      case Object f -> ((float[]) f)[i];
    };
  }

  /** All channels of a pixel as stored. */
  public void stored(int x, int y, double[] out) {
    for (int c = 0; c < channels; c++) {
      out[c] = stored(x, y, c);
    }
  }

  /** A channel of a pixel, 1 for full. */
  public double value(int x, int y, int channel) {
    return stored(x, y, channel) / sample.one;
  }

  private boolean isAlpha(int channel) {
    return hasAlpha() && channel == channels - 1;
  }

  /** A channel of a pixel as light, 1 for full. */
  public double light(int x, int y, int channel) {
    if (space == Space.LINEAR || isAlpha(channel)) {
      return value(x, y, channel);
    }
    return tiles[tile(x, y)] instanceof byte[] b
        ? LinearLight.ofByte(b[at(x, y) + channel] & 255)
        : LinearLight.of(value(x, y, channel));
  }

  /** Light as a stored value, not yet rounded. */
  public double storedOfLight(double light, int channel) {
    boolean coded = space == Space.SRGB && !isAlpha(channel);
    return (coded ? LinearLight.stored(light) : light) * sample.one;
  }

  /** Stores a pixel's values, rounded and held within what can be stored. */
  private void put(int x, int y, double[] v) {
    int i = at(x, y);
    switch (tiles[tile(x, y)]) {
      case byte[] b -> {
        for (int c = 0; c < channels; c++) {
          b[i + c] = (byte) (int) (Math.clamp(v[c], 0.0, 255.0) + 0.5);
        }
      }
      case short[] s -> {
        for (int c = 0; c < channels; c++) {
          s[i + c] = (short) (int) (Math.clamp(v[c], 0.0, 65535.0) + 0.5);
        }
      }
      case Object f -> {
        for (int c = 0; c < channels; c++) {
          ((float[]) f)[i + c] = (float) v[c];
        }
      }
    }
  }

  /** A pixel as 0xAARRGGBB to be shown; what is not colour as grey. */
  public int argb(int x, int y) {
    int i = at(x, y);
    if (channels >= 3 && tiles[tile(x, y)] instanceof byte[] b) {
      int alpha = channels == 4 ? b[i + 3] & 255 : 255;
      return alpha << 24 | (b[i] & 255) << 16 | (b[i + 1] & 255) << 8 | b[i + 2] & 255;
    }
    double[] v = new double[4];
    for (int c = 0; c < channels; c++) {
      v[c] = 255 * Math.clamp(value(x, y, c), 0.0, 1.0);
    }
    int rgb = channels < 3 ? Colours.argb(v[0], v[0], v[0]) : Colours.argb(v[0], v[1], v[2]);
    return hasAlpha() ? rgb & 0xffffff | (int) (v[channels - 1] + 0.5) << 24 : rgb;
  }

  /**
   * The shown colour at (u, v), bilinear between pixel centres, clamped at the rim; v = 0 is the
   * bottom row, as in OBJ. Mixed as stored: for pictures on the screen.
   */
  public int shown(float u, float v) {
    float x = u * width - 0.5f;
    float y = (1 - v) * height - 0.5f;
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    int xa = Math.clamp(x0, 0, width - 1);
    int xb = Math.clamp(x0 + 1, 0, width - 1);
    int ya = Math.clamp(y0, 0, height - 1);
    int yb = Math.clamp(y0 + 1, 0, height - 1);
    return Colours.mix(
        Colours.mix(argb(xa, ya), argb(xb, ya), x - x0),
        Colours.mix(argb(xa, yb), argb(xb, yb), x - x0),
        y - y0);
  }

  /**
   * The same of measures: grey from black at the low end to white at the high one, or colours so.
   */
  public int shown(float u, float v, float low, float high) {
    int x = Math.clamp((int) Math.floor(u * width), 0, width - 1);
    int y = Math.clamp((int) Math.floor((1 - v) * height), 0, height - 1);
    double[] c = new double[3];
    for (int k = 0; k < 3; k++) {
      double share = (stored(x, y, Math.min(k, channels - 1)) - low) / Math.max(1e-30, high - low);
      c[k] = 255 * Math.clamp(share, 0.0, 1.0);
    }
    return Colours.argb(c[0], c[1], c[2]);
  }

  /**
   * All channels as light at (u, v), bilinear between pixel centres, colours weighted by alpha; v =
   * 0 is the bottom row.
   */
  public void light(double u, double v, Wrap wrap, double[] out) {
    double x = u * width - 0.5;
    double y = (1 - v) * height - 0.5;
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    Arrays.fill(out, 0, channels, 0);
    double solid = 0;
    for (int k = 0; k < 4; k++) {
      int px = within(x0 + (k & 1), width, wrap);
      int py = within(y0 + (k >> 1), height, wrap);
      double share = ((k & 1) == 0 ? 1 - (x - x0) : x - x0) * (k >> 1 == 0 ? 1 - (y - y0) : y - y0);
      double alpha = hasAlpha() ? value(px, py, channels - 1) : 1;
      solid += share * alpha;
      for (int c = 0; c < channels; c++) {
        out[c] += share * (isAlpha(c) ? alpha : alpha * light(px, py, c));
      }
    }
    for (int c = 0; c < channels; c++) {
      out[c] = isAlpha(c) ? out[c] : solid > 0 ? out[c] / solid : 0;
    }
  }

  private static int within(int i, int n, Wrap wrap) {
    return switch (wrap) {
      case CLAMP -> Math.clamp(i, 0, n - 1);
      case REPEAT -> Math.floorMod(i, n);
      case MIRROR -> {
        int m = Math.floorMod(i, 2 * n);
        yield m < n ? m : 2 * n - 1 - m;
      }
    };
  }

  /**
   * The picture at half the size, rounded up: each pixel the mean of the light of those it covers,
   * by area, colours weighted by alpha. Odd sizes lose and shift nothing.
   */
  public Image half(Work work) {
    int w = (width + 1) / 2;
    int h = (height + 1) / 2;
    return blank(w, h, channels, sample, space)
        .filled(
            (x, y, out) ->
                mean(
                    (double) x * width / w,
                    (double) y * height / h,
                    (double) (x + 1) * width / w,
                    (double) (y + 1) * height / h,
                    out),
            work);
  }

  /** The mean over a rectangle, as stored. */
  private void mean(double x0, double y0, double x1, double y1, double[] out) {
    Arrays.fill(out, 0);
    double solid = 0;
    double area = 0;
    for (int y = (int) y0; y < Math.min(height, Math.ceil(y1 - 1e-9)); y++) {
      double dy = Math.min(y1, y + 1) - Math.max(y0, y);
      for (int x = (int) x0; x < Math.min(width, Math.ceil(x1 - 1e-9)); x++) {
        double share = dy * (Math.min(x1, x + 1) - Math.max(x0, x));
        double alpha = hasAlpha() ? value(x, y, channels - 1) : 1;
        area += share;
        solid += share * alpha;
        for (int c = 0; c < channels; c++) {
          out[c] += share * (isAlpha(c) ? alpha : alpha * light(x, y, c));
        }
      }
    }
    for (int c = 0; c < channels; c++) {
      double mean = isAlpha(c) ? out[c] / area : solid > 0 ? out[c] / solid : 0;
      out[c] = storedOfLight(mean, c);
    }
  }

  /** This picture, its half, and so on down to one pixel. */
  public List<Image> levels(Work work) {
    List<Image> out = new ArrayList<>(List.of(this));
    int steps = 32 - Integer.numberOfLeadingZeros(Math.max(width, height) - 1);
    while (out.getLast().width > 1 || out.getLast().height > 1) {
      out.add(
          out.getLast().half(work.part(1.0 / steps, CoreWords.of("work.making-reduced-levels"))));
    }
    return out;
  }

  /** The same picture stored otherwise; light is kept, as far as the new samples hold it. */
  public Image as(Sample otherSample, Space otherSpace, Work work) {
    if (otherSample == sample && otherSpace == space) {
      return this;
    }
    Image to = blank(width, height, channels, otherSample, otherSpace);
    return to.filled(
        (x, y, out) -> {
          for (int c = 0; c < channels; c++) {
            out[c] =
                otherSpace == space
                    ? value(x, y, c) * otherSample.one
                    : to.storedOfLight(light(x, y, c), c);
          }
        },
        work);
  }

  /** A part of it; whole tiles are shared where it begins at a corner of one. */
  public Image cut(int left, int top, int wide, int high) {
    if (left < 0 || top < 0 || left + wide > width || top + high > height) {
      throw new IllegalArgumentException("cut beyond the picture");
    }
    Image out = blank(wide, high, channels, sample, space);
    if (left % TILE != 0 || top % TILE != 0) {
      return out.filled((x, y, v) -> stored(left + x, top + y, v), Work.unwatched());
    }
    for (int t = 0; t < out.tiles.length; t++) {
      int row = (top >> SHIFT) + t / out.across;
      out.tiles[t] = tiles[row * across + (left >> SHIFT) + t % out.across];
    }
    return out;
  }

  /** As a picture of packed 8-bit colours, to be shown. */
  public Raster raster() {
    int[] pixels = new int[Math.multiplyExact(width, height)];
    Parallel.range(
        height,
        64,
        Work.unwatched(),
        (from, to) -> {
          for (int y = from; y < to; y++) {
            for (int x = 0; x < width; x++) {
              pixels[y * width + x] = argb(x, y);
            }
          }
        });
    return new Raster(width, height, pixels);
  }

  /** Begins a changed copy. */
  public Editor edit() {
    return new Editor();
  }

  /**
   * A copy in the making: tiles are copied when they are first written to. Pixels of different
   * tiles may be set by different threads; after {@link #done} nothing more is.
   */
  public final class Editor {
    private final Object[] own = tiles.clone();
    private final Image made = new Image(width, height, channels, sample, space, own);

    private Editor() {}

    /** A channel of a pixel as it stands now, as stored. */
    public double stored(int x, int y, int channel) {
      return made.stored(x, y, channel);
    }

    /** Sets the stored values of a pixel, rounded and held within what can be stored. */
    public void set(int x, int y, double... stored) {
      int t = tile(x, y);
      if (own[t] == tiles[t]) {
        own[t] =
            switch (own[t]) {
              case byte[] b -> b.clone();
              case short[] s -> s.clone();
              case Object f -> ((float[]) f).clone();
            };
      }
      made.put(x, y, stored);
    }

    /** The changed picture; it shares all tiles that were not written to. */
    public Image done() {
      return made;
    }
  }

  /**
   * A picture whose pixels are set one by one, by several threads at a time, before it is used:
   * every tile its own from the start.
   */
  public static Editor begun(int width, int height, int channels, Sample sample, Space space) {
    Image b = blank(width, height, channels, sample, space);
    Editor e = b.edit();
    for (int t = 0; t < e.own.length; t++) {
      e.own[t] = zeros(channels, sample);
    }
    return e;
  }

  /** How many tiles two pictures share: what a copy did not cost. */
  public int tilesSharedWith(Image other) {
    int n = 0;
    for (int t = 0; t < tiles.length && t < other.tiles.length; t++) {
      n += tiles[t] == other.tiles[t] ? 1 : 0;
    }
    return n;
  }

  /**
   * What its samples take, without the tiles that it shares with another.
   *
   * @param other null for none
   */
  public long bytesBeside(Image other) {
    long each = (long) TILE * TILE * channels * sample.bytes;
    return other == null ? bytes() : (tiles.length - tilesSharedWith(other)) * each;
  }

  public int tileCount() {
    return tiles.length;
  }

  /** A tile's samples: byte[], short[] or float[]. Not to be changed. */
  public Object tile(int number) {
    return tiles[number];
  }

  /** A picture from its tiles, as {@link #tile} gave them; they are not copied. */
  public static Image ofTiles(
      int width, int height, int channels, Sample sample, Space space, Object[] tiles) {
    Image kind = blank(width, height, channels, sample, space);
    Class<?> wanted = kind.tiles[0].getClass();
    int length = TILE * TILE * channels;
    for (Object t : tiles) {
      if (t.getClass() != wanted || java.lang.reflect.Array.getLength(t) != length) {
        throw new IllegalArgumentException("tiles of another kind");
      }
    }
    if (tiles.length != kind.tiles.length) {
      throw new IllegalArgumentException(tiles.length + " tiles");
    }
    return new Image(width, height, channels, sample, space, tiles.clone());
  }

  /** Whether two pictures hold the same samples and mean the same by them. */
  public boolean sameAs(Image o) {
    if (width != o.width
        || height != o.height
        || channels != o.channels
        || sample != o.sample
        || space != o.space) {
      return false;
    }
    for (int t = 0; t < tiles.length; t++) {
      if (tiles[t] != o.tiles[t]
          && !Arrays.deepEquals(new Object[] {tiles[t]}, new Object[] {o.tiles[t]})) {
        return false;
      }
    }
    return true;
  }
}
