package holotome.core.quad;

/**
 * Directions on a surface of which each stands for four, a right angle apart: which of the four
 * agree best between two points. Not for several threads.
 */
final class Crosses {
  /** The direction at either point that agree best. */
  double ax;

  double ay;
  double az;
  double bx;
  double by;
  double bz;

  /** By how many right angles each is turned from the point's own, counter-clockwise. */
  int turnsA;

  int turnsB;

  /**
   * Finds the two.
   *
   * @param o directions of unit length in the tangent planes, 3 floats each
   * @param n normals
   */
  void match(float[] o, float[] n, int v, int u) {
    int i = 3 * v;
    int j = 3 * u;
    double oX = o[i];
    double oY = o[i + 1];
    double oZ = o[i + 2];
    double cX = n[i + 1] * oZ - n[i + 2] * oY;
    double cY = n[i + 2] * oX - n[i] * oZ;
    double cZ = n[i] * oY - n[i + 1] * oX;
    double pX = o[j];
    double pY = o[j + 1];
    double pZ = o[j + 2];
    double dX = n[j + 1] * pZ - n[j + 2] * pY;
    double dY = n[j + 2] * pX - n[j] * pZ;
    double dZ = n[j] * pY - n[j + 1] * pX;
    double oo = oX * pX + oY * pY + oZ * pZ;
    double oc = oX * dX + oY * dY + oZ * dZ;
    double co = cX * pX + cY * pY + cZ * pZ;
    double cc = cX * dX + cY * dY + cZ * dZ;
    turnsA = 0;
    turnsB = 0;
    double best = oo;
    if (Math.abs(oc) > Math.abs(best)) {
      best = oc;
      turnsB = 1;
    }
    if (Math.abs(co) > Math.abs(best)) {
      best = co;
      turnsA = 1;
      turnsB = 0;
    }
    if (Math.abs(cc) > Math.abs(best)) {
      best = cc;
      turnsA = 1;
      turnsB = 1;
    }
    double sign = best < 0 ? -1 : 1;
    ax = turnsA == 0 ? oX : cX;
    ay = turnsA == 0 ? oY : cY;
    az = turnsA == 0 ? oZ : cZ;
    bx = sign * (turnsB == 0 ? pX : dX);
    by = sign * (turnsB == 0 ? pY : dY);
    bz = sign * (turnsB == 0 ? pZ : dZ);
    turnsB += best < 0 ? 2 : 0;
  }
}
