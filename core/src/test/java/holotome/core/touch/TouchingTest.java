package holotome.core.touch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.touch.Touch.How;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Touches on a flat sheet of two charts, whose maps are known by formulas. */
class TouchingTest {
  private static final double[] UP = {0, 0, 1};

  private static TwoChartSheet waves;

  @BeforeAll
  static void make() {
    waves =
        new TwoChartSheet(
            (x, y) ->
                new double[] {
                  0.5 + 0.3 * Math.sin(5 * x), 0.5 + 0.3 * Math.cos(4 * y), 0.3 + 0.2 * x
                },
            TouchingTest::leaning,
            (x, y) -> new double[] {0.01 * Math.sin(6 * x) + 0.02 * y});
  }

  private static double[] leaning(double x, double y) {
    return new double[] {0.4 * Math.sin(6 * x), 0.3 * Math.cos(5 * y), 1};
  }

  private static Touch stroke(How how, double[] line, double radius, double soft, double[] from) {
    return new Touch(how, line, false, radius, soft, 100, from, null, 0, null);
  }

  private static Maps made(TwoChartSheet s, Touch t) {
    return Touching.apply(s.ground, s.maps, s.maps, t, Work.unwatched());
  }

  /**
   * What texels of the surface differ by from a formula where a test holds, at most and in mean.
   */
  private interface Where {
    boolean holds(double x, double y);
  }

  private static double[] difference(
      Image image, int channel, double one, TwoChartSheet.Field truth, Where where) {
    double most = 0;
    double sum = 0;
    int n = 0;
    for (int y = 0; y < TwoChartSheet.SIZE; y++) {
      for (int x = 0; x < TwoChartSheet.SIZE; x++) {
        double px = TwoChartSheet.placeX(x, y);
        double py = TwoChartSheet.placeY(x, y);
        if (TwoChartSheet.isOnSheet(x, y) && where.holds(px, py)) {
          double d = Math.abs(image.stored(x, y, channel) / one - truth.at(px, py)[channel]);
          most = Math.max(most, d);
          sum += d;
          n++;
        }
      }
    }
    assertThat(n).isGreaterThan(100);
    return new double[] {most, sum / n};
  }

  private static double away(double x, double y, double[] line) {
    double dx = line[3] - line[0];
    double dy = line[4] - line[1];
    double t = ((x - line[0]) * dx + (y - line[1]) * dy) / (dx * dx + dy * dy);
    double k = Math.clamp(t, 0, 1);
    return Math.hypot(x - line[0] - k * dx, y - line[1] - k * dy);
  }

  @Test
  void aCopyIsWhatLiesElsewhereOverTheBorderOfCharts() {
    // From the first chart onto both, so that one stroke crosses their border.
    double[] line = TwoChartSheet.line(0.8, 0.3, 1.3, 0.35);
    double[] from = {0.2, 0.6, 0};
    Maps out = made(waves, stroke(How.COPY, line, 0.1, 0, from));
    TwoChartSheet.Field moved =
        (x, y) ->
            new double[] {
              0.5 + 0.3 * Math.sin(5 * (x - 0.6)),
              0.5 + 0.3 * Math.cos(4 * (y + 0.3)),
              0.3 + 0.2 * (x - 0.6)
            };
    Where within = (x, y) -> away(x, y, line) < 0.098;
    for (int c = 0; c < 3; c++) {
      // Stored in whole steps, read between texels, stored again.
      assertThat(difference(out.pictures().get(MapKind.COLOUR), c, 255, moved, within)[0])
          .isLessThan(1.6 / 255);
    }
    Where beyond = (x, y) -> away(x, y, line) > 0.102;
    assertThat(
            difference(
                out.pictures().get(MapKind.COLOUR),
                0,
                255,
                (x, y) -> new double[] {0.5 + 0.3 * Math.sin(5 * x)},
                beyond)[0])
        .isLessThan(0.51 / 255);
  }

  /** The second chart in the next square of the texture: every texel as it was in one. */
  @Test
  void chartsInTwoSquares() {
    Maps both = beside(waves.maps);
    float[] uv = waves.mesh.uv().coords().clone();
    int[] corners = waves.mesh.uv().corners();
    for (int c = corners.length / 2; c < corners.length; c++) {
      uv[2 * corners[c]] += 1;
    }
    Mesh mesh = waves.mesh.withUv(new Uv(uv, corners));
    TouchGround ground = TouchGround.of(mesh, both, Work.unwatched());
    double[] line = TwoChartSheet.line(0.8, 0.3, 1.3, 0.35);
    double[] from = {0.2, 0.6, 0};
    for (How how : new How[] {How.COPY, How.FIT, How.BLEND, How.FILL, How.SOFTEN}) {
      Touch touch = stroke(how, line, 0.1, 40, how == How.COPY || how == How.FIT ? from : null);
      Maps one = made(waves, touch);
      Maps two = Touching.apply(ground, both, both, touch, Work.unwatched());
      assertThat(two.columns()).isEqualTo(2);
      int changed = 0;
      for (MapKind kind : one.pictures().keySet()) {
        Image a = one.pictures().get(kind);
        Image b = two.pictures().get(kind);
        // Coordinates of another square are rounded otherwise: a step of 8 bits, or as much.
        double hair = a.sample() == Image.Sample.FLOAT ? 1e-4 : 1.01 / 255 * a.sample().one();
        for (int y = 0; y < TwoChartSheet.SIZE; y++) {
          for (int x = 0; x < TwoChartSheet.SIZE; x++) {
            if (TwoChartSheet.isOnSheet(x, y)) {
              int at = x < TwoChartSheet.SIZE / 2 ? x : x + TwoChartSheet.SIZE;
              for (int c = 0; c < a.channels(); c++) {
                assertThat(b.stored(at, y, c))
                    .as("%s %s at %d %d", how, kind, x, y)
                    .isCloseTo(a.stored(x, y, c), within(hair));
              }
              boolean is = a.stored(x, y, 0) != waves.maps.pictures().get(kind).stored(x, y, 0);
              changed += is ? 1 : 0;
            }
          }
        }
      }
      assertThat(changed).isGreaterThan(1000);
    }
  }

  /** The same pictures in two squares side by side. */
  private static Maps beside(Maps maps) {
    int size = TwoChartSheet.SIZE;
    Image missed = Image.blank(2 * size, size, 1, Image.Sample.BYTE, Image.Space.LINEAR);
    Maps out = new Maps(size, Map.of(), Map.of(), missed, 1, 0, List.of());
    for (MapKind kind : maps.pictures().keySet()) {
      Image p = maps.pictures().get(kind);
      Image wide = Image.blank(2 * size, size, p.channels(), p.sample(), p.space());
      out = out.with(kind, wide.filled((x, y, v) -> p.stored(x % size, y, v), Work.unwatched()));
    }
    return out;
  }

  @Test
  void copiedNormalsPointWhereTheyDidThoughTheChartIsTurned() {
    double[] line = TwoChartSheet.line(1.3, 0.4, 1.7, 0.5);
    Maps out = made(waves, stroke(How.COPY, line, 0.1, 0, new double[] {0.3, 0.5, 0}));
    assertNormals(out, (x, y) -> leaning(x - 1, y + 0.1), (x, y) -> away(x, y, line) < 0.098);
  }

  @Test
  void aTurnTurnsWhatIsCopiedAndItsNormals() {
    double[] line = {1.5, 0.5, 0};
    Touch turned =
        new Touch(How.COPY, line, false, 0.15, 0, 100, new double[] {0.5, 0.5, 0}, null, 90, null);
    Maps out = made(waves, turned);
    // A quarter to the left at the source: what lies ahead here lies to the left there.
    TwoChartSheet.Field quarter =
        (x, y) -> {
          double[] n = leaning(0.5 - (y - 0.5), 0.5 + (x - 1.5));
          return new double[] {n[1], -n[0], n[2]};
        };
    assertNormals(out, quarter, (x, y) -> Math.hypot(x - 1.5, y - 0.5) < 0.148);
  }

  /** Both kinds of normal maps, to half a degree. */
  private static void assertNormals(Maps out, TwoChartSheet.Field truth, Where where) {
    CarriedMap tangent =
        new CarriedMap(waves.ground, MapKind.NORMAL, out.pictures().get(MapKind.NORMAL));
    CarriedMap object =
        new CarriedMap(
            waves.ground, MapKind.OBJECT_NORMAL, out.pictures().get(MapKind.OBJECT_NORMAL));
    Spot spot = new Spot(waves.ground);
    double[] v = new double[4];
    int n = 0;
    for (int y = 0; y < TwoChartSheet.SIZE; y++) {
      for (int x = 0; x < TwoChartSheet.SIZE; x++) {
        double px = TwoChartSheet.placeX(x, y);
        double py = TwoChartSheet.placeY(x, y);
        if (!TwoChartSheet.isOnSheet(x, y) || !where.holds(px, py)) {
          continue;
        }
        double[] t = truth.at(px, py);
        double l = Math.sqrt(t[0] * t[0] + t[1] * t[1] + t[2] * t[2]);
        spot.set(px > 1 ? 200 : 0, 0.3, 0.3);
        for (CarriedMap m : List.of(tangent, object)) {
          m.own(x, y, spot, v);
          double cos = (v[0] * t[0] + v[1] * t[1] + v[2] * t[2]) / l;
          assertThat(cos).as("at %f %f", px, py).isGreaterThan(Math.cos(Math.toRadians(0.5)));
        }
        n++;
      }
    }
    assertThat(n).isGreaterThan(500);
  }

  @Test
  void copiedHeightsComeToTheLevelOfWhatIsAround() {
    TwoChartSheet steps =
        new TwoChartSheet(
            (x, y) -> new double[] {0.5, 0.5, 0.5},
            (x, y) -> UP,
            (x, y) -> new double[] {(x > 1 ? 0.5 : 0) + bump(x - 0.5, y - 0.5)});
    double[] line = {1.5, 0.5, 0};
    Maps out = made(steps, stroke(How.COPY, line, 0.2, 0, new double[] {0.5, 0.5, 0}));
    double[] d =
        difference(
            out.pictures().get(MapKind.HEIGHT),
            0,
            1,
            (x, y) -> new double[] {0.5 + bump(x - 1.5, y - 0.5)},
            (x, y) -> Math.hypot(x - 1.5, y - 0.5) < 0.19);
    assertThat(d[0]).isLessThan(2e-4);
  }

  /** 0.02 high, within 0.12 of the middle. */
  private static double bump(double x, double y) {
    double r = Math.hypot(x, y) / 0.12;
    return r < 1 ? 0.01 * (1 + Math.cos(Math.PI * r)) : 0;
  }

  @Test
  void aFittedCopyTakesTheToneOfWhatIsAround() {
    // A slope of tone with a stain; what is copied is much darker, and plain.
    TwoChartSheet stained =
        new TwoChartSheet(
            (x, y) -> {
              double v = x < 0.6 ? 0.25 : 0.4 + 0.2 * (x - 1) + 0.1 * y;
              return Math.hypot(x - 1.05, y - 0.5) < 0.08
                  ? new double[] {0.9, 0.1, 0.1}
                  : new double[] {v, v, v};
            },
            (x, y) -> UP,
            (x, y) -> new double[] {0});
    Touch fit = stroke(How.FIT, new double[] {1.05, 0.5, 0}, 0.14, 30, new double[] {0.3, 0.5, 0});
    Maps out = made(stained, fit);
    for (int c = 0; c < 3; c++) {
      int channel = c;
      double[] d =
          difference(
              out.pictures().get(MapKind.COLOUR),
              c,
              255,
              (x, y) -> {
                double[] v = new double[3];
                v[channel] = 0.4 + 0.2 * (x - 1) + 0.1 * y;
                return v;
              },
              (x, y) -> Math.hypot(x - 1.05, y - 0.5) < 0.14);
      assertThat(d[0]).isLessThan(3.0 / 255);
    }
  }

  @Test
  void aSeamStrokeShowsNoStepAndKeepsTheGrain() {
    Random random = new Random(5);
    double[] grain = new double[1 << 16];
    for (int i = 0; i < grain.length; i++) {
      grain[i] = 0.04 * random.nextGaussian();
    }
    // One step lies at the border of the charts, one bends within a chart.
    TwoChartSheet s =
        new TwoChartSheet(
            (x, y) -> {
              int cell =
                  (int) Math.floor(x / TwoChartSheet.TEXEL / 2) * 977
                      + (int) Math.floor(y / TwoChartSheet.TEXEL / 2);
              double v =
                  0.4
                      + grain[cell & 0xffff]
                      + (x > 1 ? 0.15 : 0)
                      + (y > 0.5 + 0.03 * Math.sin(6 * x) ? 0.12 : 0);
              return new double[] {v, 0.9 * v, 0.8 * v};
            },
            (x, y) -> UP,
            (x, y) -> new double[] {0});
    Touch border = stroke(How.BLEND, TwoChartSheet.line(1.01, 0.1, 1.0, 0.4), 0.1, 20, null);
    Image after = made(s, border).pictures().get(MapKind.COLOUR);
    Image before = s.maps.pictures().get(MapKind.COLOUR);
    Where left = (x, y) -> y > 0.15 && y < 0.35 && x > 0.985 && x < 1;
    Where right = (x, y) -> y > 0.15 && y < 0.35 && x > 1 && x < 1.015;
    assertThat(mean(before, right) - mean(before, left)).isCloseTo(0.15, within(0.01));
    // A slope is left, which is 0.011 between the middles of the two; and the grain.
    assertThat(mean(after, right) - mean(after, left)).isCloseTo(0.011, within(0.012));
    assertThat(spread(after, left)).isCloseTo(spread(before, left), within(0.006));

    Touch inside = stroke(How.BLEND, TwoChartSheet.line(0.2, 0.51, 0.8, 0.5), 0.1, 20, null);
    Image bent = made(s, inside).pictures().get(MapKind.COLOUR);
    Where under = (x, y) -> x > 0.3 && x < 0.7 && beside(x, y) > -0.02 && beside(x, y) < -0.004;
    Where over = (x, y) -> x > 0.3 && x < 0.7 && beside(x, y) < 0.02 && beside(x, y) > 0.004;
    assertThat(mean(before, over) - mean(before, under)).isCloseTo(0.12, within(0.01));
    assertThat(mean(bent, over) - mean(bent, under)).isCloseTo(0.01, within(0.015));
  }

  private static double beside(double x, double y) {
    return y - 0.5 - 0.03 * Math.sin(6 * x);
  }

  private static List<Double> values(Image image, Where where) {
    List<Double> out = new ArrayList<>();
    for (int y = 0; y < TwoChartSheet.SIZE; y++) {
      for (int x = 0; x < TwoChartSheet.SIZE; x++) {
        if (TwoChartSheet.isOnSheet(x, y)
            && where.holds(TwoChartSheet.placeX(x, y), TwoChartSheet.placeY(x, y))) {
          out.add(image.value(x, y, 0));
        }
      }
    }
    return out;
  }

  private static double mean(Image image, Where where) {
    return values(image, where).stream().mapToDouble(d -> d).average().orElseThrow();
  }

  private static double spread(Image image, Where where) {
    double mean = mean(image, where);
    return Math.sqrt(
        values(image, where).stream()
            .mapToDouble(d -> (d - mean) * (d - mean))
            .average()
            .orElseThrow());
  }

  @Test
  void softeningLevelsDifferencesAndLeavesAnEvenColourAlone() {
    TwoChartSheet s =
        new TwoChartSheet(
            (x, y) -> {
              double v = x < 1 ? 0.5 + 0.2 * Math.signum(Math.sin(80 * x)) : 0.3;
              return new double[] {v, v, v};
            },
            (x, y) -> UP,
            (x, y) -> new double[] {1});
    Where inner = (x, y) -> Math.hypot(x - 0.5, y - 0.5) < 0.05;
    Image before = s.maps.pictures().get(MapKind.COLOUR);
    Maps out = made(s, stroke(How.SOFTEN, new double[] {0.5, 0.5, 0}, 0.15, 50, null));
    assertThat(spread(out.pictures().get(MapKind.COLOUR), inner))
        .isLessThan(0.25 * spread(before, inner));
    assertThat(out.pictures().get(MapKind.HEIGHT).sameAs(s.maps.pictures().get(MapKind.HEIGHT)))
        .isTrue();
    Maps even = made(s, stroke(How.SOFTEN, new double[] {1.5, 0.5, 0}, 0.15, 50, null));
    assertThat(even.pictures().get(MapKind.COLOUR).sameAs(before)).isTrue();
  }

  @Test
  void aHoleIsFilledWithThePatternAroundIt() {
    TwoChartSheet.Field stripes =
        (x, y) -> {
          double v = Math.floorMod((int) Math.floor((x + y) / 0.05), 2) == 0 ? 0.7 : 0.3;
          return new double[] {v, v, v};
        };
    TwoChartSheet s =
        new TwoChartSheet(
            (x, y) -> Math.hypot(x - 1, y - 0.5) < 0.09 ? new double[] {1, 0, 0} : stripes.at(x, y),
            (x, y) -> UP,
            (x, y) -> new double[] {0});
    Touch fill = stroke(How.FILL, new double[] {1, 0.5, 0}, 0.11, 10, null);
    Maps out = made(s, fill);
    double[] d =
        difference(
            out.pictures().get(MapKind.COLOUR),
            0,
            255,
            stripes,
            (x, y) -> Math.hypot(x - 1, y - 0.5) < 0.11);
    assertThat(d[1]).isLessThan(0.03);
  }

  @Test
  void anAreaLiesWhereItWasDraggedAndIsBlendedIn() {
    double[] outline = {0.4, 0.4, 0, 0.6, 0.4, 0, 0.6, 0.6, 0, 0.4, 0.6, 0};
    TwoChartSheet s =
        new TwoChartSheet(
            (x, y) -> {
              double v = (x > 1 ? 0.6 : 0.2) + 2 * bump(x - 0.5, y - 0.5);
              return new double[] {v, v, v};
            },
            (x, y) -> UP,
            (x, y) -> new double[] {0});
    Touch piece =
        new Touch(
            How.FIT,
            outline,
            true,
            0.05,
            50,
            100,
            new double[] {0.45, 0.5, 0},
            new double[] {1.45, 0.5, 0},
            0,
            null);
    Maps out = made(s, piece);
    double[] d =
        difference(
            out.pictures().get(MapKind.COLOUR),
            0,
            255,
            (x, y) -> {
              double dx = Math.abs(x - 1.5);
              double dy = Math.abs(y - 0.5);
              boolean in = dx < 0.1 && dy < 0.1;
              return new double[] {0.6 + (in ? 2 * bump(x - 1.5, y - 0.5) : 0)};
            },
            (x, y) -> x > 1.1 && Math.hypot(x - 1.5, y - 0.5) < 0.07);
    assertThat(d[0]).isLessThan(4.0 / 255);
    // Beyond the outline nothing changed.
    double[] beyond =
        difference(
            out.pictures().get(MapKind.COLOUR),
            0,
            255,
            (x, y) -> new double[] {0.6},
            (x, y) -> x > 1.02 && Math.max(Math.abs(x - 1.5), Math.abs(y - 0.5)) > 0.102);
    assertThat(beyond[0]).isLessThan(0.51 / 255);
  }

  @Test
  void whatWasRestoredIsWhatItWasToTheByte() {
    double[] line = TwoChartSheet.line(0.8, 0.3, 1.3, 0.35);
    Maps copied = made(waves, stroke(How.COPY, line, 0.1, 50, new double[] {0.2, 0.6, 0}));
    Touch back = stroke(How.RESTORE, line, 0.15, 0, null);
    Maps restored = Touching.apply(waves.ground, copied, waves.maps, back, Work.unwatched());
    for (MapKind k : waves.maps.pictures().keySet()) {
      Image was = waves.maps.pictures().get(k);
      Image is = restored.pictures().get(k);
      assertThat(copied.pictures().get(k).sameAs(was)).isFalse();
      for (int y = 0; y < TwoChartSheet.SIZE; y++) {
        for (int x = 0; x < TwoChartSheet.SIZE; x++) {
          if (TwoChartSheet.isOnSheet(x, y)) {
            // Normals go through their frame and back.
            assertThat(is.stored(x, y, 0))
                .isCloseTo(
                    was.stored(x, y, 0),
                    within(k == MapKind.NORMAL || k == MapKind.OBJECT_NORMAL ? 1.0 : 0.0));
          }
        }
      }
    }
  }

  @Test
  void aStrokeCostsTheTilesItTouchesAndOnlyTheMapsAskedFor() {
    Touch dab =
        new Touch(
            How.SOFTEN,
            new double[] {0.5, 0.5, 0},
            false,
            0.05,
            50,
            100,
            null,
            null,
            0,
            List.of(MapKind.COLOUR));
    Maps out = made(waves, dab);
    Image colour = out.pictures().get(MapKind.COLOUR);
    assertThat(colour.tilesSharedWith(waves.maps.pictures().get(MapKind.COLOUR)))
        .isBetween(colour.tileCount() - 4, colour.tileCount() - 1);
    assertThat(out.pictures().get(MapKind.NORMAL))
        .isSameAs(waves.maps.pictures().get(MapKind.NORMAL));
  }

  @Test
  void guttersCarryOnWhatChanged() {
    double[] line = TwoChartSheet.line(0.98, 0.3, 0.98, 0.6);
    Maps out = made(waves, stroke(How.COPY, line, 0.1, 0, new double[] {0.2, 0.3, 0}));
    Image colour = out.pictures().get(MapKind.COLOUR);
    // The first chart's right border lies at texel 0.46 * 512 = 235.52.
    int y = (int) (TwoChartSheet.SIZE * (1 - 0.04 - 0.42 * 0.45));
    for (int x = 236; x < 240; x++) {
      for (int c = 0; c < 3; c++) {
        assertThat(colour.stored(x, y, c)).isCloseTo(colour.stored(235, y, c), within(3.0));
      }
    }
  }

  @Test
  void oneThreadMakesTheSameAsMany() {
    List<Touch> touches = new ArrayList<>();
    double[] line = TwoChartSheet.line(0.7, 0.3, 1.4, 0.6);
    for (How how : How.values()) {
      touches.add(stroke(how, line, 0.1, 50, how.copies() ? new double[] {0.3, 0.4, 0} : null));
    }
    int threads = Parallel.threads();
    for (Touch t : touches) {
      Maps many = made(waves, t);
      Parallel.limitThreads(1);
      Maps one = made(waves, t);
      Parallel.limitThreads(threads);
      for (MapKind k : one.pictures().keySet()) {
        assertThat(many.pictures().get(k).sameAs(one.pictures().get(k)))
            .as("%s of %s", t.how(), k)
            .isTrue();
      }
    }
  }

  @Test
  void whatIsShownWhileDrawingIsWhatIsMade() {
    Touch t =
        new Touch(
            How.COPY,
            new double[] {0.7, 0.3, 0, 0.9, 0.4, 0, 1.1, 0.35, 0, 1.4, 0.6, 0},
            false,
            0.1,
            50,
            100,
            new double[] {0.3, 0.4, 0},
            null,
            0,
            List.of(MapKind.COLOUR, MapKind.NORMAL));
    LiveTouch live = new LiveTouch(waves.ground, waves.maps, waves.maps, t);
    Maps shown = null;
    for (int i = 0; i < t.points(); i++) {
      shown = live.follow(List.of(t.point(i)));
    }
    Maps made = made(waves, t);
    for (MapKind k : t.maps()) {
      Image a = shown.pictures().get(k);
      Image b = made.pictures().get(k);
      for (int y = 0; y < TwoChartSheet.SIZE; y++) {
        for (int x = 0; x < TwoChartSheet.SIZE; x++) {
          if (TwoChartSheet.isOnSheet(x, y)) {
            assertThat(a.stored(x, y, 0)).isEqualTo(b.stored(x, y, 0));
          }
        }
      }
    }
  }

  @Test
  void whatCannotBeDoneIsSaid() {
    assertThatThrownBy(() -> stroke(How.COPY, new double[3], 0.1, 0, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> stroke(How.FILL, new double[] {0, Double.NaN, 0}, 0.1, 0, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> stroke(How.FILL, new double[4], 0.1, 0, null))
        .isInstanceOf(Failure.class);
    Touch bent =
        new Touch(
            How.COPY,
            new double[] {1, 0.5, 0},
            false,
            0.1,
            0,
            100,
            UP,
            null,
            0,
            List.of(MapKind.MASK));
    assertThatThrownBy(() -> made(waves, bent)).hasMessageContaining("None of the maps");
    Touch whole = stroke(How.FILL, new double[] {1, 0.5, 0}, 3, 0, null);
    assertThatThrownBy(() -> made(waves, whole)).hasMessageContaining("too little around");
  }
}
