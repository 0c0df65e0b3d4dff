package holotome.core.unwrap;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.select.NearestTriangle;
import holotome.core.select.Pick;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/** Finds the edges that an edit of seams means, and cuts or sews them. */
final class SeamMaker {
  private final Mesh mesh;
  private final Frame frame;
  private final Ground ground;
  private final SeamMap map;
  private final SeamWays ways;
  private final Work work;

  SeamMaker(Mesh mesh, Frame frame, Work work) {
    this.mesh = mesh;
    this.frame = frame;
    this.work = work;
    ground = Ground.of(mesh, work);
    map = new SeamMap(ground);
    ways = new SeamWays(ground, work);
  }

  Ground ground() {
    return ground;
  }

  SeamMap map() {
    return map;
  }

  /** Makes an edit; how many edges became seams, or none any more. */
  int make(SeamEdit edit) {
    int n = 0;
    for (int h : edges(edit)) {
      n += map.set(h, edit.isCut()) ? 1 : 0;
    }
    return n;
  }

  /**
   * The half-edges that an edit means as the seams run now, of each edge one; none of borders or
   * where that changes nothing.
   *
   * @throws Failure where no way or ring is there
   */
  int[] edges(SeamEdit edit) {
    BitSet out = new BitSet();
    for (int h : found(edit)) {
      if (ground.twin()[h] >= 0 && map.isSeam(h) != edit.isCut()) {
        out.set(Math.min(h, ground.twin()[h]));
      }
    }
    return out.stream().toArray();
  }

  private int[] found(SeamEdit edit) {
    return switch (edit.how()) {
      case WAY -> way(edit);
      case RING -> rings(edit.points());
      case SHARP -> sharp(edit.sharp());
      case AROUND -> around(edit.picks());
      case SEW -> sewn(edit.points());
    };
  }

  private int[] way(SeamEdit edit) {
    int[] stops = vertices(edit.points());
    BitSet out = new BitSet();
    for (int i = 0; i < stops.length; i++) {
      if (i + 1 == stops.length && !edit.closed()) {
        break;
      }
      int[] part = ways.way(stops[i], stops[(i + 1) % stops.length]);
      if (part == null) {
        throw Failure.cannot(CoreWords.of("seams.no-way", i + 1, (i + 1) % stops.length + 1));
      }
      addAlike(part, out);
    }
    return out.stream().toArray();
  }

  private void addAlike(int[] edges, BitSet out) {
    for (int h : edges) {
      for (int g : ways.alike(h)) {
        out.set(g);
      }
    }
  }

  private int[] rings(double[] points) {
    BitSet out = new BitSet();
    for (int v : vertices(points)) {
      int[] ring = ways.ring(v);
      if (ring == null) {
        throw Failure.cannot(CoreWords.of("seams.no-ring"));
      }
      addAlike(ring, out);
    }
    return out.stream().toArray();
  }

  private int[] sharp(double angle) {
    double least = 1 - Math.cos(Math.toRadians(angle));
    BitSet out = new BitSet();
    for (int h = 0; h < ground.twin().length; h++) {
      if (ground.twin()[h] > h && 1 - ground.turn(h) > least) {
        out.set(h);
      }
    }
    return out.stream().toArray();
  }

  private int[] around(List<Pick> picks) {
    if (picks.stream().anyMatch(p -> !p.isGeometric())) {
      throw Failure.cannot(CoreWords.of("space.stored"));
    }
    BitSet set = Pick.all(picks, mesh, frame, work);
    BitSet out = new BitSet();
    for (int h = 0; h < ground.twin().length; h++) {
      int g = ground.twin()[h];
      if (g > h && set.get(h / 3) != set.get(g / 3)) {
        out.set(h);
      }
    }
    if (out.isEmpty()) {
      throw Failure.cannot(CoreWords.of("seams.no-outline"));
    }
    return out.stream().toArray();
  }

  private int[] sewn(double[] points) {
    BitSet out = new BitSet();
    for (int i = 0; i < points.length; i += 3) {
      int h = nearestSeam(base(points, i));
      if (h < 0) {
        throw Failure.cannot(CoreWords.of("seams.no-seam"));
      }
      out.or(map.stretch(h, this::edgesAt));
    }
    return out.stream().toArray();
  }

  private int[] edgesAt(int vertex) {
    return ways.edgesAt(vertex);
  }

  /** The half-edge of a seam, not a border, that lies nearest to a point; -1 for none. */
  private int nearestSeam(double[] p) {
    double least = Double.POSITIVE_INFINITY;
    int best = -1;
    for (int h = 0; h < ground.twin().length; h++) {
      if (ground.twin()[h] > h && map.isSeam(h)) {
        double[] a = Vec.at(mesh.xyz(), mesh.triangles()[h]);
        double[] b = Vec.at(mesh.xyz(), mesh.triangles()[Adjacency.next(h)]);
        double[] ab = Vec.sub(b, a);
        double along = Vec.dot(Vec.sub(p, a), ab) / Math.max(1e-300, Vec.dot(ab, ab));
        double d = Vec.distance(p, Vec.add(a, Vec.mul(ab, Math.clamp(along, 0.0, 1.0))));
        if (d < least) {
          least = d;
          best = h;
        }
      }
    }
    return best;
  }

  private double[] base(double[] points, int i) {
    return frame.toBase(Arrays.copyOfRange(points, i, i + 3));
  }

  private int[] vertices(double[] points) {
    List<Integer> out = new ArrayList<>();
    for (int i = 0; i < points.length; i += 3) {
      double[] p = base(points, i);
      int v = SeamWays.corner(mesh, NearestTriangle.of(mesh, p, work), p);
      if (out.isEmpty() || out.getLast() != v) {
        out.add(v);
      }
    }
    return out.stream().mapToInt(Integer::intValue).toArray();
  }
}
