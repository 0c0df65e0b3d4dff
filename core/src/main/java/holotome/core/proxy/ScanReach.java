package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.spatial.BvhQuery.Facing;

/**
 * Where the Scan lies from a place: the nearest way, or along a direction up and down, within a
 * distance. One object a thread. About 1 µs an answer.
 */
final class ScanReach {
  private final Mesh scan;
  private final BvhQuery query;
  private final float within;

  /** Whether only what faces the way that the place faces counts. */
  private final boolean isFacing;

  /** An axis that counts wherever; null for each place's own direction. */
  private final double[] axis;

  private final boolean isNearest;

  ScanReach(Mesh scan, Bvh index, Settling how) {
    this.scan = scan;
    query = new BvhQuery(index);
    within = (float) how.within();
    isFacing = how.facing() && how.axis() == null;
    axis = how.axis();
    isNearest = how.nearest();
  }

  /**
   * How it is looked for.
   *
   * @param axis unit, or null
   * @param nearest whether the nearest place counts, whatever its direction
   * @param within in base units
   * @param facing whether what faces the other way does not count
   */
  record Settling(double[] axis, boolean nearest, double within, boolean facing) {}

  /**
   * The way from a place onto the Scan; null where there is none.
   *
   * @param normal unit
   */
  double[] from(double[] at, double[] normal) {
    return isNearest ? nearest(at, normal) : along(at, axis == null ? normal : axis);
  }

  private double[] nearest(double[] at, double[] normal) {
    float x = (float) at[0];
    float y = (float) at[1];
    float z = (float) at[2];
    if (!query.closest(x, y, z, within)) {
      return null;
    }
    int t = query.triangle;
    if (isFacing && Vec.dot(Measures.cross(scan, t), normal) <= 0) {
      return null;
    }
    int[] tri = scan.triangles();
    double[] a = Vec.at(scan.xyz(), tri[3 * t]);
    double[] b = Vec.sub(Vec.at(scan.xyz(), tri[3 * t + 1]), a);
    double[] c = Vec.sub(Vec.at(scan.xyz(), tri[3 * t + 2]), a);
    double[] on = Vec.add(a, Vec.add(Vec.mul(b, query.u), Vec.mul(c, query.v)));
    return shortened(Vec.sub(on, at));
  }

  private double[] along(double[] at, double[] way) {
    double ahead = hit(at, way, isFacing ? Facing.BACK : Facing.ANY);
    double behind = hit(at, Vec.mul(way, -1), isFacing ? Facing.FRONT : Facing.ANY);
    if (Double.isInfinite(ahead) && Double.isInfinite(behind)) {
      return null;
    }
    return shortened(Vec.mul(way, ahead <= behind ? ahead : -behind));
  }

  /** Rounding must not carry it farther than is allowed. */
  private double[] shortened(double[] way) {
    double l = Vec.length(way);
    return l > within ? Vec.mul(way, within / l) : way;
  }

  private double hit(double[] at, double[] way, Facing facing) {
    boolean is =
        query.ray(
            (float) at[0],
            (float) at[1],
            (float) at[2],
            (float) way[0],
            (float) way[1],
            (float) way[2],
            0,
            within,
            facing);
    return is ? query.distance : Double.POSITIVE_INFINITY;
  }
}
