package holotome.core.mend;

import holotome.core.array.DisjointSets;
import holotome.core.attribute.Provenance;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.spatial.NearPairs;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Points that stand close together, joined to sets of which the lowest point stays where it is.
 *
 * <p>Points on the very same spot are joined first. Of the others all pairs are gone through from
 * the nearest on: two sets become one as soon as every point of the one is no farther from the
 * point that stays of the other than the pair at hand is long. So no point moves farther than the
 * distance, however long a row of them stands close together.
 *
 * <p>O(n + pairs log pairs) expected for the n points that may be joined; 24 bytes a point and 16 a
 * pair.
 */
final class PointJoining {
  /** The points that may be joined, rising; null for all. The others have no number here. */
  private final int[] points;

  private final float[] xyz;
  private final DisjointSets sets;

  /** The points of a set in a ring. */
  private final int[] next;

  /** One point of each spot, the lowest. */
  private final BitSet apart = new BitSet();

  private float[] distances = new float[64];
  private int joined;

  private PointJoining(Mesh mesh, BitSet among) {
    points = among == null ? null : among.stream().toArray();
    xyz = points == null ? mesh.xyz() : new float[3 * points.length];
    for (int i = 0; points != null && i < points.length; i++) {
      System.arraycopy(mesh.xyz(), 3 * points[i], xyz, 3 * i, 3);
    }
    next = new int[xyz.length / 3];
    sets = new DisjointSets(next.length);
    Arrays.setAll(next, v -> v);
  }

  /**
   * Joins what is no farther apart than a distance in base coordinates.
   *
   * @param among points that may be joined; null for all
   * @return null where nearly every point would be joined with others
   */
  static PointJoining within(Mesh mesh, BitSet among, double distance, Work work) {
    PointJoining j = new PointJoining(mesh, among);
    j.joinSameSpots(work.part(0.3, CoreWords.of("work.comparing-points")));
    NearPairs pairs =
        NearPairs.within(
            j.xyz, j.apart, distance, work.part(0.6, CoreWords.of("work.comparing-points")));
    if (pairs == null) {
      return null;
    }
    for (int i = 0; i < pairs.count(); i++) {
      j.join(pairs.a()[i], pairs.b()[i], pairs.distance()[i]);
    }
    work.advance(0.1);
    return j;
  }

  /** Joins only what is on the very same spot. */
  static PointJoining ofSpots(Mesh mesh, BitSet among, Work work) {
    PointJoining j = new PointJoining(mesh, among);
    j.joinSameSpots(work);
    return j;
  }

  /** The mesh over the points that stay, without the triangles that are then none. */
  Mesh joined(Mesh mesh, Work work) {
    int[] tri = new int[mesh.triangles().length];
    for (int h = 0; h < tri.length; h++) {
      tri[h] = find(mesh.triangles()[h]);
    }
    Mesh all =
        mesh.derive(
            Provenance.of(mesh.vertexCount(), mesh.triangleCount()).build(),
            new float[0],
            tri,
            Work.unwatched());
    return Submesh.of(
        all,
        t ->
            tri[3 * t] != tri[3 * t + 1]
                && tri[3 * t + 1] != tri[3 * t + 2]
                && tri[3 * t + 2] != tri[3 * t],
        work);
  }

  /** Joins points of no distance. */
  private void joinSameSpots(Work work) {
    int n = next.length;
    int[] spot = PointWeld.representatives(xyz, work);
    for (int v = 0; v < n; v++) {
      if (spot[v] == v) {
        apart.set(v);
      } else {
        join(spot[v], v, 0);
      }
    }
  }

  private void join(int a, int b, float distance) {
    int x = Math.min(sets.find(a), sets.find(b));
    int y = Math.max(sets.find(a), sets.find(b));
    if (x == y) {
      return;
    }
    int m = y;
    do {
      if (NearPairs.length(xyz, x, m) > distance) {
        return;
      }
      m = next[m];
    } while (m != y);
    sets.join(x, y);
    int after = next[x];
    next[x] = next[y];
    next[y] = after;
    if (joined == distances.length) {
      distances = Arrays.copyOf(distances, 2 * joined);
    }
    distances[joined++] = distance;
  }

  /** The point that stands for this one: the lowest of its set. */
  int find(int v) {
    if (points == null) {
      return sets.find(v);
    }
    int i = Arrays.binarySearch(points, v);
    return i < 0 ? v : points[sets.find(i)];
  }

  /** Whether a point that may be joined is the lowest of those on its spot. */
  boolean isFirstOnSpot(int v) {
    return apart.get(points == null ? v : Arrays.binarySearch(points, v));
  }

  /** How many points fewer there are. */
  int joined() {
    return joined;
  }

  /** The distances at which one point fewer was left, rising. */
  float[] distances() {
    return Arrays.copyOf(distances, joined);
  }
}
