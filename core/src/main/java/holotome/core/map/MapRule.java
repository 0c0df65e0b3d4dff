package holotome.core.map;

import holotome.core.image.Image;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * A kind of map: what it asks of a hit on the Scan, how it is stored, what it is called and how it
 * is shown. To add one, write a class and name it in {@link MapKind}.
 */
public abstract class MapRule {

  /** What a map's values are. */
  public enum Values {
    /** The colour of the surface. */
    COLOUR(3),
    /** A direction in the frame of the Cast: -1 to 1 as 0 to 1. */
    TANGENT_DIRECTION(3),
    /** A direction in the Cast's own coordinates: -1 to 1 as 0 to 1. */
    DIRECTION(3),
    /** A share, 0 to 1. */
    SHARE(1),
    /** A length, in base units. */
    LENGTH(1),
    /** One over a length, in base units. */
    BEND(1),
    /** A place, in base units. */
    PLACE(3),
    /** A number of something, as a colour of its own; never mixed. */
    NUMBER(3);

    private final int channels;

    Values(int channels) {
      this.channels = channels;
    }

    public int channels() {
      return channels;
    }

    /** Whether they are stored as they are, so that how far they reach has to be said. */
    public boolean isMeasured() {
      return this == LENGTH || this == BEND || this == PLACE;
    }
  }

  private final String fileName;
  private final Values values;

  /**
   * @param fileName what the files are called after, and the word of the Log
   */
  protected MapRule(String fileName, Values values) {
    this.fileName = fileName;
    this.values = values;
  }

  /** What the files are called after, and the word of the Log. */
  public final String fileName() {
    return fileName;
  }

  /** What it is called in the window. */
  public final String title() {
    return CoreWords.of("map." + fileName);
  }

  public final Values values() {
    return values;
  }

  public final int channels() {
    return values.channels;
  }

  /**
   * @param isFine whether whole numbers are to have 16 bits
   */
  public final Image.Sample sample(boolean isFine) {
    if (values.isMeasured()) {
      return Image.Sample.FLOAT;
    }
    boolean isCoarse = values == Values.COLOUR || values == Values.NUMBER || !isFine;
    return isCoarse ? Image.Sample.BYTE : Image.Sample.SHORT;
  }

  public final Image.Space space() {
    return values == Values.COLOUR || values == Values.NUMBER
        ? Image.Space.SRGB
        : Image.Space.LINEAR;
  }

  /** Whether rays are cast from each hit. */
  public boolean castsRays() {
    return false;
  }

  /**
   * Gets ready to ask.
   *
   * @throws holotome.core.task.Failure where the Scan has not what the map shows
   */
  public abstract Asking asking(MapSource source, Work work);

  /** Makes takers, one a thread. */
  public interface Asking {
    /**
     * @param rays the thread's own
     */
    Taker taker(SkyRays rays);
  }

  /** Asks hits for what goes into a texel. */
  public interface Taker {
    /** How many numbers a sample gives. */
    int numbers();

    /** Writes what a hit has to say, from {@code at} on. */
    void take(Hit hit, float[] out, int at);

    /**
     * Makes a texel of the weighted means of what its samples gave.
     *
     * @param texel set to the channels: 1 for full, or as they are where {@link Values#isMeasured}
     */
    void store(float[] mean, int at, double[] texel);
  }
}
