package holotome.core.quad;

import holotome.core.array.LongIndex;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.TrianglePoint;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Lays the points of faces on a surface and evens them there: each goes part of the way to the
 * middle of its neighbours, then back to where the surface is nearest, found by going from triangle
 * to triangle, so that it never comes onto another sheet close by. Points on lines go along their
 * line, corners of lines stay.
 *
 * <p>About 3 µs a point and round on one core; on all cores.
 */
final class QuadSettle {
  private static final int GRAIN = 1 << 9;
  private static final double STEP = 0.5;

  /** So many triangles on is no longer near. */
  private static final int FARTHEST = 64;

  private final Mesh surface;
  private final float[] normals;
  private final VertexFans fans;
  private final SurfaceLines lines;
  private final Holds holds;
  private final Faces faces;
  private final int n;

  /** The neighbours of each point, and how many of them are reached along lines. */
  private final int[] start;

  private final int[] near;

  /** Neighbours along a line, two a point; -1 for none. Three and more make a corner. */
  private final int[] along;

  private final byte[] kind;

  /** The corner of the surface's lines that a point is; -1 for none. */
  private final int[] place;

  /** The triangle each point lies on, or the vertex of the line. */
  private final int[] on;

  private QuadSettle(
      Mesh surface, float[] normals, SurfaceLines lines, Holds holds, Faces faces, Work work) {
    this.normals = normals;
    this.surface = surface;
    this.lines = lines;
    this.holds = holds;
    this.faces = faces;
    fans = VertexFans.of(surface, work);
    n = faces.points();
    start = new int[n + 1];
    along = new int[2 * n];
    Arrays.fill(along, -1);
    kind = new byte[n];
    on = new int[n];
    place = new int[n];
    Arrays.fill(place, -1);
    near = neighbours();
    sort();
  }

  /**
   * Settles.
   *
   * @param normals of the surface at its vertices, as they are over a distance
   * @param lines the lines of the surface, and what the lattice was held to there
   * @param rounds how often
   * @return the same faces elsewhere
   */
  static QuadMesh of(
      Mesh surface,
      float[] normals,
      SurfaceLines lines,
      Holds holds,
      Faces faces,
      int rounds,
      Work work) {
    QuadSettle s = new QuadSettle(surface, normals, lines, holds, faces, work);
    double[] at = faces.at().clone();
    s.project(at, work);
    for (int i = 0; i < rounds; i++) {
      double[] next = at.clone();
      s.round(at, next, work.part(0.7 / rounds, label()));
      at = next;
    }
    new Untangling(s, faces, at).run(work.part(0.3, label()));
    boolean[] onLine = new boolean[s.n];
    for (int v = 0; v < s.n; v++) {
      onLine[v] = s.kind[v] != Holds.FREE;
    }
    return new QuadMesh(at, faces.corners(), onLine);
  }

  private static String label() {
    return CoreWords.of("quads.settling");
  }

  /** What a point is held to, as {@link Holds} has it. */
  byte kind(int v) {
    return kind[v];
  }

  Mesh surface() {
    return surface;
  }

  /** Lets a point leave its line, unless the surface ends there. */
  void release(int v) {
    int from = faces.from()[v];
    int near = kind[v] == Holds.LINE ? on[v] : from;
    if (kind[v] != Holds.FREE && !lines.isOpen(near)) {
      kind[v] = Holds.FREE;
      on[v] = fans.triangles()[fans.start()[near]];
    }
  }

  /** Puts a point in the middle of its neighbours, and onto the surface there. */
  void even(int v, double[] at, Walk walk) {
    if (kind[v] != Holds.PLACE) {
      middle(v, at, at);
      walk.lay(v, at);
    }
  }

  private int[] neighbours() {
    LongIndex edges = new LongIndex();
    for (int[] c : faces.corners()) {
      for (int i = 0; i < c.length; i++) {
        edges.add(Faces.edge(c[i], c[(i + 1) % c.length]));
      }
    }
    for (int e = 0; e < edges.size(); e++) {
      start[(int) (edges.key(e) >>> 32) + 1]++;
      start[(int) edges.key(e) + 1]++;
    }
    for (int v = 0; v < n; v++) {
      start[v + 1] += start[v];
    }
    int[] fill = start.clone();
    int[] out = new int[2 * edges.size()];
    for (int e = 0; e < edges.size(); e++) {
      int a = (int) (edges.key(e) >>> 32);
      int b = (int) edges.key(e);
      out[fill[a]++] = b;
      out[fill[b]++] = a;
      if (faces.lines().find(edges.key(e)) >= 0) {
        line(a, b);
        line(b, a);
      }
    }
    return out;
  }

  private void line(int a, int b) {
    kind[a] = kind[a] == Holds.FREE ? Holds.LINE : kind[a];
    if (along[2 * a] < 0) {
      along[2 * a] = b;
    } else if (along[2 * a + 1] < 0) {
      along[2 * a + 1] = b;
    } else {
      kind[a] = Holds.PLACE;
    }
  }

  /** What each point is, and where it begins. */
  private void sort() {
    for (int v = 0; v < n; v++) {
      if (kind[v] == Holds.LINE && along[2 * v + 1] < 0) {
        kind[v] = Holds.PLACE;
      }
    }
    new Corners(faces.at(), kind, along)
        .match(
            surface,
            holds,
            (v, corner) -> {
              kind[v] = Holds.PLACE;
              place[v] = corner;
            });
    for (int v = 0; v < n; v++) {
      int from = faces.from()[v];
      on[v] = kind[v] == Holds.LINE ? from : fans.triangles()[fans.start()[from]];
    }
  }

  private void project(double[] at, Work work) {
    Parallel.range(
        n,
        GRAIN,
        work.part(0, label()),
        (from, to) -> {
          Walk walk = new Walk();
          for (int v = from; v < to; v++) {
            walk.lay(v, at);
          }
        });
  }

  private void round(double[] at, double[] next, Work work) {
    Parallel.range(
        n,
        GRAIN,
        work,
        (from, to) -> {
          Walk walk = new Walk();
          for (int v = from; v < to; v++) {
            if (kind[v] == Holds.PLACE) {
              continue;
            }
            middle(v, at, next);
            walk.lay(v, next);
          }
        });
  }

  private void middle(int v, double[] at, double[] next) {
    boolean isLine = kind[v] == Holds.LINE;
    int count = isLine ? 2 : start[v + 1] - start[v];
    if (count == 0) {
      return;
    }
    double[] way = new double[3];
    for (int i = 0; i < count; i++) {
      int u = isLine ? along[2 * v + i] : near[start[v] + i];
      for (int k = 0; k < 3; k++) {
        way[k] += STEP * (at[3 * u + k] - at[3 * v + k]) / count;
      }
    }
    if (!isLine) {
      keepOn(v, way);
    }
    for (int k = 0; k < 3; k++) {
      next[3 * v + k] = at[3 * v + k] + way[k];
    }
  }

  /** Takes what leads off the surface out of a way: from a tip it would only lead down. */
  private void keepOn(int v, double[] way) {
    int normal = 3 * surface.triangles()[3 * on[v]];
    double off = 0;
    for (int k = 0; k < 3; k++) {
      off += way[k] * normals[normal + k];
    }
    for (int k = 0; k < 3; k++) {
      way[k] -= off * normals[normal + k];
    }
  }

  /** What one thread needs to find where the surface is nearest. */
  final class Walk {
    private final TrianglePoint point = new TrianglePoint();

    void lay(int v, double[] at) {
      if (kind[v] == Holds.PLACE) {
        for (int k = 0; k < 3 && place[v] >= 0; k++) {
          at[3 * v + k] = surface.xyz()[3 * place[v] + k];
        }
      } else if (kind[v] == Holds.LINE) {
        lines.lay(v, at, on);
      } else {
        onSurface(v, at);
      }
    }

    /** The triangle nearest to a place, going from the one that a point lies on. */
    int from(int v, double[] place) {
      int had = on[v];
      if (kind[v] != Holds.FREE) {
        on[v] = fans.triangles()[fans.start()[kind[v] == Holds.LINE ? had : faces.from()[v]]];
      }
      double[] at = Arrays.copyOf(place, 3);
      int out = nearest(on[v], at, 0);
      on[v] = had;
      return out;
    }

    private void onSurface(int v, double[] at) {
      on[v] = nearest(on[v], at, 3 * v);
    }

    /** Lays a place on the surface, going from a triangle; returns where it comes to. */
    private int nearest(int first, double[] at, int o) {
      float x = (float) at[o];
      float y = (float) at[o + 1];
      float z = (float) at[o + 2];
      int best = first;
      float least = square(best, x, y, z);
      float s = point.s();
      float t = point.t();
      for (int step = 0; step < FARTHEST; step++) {
        int from = best;
        for (int c = 3 * from; c < 3 * from + 3; c++) {
          int u = surface.triangles()[c];
          for (int i = fans.start()[u]; i < fans.start()[u + 1]; i++) {
            int other = fans.triangles()[i];
            float d = square(other, x, y, z);
            if (d < least) {
              least = d;
              best = other;
              s = point.s();
              t = point.t();
            }
          }
        }
        if (best == from) {
          break;
        }
      }
      float[] p = surface.xyz();
      int a = 3 * surface.triangles()[3 * best];
      int b = 3 * surface.triangles()[3 * best + 1];
      int c = 3 * surface.triangles()[3 * best + 2];
      for (int k = 0; k < 3; k++) {
        at[o + k] = p[a + k] + (double) s * (p[b + k] - p[a + k]) + t * (p[c + k] - p[a + k]);
      }
      return best;
    }

    private float square(int triangle, float x, float y, float z) {
      int[] tri = surface.triangles();
      return point.square(
          surface.xyz(),
          3 * tri[3 * triangle],
          3 * tri[3 * triangle + 1],
          3 * tri[3 * triangle + 2],
          x,
          y,
          z);
    }
  }
}
