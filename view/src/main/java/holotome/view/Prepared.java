package holotome.view;

import holotome.core.mesh.Islands;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.SplitMesh;

/** What looks need of a mesh beside its own arrays, each made when first asked for. */
final class Prepared {
  private final Mesh mesh;
  private float[] normals;
  private int[] charts;
  private SplitMesh split;

  Prepared(Mesh mesh) {
    this.mesh = mesh;
  }

  Mesh mesh() {
    return mesh;
  }

  synchronized float[] normals() {
    if (normals == null) {
      normals = Measures.vertexNormals(mesh);
    }
    return normals;
  }

  /** Chart per triangle: pieces connected in the texture. */
  synchronized int[] charts() {
    if (charts == null) {
      float[] none = new float[mesh.uv().coords().length / 2 * 3];
      charts = Islands.of(new Mesh(none, mesh.uv().corners())).ofTriangle();
    }
    return charts;
  }

  synchronized SplitMesh split() {
    if (split == null) {
      split = SplitMesh.of(mesh);
    }
    return split;
  }
}
