package holotome.core.spatial;

/**
 * The point of a triangle that is closest to a point, after Ericson, "Real-Time Collision
 * Detection", 2005, section 5.1.5. Holds where on the triangle the last one was; one per thread.
 */
public final class TrianglePoint {
  /** The point is a + s (b - a) + t (c - a). */
  private float s;

  private float t;

  /** None found yet. */
  public TrianglePoint() {}

  /** How far along from the first corner to the second the point last found is. */
  public float s() {
    return s;
  }

  /** How far along from the first corner to the third. */
  public float t() {
    return t;
  }

  /**
   * Finds the closest point.
   *
   * @param p positions, 3 floats each
   * @param a where the triangle's first corner stands among them; {@code b}, {@code c} the others'
   * @return the square of the distance to it; infinite where rounding leaves none
   */
  public float square(float[] p, int a, int b, int c, float x, float y, float z) {
    return square(p, a, b, c, 1, x, y, z);
  }

  /** The same where a corner's x, y and z lie apart by so many floats. */
  float square(float[] p, int a, int b, int c, int apart, float x, float y, float z) {
    int ay = a + apart;
    int az = ay + apart;
    float abx = p[b] - p[a];
    float aby = p[b + apart] - p[ay];
    float abz = p[b + 2 * apart] - p[az];
    float acx = p[c] - p[a];
    float acy = p[c + apart] - p[ay];
    float acz = p[c + 2 * apart] - p[az];
    float apx = x - p[a];
    float apy = y - p[ay];
    float apz = z - p[az];
    float d1 = abx * apx + aby * apy + abz * apz;
    float d2 = acx * apx + acy * apy + acz * apz;
    if (d1 <= 0 && d2 <= 0) {
      s = 0;
      t = 0;
      return apx * apx + apy * apy + apz * apz;
    }
    float abac = abx * acx + aby * acy + abz * acz;
    float d3 = d1 - (abx * abx + aby * aby + abz * abz);
    float d4 = d2 - abac;
    float d5 = d1 - abac;
    float d6 = d2 - (acx * acx + acy * acy + acz * acz);
    if (d3 >= 0 && d4 <= d3) {
      s = 1;
      t = 0;
    } else if (d6 >= 0 && d5 <= d6) {
      s = 0;
      t = 1;
    } else if (!inside(d1, d2, d3, d4, d5, d6)) {
      return Float.POSITIVE_INFINITY;
    }
    float rx = apx - s * abx - t * acx;
    float ry = apy - s * aby - t * acy;
    float rz = apz - s * abz - t * acz;
    float d = rx * rx + ry * ry + rz * rz;
    return d >= 0 ? d : Float.POSITIVE_INFINITY;
  }

  /** On a side or in the face; false where rounding leaves neither. A side may be a point. */
  private boolean inside(float d1, float d2, float d3, float d4, float d5, float d6) {
    float vc = d1 * d4 - d3 * d2;
    float vb = d5 * d2 - d1 * d6;
    float va = d3 * d6 - d5 * d4;
    if (vc <= 0 && d1 >= 0 && d3 <= 0 && d1 > d3) {
      s = d1 / (d1 - d3);
      t = 0;
      return true;
    }
    if (vb <= 0 && d2 >= 0 && d6 <= 0 && d2 > d6) {
      s = 0;
      t = d2 / (d2 - d6);
      return true;
    }
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
      t = (d4 - d3) / ((d4 - d3) + (d5 - d6));
      s = 1 - t;
      return true;
    }
    float sum = va + vb + vc;
    s = vb / sum;
    t = vc / sum;
    return sum > 0;
  }
}
