package holotome.view.scene;

import holotome.core.geometry.Similarity;
import holotome.core.polygon.PolygonMesh;
import holotome.core.polygon.Triangulated;
import java.util.Arrays;
import java.util.List;

/**
 * A polygon mesh as layers: its faces as triangles and its true edges as lines.
 *
 * @param faces whose triangles lead back to the polygons by {@code triangulated}
 */
public record PolygonLayers(MeshLayer faces, LineLayer edges, Triangulated triangulated) {
  private static final int INK = 0xff1d2b33;

  /**
   * @param place from the polygon mesh's coordinates to working space
   */
  public static PolygonLayers of(PolygonMesh mesh, Similarity place, Look look) {
    Triangulated t = Triangulated.of(mesh);
    return new PolygonLayers(
        new MeshLayer(t.mesh(), place, look),
        new LineLayer(ends(mesh, place), INK, 1.4f, Layer.Hidden.LEFT_OUT),
        t);
  }

  /** Both, in the order in which they are drawn. */
  public List<Layer> both() {
    return List.of(faces, edges);
  }

  private static double[] ends(PolygonMesh mesh, Similarity place) {
    double[] out = new double[6 * mesh.edgeCount()];
    int n = 0;
    for (int h = 0; h < mesh.halfEdgeLimit(); h += 2) {
      if (mesh.hasHalfEdge(h)) {
        double[] a = place.apply(mesh.position(mesh.origin(h)));
        double[] b = place.apply(mesh.position(mesh.target(h)));
        System.arraycopy(a, 0, out, n, 3);
        System.arraycopy(b, 0, out, n + 3, 3);
        n += 6;
      }
    }
    return n == out.length ? out : Arrays.copyOf(out, n);
  }
}
