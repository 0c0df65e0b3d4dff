package holotome.core.quad;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;

/** Puts the faces of a mesh together again from the triangles that say which they are parts of. */
public final class FacesOf {
  private FacesOf() {}

  /** The vertices around each face; of one whose triangles do not make one ring nothing. */
  public static int[][] mesh(Mesh mesh) {
    int[] face = mesh.attributes().named(Attribute.FACE).ints();
    Map<Integer, List<Integer>> parts = new TreeMap<>();
    for (int t = 0; t < face.length; t++) {
      parts.computeIfAbsent(face[t], f -> new ArrayList<>()).add(t);
    }
    List<int[]> out = new ArrayList<>();
    for (List<Integer> of : parts.values()) {
      out.add(ring(mesh, of));
    }
    return out.toArray(int[][]::new);
  }

  private static int[] ring(Mesh mesh, List<Integer> parts) {
    Map<Integer, Integer> next = new TreeMap<>();
    for (int t : parts) {
      for (int k = 0; k < 3; k++) {
        int a = mesh.triangles()[3 * t + k];
        int b = mesh.triangles()[3 * t + (k + 1) % 3];
        boolean isInner = false;
        for (int u : parts) {
          for (int j = 0; j < 3; j++) {
            isInner |=
                mesh.triangles()[3 * u + j] == b && mesh.triangles()[3 * u + (j + 1) % 3] == a;
          }
        }
        if (!isInner) {
          next.put(a, b);
        }
      }
    }
    List<Integer> ring = new ArrayList<>();
    int first = next.keySet().iterator().next();
    for (Integer v = first; v != null && (ring.isEmpty() || v != first); v = next.get(v)) {
      ring.add(v);
      if (ring.size() > next.size()) {
        return new int[0];
      }
    }
    return ring.stream().mapToInt(v -> v).toArray();
  }

  /** How many faces each vertex has. */
  public static int[] degrees(Mesh mesh) {
    int[] out = new int[mesh.vertexCount()];
    for (int[] f : mesh(mesh)) {
      for (int v : f) {
        out[v]++;
      }
    }
    return out;
  }
}
