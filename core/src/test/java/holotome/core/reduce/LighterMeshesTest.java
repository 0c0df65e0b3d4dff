package holotome.core.reduce;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.frame.Frame;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.ship.WriteAsset;
import holotome.core.spatial.SelfIntersections;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.tangent.SplitMesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Levels, facets, stand-ins, and what must not cut through itself. */
class LighterMeshesTest {
  private static Workpiece run(Workpiece in, holotome.core.step.Step step) {
    return step.apply(in, Run.unwatched()).work();
  }

  private static MakeLevels levels(Double percent, double[] triangles, Length tolerance, int n) {
    return new MakeLevels(percent, triangles, tolerance, n, Decimate.Texture.KEEP);
  }

  @Test
  void levelsByShare() {
    Workpiece in = Workpiece.of(Shapes.sphere(1, 5), Frame.PLAIN);
    Workpiece out = run(in, levels(50.0, null, null, 3));
    int wanted = 20 * 1024;
    for (int i = 1; i <= 3; i++) {
      wanted /= 2;
      Mesh level = out.require(MakeLevels.level(i));
      Naive.assertSound(level);
      assertThat(level.triangleCount()).isCloseTo(wanted, within(2));
    }
    assertThat(out.get(MakeLevels.level(4))).isNull();
    // The Cast, where there is one, is what they are made of; what is left of more levels goes.
    Workpiece cast = run(out, new Decimate(2000, null, null, Role.CAST));
    Workpiece again = run(cast, levels(25.0, null, null, 2));
    assertThat(again.require(MakeLevels.level(1)).triangleCount()).isCloseTo(500, within(2));
    assertThat(again.require(MakeLevels.level(2)).triangleCount()).isCloseTo(125, within(2));
    assertThat(again.get(MakeLevels.level(3))).isNull();
    assertThat(again.cast()).isSameAs(cast.cast());
  }

  @Test
  void levelsByCountsAndByTolerance() {
    Mesh ball = Shapes.sphere(1, 5);
    Workpiece in = Workpiece.of(ball, Frame.PLAIN);
    Workpiece counts = run(in, levels(null, new double[] {4000, 300}, null, 7));
    assertThat(counts.require(MakeLevels.level(1)).triangleCount()).isCloseTo(4000, within(2));
    assertThat(counts.require(MakeLevels.level(2)).triangleCount()).isCloseTo(300, within(2));
    assertThat(counts.get(MakeLevels.level(3))).isNull();
    Workpiece near = run(in, levels(null, null, new Length(0.002), 3));
    for (int i = 1; i <= 3; i++) {
      Mesh level = near.require(MakeLevels.level(i));
      float[] points = SurfaceDistance.sample(level, 300);
      for (int k = 0; k < points.length; k += 3) {
        double[] p = {points[k], points[k + 1], points[k + 2]};
        assertThat(Naive.distance(p, ball)).isLessThanOrEqualTo(0.001 * (1 << i));
      }
    }
    assertThat(near.require(MakeLevels.level(3)).triangleCount())
        .isLessThan(near.require(MakeLevels.level(1)).triangleCount() / 2);
    assertThatThrownBy(() -> levels(null, new double[9], null, 1)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> levels(50.0, null, new Length(1), 1)).isInstanceOf(Failure.class);
  }

  /** All levels lie in the texture square where the first mesh does. */
  @Test
  void levelsShareTextureCoordinates() {
    Mesh sheet = Shapes.sheet(1, 40);
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int v = 0; v < sheet.vertexCount(); v++) {
      uv[2 * v] = (float) (sheet.xyz()[3 * v] - sheet.bounds().min()[0]);
      uv[2 * v + 1] = (float) (sheet.xyz()[3 * v + 1] - sheet.bounds().min()[1]);
    }
    Mesh wrapped = sheet.withUv(new Uv(uv, sheet.triangles()));
    Workpiece out = run(Workpiece.of(wrapped, Frame.PLAIN), levels(30.0, null, null, 3));
    for (int i = 1; i <= 3; i++) {
      Mesh level = out.require(MakeLevels.level(i));
      for (int h = 0; h < level.triangles().length; h++) {
        int c = level.uv().corners()[h];
        int v = level.triangles()[h];
        for (int k = 0; k < 2; k++) {
          assertThat((double) level.uv().coords()[2 * c + k])
              .isCloseTo(level.xyz()[3 * v + k] - sheet.bounds().min()[k], within(1e-3));
        }
      }
    }
  }

  @Test
  void aStandInLeavesScanAndCastAlone() {
    Mesh ball = Shapes.sphere(1, 5);
    Workpiece in = run(Workpiece.of(ball, Frame.PLAIN), new Decimate(3000, null, null, Role.CAST));
    Workpiece out = run(in, new Decimate(500, null, null, Role.STAND_IN));
    assertThat(out.scan()).isSameAs(ball);
    assertThat(out.cast()).isSameAs(in.cast());
    assertThat(out.require(Role.BESIDE).triangleCount()).isCloseTo(500, within(2));
    assertThat(out.require(Role.BESIDE).bounds().diagonal())
        .isCloseTo(ball.bounds().diagonal(), within(0.05));
  }

  /** Every corner has its triangle's own normal, so that it is drawn and written flat. */
  @Test
  void facetsAreFlatEvenAndClosed() {
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 5));
    Outcome made =
        new MakeFacets(200, false, Role.CAST)
            .apply(Workpiece.of(ball, Frame.PLAIN), Run.unwatched());
    Mesh facets = made.work().cast();
    assertThat(facets.triangleCount()).isCloseTo(200, within(40));
    assertThat(Naive.closedAndOriented(facets)).isTrue();
    assertThat(SelfIntersections.count(facets, Work.unwatched())).isZero();
    assertThat(facets.colours()).isNotNull();
    assertThat(String.join(" ", made.notes())).contains("proved a solid");
    double[] cross = new double[3];
    double most = 0;
    double sum = 0;
    SplitMesh split = SplitMesh.of(facets);
    assertThat(split.position().length).isEqualTo(3 * facets.triangleCount());
    for (int t = 0; t < facets.triangleCount(); t++) {
      Measures.cross(facets.xyz(), facets.triangles(), t, cross);
      double l = Math.hypot(Math.hypot(cross[0], cross[1]), cross[2]);
      most = Math.max(most, l / 2);
      sum += l / 2;
      for (int k = 0; k < 9; k++) {
        int at = split.corners()[3 * t + k / 3];
        assertThat((double) split.normals()[3 * at + k % 3])
            .isCloseTo(cross[k % 3] / l, within(1e-4));
        assertThat(split.position()[at]).isEqualTo(facets.triangles()[3 * t + k / 3]);
      }
    }
    assertThat(most).isLessThan(2.5 * sum / facets.triangleCount());
    Attribute normal = facets.attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.CORNER);
    assertThat(normal.name()).isEqualTo(Attribute.NORMAL);
  }

  /**
   * Written beside the Cast: a level with its maps' place, and a stand-in; what is not there is
   * told.
   */
  @Test
  void theyAreWritten(@TempDir Path dir) throws Exception {
    Workpiece in = Workpiece.of(Shapes.sphere(1, 5), Frame.PLAIN);
    Workpiece out =
        run(run(in, levels(50.0, null, null, 2)), new Decimate(700, null, null, Role.STAND_IN));
    Run run = new Run(Work.unwatched(), dir);
    for (int level = 0; level <= 2; level++) {
      new WriteAsset(
              WriteAsset.Destination.CAPTURE,
              "l" + level,
              null,
              null,
              null,
              level == 0 ? WriteAsset.What.STAND_IN : WriteAsset.What.LEVEL,
              Math.max(1, level),
              false)
          .apply(out, run);
      Mesh read = MeshReader.read(dir.resolve("l" + level + ".ply"), Work.unwatched()).mesh();
      Mesh want = out.require(level == 0 ? Role.BESIDE : MakeLevels.level(level));
      assertThat(read.triangleCount()).isEqualTo(want.triangleCount());
    }
    WriteAsset none =
        new WriteAsset(
            WriteAsset.Destination.CAPTURE, "l", null, null, null, WriteAsset.What.LEVEL, 3, false);
    assertThat(none.reads()).contains(MakeLevels.level(3));
    assertThatThrownBy(() -> none.apply(out, run)).hasMessageContaining("level-3");
  }

  /** A holed ring, a bowl and torn pieces: closed, they bound solids, of one handle or none. */
  @Test
  void closedFacetsBoundASolid() {
    Mesh ring = Shapes.torus(1, 0.4, 160, 60);
    Mesh holed = Submesh.of(ring, t -> t % 960 > 40, Work.unwatched());
    Mesh ball = Shapes.coloured(Shapes.sphere(1, 5));
    Mesh bowl = Submesh.of(ball, t -> height(ball, t) < 0.6, Work.unwatched());
    Mesh torn = Submesh.of(ball, t -> t % 7 > 1, Work.unwatched());
    int[] euler = {0, 2, 2};
    Mesh[] meshes = {holed, bowl, torn};
    for (int i = 0; i < 3; i++) {
      Outcome made =
          new MakeFacets(300, true, Role.CAST)
              .apply(Workpiece.of(meshes[i], Frame.PLAIN), Run.unwatched());
      Mesh facets = made.work().cast();
      assertThat(SolidProof.of(facets, Work.unwatched()).holds()).isTrue();
      assertThat(facets.vertexCount() - facets.triangleCount() / 2).isEqualTo(euler[i]);
      assertThat(facets.triangleCount()).isBetween(200, 375);
      assertThat(facets.colours() == null).isEqualTo(meshes[i].colours() == null);
      assertThat(String.join(" ", made.notes())).contains("proved a solid");
      SurfaceDistance off = SurfaceDistance.of(meshes[i], facets, 5000, Work.unwatched());
      assertThat(off.max()).isLessThan(0.2);
      // Of the lid over the bowl, which is far from it, nothing is said here.
      String said = String.join("; ", made.stated()).replaceAll("[^0-9.a-z ;,]", "");
      double farthest = Double.parseDouble(said.replaceAll(".*found ([0-9.]+);.*", "$1"));
      assertThat(farthest).isCloseTo(off.max(), within(0.3 * off.max()));
    }
  }

  private static double height(Mesh m, int t) {
    double z = 0;
    for (int k = 0; k < 3; k++) {
      z += m.xyz()[3 * m.triangles()[3 * t + k] + 2] / 3;
    }
    return z;
  }

  @Test
  void openFacetsSaySo() {
    Outcome made =
        new MakeFacets(100, false, Role.CAST)
            .apply(Workpiece.of(Shapes.sheet(1, 40), Frame.PLAIN), Run.unwatched());
    assertThat(String.join(" ", made.notes())).contains("open edges");
  }

  /**
   * Two thin shells close to one another: a coarse mesh of both would cross, unless it is looked
   * after.
   */
  @Test
  void whatWouldCutThroughItselfIsMadeAnew() {
    Mesh shells = Shapes.together(Shapes.sphere(1, 5), Shapes.sphere(0.985, 5));
    assertThat(SelfIntersections.count(shells, Work.unwatched())).isZero();
    Mesh plain = Decimation.run(shells, 1000, null, Wedges.NONE, Work.unwatched());
    assertThat(SelfIntersections.count(plain, Work.unwatched())).isPositive();
    Uncrossed.Result kept = Uncrossed.decimate(shells, 3000, Wedges.NONE, Work.unwatched());
    assertThat(kept.crossing()).isZero();
    assertThat(SelfIntersections.count(kept.light().mesh(), Work.unwatched())).isZero();
    assertThat(kept.light().mesh().triangleCount()).isLessThan(3100);
  }

  /** The last rounds run again, with nothing held tighter, come out as they did. */
  @Test
  void theLastRoundsComeOutTheSameAgain() {
    Mesh ball = Shapes.laden(Shapes.sphere(1, 6));
    for (Wedges wedges :
        new Wedges[] {Wedges.NONE, Wedges.of(ball, true, true, 0.9, Work.unwatched())}) {
      Course course = new Course(true);
      Decimation.Result once =
          Decimation.of(
              ball, 1500, Double.POSITIVE_INFINITY, null, wedges, course, Work.unwatched());
      assertThat(course.hasHalfway()).isTrue();
      for (int i = 0; i < 2; i++) {
        Decimation.Result again = Decimation.again(ball, 1500, course, Work.unwatched());
        assertThat(again.root()).isEqualTo(once.root());
        assertThat(again.mesh().sameAs(once.mesh())).isTrue();
      }
      Course plain = new Course();
      Decimation.Result same =
          Decimation.of(
              ball, 1500, Double.POSITIVE_INFINITY, null, wedges, plain, Work.unwatched());
      assertThat(same.mesh().sameAs(once.mesh())).isTrue();
      assertThat(plain.hasHalfway()).isFalse();
    }
  }

  /** Where the mesh itself cuts through itself the light one may. */
  @Test
  void whatCutBeforeIsLeft() {
    Mesh balls = Shapes.together(Shapes.sphere(1, 5), Shapes.moved(Shapes.sphere(1, 5), 1, 0, 0));
    Uncrossed.Result kept = Uncrossed.decimate(balls, 2000, Wedges.NONE, Work.unwatched());
    assertThat(kept.crossing()).isZero();
    assertThat(kept.light().mesh().triangleCount()).isCloseTo(2000, within(4));
    assertThat(SelfIntersections.count(kept.light().mesh(), Work.unwatched())).isPositive();
  }
}
