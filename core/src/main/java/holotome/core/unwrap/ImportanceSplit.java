package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import holotome.core.mesh.Importance;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Charts parted where the surface matters more or less, as they lie: what is flat stays so. For
 * charts that were found on a stand-in, which knows nothing of it. O(T).
 */
final class ImportanceSplit {
  private ImportanceSplit() {}

  static List<Piece> of(Ground ground, List<Piece> pieces) {
    float[] importance = Importance.of(ground.mesh());
    if (importance == null) {
      return pieces;
    }
    int[] place = new int[ground.area().length];
    Arrays.fill(place, -1);
    List<Piece> out = new ArrayList<>();
    for (Piece p : pieces) {
      out.addAll(parts(ground, p, place));
    }
    return out;
  }

  /**
   * @param place -1 for every triangle, before and after
   */
  private static List<Piece> parts(Ground ground, Piece p, int[] place) {
    int[] t = p.triangles();
    for (int i = 0; i < t.length; i++) {
      place[t[i]] = i;
    }
    DisjointSets sets = new DisjointSets(t.length);
    for (int i = 0; i < t.length; i++) {
      for (int k = 0; k < 3; k++) {
        // Across what matters differently there is no twin any more.
        int twin = ground.twin()[3 * t[i] + k];
        if (twin >= 0 && place[twin / 3] >= 0) {
          sets.join(i, place[twin / 3]);
        }
      }
    }
    for (int each : t) {
      place[each] = -1;
    }
    int[] part = sets.numbered();
    int count = 0;
    int[] size = new int[t.length];
    for (int s : part) {
      size[s]++;
      count = Math.max(count, s + 1);
    }
    if (count == 1) {
      return List.of(p);
    }
    int[][] members = new int[count][];
    int[] filled = new int[count];
    for (int s = 0; s < count; s++) {
      members[s] = new int[size[s]];
    }
    for (int i = 0; i < part.length; i++) {
      members[part[i]][filled[part[i]]++] = i;
    }
    List<Piece> out = new ArrayList<>();
    for (int[] m : members) {
      out.add(p.subset(m));
    }
    return out;
  }
}
