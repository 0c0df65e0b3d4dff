package holotome.core.unwrap;

import holotome.core.array.Grouping;
import holotome.core.array.LongIndex;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Importance;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.function.ToIntFunction;
import java.util.stream.DoubleStream;
import java.util.stream.Stream;

/**
 * The charts that a mesh has, ready to be laid out anew: each seen from its upper side, what is
 * laid over another with it.
 *
 * @param charts their vertices in the mesh's units where they are to be even, else in the texture's
 * @param rank how much each of those matters, see {@link Importance}
 * @param alone those that are to have a square of their own, not among the others
 * @param over how many were turned over, for they lay mirrored
 * @param flat how many have no area in the texture
 * @param laid how many lie over another, and stay there
 * @param staying those that are to stay where they are, not among the charts
 */
record GivenCharts(
    Charts charts, double[] rank, Charts alone, Staying staying, int over, int flat, int laid) {
  /** How many keep their size. */
  int held() {
    return counted(c -> c.isHeld() ? 1 + c.beside().size() : 0);
  }

  /** How many keep their places beside one another. */
  int together() {
    return counted(c -> c.beside().isEmpty() ? 0 : 1 + c.beside().size());
  }

  /** How many there are to be packed. */
  int count() {
    return counted(c -> 1 + c.beside().size());
  }

  private int counted(ToIntFunction<Charts.Chart> each) {
    return Stream.concat(charts.list().stream(), alone.list().stream()).mapToInt(each).sum();
  }

  /** Whether some matter more than others. */
  boolean isRanked() {
    return rank.length > 0 && Arrays.stream(rank).anyMatch(r -> r != rank[0]);
  }

  /** Below this share of what it has on the surface a chart has no area in the texture. */
  private static final double NOTHING = 1e-9;

  /**
   * A chart as it lies, and what it has.
   *
   * @param wanted its area on the surface, times what it matters
   * @param inTexture its area there, below 0 where it lies mirrored
   * @param group as {@link LaidOver} has it
   */
  private record Lying(
      Charts.Chart chart, double onSurface, double wanted, double inTexture, int group) {}

  /**
   * Takes them; O(T).
   *
   * @param even whether each gets the area that it has on the surface, times what it matters
   */
  static GivenCharts of(Mesh mesh, boolean even, Work work) {
    return of(mesh, even, Asked.NOTHING, work);
  }

  /**
   * What is asked of some charts, by their triangles.
   *
   * @param stay where they are
   * @param held to the size that they have in the texture
   * @param together beside one another as they lie
   * @param alone in a square of their own
   */
  record Asked(BitSet stay, BitSet held, BitSet together, BitSet alone) {
    static final Asked NOTHING = new Asked(new BitSet(), new BitSet(), new BitSet(), new BitSet());
  }

  /** The same, of some of which something is asked. */
  static GivenCharts of(Mesh mesh, boolean even, Asked asked, Work work) {
    holotome.core.topology.Charts found = holotome.core.topology.Charts.of(mesh, work);
    Grouping by = Grouping.of(found.ofTriangle(), found.count(), Work.unwatched());
    double all = 0;
    double allFlat = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      all += Vec.length(Measures.cross(mesh, t)) / 2;
      allFlat += Math.abs(flatArea(mesh, t));
    }
    int[] groups = LaidOver.of(mesh);
    List<Lying> lying = new ArrayList<>();
    Map<Integer, List<Charts.Chart>> following = new HashMap<>();
    for (int c = 0; c < found.count(); c++) {
      Lying l = lying(mesh, by.order(), by.start()[c], by.start()[c + 1], groups);
      lying.add(l);
      if (l.group > 0) {
        following.put(l.group, new ArrayList<>());
      }
    }
    List<Lying> own = new ArrayList<>();
    for (Lying l : lying) {
      List<Charts.Chart> with = l.group < 0 ? following.get(-l.group) : null;
      if (with == null) {
        own.add(l);
      } else {
        with.add(l.chart);
      }
    }
    int over = 0;
    int flat = 0;
    int laid = 0;
    List<Charts.Chart> list = new ArrayList<>();
    DoubleStream.Builder rank = DoubleStream.builder();
    List<Charts.Chart> apart = new ArrayList<>();
    List<Charts.Chart> fixed = new ArrayList<>();
    ChartGroup group = new ChartGroup(even);
    double wantedThere = 0;
    double there = 0;
    for (Lying l : own) {
      // A chart in parts of which each leads: what follows goes with the first.
      List<Charts.Chart> with = l.group > 0 ? following.remove(l.group) : null;
      with = with == null ? List.of() : with;
      if (isAny(l.chart, with, asked.stay)) {
        fixed.add(scaled(l.chart, 1, 1, with));
        wantedThere += l.wanted;
        there += Math.abs(l.inTexture);
        continue;
      }
      boolean isFlat = !(Math.abs(l.inTexture) * all > NOTHING * l.onSurface * allFlat);
      boolean isOver = l.inTexture < 0 && !isFlat;
      flat += isFlat ? 1 : 0;
      over += isOver ? 1 : 0;
      boolean isHeld = isAny(l.chart, with, asked.held);
      laid += with.size();
      boolean isAlone = isAny(l.chart, with, asked.alone);
      if (!isAlone && isAny(l.chart, with, asked.together)) {
        group.add(l.chart, with, l.onSurface, l.wanted, l.inTexture, isHeld);
        continue;
      }
      double scale = isHeld || !even ? 1 : isFlat ? 0 : Math.sqrt(l.wanted / Math.abs(l.inTexture));
      List<Charts.Chart> follow = new ArrayList<>();
      for (Charts.Chart f : with) {
        follow.add(scaled(f, isOver ? -scale : scale, scale, List.of()));
      }
      Charts.Chart chart = scaled(l.chart, isOver ? -scale : scale, scale, follow);
      (isAlone ? apart : list).add(isHeld ? chart.held() : chart);
      if (!isAlone) {
        rank.add(l.onSurface > 0 ? l.wanted / l.onSurface : 0);
      }
    }
    if (!group.isEmpty()) {
      list.add(group.chart());
      rank.add(group.rank());
    }
    double scale = fixed.isEmpty() ? 0 : even ? Math.sqrt(there / wantedThere) : 1;
    Staying staying = new Staying(fixed, scale);
    return new GivenCharts(
        new Charts(found.ofTriangle(), list),
        rank.build().toArray(),
        new Charts(found.ofTriangle(), apart),
        staying,
        over,
        flat,
        laid);
  }

  private static boolean isAny(Charts.Chart chart, List<Charts.Chart> with, BitSet set) {
    boolean is = set.get(chart.triangles()[0]);
    for (Charts.Chart c : with) {
      is |= set.get(c.triangles()[0]);
    }
    return is;
  }

  private static Charts.Chart scaled(
      Charts.Chart chart, double byU, double byV, List<Charts.Chart> over) {
    double[] uv = chart.uv().clone();
    for (int i = 0; i < uv.length; i += 2) {
      uv[i] *= byU;
      uv[i + 1] *= byV;
    }
    return new Charts.Chart(chart.triangles(), chart.corners(), uv, over);
  }

  private static Lying lying(Mesh mesh, int[] order, int from, int to, int[] groups) {
    float[] importance = Importance.of(mesh);
    int n = to - from;
    double onSurface = 0;
    double wanted = 0;
    double inTexture = 0;
    int[] triangles = new int[n];
    int[] corners = new int[3 * n];
    LongIndex vertices = new LongIndex();
    for (int i = 0; i < n; i++) {
      int t = order[from + i];
      triangles[i] = t;
      double area = Vec.length(Measures.cross(mesh, t)) / 2;
      onSurface += area;
      wanted += importance == null ? area : importance[t] * area;
      inTexture += flatArea(mesh, t);
      for (int k = 0; k < 3; k++) {
        corners[3 * i + k] = vertices.add(mesh.uv().corners()[3 * t + k]);
      }
    }
    double[] uv = new double[2 * vertices.size()];
    for (int v = 0; v < vertices.size(); v++) {
      int at = 2 * (int) vertices.key(v);
      uv[2 * v] = mesh.uv().coords()[at];
      uv[2 * v + 1] = mesh.uv().coords()[at + 1];
    }
    Charts.Chart chart = new Charts.Chart(triangles, corners, uv);
    return new Lying(
        chart, onSurface, wanted, inTexture, groups == null ? 0 : groups[triangles[0]]);
  }

  private static double flatArea(Mesh mesh, int t) {
    float[] p = mesh.uv().coords();
    int[] k = mesh.uv().corners();
    int a = 2 * k[3 * t];
    int b = 2 * k[3 * t + 1];
    int c = 2 * k[3 * t + 2];
    return (((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
            - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]))
        / 2;
  }
}
