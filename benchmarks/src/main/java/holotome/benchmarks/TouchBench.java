package holotome.benchmarks;

import holotome.core.bake.TouchUp;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.image.Image;
import holotome.core.log.Checkpoints;
import holotome.core.log.History;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimation;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.touch.LiveTouch;
import holotome.core.touch.Touch;
import holotome.core.touch.Touch.How;
import holotome.core.touch.TouchGround;
import holotome.core.unwrap.MakeCharts;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;

/**
 * Strokes on the maps of a Cast of 20,000 triangles: what each point of one takes while it is
 * drawn, what making it takes, and what a sitting of 200 holds.
 */
final class TouchBench {
  private static final int CAST = 20_000;
  private static final int STROKES = 200;
  private static final int POINTS = 25;

  private static final List<MapKind> KINDS =
      List.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.OCCLUSION);

  private TouchBench() {}

  /**
   * @param which pixels of the maps' side
   */
  static void run(List<String> which) throws Exception {
    int size = which.isEmpty() ? 8192 : Integer.parseInt(which.getFirst());
    Mesh scan = Data.demo(1_000_000);
    Mesh cast = Decimation.run(scan, CAST, Double.POSITIVE_INFINITY, Work.unwatched());
    Workpiece work = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
    work = new MakeCharts(size, 8, 1.1, 0, 180).apply(work, Run.unwatched()).work();
    work = work.withMaps(maps(size));
    long begun = System.nanoTime();
    TouchGround ground = TouchGround.of(work.cast(), work.maps(), Work.unwatched());
    double ready = (System.nanoTime() - begun) / 1e9;
    double texel = texel(work.cast(), size);
    Table table =
        new Table("what", "radius px", "points", "median ms", "95 % ms", "most ms", "made s");
    Random random = new Random(1);
    for (int radius : new int[] {20, 50, 100, 200}) {
      for (How how : List.of(How.COPY, How.FIT, How.RESTORE)) {
        live(table, ground, work, how, radius, texel, random);
      }
      for (How how : List.of(How.BLEND, How.SOFTEN, How.FILL)) {
        Touch t = stroke(work.cast(), how, radius * texel, random, how == How.FILL ? 3 : POINTS);
        table.row(
            how.name().toLowerCase(Locale.ROOT), radius, t.points(), "", "", "", made(work, t));
      }
    }
    table.print();
    System.out.printf("ready to paint after %.2f s%n", ready);
    sitting(work, texel, random);
  }

  private static Maps maps(int size) {
    Image missed = Image.blank(size, size, 1, Image.Sample.BYTE, Image.Space.LINEAR);
    Maps out = new Maps(size, Map.of(), Map.of(), missed, 1, 0, List.of());
    for (MapKind k : KINDS) {
      MapRule rule = k.rule();
      Image blank = Image.blank(size, size, rule.channels(), rule.sample(false), rule.space());
      out =
          out.with(
              k,
              blank.filled(
                  (x, y, v) -> {
                    boolean isNormal = k == MapKind.NORMAL;
                    v[0] = isNormal ? 128 : 128 + 60 * Math.sin(x * 0.05);
                    v[1] = isNormal ? 128 : 128 + 60 * Math.cos(y * 0.03);
                    v[2] = isNormal ? 255 : 90;
                  },
                  Work.unwatched()));
    }
    return out;
  }

  /** The side of a texel on the surface, in the mean. */
  private static double texel(Mesh m, int size) {
    double texture = 0;
    float[] uv = m.uv().coords();
    int[] c = m.uv().corners();
    for (int t = 0; t < m.triangleCount(); t++) {
      int a = 2 * c[3 * t];
      int b = 2 * c[3 * t + 1];
      int d = 2 * c[3 * t + 2];
      texture +=
          Math.abs(
                  (uv[b] - uv[a]) * (uv[d + 1] - uv[a + 1])
                      - (uv[d] - uv[a]) * (uv[b + 1] - uv[a + 1]))
              / 2;
    }
    return Math.sqrt(Measures.area(m) / texture) / size;
  }

  /**
   * A stroke over the middle of the work, a quarter of a radius a point as the window takes them,
   * and a source beside it.
   */
  private static Touch stroke(Mesh m, How how, double radius, Random random, int points) {
    Box box = m.bounds();
    int t = random.nextInt(m.triangleCount());
    double[] at = Vec.at(m.xyz(), m.triangles()[3 * t]);
    double[] to = Vec.at(m.xyz(), m.triangles()[3 * random.nextInt(m.triangleCount())]);
    double[] way = Vec.sub(to, at);
    double l = Vec.length(way);
    double step = Math.min(0.25 * radius, 0.1 * box.diagonal() / points);
    double[] line = new double[3 * points];
    for (int i = 0; i < points; i++) {
      for (int k = 0; k < 3; k++) {
        line[3 * i + k] = at[k] + (l > 0 ? way[k] / l * step * i : 0);
      }
    }
    double[] from =
        how.copies() ? Vec.at(m.xyz(), m.triangles()[3 * random.nextInt(m.triangleCount())]) : null;
    return new Touch(how, line, false, radius, 50, 100, from, null, 0, null);
  }

  private static void live(
      Table table,
      TouchGround ground,
      Workpiece work,
      How how,
      int radius,
      double texel,
      Random random) {
    List<Double> times = new ArrayList<>();
    Touch last = null;
    for (int s = 0; s < 8; s++) {
      Touch t = stroke(work.cast(), how, radius * texel, random, POINTS);
      LiveTouch live = new LiveTouch(ground, work.maps(), work.maps(), t);
      for (int i = 0; i < t.points(); i++) {
        long begun = System.nanoTime();
        live.follow(List.of(t.point(i)));
        if (s > 0) {
          times.add((System.nanoTime() - begun) / 1e6);
        }
      }
      last = t;
    }
    double[] sorted = times.stream().mapToDouble(d -> d).sorted().toArray();
    table.row(
        how.name().toLowerCase(Locale.ROOT),
        radius,
        POINTS,
        sorted[sorted.length / 2],
        sorted[sorted.length * 95 / 100],
        sorted[sorted.length - 1],
        made(work, last));
  }

  private static double made(Workpiece work, Touch t) {
    long begun = System.nanoTime();
    try {
      new TouchUp(List.of(t)).apply(work, Run.unwatched());
    } catch (Failure f) {
      return Double.NaN;
    }
    return (System.nanoTime() - begun) / 1e9;
  }

  /** As the window does it: every stroke revises the entry, and all states are held for undo. */
  private static void sitting(Workpiece work, double texel, Random random) throws Exception {
    Path dir = java.nio.file.Files.createTempDirectory("holotome-touch");
    Checkpoints kept = new Checkpoints(Long.MAX_VALUE, dir);
    History h = History.of(work, kept);
    long bare = kept.bytesHeld();
    List<Touch> touches = new ArrayList<>();
    List<History> undo = new ArrayList<>();
    double[] seconds = new double[STROKES];
    for (int i = 0; i < STROKES; i++) {
      How how = i % 4 == 3 ? How.RESTORE : i % 2 == 0 ? How.COPY : How.FIT;
      touches.add(stroke(work.cast(), how, 60 * texel, random, POINTS));
      long begun = System.nanoTime();
      h =
          i == 0
              ? h.apply(new TouchUp(touches), Run.unwatched())
              : h.revise(0, new TouchUp(touches), Run.unwatched());
      seconds[i] = (System.nanoTime() - begun) / 1e9;
      undo.add(h);
    }
    Arrays.sort(seconds);
    System.gc();
    Runtime r = Runtime.getRuntime();
    System.out.printf(
        "%d strokes: median %.2f s, most %.2f s; maps %.2f GB, the states add %.2f GB, in use %.2f GB%n",
        undo.size(),
        seconds[STROKES / 2],
        seconds[STROKES - 1],
        work.maps().bytes() / 1e9,
        (kept.bytesHeld() - bare) / 1e9,
        (r.totalMemory() - r.freeMemory()) / 1e9);
  }
}
