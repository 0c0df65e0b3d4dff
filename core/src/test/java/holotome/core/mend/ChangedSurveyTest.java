package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.spatial.Outward;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Comparator;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

/** A survey told from what changed against one of the whole, after random small changes. */
class ChangedSurveyTest {
  private static final int CHANGES = Datasets.times(50, 400);

  /** Sound and unsound parts: shells, pieces inside out, holes, tears, what crosses itself. */
  private static Mesh parts() {
    Mesh ball = Shapes.sphere(1, 5);
    BitSet all = new BitSet();
    all.set(0, 320);
    Mesh small = Shapes.sphere(0.1, 2);
    Mesh over = Outward.turned(small, all, Work.unwatched());
    Mesh holed = Submesh.of(Shapes.sphere(1, 4), t -> t % 900 > 5, Work.unwatched());
    return Shapes.together(
        ball,
        Shapes.moved(holed, 1.5, 0.1, 0.2),
        Shapes.moved(Shapes.torus(0.6, 0.1, 60, 24), -2, 0.1, 0),
        Shapes.moved(small, 0.2, 0.1, 0),
        Shapes.moved(over, 3, 3, 0),
        Shapes.moved(Shapes.sheet(2, 50), 0, 4, 0.05),
        Shapes.moved(Shapes.mess(120, 3), 0, -5, 0));
  }

  @Test
  void whatIsToldFromChangesIsWhatTheWholeTells() {
    Random r = new Random(13);
    Mesh now = parts();
    Survey before = Survey.of(now, Work.unwatched());
    int told = 0;
    int differing = 0;
    for (int i = 0; i < CHANGES; i++) {
      Mesh next = changed(now, i % 10, r);
      Survey after =
          before.ground() == null ? null : new ChangedSurvey(before, next).run(Work.unwatched());
      Survey whole = Survey.of(next, Work.unwatched());
      if (after != null) {
        told++;
        assertSame(after, whole, "change " + i);
        differing += described(after).equals(described(before)) ? 0 : 1;
      }
      now = next;
      before = after == null ? whole : after;
      if (now.triangleCount() < 20_000 || i % 100 == 99) {
        now = parts();
        before = Survey.of(now, Work.unwatched());
      }
    }
    assertThat(told).isGreaterThan(CHANGES * 3 / 4);
    assertThat(differing).isGreaterThan(CHANGES / 2);
  }

  @Test
  void threadsDoNotMatter() {
    Mesh now = parts();
    Survey before = Survey.of(now, Work.unwatched());
    Mesh next = changed(now, 0, new Random(5));
    Survey many = new ChangedSurvey(before, next).run(Work.unwatched());
    Parallel.limitThreads(1);
    try {
      assertSame(new ChangedSurvey(before, next).run(Work.unwatched()), many, "one thread");
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void aCancelEndsIt() {
    Mesh now = parts();
    Survey before = Survey.of(now, Work.unwatched());
    Mesh next = changed(now, 0, new Random(5));
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(() -> Survey.ofChanges(before, next, work))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
  }

  /** What was not made from the one before, or is new for the most part, is looked at whole. */
  @Test
  void whatHasLittleInCommonIsNotCompared() {
    Mesh now = parts();
    Survey before = Survey.of(now, Work.unwatched());
    Mesh other = Shapes.sphere(1, 5);
    assertThat(new ChangedSurvey(before, other).run(Work.unwatched())).isNull();
    float[] moved = now.xyz().clone();
    for (int k = 0; k < moved.length / 2; k++) {
      moved[k] += 0.001f;
    }
    Mesh half = new Mesh(moved, now.triangles()).of(now.lineage());
    assertThat(new ChangedSurvey(before, half).run(Work.unwatched())).isNull();
    assertSame(Survey.after(before, half, Work.unwatched()), Survey.of(half, Work.unwatched()), "");
  }

  /** An island that comes apart is two. */
  @Test
  void anIslandCutThroughIsTwo() {
    Mesh now = parts();
    Survey before = Survey.of(now, Work.unwatched());
    Mesh torn =
        Submesh.of(
            now,
            t -> {
              float y = now.xyz()[3 * now.triangles()[3 * t] + 1];
              float x = now.xyz()[3 * now.triangles()[3 * t]];
              float z = now.xyz()[3 * now.triangles()[3 * t] + 2];
              return !(y > 3 && Math.abs(x - 1 - z * 0.01) < 0.06);
            },
            Work.unwatched());
    Survey whole = Survey.of(torn, Work.unwatched());
    assertThat(whole.ground().islands().islands().count())
        .isGreaterThan(before.ground().islands().islands().count());
    assertSame(Survey.after(before, torn, Work.unwatched()), whole, "");
  }

  private static void assertSame(Survey after, Survey whole, String what) {
    assertThat(more(after, whole)).as(what + ": told but not there").isEmpty();
    assertThat(more(whole, after)).as(what + ": there but not told").isEmpty();
    assertThat(after.near()).as(what).isEqualTo(whole.near());
    assertThat(after.handles()).as(what).isEqualTo(whole.handles());
    assertThat(after.crossings().triangles()).as(what).isEqualTo(whole.crossings().triangles());
    Survey.Ground a = after.ground();
    Survey.Ground b = whole.ground();
    assertThat(a == null).as(what).isEqualTo(b == null);
    if (a == null) {
      return;
    }
    assertThat(a.torn()).as(what).isEqualTo(b.torn());
    if (a.doubled() != null) {
      assertThat(a.doubled().count()).as(what).isEqualTo(b.doubled().count());
    }
    assertThat(rims(a.loops())).as(what).isEqualTo(rims(b.loops()));
    assertThat(a.islands().islands().ofTriangle())
        .as(what)
        .isEqualTo(b.islands().islands().ofTriangle());
    assertThat(a.islands().islands().sizes()).as(what).isEqualTo(b.islands().islands().sizes());
    assertThat(a.islands().seen()).as(what).isEqualTo(b.islands().seen());
    assertThat(a.islands().open()).as(what).isEqualTo(b.islands().open());
  }

  /** What one has and the other has not. */
  private static List<String> more(Survey one, Survey other) {
    List<String> out = described(one);
    described(other).forEach(out::remove);
    return out;
  }

  /** Each loop from its lowest half-edge on. */
  private static List<String> rims(int[][] loops) {
    List<String> out = new ArrayList<>();
    for (int[] loop : loops) {
      int least = 0;
      for (int i = 1; i < loop.length; i++) {
        least = loop[i] < loop[least] ? i : least;
      }
      int[] turned = new int[loop.length];
      for (int i = 0; i < loop.length; i++) {
        turned[i] = loop[(least + i) % loop.length];
      }
      out.add(Arrays.toString(turned));
    }
    out.sort(Comparator.naturalOrder());
    return out;
  }

  /**
   * Kinds, counts and places; places of what may begin anywhere, or is kept as it was, left out.
   */
  private static List<String> described(Survey s) {
    List<String> out = new ArrayList<>();
    for (Fault f : s.faults()) {
      out.add(f.kind() + " " + f.count());
      boolean isPlaced = f.kind() != Fault.Kind.HOLES && f.kind() != Fault.Kind.HANDLES;
      List<String> places = new ArrayList<>();
      for (int i = 0; isPlaced && i < f.sizes().length; i++) {
        places.add(
            f.kind()
                + " "
                + f.places()[3 * i]
                + " "
                + f.places()[3 * i + 1]
                + " "
                + f.places()[3 * i + 2]
                + " "
                + f.sizes()[i]);
      }
      places.sort(Comparator.naturalOrder());
      out.addAll(places);
    }
    return out;
  }

  private static Mesh changed(Mesh m, int how, Random r) {
    int[] tri = m.triangles().clone();
    float[] xyz = m.xyz().clone();
    int at = r.nextInt(m.triangleCount());
    int vertex = tri[3 * at];
    int other = tri[3 * r.nextInt(m.triangleCount())];
    int n = m.vertexCount();
    switch (how) {
      case 0 -> {
        BitSet blob = near(m, at, 0.03 + 0.12 * r.nextDouble());
        return Submesh.of(m, t -> !blob.get(t), Work.unwatched());
      }
      case 1 -> {
        for (int k = 0; k < 3; k++) {
          xyz[3 * vertex + k] += (float) (0.2 * r.nextGaussian());
        }
      }
      case 2 -> {
        // A triangle is torn off at a corner, the point doubled.
        xyz = with(xyz, xyz[3 * vertex], xyz[3 * vertex + 1], xyz[3 * vertex + 2]);
        tri[3 * at] = n;
      }
      case 3 -> {
        // A point is joined with another on its spot, or with a neighbour.
        int to = tri[3 * at + 1];
        for (int v = 0; v < n; v++) {
          if (v != vertex
              && Arrays.equals(xyz, 3 * v, 3 * v + 3, xyz, 3 * vertex, 3 * vertex + 3)) {
            to = v;
          }
        }
        for (int c = 0; c < tri.length; c++) {
          tri[c] = tri[c] == vertex ? to : tri[c];
        }
      }
      case 4 -> {
        BitSet blob = near(m, at, 0.05);
        for (int t = blob.nextSetBit(0); t >= 0; t = blob.nextSetBit(t + 1)) {
          int c = tri[3 * t];
          tri[3 * t] = tri[3 * t + 1];
          tri[3 * t + 1] = c;
        }
      }
      case 5 -> tri = with(tri, tri[3 * at], tri[3 * at + 1], tri[3 * at + 2]);
      case 6 -> tri = with(tri, vertex, tri[3 * at + 1], other);
      case 7 -> {
        // A piece of its own, within the ball or outside.
        float s = r.nextBoolean() ? 0.3f : 3f;
        for (int k = 0; k < 4; k++) {
          xyz = with(xyz, s + 0.05f * (k & 1), s + 0.05f * (k >> 1), 0.05f * (k == 3 ? 1 : 0));
        }
        int[] tetra = {n, n + 1, n + 2, n, n + 3, n + 1, n + 1, n + 3, n + 2, n, n + 2, n + 3};
        for (int k = 0; k < 12; k += 3) {
          tri = with(tri, tetra[k], tetra[k + 1], tetra[k + 2]);
        }
      }
      case 8 -> {
        // An island goes, unless it is a large one.
        int[] of = Islands.of(m).ofTriangle();
        int last = of[r.nextInt(100) == 0 ? at : m.triangleCount() - 1 - r.nextInt(200)];
        if (last > 2) {
          return Submesh.of(m, t -> of[t] != last, Work.unwatched());
        }
      }
      default -> xyz = with(xyz, xyz[3 * vertex], 7, r.nextFloat());
    }
    Mesh out = new Mesh(xyz, tri).of(m.lineage());
    // Points that no triangle uses come and go.
    return how == 9 || r.nextInt(4) == 0 ? out : Submesh.used(out);
  }

  private static BitSet near(Mesh m, int triangle, double radius) {
    BitSet out = new BitSet();
    float[] p = m.xyz();
    int a = 3 * m.triangles()[3 * triangle];
    for (int t = 0; t < m.triangleCount(); t++) {
      int b = 3 * m.triangles()[3 * t];
      double x = p[a] - p[b];
      double y = p[a + 1] - p[b + 1];
      double z = p[a + 2] - p[b + 2];
      out.set(t, x * x + y * y + z * z < radius * radius);
    }
    return out;
  }

  private static float[] with(float[] all, float... more) {
    float[] out = Arrays.copyOf(all, all.length + more.length);
    System.arraycopy(more, 0, out, all.length, more.length);
    return out;
  }

  private static int[] with(int[] all, int... more) {
    int[] out = Arrays.copyOf(all, all.length + more.length);
    System.arraycopy(more, 0, out, all.length, more.length);
    return out;
  }
}
