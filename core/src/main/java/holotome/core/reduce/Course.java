package holotome.core.reduce;

import holotome.core.attribute.VertexMix;
import java.util.ArrayList;
import java.util.List;
import java.util.function.IntPredicate;

/**
 * How a run went: another one of the same mesh, with a few weights changed, takes the same course,
 * and comes out the same but around those.
 */
final class Course {
  double[] extent;
  final List<Float> costs = new ArrayList<>();
  int rounds;
  boolean isWhole;
  final boolean keepsHalfway;
  Halfway halfway;

  Course() {
    this(false);
  }

  /**
   * @param keepsHalfway whether a state is kept from which the last rounds can be run again
   */
  Course(boolean keepsHalfway) {
    this.keepsHalfway = keepsHalfway;
  }

  /** Whether there is a state to begin from that spares most of the rounds. */
  boolean hasHalfway() {
    return halfway != null;
  }

  /**
   * What the vertices count for when it is begun from there.
   *
   * @param isMeant of the vertices given, and all that one came of are or are not
   */
  void tighten(IntPredicate isMeant, float more) {
    for (int v = 0; v < halfway.into.length; v++) {
      if (halfway.into[v] == v && isMeant.test(v)) {
        halfway.weight[v] *= more;
      }
    }
  }

  /** The state before a round. */
  record Halfway(
      int round,
      float[] xyz,
      int[] into,
      float[] weight,
      VertexMix carried,
      int[] tri,
      int[] wedge,
      byte[] lines,
      int[] from) {}
}
