package holotome.core.log;

import holotome.core.step.Workpiece;
import java.util.List;

/**
 * What an entry did, as measured.
 *
 * @param triangles of the mesh in hand (the Cast where there is one) after it
 * @param change against before
 */
public record Effect(int triangles, int change, double seconds, List<String> notes) {
  static Effect of(Workpiece before, Workpiece after, double seconds, List<String> notes) {
    int n = after.current().triangleCount();
    return new Effect(n, n - before.current().triangleCount(), seconds, notes);
  }
}
