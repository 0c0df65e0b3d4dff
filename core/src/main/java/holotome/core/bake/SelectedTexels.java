package holotome.core.bake;

import holotome.core.frame.Frame;
import holotome.core.map.TexelTriangle;
import holotome.core.mesh.Mesh;
import holotome.core.part.Coverage;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.select.SoftSelection;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/**
 * How much each texel of a Cast's maps is selected: by place, on the Cast divided finely ({@link
 * FineCast}), rising from the border of the selection inwards ({@link SoftSelection}), over charts
 * as if they were one; carried on into the gutters. O(texels).
 */
final class SelectedTexels {
  /** Texels beyond the surface that it is carried to. */
  private static final int RINGS = 16;

  private static final int ONE = 255;
  private static final int GRAIN = 64;

  private SelectedTexels() {}

  /**
   * One byte a texel, 0 to 255, by rows from the top.
   *
   * @param soft how wide the border is, in base units
   * @throws Failure where nothing of the Cast is selected
   */
  static byte[] of(Workpiece in, List<Pick> picks, double soft, Work work) {
    Mesh cast = in.cast();
    Maps maps = in.maps();
    Mesh fine = FineCast.of(cast, maps.size());
    String label = CoreWords.of("work.selecting");
    Work selects = work.part(0.4, label);
    BitSet set =
        isOfScan(picks)
            ? asOnScan(fine, in.scan(), picks, in.frame(), selects)
            : Pick.all(picks, fine, in.frame(), selects);
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("take-noise.nothing-is-selected"));
    }
    float[] weights =
        SoftSelection.weights(
            fine, VertexFans.of(fine, Work.unwatched()), set, soft, work.part(0.2, label));
    int width = maps.missed().width();
    byte[] out = new byte[Math.multiplyExact(width, maps.missed().height())];
    TexelTriangle at = new TexelTriangle(fine, maps.size(), maps.columns(), maps.rows());
    for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
      if (at.take(t)) {
        draw(at, fine.triangles(), t, weights, width, out);
      }
    }
    byte[] rings = Coverage.rings(cast, maps, RINGS, work.part(0.3, label));
    for (int ring = 1; ring <= RINGS; ring++) {
      work.check();
      carry(out, rings, ring, width);
    }
    work.advance(0.1);
    return out;
  }

  /** Whether what is selected are triangles of the Scan, or its colours, and no places alone. */
  static boolean isOfScan(List<Pick> picks) {
    return picks.stream().anyMatch(p -> !p.isGeometric() || p.colour() != null);
  }

  /** What lies nearest to something selected of the Scan. */
  private static BitSet asOnScan(Mesh fine, Mesh scan, List<Pick> picks, Frame frame, Work work) {
    BitSet of = Pick.all(picks, scan, frame, work.part(0.3, work.label()));
    Bvh index = Bvh.of(scan, work.part(0.3, work.label()));
    boolean[] is = new boolean[fine.triangleCount()];
    float[] p = fine.xyz();
    int[] v = fine.triangles();
    Parallel.range(
        is.length,
        1 << 12,
        work.part(0.4, work.label()),
        (from, to) -> {
          BvhQuery q = new BvhQuery(index);
          for (int t = from; t < to; t++) {
            int a = 3 * v[3 * t];
            int b = 3 * v[3 * t + 1];
            int c = 3 * v[3 * t + 2];
            boolean isFound =
                q.closest(
                    (p[a] + p[b] + p[c]) / 3,
                    (p[a + 1] + p[b + 1] + p[c + 1]) / 3,
                    (p[a + 2] + p[b + 2] + p[c + 2]) / 3,
                    Float.POSITIVE_INFINITY);
            is[t] = isFound && of.get(q.triangle);
          }
        });
    BitSet out = new BitSet(is.length);
    for (int t = 0; t < is.length; t++) {
      out.set(t, is[t]);
    }
    return out;
  }

  private static void draw(
      TexelTriangle at, int[] corners, int t, float[] weights, int width, byte[] out) {
    float a = weights[corners[3 * t]];
    float b = weights[corners[3 * t + 1]];
    float c = weights[corners[3 * t + 2]];
    for (int y = at.top; y <= at.bottom; y++) {
      for (int x = at.left; x <= at.right; x++) {
        double u = at.second(x, y);
        double v = at.third(x, y);
        if (u >= 0 && v >= 0 && u + v <= 1) {
          out[y * width + x] = (byte) Math.rint(ONE * (a + u * (b - a) + v * (c - a)));
        }
      }
    }
  }

  /** Gives the texels of a ring the mean of those beside them that lie nearer to the surface. */
  private static void carry(byte[] of, byte[] rings, int ring, int width) {
    int height = rings.length / width;
    Parallel.range(
        height,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int y = from; y < to; y++) {
            for (int x = 0; x < width; x++) {
              if (rings[y * width + x] == ring) {
                of[y * width + x] = mean(of, rings, ring, x, y, width, height);
              }
            }
          }
        });
  }

  private static byte mean(byte[] of, byte[] rings, int ring, int x, int y, int width, int height) {
    int sum = 0;
    int n = 0;
    for (int v = Math.max(0, y - 1); v <= Math.min(height - 1, y + 1); v++) {
      for (int u = Math.max(0, x - 1); u <= Math.min(width - 1, x + 1); u++) {
        int r = rings[v * width + u];
        if (r >= 0 && r < ring) {
          sum += of[v * width + u] & ONE;
          n++;
        }
      }
    }
    return (byte) (n == 0 ? 0 : (sum + n / 2) / n);
  }
}
