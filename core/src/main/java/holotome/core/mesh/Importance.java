package holotome.core.mesh;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import java.util.Arrays;
import java.util.BitSet;

/**
 * How much parts of a mesh matter: a weight per triangle under {@link Attribute#IMPORTANCE}, so
 * many times the triangles and texels for the same surface as elsewhere; 1 where nothing is said.
 */
public final class Importance {
  /** What can be given, beside 1. */
  public static final double LEAST = 0.01;

  public static final double MOST = 100;

  /** Beside one another, from this factor on two weights differ. */
  private static final double DIFFERS = 1.1;

  private Importance() {}

  /** One per triangle; null where all matter alike. */
  public static float[] of(Mesh mesh) {
    Attribute a = mesh.attributes().named(Attribute.IMPORTANCE);
    return a == null || a.kind() != Kind.WEIGHT || a.domain() != Domain.TRIANGLE
        ? null
        : a.floats();
  }

  /** One per vertex: the largest of the triangles around it; null where all matter alike. O(T). */
  public static float[] ofVertices(Mesh mesh) {
    float[] of = of(mesh);
    if (of == null) {
      return null;
    }
    float[] out = new float[mesh.vertexCount()];
    int[] tri = mesh.triangles();
    for (int h = 0; h < tri.length; h++) {
      out[tri[h]] = Math.max(out[tri[h]], of[h / 3]);
    }
    for (int v = 0; v < out.length; v++) {
      out[v] = out[v] == 0 ? 1 : out[v];
    }
    return out;
  }

  /** With a weight for some triangles; where then all matter alike again, without any. */
  public static Mesh given(Mesh mesh, BitSet triangles, double weight) {
    float[] before = of(mesh);
    float[] out;
    if (before == null) {
      out = new float[mesh.triangleCount()];
      Arrays.fill(out, 1);
    } else {
      out = before.clone();
    }
    float w = (float) Math.clamp(weight, LEAST, MOST);
    for (int t = triangles.nextSetBit(0); t >= 0; t = triangles.nextSetBit(t + 1)) {
      out[t] = w;
    }
    for (float o : out) {
      if (o != 1) {
        return mesh.with(
            Attribute.of(Attribute.IMPORTANCE, Kind.WEIGHT, Domain.TRIANGLE, out, null));
      }
    }
    return mesh.with(mesh.attributes().without(Attribute.IMPORTANCE), mesh.materials());
  }

  /** Whether two weights are to be kept apart. */
  public static boolean differ(float a, float b) {
    return a > DIFFERS * b || b > DIFFERS * a;
  }
}
