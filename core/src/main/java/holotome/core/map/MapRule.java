package holotome.core.map;

import holotome.core.image.Image;
import holotome.core.mesh.Mesh;

/**
 * A kind of map: what it asks of a hit on the Scan, how it is stored, what it is called and how it
 * is shown. To add one, write a class and name it in {@link MapKind}.
 */
public abstract class MapRule {

  protected MapRule() {}

  /** How a map's values are looked at. */
  public enum Shown {
    /** As the colour of the surface. */
    COLOUR,
    /** As the direction that the surface faces, in the frame of the Cast. */
    DIRECTION,
    /** As a shade of grey. */
    SHADE
  }

  /** What the files are called after, and the words of the Log. */
  public abstract String fileName();

  /** What it is called in the window. */
  public abstract String title();

  public abstract int channels();

  public abstract Image.Sample sample();

  public abstract Image.Space space();

  public abstract Shown shown();

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
