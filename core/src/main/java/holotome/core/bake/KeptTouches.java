package holotome.core.bake;

import holotome.core.part.Maps;
import holotome.core.touch.Touch;
import java.lang.ref.WeakReference;
import java.util.ArrayDeque;

/**
 * What touches made of maps, for as long as those are held elsewhere: a sitting of many is made
 * anew with each further one, and all but the last are there already.
 */
final class KeptTouches {
  private static final int MOST = 2000;

  private static final ArrayDeque<Kept> KEPT = new ArrayDeque<>();

  private record Kept(
      WeakReference<Maps> from, WeakReference<Maps> before, Touch touch, WeakReference<Maps> made) {
    boolean isOf(Maps maps, Maps first, Touch other) {
      return from.refersTo(maps) && before.refersTo(first) && touch.equals(other);
    }
  }

  private KeptTouches() {}

  /**
   * What a touch made of maps; null if that is not known.
   *
   * @param before the maps before all touches
   */
  static synchronized Maps find(Maps maps, Maps before, Touch touch) {
    for (Kept k : KEPT) {
      if (k.isOf(maps, before, touch)) {
        return k.made.get();
      }
    }
    return null;
  }

  static synchronized void keep(Maps maps, Maps before, Touch touch, Maps made) {
    KEPT.removeIf(k -> k.made.refersTo(null) || k.from.refersTo(null));
    KEPT.addFirst(
        new Kept(
            new WeakReference<>(maps),
            new WeakReference<>(before),
            touch,
            new WeakReference<>(made)));
    while (KEPT.size() > MOST) {
      KEPT.removeLast();
    }
  }
}
