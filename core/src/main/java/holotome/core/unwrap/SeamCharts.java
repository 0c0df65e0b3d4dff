package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import holotome.core.array.Grouping;
import holotome.core.attribute.Compaction;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * The charts of a mesh after its seams were changed: those that were touched laid flat anew, and
 * put back where they lay at the same scale; all others as they are. Charts side by side; the
 * result does not depend on the number of threads.
 */
final class SeamCharts {
  private final Ground ground;
  private final Mesh mesh;
  private final SeamMap map;

  /** How many charts were laid flat anew, and how many of them in more than one piece. */
  private int laid;

  private int parted;

  private int[] slot;

  /** The charts to be laid anew, then those that were. */
  private boolean[] isDue;

  /** Null where there were no charts. */
  private OldPlaces places;

  SeamCharts(Ground ground, SeamMap map) {
    this.ground = ground;
    this.map = map;
    mesh = ground.mesh();
  }

  int laid() {
    return laid;
  }

  int parted() {
    return parted;
  }

  /**
   * Lays flat what was touched.
   *
   * @param before the charts before the seams were changed; null where there were none
   * @throws Failure where the way of laying them refuses one
   */
  Uv laid(int[] before, Laying laying, Work work) {
    int[] chart = map.charts();
    Grouping by = Grouping.of(chart, map.count(), Work.unwatched());
    slot = new int[chart.length];
    isDue = new boolean[map.count()];
    for (int t = map.touched().nextSetBit(0); t >= 0; t = map.touched().nextSetBit(t + 1)) {
      isDue[chart[t]] = true;
    }
    if (before == null) {
      Arrays.fill(isDue, true);
    } else {
      places = new OldPlaces(ground, map, before);
    }
    List<List<Piece>> made = new ArrayList<>();
    for (int c = 0; c < isDue.length; c++) {
      made.add(List.of());
      for (int i = by.start()[c]; isDue[c] && i < by.start()[c + 1]; i++) {
        slot[by.order()[i]] = i - by.start()[c];
      }
    }
    Parallel.range(
        isDue.length,
        1,
        work,
        (from, to) -> {
          for (int c = from; c < to; c++) {
            if (isDue[c]) {
              int[] members = Arrays.copyOfRange(by.order(), by.start()[c], by.start()[c + 1]);
              Piece p = Piece.unplaced(ground, members, corners(members));
              made.set(c, laying.flat(p, places == null ? null : places.of(p), work));
            }
          }
        });
    for (int c = 0; c < isDue.length; c++) {
      isDue[c] = !made.get(c).isEmpty();
      laid += isDue[c] ? 1 : 0;
      parted += made.get(c).size() > 1 ? 1 : 0;
    }
    return together(made, chart, laying.isTurnedBack());
  }

  /** Corners joined over the edges within that are no seams. */
  private int[] corners(int[] members) {
    DisjointSets sets = new DisjointSets(3 * members.length);
    for (int i = 0; i < members.length; i++) {
      for (int h = 3 * members[i]; h < 3 * members[i] + 3; h++) {
        if (map.isSeam(h)) {
          continue;
        }
        int g = ground.twin()[h];
        int j = 3 * slot[g / 3];
        sets.join(3 * i + h % 3, j + Adjacency.next(g) % 3);
        sets.join(3 * i + (h + 1) % 3, j + g % 3);
      }
    }
    return sets.numbered();
  }

  private Uv together(List<List<Piece>> made, int[] chart, boolean isTurnedBack) {
    int vertices = 0;
    for (List<Piece> list : made) {
      for (Piece p : list) {
        vertices += p.vertices();
      }
    }
    int kept = places == null ? 0 : mesh.uv().coords().length / 2;
    float[] coords = new float[2 * (kept + vertices)];
    int[] corners = new int[3 * chart.length];
    if (places != null) {
      System.arraycopy(mesh.uv().coords(), 0, coords, 0, 2 * kept);
      for (int h = 0; h < corners.length; h++) {
        corners[h] = isDue[chart[h / 3]] ? 0 : mesh.uv().corners()[h];
      }
    }
    int at = kept;
    for (List<Piece> list : made) {
      for (Piece p : list) {
        double[] by = places == null ? new double[] {1, 0, 0, 0} : places.back(p, isTurnedBack);
        for (int v = 0; v < p.vertices(); v++) {
          double u = p.uv()[2 * v];
          double w = p.uv()[2 * v + 1];
          coords[2 * (at + v)] = (float) (by[0] * u - by[1] * w + by[2]);
          coords[2 * (at + v) + 1] = (float) (by[1] * u + by[0] * w + by[3]);
        }
        for (int i = 0; i < p.corners().length; i++) {
          corners[3 * p.triangles()[i / 3] + i % 3] = at + p.corners()[i];
        }
        at += p.vertices();
      }
    }
    return used(coords, corners);
  }

  /** The mesh as it was, but that charts which were laid anew lie over no others. */
  Mesh apart() {
    int[] labels = LaidOver.of(mesh);
    if (labels == null) {
      return mesh;
    }
    int[] of = map.charts();
    for (int t = 0; t < labels.length; t++) {
      labels[t] = isDue[of[t]] ? 0 : labels[t];
    }
    return LaidOver.with(mesh, labels);
  }

  /** Without the vertices that no corner has any more. */
  private static Uv used(float[] coords, int[] corners) {
    int[] number = Compaction.of(corners, coords.length / 2);
    float[] out = new float[2 * number[coords.length / 2]];
    for (int v = 0; v < coords.length / 2; v++) {
      if (number[v] >= 0) {
        System.arraycopy(coords, 2 * v, out, 2 * number[v], 2);
      }
    }
    return new Uv(out, corners);
  }
}
