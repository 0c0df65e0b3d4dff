package holotome.core.quad;

import holotome.core.array.LongIndex;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Makes faces of the triangles that are left of a {@link Contraction}: two at a diagonal of the
 * lattice are one quad. Where the lattice does not say which, the better-shaped pairs come first.
 */
final class Pairing {
  private static final int NONE = -1;

  /**
   * The cosine of the worst angle's turn from a right one that a pair may have without a diagonal.
   */
  private static final double WORST = 0.75;

  private final Contraction mesh;
  private final double[] at;
  private final int[] from;
  private final int triangles;

  private Pairing(Contraction mesh, int triangles, double[] at, int[] from) {
    this.mesh = mesh;
    this.triangles = triangles;
    this.at = at;
    this.from = from;
  }

  /**
   * Pairs.
   *
   * @param at where each vertex is, 3 doubles each; of those that stand for others
   * @param from a vertex of the surface near each of them
   */
  static Faces of(Contraction mesh, int triangles, double[] at, int[] from) {
    return new Pairing(mesh, triangles, at, from).run();
  }

  private Faces run() {
    int[] partner = new int[triangles];
    Arrays.fill(partner, NONE);
    pair(partner, true);
    pair(partner, false);
    int[] number = new int[at.length / 3];
    Arrays.fill(number, NONE);
    int count = 0;
    List<int[]> faces = new ArrayList<>();
    LongIndex lines = new LongIndex();
    for (int t = 0; t < triangles; t++) {
      if (mesh.isGone(t) || partner[t] >= 0 && partner[t] / 3 < t) {
        continue;
      }
      int[] face = face(t, partner[t]);
      for (int i = 0; i < face.length; i++) {
        if (number[face[i]] < 0) {
          number[face[i]] = count++;
        }
        face[i] = number[face[i]];
      }
      faces.add(face);
    }
    double[] places = new double[3 * count];
    int[] near = new int[count];
    for (int v = 0; v < number.length; v++) {
      if (number[v] >= 0) {
        System.arraycopy(at, 3 * v, places, 3 * number[v], 3);
        near[number[v]] = from[v];
      }
    }
    for (int h = 0; h < 3 * triangles; h++) {
      if (!mesh.isGone(h / 3) && (mesh.isLine(h) || mesh.twin(h) < 0)) {
        int a = number[mesh.origin(h)];
        int b = number[mesh.origin(LatticeSteps.next(h))];
        lines.add(Faces.edge(a, b));
      }
    }
    return new Faces(places, faces.toArray(int[][]::new), lines, near);
  }

  /** A triangle, or a quad: the partner is the half-edge of the other triangle where they meet. */
  private int[] face(int t, int partner) {
    if (partner < 0) {
      return new int[] {mesh.origin(3 * t), mesh.origin(3 * t + 1), mesh.origin(3 * t + 2)};
    }
    int h = mesh.twin(partner);
    return new int[] {
      mesh.origin(h),
      mesh.origin(LatticeSteps.previous(partner)),
      mesh.origin(LatticeSteps.next(h)),
      mesh.origin(LatticeSteps.previous(h))
    };
  }

  private void pair(int[] partner, boolean byLattice) {
    long[] best = new long[3 * triangles];
    int n = 0;
    for (int h = 0; h < 3 * triangles; h++) {
      int g = mesh.twin(h);
      if (mesh.isGone(h / 3) || g < 0 || h > g || mesh.isLine(h)) {
        continue;
      }
      if (partner[h / 3] >= 0 || partner[g / 3] >= 0 || mesh.span(h) < 2 == byLattice) {
        continue;
      }
      double off = off(h, g);
      if (byLattice || off < WORST) {
        best[n++] = (long) (off * (1 << 24)) << 32 | h;
      }
    }
    Arrays.sort(best, 0, n);
    for (int i = 0; i < n; i++) {
      int h = (int) best[i];
      int g = mesh.twin(h);
      if (partner[h / 3] < 0
          && partner[g / 3] < 0
          && mesh.origin(LatticeSteps.previous(h)) != mesh.origin(LatticeSteps.previous(g))) {
        partner[h / 3] = g;
        partner[g / 3] = h;
      }
    }
  }

  /** How far the angles of a quad are from right ones: the largest cosine, from 0 to 1. */
  private double off(int h, int g) {
    int[] q = {
      mesh.origin(h),
      mesh.origin(LatticeSteps.previous(g)),
      mesh.origin(LatticeSteps.next(h)),
      mesh.origin(LatticeSteps.previous(h))
    };
    double worst = 0;
    for (int i = 0; i < 4; i++) {
      worst = Math.max(worst, Math.abs(Shape.cosine(at, q[(i + 3) % 4], q[i], q[(i + 1) % 4])));
    }
    return worst;
  }
}
