package holotome.app.model;

import holotome.core.memory.Spare;
import holotome.core.mesh.Mesh;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/**
 * What was measured of the last few states: going back and forth between them must not measure them
 * again. Those of other states than the one at hand are let go where memory is short.
 */
final class Insights implements Spare.Holder {
  private static final int KEPT = 4;

  /** Of very large scans fewer: memory is short then. */
  private static final int KEPT_OF_LARGE = 2;

  private static final int LARGE = 30_000_000;

  private final List<Insight> known = new CopyOnWriteArrayList<>();
  private volatile Mesh atHand;

  Insights() {
    Spare.add(this);
  }

  /** The mesh whose measurements are to stay. */
  void setAtHand(Mesh mesh) {
    atHand = mesh;
  }

  /** What was measured of a mesh; null where that is not known. */
  Insight of(Mesh mesh) {
    for (Insight i : known) {
      if (i.mesh() == mesh) {
        return i;
      }
    }
    return null;
  }

  void put(Insight insight) {
    known.addFirst(insight);
    int kept = insight.mesh().triangleCount() > LARGE ? KEPT_OF_LARGE : KEPT;
    while (known.size() > kept) {
      known.removeLast();
    }
  }

  void clear() {
    known.clear();
  }

  @Override
  public void letGo() {
    known.removeIf(i -> i.mesh() != atHand);
  }
}
