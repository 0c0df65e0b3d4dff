package holotome.core.swatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Parallel;
import holotome.core.unit.Length;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** Maps that are made to tile: no step where the tile meets itself, nothing else changed. */
class TileTest {
  private static final int SIZE = 288;
  private static final int TILE = 256;

  private static Workpiece baked;

  /** Rough ground with patches of colour, none of it periodic, brighter and higher to one side. */
  @BeforeAll
  static void bake() {
    Mesh sheet = Shapes.sheet(3, 300);
    float[] xyz = sheet.xyz().clone();
    int[] colours = new int[sheet.vertexCount()];
    for (int v = 0; v < colours.length; v++) {
      double x = xyz[3 * v];
      double y = xyz[3 * v + 1];
      xyz[3 * v + 2] =
          (float)
              (0.01 * Math.sin(9 * x + 2 * y) * Math.cos(7 * y - x)
                  + 0.006 * Math.sin(23 * x - 11 * y)
                  + 0.05 * x
                  + 0.02 * x * x);
      double light = 0.35 + 0.1 * Math.sin(8 * x + 3 * y * y) + 0.08 * Math.cos(13 * y) + 0.06 * x;
      int r = (int) (255 * light);
      colours[v] = 0xff000000 | r << 16 | (int) (0.8 * r) << 8 | (int) (0.6 * r);
    }
    Mesh scan = new Mesh(xyz, sheet.triangles(), colours);
    LaySwatch lay =
        new LaySwatch(
            new double[] {1.6, 1.6, 0.1},
            new Length(1.5),
            new Length(1.5),
            0,
            new double[] {0, 0, 1},
            12.5);
    Workpiece w = Workpiece.of(scan, Frame.PLAIN.withTrueSize());
    w = lay.apply(w, Run.unwatched()).work();
    w = new SettleSwatch(new Length(0.9), new Length(0.001), null).apply(w, Run.unwatched()).work();
    baked =
        new BakeMaps(
                List.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.HEIGHT, MapKind.POSITION),
                SIZE,
                4,
                0)
            .apply(w, Run.unwatched())
            .work();
  }

  private static Outcome tiled(boolean level) {
    return new TileSwatch(level, 6).apply(baked, Run.unwatched());
  }

  /** Of any way through a strip none costs less: all of them counted. */
  @Test
  void theCheapestWay() {
    Random random = new Random(3);
    for (int trial = 0; trial < 30; trial++) {
      float[] cost = new float[4 * 7];
      for (int i = 0; i < cost.length; i++) {
        cost[i] = random.nextFloat();
      }
      int[] way = new SeamPath(cost, 4).open();
      assertThat(price(cost, way)).isCloseTo(cheapest(cost, 0, -1), within(1e-6));
      // Closed: the cheapest of those that are held at the place that it begins and ends at.
      int[] closed = new SeamPath(cost, 4).closed();
      double around = step(cost, 0, closed[6], closed[0]);
      assertThat(price(cost, closed) - cost[closed[0]] + around)
          .isCloseTo(cheapestAround(cost, closed[0]), within(1e-6));
    }
  }

  private static double price(float[] cost, int[] way) {
    double sum = cost[way[0]];
    for (int l = 1; l < way.length; l++) {
      sum += step(cost, l, way[l - 1], way[l]);
    }
    return sum;
  }

  /** Into a line, no farther than one aside, and along it: all that it runs over. */
  private static double step(float[] cost, int line, int from, int to) {
    double best = Double.POSITIVE_INFINITY;
    for (int entry = Math.max(0, from - 1); entry <= Math.min(3, from + 1); entry++) {
      double sum = 0;
      for (int i = Math.min(entry, to); i <= Math.max(entry, to); i++) {
        sum += cost[4 * line + i];
      }
      best = Math.min(best, sum);
    }
    return best;
  }

  private static double cheapest(float[] cost, int line, int at) {
    if (4 * line == cost.length) {
      return 0;
    }
    double best = Double.POSITIVE_INFINITY;
    for (int i = 0; i < 4; i++) {
      double step = line == 0 ? cost[i] : step(cost, line, at, i);
      best = Math.min(best, step + cheapest(cost, line + 1, i));
    }
    return best;
  }

  private static double cheapestAround(float[] cost, int start) {
    double best = Double.POSITIVE_INFINITY;
    int[] way = new int[7];
    way[0] = start;
    for (int code = 0; code < 1 << 12; code++) {
      double sum = 0;
      for (int l = 1; l < 7; l++) {
        way[l] = code >> 2 * (l - 1) & 3;
        sum += step(cost, l, way[l - 1], way[l]);
      }
      best = Math.min(best, sum + step(cost, 0, way[6], start));
    }
    return best;
  }

  /** The step across the border is as between neighbours inside; uncut it is many times that. */
  @Test
  void theBorderDoesNotShow() {
    Maps maps = tiled(true).work().maps();
    assertThat(maps.size()).isEqualTo(TILE);
    for (MapKind kind : List.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.HEIGHT)) {
      Image was = baked.maps().pictures().get(kind).cut(SIZE - TILE, 0, TILE, TILE);
      double[] before = TilePicture.steps(was);
      double[] after = TilePicture.steps(maps.pictures().get(kind));
      assertThat(before[0]).as("%s uncut", kind).isGreaterThan(4 * before[1]);
      assertThat(after[0]).as("%s", kind).isLessThan(1.15 * after[1]);
      // No harder edge along the cut either.
      assertThat(after[1]).isLessThan(1.15 * before[1]);
    }
    assertThat(maps.pictures()).doesNotContainKey(MapKind.POSITION);
    assertThat(maps.covered()).isEqualTo(TILE * TILE);
  }

  /** Without levelling all that lies off the strips is the baked picture, pixel by pixel. */
  @Test
  void whatIsNotCutIsAsItWas() {
    Maps maps = tiled(false).work().maps();
    int over = SIZE - TILE;
    for (MapKind kind : maps.pictures().keySet()) {
      Image was = baked.maps().pictures().get(kind);
      Image is = maps.pictures().get(kind);
      for (int y = over + 8; y < TILE; y++) {
        for (int x = 0; x < TILE - over - 8; x++) {
          for (int c = 0; c < is.channels(); c++) {
            assertThat(is.stored(x, y, c))
                .isCloseTo(was.stored(over + x, y, c), within(1e-6 + 1e-9 * SIZE));
          }
        }
      }
    }
  }

  @Test
  void normalsStayUnit() {
    Image normal = tiled(true).work().maps().pictures().get(MapKind.NORMAL);
    for (int i = 0; i < TILE * TILE; i++) {
      double sum = 0;
      for (int c = 0; c < 3; c++) {
        double n = normal.stored(i % TILE, i / TILE, c) / 127.5 - 1;
        sum += n * n;
      }
      assertThat(Math.sqrt(sum)).isCloseTo(1, within(0.02));
    }
  }

  /** Exactly as large as was asked for, flat, whatever the slope it had settled on. */
  @Test
  void theTileHasTheSizeAskedFor() {
    Outcome out = tiled(true);
    Mesh m = out.work().cast();
    assertThat(m.triangleCount()).isEqualTo(2);
    double[] across = Vec.sub(Vec.at(m.xyz(), 1), Vec.at(m.xyz(), 0));
    double[] up = Vec.sub(Vec.at(m.xyz(), 2), Vec.at(m.xyz(), 0));
    assertThat(Vec.length(across)).isCloseTo(1.5, within(1e-5));
    assertThat(Vec.length(up)).isCloseTo(1.5, within(1e-5));
    assertThat(Math.abs(Vec.unit(Vec.cross(across, up))[2])).isCloseTo(1, within(1e-5));
    assertThat(String.join("; ", out.notes())).contains("256 × 256").contains("across its sides");
  }

  @Test
  void theSameOnOneThreadAndMany() {
    Maps many = tiled(true).work().maps();
    int threads = Parallel.threads();
    Parallel.limitThreads(1);
    Maps one = tiled(true).work().maps();
    Parallel.limitThreads(threads);
    many.pictures().forEach((k, p) -> assertThat(p.sameAs(one.pictures().get(k))).isTrue());
  }

  @Test
  void whatIsNoSwatchIsSaid() {
    Workpiece bare = Workpiece.of(Shapes.sheet(1, 2), Frame.PLAIN);
    assertThatThrownBy(() -> new TileSwatch(true, 6).apply(bare, Run.unwatched()))
        .hasMessageContaining("swatch.lay");
    assertThatThrownBy(() -> new TileSwatch(true, 6).apply(baked.withMaps(null), Run.unwatched()))
        .hasMessageContaining("bake.maps");
  }
}
