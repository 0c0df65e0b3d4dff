package holotome.core.unwrap;

import holotome.core.array.DisjointSets;
import holotome.core.array.Grouping;
import holotome.core.attribute.Compaction;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * The charts of a mesh after its seams were changed: those that were touched laid flat anew, each
 * from where its parts lay, and put back there at the same scale; all others as they are. What
 * cannot lie flat as one is cut further, but for what was sewn: that is refused. Charts side by
 * side; the result does not depend on the number of threads.
 */
final class SeamCharts {
  private static final int ROUNDS = 12;

  /** Above so many vertices a chart is moved block by block. */
  private static final int LARGE = 10_000;

  /** Of a large chart so many vertices are moved for each at an edge that was cut or sewn. */
  private static final int REACH = 40;

  /** What must be cut further is, to this stretch. */
  private static final double MOST = 1.5;

  private final Ground ground;
  private final Mesh mesh;
  private final SeamMap map;

  /** How many charts were laid flat anew, and how many of them had to be cut further. */
  private int laid;

  private int parted;

  private int[] slot;

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
   * @param sews whether seams were sewn
   * @throws Failure where what was sewn does not lie flat as one
   */
  Uv laid(int[] before, boolean sews, Work work) {
    int[] chart = map.charts();
    Grouping by = Grouping.of(chart, map.count(), Work.unwatched());
    slot = new int[chart.length];
    boolean[] isDue = new boolean[map.count()];
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
      laid += isDue[c] ? 1 : 0;
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
              made.set(c, flat(members, chart, sews, work));
            }
          }
        });
    for (List<Piece> m : made) {
      parted += m.size() > 1 ? 1 : 0;
    }
    return together(made, isDue, chart);
  }

  private List<Piece> flat(int[] members, int[] chart, boolean sews, Work work) {
    Piece p = Piece.unplaced(ground, members, corners(members));
    Piece lies = places == null ? null : places.of(p);
    Piece out = lies == null ? null : settledNear(lies);
    out = out == null && lies != null ? settled(lies, work) : out;
    if (out == null && lies != null) {
      // As it lay it did lie flat: so it stays.
      out = Settling.checked(lies, Double.MAX_VALUE);
      out = out != null && out.isUpright(0) ? out : null;
    }
    if (out == null) {
      double[] tutte = Tutte.places(p);
      out = tutte == null ? null : settled(p.at(unfolded(p, tutte)), work);
      out = out == null && tutte != null ? settled(p.at(tutte), work) : out;
    }
    if (out != null) {
      return List.of(out);
    }
    if (sews) {
      throw Failure.cannot(CoreWords.of("seams.not-flat"));
    }
    return new PieceFlattening(ground, chart, MOST).flat(members, work);
  }

  /** Of a large chart only what lies near the edges that were cut or sewn; null for a small one. */
  private Piece settledNear(Piece p) {
    if (p.vertices() <= LARGE) {
      return null;
    }
    BitSet near = new BitSet();
    for (int i = 0; i < p.corners().length; i++) {
      if (map.touched().get(p.triangles()[i / 3])) {
        near.set(p.corners()[i]);
      }
    }
    int reach = Math.min(LARGE, REACH * near.cardinality());
    return Settling.settledNear(p, near.stream().toArray(), reach, ROUNDS, Double.MAX_VALUE);
  }

  private static Piece settled(Piece p, Work work) {
    return p.vertices() > LARGE
        ? Settling.checked(Settling.movedByBlocks(p, work), Double.MAX_VALUE)
        : Settling.settled(p, ROUNDS, Double.MAX_VALUE);
  }

  /** Laid triangle beside triangle from one on: exact where the chart can be unrolled. */
  private static double[] unfolded(Piece p, double[] start) {
    Piece out = p.at(start.clone());
    boolean[] isKnown = new boolean[p.vertices()];
    int[] k = p.corners();
    isKnown[k[0]] = true;
    isKnown[k[1]] = true;
    out.uv()[2 * k[0]] = 0;
    out.uv()[2 * k[0] + 1] = 0;
    out.uv()[2 * k[1]] = p.rest()[0];
    out.uv()[2 * k[1] + 1] = 0;
    Unfold.all(out, isKnown);
    return out.uv();
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

  private Uv together(List<List<Piece>> made, boolean[] isDue, int[] chart) {
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
        double[] by = places == null ? new double[] {1, 0, 0, 0} : places.back(p);
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
