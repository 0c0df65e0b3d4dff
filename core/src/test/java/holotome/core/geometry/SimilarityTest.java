package holotome.core.geometry;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.frame.Frame;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SimilarityTest {
  private static Similarity random(Random r, double far) {
    double[] axis = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
    return Similarity.turning(axis, r.nextDouble() * 6)
        .then(Similarity.scaling(Math.exp(4 * r.nextGaussian())))
        .then(
            Similarity.translation(
                Vec.of(far * r.nextGaussian(), far * r.nextGaussian(), far * r.nextGaussian())));
  }

  @Test
  void inverseLeadsBack() {
    Random r = new Random(1);
    for (int i = 0; i < 1000; i++) {
      Similarity s = random(r, 1e7);
      double[] p = {r.nextGaussian(), r.nextGaussian(), r.nextGaussian()};
      double[] q = s.inverse().apply(s.apply(p));
      // Some 1e7 units away a double resolves 2e-9 to 7e-9 at each of several roundings; the scale
      // may
      // blow that up.
      assertThat(Vec.distance(p, q)).isLessThan(1e-7 / Math.min(1, s.scale()));
    }
  }

  @Test
  void thenIsOneAfterTheOther() {
    Random r = new Random(2);
    for (int i = 0; i < 200; i++) {
      Similarity a = random(r, 10);
      Similarity b = random(r, 10);
      double[] p = {r.nextGaussian(), r.nextGaussian(), r.nextGaussian()};
      double[] q = b.apply(a.apply(p));
      assertThat(Vec.distance(a.then(b).apply(p), q)).isLessThan(1e-9 * (1 + Vec.length(q)));
    }
  }

  @Test
  void aThousandPlacementsLeaveTheWayBackWithinOneFloatStep() {
    Random r = new Random(3);
    Frame frame = Frame.ofOffset(Vec.of(4_500_000, 312_000, 88));
    for (int i = 0; i < 1000; i++) {
      double[] axis = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      frame = frame.placed(Similarity.turning(axis, r.nextDouble()));
    }
    for (int i = 0; i < 1000; i++) {
      double[] base = {r.nextFloat() * 100, r.nextFloat() * 100, r.nextFloat() * 100};
      double[] back = frame.toBase(frame.toWork().apply(base));
      for (int k = 0; k < 3; k++) {
        assertThat(back[k]).isCloseTo(base[k], within((double) Math.ulp((float) base[k]) + 1e-12));
      }
    }
  }

  @Test
  void turningToTakesOneDirectionToTheOther() {
    Random r = new Random(4);
    for (int i = 0; i < 200; i++) {
      double[] a = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      double[] b =
          i == 0
              ? Vec.mul(a, -1)
              : Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      assertThat(Vec.distance(Similarity.turningTo(a, b).apply(a), b)).isLessThan(1e-9);
    }
  }

  @Test
  void placingFloatsAgreesWithPlacingPoints() {
    Random r = new Random(5);
    float[] xyz = new float[3000];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) r.nextGaussian();
    }
    Similarity s = random(r, 5);
    float[] placed = Placing.apply(xyz, s);
    Box box = Placing.bounds(xyz, s);
    for (int v = 0; v < 1000; v++) {
      double[] p = s.apply(Vec.at(xyz, v));
      assertThat(placed[3 * v]).isEqualTo((float) p[0]);
      assertThat(p[2]).isBetween(box.minZ() - 1e-9, box.maxZ() + 1e-9);
    }
  }
}
