package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Pinches;
import holotome.core.topology.PointWeld;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.EnumMap;
import java.util.Map;
import java.util.function.Consumer;

/**
 * The faults of a mesh that are told from a triangle, or from the triangles around a vertex or an
 * edge, alone: so that a part of a mesh has those of the whole that lie within it.
 */
final class LocalFaults {
  /** Triangles with a smaller quality, 4 sqrt(3) area / sum of squared edges, are slivers. */
  private static final double THIN = 0.02;

  private static final int GRAIN = 1 << 16;

  private final Mesh mesh;
  private final int[] tri;
  private final Consumer<Fault> found;

  /**
   * @param found is told of each kind, with or without any
   */
  LocalFaults(Mesh mesh, Consumer<Fault> found) {
    this.mesh = mesh;
    this.found = found;
    tri = mesh.triangles();
  }

  /**
   * All of a small mesh, whose points are all used.
   *
   * @param faults by kind, those without any too; doubled points whether or not the surface is torn
   * @param torn how many edges are, see {@link Borders#torn}
   * @param adjacency of the mesh
   */
  record All(Map<Fault.Kind, Fault> faults, int torn, Adjacency adjacency) {
    static All of(Mesh mesh) {
      Map<Fault.Kind, Fault> faults = new EnumMap<>(Fault.Kind.class);
      Work work = Work.unwatched();
      LocalFaults local = new LocalFaults(mesh, f -> faults.put(f.kind(), f));
      int[] first = PointWeld.representatives(mesh.xyz(), work);
      local.points(first);
      local.triangles(work);
      Adjacency adjacency = Adjacency.of(mesh, work);
      local.edges(adjacency, work);
      local.spikes(VertexFans.of(mesh, work), work);
      return new All(faults, Borders.torn(adjacency, first), adjacency);
    }
  }

  /**
   * @param first per vertex the first one on the same spot
   */
  void points(int[] first) {
    Fault.Gathered doubled = new Fault.Gathered();
    for (int v = 0; v < first.length; v++) {
      if (first[v] != v) {
        doubled.addVertex(mesh, v, 0);
      }
    }
    found.accept(doubled.done(Fault.Kind.DOUBLED_POINTS));
  }

  void triangles(Work work) {
    Fault.Gathered degenerate = new Fault.Gathered();
    Fault.Gathered slivers = new Fault.Gathered();
    Fault.Gathered twice = new Fault.Gathered();
    boolean[] flat = Measures.withoutArea(mesh);
    work.advance(0.4);
    BitSet[] thin = new BitSet[Parallel.chunks(flat.length, GRAIN)];
    Parallel.chunked(
        flat.length,
        GRAIN,
        work.part(0.2, work.label()),
        (c, from, to) -> {
          BitSet own = new BitSet();
          double[] n = new double[3];
          for (int t = from; t < to; t++) {
            Measures.cross(mesh.xyz(), tri, t, n);
            if (!flat[t] && 2 * Math.sqrt(3) * Vec.length(n) < THIN * squares(t)) {
              own.set(t - from);
            }
          }
          thin[c] = own;
        });
    for (int t = 0; t < flat.length; t++) {
      if (flat[t]) {
        degenerate.addTriangle(mesh, t, longest(t));
      }
    }
    for (int c = 0; c < thin.length; c++) {
      for (int i = thin[c].nextSetBit(0); i >= 0; i = thin[c].nextSetBit(i + 1)) {
        slivers.addTriangle(mesh, c * GRAIN + i, longest(c * GRAIN + i));
      }
    }
    boolean[] marks = flat.clone();
    int doubles = Degenerate.markDuplicates(mesh, marks);
    for (int t = 0; doubles > 0 && t < marks.length; t++) {
      if (marks[t] && !flat[t]) {
        twice.addTriangle(mesh, t, longest(t));
      }
    }
    found.accept(degenerate.done(Fault.Kind.DEGENERATE));
    found.accept(slivers.done(Fault.Kind.SLIVERS));
    found.accept(twice.done(Fault.Kind.DUPLICATE));
    work.advance(0.4);
  }

  void edges(Adjacency adjacency, Work work) {
    int[] twin = adjacency.twin();
    Fault.Gathered pinched = new Fault.Gathered();
    Pinches.find(adjacency, v -> pinched.addVertex(mesh, v, 0));
    found.accept(pinched.done(Fault.Kind.PINCHED_POINTS));
    Fault.Gathered crowded = new Fault.Gathered();
    Fault.Gathered disagreeing = new Fault.Gathered();
    if (adjacency.crowdedEdges() > 0 || adjacency.misfitEdges() > 0) {
      for (int h = 0; h < twin.length; h++) {
        if (twin[h] == Adjacency.CROWDED && tri[h] < tri[Adjacency.next(h)]) {
          addEdge(crowded, h);
        } else if (Adjacency.misfit(twin[h]) > h) {
          addEdge(disagreeing, h);
        }
      }
    }
    found.accept(crowded.done(Fault.Kind.CROWDED_EDGES, adjacency.crowdedEdges()));
    found.accept(disagreeing.done(Fault.Kind.DISAGREEING, adjacency.misfitEdges()));
    Fault.Gathered folds = new Fault.Gathered();
    BitSet folded = Spikes.folds(mesh, adjacency, work);
    for (int h = folded.nextSetBit(0); h >= 0; h = folded.nextSetBit(h + 1)) {
      addEdge(folds, h);
    }
    found.accept(folds.done(Fault.Kind.FOLDS));
  }

  void spikes(VertexFans fans, Work work) {
    BitSet tips =
        Spikes.tips(
            mesh.xyz(),
            tri,
            fans,
            Spikes.SHARP,
            null,
            work.part(1, CoreWords.of("work.finding-spikes")));
    Fault.Gathered spikes = new Fault.Gathered();
    double[] sum = new double[3];
    for (int v = tips.nextSetBit(0); v >= 0; v = tips.nextSetBit(v + 1)) {
      int n = fans.around(v, tri, mesh.xyz(), sum);
      double[] mean = Vec.mul(sum, 1.0 / n);
      spikes.addVertex(mesh, v, Vec.distance(Vec.at(mesh.xyz(), v), mean));
    }
    found.accept(spikes.done(Fault.Kind.SPIKES));
  }

  private void addEdge(Fault.Gathered g, int h) {
    float[] p = mesh.xyz();
    int a = 3 * tri[h];
    int b = 3 * tri[Adjacency.next(h)];
    g.add(
        (p[a] + p[b]) / 2.0,
        (p[a + 1] + p[b + 1]) / 2.0,
        (p[a + 2] + p[b + 2]) / 2.0,
        Math.sqrt(square(h)));
  }

  private double square(int h) {
    int a = 3 * tri[h];
    int b = 3 * tri[Adjacency.next(h)];
    float[] p = mesh.xyz();
    double x = (double) p[a] - p[b];
    double y = (double) p[a + 1] - p[b + 1];
    double z = (double) p[a + 2] - p[b + 2];
    return x * x + y * y + z * z;
  }

  private double squares(int t) {
    return square(3 * t) + square(3 * t + 1) + square(3 * t + 2);
  }

  private double longest(int t) {
    return Math.sqrt(Math.max(square(3 * t), Math.max(square(3 * t + 1), square(3 * t + 2))));
  }
}
