package holotome.app.tool;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import java.util.Arrays;
import java.util.List;

/** Places and ways of working space in the coordinates of the scan's file. */
final class InFile {
  private InFile() {}

  /** Places, 3 doubles each. */
  static double[] places(Frame f, double[] working) {
    double[] out = new double[working.length];
    for (int i = 0; i < out.length; i += 3) {
      double[] p = f.toFile().apply(f.toBase(Arrays.copyOfRange(working, i, i + 3)));
      System.arraycopy(p, 0, out, i, 3);
    }
    return out;
  }

  /** The means of the corners of things; null for no things. */
  static double[] middles(Frame f, List<Feature> of) {
    return of.isEmpty()
        ? null
        : places(
            f,
            of.stream()
                .flatMapToDouble(c -> Arrays.stream(ProxyEditForm.middle(List.of(c))))
                .toArray());
  }

  /** A way, or a direction as long as it is. */
  static double[] way(Frame f, double[] working) {
    double[] from = f.toFile().apply(f.toBase(new double[3]));
    return Vec.sub(f.toFile().apply(f.toBase(working)), from);
  }
}
