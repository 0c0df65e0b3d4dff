package holotome.core.polygon;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import java.util.Arrays;
import org.junit.jupiter.api.Test;

/** Faces parted into quads, against the rules of Catmull and Clark (1978) worked out by hand. */
class SubdivisionTest {
  /** Corners at ±1, six quads. */
  private static FaceLists cube() {
    double[] xyz = new double[24];
    for (int v = 0; v < 8; v++) {
      for (int k = 0; k < 3; k++) {
        xyz[3 * v + k] = (v >> k & 1) == 0 ? -1 : 1;
      }
    }
    int[][] faces = {
      {0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}
    };
    return new FaceLists(xyz, faces);
  }

  @Test
  void aCubeRoundedOnce() {
    FaceLists r = Subdivision.of(cube(), true);
    assertThat(r.faces()).hasNumberOfRows(24);
    assertThat(r.vertexCount()).isEqualTo(8 + 12 + 6);
    // A corner: (F + 2 R + 0 V) / 3 with F = 1/3 and R = 2/3 along each axis.
    for (int i = 0; i < 24; i++) {
      assertThat(Math.abs(r.xyz()[i])).isCloseTo(5.0 / 9, within(1e-12));
    }
    // An edge: the mean of two ends (1, 1, ±1) and two faces (1, 0, 0), (0, 1, 0).
    for (int v = 8; v < 20; v++) {
      double[] p = r.at(v);
      Arrays.setAll(p, k -> Math.abs(p[k]));
      Arrays.sort(p);
      assertThat(p[0]).isZero();
      assertThat(p[1]).isCloseTo(0.75, within(1e-12));
      assertThat(p[2]).isCloseTo(0.75, within(1e-12));
    }
    Naive.assertSound(r.mesh());
    assertThat(Naive.closedAndOriented(r.mesh())).isTrue();
  }

  @Test
  void flatKeepsTheShape() {
    FaceLists f = Subdivision.of(Subdivision.of(cube(), false), false);
    assertThat(f.faces()).hasNumberOfRows(96);
    assertThat(Measures.volume(f.mesh())).isCloseTo(8, within(1e-6));
    assertThat(f.polygons().faceCount()).isEqualTo(96);
  }

  @Test
  void aBorderIsACurveOfItsOwn() {
    // A flat square stays flat, and its corners go to 3/4 of the way: 3/4 V + 1/8 of each
    // neighbour.
    FaceLists one =
        new FaceLists(
            new double[] {-1, -1, 0, 1, -1, 0, 1, 1, 0, -1, 1, 0}, new int[][] {{0, 1, 2, 3}});
    FaceLists r = Subdivision.of(one, true);
    assertThat(r.at(0)).containsExactly(new double[] {-0.75, -0.75, 0}, within(1e-12));
    assertThat(r.at(4)).containsExactly(new double[] {0, -1, 0}, within(1e-12));
  }

  @Test
  void facesOfAnyShapeAndWhatMeetsAsItLikes() {
    Mesh sphere = Shapes.sphere(1, 2);
    FaceLists r = Subdivision.of(FaceLists.of(sphere), true);
    assertThat(r.faces()).hasNumberOfRows(3 * sphere.triangleCount());
    Naive.assertSound(r.mesh());
    FaceLists mess = FaceLists.of(Shapes.mess(300, 5));
    FaceLists parted = Subdivision.of(mess, true);
    assertThat(parted.faces().length).isEqualTo(Subdivision.quads(mess));
    assertThat(parted.xyz()).doesNotContain(Double.NaN);
  }

  @Test
  void fansThatMeetInAPointAreParted() {
    // Two cubes that share one corner: eight and eight corners, less none.
    double[] xyz = Arrays.copyOf(cube().xyz(), 48);
    for (int i = 0; i < 24; i++) {
      xyz[24 + i] = cube().xyz()[i] + 2;
    }
    int[][] both = Arrays.copyOf(cube().faces(), 12);
    for (int f = 0; f < 6; f++) {
      // The second one's first corner is the first one's last.
      both[6 + f] = Arrays.stream(cube().faces()[f]).map(v -> v == 0 ? 7 : v + 8).toArray();
    }
    FaceLists pinched = new FaceLists(xyz, both).used();
    assertThat(pinched.vertexCount()).isEqualTo(15);
    assertThatThrownBy(pinched::polygons).isInstanceOf(Failure.class);
    FaceLists parted = pinched.parted();
    assertThat(parted.vertexCount()).isEqualTo(16);
    assertThat(parted.polygons().faceCount()).isEqualTo(12);
    assertThat(Measures.volume(parted.mesh())).isCloseTo(16, within(1e-6));
    // What is whole stays as it is.
    assertThat(cube().parted().faces()).isDeepEqualTo(cube().faces());
  }

  @Test
  void aMeshIsItsFacesThereAndBack() {
    FaceLists c = cube();
    FaceLists again = FaceLists.of(c.mesh());
    assertThat(again.faces()).hasNumberOfRows(6);
    assertThat(again.xyz()).containsExactly(c.xyz());
    assertThat(FaceLists.of(again.polygons()).faces()).hasNumberOfRows(6);
    assertThat(c.and(c).polygons().faceCount()).isEqualTo(12);
  }
}
