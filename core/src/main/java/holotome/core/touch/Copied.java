package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.touch.Course.Dab;

/**
 * What lies as far from the source's way as a texel does from the brush's, in the frames that both
 * carry along; directions and offsets are turned with the form of the surface.
 */
final class Copied implements Coming {
  /** Triangles that are gone over from the source of a dab, or of the texel before. */
  private static final int MOST_TRIANGLES = 400;

  /** A place is taken so many times as far out as it looks on the plane at most. */
  private static final double MOST_STRETCH = 1.5;

  private final Course course;
  private final CarriedMap[] maps;
  private final SurfaceWalk walk;
  private final Spot source;

  /** What is added to what comes, number by number of some maps; null for nothing. */
  private final Shift shift;

  private final double[] here = new double[3];
  private final double[] there = new double[3];
  private final double[] normalHere = new double[3];
  private final double[] normalThere = new double[3];
  private final double[] aheadHere = new double[3];
  private final double[] aheadThere = new double[3];
  private final double[] target = new double[3];
  private final double[] added = new double[64];

  /** The texel before, of which square, and the triangle that it came from. */
  private int last = -2;

  private Region.Tile lastTile;
  private int lastTriangle;

  /** Added to copies so that they fit where they go. */
  interface Shift {
    /** Whether there is any at a place; the numbers lie where {@link #places} says. */
    boolean at(Spot spot, double[] out);

    int[] places();
  }

  Copied(TouchGround ground, Course course, CarriedMap[] maps, Shift shift) {
    this.course = course;
    this.maps = maps;
    this.shift = shift;
    walk = new SurfaceWalk(ground);
    source = new Spot(ground);
  }

  @Override
  public boolean at(Region.Tile tile, int at, Spot spot, double[][] own, double[][] out) {
    if (!find(tile, at, spot)) {
      return false;
    }
    spot.turn();
    source.turn();
    boolean isShifted = shift != null && shift.at(spot, added);
    for (int m = 0; m < maps.length; m++) {
      maps[m].sample(source, out[m]);
      if (maps[m].isDirection() || maps[m].isPlace()) {
        turn(spot, out[m]);
      }
      int first = isShifted ? shift.places()[m] : -1;
      for (int c = 0; first >= 0 && c < maps[m].numbers(); c++) {
        out[m][c] += added[first + c];
      }
    }
    return true;
  }

  /** Finds where a texel's copy comes from. */
  private boolean find(Region.Tile tile, int at, Spot spot) {
    int i = Math.min((int) tile.along[at], course.size() - 1);
    int j = Math.min(i + 1, course.size() - 1);
    double t = tile.along[at] - i;
    Dab source0 = course.source(i);
    Dab source1 = course.source(j);
    if (source0 == null || source1 == null) {
      return false;
    }
    between(course.dab(i), course.dab(j), t, here, normalHere, aheadHere);
    between(source0, source1, t, there, normalThere, aheadThere);
    double dx = spot.x - here[0];
    double dy = spot.y - here[1];
    double dz = spot.z - here[2];
    double a = dx * aheadHere[0] + dy * aheadHere[1] + dz * aheadHere[2];
    double b =
        dx * (normalHere[1] * aheadHere[2] - normalHere[2] * aheadHere[1])
            + dy * (normalHere[2] * aheadHere[0] - normalHere[0] * aheadHere[2])
            + dz * (normalHere[0] * aheadHere[1] - normalHere[1] * aheadHere[0]);
    double flat = Math.sqrt(a * a + b * b);
    double k = flat > 0 ? Math.min(MOST_STRETCH, Math.sqrt(dx * dx + dy * dy + dz * dz) / flat) : 0;
    double[] n = normalThere;
    double[] g = aheadThere;
    target[0] = there[0] + k * (a * g[0] + b * (n[1] * g[2] - n[2] * g[1]));
    target[1] = there[1] + k * (a * g[1] + b * (n[2] * g[0] - n[0] * g[2]));
    target[2] = there[2] + k * (a * g[2] + b * (n[0] * g[1] - n[1] * g[0]));
    boolean isNext = lastTile == tile && last == at - 1;
    int start = isNext ? lastTriangle : source0.triangle();
    boolean isFound =
        walk.to(start, target[0], target[1], target[2], n, MOST_TRIANGLES)
            || isNext
                && walk.to(source0.triangle(), target[0], target[1], target[2], n, MOST_TRIANGLES);
    lastTile = tile;
    last = isFound ? at : -2;
    if (isFound) {
      lastTriangle = walk.triangle;
      source.set(walk.triangle, walk.second, walk.third);
    }
    return isFound;
  }

  private static void between(
      Dab a, Dab b, double t, double[] at, double[] normal, double[] ahead) {
    for (int k = 0; k < 3; k++) {
      at[k] = (1 - t) * a.at()[k] + t * b.at()[k];
      normal[k] = (1 - t) * a.normal()[k] + t * b.normal()[k];
      ahead[k] = (1 - t) * a.ahead()[k] + t * b.ahead()[k];
    }
    make(normal, null);
    make(ahead, normal);
  }

  /** Makes a direction unit, and square to another if one is given. */
  private static void make(double[] v, double[] square) {
    if (square != null) {
      double d = Vec.dot(v, square);
      for (int k = 0; k < 3; k++) {
        v[k] -= d * square[k];
      }
    }
    double l = Vec.length(v);
    for (int k = 0; k < 3 && l > 0; k++) {
      v[k] /= l;
    }
  }

  /** Turns a direction out of the frame of the form where it is into that where it goes. */
  private void turn(Spot spot, double[] v) {
    double[] from = source.normal;
    double[] to = spot.normal;
    System.arraycopy(aheadThere, 0, target, 0, 3);
    make(target, from);
    double n = Vec.dot(v, from);
    double a = Vec.dot(v, target);
    double b =
        v[0] * (from[1] * target[2] - from[2] * target[1])
            + v[1] * (from[2] * target[0] - from[0] * target[2])
            + v[2] * (from[0] * target[1] - from[1] * target[0]);
    System.arraycopy(aheadHere, 0, target, 0, 3);
    make(target, to);
    v[0] = n * to[0] + a * target[0] + b * (to[1] * target[2] - to[2] * target[1]);
    v[1] = n * to[1] + a * target[1] + b * (to[2] * target[0] - to[0] * target[2]);
    v[2] = n * to[2] + a * target[2] + b * (to[0] * target[1] - to[1] * target[0]);
  }
}
