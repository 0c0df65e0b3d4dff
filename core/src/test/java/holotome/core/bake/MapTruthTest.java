package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.unit.Length;
import java.util.List;
import java.util.function.ToDoubleFunction;
import org.junit.jupiter.api.Test;

/** Maps beside closed formulas, over whole pictures. Base units are metres here. */
class MapTruthTest {
  private static final int SIZE = 64;

  private static BakeMaps step(
      List<MapKind> maps, Along along, Double cage, double sight, int rays) {
    return new BakeMaps(
        maps,
        SIZE,
        4,
        Filter.BOX,
        0,
        false,
        along,
        cage == null ? null : new Length(cage),
        BakeMaps.Fill.NEAREST,
        new Length(sight),
        rays,
        16,
        null);
  }

  private static Maps bake(Mesh scan, Mesh cast, BakeMaps step) {
    Frame frame = Frame.PLAIN.withTrueSize();
    return step.apply(Workpiece.of(scan, frame).withCast(cast), Run.unwatched()).work().maps();
  }

  /** A level square from (x, y) on, its texture the whole picture. */
  private static Mesh square(double x, double y, double z, double side) {
    float[] p = {
      (float) x, (float) y, (float) z,
      (float) (x + side), (float) y, (float) z,
      (float) (x + side), (float) (y + side), (float) z,
      (float) x, (float) (y + side), (float) z
    };
    int[] t = {0, 1, 2, 0, 2, 3};
    return new Mesh(p, t).withUv(new Uv(new float[] {0, 0, 1, 0, 1, 1, 0, 1}, t));
  }

  /** Each triangle in a part of the texture of its own. */
  private static Mesh triangleByTriangle(Mesh m) {
    int n = m.triangleCount();
    int across = (int) Math.ceil(Math.sqrt(n));
    float[] uv = new float[6 * n];
    int[] corners = new int[3 * n];
    double cell = 1.0 / across;
    for (int t = 0; t < n; t++) {
      double[][] at = {{0.04, 0.04}, {0.92, 0.04}, {0.04, 0.92}};
      for (int k = 0; k < 3; k++) {
        uv[6 * t + 2 * k] = (float) ((t % across + at[k][0]) * cell);
        uv[6 * t + 2 * k + 1] = (float) ((t / across + at[k][1]) * cell);
        corners[3 * t + k] = 3 * t + k;
      }
    }
    return m.withUv(new Uv(uv, corners));
  }

  /** The mean and the largest error over all texels with a position. */
  private static double[] errors(Maps maps, MapKind kind, ToDoubleFunction<double[]> truth) {
    Image places = maps.pictures().get(MapKind.POSITION);
    Image values = maps.pictures().get(kind);
    double[] p = new double[4];
    double sum = 0;
    double most = 0;
    int n = 0;
    for (int y = 0; y < places.height(); y++) {
      for (int x = 0; x < places.width(); x++) {
        places.stored(x, y, p);
        if (p[0] != 0 || p[1] != 0 || p[2] != 0) {
          double e = Math.abs(values.value(x, y, 0) - truth.applyAsDouble(p));
          sum += e;
          most = Math.max(most, e);
          n++;
        }
      }
    }
    assertThat(n).isEqualTo(maps.covered());
    return new double[] {sum / n, most};
  }

  /**
   * Beside a wall of height h that never ends, what is seen of an even sky at a distance d from it
   * is 1 - (1 - d / sqrt(d² + h²)) / 2: the view factor of a strip at right angles (Howell, "A
   * catalog of radiation heat transfer configuration factors", from memory).
   */
  @Test
  void occlusionInARightAngledCorner() {
    double high = 1;
    float[] wall = {0, -500, 0, 0, 500, 0, 0, 500, 1, 0, -500, 1};
    Mesh scan = Shapes.together(square(0, -2, 0, 4), new Mesh(wall, new int[] {0, 1, 2, 0, 2, 3}));
    Maps maps =
        bake(
            new Mesh(scan.xyz(), scan.triangles()),
            square(0.05, -0.5, 0, 1),
            step(List.of(MapKind.OCCLUSION, MapKind.POSITION), Along.SMOOTH, 0.01, 2000, 256));
    double[] e =
        errors(
            maps,
            MapKind.OCCLUSION,
            p -> 1 - (1 - p[0] / Math.sqrt(p[0] * p[0] + high * high)) / 2);
    assertThat(e[0]).isLessThan(0.006);
    assertThat(e[1]).isLessThan(0.03);
  }

  /**
   * From anywhere on the inside of a ball, what is seen of any part of it is that part's share of
   * its area: from half a ball, open above, half of the sky.
   */
  @Test
  void occlusionInABowl() {
    Mesh ball = Shapes.sphere(1, 5);
    int[] tri = ball.triangles();
    int[] bowl = new int[tri.length];
    int n = 0;
    for (int t = 0; t < tri.length; t += 3) {
      double middle = 0;
      for (int k = 0; k < 3; k++) {
        middle += ball.xyz()[3 * tri[t + k] + 2];
      }
      if (middle < 0) {
        // Turned to face inwards.
        bowl[n++] = tri[t];
        bowl[n++] = tri[t + 2];
        bowl[n++] = tri[t + 1];
      }
    }
    Mesh scan = new Mesh(ball.xyz(), java.util.Arrays.copyOf(bowl, n));
    Maps maps =
        bake(
            scan,
            square(-0.5, -0.5, -0.8, 1),
            step(
                List.of(MapKind.OCCLUSION, MapKind.BENT_NORMAL, MapKind.POSITION),
                Along.TOP,
                0.6,
                10,
                256));
    assertThat(maps.missedCount()).isZero();
    double[] e = errors(maps, MapKind.OCCLUSION, p -> 0.5);
    assertThat(e[0]).isLessThan(0.015);
    assertThat(e[1]).isLessThan(0.05);
    // On the whole the sky lies straight up.
    Image bent = maps.pictures().get(MapKind.BENT_NORMAL);
    assertThat(bent.value(SIZE / 2, SIZE / 2, 2)).isGreaterThan(0.99);
  }

  @Test
  void thicknessOfASlab() {
    double thick = 0.07;
    Mesh top = square(-1, -1, 0, 3);
    float[] under = square(-1, -1, -thick, 3).xyz();
    Mesh bottom = new Mesh(under, new int[] {0, 2, 1, 0, 3, 2});
    Mesh scan = Shapes.together(new Mesh(top.xyz(), top.triangles()), bottom);
    Maps maps =
        bake(
            scan,
            square(0, 0, 0, 1),
            step(List.of(MapKind.THICKNESS, MapKind.POSITION), Along.SMOOTH, 0.01, 1, 16));
    double[] e = errors(maps, MapKind.THICKNESS, p -> thick);
    assertThat(e[1]).isLessThan(1e-4);
    assertThat(maps.ranges().get(MapKind.THICKNESS).high()).isCloseTo(0.07f, within(1e-4f));
  }

  @Test
  void curvatureOfABall() {
    Mesh scan = Shapes.sphere(0.5, 6);
    Mesh cast = triangleByTriangle(Shapes.sphere(0.5, 1));
    Maps maps =
        bake(
            scan,
            cast,
            step(List.of(MapKind.CURVATURE, MapKind.POSITION), Along.SMOOTH, null, 1, 1));
    double[] e = errors(maps, MapKind.CURVATURE, p -> 1 / 0.5);
    assertThat(e[0]).isLessThan(0.01);
    // The twelve vertices with five neighbours stand out.
    assertThat(e[1]).isLessThan(0.12);
  }

  /** Of a torus: (R + 2 r cos a) / (2 r (R + r cos a)), do Carmo 1976, section 3.3, from memory. */
  @Test
  void curvatureOfATorus() {
    double wide = 1;
    double thin = 0.4;
    Mesh scan = Shapes.torus(wide, thin, 480, 240);
    Mesh cast = triangleByTriangle(Shapes.torus(wide, thin, 24, 12));
    Maps maps =
        bake(
            scan,
            cast,
            step(List.of(MapKind.CURVATURE, MapKind.POSITION), Along.SMOOTH, null, 1, 1));
    double[] e =
        errors(
            maps,
            MapKind.CURVATURE,
            p -> {
              double cosine = (Math.hypot(p[0], p[1]) - wide) / thin;
              return (wide + 2 * thin * cosine) / (2 * thin * (wide + thin * cosine));
            });
    assertThat(e[0]).isLessThan(0.01);
    assertThat(e[1]).isLessThan(0.03);
  }

  @Test
  void heightAndDistanceOfAKnownRelief() {
    Mesh fine = Shapes.sheet(1, 400);
    float[] xyz = fine.xyz().clone();
    for (int v = 0; v < fine.vertexCount(); v++) {
      xyz[3 * v + 2] = (float) (0.01 * Math.sin(20 * xyz[3 * v]));
    }
    Maps maps =
        bake(
            new Mesh(xyz, fine.triangles()),
            square(0, 0, 0, 1),
            step(
                List.of(MapKind.HEIGHT, MapKind.DISTANCE, MapKind.POSITION, MapKind.FACING),
                Along.SMOOTH,
                0.05,
                1,
                1));
    double[] e = errors(maps, MapKind.HEIGHT, p -> 0.01 * Math.sin(20 * p[0]));
    // A texel holds the mean of its samples, the formula is of their mean place.
    assertThat(e[1]).isLessThan(5e-5);
    assertThat(maps.ranges().get(MapKind.HEIGHT).high()).isCloseTo(0.01f, within(1e-4f));
    assertThat(maps.ranges().get(MapKind.HEIGHT).low()).isCloseTo(-0.01f, within(1e-4f));
    // The nearest is no farther than what lies straight above, but for texels that it crosses, and
    // no nearer than the slope allows.
    Image height = maps.pictures().get(MapKind.HEIGHT);
    Image distance = maps.pictures().get(MapKind.DISTANCE);
    double slope = Math.sqrt(1 + 0.2 * 0.2);
    for (int i = 0; i < SIZE * SIZE; i++) {
      double h = Math.abs(height.value(i % SIZE, i / SIZE, 0));
      assertThat(distance.value(i % SIZE, i / SIZE, 0)).isBetween(h / slope - 1e-4, h + 8e-4);
    }
    double[] f =
        errors(
            maps,
            MapKind.FACING,
            p -> 0.5 + 0.5 / Math.sqrt(1 + Math.pow(0.2 * Math.cos(20 * p[0]), 2)));
    assertThat(f[1]).isLessThan(1e-3);
  }

  /** From the sides of a box straight in, half of the ball lies before each side's middle. */
  @Test
  void normalsOfABallOntoItsBox() {
    Mesh scan = Shapes.sphere(0.5, 6);
    Mesh cast = triangleByTriangle(Shapes.cube(1));
    Maps maps =
        bake(
            scan,
            cast,
            step(List.of(MapKind.OBJECT_NORMAL, MapKind.POSITION), Along.FACES, 0.6, 1, 1));
    Image normals = maps.pictures().get(MapKind.OBJECT_NORMAL);
    Image places = maps.pictures().get(MapKind.POSITION);
    double most = 0;
    for (int i = 0; i < SIZE * SIZE; i++) {
      double[] p = new double[4];
      places.stored(i % SIZE, i / SIZE, p);
      if (p[0] != 0 || p[1] != 0 || p[2] != 0) {
        double[] n = new double[3];
        double[] at = Vec.unit(new double[] {p[0], p[1], p[2]});
        for (int k = 0; k < 3; k++) {
          n[k] = 2 * normals.value(i % SIZE, i / SIZE, k) - 1;
        }
        if (maps.missed().value(i % SIZE, i / SIZE, 0) == 0) {
          most = Math.max(most, Vec.length(Vec.sub(n, at)));
        }
      }
    }
    assertThat(most).isLessThan(0.02);
    // The corners of the sides lie beyond the ball: 1 - pi / 4 of each.
    assertThat(maps.missedShare()).isCloseTo(1 - Math.PI / 4, within(0.04));
  }

  /** Colour as a function of the place comes out as that of the place found, on an icosahedron. */
  @Test
  void coloursAndNormalsOfABallOntoItsIcosahedron() {
    Mesh ball = Shapes.sphere(0.5, 6);
    int[] colours = new int[ball.vertexCount()];
    for (int v = 0; v < colours.length; v++) {
      int grey = (int) Math.round(127.5 + 200 * ball.xyz()[3 * v]);
      colours[v] = 0xff000000 | grey << 16 | 40 << 8 | 90;
    }
    Mesh cast = triangleByTriangle(Shapes.sphere(0.5, 0));
    Maps maps =
        bake(
            new Mesh(ball.xyz(), ball.triangles(), colours),
            cast,
            step(
                List.of(MapKind.COLOUR, MapKind.OBJECT_NORMAL, MapKind.POSITION),
                Along.SMOOTH,
                null,
                1,
                1));
    assertThat(maps.missedCount()).isZero();
    double[] e = errors(maps, MapKind.COLOUR, p -> (127.5 + 200 * p[0]) / 255);
    assertThat(e[1]).isLessThan(0.01);
    double[] n = errors(maps, MapKind.OBJECT_NORMAL, p -> 0.5 + 0.5 * p[0] / 0.5);
    assertThat(n[0]).isLessThan(0.002);
    assertThat(n[1]).isLessThan(0.01);
  }

  /** Beside the wall of the corner above, at the vertices of a grid. */
  @Test
  void whatVerticesGetIsTheSame() {
    float[] wall = {0, -500, 0, 0, 500, 0, 0, 500, 1, 0, -500, 1};
    Mesh scan = Shapes.together(square(0, -2, 0, 4), new Mesh(wall, new int[] {0, 1, 2, 0, 2, 3}));
    Mesh grid = Shapes.moved(Shapes.sheet(1, 10), 0.05, -0.5, 0);
    int[] colours = new int[scan.vertexCount()];
    java.util.Arrays.fill(colours, 0xff804020);
    Frame frame = Frame.PLAIN.withTrueSize();
    Workpiece in =
        Workpiece.of(new Mesh(scan.xyz(), scan.triangles(), colours), frame).withCast(grid);
    BakeVertices step =
        new BakeVertices(
            List.of(MapKind.OCCLUSION, MapKind.COLOUR),
            BakeVertices.From.SCAN,
            new Length(2000),
            1024);
    Mesh out = step.apply(in, Run.unwatched()).work().cast();
    float[] open = out.attributes().named("occlusion").floats();
    for (int v = 0; v < out.vertexCount(); v++) {
      double x = out.xyz()[3 * v];
      assertThat((double) open[v]).isCloseTo(1 - (1 - x / Math.hypot(x, 1)) / 2, within(0.01));
      assertThat(out.colours()[v]).isEqualTo(0xff804020);
    }
  }

  @Test
  void verticesTakeFromThePicturesWhatTheScanHasThere() {
    Mesh ball = Shapes.coloured(Shapes.sphere(0.5, 6));
    Mesh cast = triangleByTriangle(Shapes.sphere(0.5, 1));
    BakeMaps bake = new BakeMaps(List.of(MapKind.COLOUR), 256, 4, 8);
    Workpiece w =
        bake.apply(Workpiece.of(ball, Frame.PLAIN).withCast(cast), Run.unwatched()).work();
    int[] a = taken(w, BakeVertices.From.SCAN);
    int[] b = taken(w, BakeVertices.From.MAPS);
    for (int v = 0; v < a.length; v++) {
      for (int shift = 0; shift < 24; shift += 8) {
        assertThat(a[v] >> shift & 255).isCloseTo(b[v] >> shift & 255, within(12));
      }
    }
  }

  private static int[] taken(Workpiece w, BakeVertices.From from) {
    Workpiece out =
        new BakeVertices(List.of(MapKind.COLOUR), from, null, 16).apply(w, Run.unwatched()).work();
    assertThat(out.maps()).isSameAs(w.maps());
    return out.cast().colours();
  }
}
