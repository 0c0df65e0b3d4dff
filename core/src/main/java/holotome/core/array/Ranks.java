package holotome.core.array;

/**
 * A set of whole numbers from 0 to n - 1 that tells how many of its members are below a number, and
 * which member is the k-th; n / 8 bytes and half as many again. Rank and select over words with
 * running counts, after Jacobson, "Space-efficient static trees and graphs", 1989.
 */
public final class Ranks {
  /** A place is noted for each so many members. */
  private static final int STRIDE = 512;

  private final long[] words;
  private final int range;

  /** Per word: how many members stand in the words before. */
  private int[] before;

  /** Of every 512th member: its word. */
  private int[] places;

  public Ranks(int n) {
    words = new long[(n >>> 6) + 1];
    range = n;
  }

  /**
   * A set from its words, bit i of word w for the number 64 w + i; taken over, not copied.
   *
   * @param n numbers run from 0 to n - 1; the words reach at least there
   */
  public static Ranks of(long[] words, int n) {
    return new Ranks(words, n).done();
  }

  private Ranks(long[] words, int n) {
    this.words = words;
    this.range = n;
  }

  /** Numbers run from 0 to this, less one. */
  public int range() {
    return range;
  }

  /** Puts a number in; not once the set is {@linkplain #done done}. */
  public void add(int i) {
    words[i >>> 6] |= 1L << i;
  }

  /** Works the counts out: from now on nothing is added. */
  public Ranks done() {
    before = new int[words.length + 1];
    for (int w = 0; w < words.length; w++) {
      before[w + 1] = before[w] + Long.bitCount(words[w]);
    }
    places = new int[size() / STRIDE + 1];
    int next = 0;
    for (int w = 0; w < words.length; w++) {
      while (next < places.length && before[w + 1] > next * STRIDE) {
        places[next++] = w;
      }
    }
    return this;
  }

  public int size() {
    return before[words.length];
  }

  public boolean has(int i) {
    return (words[i >>> 6] >>> i & 1) != 0;
  }

  /** How many members are below a number. */
  public int rank(int i) {
    return before[i >>> 6] + Long.bitCount(words[i >>> 6] & (1L << i) - 1);
  }

  /** The member with {@code k} below it; 0 to size - 1. */
  public int select(int k) {
    int w = places[k / STRIDE];
    while (before[w + 1] <= k) {
      w++;
    }
    long left = words[w];
    for (int skip = k - before[w]; skip > 0; skip--) {
      left &= left - 1;
    }
    return (w << 6) + Long.numberOfTrailingZeros(left);
  }

  /** The lowest member from a number on; there must be one. */
  public int next(int from) {
    int w = from >>> 6;
    long left = words[w] & -1L << from;
    while (left == 0) {
      left = words[++w];
    }
    return (w << 6) + Long.numberOfTrailingZeros(left);
  }
}
