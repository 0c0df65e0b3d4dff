package holotome.core.quad;

import holotome.core.task.Work;
import java.util.Arrays;

/**
 * A mesh of triangles whose edges are taken away one after the other, the two ends becoming one
 * vertex, as long as the surface stays the manifold it is (link condition, Dey and others,
 * "Topology preserving edge contraction", 1999). What is a border stays one.
 *
 * <p>A few µs an edge, one thread; 40 bytes a triangle.
 */
final class Contraction {
  private static final int NONE = -1;

  private final int[] origin;
  private final int[] twin;
  private final byte[] span;
  private final boolean[] line;
  private final int[] out;
  private final boolean[] gone;

  /** The vertex that each was merged into, by way of others. */
  private final int[] into;

  private final int[] mark;
  private int run;

  /**
   * Begins.
   *
   * @param tri three vertices a triangle, of a manifold surface; changed
   * @param twin the half-edge across each, below nought for none; changed
   * @param span per half-edge how far it leads; 0 for what is to go; changed
   * @param line half-edges on lines; changed
   */
  Contraction(int vertices, int[] tri, int[] twin, byte[] span, boolean[] line) {
    origin = tri;
    this.twin = twin;
    this.span = span;
    this.line = line;
    out = new int[vertices];
    Arrays.fill(out, NONE);
    for (int h = 0; h < tri.length; h++) {
      if (out[tri[h]] == NONE || twin[h] < 0) {
        out[tri[h]] = h;
      }
    }
    gone = new boolean[tri.length / 3];
    into = new int[vertices];
    Arrays.setAll(into, i -> i);
    mark = new int[vertices];
  }

  boolean isGone(int triangle) {
    return gone[triangle];
  }

  int origin(int h) {
    return origin[h];
  }

  int twin(int h) {
    return twin[h];
  }

  int span(int h) {
    return span[h];
  }

  boolean isLine(int h) {
    return line[h];
  }

  /** The vertex that stands for one of those there were. */
  int root(int v) {
    int r = v;
    while (into[r] != r) {
      r = into[r];
    }
    while (into[v] != r) {
      int next = into[v];
      into[v] = r;
      v = next;
    }
    return r;
  }

  /** Takes all edges away that lead nowhere and can go; returns how many such are left. */
  int run(Work work) {
    int left = 0;
    boolean some = true;
    while (some) {
      some = false;
      left = 0;
      for (int h = 0; h < origin.length; h++) {
        if (h % (1 << 16) == 0) {
          work.check();
        }
        if (gone[h / 3] || span[h] != 0 || twin[h] >= 0 && h > twin[h]) {
          continue;
        }
        if (canCollapse(h)) {
          collapse(h);
          some = true;
        } else {
          left++;
        }
      }
    }
    work.advance(1);
    return left;
  }

  private static int next(int h) {
    return LatticeSteps.next(h);
  }

  private static int previous(int h) {
    return LatticeSteps.previous(h);
  }

  private boolean isBorder(int v) {
    // The one kept for a vertex of a border is the one that a turn about it begins with.
    return twin[out[v]] < 0;
  }

  private boolean canCollapse(int h) {
    int a = origin[h];
    int b = origin[next(h)];
    int g = twin[h];
    boolean inner = g >= 0;
    if (inner && isBorder(a) && isBorder(b)) {
      return false;
    }
    boolean isFlat = inner && origin[previous(h)] == origin[previous(g)];
    if (isFlat || !isWide(h) || inner && !isWide(g)) {
      return false;
    }
    run++;
    markAround(a);
    int common = commonAround(b);
    return common == (inner ? 2 : 1);
  }

  /** Whether the third corner of a half-edge's triangle has edges enough to lose one. */
  private boolean isWide(int h) {
    int p = previous(h);
    int n = next(h);
    if (twin[p] < 0 && twin[n] < 0) {
      return false;
    }
    int apex = origin[p];
    int valence = 0;
    int k = out[apex];
    boolean border = twin[k] < 0;
    do {
      valence++;
      int after = twin[previous(k)];
      if (after < 0) {
        valence++;
        break;
      }
      k = after;
    } while (k != out[apex]);
    return valence >= (border ? 3 : 4);
  }

  private void markAround(int v) {
    int k = out[v];
    do {
      mark[origin[next(k)]] = run;
      int p = previous(k);
      if (twin[p] < 0) {
        mark[origin[p]] = run;
        return;
      }
      k = twin[p];
    } while (k != out[v]);
  }

  private int commonAround(int v) {
    int common = 0;
    int k = out[v];
    do {
      common += mark[origin[next(k)]] == run ? 1 : 0;
      int p = previous(k);
      if (twin[p] < 0) {
        return common + (mark[origin[p]] == run ? 1 : 0);
      }
      k = twin[p];
    } while (k != out[v]);
    return common;
  }

  /** The second end goes into the first. */
  private void collapse(int h) {
    int a = origin[h];
    int b = origin[next(h)];
    int g = twin[h];
    int k = out[b];
    do {
      origin[k] = a;
      k = twin[previous(k)];
    } while (k >= 0 && k != out[b]);
    into[b] = a;
    int some = close(h);
    if (g >= 0) {
      close(g);
    }
    out[a] = first(some);
  }

  /**
   * Takes a triangle away whose half-edge h has become a point: its other two edges are one.
   * Returns a half-edge that starts at the point and is left.
   */
  private int close(int h) {
    gone[h / 3] = true;
    int n = next(h);
    int p = previous(h);
    int beyondN = twin[n];
    int beyondP = twin[p];
    byte s = shorter(span[n], span[p]);
    boolean isLine = line[n] || line[p];
    if (beyondN >= 0) {
      twin[beyondN] = beyondP;
      span[beyondN] = s;
      line[beyondN] = isLine;
    }
    if (beyondP >= 0) {
      twin[beyondP] = beyondN;
      span[beyondP] = s;
      line[beyondP] = isLine;
    }
    out[origin[p]] = first(beyondN >= 0 ? beyondN : next(beyondP));
    return beyondP >= 0 ? beyondP : next(beyondN);
  }

  /**
   * A side rather than a diagonal, and that rather than what is neither; what leads nowhere last.
   */
  private static byte shorter(byte a, byte b) {
    if (a == 0 || b == 0) {
      return (byte) Math.max(a, b);
    }
    return (byte) Math.min(a, b);
  }

  /** The first half-edge of a turn about a vertex: that along the border where there is one. */
  private int first(int h) {
    int k = h;
    while (twin[k] >= 0) {
      k = next(twin[k]);
      if (k == h) {
        return h;
      }
    }
    return k;
  }
}
