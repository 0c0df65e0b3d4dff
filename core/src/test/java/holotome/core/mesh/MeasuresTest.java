package holotome.core.mesh;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.geometry.Similarity;
import holotome.core.image.Raster;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Islands;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Area, volume and counts against closed formulas. */
class MeasuresTest {

  @Test
  void cubeHasTheAreaAndVolumeOfItsSide() {
    Mesh m = Shapes.moved(Shapes.cube(2), 300, -40, 7);
    assertThat(Measures.area(m)).isCloseTo(24, within(1e-4));
    assertThat(Measures.volume(m)).isCloseTo(8, within(1e-4));
  }

  @Test
  void sphereConvergesToItsFormulas() {
    double error = 1;
    for (int level = 2; level <= 5; level++) {
      Mesh m = Shapes.sphere(1.5, level);
      double e = 1 - Measures.volume(m) / (4 / 3.0 * Math.PI * Math.pow(1.5, 3));
      // The error of a triangulated sphere falls with the square of the edge length.
      assertThat(e).isPositive().isLessThan(0.3 * error);
      error = e;
    }
    Mesh fine = Shapes.sphere(1.5, 6);
    assertThat(Measures.area(fine)).isCloseTo(4 * Math.PI * 2.25, within(0.01));
  }

  @Test
  void torusHasPappussVolume() {
    Mesh m = Shapes.torus(3, 1, 400, 200);
    assertThat(Measures.volume(m)).isCloseTo(2 * Math.PI * Math.PI * 3, within(0.02));
    assertThat(Measures.area(m)).isCloseTo(4 * Math.PI * Math.PI * 3, within(0.03));
  }

  @Test
  void eulerCharacteristicTellsTheGenus() {
    assertThat(euler(Shapes.cube(1))).isEqualTo(2);
    assertThat(euler(Shapes.sphere(1, 3))).isEqualTo(2);
    assertThat(euler(Shapes.torus(3, 1, 20, 12))).isZero();
    assertThat(euler(Shapes.sheet(1, 9))).isEqualTo(1);
  }

  private static long euler(Mesh m) {
    return m.vertexCount() - Adjacency.of(m).edgeCount() + m.triangleCount();
  }

  @Test
  void vertexNormalsOfASpherePointOutwards() {
    Mesh m = Shapes.sphere(2, 4);
    float[] n = Measures.vertexNormals(m);
    for (int i = 0; i < n.length; i += 3) {
      double dot = (n[i] * m.xyz()[i] + n[i + 1] * m.xyz()[i + 1] + n[i + 2] * m.xyz()[i + 2]) / 2;
      assertThat(dot).isGreaterThan(0.999);
    }
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6, 7, 8})
  void countsAgreeWithTheNaiveOnesOnAnyMess(long seed) {
    Mesh m = Shapes.mess(40 + (int) (seed * 37), seed);
    // Corners used twice make edges from a vertex to itself, which the counts leave to tidying.
    Mesh proper =
        Submesh.of(
            m,
            t -> {
              int[] c = m.triangles();
              return c[3 * t] != c[3 * t + 1]
                  && c[3 * t + 1] != c[3 * t + 2]
                  && c[3 * t + 2] != c[3 * t];
            },
            holotome.core.task.Work.unwatched());
    Adjacency a = Adjacency.of(proper);
    assertThat(a.edgeCount()).isEqualTo(Naive.edges(proper).size());
    assertThat(a.borderEdges()).isEqualTo(Naive.border(proper));
    assertThat(a.crowdedEdges()).isEqualTo(Naive.crowded(proper));
    assertThat(Islands.of(proper).count()).isEqualTo(Naive.islands(proper));
  }

  @Test
  void borderLoopsOfASheetWithHoles() {
    Mesh sheet = Shapes.sheet(10, 10);
    Mesh holed =
        Submesh.of(sheet, t -> t / 2 != 22 && t / 2 != 77, holotome.core.task.Work.unwatched());
    int[][] loops = Borders.of(Adjacency.of(holed)).loops();
    assertThat(loops).hasNumberOfRows(3);
    assertThat(loops[0]).hasSize(40);
    assertThat(loops[1]).hasSize(4);
    assertThat(Borders.perimeter(holed, loops[0])).isCloseTo(40, within(1e-6));
    assertThat(Borders.perimeter(holed, loops[2])).isCloseTo(4, within(1e-6));
  }

  @Test
  void bordersThatTouchAtAVertexStayApart() {
    Mesh sheet = Shapes.sheet(10, 10);
    // Two cells removed that touch at one corner.
    Mesh holed =
        Submesh.of(sheet, t -> t / 2 != 33 && t / 2 != 44, holotome.core.task.Work.unwatched());
    int[][] loops = Borders.of(Adjacency.of(holed)).loops();
    int edges = 0;
    for (int[] l : loops) {
      edges += l.length;
    }
    assertThat(edges).isEqualTo(48);
    assertThat(loops[0]).hasSize(40);
  }

  /** Sizes are those of the surface: points that no triangle uses do not count. */
  @Test
  void unusedPointsAreNoPartOfTheSize() {
    Mesh m = Shapes.cube(2);
    float[] xyz = Arrays.copyOf(m.xyz(), m.xyz().length + 3);
    xyz[m.xyz().length + 2] = 50;
    Mesh stray = new Mesh(xyz, m.triangles());
    assertThat(stray.bounds()).isEqualTo(m.bounds());
    assertThat(stray.unused().stream().toArray()).containsExactly(m.vertexCount());
    Similarity turned = Similarity.scaling(3);
    assertThat(stray.boundsPlaced(turned)).isEqualTo(m.boundsPlaced(turned));
    assertThat(m.unused()).isNull();
    assertThat(new Mesh(xyz, new int[0]).bounds().isEmpty()).isTrue();
  }

  @Test
  void meshesWithOtherMaterialsOrAttributesAreNotTheSame() {
    Mesh m = Shapes.laden(Shapes.cube(1));
    assertThat(m.sameAs(Shapes.laden(Shapes.cube(1)))).isTrue();
    assertThat(m.sameAs(m.withMaterials(m.material(), List.of()))).isFalse();
    Material red = new Material("red", 1, new Raster(1, 1, new int[] {1}));
    Material blue = new Material("red", 1, new Raster(1, 1, new int[] {2}));
    assertThat(m.withMaterials(null, List.of(red)).sameAs(m.withMaterials(null, List.of(blue))))
        .isFalse();
    for (Attribute a : m.attributes()) {
      Mesh without = m.with(m.attributes().without(a.name()), m.materials());
      assertThat(m.sameAs(without)).as(a.name()).isFalse();
    }
  }
}
