package holotome.core.unwrap;

import java.util.Arrays;

/**
 * Puts right what rounding texture coordinates to floats turned over: triangles far smaller than a
 * pixel, of which a corner is moved by a float or two so that no triangle around it lies on its
 * back. O(T) where there are none.
 */
final class UprightFloats {
  /** So many floats a corner is moved at most, each way. */
  private static final int STEPS = 3;

  private static final int PASSES = 4;

  private final float[] coords;
  private final int[] corners;

  /** The half-edges that begin at each vertex, from {@code start[v]} on. */
  private int[] start;

  private int[] around;

  private UprightFloats(float[] coords, int[] corners) {
    this.coords = coords;
    this.corners = corners;
  }

  /**
   * @param coords two per vertex; changed
   * @param corners three per triangle
   */
  static void mend(float[] coords, int[] corners) {
    UprightFloats u = new UprightFloats(coords, corners);
    for (int pass = 0; pass < PASSES && u.pass() > 0; pass++) {
      continue;
    }
  }

  /** Looks at all triangles once; how many were turned over. */
  private int pass() {
    int turned = 0;
    for (int t = 0; t < corners.length; t += 3) {
      if (twice(t) < 0) {
        turned++;
        fans();
        boolean isDone = false;
        for (int k = 0; k < 3 && !isDone; k++) {
          isDone = moved(corners[t + k]);
        }
      }
    }
    return turned;
  }

  /** Twice a triangle's area; exact to the sign for floats of like size. */
  private double twice(int t) {
    int a = 2 * corners[t];
    int b = 2 * corners[t + 1];
    int c = 2 * corners[t + 2];
    return ((double) coords[b] - coords[a]) * ((double) coords[c + 1] - coords[a + 1])
        - ((double) coords[c] - coords[a]) * ((double) coords[b + 1] - coords[a + 1]);
  }

  /** Moves a vertex to the nearest place where nothing around it lies on its back. */
  private boolean moved(int v) {
    float x = coords[2 * v];
    float y = coords[2 * v + 1];
    for (int far = 1; far <= STEPS; far++) {
      for (int i = -far; i <= far; i++) {
        for (int j = -far; j <= far; j++) {
          if (Math.max(Math.abs(i), Math.abs(j)) < far) {
            continue;
          }
          coords[2 * v] = x + i * Math.ulp(x);
          coords[2 * v + 1] = y + j * Math.ulp(y);
          if (isUpright(v)) {
            return true;
          }
        }
      }
    }
    coords[2 * v] = x;
    coords[2 * v + 1] = y;
    return false;
  }

  private boolean isUpright(int v) {
    for (int i = start[v]; i < start[v + 1]; i++) {
      if (twice(around[i] / 3 * 3) < 0) {
        return false;
      }
    }
    return true;
  }

  private void fans() {
    if (start != null) {
      return;
    }
    int n = coords.length / 2;
    start = new int[n + 1];
    for (int v : corners) {
      start[v + 1]++;
    }
    for (int v = 0; v < n; v++) {
      start[v + 1] += start[v];
    }
    around = new int[corners.length];
    int[] fill = Arrays.copyOf(start, n);
    for (int h = 0; h < corners.length; h++) {
      around[fill[corners[h]]++] = h;
    }
  }
}
