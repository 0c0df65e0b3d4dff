package holotome.core.cut;

import java.util.function.IntConsumer;

/**
 * The bounds of a part of space, as flat facets to cut along. All in base coordinates.
 *
 * <p>A triangle is given as nine numbers, its corners in turn.
 */
public interface Knife {
  int facets();

  /** How far a point lies from a facet's plane, signed. */
  double side(int facet, double x, double y, double z);

  /** Whether a triangle may cross the facet itself, not only its plane; never wrongly false. */
  boolean meets(int facet, double[] nine);

  /** Names every facet that the triangle may cross, each once, in rising order. */
  void facetsOf(double[] nine, IntConsumer each);

  /** Whether a point lies within the bounds. */
  boolean contains(double x, double y, double z);
}
