package holotome.core.scans;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Naive;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.intake.Inspection;
import holotome.core.io.MeshReader;
import holotome.core.io.MeshWriter;
import holotome.core.mend.FillHoles;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimation;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Run;
import holotome.core.task.Work;
import java.io.IOException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.EnumSet;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Real meshes from open datasets, clean, open and broken ones, through the first half of the job.
 */
class RealScansTest {
  @TempDir private Path dir;

  private static Mesh read(String name) {
    return MeshReader.read(Datasets.file(name), Work.unwatched()).mesh();
  }

  private static Mesh tidy(Mesh m) {
    return Tidy.tidy(m, new ArrayList<>(), Work.unwatched());
  }

  /** Assorted meshes: closed, open, shuffled, with holes, of polygons, soup. */
  static List<String> meshes() throws IOException {
    return Datasets.meshes(
        "cgal/refined_elephant.off",
        "cgal/elephant-with-holes.off",
        "cgal/blobby-shuffled.off",
        "cgal/polygon_mesh.off",
        "cgal/boeing.off",
        "cgal/b9_mesh.off",
        "cgal/mannequin-devil.off",
        "cgal/mask_cone.off",
        "cgal/degtri_sliding.off",
        "cgal/oblong-shuffled.off",
        "cgal/pig.off",
        "cgal/dino.off",
        "bunny.obj");
  }

  @ParameterizedTest
  @MethodSource("meshes")
  void inspectedTidiedDecimatedWrittenReadBack(String name) {
    Mesh raw = read(name);
    agrees(raw);
    Mesh clean = tidy(raw);
    Naive.assertSound(clean);
    agrees(clean);
    assertThat(Naive.crowded(clean)).isZero();
    assertThat(Naive.verticesWithSeveralFans(clean)).isZero();
    assertThat(Naive.doubledPoints(clean)).isLessThanOrEqualTo(splits(raw, clean));
    assertThat(Naive.duplicateTriangles(clean)).isZero();

    int target = Math.max(4, clean.triangleCount() / 4);
    Mesh light = Decimation.run(clean, target, Double.POSITIVE_INFINITY, Work.unwatched());
    Naive.assertSound(light);
    assertThat(Naive.crowded(light)).isZero();
    assertThat(Naive.islands(light)).isLessThanOrEqualTo(Naive.islands(clean));
    if (Naive.islands(light) == Naive.islands(clean)) {
      boolean closed = Naive.border(clean) == 0;
      assertThat(Naive.border(light) == 0).isEqualTo(closed);
    }

    for (String ending : List.of("ply", "obj", "stl")) {
      Path file = dir.resolve("out." + ending);
      MeshWriter.write(file, light, Similarity.IDENTITY, Work.unwatched());
      Mesh back = MeshReader.read(file, Work.unwatched()).mesh();
      assertThat(back.triangleCount()).isEqualTo(light.triangleCount());
      assertThat(back.bounds().diagonal())
          .isCloseTo(light.bounds().diagonal(), within(1e-6 * light.bounds().diagonal()));
      if (!ending.equals("stl")) {
        assertThat(back.xyz()).isEqualTo(light.xyz());
        assertThat(back.triangles()).isEqualTo(light.triangles());
      }
    }
  }

  /**
   * Parting fans doubles points on purpose; no more than the vertices it added may stand doubled.
   */
  private static int splits(Mesh raw, Mesh clean) {
    int welded = raw.vertexCount() - Naive.doubledPoints(raw);
    return Math.max(0, clean.vertexCount() - welded) + Naive.verticesWithSeveralFans(raw);
  }

  private static void agrees(Mesh m) {
    Inspection i = Inspection.of(m, false, Work.unwatched());
    assertThat(i.boundaryEdges()).as("border edges").isEqualTo(Naive.border(m));
    assertThat(i.nonManifoldEdges()).as("crowded edges").isEqualTo(Naive.crowded(m));
    assertThat(i.islands()).as("islands").isEqualTo(Naive.islands(m));
    assertThat(i.duplicateVertices()).as("doubled points").isEqualTo(Naive.doubledPoints(m));
    assertThat(i.duplicateTriangles()).as("duplicates").isEqualTo(Naive.duplicateTriangles(m));
    assertThat(i.nonManifoldVertices())
        .as("vertices of several fans")
        .isEqualTo(Naive.verticesWithSeveralFans(m));
    long used = java.util.Arrays.stream(m.triangles()).distinct().count();
    assertThat(i.eulerCharacteristic())
        .as("Euler characteristic")
        .isEqualTo(used - Naive.edges(m).size() + m.triangleCount());
    if (i.closed() && i.consistentlyOriented()) {
      assertThat(Naive.closedAndOriented(m)).isTrue();
    }
  }

  /** The figures of the raw scan were counted independently, by other means than this code. */
  @Test
  void theRawDragonIsOnePieceOnceWeldedAndClearedTogether() {
    Mesh raw = read("dragon.ply");
    Inspection before = Inspection.of(raw, false, Work.unwatched());
    assertThat(before.triangles()).isEqualTo(871_414);
    assertThat(before.duplicateVertices()).isEqualTo(2100);
    assertThat(before.degenerateTriangles()).isEqualTo(108);
    assertThat(before.boundaryLoops()).isEqualTo(407);
    assertThat(before.islands()).isEqualTo(151);

    Mesh clean = tidy(raw);
    Inspection after = Inspection.of(clean, false, Work.unwatched());
    assertThat(after.closed()).isTrue();
    assertThat(after.consistentlyOriented()).isTrue();
    assertThat(after.islands()).isEqualTo(1);
    assertThat(after.nonManifoldVertices()).isZero();
    assertThat(Naive.closedAndOriented(clean)).isTrue();

    // The error that is asked of a tenth of the triangles, in shares of the diagonal.
    int tenth = clean.triangleCount() / 10;
    Mesh light = Decimation.run(clean, tenth, Double.POSITIVE_INFINITY, Work.unwatched());
    assertThat(light.triangleCount()).isBetween(tenth - 40, tenth);
    assertThat(Naive.closedAndOriented(light)).isTrue();
    SurfaceDistance d =
        SurfaceDistance.of(light, clean, 200_000, Work.unwatched())
            .worse(SurfaceDistance.of(clean, light, 200_000, Work.unwatched()));
    assertThat(d.rms() / clean.bounds().diagonal()).isLessThan(0.00004);
    assertThat(d.max() / clean.bounds().diagonal()).isLessThan(0.00085);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {"cgal/elephant-with-holes.off", "cgal/holes.off", "cgal/mech-holes-shark.off"})
  void holesOfRealMeshesAreFilledAndTheMeshStaysManifold(String name) {
    Mesh clean = tidy(read(name));
    for (FillHoles.How how : EnumSet.complementOf(EnumSet.of(FillHoles.How.BRIDGE))) {
      Workpiece in = Workpiece.of(clean, Frame.PLAIN);
      Mesh filled = new FillHoles(how, null, false).apply(in, Run.unwatched()).work().scan();
      Naive.assertSound(filled);
      assertThat(Naive.crowded(filled)).isZero();
      assertThat(Naive.border(filled)).isZero();
    }
  }
}
