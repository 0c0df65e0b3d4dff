package holotome.core.bake;

import holotome.core.map.Hit;
import holotome.core.map.Missed;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import java.util.function.Supplier;

/**
 * Finds what of the Scan a place of the Cast stands for: the first face that the ray meets from the
 * front; what belongs to another place of the Cast is passed by. Where it meets none, the closest
 * point, and why. One per thread.
 */
final class ScanRay {
  /** Only what lies farther off than this share of where the ray starts may be another part. */
  private static final float SUSPECT = 0.25f;

  /** Another place of the Cast is nearer to it than this share of how far off it is. */
  private static final float NEARER = 0.25f;

  /** And it lies at least so far from this one, beside how high the ray is: no slope beside it. */
  private static final double APART = 0.9;

  private static final int MOST_PASSED = 16;

  /** Closest points so near to a corner or edge, as weights, lie on it. */
  private static final float ON = 1e-4f;

  private final Mesh scan;
  private final BvhQuery query;
  private final Mesh castMesh;
  private final BvhQuery cast;
  private final Supplier<RimVertices> rims;
  private final float gap;

  /** Why the last one missed; null where it did not. */
  Missed missed;

  /**
   * @param gap rims that are farther off are none of a hole there
   */
  ScanRay(
      Mesh scan, Bvh index, Mesh castMesh, Bvh castIndex, Supplier<RimVertices> rims, double gap) {
    this.castMesh = castMesh;
    this.gap = (float) gap;
    this.scan = scan;
    query = new BvhQuery(index);
    cast = new BvhQuery(castIndex);
    this.rims = rims;
  }

  /** Fills a hit; returns whether there is any. */
  boolean find(Aim aim, Hit hit) {
    float x = hit.castX + aim.dx * aim.out;
    float y = hit.castY + aim.dy * aim.out;
    float z = hit.castZ + aim.dz * aim.out;
    float start = 0;
    float end = 2 * aim.out;
    missed = null;
    for (int passed = 0; passed < MOST_PASSED; passed++) {
      if (!query.ray(x, y, z, -aim.dx, -aim.dy, -aim.dz, start, end, BvhQuery.Facing.FRONT)) {
        break;
      }
      float t = query.distance;
      float height = aim.out - t;
      int triangle = query.triangle;
      float u = query.u;
      float v = query.v;
      if (height <= SUSPECT * aim.out || !isOther(x, y, z, aim, t, height, hit)) {
        fill(hit, triangle, u, v, height);
        return true;
      }
      missed = Missed.OTHER;
      start = t + Math.max(Math.ulp(end) * 8, 1e-5f * end);
    }
    return closest(aim, hit, x, y, z, end);
  }

  /**
   * Whether what the ray met, so high above the place, is much nearer to another one of the Cast.
   */
  private boolean isOther(float x, float y, float z, Aim aim, float t, float height, Hit hit) {
    if (!cast.closest(x - aim.dx * t, y - aim.dy * t, z - aim.dz * t, NEARER * height)) {
      return false;
    }
    int[] tri = castMesh.triangles();
    float[] p = castMesh.xyz();
    float w = 1 - cast.u - cast.v;
    double square = 0;
    for (int k = 0; k < 3; k++) {
      float at =
          p[3 * tri[3 * cast.triangle] + k] * w
              + p[3 * tri[3 * cast.triangle + 1] + k] * cast.u
              + p[3 * tri[3 * cast.triangle + 2] + k] * cast.v;
      double d = at - (k == 0 ? hit.castX : k == 1 ? hit.castY : hit.castZ);
      square += d * d;
    }
    return square > APART * APART * height * height;
  }

  private boolean closest(Aim aim, Hit hit, float x, float y, float z, float end) {
    boolean isInside =
        missed == null
            && query.ray(x, y, z, -aim.dx, -aim.dy, -aim.dz, 0, end, BvhQuery.Facing.BACK);
    if (!query.closest(hit.castX, hit.castY, hit.castZ, Float.POSITIVE_INFINITY)) {
      missed = Missed.NOTHING;
      return false;
    }
    int triangle = query.triangle;
    float u = query.u;
    float v = query.v;
    if (isInside) {
      missed = Missed.INSIDE;
    } else if (missed == null) {
      boolean isHole = query.distance <= gap && isOnRim(triangle, u, v);
      missed = isHole ? Missed.HOLE : Missed.NOTHING;
    }
    fill(hit, triangle, u, v, 0);
    hit.height =
        (hit.x - hit.castX) * aim.dx + (hit.y - hit.castY) * aim.dy + (hit.z - hit.castZ) * aim.dz;
    return true;
  }

  private boolean isOnRim(int triangle, float u, float v) {
    float[] weights = {1 - u - v, u, v};
    int[] tri = scan.triangles();
    int inside = 0;
    for (int k = 0; k < 3; k++) {
      if (weights[k] > ON) {
        inside++;
        if (!rims.get().has(tri[3 * triangle + k])) {
          return false;
        }
      }
    }
    return inside < 3;
  }

  private void fill(Hit hit, int triangle, float u, float v, float height) {
    int[] tri = scan.triangles();
    float[] p = scan.xyz();
    int a = 3 * tri[3 * triangle];
    int b = 3 * tri[3 * triangle + 1];
    int c = 3 * tri[3 * triangle + 2];
    float w = 1 - u - v;
    hit.triangle = triangle;
    hit.u = u;
    hit.v = v;
    hit.x = p[a] * w + p[b] * u + p[c] * v;
    hit.y = p[a + 1] * w + p[b + 1] * u + p[c + 1] * v;
    hit.z = p[a + 2] * w + p[b + 2] * u + p[c + 2] * v;
    hit.height = height;
    hit.number++;
  }
}
