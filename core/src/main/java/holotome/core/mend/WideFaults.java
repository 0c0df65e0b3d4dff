package holotome.core.mend;

import holotome.core.array.DisjointSets;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Handles;
import java.util.Arrays;
import java.util.BitSet;

/** The faults of a mesh that no single place tells of, each from what they are told by. */
final class WideFaults {
  private WideFaults() {}

  static Fault unused(Mesh mesh) {
    BitSet unused = mesh.unused();
    Fault.Gathered idle = new Fault.Gathered();
    for (int v = unused == null ? -1 : unused.nextSetBit(0); v >= 0; v = unused.nextSetBit(v + 1)) {
      idle.addVertex(mesh, v, 0);
    }
    return idle.done(Fault.Kind.UNUSED_POINTS);
  }

  /** Pairs that hang together through shared triangles are one place. */
  static Fault crossings(Mesh mesh, SelfIntersections found) {
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
    return g.done(Fault.Kind.CROSSINGS, found.count());
  }

  /**
   * @param loops the borders, as half-edges
   */
  static Fault holes(Mesh mesh, int[][] loops) {
    Fault.Gathered g = new Fault.Gathered();
    for (int[] loop : loops) {
      g.addVertex(mesh, mesh.triangles()[loop[0]], Borders.perimeter(mesh, loop));
    }
    return g.done(Fault.Kind.HOLES);
  }

  /**
   * Points of borders that nearly stand together.
   *
   * @param distance within which they lie, the natural gap; 0 for none
   */
  record Near(double distance, Fault fault) {}

  /**
   * Looks among the points of borders only. Elsewhere near points show as slivers; to look among
   * all points would take as long as all else.
   *
   * @param loops the borders, as half-edges
   */
  static Near near(Mesh mesh, int[][] loops, Work work) {
    Fault.Gathered close = new Fault.Gathered();
    if (loops.length == 0) {
      return new Near(0, close.done(Fault.Kind.NEAR_POINTS));
    }
    BitSet rim = new BitSet(mesh.vertexCount());
    for (int[] loop : loops) {
      for (int h : loop) {
        rim.set(mesh.triangles()[h]);
        rim.set(mesh.triangles()[Adjacency.next(h)]);
      }
    }
    double near = 0;
    try {
      near = Math.max(0, WeldCurve.naturalGap(mesh, rim, work.part(0.7, work.label())));
    } catch (Failure f) {
      // Points too dense everywhere have no natural gap.
      if (f.kind() == Failure.Kind.CANCELLED) {
        throw f;
      }
    }
    PointJoining joined =
        near > 0 ? PointJoining.within(mesh, rim, near, work.part(0.3, work.label())) : null;
    if (joined != null) {
      rim.stream().forEach(v -> addNear(mesh, joined, v, close));
    }
    return new Near(near, close.done(Fault.Kind.NEAR_POINTS));
  }

  /** Points on the very same spot are not near ones. */
  private static void addNear(Mesh mesh, PointJoining joined, int v, Fault.Gathered close) {
    int to = joined.find(v);
    double apart = Vec.distance(Vec.at(mesh.xyz(), v), Vec.at(mesh.xyz(), to));
    if (to != v && apart > 0 && joined.isFirstOnSpot(v)) {
      close.addVertex(mesh, v, apart);
    }
  }

  /**
   * By Euler's formula: how many handles a manifold mesh has, small or not.
   *
   * @param loops the borders, as half-edges
   */
  static int genus(Mesh mesh, int islands, int[][] loops) {
    BitSet unused = mesh.unused();
    long used = mesh.vertexCount() - (unused == null ? 0 : unused.cardinality());
    long triangles = mesh.triangleCount();
    long borders = 0;
    for (int[] loop : loops) {
      borders += loop.length;
    }
    long edges = (3 * triangles + borders) / 2;
    return (int) ((2L * islands - loops.length - (used - edges + triangles)) / 2);
  }

  /** Small handles with their girth. */
  static Fault handles(Mesh mesh, Handles found) {
    Fault.Gathered g = new Fault.Gathered();
    BitSet taken = new BitSet();
    // Two loops go round a handle: those that meet belong together.
    for (int i = 0; i < found.loops().length; i++) {
      if (Arrays.stream(found.loops()[i]).noneMatch(taken::get)) {
        g.addVertex(mesh, found.loops()[i][0], found.girths()[i]);
      }
      Arrays.stream(found.loops()[i]).forEach(taken::set);
    }
    return g.done(Fault.Kind.HANDLES);
  }
}
