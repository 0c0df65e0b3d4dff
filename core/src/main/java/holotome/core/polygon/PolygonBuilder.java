package holotome.core.polygon;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.HashMap;
import java.util.Map;

/** Joins faces over vertices into half-edges, or says why they are no manifold surface. */
final class PolygonBuilder {
  private final PolygonMesh mesh;
  private final double[] positions;
  private final int[][] faces;
  private final Map<Long, Integer> half = new HashMap<>();

  PolygonBuilder(PolygonMesh mesh, double[] positions, int[][] faces) {
    this.mesh = mesh;
    this.positions = positions;
    this.faces = faces;
  }

  PolygonMesh build() {
    for (int i = 0; i < positions.length; i += 3) {
      mesh.newVertex(positions[i], positions[i + 1], positions[i + 2]);
    }
    int[] out = new int[positions.length / 3];
    java.util.Arrays.fill(out, PolygonMesh.NONE);
    for (int f = 0; f < faces.length; f++) {
      face(f, out);
    }
    border();
    for (int v = 0; v < out.length; v++) {
      if (out[v] != PolygonMesh.NONE) {
        mesh.pointFrom(v, out[v]);
      }
    }
    oneFanEach();
    mesh.settle();
    return mesh;
  }

  private static long key(int a, int b) {
    return (long) a << 32 | b;
  }

  private void face(int f, int[] out) {
    int[] c = faces[f];
    if (java.util.Arrays.stream(c).distinct().count() != c.length || c.length < 3) {
      throw Failure.badInput(CoreWords.of("polygon-builder.face-has-fewer-than-three", f));
    }
    int[] h = new int[c.length];
    for (int i = 0; i < c.length; i++) {
      int a = c[i];
      int b = c[(i + 1) % c.length];
      if (a < 0 || a >= out.length) {
        throw Failure.badInput(CoreWords.of("polygon-builder.face-names-a-point-that", f));
      }
      if (half.containsKey(key(a, b))) {
        throw Failure.badInput(CoreWords.of("polygon-builder.at-the-edge-from-point", a, b));
      }
      Integer twin = half.get(key(b, a));
      h[i] = twin == null ? mesh.newEdge(a, b) : PolygonMesh.twin(twin);
      half.put(key(a, b), h[i]);
      out[a] = h[i];
    }
    int made = mesh.newFace(h[0]);
    for (int i = 0; i < h.length; i++) {
      mesh.setFace(h[i], made);
      mesh.link(h[i], h[(i + 1) % h.length]);
    }
  }

  /** Joins the outer half-edges along borders: each goes on at the next one around its end. */
  private void border() {
    for (int h = 0; h < mesh.halfEdgeLimit(); h++) {
      if (mesh.face(h) == PolygonMesh.NONE) {
        // Around the end, through the faces, to the outer half-edge that starts there.
        int e = PolygonMesh.twin(h);
        while (mesh.face(e) != PolygonMesh.NONE) {
          e = PolygonMesh.twin(mesh.previous(e));
        }
        mesh.link(h, e);
      }
    }
  }

  private void oneFanEach() {
    int[] degree = new int[mesh.vertexLimit()];
    for (int h = 0; h < mesh.halfEdgeLimit(); h++) {
      degree[mesh.origin(h)]++;
    }
    for (int v = 0; v < degree.length; v++) {
      if (mesh.around(v).length != degree[v]) {
        throw Failure.badInput(CoreWords.of("polygon-builder.at-point-several-fans-of", v));
      }
    }
  }
}
