package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.DeviationField.Summary;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * How far two surfaces lie from each other, looked at from both: the one is drawn by what is known
 * at each of its vertices, of the other the sums are kept. All in the meshes' common coordinates.
 *
 * @param forth from the mesh to the reference
 * @param back from the reference to the mesh
 */
public record Deviation(Mesh mesh, Mesh reference, DeviationField forth, Summary back) {

  /** A forecast of what measuring takes, in bytes: an index and normals at a time. */
  public static long memory(Mesh mesh, Mesh reference) {
    long most = Math.max(mesh.triangleCount(), reference.triangleCount());
    return 40 * most + 8L * (mesh.triangleCount() + reference.triangleCount());
  }

  /**
   * Measures both ways. About 1 µs a triangle of both on one core where they lie close.
   *
   * @throws Failure if one of them has no triangles
   */
  public static Deviation of(Mesh mesh, Mesh reference, Work work) {
    if (mesh.isEmpty() || reference.isEmpty()) {
      throw Failure.badInput(CoreWords.of("deviation.no-triangles"));
    }
    DeviationField forth =
        DeviationField.of(
            mesh, reference, work.part(0.5, CoreWords.of("work.measuring-distances")));
    Summary back =
        DeviationField.of(reference, mesh, work.part(0.5, CoreWords.of("work.measuring-distances")))
            .summary();
    return new Deviation(mesh, reference, forth, back);
  }

  /** The worse of the two directions, figure by figure. */
  public Summary both() {
    return forth.summary().worse(back);
  }
}
