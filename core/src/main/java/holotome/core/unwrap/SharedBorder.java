package holotome.core.unwrap;

import java.util.TreeMap;

/** How much border some triangles share with each of their neighbours. */
final class SharedBorder {
  private final TreeMap<Integer, Double> lengths = new TreeMap<>();

  void add(int neighbour, double length) {
    lengths.merge(neighbour, length, Double::sum);
  }

  /** The neighbour with the most, of equal ones the lowest; -1 for none. */
  int longest() {
    int best = -1;
    double most = 0;
    for (var e : lengths.entrySet()) {
      if (e.getValue() > most) {
        most = e.getValue();
        best = e.getKey();
      }
    }
    return best;
  }
}
