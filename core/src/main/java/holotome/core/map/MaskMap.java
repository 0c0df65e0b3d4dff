package holotome.core.map;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/** A mask of the Scan as it is; a weight or a number of things as a share of its largest value. */
final class MaskMap extends MapRule {

  MaskMap() {
    super("mask", Values.SHARE);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    String name = source.settings().mask();
    Attribute a = name == null ? null : source.scan().attributes().named(name);
    if (a == null || !isNumber(a)) {
      throw Failure.cannot(
          CoreWords.of(
              "map.no-such-mask", name == null ? "" : name, String.join(", ", all(source.scan()))));
    }
    float full = a.kind() == Attribute.Kind.MASK ? 1 : largest(a);
    return rays ->
        new Plain() {
          @Override
          float value(Hit hit) {
            return full > 0 ? Math.clamp(at(source.scan(), a, hit) / full, 0f, 1f) : 0;
          }
        };
  }

  /** The attributes that can be shown. */
  private static List<String> all(Mesh scan) {
    List<String> out = new ArrayList<>();
    for (Attribute a : scan.attributes()) {
      if (isNumber(a)) {
        out.add(a.name());
      }
    }
    return out;
  }

  private static boolean isNumber(Attribute a) {
    return a.kind() == Attribute.Kind.MASK
        || a.kind() == Attribute.Kind.WEIGHT
        || a.kind() == Attribute.Kind.LABEL;
  }

  private static float largest(Attribute a) {
    float most = 0;
    for (int i = 0; i < a.count(); i++) {
      most = Math.max(most, value(a, i));
    }
    return most;
  }

  private static float value(Attribute a, int i) {
    return a.kind() == Attribute.Kind.LABEL ? a.ints()[i] : a.floats()[i];
  }

  private static float at(Mesh scan, Attribute a, Hit hit) {
    if (a.domain() == Attribute.Domain.TRIANGLE) {
      return value(a, hit.triangle);
    }
    int c = 3 * hit.triangle;
    int[] of = a.domain() == Attribute.Domain.CORNER ? a.index() : scan.triangles();
    float w = 1 - hit.u - hit.v;
    if (a.kind() == Attribute.Kind.LABEL) {
      // Numbers of things do not mix: that of the nearest corner.
      int nearest = w >= hit.u && w >= hit.v ? c : hit.u >= hit.v ? c + 1 : c + 2;
      return value(a, of[nearest]);
    }
    return value(a, of[c]) * w + value(a, of[c + 1]) * hit.u + value(a, of[c + 2]) * hit.v;
  }
}
