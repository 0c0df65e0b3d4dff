package holotome.core.swatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.swatch.LaySwatch.Find;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Places for a Swatch on ground that is made by formula: what was laid down is known. */
class SwatchSearchTest {
  private static final double SIDE = 3;
  private static final int CELLS = 420;

  /** A course of stones is so high and a stone so long; each course is shifted by half a stone. */
  private static final double COURSE = 0.16;

  private static final double STONE = 0.25;

  /** Something of another colour lies here, x, y and how far it reaches. */
  private static final double[] STAIN = {2.1, 2.0, 0.35};

  private static Mesh sheet;

  @BeforeAll
  static void lay() {
    sheet = Shapes.sheet(SIDE, CELLS);
  }

  /** Stones with joints between them, in courses at an angle, each of its own tone. */
  private static Workpiece paved(double degrees, boolean isStained) {
    float[] xyz = sheet.xyz().clone();
    int[] colours = new int[sheet.vertexCount()];
    double c = Math.cos(Math.toRadians(degrees));
    double s = Math.sin(Math.toRadians(degrees));
    Random grain = new Random(5);
    for (int v = 0; v < colours.length; v++) {
      double x = xyz[3 * v];
      double y = xyz[3 * v + 1];
      double a = c * x + s * y;
      double b = c * y - s * x;
      int row = (int) Math.floor(b / COURSE);
      double shifted = a + (row & 1) * STONE / 2;
      int column = (int) Math.floor(shifted / STONE);
      double du = shifted - column * STONE;
      double dv = b - row * COURSE;
      double edge = Math.min(Math.min(du, STONE - du), Math.min(dv, COURSE - dv));
      double tone = 0.5 + 0.05 * new Random(31L * row + 977L * column).nextDouble();
      double light = edge < 0.012 ? 0.25 : tone;
      xyz[3 * v + 2] = (float) (edge < 0.012 ? -0.008 : 0.0004 * grain.nextGaussian());
      int grey = (int) (255 * light);
      boolean isOn = Math.hypot(x - STAIN[0], y - STAIN[1]) < STAIN[2];
      colours[v] = isStained && isOn ? 0xff307020 : 0xff000000 | grey << 16 | grey << 8 | grey;
    }
    return Workpiece.of(new Mesh(xyz, sheet.triangles(), colours), Frame.PLAIN.withTrueSize());
  }

  private static LaySwatch over(double x, double y, double side, Find find) {
    return new LaySwatch(
        new double[] {x, y, 0}, find, new Length(side), new Length(side), 0, null, 12.5);
  }

  private static LaySwatch laid(LaySwatch step, Workpiece w) {
    return step.asLaid(step.apply(w, Run.unwatched()).work());
  }

  /**
   * It lies along the courses, and its sides go on in each other: whole stones and course pairs.
   */
  @ParameterizedTest
  @ValueSource(doubles = {0, 17, -31})
  void alongThePatternInWholeStones(double degrees) {
    Workpiece w = paved(degrees, false);
    LaySwatch found = laid(over(1.5, 1.5, 1.1, Find.PATTERN), w);
    assertThat(Math.IEEEremainder(found.turn() - degrees, 90)).isCloseTo(0, within(0.3));
    boolean isAcross = Math.abs(Math.IEEEremainder(found.turn() - degrees, 180)) > 45;
    double along = (isAcross ? found.height() : found.width()).metres();
    double up = (isAcross ? found.width() : found.height()).metres();
    assertThat(Math.IEEEremainder(up, COURSE)).isCloseTo(0, within(0.02));
    // Pairs of courses where the stones fit as they lie, or half a stone and a single one.
    double stones = Math.IEEEremainder(along, STONE / 2);
    assertThat(stones).isCloseTo(0, within(0.02));
    assertThat(found.width().metres()).isBetween(1.1 * 0.85, 1.1 * 1.15);
    assertThat(found.height().metres()).isBetween(1.1 * 0.85, 1.1 * 1.15);
  }

  /** A typed size stays, and what is no ground is kept out. */
  @Test
  void theEvenestKeepsItsSizeAndKeepsOffTheStain() {
    Workpiece w = paved(10, true);
    // Begun in the middle of the stain.
    LaySwatch found = laid(over(STAIN[0], STAIN[1], 0.9, Find.EVEN), w);
    assertThat(found.width().metres()).isCloseTo(0.9, within(1e-5));
    assertThat(found.height().metres()).isCloseTo(0.9, within(1e-5));
    assertThat(inStain(found)).isZero();
    assertThat(inStain(laid(over(STAIN[0], STAIN[1], 0.9, Find.HERE), w))).isPositive();
  }

  /** How many of its places, with what is taken in beside it, lie in the stain. */
  private static int inStain(LaySwatch s) {
    double c = Math.cos(Math.toRadians(s.turn()));
    double t = Math.sin(Math.toRadians(s.turn()));
    double more = 2 * s.apron() / 100;
    int n = 0;
    for (int i = 0; i <= 100; i++) {
      for (int j = 0; j <= 100; j++) {
        double a = (-1 - more + (2 + more) * i / 100) * s.width().metres() / 2;
        double b = (-1 - more + (2 + more) * j / 100) * s.height().metres() / 2;
        double x = s.point()[0] + c * a - t * b;
        double y = s.point()[1] + t * a + c * b;
        // A cell at its rim may be taken for either.
        n += Math.hypot(x - STAIN[0], y - STAIN[1]) < STAIN[2] - 0.01 ? 1 : 0;
      }
    }
    return n;
  }

  /**
   * The largest square, as its formula says: of a plain sheet all of it, less what is beside it.
   */
  @Test
  void theLargestFillsTheSheet() {
    Workpiece w = paved(0, false);
    LaySwatch found = laid(over(1.5, 1.5, 1.5, Find.LARGEST), w);
    assertThat(found.width().metres()).isCloseTo(found.height().metres(), within(1e-5));
    assertThat(1.125 * found.width().metres()).isBetween(0.95 * SIDE, SIDE + 1e-6);
    LaySwatch besides = laid(over(1.5, 1.5, 1, Find.LARGEST), paved(0, true));
    // Its corner touches the stain, of which a hundredth is let in.
    double untouched = (STAIN[0] + STAIN[1]) / 2 - STAIN[2] / Math.sqrt(2);
    assertThat(1.125 * besides.width().metres()).isBetween(0.98 * untouched, 1.1 * untouched);
    assertThat(inStain(besides)).isLessThan(120);
  }

  @Test
  void whereThereIsNoRoomItSaysSo() {
    Workpiece w = paved(0, false);
    assertThatThrownBy(() -> over(1.5, 1.5, 3.2, Find.EVEN).apply(w, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("smaller");
  }

  /** A tile over a place that fits shows less of a border than one laid anyhow. */
  @Test
  void whatFitsDiffersLessAlongItsCut() {
    Workpiece w = paved(23, false);
    double here = cut(over(1.5, 1.5, 1.1, Find.EVEN), w);
    double fits = cut(over(1.5, 1.5, 1.1, Find.PATTERN), w);
    assertThat(fits).isLessThanOrEqualTo(here);
    assertThat(fits).isLessThan(8);
  }

  private static double cut(LaySwatch step, Workpiece w) {
    Outcome o = step.apply(w, Run.unwatched());
    String said = String.join(" ", o.notes());
    return Double.parseDouble(said.replaceAll(".*differ by ([0-9.]+) ?%.*", "$1"));
  }

  /** The preview is the tile's own colours: bright stones and dark joints, in its own form. */
  @Test
  void thePreviewShowsTheGround() {
    Workpiece w = paved(0, false);
    Workpiece made =
        new LaySwatch(new double[] {1.5, 1.5, 0}, new Length(1), new Length(0.5), 0, null, 12.5)
            .apply(w, Run.unwatched())
            .work();
    SwatchPreview p = SwatchPreview.of(made, 64, Work.unwatched());
    assertThat(p.aspect()).isCloseTo(2, within(1e-5));
    int bright = 0;
    int dark = 0;
    for (int c : p.argb()) {
      int g = c >> 8 & 255;
      bright += g > 110 ? 1 : 0;
      dark += g < 85 ? 1 : 0;
    }
    double joints = 1 - (1 - 0.024 / STONE) * (1 - 0.024 / COURSE);
    assertThat((double) dark / p.argb().length).isCloseTo(joints, within(0.1));
    assertThat((double) bright / p.argb().length).isGreaterThan(0.6);
    assertThat(SwatchPreview.of(w, 64, Work.unwatched())).isNull();
  }
}
