package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.datum.ScaleBar;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** The scale bar of the demo found by its colour, beside where it truly lies. */
class ScaleBarTest {
  @ParameterizedTest
  @ValueSource(ints = {60_000, 300_000, 1_200_000})
  void theBarIsFoundWithinAFifthOfAPercent(int triangles) {
    BollardScan scan = BollardScan.of(triangles);
    Mesh mesh = scan.make(Work.unwatched()).mesh();
    ScaleBar bar = ScaleBar.find(mesh, Work.unwatched());
    assertThat(bar).isNotNull();
    assertThat(bar.fields()).isEqualTo(10);
    double is = Vec.distance(bar.from(), bar.to()) / BollardScan.CAPTURE.scale();
    assertThat(is).isCloseTo(Extras.BAR_LENGTH, within(0.002 * Extras.BAR_LENGTH));
    double[][] ends = Extras.barEnds();
    double[] a = BollardScan.CAPTURE.inverse().apply(bar.from());
    double[] b = BollardScan.CAPTURE.inverse().apply(bar.to());
    boolean forth = Vec.distance(a, ends[0]) < Vec.distance(a, ends[1]);
    // The ends lie along the bar's middle, its top edges a bar's half height above.
    assertThat(Vec.distance(forth ? a : b, ends[0])).isLessThan(0.03);
    assertThat(Vec.distance(forth ? b : a, ends[1])).isLessThan(0.03);
  }

  @Test
  void withoutABarNoneIsFound() {
    BollardScan scan = BollardScan.of(200_000);
    BollardScan.Made made = scan.make(Work.unwatched());
    int[] ends = made.ends();
    Mesh without = Submesh.of(made.mesh(), t -> t < ends[1] || t >= ends[2], Work.unwatched());
    assertThat(ScaleBar.find(without, Work.unwatched())).isNull();
    Mesh plain = new Mesh(without.xyz(), without.triangles());
    assertThat(ScaleBar.find(plain, Work.unwatched())).isNull();
  }
}
