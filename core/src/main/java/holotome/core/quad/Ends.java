package holotome.core.quad;

import holotome.core.mesh.Mesh;

/**
 * Where one point of a lattice stands for an end or a ridge of the surface, whose normals look
 * apart: the mean of what became one lies below it, so the vertex that stands out farthest is
 * taken.
 *
 * @param surface what the lattice lies on
 * @param normals of it, 3 floats a vertex
 */
record Ends(Mesh surface, float[] normals) {
  /** The length of the mean of unit normals below which they look apart. */
  private static final double AGREE = 0.8;

  /**
   * Moves the points that stand for ends. O(V), one thread.
   *
   * @param c says which vertices became one
   * @param kind what holds each point, {@link Holds#FREE} for those that may move
   * @param at where each point is, 3 doubles each; changed
   * @param from the vertex near each; changed
   */
  void find(Contraction c, byte[] kind, double[] at, int[] from) {
    int n = from.length;
    double[] middle = new double[3 * n];
    double[] mean = new double[3 * n];
    int[] count = new int[n];
    float[] p = surface.xyz();
    for (int v = 0; v < n; v++) {
      int r = c.root(v);
      count[r]++;
      for (int k = 0; k < 3; k++) {
        middle[3 * r + k] += p[3 * v + k];
        mean[3 * r + k] += normals[3 * v + k];
      }
    }
    double[] out = new double[n];
    int[] best = new int[n];
    for (int v = 0; v < n; v++) {
      int r = c.root(v);
      double square = 0;
      double far = 0;
      for (int k = 0; k < 3; k++) {
        double m = mean[3 * r + k] / count[r];
        square += m * m;
        far += m * (p[3 * v + k] - middle[3 * r + k] / count[r]);
      }
      if (kind[r] == Holds.FREE && square < AGREE * AGREE && far > out[r]) {
        out[r] = far;
        best[r] = v + 1;
      }
    }
    for (int r = 0; r < n; r++) {
      if (best[r] > 0) {
        from[r] = best[r] - 1;
        for (int k = 0; k < 3; k++) {
          at[3 * r + k] = p[3 * from[r] + k];
        }
      }
    }
  }
}
