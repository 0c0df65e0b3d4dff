package holotome.benchmarks;

import holotome.core.geometry.Box;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.camera.Camera;
import java.util.Arrays;
import java.util.SplittableRandom;
import java.util.concurrent.atomic.LongAdder;

/** Building the bounding-volume hierarchy, and rays a second on all cores. */
final class RaysBench {
  private static final int SIDE = 1200;
  private static final int GRAIN = 1 << 13;

  private RaysBench() {}

  static void run() throws Exception {
    Table table =
        new Table(
            "mesh",
            "triangles",
            "build, s",
            "coherent, M rays/s",
            "occlusion, M rays/s",
            "closest, M/s");
    measure(table, "dragon", Data.dragon());
    measure(table, "demo scan", Data.demo(1_200_000));
    measure(table, "demo scan", Data.demo(10_000_000));
    table.print();
  }

  private static void measure(Table table, String name, Mesh mesh) throws Exception {
    Bvh[] bvh = new Bvh[1];
    // Of a copy each time: the index of a mesh that did not change is kept.
    Mesh[] copy = new Mesh[1];
    double build =
        Timing.median(
            2,
            3,
            () -> copy[0] = mesh.withPositions(mesh.xyz().clone()),
            () -> bvh[0] = Bvh.of(copy[0]));
    float[] rays = rays(Camera.showing(mesh.bounds(), Camera.Direction.ASKEW, 1));
    float[] seen = new float[SIDE * SIDE];
    double coherent = Timing.median(2, 3, () -> coherent(bvh[0], rays, seen));
    float[] hits = hits(rays, seen);
    double occlusion = Timing.median(1, 3, () -> occlusion(bvh[0], mesh.bounds(), hits));
    double closest = Timing.median(1, 3, () -> closest(bvh[0], mesh.bounds(), hits));
    table.row(
        name,
        String.format("%,d", mesh.triangleCount()),
        build,
        SIDE * SIDE / 1e6 / coherent,
        hits.length / 3 / 1e6 / occlusion,
        hits.length / 3 / 1e6 / closest);
  }

  /** One ray per pixel of a camera: origin and direction, 6 floats each. */
  private static float[] rays(Camera camera) {
    float[] out = new float[6 * SIDE * SIDE];
    for (int i = 0; i < SIDE * SIDE; i++) {
      double[] r = camera.ray(i % SIDE + 0.5, i / SIDE + 0.5, SIDE, SIDE);
      for (int k = 0; k < 6; k++) {
        out[6 * i + k] = (float) r[k];
      }
    }
    return out;
  }

  /** The places that rays met, a hair before the surface. */
  private static float[] hits(float[] rays, float[] seen) {
    float[] out = new float[3 * seen.length];
    int n = 0;
    for (int i = 0; i < seen.length; i++) {
      for (int k = 0; k < 3 && seen[i] > 0; k++) {
        out[n++] = rays[6 * i + k] + 0.9999f * seen[i] * rays[6 * i + 3 + k];
      }
    }
    return Arrays.copyOf(out, n);
  }

  private static long coherent(Bvh bvh, float[] rays, float[] seen) {
    LongAdder found = new LongAdder();
    Parallel.range(
        seen.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery q = new BvhQuery(bvh);
          int n = 0;
          for (int i = from; i < to; i++) {
            int r = 6 * i;
            boolean hit =
                q.ray(
                    rays[r],
                    rays[r + 1],
                    rays[r + 2],
                    rays[r + 3],
                    rays[r + 4],
                    rays[r + 5],
                    0,
                    Float.MAX_VALUE,
                    BvhQuery.Facing.ANY);
            seen[i] = hit ? q.distance : 0;
            n += hit ? 1 : 0;
          }
          found.add(n);
        });
    return found.sum();
  }

  /** From every surface point one ray in a random direction, a tenth of the mesh's size long. */
  private static long occlusion(Bvh bvh, Box box, float[] hits) {
    float reach = (float) (0.1 * box.diagonal());
    LongAdder found = new LongAdder();
    Parallel.range(
        hits.length / 3,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery q = new BvhQuery(bvh);
          SplittableRandom r = new SplittableRandom(from);
          int n = 0;
          for (int o = 3 * from; o < 3 * to; o += 3) {
            double z = 2 * r.nextDouble() - 1;
            double a = 2 * Math.PI * r.nextDouble();
            double s = Math.sqrt(1 - z * z);
            n +=
                q.isBlocked(
                        hits[o],
                        hits[o + 1],
                        hits[o + 2],
                        (float) (s * Math.cos(a)),
                        (float) (s * Math.sin(a)),
                        (float) z,
                        0,
                        reach,
                        BvhQuery.Facing.ANY)
                    ? 1
                    : 0;
          }
          found.add(n);
        });
    return found.sum();
  }

  private static long closest(Bvh bvh, Box box, float[] hits) {
    float off = (float) (0.002 * box.diagonal());
    LongAdder found = new LongAdder();
    Parallel.range(
        hits.length / 3,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery q = new BvhQuery(bvh);
          int n = 0;
          for (int i = 3 * from; i < 3 * to; i += 3) {
            n += q.closest(hits[i] + off, hits[i + 1], hits[i + 2], Float.MAX_VALUE) ? 1 : 0;
          }
          found.add(n);
        });
    return found.sum();
  }
}
