package holotome.core.mend;

import holotome.core.array.DisjointSets;
import holotome.core.array.Ranks;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Lineage;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Handles;
import holotome.core.topology.Islands;
import holotome.core.topology.Pinches;
import holotome.core.topology.PointWeld;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * All that is wrong with a mesh, kind by kind, with places. Nothing is changed by it.
 *
 * <p>O(T log T); parts follow one another, or two run side by side, so that no more than some 44
 * bytes a triangle are taken at once.
 *
 * @param faults what was found, in the order it is mended; kinds without any are left out
 * @param noise the noise of the surface (one standard deviation), in base units
 * @param near the distance within which near points lie, the natural gap; 0 for none
 * @param handles how many handles there are in all, small or not; -1 where not counted
 * @param crossings the pairs of triangles that cross
 */
public record Survey(
    Mesh mesh,
    List<Fault> faults,
    double noise,
    double near,
    int handles,
    SelfIntersections crossings) {
  /** Where more of a mesh is new than one triangle in so many it is looked at as a whole. */
  private static final int FEW = 20;

  /** Above so many triangles it is not looked where handles are: that takes too long. */
  private static final int HANDLES = 20_000_000;

  /** Triangles with a smaller quality, 4 sqrt(3) area / sum of squared edges, are slivers. */
  private static final double THIN = 0.02;

  private static final int GRAIN = 1 << 16;

  public Survey {
    faults = List.copyOf(faults);
  }

  /** A forecast of what it takes, in bytes. */
  public static long memory(Mesh mesh) {
    return 44L * mesh.triangleCount();
  }

  /** The faults of a kind; null for none. */
  public Fault of(Fault.Kind kind) {
    return faults.stream().filter(f -> f.kind() == kind).findFirst().orElse(null);
  }

  public static Survey of(Mesh mesh, Work work) {
    return new Maker(mesh, null).run(work);
  }

  /**
   * The same of a mesh that was made from one surveyed before: crossings are only looked for where
   * it changed, and handles only where there are more or fewer.
   *
   * @param before null for none
   */
  public static Survey after(Survey before, Mesh mesh, Work work) {
    return new Maker(mesh, before).run(work);
  }

  private static final class Maker {
    private final Mesh mesh;
    private final int[] tri;
    private final List<Fault> faults = new ArrayList<>();
    private double noise;
    private double near;
    private int handles = -1;
    private Fault doubledPoints;
    private final Survey before;
    private SelfIntersections crossings;

    /** Whether the mesh is the one before but for a few triangles. */
    private boolean changedLittle;

    Maker(Mesh mesh, Survey before) {
      this.mesh = mesh;
      this.before = before;
      tri = mesh.triangles();
    }

    Survey run(Work work) {
      int[] first =
          PointWeld.representatives(
              mesh.xyz(), work.part(0.08, CoreWords.of("work.comparing-points")));
      points(first, work.part(0.02, CoreWords.of("work.comparing-points")));
      crossings(first, work.part(0.35, CoreWords.of("common.looking-for-self-intersections")));
      // Much of either is on one core.
      Work local = work.part(0.2, CoreWords.of("work.inspecting"));
      Work global = work.part(0.35, CoreWords.of("work.finding-neighbours"));
      Parallel.range(
          2,
          1,
          Work.unwatched(),
          (from, to) -> {
            for (int i = from; i < to; i++) {
              if (i == 0) {
                neighbours(first, global);
              } else {
                triangles(local.part(0.4, CoreWords.of("work.inspecting")));
                around(local.part(0.6, CoreWords.of("work.finding-spikes")));
              }
            }
          });
      faults.sort((a, b) -> a.kind().compareTo(b.kind()));
      return new Survey(mesh, faults, noise, near, handles, crossings);
    }

    private synchronized void add(Fault f) {
      if (f.count() > 0) {
        faults.add(f);
      }
    }

    private void points(int[] first, Work work) {
      Fault.Gathered doubled = new Fault.Gathered();
      for (int v = 0; v < first.length; v++) {
        if (first[v] != v) {
          doubled.addVertex(mesh, v, 0);
        }
      }
      doubledPoints = doubled.done(Fault.Kind.DOUBLED_POINTS);
      BitSet unused = mesh.unused();
      Fault.Gathered idle = new Fault.Gathered();
      for (int v = unused == null ? -1 : unused.nextSetBit(0);
          v >= 0;
          v = unused.nextSetBit(v + 1)) {
        idle.addVertex(mesh, v, 0);
      }
      add(idle.done(Fault.Kind.UNUSED_POINTS));
      work.advance(1);
    }

    /**
     * Points of borders that nearly stand together. Elsewhere they show as slivers; to look among
     * all points would take as long as all else.
     */
    private void nearPoints(int[] first, Adjacency adjacency, Work work) {
      if (adjacency.borderEdges() == 0) {
        return;
      }
      BitSet rim = new BitSet(mesh.vertexCount());
      for (int h = 0; h < tri.length; h++) {
        if (adjacency.twin()[h] == Adjacency.BORDER) {
          rim.set(tri[h]);
          rim.set(tri[Adjacency.next(h)]);
        }
      }
      try {
        WeldCurve curve = WeldCurve.of(mesh, rim, work.part(0.7, work.label()));
        near = Math.max(0, curve.natural());
      } catch (Failure f) {
        if (f.kind() == Failure.Kind.CANCELLED) {
          throw f;
        }
        // Points too dense everywhere have no natural gap.
        near = 0;
      }
      if (near > 0) {
        nearPoints(first, rim, work.part(0.3, work.label()));
      }
    }

    private void nearPoints(int[] first, BitSet rim, Work work) {
      PointJoining joined = PointJoining.within(mesh, rim, near, work);
      Fault.Gathered close = new Fault.Gathered();
      for (int v = 0; joined != null && v < first.length; v++) {
        int to = joined.find(v);
        if (to != v && first[v] == v && first[to] != first[v]) {
          close.addVertex(mesh, v, Vec.distance(Vec.at(mesh.xyz(), v), Vec.at(mesh.xyz(), to)));
        }
      }
      add(close.done(Fault.Kind.NEAR_POINTS));
    }

    private void triangles(Work work) {
      Fault.Gathered degenerate = new Fault.Gathered();
      Fault.Gathered slivers = new Fault.Gathered();
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
      add(degenerate.done(Fault.Kind.DEGENERATE));
      add(slivers.done(Fault.Kind.SLIVERS));
      boolean[] marks = flat.clone();
      int doubles = Degenerate.markDuplicates(mesh, marks);
      if (doubles > 0) {
        Fault.Gathered g = new Fault.Gathered();
        for (int t = 0; t < marks.length; t++) {
          if (marks[t] && !flat[t]) {
            g.addTriangle(mesh, t, longest(t));
          }
        }
        add(g.done(Fault.Kind.DUPLICATE));
      }
      work.advance(0.4);
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

    /** What crosses, told from what did before where only little changed. */
    private SelfIntersections changed(int[] first, Work work) {
      Lineage.Common common =
          before == null || !before.crossings.isWhole()
              ? null
              : Lineage.common(before.mesh.lineage(), mesh.lineage());
      if (common == null) {
        return SelfIntersections.of(mesh, first, work);
      }
      Ranks others =
          Submesh.chosen(
              mesh.triangleCount(),
              t -> !isWhereItWas(common.from(t), t),
              work.part(0.2, work.label()));
      if ((long) FEW * others.size() > mesh.triangleCount()) {
        return SelfIntersections.of(mesh, first, work.part(0.8, work.label()));
      }
      changedLittle = true;
      BitSet fresh = new BitSet();
      for (int i = 0; i < others.size(); i++) {
        fresh.set(others.select(i));
      }
      return SelfIntersections.after(
          before.crossings,
          t -> {
            int now = common.to(t);
            return now < 0 || fresh.get(now) ? -1 : now;
          },
          fresh,
          mesh,
          first,
          work.part(0.8, work.label()));
    }

    /** Whether a triangle of the mesh before has the corners it had. */
    private boolean isWhereItWas(int old, int t) {
      if (old < 0) {
        return false;
      }
      float[] p = before.mesh.xyz();
      int[] was = before.mesh.triangles();
      for (int c = 0; c < 3; c++) {
        int a = 3 * was[3 * old + c];
        int b = 3 * tri[3 * t + c];
        if (p[a] != mesh.xyz()[b]
            || p[a + 1] != mesh.xyz()[b + 1]
            || p[a + 2] != mesh.xyz()[b + 2]) {
          return false;
        }
      }
      return true;
    }

    /** Pairs that hang together through shared triangles are one place. */
    private void crossings(int[] first, Work work) {
      SelfIntersections found = changed(first, work);
      crossings = found;
      if (found.count() == 0) {
        return;
      }
      int[] pairs = found.pairs();
      BitSet in = found.triangles();
      int[] number = new int[in.length()];
      int[] triangle = new int[in.cardinality()];
      int n = 0;
      for (int t = in.nextSetBit(0); t >= 0; t = in.nextSetBit(t + 1)) {
        number[t] = n;
        triangle[n++] = t;
      }
      DisjointSets sets = new DisjointSets(n);
      for (int i = 0; i < pairs.length; i += 2) {
        sets.join(number[pairs[i]], number[pairs[i + 1]]);
      }
      int[] size = new int[n];
      for (int i = 0; i < pairs.length; i += 2) {
        size[sets.find(number[pairs[i]])]++;
      }
      Fault.Gathered g = new Fault.Gathered();
      for (int i = 0; i < n; i++) {
        if (size[i] > 0) {
          g.addTriangle(mesh, triangle[i], size[i]);
        }
      }
      add(g.done(Fault.Kind.CROSSINGS, found.count()));
    }

    private void neighbours(int[] first, Work work) {
      Adjacency adjacency =
          Adjacency.of(mesh, work.part(0.4, CoreWords.of("work.finding-neighbours")));
      int[] twin = adjacency.twin();
      Fault.Gathered pinched = new Fault.Gathered();
      Pinches.find(adjacency, v -> pinched.addVertex(mesh, v, 0));
      add(pinched.done(Fault.Kind.PINCHED_POINTS));
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
      add(crowded.done(Fault.Kind.CROWDED_EDGES, adjacency.crowdedEdges()));
      add(disagreeing.done(Fault.Kind.DISAGREEING, adjacency.misfitEdges()));
      Fault.Gathered folds = new Fault.Gathered();
      BitSet folded = Spikes.folds(mesh, adjacency, work.part(0.1, work.label()));
      for (int h = folded.nextSetBit(0); h >= 0; h = folded.nextSetBit(h + 1)) {
        addEdge(folds, h);
      }
      add(folds.done(Fault.Kind.FOLDS));
      int[][] loops = Borders.of(adjacency).loops();
      holes(loops);
      // Points that were doubled to part two fans tear nothing and are as they should be.
      if (Borders.torn(adjacency, first) > 0) {
        add(doubledPoints);
      }
      nearPoints(first, adjacency, work.part(0.1, CoreWords.of("work.comparing-points")));
      boolean isManifold =
          adjacency.crowdedEdges() == 0 && adjacency.misfitEdges() == 0 && pinched.count() == 0;
      Islands islands = Islands.of(mesh, work.part(0.1, CoreWords.of("work.finding-islands")));
      if (isManifold) {
        handles(
            adjacency,
            genus(adjacency, islands, loops.length),
            work.part(0.2, CoreWords.of("work.finding-handles")));
      }
      islands(adjacency, islands, work.part(0.2, CoreWords.of("work.finding-islands")));
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

    private void holes(int[][] loops) {
      Fault.Gathered g = new Fault.Gathered();
      for (int[] loop : loops) {
        g.addVertex(mesh, tri[loop[0]], Borders.perimeter(mesh, loop));
      }
      add(g.done(Fault.Kind.HOLES));
    }

    /** By Euler's formula: how many handles there are, small or not. */
    private int genus(Adjacency adjacency, Islands islands, int loops) {
      BitSet unused = mesh.unused();
      long used = mesh.vertexCount() - (unused == null ? 0 : unused.cardinality());
      long triangles = mesh.triangleCount();
      long edges = (3 * triangles + adjacency.borderEdges()) / 2;
      return (int) ((2L * islands.count() - loops - (used - edges + triangles)) / 2);
    }

    /** Where there are as many as before a small change, they are taken to be the same. */
    private void handles(Adjacency adjacency, int genus, Work work) {
      boolean isKnown = changedLittle && before.handles == genus;
      if (genus == 0 || isKnown) {
        handles = genus;
        Fault same = isKnown ? before.of(Fault.Kind.HANDLES) : null;
        if (same != null) {
          add(same);
        }
        return;
      }
      if (mesh.triangleCount() > HANDLES) {
        return;
      }
      Handles h = Handles.of(adjacency, CutHandles.SHARE * mesh.bounds().diagonal(), work);
      handles = h.genus();
      Fault.Gathered g = new Fault.Gathered();
      BitSet taken = new BitSet();
      // Two loops go round a handle: those that meet belong together.
      for (int i = 0; i < h.loops().length; i++) {
        if (Arrays.stream(h.loops()[i]).noneMatch(taken::get)) {
          g.addVertex(mesh, h.loops()[i][0], h.girths()[i]);
        }
        Arrays.stream(h.loops()[i]).forEach(taken::set);
      }
      add(g.done(Fault.Kind.HANDLES));
    }

    /** Closed islands inside out, and islands that are shut in. */
    private void islands(Adjacency adjacency, Islands islands, Work work) {
      boolean[] shut = ShutIn.of(mesh, islands, work);
      int[] of = islands.ofTriangle();
      boolean[] open = new boolean[islands.count()];
      double[] volume = new double[islands.count()];
      int[] seen = new int[islands.count()];
      Arrays.fill(seen, -1);
      double[] origin = mesh.isEmpty() ? new double[3] : Vec.at(mesh.xyz(), tri[0]);
      for (int t = 0; t < of.length; t++) {
        int i = of[t];
        seen[i] = seen[i] < 0 ? t : seen[i];
        for (int h = 3 * t; h < 3 * t + 3; h++) {
          open[i] |= adjacency.twin()[h] < 0;
        }
        if (!open[i]) {
          double[] a = Vec.sub(Vec.at(mesh.xyz(), tri[3 * t]), origin);
          double[] b = Vec.sub(Vec.at(mesh.xyz(), tri[3 * t + 1]), origin);
          double[] c = Vec.sub(Vec.at(mesh.xyz(), tri[3 * t + 2]), origin);
          volume[i] += Vec.dot(a, Vec.cross(b, c)) / 6;
        }
      }
      Fault.Gathered turned = new Fault.Gathered();
      Fault.Gathered shells = new Fault.Gathered();
      for (int i = 0; i < islands.count(); i++) {
        if (shut[i]) {
          shells.addTriangle(mesh, seen[i], islands.sizes()[i]);
        } else if (!open[i] && volume[i] < 0) {
          turned.addTriangle(mesh, seen[i], islands.sizes()[i]);
        }
      }
      add(turned.done(Fault.Kind.INSIDE_OUT));
      add(shells.done(Fault.Kind.SHELLS));
    }

    /** What is told from the triangles around each vertex. */
    private void around(Work work) {
      VertexFans fans =
          VertexFans.of(mesh, work.part(0.5, CoreWords.of("work.finding-neighbours")));
      BitSet tips =
          Spikes.tips(
              mesh.xyz(),
              tri,
              fans,
              Spikes.SHARP,
              null,
              work.part(0.2, CoreWords.of("work.finding-spikes")));
      Fault.Gathered spikes = new Fault.Gathered();
      double[] sum = new double[3];
      for (int v = tips.nextSetBit(0); v >= 0; v = tips.nextSetBit(v + 1)) {
        int n = fans.around(v, tri, mesh.xyz(), sum);
        double[] mean = Vec.mul(sum, 1.0 / n);
        spikes.addVertex(mesh, v, Vec.distance(Vec.at(mesh.xyz(), v), mean));
      }
      add(spikes.done(Fault.Kind.SPIKES));
      noise = mesh.isEmpty() ? 0 : NoiseLevel.of(mesh, fans);
      work.advance(0.3);
    }
  }
}
