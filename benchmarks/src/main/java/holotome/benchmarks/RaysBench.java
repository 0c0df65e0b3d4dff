package holotome.benchmarks;

import holotome.core.mesh.Box;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.Camera;
import java.util.SplittableRandom;
import java.util.concurrent.atomic.LongAdder;

/** Building the bounding-volume hierarchy, and rays a second on all cores. */
final class RaysBench {
  private static final int SIDE = 1200;

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
    double build = Timing.median(2, 3, () -> bvh[0] = Bvh.of(mesh));
    Camera camera = Camera.showing(mesh.bounds(), Camera.Direction.ASKEW, 1);
    float[] hits = new float[3 * SIDE * SIDE];
    LongAdder found = new LongAdder();
    double coherent = Timing.median(2, 3, () -> coherent(bvh[0], camera, hits, found));
    double occlusion = Timing.median(1, 3, () -> occlusion(bvh[0], mesh.bounds(), hits));
    double closest = Timing.median(1, 3, () -> closest(bvh[0], mesh.bounds(), hits));
    double rays = SIDE * SIDE / 1e6;
    table.row(
        name,
        String.format("%,d", mesh.triangleCount()),
        build,
        rays / coherent,
        rays / occlusion,
        rays / closest);
  }

  /** One ray per pixel of a camera that shows the whole. */
  private static long coherent(Bvh bvh, Camera camera, float[] hits, LongAdder found) {
    found.reset();
    Parallel.range(
        SIDE,
        8,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery q = new BvhQuery(bvh);
          for (int y = from; y < to; y++) {
            for (int x = 0; x < SIDE; x++) {
              double[] r = camera.ray(x + 0.5, y + 0.5, SIDE, SIDE);
              boolean hit =
                  q.ray(
                      (float) r[0],
                      (float) r[1],
                      (float) r[2],
                      (float) r[3],
                      (float) r[4],
                      (float) r[5],
                      0,
                      Float.MAX_VALUE,
                      BvhQuery.Facing.ANY);
              int o = 3 * (y * SIDE + x);
              float t = hit ? q.distance * 0.9999f : 0;
              found.add(hit ? 1 : 0);
              for (int k = 0; k < 3; k++) {
                hits[o + k] = (float) (r[k] + t * r[3 + k]);
              }
            }
          }
        });
    return found.sum();
  }

  /** From every surface point one ray in a random direction, a tenth of the mesh's size long. */
  private static long occlusion(Bvh bvh, Box box, float[] hits) {
    float reach = (float) (0.1 * box.diagonal());
    LongAdder found = new LongAdder();
    Parallel.range(
        SIDE,
        8,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery q = new BvhQuery(bvh);
          for (int y = from; y < to; y++) {
            SplittableRandom r = new SplittableRandom(y);
            int n = 0;
            for (int x = 0; x < SIDE; x++) {
              int o = 3 * (y * SIDE + x);
              double z = 2 * r.nextDouble() - 1;
              double a = 2 * Math.PI * r.nextDouble();
              double s = Math.sqrt(1 - z * z);
              n +=
                  q.ray(
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
          }
        });
    return found.sum();
  }

  private static long closest(Bvh bvh, Box box, float[] hits) {
    float off = (float) (0.002 * box.diagonal());
    LongAdder found = new LongAdder();
    Parallel.range(
        SIDE,
        8,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery q = new BvhQuery(bvh);
          for (int i = 3 * from * SIDE; i < 3 * to * SIDE; i += 3) {
            found.add(q.closest(hits[i] + off, hits[i + 1], hits[i + 2], Float.MAX_VALUE) ? 1 : 0);
          }
        });
    return found.sum();
  }
}
