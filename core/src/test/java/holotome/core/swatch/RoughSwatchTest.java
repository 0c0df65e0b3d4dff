package holotome.core.swatch;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Shapes;
import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.mesh.UvSquares;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.unwrap.MakeCharts;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** A Swatch over scans that no scanner should give: a sound one, or a plain line. */
class RoughSwatchTest {
  private static LaySwatch lay(double side, double x) {
    return new LaySwatch(
        new double[] {x, 0.5, 0}, new Length(side), new Length(side), 0, null, 12.5);
  }

  private static Mesh torn() {
    Mesh sheet = Shapes.sheet(3, 60);
    float[] xyz = sheet.xyz().clone();
    for (int v = 0; v < sheet.vertexCount(); v += 37) {
      xyz[3 * v + v % 3] = v % 2 == 0 ? Float.NaN : Float.POSITIVE_INFINITY;
    }
    return sheet.withPositions(xyz);
  }

  static Stream<Mesh> meshes() {
    return Stream.of(
        Shapes.mess(400, 5),
        torn(),
        Shapes.moved(Shapes.sheet(3, 50), 3e6, 0, 0),
        Shapes.together(
            Shapes.sheet(3, 30), Shapes.sheet(3, 30), Shapes.moved(Shapes.cube(1), 1, 1, 0)),
        new Mesh(new float[] {0, 0, 0, 4, 0, 0, 0, 4, 0}, new int[] {0, 1, 2}),
        new Mesh(new float[0], new int[0]));
  }

  @ParameterizedTest
  @MethodSource("meshes")
  void aSwatchOrALine(Mesh scan) {
    Workpiece w = Workpiece.of(scan, Frame.PLAIN.withTrueSize());
    boolean isFar = scan.vertexCount() == 51 * 51;
    double x = (isFar ? 3e6 : 0) + 0.5;
    Workpiece laid;
    try {
      laid = lay(0.5, x).apply(w, Run.unwatched()).work();
    } catch (Failure f) {
      // What is doubled or stuck through by another has surface there all the same.
      assertThat(scan.vertexCount()).as(f.getMessage()).isNotEqualTo(2 * 31 * 31 + 8);
      boolean isNowhere = scan.vertexCount() == 61 * 61;
      assertThat(f.getMessage())
          .contains(isNowhere ? "that are no numbers" : "no Scan under the Swatch");
      return;
    }
    Workpiece settled =
        new SettleSwatch(new Length(0.2), new Length(0.01), null)
            .apply(laid, Run.unwatched())
            .work();
    for (float c : settled.cast().xyz()) {
      assertThat(c).isFinite();
    }
    Workpiece baked =
        new BakeMaps(List.of(MapKind.NORMAL, MapKind.HEIGHT), 72, 1, 0)
            .apply(settled, Run.unwatched())
            .work();
    assertThat(new TileSwatch(true, 4).apply(baked, Run.unwatched()).work().maps().size())
        .isEqualTo(64);
  }

  /** A place on them is found, where the Swatch lies on surface all over, or it is said. */
  @ParameterizedTest
  @MethodSource("meshes")
  void aPlaceOrALine(Mesh scan) {
    Workpiece w = Workpiece.of(scan, Frame.PLAIN.withTrueSize());
    double x = (scan.vertexCount() == 51 * 51 ? 3e6 : 0) + 0.5;
    int found = 0;
    for (LaySwatch.Find find : LaySwatch.Find.values()) {
      LaySwatch step =
          new LaySwatch(
              new double[] {x, 0.5, 0}, find, new Length(0.5), new Length(0.4), 0, null, 12.5);
      try {
        for (float c : step.apply(w, Run.unwatched()).work().cast().xyz()) {
          assertThat(c).isFinite();
        }
        found++;
      } catch (Failure f) {
        assertThat(f.kind()).isEqualTo(Failure.Kind.CANNOT);
        assertThat(f.getMessage()).doesNotContain("\n").isNotBlank();
      }
    }
    // On the doubled sheets, and the far one, there is room; in nothing there is not.
    boolean hasRoom = scan.vertexCount() == 51 * 51 || scan.vertexCount() == 2 * 31 * 31 + 8;
    assertThat(found).isBetween(hasRoom ? 4 : 0, scan.vertexCount() == 0 ? 0 : 4);
  }

  @Test
  void whatIsAsNarrowAsALineHasNoPlaceFound() {
    Workpiece w = Workpiece.of(Shapes.sheet(3, 60), Frame.PLAIN.withTrueSize());
    assertThatThrownBy(
            () ->
                new LaySwatch(
                        new double[] {1.5, 1.5, 0},
                        LaySwatch.Find.PATTERN,
                        new Length(1),
                        new Length(0.01),
                        0,
                        null,
                        12.5)
                    .apply(w, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("times as long as wide");
  }

  /** A Swatch that was cut into other charts is none that can be made to tile. */
  @Test
  void otherChartsAreSaid() {
    Workpiece w = Workpiece.of(Shapes.sheet(3, 60), Frame.PLAIN.withTrueSize());
    Workpiece laid = lay(1, 1.5).apply(w, Run.unwatched()).work();
    Workpiece cut = new MakeCharts(64, 2, 1.1, 0, 180).apply(laid, Run.unwatched()).work();
    Workpiece baked =
        new BakeMaps(List.of(MapKind.NORMAL), 64, 1, 0).apply(cut, Run.unwatched()).work();
    assertThatThrownBy(() -> new TileSwatch(true, 4).apply(baked, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("swatch.lay");
  }

  @Test
  void coordinatesThatAreNoNumbersLieInNoSquare() {
    float[] coords = {0, 0, Float.NaN, 0.5f, 0.5f, 1, Float.POSITIVE_INFINITY, 0};
    UvSquares s = UvSquares.of(new Uv(coords, new int[] {0, 1, 2, 0, 2, 3}));
    assertThat(s.columns()).isPositive();
    assertThat(s.rows()).isEqualTo(1);
    assertThat(s.of()).containsOnly(UvSquares.NONE);
  }
}
