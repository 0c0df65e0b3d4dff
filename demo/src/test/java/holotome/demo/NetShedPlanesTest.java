package holotome.demo;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.proxy.FromPlanes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import java.util.Arrays;
import org.junit.jupiter.api.Test;

/** The net shed from the flat parts that are found by themselves, held against its truth. */
class NetShedPlanesTest {
  private static final double FALL = (NetShed.RIDGE - NetShed.EAVES) / (NetShed.DEPTH / 2);

  private static double off(Mesh mesh, double x, double y, double z) {
    double least = Double.POSITIVE_INFINITY;
    for (int v = 0; v < mesh.vertexCount(); v++) {
      least = Math.min(least, Vec.distance(Vec.at(mesh.xyz(), v), Vec.of(x, y, z)));
    }
    return least;
  }

  @Test
  void theShedIsThirtyCorners() {
    Mesh scan = NetShed.scan(300_000);
    Outcome made =
        new FromPlanes(null, null, 3, null).apply(Workpiece.of(scan, Frame.PLAIN), Run.unwatched());
    Mesh cast = made.work().cast();
    assertThat(cast.vertexCount()).isEqualTo(30);
    // The walls that no camera saw lie 20 mm further in, as they were closed in the scan.
    double back = NetShed.DEPTH - 0.02;
    double right = NetShed.LENGTH - 0.02;
    double high = NetShed.RIDGE + 0.12;
    double low = NetShed.RIDGE - FALL * 2.8;
    double[][] corners = {
      {0, 0, 0},
      {right, 0, 0},
      {right, back, 0},
      {0, back, 0},
      {0, 0, 3},
      {right, 0, 3},
      {-0.3, 2.5, high},
      {8.3, 2.5, high},
      {-0.3, -0.3, low},
      {8.3, -0.3, low},
      {8.3, 5.3, low},
      {-0.3, 5.3, low + 0.12},
      {6.1, 1.2, 4.9},
      {6.5, 1.6, 4.9},
      {6.1, 1.6, high - FALL * 0.9},
      {6.5, 1.2, high - FALL * 1.3}
    };
    for (double[] c : corners) {
      assertThat(off(cast, c[0], c[1], c[2])).as("%s", Arrays.toString(c)).isLessThan(2e-3);
    }
    // Body, two slabs and what stands out of the pipe, by hand; where the body reaches into the
    // slabs it is counted once.
    double body = right * (back * 4.6 - FALL * (2.5 * 2.5 + 2.48 * 2.48) / 2);
    double slabs = 8.6 * 5.6 * 0.12;
    double pipe = 0.16 * (4.9 - (high - FALL * 1.1));
    assertThat(Measures.volume(cast)).isCloseTo(body + slabs + pipe, within(0.05));
  }
}
