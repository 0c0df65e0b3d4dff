package holotome.core.mend;

import holotome.core.attribute.Blends;
import holotome.core.attribute.Provenance;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.List;
import java.util.function.Consumer;
import java.util.stream.IntStream;

/**
 * Parts edges of more than two triangles, and vertices where several fans of triangles meet, by
 * giving each fan a vertex of its own (Guéziec, Taubin, Lazarus and Horn, "Cutting and stitching",
 * IEEE TVCG 7(2), 2001).
 *
 * <p>At an edge of more than two triangles, triangles that bound the same solid wedge stay
 * together, so that closed bodies that touch along an edge come apart closed.
 */
final class FanSplit {
  private final Mesh mesh;
  private final int[] tri;
  private int[] twin;

  private FanSplit(Mesh mesh) {
    this.mesh = mesh;
    this.tri = mesh.triangles();
  }

  static Mesh split(Mesh mesh, List<String> notes, Work work) {
    return new FanSplit(mesh).run(notes, work);
  }

  private Mesh run(List<String> notes, Work work) {
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.6, CoreWords.of("work.finding-neighbours")));
    twin = adjacency.twin();
    int[] crowded = crowded(adjacency);
    if (adjacency.crowdedEdges() > 0 || adjacency.misfitEdges() > 0) {
      twin = twin.clone();
      byEdge(crowded, tri, this::pairWedge);
    }
    Fans fans = fans();
    work.advance(0.3);
    if (adjacency.crowdedEdges() > 0) {
      notes.add(CoreWords.of("fan-split.edges-of-more-than-two", adjacency.crowdedEdges()));
      while (loosen(crowded, fans.corner)) {
        fans = fans();
      }
    }
    int extras = fans.extra.length;
    if (extras == 0) {
      return mesh;
    }
    notes.add(CoreWords.of("fan-split.points-doubled-where-separate-fans", extras));
    int vertices = mesh.vertexCount();
    Provenance p =
        Provenance.of(vertices, mesh.triangleCount())
            .added(Blends.copies(vertices, fans.extra, extras))
            .build();
    return mesh.derive(p, null, fans.corner, work.part(0.1, CoreWords.of("work.parting-fans")));
  }

  /**
   * The vertices that fans get.
   *
   * @param corner per corner
   * @param extra per vertex behind the mesh's own the one it stands on
   */
  private record Fans(int[] corner, int[] extra) {}

  private Fans fans() {
    int vertices = mesh.vertexCount();
    int[] fan = new int[tri.length];
    Arrays.fill(fan, -1);
    boolean[] taken = new boolean[vertices];
    int[] extra = new int[16];
    int extras = 0;
    for (int c = 0; c < tri.length; c++) {
      if (fan[c] >= 0) {
        continue;
      }
      int v = tri[c];
      int number = v;
      if (taken[v]) {
        if (extras == extra.length) {
          extra = Arrays.copyOf(extra, 2 * extras);
        }
        number = vertices + extras;
        extra[extras++] = v;
      }
      taken[v] = true;
      mark(c, number, fan);
    }
    return new Fans(fan, Arrays.copyOf(extra, extras));
  }

  /**
   * Where fans hang together another way round, an edge keeps its points and with them more than
   * two triangles: those beyond two are let go on all sides.
   *
   * @param crowded the half-edges of edges of more than two triangles
   * @param corner the vertices that fans got, per corner
   * @return whether there was such an edge
   */
  private boolean loosen(int[] crowded, int[] corner) {
    boolean[] any = new boolean[1];
    byEdge(
        crowded,
        corner,
        group -> {
          if (group.length > 2) {
            any[0] = true;
            int other = twin[group[0]] >= 0 ? twin[group[0]] : group[1];
            Arrays.stream(group, 1, group.length)
                .filter(h -> h != other)
                .forEach(h -> letGo(h / 3));
          }
        });
    return any[0];
  }

  /** Tells of half-edges together that join the same two vertices, from the lowest on. */
  private static void byEdge(int[] half, int[] corner, Consumer<int[]> told) {
    long[] key = new long[half.length];
    Integer[] order = new Integer[half.length];
    for (int i = 0; i < key.length; i++) {
      int a = corner[half[i]];
      int b = corner[Adjacency.next(half[i])];
      key[i] = (long) Math.min(a, b) << 32 | Math.max(a, b);
      order[i] = i;
    }
    Arrays.sort(order, (i, j) -> key[i] != key[j] ? Long.compare(key[i], key[j]) : i - j);
    for (int i = 0, j; i < order.length; i = j) {
      j = i + 1;
      while (j < order.length && key[order[j]] == key[order[i]]) {
        j++;
      }
      told.accept(Arrays.stream(order, i, j).mapToInt(k -> half[k]).toArray());
    }
  }

  /** The half-edges of edges of more than two triangles, rising. */
  private static int[] crowded(Adjacency adjacency) {
    int[] twin = adjacency.twin();
    return adjacency.crowdedEdges() == 0
        ? new int[0]
        : IntStream.range(0, twin.length).filter(h -> twin[h] == Adjacency.CROWDED).toArray();
  }

  private void letGo(int t) {
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      if (twin[h] >= 0) {
        twin[twin[h]] = Adjacency.BORDER;
      }
      twin[h] = Adjacency.BORDER;
    }
  }

  /** Marks all corners of the fan around corner c's vertex: turns both ways through the twins. */
  private void mark(int c, int number, int[] fan) {
    int at = c;
    while (at >= 0 && fan[at] < 0) {
      fan[at] = number;
      // Across the edge that ends in this corner, the twin starts in it.
      int g = twin[Adjacency.previous(at)];
      at = g >= 0 ? g : -1;
    }
    int g = twin[c];
    at = g >= 0 ? Adjacency.next(g) : -1;
    while (at >= 0 && fan[at] < 0) {
      fan[at] = number;
      g = twin[at];
      at = g >= 0 ? Adjacency.next(g) : -1;
    }
  }

  /** Pairs the half-edges of a crowded edge by the solid wedges between their triangles. */
  private void pairWedge(int[] group) {
    int u = Math.min(tri[group[0]], tri[Adjacency.next(group[0])]);
    int v = Math.max(tri[group[0]], tri[Adjacency.next(group[0])]);
    double[] origin = Vec.at(mesh.xyz(), u);
    double[] axis = Vec.unit(Vec.sub(Vec.at(mesh.xyz(), v), origin));
    double[] x = Vec.perpendicular(axis);
    double[] y = Vec.cross(axis, x);
    double[] angle = new double[group.length];
    Integer[] order = new Integer[group.length];
    for (int i = 0; i < group.length; i++) {
      double[] d = Vec.sub(Vec.at(mesh.xyz(), tri[Adjacency.previous(group[i])]), origin);
      angle[i] = Math.atan2(Vec.dot(d, y), Vec.dot(d, x));
      order[i] = i;
    }
    Arrays.sort(
        order,
        (i, j) -> angle[i] != angle[j] ? Double.compare(angle[i], angle[j]) : group[i] - group[j]);
    // Around the axis, the solid lies between a triangle that runs against it and the next one that
    // runs along it: pairs nest like brackets on a circle, so going round twice closes them all.
    int[] stack = new int[2 * group.length];
    int top = 0;
    boolean[] paired = new boolean[group.length];
    for (int step = 0; step < 2 * group.length; step++) {
      int i = order[step % group.length];
      if (paired[i]) {
        continue;
      }
      boolean along = tri[group[i]] == u;
      if (!along) {
        if (step < group.length) {
          stack[top++] = i;
        }
      } else if (top > 0) {
        int o = stack[--top];
        twin[group[i]] = group[o];
        twin[group[o]] = group[i];
        paired[i] = true;
        paired[o] = true;
      }
    }
    for (int i = 0; i < group.length; i++) {
      if (!paired[i]) {
        twin[group[i]] = Adjacency.BORDER;
      }
    }
  }
}
