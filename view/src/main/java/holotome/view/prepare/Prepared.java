package holotome.view.prepare;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.tangent.SplitMesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.topology.InnerEdges;
import holotome.view.cluster.Hierarchy;
import holotome.view.cluster.PackedNormal;

/** What looks need of a mesh beside its own arrays, each made when first asked for. */
public final class Prepared {
  private final Mesh mesh;
  private int[] normals;
  private volatile Hierarchy hierarchy;
  private int[] charts;
  private SplitMesh split;
  private byte[] inner;
  private boolean isInnerKnown;

  public Prepared(Mesh mesh) {
    this.mesh = mesh;
  }

  Mesh mesh() {
    return mesh;
  }

  /** Packed normals, one per vertex. */
  public synchronized int[] normals() {
    if (normals == null) {
      Hierarchy h = hierarchy;
      normals = h != null ? h.normals() : packed(Measures.vertexNormals(mesh));
    }
    return normals;
  }

  private static int[] packed(float[] n) {
    int[] out = new int[n.length / 3];
    Parallel.range(
        out.length,
        1 << 16,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            out[v] = PackedNormal.pack(n[3 * v], n[3 * v + 1], n[3 * v + 2]);
          }
        });
    return out;
  }

  public Hierarchy hierarchy() {
    return hierarchy;
  }

  void take(Hierarchy made) {
    hierarchy = made;
  }

  /** Chart per triangle: pieces connected in the texture. */
  public synchronized int[] charts() {
    if (charts == null) {
      charts = Charts.of(mesh, Work.unwatched()).ofTriangle();
    }
    return charts;
  }

  /** Edges within faces; see {@link InnerEdges}. */
  public synchronized byte[] inner() {
    if (!isInnerKnown) {
      inner = InnerEdges.of(mesh);
      isInnerKnown = true;
    }
    return inner;
  }

  public synchronized SplitMesh split() {
    if (split == null) {
      split = SplitMesh.of(mesh);
    }
    return split;
  }
}
