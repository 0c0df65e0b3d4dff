package holotome.core.map;

/** Why the rays of a texel did not find what they should have; stored by {@link #code}. */
public enum Missed {
  /** Nothing of the Scan lies within reach. */
  NOTHING,
  /** The Scan was met from its inside only. */
  INSIDE,
  /** The Scan has a hole there: what lies nearest is its rim. */
  HOLE,
  /**
   * Something that belongs to another place of the Cast was in the way; what lies behind was taken.
   */
  OTHER;

  /** What pictures of missed rays hold, above 0. */
  public int code() {
    return ordinal() + 1;
  }

  /** Of a code; null for 0. */
  public static Missed of(int code) {
    return code == 0 ? null : values()[code - 1];
  }

  /** Whether the texel has no true value: it was filled from what lies nearest, or around it. */
  public boolean isLost() {
    return this != OTHER;
  }
}
