package holotome.core.reduce;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;
import java.util.function.IntPredicate;

/**
 * A light mesh that cuts through itself nowhere but where the mesh it is made from does: where it
 * comes to cut it is held tighter, and all is made anew along the same course ({@link Course}),
 * until nothing new is found.
 *
 * <p>One decimation and one look for self-intersections of the light mesh, and both again as long
 * as there are any: two to four times on scans with narrow gaps. Of large meshes the last rounds
 * are tried by themselves first, a fifth of the time. Not guaranteed: what still cuts after the
 * last try is told.
 */
final class Uncrossed {
  private static final int TRIES = 8;

  /**
   * All whole runs together decimate no more triangles than this, or three times as many as there
   * are; of more than {@link #ONCE} it is run whole only once.
   */
  private static final int MOST = 1 << 24;

  private static final int ONCE = 1 << 25;

  /** From so many triangles on the last rounds alone are run again first, so many times at most. */
  private static final int LARGE = 1 << 21;

  private static final int AGAIN = 4;

  /** As long as each time leaves no more than this share of what crosses. */
  private static final double BETTER = 0.7;

  /** Of more triangles it is not asked for: it would take too long. */
  static final int MOST_TRIED = 1 << 27;

  /** What comes to cut counts for so much more the next time: a quarter of the distance. */
  private static final float TIGHTER = 16;

  private Uncrossed() {}

  /**
   * What came of it.
   *
   * @param crossing triangles of the light mesh that cut through others and need not
   */
  record Result(Decimation.Result light, int crossing) {}

  /** Decimates to a number of triangles. */
  static Result decimate(Mesh mesh, int target, Wedges wedges, Work work) {
    return decimate(mesh, target, null, wedges, work);
  }

  /**
   * Decimates to a number of triangles.
   *
   * @param given per vertex what a collapse's error counts for; null for 1
   */
  static Result decimate(Mesh mesh, int target, float[] given, Wedges wedges, Work work) {
    float[] weight = given == null ? null : given.clone();
    int n = mesh.triangleCount();
    Course course = new Course(n > LARGE);
    double left = 1;
    Result best = null;
    int tries = n > ONCE ? 1 : Math.clamp(MOST / Math.max(1, n), 3, TRIES);
    int again = AGAIN;
    int crossed = 0;
    for (int whole = 0; ; ) {
      // Mostly the first is the last.
      double share = whole == 0 ? 0.6 : left / 3;
      left -= share;
      Work part = work.part(share, CoreWords.of("work.decimating"));
      Work decimating = part.part(0.85, CoreWords.of("work.decimating"));
      boolean isAgain = course.hasHalfway() && again < AGAIN;
      again = isAgain ? again + 1 : 0;
      whole += isAgain ? 0 : 1;
      Decimation.Result light =
          isAgain
              ? Decimation.again(mesh, target, course, decimating)
              : Decimation.of(
                  mesh,
                  target,
                  Double.POSITIVE_INFINITY,
                  weight == null ? null : weight.clone(),
                  wedges,
                  course,
                  decimating);
      String looking = CoreWords.of("common.looking-for-self-intersections");
      BitSet crossing = fresh(mesh, light, part.part(0.15, looking));
      // What counts too much to go is no answer, unless it could not go before either.
      boolean isFew =
          best == null || light.mesh().triangleCount() <= 1.02 * best.light.mesh().triangleCount();
      if (isFew && (best == null || crossing.cardinality() < best.crossing)) {
        best = new Result(light, crossing.cardinality());
      }
      boolean helps = isFew && (!isAgain || crossing.cardinality() <= BETTER * crossed);
      again = !course.hasHalfway() || !helps ? AGAIN : again;
      crossed = crossing.cardinality();
      boolean isOver = !isFew && !isAgain || whole >= tries && again >= AGAIN;
      if (best.crossing == 0 || isOver) {
        work.advance(left);
        return best;
      }
      if (weight == null) {
        weight = new float[mesh.vertexCount()];
        Arrays.fill(weight, 1);
      }
      tighten(light, crossing, weight, course);
    }
  }

  /** The triangles of a light mesh that cut through others where the mesh does not. */
  static BitSet fresh(Mesh mesh, Decimation.Result light, Work work) {
    BitSet crossing = SelfIntersections.of(light.mesh(), work).triangles();
    leaveOut(mesh, light, crossing, work);
    return crossing;
  }

  /** Leaves out those light triangles that lie where the mesh itself cuts through itself. */
  private static void leaveOut(Mesh mesh, Decimation.Result light, BitSet crossing, Work work) {
    if (crossing.isEmpty()) {
      return;
    }
    BitSet corners = corners(light.mesh(), crossing);
    int[] root = light.root();
    int[] tri = mesh.triangles();
    BitSet there = new BitSet();
    for (int h = 0; h < tri.length; h++) {
      if (root[tri[h]] >= 0 && corners.get(root[tri[h]])) {
        there.set(h / 3);
      }
    }
    int[] numbers = there.stream().toArray();
    int[] own = new int[3 * numbers.length];
    for (int i = 0; i < own.length; i++) {
      own[i] = tri[3 * numbers[i / 3] + i % 3];
    }
    String looking = CoreWords.of("common.looking-for-self-intersections");
    BitSet before =
        SelfIntersections.of(new Mesh(mesh.xyz(), own), work.part(0, looking)).triangles();
    BitSet old = new BitSet();
    for (int t = before.nextSetBit(0); t >= 0; t = before.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        old.set(Math.max(0, root[own[3 * t + k]]));
      }
    }
    int[] few = light.mesh().triangles();
    for (int t = crossing.nextSetBit(0); t >= 0; t = crossing.nextSetBit(t + 1)) {
      if (old.get(few[3 * t]) || old.get(few[3 * t + 1]) || old.get(few[3 * t + 2])) {
        crossing.clear(t);
      }
    }
  }

  /** The corners of triangles. */
  static BitSet corners(Mesh mesh, BitSet triangles) {
    BitSet out = new BitSet();
    for (int t = triangles.nextSetBit(0); t >= 0; t = triangles.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        out.set(mesh.triangles()[3 * t + k]);
      }
    }
    return out;
  }

  /** What was merged into the corners of triangles counts for more. */
  private static void tighten(
      Decimation.Result light, BitSet triangles, float[] weight, Course course) {
    BitSet corners = corners(light.mesh(), triangles);
    int[] root = light.root();
    IntPredicate isMeant = v -> root[v] >= 0 && corners.get(root[v]);
    for (int v = 0; v < weight.length; v++) {
      weight[v] *= isMeant.test(v) ? TIGHTER : 1;
    }
    if (course.hasHalfway()) {
      course.tighten(isMeant, TIGHTER);
    }
  }
}
