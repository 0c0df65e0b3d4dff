package holotome.core.touch;

import holotome.core.map.MapKind;
import holotome.core.part.Maps;
import java.util.List;
import java.util.function.Predicate;

/**
 * The maps that a touch changes, and where some of their numbers lie beside one another.
 *
 * @param kinds in order
 */
record Layout(TouchGround ground, Maps maps, List<MapKind> kinds) {

  static Layout of(TouchGround ground, Maps maps, Touch touch) {
    List<MapKind> kinds = maps.pictures().keySet().stream().filter(touch::isOf).sorted().toList();
    return new Layout(ground, maps, kinds);
  }

  /** Maps to be carried, of this layout's pictures or others of the same kinds. */
  CarriedMap[] carried(Maps of) {
    return kinds.stream()
        .map(k -> new CarriedMap(ground, k, of.pictures().get(k)))
        .toArray(CarriedMap[]::new);
  }

  /** Room for what is carried of one place. */
  double[][] room() {
    return new double[kinds.size()][4];
  }

  /** Per map the place of its first number beside those of others; -1 for those left out. */
  int[] places(Predicate<CarriedMap> which) {
    CarriedMap[] all = carried(maps);
    int[] out = new int[all.length + 1];
    int n = 0;
    for (int m = 0; m < all.length; m++) {
      out[m] = which.test(all[m]) ? n : -1;
      n += which.test(all[m]) ? all[m].numbers() : 0;
    }
    out[all.length] = n;
    return out;
  }
}
