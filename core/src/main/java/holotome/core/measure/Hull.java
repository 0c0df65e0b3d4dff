package holotome.core.measure;

import holotome.core.geometry.Vec;
import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;

/**
 * The convex hull of points in space by Quickhull (Barber, Dobkin and Huhdanpaa, ACM TOMS 22(4),
 * 1996): each face keeps the points outside of it, the farthest of which is taken in next. O(n log
 * n) as a rule; points within a hair of a face count as inside, so that noise makes no slivers.
 *
 * @param xyz 3 doubles a corner of the hull
 * @param triangles 3 corners a face, counter-clockwise from outside; empty where all points lie in
 *     a plane
 */
public record Hull(double[] xyz, int[] triangles) {

  /** The hull of points of 3 floats each. */
  public static Hull of(float[] points) {
    double[] p = new double[points.length];
    for (int i = 0; i < p.length; i++) {
      p[i] = points[i];
    }
    return new Building(p).run();
  }

  public int cornerCount() {
    return xyz.length / 3;
  }

  public int faceCount() {
    return triangles.length / 3;
  }

  public double[] corner(int i) {
    return Vec.of(xyz[3 * i], xyz[3 * i + 1], xyz[3 * i + 2]);
  }

  /** Twice a face's area, along its outward normal. */
  public double[] cross(int face) {
    double[] a = corner(triangles[3 * face]);
    return Vec.cross(
        Vec.sub(corner(triangles[3 * face + 1]), a), Vec.sub(corner(triangles[3 * face + 2]), a));
  }

  private static final class Face {
    final int[] v;
    final Face[] across = new Face[3];
    final double[] normal;
    final double offset;
    int[] outside = new int[0];
    int count;
    int farthest = -1;
    double far;
    boolean gone;
    boolean seen;

    Face(double[] p, int a, int b, int c) {
      v = new int[] {a, b, c};
      double[] o = at(p, a);
      normal = Vec.unit(Vec.cross(Vec.sub(at(p, b), o), Vec.sub(at(p, c), o)));
      offset = Vec.dot(normal, o);
    }

    double above(double[] p, int i) {
      return normal[0] * p[3 * i] + normal[1] * p[3 * i + 1] + normal[2] * p[3 * i + 2] - offset;
    }

    void take(int i, double d) {
      if (count == outside.length) {
        outside = Arrays.copyOf(outside, Math.max(8, 2 * count));
      }
      outside[count++] = i;
      if (d > far) {
        far = d;
        farthest = i;
      }
    }
  }

  private static double[] at(double[] p, int i) {
    return Vec.of(p[3 * i], p[3 * i + 1], p[3 * i + 2]);
  }

  private static final class Building {
    private final double[] p;
    private final int n;
    private double hair;
    private final List<Face> faces = new ArrayList<>();

    Building(double[] p) {
      this.p = p;
      this.n = p.length / 3;
    }

    Hull run() {
      int[] first = simplex();
      if (first == null) {
        return new Hull(new double[0], new int[0]);
      }
      start(first);
      Deque<Face> open = new ArrayDeque<>();
      for (Face f : faces) {
        if (f.count > 0) {
          open.add(f);
        }
      }
      while (!open.isEmpty()) {
        Face f = open.poll();
        if (!f.gone && f.count > 0) {
          grow(f, open);
        }
      }
      return result();
    }

    /** Four points that span a body as large as is easily had; null for flat points. */
    private int[] simplex() {
      if (n < 4) {
        return null;
      }
      int[] ends = new int[6];
      double size = 0;
      for (int i = 0; i < n; i++) {
        for (int k = 0; k < 3; k++) {
          if (p[3 * i + k] < p[3 * ends[2 * k] + k]) {
            ends[2 * k] = i;
          }
          if (p[3 * i + k] > p[3 * ends[2 * k + 1] + k]) {
            ends[2 * k + 1] = i;
          }
          size = Math.max(size, Math.abs(p[3 * i + k]));
        }
      }
      int a = 0;
      int b = 0;
      double most = -1;
      for (int i : ends) {
        for (int j : ends) {
          double d = Vec.distance(at(p, i), at(p, j));
          if (d > most) {
            most = d;
            a = i;
            b = j;
          }
        }
      }
      hair = 1e-7 * most + 1e-13 * size;
      double[] u = Vec.unit(Vec.sub(at(p, b), at(p, a)));
      int c = -1;
      double best = hair;
      for (int i = 0; i < n; i++) {
        double d = Vec.length(Vec.cross(u, Vec.sub(at(p, i), at(p, a))));
        if (d > best) {
          best = d;
          c = i;
        }
      }
      if (c < 0) {
        return null;
      }
      Face plane = new Face(p, a, b, c);
      int d = -1;
      best = hair;
      for (int i = 0; i < n; i++) {
        double h = Math.abs(plane.above(p, i));
        if (h > best) {
          best = h;
          d = i;
        }
      }
      if (d < 0) {
        return null;
      }
      return plane.above(p, d) < 0 ? new int[] {a, b, c, d} : new int[] {a, c, b, d};
    }

    private void start(int[] s) {
      int[][] corners = {
        {s[0], s[1], s[2]}, {s[0], s[3], s[1]}, {s[1], s[3], s[2]}, {s[2], s[3], s[0]}
      };
      for (int[] c : corners) {
        faces.add(new Face(p, c[0], c[1], c[2]));
      }
      link(faces);
      for (int i = 0; i < n; i++) {
        give(i, faces);
      }
    }

    private static void link(List<Face> all) {
      for (Face f : all) {
        for (int k = 0; k < 3; k++) {
          for (Face g : all) {
            for (int m = 0; m < 3; m++) {
              if (f.v[k] == g.v[(m + 1) % 3] && f.v[(k + 1) % 3] == g.v[m]) {
                f.across[k] = g;
              }
            }
          }
        }
      }
    }

    private void give(int i, List<Face> to) {
      for (Face f : to) {
        double d = f.above(p, i);
        if (d > hair) {
          f.take(i, d);
          return;
        }
      }
    }

    /** Takes a face's farthest point in: what it sees is taken away, its rim is joined to it. */
    private void grow(Face from, Deque<Face> open) {
      int eye = from.farthest;
      List<Face> visible = new ArrayList<>();
      Deque<Face> todo = new ArrayDeque<>();
      todo.add(from);
      from.seen = true;
      while (!todo.isEmpty()) {
        Face f = todo.poll();
        visible.add(f);
        for (Face g : f.across) {
          if (!g.seen && g.above(p, eye) > hair) {
            g.seen = true;
            todo.add(g);
          }
        }
      }
      List<Face> fresh = rim(visible, eye);
      if (fresh == null) {
        // Rounding tore the rim: the point is within a hair and can be left out.
        for (Face f : visible) {
          f.seen = false;
        }
        drop(from, eye);
        if (from.count > 0) {
          open.add(from);
        }
        return;
      }
      for (Face f : visible) {
        f.gone = true;
        for (int i = 0; i < f.count; i++) {
          if (f.outside[i] != eye) {
            give(f.outside[i], fresh);
          }
        }
        f.outside = null;
      }
      for (Face f : fresh) {
        faces.add(f);
        if (f.count > 0) {
          open.add(f);
        }
      }
    }

    private void drop(Face f, int eye) {
      int kept = 0;
      int[] all = f.outside;
      int count = f.count;
      f.far = 0;
      f.farthest = -1;
      f.count = 0;
      for (int i = 0; i < count; i++) {
        if (all[i] != eye) {
          all[kept++] = all[i];
        }
      }
      for (int i = 0; i < kept; i++) {
        f.take(all[i], f.above(p, all[i]));
      }
    }

    /**
     * A face from each edge of the rim to the eye, linked; null where the rim is no single loop.
     */
    private List<Face> rim(List<Face> visible, int eye) {
      java.util.Map<Integer, Face> byStart = new java.util.HashMap<>();
      List<Face> fresh = new ArrayList<>();
      List<Face> beyond = new ArrayList<>();
      for (Face f : visible) {
        for (int k = 0; k < 3; k++) {
          Face g = f.across[k];
          if (!g.seen) {
            Face x = new Face(p, f.v[k], f.v[(k + 1) % 3], eye);
            if (byStart.put(f.v[k], x) != null) {
              return null;
            }
            fresh.add(x);
            beyond.add(g);
          }
        }
      }
      for (Face x : fresh) {
        if (byStart.get(x.v[1]) == null) {
          return null;
        }
      }
      for (int i = 0; i < fresh.size(); i++) {
        Face x = fresh.get(i);
        Face g = beyond.get(i);
        x.across[0] = g;
        for (int m = 0; m < 3; m++) {
          if (g.v[m] == x.v[1] && g.v[(m + 1) % 3] == x.v[0]) {
            g.across[m] = x;
          }
        }
        Face next = byStart.get(x.v[1]);
        x.across[1] = next;
        next.across[2] = x;
      }
      return fresh;
    }

    private Hull result() {
      int[] number = new int[n];
      Arrays.fill(number, -1);
      List<Face> kept = faces.stream().filter(f -> !f.gone).toList();
      int[] tri = new int[3 * kept.size()];
      double[] xyz = new double[9 * kept.size()];
      int count = 0;
      int at = 0;
      for (Face f : kept) {
        for (int v : f.v) {
          if (number[v] < 0) {
            number[v] = count;
            System.arraycopy(p, 3 * v, xyz, 3 * count++, 3);
          }
          tri[at++] = number[v];
        }
      }
      return new Hull(Arrays.copyOf(xyz, 3 * count), tri);
    }
  }
}
