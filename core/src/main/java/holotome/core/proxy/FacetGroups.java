package holotome.core.proxy;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.IntUnaryOperator;

/**
 * Facets of one plane that hang together along edges as one face, where all around them is a single
 * loop that comes by no point twice. Those around a hole stay as they are.
 */
final class FacetGroups {
  private final int[][] loops;
  private final IntUnaryOperator plane;
  private final Map<Long, Integer> facetAt = new HashMap<>();

  /** What is done with each face: its corners in order, and its plane. */
  interface Face {
    void at(int[] loop, int plane);
  }

  /**
   * @param loops the corners of each facet; null for none
   * @param plane of each facet, and which way it looks
   */
  FacetGroups(int[][] loops, IntUnaryOperator plane) {
    this.loops = loops;
    this.plane = plane;
    for (int f = 0; f < loops.length; f++) {
      for (int i = 0; loops[f] != null && i < loops[f].length; i++) {
        facetAt.put(key(loops[f][i], after(f, i)), f);
      }
    }
  }

  private static long key(int a, int b) {
    return (long) a << 32 | b;
  }

  private int after(int f, int i) {
    return loops[f][(i + 1) % loops[f].length];
  }

  /** Goes through the faces, in the order of their first facets. */
  void each(Face told) {
    boolean[] had = new boolean[loops.length];
    for (int f = 0; f < loops.length; f++) {
      if (loops[f] == null || had[f]) {
        continue;
      }
      List<Integer> group = group(f, had);
      int[] around = around(group);
      if (around != null) {
        told.at(around, plane.applyAsInt(f));
      } else {
        for (int g : group) {
          told.at(loops[g], plane.applyAsInt(g));
        }
      }
    }
  }

  private Integer beyond(int f, int i) {
    Integer g = facetAt.get(key(after(f, i), loops[f][i]));
    return g != null && plane.applyAsInt(g) == plane.applyAsInt(f) ? g : null;
  }

  private List<Integer> group(int first, boolean[] had) {
    List<Integer> group = new ArrayList<>();
    group.add(first);
    had[first] = true;
    for (int at = 0; at < group.size(); at++) {
      int f = group.get(at);
      for (int i = 0; i < loops[f].length; i++) {
        Integer g = beyond(f, i);
        if (g != null && !had[g]) {
          had[g] = true;
          group.add(g);
        }
      }
    }
    return group;
  }

  /** The one loop around a group; null if there are several, or it touches itself. */
  private int[] around(List<Integer> group) {
    Map<Integer, Integer> next = new HashMap<>();
    int start = -1;
    for (int f : group) {
      for (int i = 0; i < loops[f].length; i++) {
        if (beyond(f, i) == null) {
          start = start < 0 ? loops[f][i] : start;
          if (next.put(loops[f][i], after(f, i)) != null) {
            return null;
          }
        }
      }
    }
    int[] out = new int[next.size()];
    int n = 0;
    for (int v = start; n < out.length; v = next.get(v)) {
      out[n++] = v;
      if (next.get(v) == start) {
        break;
      }
    }
    return n == out.length ? out : null;
  }
}
