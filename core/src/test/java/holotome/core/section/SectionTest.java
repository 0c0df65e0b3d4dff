package holotome.core.section;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.junit.jupiter.api.Test;

/** Sections beside closed formulas. */
class SectionTest {
  private static Section cut(Mesh m, double[] point, double[] normal) {
    return Slicer.cut(m, Similarity.IDENTITY, SectionPlane.of(point, normal), Work.unwatched());
  }

  @Test
  void aSphereGivesCircles() {
    Mesh ball = Shapes.sphere(1, 6);
    for (double h : new double[] {-0.9, -0.3, 0, 0.52}) {
      Section s = cut(ball, Vec.of(0, 0, h), Vec.of(0, 0, 1));
      double r = Math.sqrt(1 - h * h);
      assertThat(s.curves()).hasSize(1);
      assertThat(s.curves().getFirst().closed()).isTrue();
      assertThat(s.area()).isCloseTo(Math.PI * r * r, within(2e-3));
      assertThat(s.length()).isCloseTo(2 * Math.PI * r, within(2e-3));
      assertThat(s.centroid()[0]).isCloseTo(0, within(1e-4));
      assertThat(s.curves().getFirst().area()).isPositive();
    }
    assertThat(cut(ball, Vec.of(0, 0, 1.01), Vec.of(0, 0, 1)).isEmpty()).isTrue();
  }

  @Test
  void aTorusGivesARingAndTwoCircles() {
    Mesh torus = Shapes.torus(1, 0.25, 400, 160);
    Section level = cut(torus, Vec.of(0, 0, 1e-4), Vec.of(0, 0, 1));
    assertThat(level.curves()).hasSize(2);
    // Pappus: 4 pi R r between the two circles.
    assertThat(level.area()).isCloseTo(4 * Math.PI * 0.25, within(2e-3));
    assertThat(Vec.length(Vec.of(level.centroid()[0], level.centroid()[1], 0))).isLessThan(1e-6);
    Section upright = cut(torus, Vec.of(0, 1e-4, 0), Vec.of(0, 1, 0));
    assertThat(upright.curves()).hasSize(2);
    assertThat(upright.area()).isCloseTo(2 * Math.PI * 0.25 * 0.25, within(1e-3));
    for (Curve c : upright.curves()) {
      assertThat(Math.abs(c.centroid()[0])).isCloseTo(1, within(1e-4));
      assertThat(c.centroid()[1]).isCloseTo(0, within(1e-4));
    }
  }

  @Test
  void aCubeAcrossItsDiagonalGivesAHexagon() {
    Section s = cut(Shapes.cube(2), Vec.of(1, 1, 1), Vec.of(1, 1, 1));
    Section other = cut(Shapes.cube(2), new Box(0, 0, 0, 0, 0, 0).centre(), Vec.of(1, 1, 1));
    Box b = Shapes.cube(2).bounds();
    Section middle = cut(Shapes.cube(2), b.centre(), Vec.of(1, 1, 1));
    // A regular hexagon of side sqrt(2): 3 sqrt(3) / 2 · 2.
    assertThat(middle.area()).isCloseTo(3 * Math.sqrt(3), within(1e-6));
    assertThat(middle.length()).isCloseTo(6 * Math.sqrt(2), within(1e-6));
    assertThat(s.openCurves() + other.openCurves() + middle.openCurves()).isZero();
  }

  @Test
  void planesThroughVerticesEdgesAndFacesCutOnce() {
    Mesh cube = Shapes.cube(2);
    Box b = cube.bounds();
    for (double z : new double[] {b.minZ(), b.maxZ()}) {
      // A face in the plane is met from one side and not from the other.
      Section up = cut(cube, Vec.of(0, 0, z), Vec.of(0, 0, 1));
      Section down = cut(cube, Vec.of(0, 0, z), Vec.of(0, 0, -1));
      assertThat(up.area() + down.area()).isCloseTo(4, within(1e-6));
      assertThat(up.openCurves() + down.openCurves()).isZero();
    }
    // Along the diagonal of two faces.
    Section diagonal = cut(cube, b.centre(), Vec.of(1, -1, 0));
    assertThat(diagonal.area()).isCloseTo(4 * Math.sqrt(2), within(1e-6));
    assertThat(diagonal.curves()).hasSize(1);
    Mesh torus = Shapes.torus(1, 0.25, 40, 16);
    for (int axis = 0; axis < 3; axis++) {
      double[] n = new double[3];
      n[axis] = 1;
      Section s = cut(torus, Vec.of(0, 0, 0), n);
      assertThat(s.openCurves()).isZero();
      assertThat(s.area()).isPositive();
    }
  }

  @Test
  void anOpenMeshGivesOpenCurvesAndADoubledSeamIsClosed() {
    Section s = cut(Shapes.sheet(1, 10), Vec.of(0.33, 0, 0), Vec.of(1, 0, 0));
    assertThat(s.curves()).hasSize(1);
    assertThat(s.openCurves()).isEqualTo(1);
    assertThat(s.length()).isCloseTo(1, within(1e-6));
    assertThat(s.area()).isZero();

    // Two halves that share no vertex but the places of those on their seam.
    Mesh ball = Shapes.sphere(1, 4);
    BitSet east = new BitSet();
    for (int t = 0; t < ball.triangleCount(); t++) {
      east.set(t, ball.xyz()[3 * ball.triangles()[3 * t]] > 0.1);
    }
    BitSet west = (BitSet) east.clone();
    west.flip(0, ball.triangleCount());
    Mesh halves =
        Shapes.together(
            Submesh.of(ball, east::get, Work.unwatched()),
            Submesh.of(ball, west::get, Work.unwatched()));
    Section whole = cut(halves, Vec.of(0, 0, 0.123), Vec.of(0, 0, 1));
    assertThat(whole.openCurves()).isZero();
    assertThat(whole.area())
        .isCloseTo(cut(ball, Vec.of(0, 0, 0.123), Vec.of(0, 0, 1)).area(), within(1e-12));
  }

  @Test
  void aMessIsCutWithoutLosingALength() {
    Mesh mess = Shapes.mess(2000, 5);
    Section s = cut(mess, mess.bounds().centre(), Vec.of(0.2, 0.3, 1));
    double sum = 0;
    for (int t = 0; t < mess.triangleCount(); t++) {
      BitSet one = new BitSet();
      one.set(t);
      sum +=
          cut(
                  Submesh.of(mess, one::get, Work.unwatched()),
                  mess.bounds().centre(),
                  Vec.of(0.2, 0.3, 1))
              .length();
    }
    assertThat(s.length()).isCloseTo(sum, within(1e-9 * sum));
    assertThat(cut(new Mesh(new float[0], new int[0]), new double[3], Vec.of(0, 0, 1)).isEmpty())
        .isTrue();
  }

  @Test
  void theDragonIsTheSumOfItsSlices() {
    Mesh dragon = MeshReader.read(Datasets.file("dragon.ply"), Work.unwatched()).mesh();
    Box b = dragon.bounds();
    int n = 200;
    double step = b.height() / n;
    SectionPlane first = SectionPlane.of(Vec.of(0, 0, b.minZ() + step / 2), Vec.of(0, 0, 1));
    List<Section> stack =
        Slicer.stack(dragon, Similarity.IDENTITY, first, step, n, Work.unwatched());
    double sum = stack.stream().mapToDouble(Section::area).sum() * step;
    double volume = Measures.volume(dragon);
    assertThat(sum).isCloseTo(volume, within(1e-3 * volume));
    Parallel.limitThreads(1);
    try {
      List<Section> alone =
          Slicer.stack(dragon, Similarity.IDENTITY, first, step, n, Work.unwatched());
      for (int i = 0; i < n; i++) {
        assertThat(alone.get(i).curves()).hasSameSizeAs(stack.get(i).curves());
        for (int c = 0; c < alone.get(i).curves().size(); c++) {
          assertThat(alone.get(i).curves().get(c).xy())
              .isEqualTo(stack.get(i).curves().get(c).xy());
        }
      }
    } finally {
      Parallel.limitThreads(1 << 10);
    }
  }

  @Test
  void curvesAreFittedByLinesAndArcsWithinTheTolerance() {
    Curve slot = slot(2, 0.5, 400);
    CurveFit fit = CurveFit.of(slot, 1e-4);
    assertThat(fit.pieces()).hasSizeBetween(4, 6);
    List<Double> radii = new ArrayList<>();
    double[] at = fit.start();
    for (CurveFit.Piece p : fit.pieces()) {
      if (p.isArc()) {
        radii.add(p.radius(at[0], at[1]));
        assertThat(p.bulge()).isPositive();
      }
      assertThat(p.off()).isLessThanOrEqualTo(1e-4);
      at = new double[] {p.x(), p.y()};
    }
    assertThat(radii)
        .hasSizeBetween(2, 3)
        .allSatisfy(r -> assertThat(r).isCloseTo(0.5, within(1e-3)));
    Section round = cut(Shapes.sphere(1, 6), Vec.of(0, 0, 0.3), Vec.of(0, 0, 1));
    CurveFit circle = CurveFit.of(round.curves().getFirst(), 2e-3);
    assertThat(circle.circle().radius()).isCloseTo(Math.sqrt(1 - 0.09), within(1e-3));
    Section box = cut(Shapes.cube(2), Shapes.cube(2).bounds().centre(), Vec.of(0, 0, 1));
    assertThat(CurveFit.of(box.curves().getFirst(), 1e-6).pieces()).hasSize(4);
  }

  @Test
  void whatACurveIsToldInHasFigures() {
    // Two lines of length 2 and two half circles of radius 0.5, wherever the fit begins.
    List<CurveFit.Fitted> slot = CurveFit.of(slot(2, 0.5, 400), 1e-4).fitted();
    double lines = slot.stream().filter(f -> f.isLine()).mapToDouble(f -> f.length()).sum();
    double turned = slot.stream().mapToDouble(f -> f.degrees()).sum();
    double all = slot.stream().mapToDouble(f -> f.length()).sum();
    assertThat(lines).isCloseTo(4, within(0.02));
    assertThat(turned).isCloseTo(360, within(2.0));
    assertThat(all).isCloseTo(4 + Math.PI, within(1e-3));
    assertThat(slot)
        .allSatisfy(
            f -> {
              assertThat(f.off()).isLessThanOrEqualTo(1e-4);
              assertThat(f.isLine() ? 0.5 : f.radius()).isCloseTo(0.5, within(2e-3));
              assertThat(Double.isInfinite(f.radius())).isEqualTo(f.isLine());
            });
    Section round = cut(Shapes.sphere(1, 6), Vec.of(0, 0, 0.3), Vec.of(0, 0, 1));
    List<CurveFit.Fitted> circle = CurveFit.of(round.curves().getFirst(), 2e-3).fitted();
    assertThat(circle).hasSize(1);
    assertThat(circle.getFirst().degrees()).isEqualTo(360);
    assertThat(circle.getFirst().length())
        .isCloseTo(2 * Math.PI * circle.getFirst().radius(), within(1e-12));
  }

  private static Section outline(Mesh m, double[] normal) {
    return Silhouette.of(
        m,
        Similarity.IDENTITY,
        SectionPlane.of(m.bounds().centre(), normal),
        1024,
        Work.unwatched());
  }

  @Test
  void outlinesAreThoseOfTheProjection() {
    Section ball = outline(Shapes.sphere(1, 6), Vec.of(0.3, 0.2, 1));
    assertThat(ball.curves()).hasSize(1);
    assertThat(ball.area()).isCloseTo(Math.PI, within(2e-3));
    // A ring seen from above has a hole; from the side it is a slot of two half circles.
    Section ring = outline(Shapes.torus(1, 0.25, 300, 120), Vec.of(0, 0, 1));
    assertThat(ring.curves()).hasSize(2);
    assertThat(ring.area()).isCloseTo(Math.PI * (1.25 * 1.25 - 0.75 * 0.75), within(4e-3));
    Section side = outline(Shapes.torus(1, 0.25, 300, 120), Vec.of(0, 1, 0));
    assertThat(side.area()).isCloseTo(2 * 0.5 + Math.PI * 0.0625, within(4e-3));
    // A cube along its diagonal: a hexagon of area sqrt(3) a².
    Section cube = outline(Shapes.cube(2), Vec.of(1, 1, 1));
    assertThat(cube.area()).isCloseTo(4 * Math.sqrt(3), within(0.01));
    CurveFit fit = CurveFit.of(cube.curves().getFirst(), 0.008);
    assertThat(fit.pieces()).hasSizeBetween(6, 8);
    assertThat(outline(Shapes.sheet(1, 4), Vec.of(0, 0, 1)).area()).isCloseTo(1, within(3e-3));
  }

  /** Two half circles joined by lines. */
  private static Curve slot(double length, double radius, int n) {
    double[] xy = new double[4 * n];
    for (int i = 0; i < n; i++) {
      double a = -Math.PI / 2 + Math.PI * i / (n - 1);
      xy[2 * i] = length + radius * Math.cos(a);
      xy[2 * i + 1] = radius * Math.sin(a);
      xy[2 * (n + i)] = -radius * Math.cos(a);
      xy[2 * (n + i) + 1] = -radius * Math.sin(a);
    }
    return new Curve(xy, true);
  }
}
