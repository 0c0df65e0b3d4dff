package holotome.core.quad;

import holotome.core.array.Grouping;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * Moves points of faces that are turned over or bent in until they are not: each is tried at a few
 * places around, and put where the worst corner beside it is best (after Freitag and Plassmann,
 * "Local optimization-based simplicial mesh untangling and improvement", 2000). Only points beside
 * corners worse than {@link #FINE} move. One thread, so that the order is always the same.
 */
final class Untangling {
  /** The sine of a corner's angle, seen along the surface's normal, that is good enough. */
  private static final double FINE = 0.25;

  /** Points of faces worse than this leave their lines. */
  private static final double WRONG = 0.05;

  private static final int RELEASES = 3;
  private static final int EVENINGS = 5;
  private static final int ROUNDS = 16;
  private static final int WAYS = 8;

  private final QuadSettle ground;
  private final QuadSettle.Walk walk;
  private final int[][] faces;
  private final double[] at;
  private final Grouping of;
  private final int[] faceOf;
  private final double[][] normals;

  Untangling(QuadSettle ground, Faces faces, double[] at) {
    this.ground = ground;
    this.faces = faces.corners();
    this.at = at;
    walk = ground.new Walk();
    int corners = 0;
    for (int[] c : this.faces) {
      corners += c.length;
    }
    int[] point = new int[corners];
    faceOf = new int[corners];
    int n = 0;
    for (int f = 0; f < this.faces.length; f++) {
      for (int v : this.faces[f]) {
        faceOf[n] = f;
        point[n++] = v;
      }
    }
    of = Grouping.of(point, faces.points(), Work.unwatched());
    normals = new double[this.faces.length][];
  }

  void run(Work work) {
    boolean[] bad = new boolean[at.length / 3];
    for (int i = 0; i < RELEASES && find(bad, WRONG) > 0; i++) {
      for (int v = 0; v < bad.length; v++) {
        if (bad[v]) {
          ground.release(v);
        }
      }
      for (int j = 0; j < EVENINGS; j++) {
        for (int v = 0; v < bad.length; v++) {
          if (bad[v]) {
            ground.even(v, at, walk);
          }
        }
      }
    }
    for (int i = 0; i < ROUNDS; i++) {
      work.check();
      int found = find(bad, FINE);
      if (found == 0) {
        return;
      }
      boolean some = false;
      for (int v = 0; v < bad.length; v++) {
        if (bad[v] && ground.kind(v) != Holds.PLACE) {
          some |= improve(v, i);
        }
      }
      if (!some) {
        return;
      }
    }
  }

  /** Marks the points of faces with a corner worse than that; returns how many faces. */
  private int find(boolean[] bad, double limit) {
    Arrays.fill(bad, false);
    int n = 0;
    for (int f = 0; f < faces.length; f++) {
      normals[f] = null;
      if (worst(f) < limit) {
        n++;
        for (int v : faces[f]) {
          bad[v] = true;
        }
      }
    }
    return n;
  }

  /** The surface's normal below the middle of a face. */
  private double[] normal(int f) {
    if (normals[f] == null) {
      int[] c = faces[f];
      double[] middle = new double[3];
      for (int v : c) {
        for (int k = 0; k < 3; k++) {
          middle[k] += at[3 * v + k] / c.length;
        }
      }
      int from = c[0];
      for (int v : c) {
        from = ground.kind(v) == Holds.FREE ? v : from;
      }
      normals[f] = Vec.unit(Measures.cross(ground.surface(), walk.from(from, middle)));
    }
    return normals[f];
  }

  double worst(int f) {
    int[] c = faces[f];
    double[] n = normal(f);
    double worst = 1;
    double[] cross = new double[3];
    for (int i = 0; i < c.length; i++) {
      Shape.corner(at, c, i, cross);
      double l =
          Shape.distance(at, c[i], c[(i + 1) % c.length])
              * Shape.distance(at, c[i], c[(i + c.length - 1) % c.length]);
      worst = Math.min(worst, l > 0 ? Vec.dot(cross, n) / l : -1);
    }
    return worst;
  }

  private double around(int v) {
    double worst = 1;
    for (int i = of.start()[v]; i < of.start()[v + 1]; i++) {
      worst = Math.min(worst, worst(faceOf[of.order()[i]]));
    }
    return worst;
  }

  /** Puts a point where the worst corner around it is best; false if that is where it is. */
  private boolean improve(int v, int round) {
    double best = around(v);
    if (best >= FINE) {
      return false;
    }
    double[] here = Arrays.copyOfRange(at, 3 * v, 3 * v + 3);
    double[] there = here.clone();
    double length = 0;
    double[] middle = new double[3];
    int count = 0;
    for (int i = of.start()[v]; i < of.start()[v + 1]; i++) {
      int[] c = faces[faceOf[of.order()[i]]];
      for (int u : c) {
        if (u != v) {
          length += Shape.distance(at, v, u);
          count++;
          for (int k = 0; k < 3; k++) {
            middle[k] += at[3 * u + k];
          }
        }
      }
    }
    double[] n = normal(faceOf[of.order()[of.start()[v]]]);
    double[] along = Vec.perpendicular(n);
    double[] across = Vec.cross(n, along);
    double far = length / count * (round % 2 == 0 ? 0.3 : 0.1);
    for (int w = 0; w <= WAYS; w++) {
      double angle = (2 * Math.PI * w + 0.5 * round) / WAYS;
      for (int k = 0; k < 3; k++) {
        at[3 * v + k] =
            w == WAYS
                ? middle[k] / count
                : here[k] + far * (Math.cos(angle) * along[k] + Math.sin(angle) * across[k]);
      }
      walk.lay(v, at);
      double quality = around(v);
      if (quality > best + 1e-6) {
        best = quality;
        System.arraycopy(at, 3 * v, there, 0, 3);
      }
    }
    System.arraycopy(there, 0, at, 3 * v, 3);
    walk.lay(v, at);
    return !Arrays.equals(here, there);
  }
}
