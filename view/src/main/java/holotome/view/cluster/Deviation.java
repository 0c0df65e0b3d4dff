package holotome.view.cluster;

import holotome.core.spatial.TrianglePoint;
import java.util.Arrays;

/**
 * Measures how far a mesh lies from the light mesh that stands for it: from each vertex of the
 * level below to the nearest triangle around the vertex it became, added to how far that one was
 * from the mesh's own vertices. A bound from above for the mesh's vertices as far as the levels
 * between are flat from vertex to vertex.
 *
 * <p>Triangles much longer than a cell do not count: being near one by chance, as in a jumble of
 * triangles, says nothing of what a vertex became. What is too thin for the grid and vanishes from
 * the light mesh counts as off by its width: twice the distance from its middle.
 *
 * <p>O(vertices below); one object per thread.
 */
final class Deviation {
  /** Triangles with an edge of more cells do not count. */
  private static final float LONGEST = 4;

  /** What is measured falls short by less than this where a mesh is rough, or has a rim. */
  private static final float MARGIN = 1.3f;

  private int[] start = new int[0];
  private int[] around = new int[0];
  private int[] near = new int[0];
  private boolean[] isLeft = new boolean[0];
  private final TrianglePoint point = new TrianglePoint();
  private float error;

  /**
   * Measures a node whose triangles are made.
   *
   * @param xyz 3 floats per vertex of the light mesh, the node's own ones first
   * @param corners of its triangles, 3 each
   * @param count of its triangles
   * @param cell the width of its grid's cells
   * @return per own vertex: how far what it stands for is from the light mesh, at most
   */
  float[] of(Node node, float[] xyz, char[] corners, int count, double cell) {
    float longest = (float) (LONGEST * LONGEST * cell * cell);
    list(node.own, xyz, corners, count, longest);
    float[] far = new float[node.own];
    int e = 0;
    for (Node child : node.children) {
      for (Piece p : child.pieces()) {
        float[] q = p.xyz();
        int n = q.length / 3;
        for (int v = 0; v < n; v++) {
          int i = node.numbers[e++];
          if (i != Node.OUTSIDE) {
            float before = child.isLeaf() ? 0 : child.far[v];
            far[i] = farther(far[i], before, q, v, i, xyz, corners);
          }
        }
        if (!child.isLeaf()) {
          // The pieces of a light mesh share their vertices.
          break;
        }
      }
    }
    error = 0;
    for (Node child : node.children) {
      if (!child.isLeaf() && child.light.length == 0) {
        // All of it has vanished below already.
        error = Math.max(error, child.error);
      }
    }
    for (float f : far) {
      error = Math.max(error, MARGIN * f);
    }
    return far;
  }

  /** How far the mesh's vertices are from the light mesh measured last, at most. */
  float error() {
    return error;
  }

  /**
   * The triangles around each own vertex: {@code around[start[i]] ... around[start[i + 1] - 1]}.
   */
  private void list(int own, float[] xyz, char[] corners, int count, float longest) {
    if (start.length < own + 2) {
      start = new int[2 * own + 2];
      isLeft = new boolean[2 * own + 2];
    }
    if (around.length < 3 * count) {
      around = new int[6 * count];
      near = new int[2 * count];
    }
    Arrays.fill(start, 0, own + 2, 0);
    Arrays.fill(isLeft, 0, own, false);
    int kept = 0;
    for (int t = 0; t < count; t++) {
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        if (corners[c] < own) {
          isLeft[corners[c]] = true;
        }
      }
      if (isShort(xyz, corners, t, longest)) {
        near[kept++] = t;
        for (int c = 3 * t; c < 3 * t + 3; c++) {
          if (corners[c] < own) {
            start[corners[c] + 2]++;
          }
        }
      }
    }
    for (int i = 2; i < own + 2; i++) {
      start[i] += start[i - 1];
    }
    for (int k = 0; k < kept; k++) {
      int t = near[k];
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        if (corners[c] < own) {
          around[start[corners[c] + 1]++] = t;
        }
      }
    }
  }

  private static boolean isShort(float[] p, char[] corners, int t, float longest) {
    int a = 3 * corners[3 * t];
    int b = 3 * corners[3 * t + 1];
    int c = 3 * corners[3 * t + 2];
    return square(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]) <= longest
        && square(p[b] - p[c], p[b + 1] - p[c + 1], p[b + 2] - p[c + 2]) <= longest
        && square(p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]) <= longest;
  }

  /** The larger of what is known and what a vertex below adds. */
  private float farther(
      float known, float before, float[] q, int v, int i, float[] xyz, char[] corners) {
    float x = q[3 * v];
    float y = q[3 * v + 1];
    float z = q[3 * v + 2];
    // Nearer than this it adds nothing, and need not be known better.
    float enough = Math.max(0, known - before);
    enough *= enough;
    float least = square(x - xyz[3 * i], y - xyz[3 * i + 1], z - xyz[3 * i + 2]);
    for (int k = start[i]; k < start[i + 1] && least > enough; k++) {
      int t = 3 * around[k];
      least =
          Math.min(
              least,
              point.square(xyz, 3 * corners[t], 3 * corners[t + 1], 3 * corners[t + 2], x, y, z));
    }
    float away = (float) Math.sqrt(least);
    return Math.max(known, before + (isLeft[i] ? away : 2 * away));
  }

  private static float square(float x, float y, float z) {
    return x * x + y * y + z * z;
  }
}
