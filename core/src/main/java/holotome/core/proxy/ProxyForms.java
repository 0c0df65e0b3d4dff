package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.polygon.FaceLists;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * Faces made of faces: pulled out, given a smaller one within, bridged, capped, merged, mirrored.
 * What comes of it may be no manifold surface, which is looked at afterwards.
 */
final class ProxyForms {
  /** What is nearer to a plane than this share of the size lies in it. */
  static final double ON = 1e-6;

  private ProxyForms() {}

  private static long key(int a, int b) {
    return (long) a << 32 | b;
  }

  /** Which face has each edge, in the direction in which it has it. */
  private static Map<Long, Integer> directed(FaceLists of) {
    Map<Long, Integer> out = new HashMap<>();
    for (int f = 0; f < of.faces().length; f++) {
      int[] c = of.faces()[f];
      for (int i = 0; i < c.length; i++) {
        out.put(key(c[i], c[(i + 1) % c.length]), f);
      }
    }
    return out;
  }

  static boolean hasEdge(int[] face, int a, int b) {
    for (int i = 0; i < face.length; i++) {
      int c = face[i];
      int d = face[(i + 1) % face.length];
      if (c == a && d == b || c == b && d == a) {
        return true;
      }
    }
    return false;
  }

  /** Chosen faces moved out along their normals, with sides to what they were beside. */
  static FaceLists pulled(FaceLists of, boolean[] chosen, double by) {
    int n = of.vertexCount();
    Map<Long, Integer> beside = directed(of);
    List<List<double[]>> normals = new ArrayList<>();
    for (int v = 0; v < n; v++) {
      normals.add(new ArrayList<>());
    }
    boolean[] isRim = new boolean[n];
    List<int[]> rim = new ArrayList<>();
    for (int f = 0; f < chosen.length; f++) {
      if (!chosen[f]) {
        continue;
      }
      int[] c = of.faces()[f];
      for (int i = 0; i < c.length; i++) {
        int a = c[i];
        int b = c[(i + 1) % c.length];
        normals.get(a).add(of.normal(f));
        Integer other = beside.get(key(b, a));
        if (other == null || !chosen[other]) {
          rim.add(new int[] {a, b});
          isRim[a] = true;
          isRim[b] = true;
        }
      }
    }
    double[] xyz = of.xyz().clone();
    int[] to = new int[n];
    int count = n;
    for (int v = 0; v < n; v++) {
      to[v] = v;
      if (normals.get(v).isEmpty()) {
        continue;
      }
      double[][] own = normals.get(v).toArray(double[][]::new);
      double[] shifts = new double[own.length];
      Arrays.fill(shifts, by);
      double[] p = Vec.add(of.at(v), new PlanesMove(own).by(shifts));
      if (isRim[v]) {
        to[v] = count++;
        xyz = Arrays.copyOf(xyz, 3 * count);
      }
      System.arraycopy(p, 0, xyz, 3 * to[v], 3);
    }
    List<int[]> faces = new ArrayList<>();
    for (int f = 0; f < chosen.length; f++) {
      int[] c = of.faces()[f];
      faces.add(chosen[f] ? Arrays.stream(c).map(v -> to[v]).toArray() : c);
    }
    for (int[] ab : rim) {
      faces.add(new int[] {ab[0], ab[1], to[ab[1]], to[ab[0]]});
    }
    return new FaceLists(xyz, faces.toArray(int[][]::new));
  }

  /** In each chosen face a smaller one, its edges so far within, and faces around it. */
  static FaceLists inset(FaceLists of, boolean[] chosen, double by) {
    double[] xyz = of.xyz().clone();
    int count = of.vertexCount();
    List<int[]> faces = new ArrayList<>();
    for (int f = 0; f < chosen.length; f++) {
      int[] c = of.faces()[f];
      if (!chosen[f]) {
        faces.add(c);
        continue;
      }
      double[][] q = of.corners(f);
      double[][] inner = within(q, of.normal(f), by);
      xyz = Arrays.copyOf(xyz, xyz.length + 3 * q.length);
      int[] small = new int[q.length];
      for (int i = 0; i < q.length; i++) {
        System.arraycopy(inner[i], 0, xyz, 3 * count, 3);
        small[i] = count++;
      }
      faces.add(small);
      for (int i = 0; i < q.length; i++) {
        int j = (i + 1) % q.length;
        faces.add(new int[] {c[i], c[j], small[j], small[i]});
      }
    }
    return new FaceLists(xyz, faces.toArray(int[][]::new));
  }

  private static double[][] within(double[][] q, double[] normal, double by) {
    int n = q.length;
    double[][] out = new double[n][];
    for (int i = 0; i < n; i++) {
      double[] before = Vec.unit(Vec.sub(q[i], q[(i + n - 1) % n]));
      double[] after = Vec.unit(Vec.sub(q[(i + 1) % n], q[i]));
      double[][] planes = {
        Vec.unit(Vec.cross(normal, before)), Vec.unit(Vec.cross(normal, after)), normal
      };
      out[i] = Vec.add(q[i], new PlanesMove(planes).by(by, by, 0));
    }
    for (int i = 0; i < n; i++) {
      int j = (i + 1) % n;
      if (Vec.dot(Vec.sub(out[j], out[i]), Vec.sub(q[j], q[i])) <= 0) {
        throw Failure.cannot(CoreWords.of("proxy-edit.too-far"));
      }
    }
    return out;
  }

  /** Two faces with as many corners taken out, and a passage from the one to the other. */
  static FaceLists bridgedFaces(FaceLists of, int one, int other) {
    int[] a = of.faces()[one];
    int[] b = of.faces()[other];
    int n = a.length;
    if (one == other || b.length != n) {
      throw Failure.cannot(CoreWords.of("proxy-edit.as-many-corners"));
    }
    int best = 0;
    double least = Double.POSITIVE_INFINITY;
    for (int s = 0; s < n; s++) {
      double sum = 0;
      for (int i = 0; i < n; i++) {
        sum += Vec.distance(of.at(a[i]), of.at(b[Math.floorMod(s - i, n)]));
      }
      if (sum < least) {
        least = sum;
        best = s;
      }
    }
    List<int[]> faces = new ArrayList<>();
    for (int f = 0; f < of.faces().length; f++) {
      if (f != one && f != other) {
        faces.add(of.faces()[f]);
      }
    }
    for (int i = 0; i < n; i++) {
      int j = (i + 1) % n;
      int p = b[Math.floorMod(best - j, n)];
      int q = b[Math.floorMod(best - i, n)];
      faces.add(new int[] {a[i], a[j], p, q});
    }
    return new FaceLists(of.xyz(), faces.toArray(int[][]::new));
  }

  /** A face between two edges of a border. */
  static FaceLists bridgedEdges(FaceLists of, int[] one, int[] other) {
    int[] a = outer(of, one);
    int[] b = outer(of, other);
    int[] face =
        a[1] == b[0]
            ? new int[] {a[0], a[1], b[1]}
            : b[1] == a[0] ? new int[] {a[0], a[1], b[0]} : new int[] {a[0], a[1], b[0], b[1]};
    return with(of, face);
  }

  private static FaceLists with(FaceLists of, int[] face) {
    int[][] faces = Arrays.copyOf(of.faces(), of.faces().length + 1);
    faces[faces.length - 1] = face;
    return new FaceLists(of.xyz(), faces);
  }

  /** An edge of a border in the direction in which no face has it. */
  private static int[] outer(FaceLists of, int[] ab) {
    Map<Long, Integer> beside = directed(of);
    boolean isAhead = beside.containsKey(key(ab[0], ab[1]));
    boolean isBack = beside.containsKey(key(ab[1], ab[0]));
    if (isAhead && isBack) {
      throw Failure.cannot(CoreWords.of("proxy-edit.no-border"));
    }
    return isAhead ? new int[] {ab[1], ab[0]} : ab;
  }

  /** Faces over the borders that edges are of. */
  static FaceLists capped(FaceLists of, List<int[]> edges) {
    FaceLists out = of;
    Set<Integer> done = new HashSet<>();
    for (int[] ab : edges) {
      int[] start = outer(of, ab);
      if (done.contains(start[0])) {
        continue;
      }
      Map<Integer, Integer> next = new HashMap<>();
      Map<Long, Integer> beside = directed(of);
      for (long e : beside.keySet()) {
        int a = (int) (e >>> 32);
        int b = (int) e;
        if (!beside.containsKey(key(b, a))) {
          next.put(b, a);
        }
      }
      List<Integer> ring = new ArrayList<>();
      Integer v = start[0];
      do {
        ring.add(v);
        done.add(v);
        v = next.get(v);
      } while (v != null && v != start[0] && ring.size() <= of.vertexCount());
      if (v == null || v != start[0]) {
        throw Failure.cannot(CoreWords.of("proxy-edit.no-border"));
      }
      out = with(out, ring.stream().mapToInt(Integer::intValue).toArray());
    }
    return out;
  }

  /** Points made one, in their middle; faces that become lines go. */
  static FaceLists merged(FaceLists of, Set<Integer> points) {
    if (points.size() < 2) {
      throw Failure.cannot(CoreWords.of("proxy-edit.two-points"));
    }
    int first = points.iterator().next();
    double[] sum = new double[3];
    for (int v : points) {
      sum = Vec.add(sum, of.at(v));
    }
    double[] xyz = of.xyz().clone();
    System.arraycopy(Vec.mul(sum, 1.0 / points.size()), 0, xyz, 3 * first, 3);
    List<int[]> faces = new ArrayList<>();
    for (int[] c : of.faces()) {
      int[] to = Arrays.stream(c).map(v -> points.contains(v) ? first : v).toArray();
      int[] left = new int[to.length];
      int n = 0;
      for (int i = 0; i < to.length; i++) {
        if (to[i] != to[(i + 1) % to.length]) {
          left[n++] = to[i];
        }
      }
      if (n > 2) {
        faces.add(Arrays.copyOf(left, n));
      }
    }
    return new FaceLists(xyz, faces.toArray(int[][]::new));
  }

  /** The side of a plane that its normal points to, and its mirror image; it was cut there. */
  static FaceLists mirrored(FaceLists of, double[] at, double[] normal, double size) {
    int n = of.vertexCount();
    double[] over = new double[n];
    double[] xyz = Arrays.copyOf(of.xyz(), 6 * n);
    int[] to = new int[n];
    for (int v = 0; v < n; v++) {
      double[] p = of.at(v);
      over[v] = Vec.dot(Vec.sub(p, at), normal);
      boolean isOn = Math.abs(over[v]) <= ON * size;
      over[v] = isOn ? 0 : over[v];
      double[] own = isOn ? Vec.sub(p, Vec.mul(normal, Vec.dot(Vec.sub(p, at), normal))) : p;
      System.arraycopy(own, 0, xyz, 3 * v, 3);
      System.arraycopy(Vec.sub(p, Vec.mul(normal, 2 * over[v])), 0, xyz, 3 * (n + v), 3);
      to[v] = isOn ? v : n + v;
    }
    List<int[]> faces = new ArrayList<>();
    for (int[] c : of.faces()) {
      boolean isKept = true;
      boolean isOver = false;
      for (int v : c) {
        isKept &= over[v] >= 0;
        isOver |= over[v] > 0;
      }
      if (isKept && isOver) {
        int[] back = new int[c.length];
        for (int i = 0; i < c.length; i++) {
          back[i] = to[c[c.length - 1 - i]];
        }
        faces.add(c);
        faces.add(back);
      }
    }
    return new FaceLists(xyz, faces.toArray(int[][]::new));
  }
}
