package holotome.core.mesh;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import java.util.BitSet;

/**
 * Charts that lie over another on purpose, so that both read the same texels: a label per triangle
 * under {@link Attribute#LAID_OVER}. Triangles of the chart that leads a group have its number,
 * those of charts that follow it the number below 0, all others 0. Texels are made from what leads
 * alone.
 */
public final class LaidOver {
  private LaidOver() {}

  /**
   * One per triangle, followers without a leader counted as neither; null where nothing is laid
   * over anything. O(T).
   */
  public static int[] of(Mesh mesh) {
    Attribute a = mesh.attributes().named(Attribute.LAID_OVER);
    if (a == null || a.kind() != Kind.LABEL || a.domain() != Domain.TRIANGLE) {
      return null;
    }
    int[] of = a.ints();
    BitSet led = new BitSet();
    for (int g : of) {
      if (g > 0) {
        led.set(g);
      }
    }
    int[] out = null;
    for (int t = 0; t < of.length; t++) {
      if (of[t] < 0 && led.get(-of[t])) {
        out = out == null ? of.clone() : out;
      }
    }
    for (int t = 0; out != null && t < out.length; t++) {
      out[t] = out[t] < 0 && !led.get(-out[t]) ? 0 : out[t];
    }
    return out;
  }

  /** The mesh with such labels; without any where nothing follows. */
  public static Mesh with(Mesh mesh, int[] labels) {
    boolean follows = false;
    for (int g : labels) {
      follows |= g < 0;
    }
    return follows
        ? mesh.with(Attribute.of(Attribute.LAID_OVER, Kind.LABEL, Domain.TRIANGLE, labels, null))
        : without(mesh);
  }

  /** The mesh with each chart by itself. */
  public static Mesh without(Mesh mesh) {
    return mesh.attributes().named(Attribute.LAID_OVER) == null
        ? mesh
        : mesh.with(mesh.attributes().without(Attribute.LAID_OVER), mesh.materials());
  }
}
