package holotome.core.map;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.BvhQuery;
import java.util.Arrays;

/**
 * Rays from hits into the half space above them, as dense as the cosine of their angle to the
 * normal, and what is open of them; for one thread. Those of a texel's samples together are a
 * Hammersley set (Niederreiter, "Random number generation and quasi-Monte Carlo methods", 1992),
 * turned by the texel's seed (Cranley and Patterson, 1976), and by the disk of the unit radius
 * lifted onto the sphere (Malley's method). Rays that the triangle's own plane cuts off count as
 * none.
 */
public final class SkyRays {
  /** Rays start so far off the surface, as a share of the Scan's diagonal. */
  private static final double OFF = 2e-5;

  private final Mesh scan;
  private final BvhQuery query;
  private final int rays;
  private final float reach;
  private final float off;

  /** The cosine and sine of each ray's angle around the normal, before it is turned. */
  private final float[] around;

  private final float[] normal = new float[3];
  private final float[] across = new float[6];
  private final float[] flat = new float[3];
  private final float[] aim = new float[3];
  private float turnCosine;
  private float turnSine;
  private long last = -1;

  /** How many rays were cast from the last hit, and how many of {@link #look} met nothing. */
  int cast;

  int open;

  /** The sum of the directions that met nothing. */
  final float[] sum = new float[3];

  public SkyRays(MapSource source) {
    scan = source.scan();
    query = new BvhQuery(source.index());
    rays = source.settings().rays();
    reach = (float) source.settings().reach();
    off = (float) (OFF * scan.bounds().diagonal());
    around = new float[2 * rays];
    for (int k = 0; k < rays; k++) {
      double angle = 2 * Math.PI * (Integer.reverse(k) / 4294967296.0 + 0.5);
      around[2 * k] = (float) Math.cos(angle);
      around[2 * k + 1] = (float) Math.sin(angle);
    }
  }

  /** Looks around from a hit, once for all that ask. */
  void look(Hit hit, float[] normals) {
    if (hit.number == last) {
      return;
    }
    last = hit.number;
    cast = 0;
    open = 0;
    Arrays.fill(sum, 0);
    stand(hit, normals);
    float x = hit.x + flat[0] * off;
    float y = hit.y + flat[1] * off;
    float z = hit.z + flat[2] * off;
    for (int k = hit.sample; k < rays; k += hit.samples) {
      if (!aim(hit, k, 1)) {
        continue;
      }
      cast++;
      if (!query.isBlocked(x, y, z, aim[0], aim[1], aim[2], 0, reach, BvhQuery.Facing.ANY)) {
        open++;
        for (int i = 0; i < 3; i++) {
          sum[i] += aim[i];
        }
      }
    }
    if (cast > 0 && open == 0) {
      // Nothing comes in from anywhere: as good a direction as any is straight out.
      for (int i = 0; i < 3; i++) {
        sum[i] = 1e-3f * normal[i];
      }
    }
  }

  /**
   * How thick the body is at a hit: of rays inwards, no farther from straight in than by an angle
   * whose sine is given, how far they go until they leave it, measured straight in. The mean.
   *
   * @return the sum over the rays of this sample; how many in {@link #cast}
   */
  float inwards(Hit hit, float[] normals, double sine) {
    last = -1;
    stand(hit, normals);
    float x = hit.x - flat[0] * off;
    float y = hit.y - flat[1] * off;
    float z = hit.z - flat[2] * off;
    cast = 0;
    float far = 0;
    for (int k = hit.sample; k < rays; k += hit.samples) {
      if (!aim(hit, k, sine)) {
        continue;
      }
      cast++;
      boolean met = query.ray(x, y, z, -aim[0], -aim[1], -aim[2], 0, reach, BvhQuery.Facing.BACK);
      float straight = aim[0] * normal[0] + aim[1] * normal[1] + aim[2] * normal[2];
      far += met ? Math.min(reach, query.distance * straight + off) : reach;
    }
    return far;
  }

  /** The normal at a hit, two directions across it, and the triangle's own normal. */
  private void stand(Hit hit, float[] normals) {
    double turn = 2 * Math.PI * (hit.seed & 0xffff) / 65536.0;
    turnCosine = (float) Math.cos(turn);
    turnSine = (float) Math.sin(turn);
    MapSource.normal(scan, normals, hit, normal);
    int[] tri = scan.triangles();
    float[] p = scan.xyz();
    int a = 3 * tri[3 * hit.triangle];
    int b = 3 * tri[3 * hit.triangle + 1];
    int c = 3 * tri[3 * hit.triangle + 2];
    float ux = p[b] - p[a];
    float uy = p[b + 1] - p[a + 1];
    float uz = p[b + 2] - p[a + 2];
    float vx = p[c] - p[a];
    float vy = p[c + 1] - p[a + 1];
    float vz = p[c + 2] - p[a + 2];
    flat[0] = uy * vz - uz * vy;
    flat[1] = uz * vx - ux * vz;
    flat[2] = ux * vy - uy * vx;
    float l = (float) Math.sqrt(flat[0] * flat[0] + flat[1] * flat[1] + flat[2] * flat[2]);
    for (int k = 0; k < 3; k++) {
      flat[k] = l > 0 ? flat[k] / l : normal[k];
    }
    // Duff and others, "Building an orthonormal basis, revisited", JCGT 6, 2017.
    float sign = Math.copySign(1f, normal[2]);
    float s = -1 / (sign + normal[2]);
    float t = normal[0] * normal[1] * s;
    across[0] = 1 + sign * normal[0] * normal[0] * s;
    across[1] = sign * t;
    across[2] = -sign * normal[0];
    across[3] = t;
    across[4] = sign + normal[1] * normal[1] * s;
    across[5] = -normal[1];
  }

  /** Sets the direction of a ray; whether it leaves the triangle's own plane. */
  private boolean aim(Hit hit, int k, double sine) {
    float share = (k + 0.5f) / rays + (hit.seed >>> 16) / 65536f;
    share -= (int) share;
    float r = (float) (Math.sqrt(share) * sine);
    float s = r * (around[2 * k] * turnCosine - around[2 * k + 1] * turnSine);
    float t = r * (around[2 * k] * turnSine + around[2 * k + 1] * turnCosine);
    float n = (float) Math.sqrt(Math.max(0, 1 - r * r));
    float out = 0;
    for (int i = 0; i < 3; i++) {
      aim[i] = across[i] * s + across[3 + i] * t + normal[i] * n;
      out += aim[i] * flat[i];
    }
    return out > 0;
  }
}
