package holotome.core.map;

import holotome.core.image.Image;
import holotome.core.mesh.Mesh;
import holotome.core.words.CoreWords;

/**
 * A kind of map: what it asks of a hit on the Scan, how it is stored, what it is called and how it
 * is shown. To add one, write a class and name it in {@link MapKind}.
 */
public abstract class MapRule {

  /** How a map's values are looked at. */
  public enum Shown {
    /** As the colour of the surface. */
    COLOUR,
    /** As the direction that the surface faces, in the frame of the Cast. */
    DIRECTION,
    /** As a shade of grey. */
    SHADE
  }

  private final String fileName;
  private final int channels;
  private final Image.Sample sample;
  private final Image.Space space;
  private final Shown shown;

  /**
   * @param fileName what the files are called after, and the word of the Log
   */
  protected MapRule(
      String fileName, int channels, Image.Sample sample, Image.Space space, Shown shown) {
    this.fileName = fileName;
    this.channels = channels;
    this.sample = sample;
    this.space = space;
    this.shown = shown;
  }

  /** What the files are called after, and the word of the Log. */
  public final String fileName() {
    return fileName;
  }

  /** What it is called in the window. */
  public final String title() {
    return CoreWords.of("map." + fileName);
  }

  public final int channels() {
    return channels;
  }

  public final Image.Sample sample() {
    return sample;
  }

  public final Image.Space space() {
    return space;
  }

  public final Shown shown() {
    return shown;
  }

  /** Gets ready to ask a Scan; what it gives is used by several threads. */
  public abstract Taker taker(Mesh scan);

  /** Asks hits for what goes into a texel. */
  public interface Taker {
    /** How many numbers are summed up for a texel. */
    int sums();

    /** Adds what a hit has to say to the sums, from {@code at} on. */
    void take(Hit hit, float[] sum, int at);

    /**
     * Makes a texel of the sums of its samples.
     *
     * @param stored set to the channels as stored, see {@link Image.Sample}
     */
    void store(float[] sum, int at, int samples, double[] stored);
  }
}
