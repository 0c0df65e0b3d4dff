package holotome.core.spatial;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/**
 * Pairs of triangles that meet, against brute force by separating axes in whole numbers
 * (Gottschalk, Lin and Manocha, "OBBTree", 1996: convex polyhedra are apart if and only if a normal
 * of one or a cross product of two edges parts them), on lattices so small that nearly everything
 * touches.
 */
class SelfIntersectionsTest {
  private static long[] at(Mesh m, int v) {
    return new long[] {(long) m.xyz()[3 * v], (long) m.xyz()[3 * v + 1], (long) m.xyz()[3 * v + 2]};
  }

  private static long[] sub(long[] a, long[] b) {
    return new long[] {a[0] - b[0], a[1] - b[1], a[2] - b[2]};
  }

  private static long[] cross(long[] a, long[] b) {
    return new long[] {
      a[1] * b[2] - a[2] * b[1], a[2] * b[0] - a[0] * b[2], a[0] * b[1] - a[1] * b[0]
    };
  }

  private static long dot(long[] a, long[] b) {
    return a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
  }

  /** Whether two convex sets of points, up to triangles, have no point in common. */
  private static boolean apart(long[][] a, long[][] b) {
    List<long[]> ea = edges(a);
    List<long[]> eb = edges(b);
    List<long[]> axes = new ArrayList<>();
    for (long[] x : ea) {
      for (long[] y : eb) {
        axes.add(cross(x, y));
      }
    }
    for (List<long[]> e : List.of(ea, eb)) {
      if (e.size() == 3) {
        long[] n = cross(e.get(0), e.get(1));
        axes.add(n);
        e.forEach(x -> axes.add(cross(x, n)));
      }
    }
    // A segment and what lies along it in one line, or in one plane with it.
    for (long[] x : ea) {
      axes.add(x);
      eb.forEach(y -> axes.add(cross(x, cross(x, y))));
    }
    for (long[] y : eb) {
      axes.add(y);
      ea.forEach(x -> axes.add(cross(y, cross(x, y))));
    }
    return axes.stream().anyMatch(n -> parts(n, a, b) || parts(n, b, a));
  }

  private static boolean parts(long[] n, long[][] a, long[][] b) {
    long most = Long.MIN_VALUE;
    long least = Long.MAX_VALUE;
    for (long[] p : a) {
      most = Math.max(most, dot(n, p));
    }
    for (long[] p : b) {
      least = Math.min(least, dot(n, p));
    }
    return most < least;
  }

  private static List<long[]> edges(long[][] p) {
    List<long[]> out = new ArrayList<>();
    for (int i = 0; i < p.length; i++) {
      for (int j = 0; j < i; j++) {
        out.add(sub(p[i], p[j]));
      }
    }
    return out;
  }

  /** Whether two triangles meet in more than what they share, by the definition of the class. */
  private static boolean meet(Mesh m, int t, int u) {
    List<Integer> onlyT = new ArrayList<>();
    List<Integer> onlyU = new ArrayList<>();
    List<Integer> both = new ArrayList<>();
    for (int k = 0; k < 3; k++) {
      int v = m.triangles()[3 * t + k];
      (has(m, u, v) ? both : onlyT).add(v);
      int w = m.triangles()[3 * u + k];
      if (!has(m, t, w)) {
        onlyU.add(w);
      }
    }
    long[][] a = corners(m, t);
    long[][] b = corners(m, u);
    return switch (both.size()) {
      case 0 -> !apart(a, b);
      // Beside the corner: the side across from it meets the other triangle.
      case 1 ->
          !apart(new long[][] {at(m, onlyT.get(0)), at(m, onlyT.get(1))}, b)
              || !apart(new long[][] {at(m, onlyU.get(0)), at(m, onlyU.get(1))}, a);
      case 2 -> {
        long[] e = sub(at(m, both.get(1)), at(m, both.get(0)));
        long[] x = sub(at(m, onlyT.get(0)), at(m, both.get(0)));
        long[] y = sub(at(m, onlyU.get(0)), at(m, both.get(0)));
        yield dot(cross(e, x), y) == 0 && dot(cross(e, x), cross(e, y)) > 0;
      }
      default -> true;
    };
  }

  private static boolean has(Mesh m, int t, int v) {
    return m.triangles()[3 * t] == v
        || m.triangles()[3 * t + 1] == v
        || m.triangles()[3 * t + 2] == v;
  }

  private static long[][] corners(Mesh m, int t) {
    return new long[][] {
      at(m, m.triangles()[3 * t]), at(m, m.triangles()[3 * t + 1]), at(m, m.triangles()[3 * t + 2])
    };
  }

  private static boolean isFlat(Mesh m, int t) {
    long[][] p = corners(m, t);
    long[] n = cross(sub(p[1], p[0]), sub(p[2], p[0]));
    return n[0] == 0 && n[1] == 0 && n[2] == 0;
  }

  @Test
  void pairsAreThoseThatSeparatingAxesLeave() {
    Random random = new Random(17);
    long seen = 0;
    for (int round = 0; round < 60; round++) {
      int side = 3 + round % 4;
      // Every point of a small lattice once: nothing stands on the same spot twice.
      float[] xyz = new float[3 * side * side * side];
      for (int v = 0; v < xyz.length / 3; v++) {
        xyz[3 * v] = v % side;
        xyz[3 * v + 1] = v / side % side;
        xyz[3 * v + 2] = v / side / side;
      }
      int[] tri = new int[3 * 40];
      for (int c = 0; c < tri.length; c++) {
        tri[c] = random.nextInt(xyz.length / 3);
      }
      Mesh m = new Mesh(xyz, tri);
      List<Integer> expected = new ArrayList<>();
      for (int t = 0; t < 40; t++) {
        for (int u = t + 1; u < 40; u++) {
          if (!isFlat(m, t) && !isFlat(m, u) && meet(m, t, u)) {
            expected.add(100 * t + u);
          }
        }
      }
      SelfIntersections found = SelfIntersections.of(m, Work.unwatched());
      List<Integer> told = new ArrayList<>();
      for (int i = 0; i < found.pairs().length; i += 2) {
        told.add(100 * found.pairs()[i] + found.pairs()[i + 1]);
      }
      assertThat(told).containsExactlyInAnyOrderElementsOf(expected);
      assertThat(found.count()).isEqualTo(expected.size());
      seen += found.count();
    }
    assertThat(seen).isGreaterThan(2000);
  }

  /** Two sheets in one plane, one over the other; a sheet folded flat onto itself; a touch. */
  @Test
  void overlapInOnePlaneAndTouchingCount() {
    Mesh sheet = Shapes.sheet(1, 4);
    assertThat(SelfIntersections.count(sheet, Work.unwatched())).isZero();
    Mesh twice = Shapes.together(sheet, Shapes.moved(sheet, 0.01, 0.02, 0));
    assertThat(SelfIntersections.count(twice, Work.unwatched())).isGreaterThan(32);
    Mesh folded =
        new Mesh(
            new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0, 0.25f, 0.5f, 0}, new int[] {0, 1, 2, 1, 0, 3});
    assertThat(SelfIntersections.count(folded, Work.unwatched())).isEqualTo(1);
    // The tip of one stands exactly in the middle of the other.
    Mesh touching =
        new Mesh(
            new float[] {0, 0, 0, 4, 0, 0, 0, 4, 0, 1, 1, 0, 1, 1, 2, 2, 1, 2},
            new int[] {0, 1, 2, 3, 4, 5});
    assertThat(SelfIntersections.count(touching, Work.unwatched())).isEqualTo(1);
  }

  @Test
  void doubledPointsAreNoIntersectionAndThreadsDoNotMatter() {
    Mesh m = Shapes.sphere(1, 4);
    float[] xyz = new float[9 * m.triangleCount()];
    int[] tri = new int[3 * m.triangleCount()];
    for (int c = 0; c < tri.length; c++) {
      tri[c] = c;
      System.arraycopy(m.xyz(), 3 * m.triangles()[c], xyz, 3 * c, 3);
    }
    assertThat(SelfIntersections.count(new Mesh(xyz, tri), Work.unwatched())).isZero();
    Mesh mess = Shapes.mess(900, 5);
    SelfIntersections many = SelfIntersections.of(mess, Work.unwatched());
    Parallel.limitThreads(1);
    try {
      assertThat(SelfIntersections.of(mess, Work.unwatched()).pairs()).isEqualTo(many.pairs());
    } finally {
      Parallel.limitThreads(64);
    }
    assertThat(SelfIntersections.count(new Mesh(new float[0], new int[0]), Work.unwatched()))
        .isZero();
  }

  /** Which parts cut through something, from all pairs: on lattices, few and many parts. */
  @Test
  void partsThatCutThroughAreThoseOfThePairs() {
    Random random = new Random(17);
    int[] seen = new int[2];
    for (int run = 0; run < 300; run++) {
      int side = 3 + random.nextInt(12);
      Mesh m = lattice(4 + random.nextInt(30), side, random);
      int[] first = PointWeld.representatives(m.xyz(), Work.unwatched());
      int from = random.nextInt(m.triangleCount());
      int[] part = new int[m.triangleCount() - from];
      for (int i = 0; i < part.length; i++) {
        part[i] = i * 4 / part.length;
      }
      BitSet own = new BitSet();
      int[] pairs = SelfIntersections.of(m, first, Work.unwatched()).pairs();
      for (int i = 0; i < pairs.length; i += 2) {
        int a = pairs[i] < from ? -1 : part[pairs[i] - from];
        int b = pairs[i + 1] < from ? -1 : part[pairs[i + 1] - from];
        if (Math.max(a, b) >= 0 && (a < 0 || b < 0 || a == b)) {
          own.set(Math.max(a, b));
        }
      }
      BitSet expected = (BitSet) own.clone();
      for (int i = 0; i < pairs.length; i += 2) {
        int a = pairs[i] < from ? -1 : part[pairs[i] - from];
        int b = pairs[i + 1] < from ? -1 : part[pairs[i + 1] - from];
        if (a >= 0 && b >= 0 && a != b && !own.get(a) && !own.get(b)) {
          expected.set(a);
          expected.set(b);
        }
      }
      assertThat(CrossingParts.of(m, first, from, part, Work.unwatched())).isEqualTo(expected);
      seen[0] += expected.cardinality();
      seen[1] += 4 - expected.cardinality();
    }
    assertThat(seen[0]).isGreaterThan(100);
    assertThat(seen[1]).isGreaterThan(100);
  }

  private static Mesh lattice(int triangles, int side, Random random) {
    float[] xyz = new float[9 * triangles];
    int[] tri = new int[3 * triangles];
    for (int t = 0; t < triangles; t++) {
      int[] at = {random.nextInt(side), random.nextInt(side), random.nextInt(side)};
      for (int c = 0; c < 3; c++) {
        tri[3 * t + c] = 3 * t + c;
        for (int k = 0; k < 3; k++) {
          xyz[9 * t + 3 * c + k] = at[k] + random.nextInt(3);
        }
      }
    }
    return new Mesh(xyz, tri);
  }
}
