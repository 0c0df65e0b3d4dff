package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.map.Hit;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule;
import holotome.core.mesh.LaidOver;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.tangent.SplitMesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * Ray baking: from each sample of a texel, a ray starts on the cage, a little outside the Cast, and
 * runs inwards to as far behind it; the first face of the Scan it meets from the front is what the
 * maps ask ({@link MapRule}).
 *
 * <p>Of charts laid over each other the leading one alone is asked.
 *
 * <p>Rows of texels are done in bands, in parallel; each texel is written by one band only. A
 * sample whose ray meets nothing takes the closest point of the Scan; a texel counts as missed
 * where more than half of its samples did.
 */
final class Baking {
  private static final int BAND = 8;

  private final Mesh cast;
  private final int size;
  private final int side;
  private final Bvh bvh;
  private final float[] cage;
  private final SplitMesh split;
  private final List<MapKind> kinds;
  private final List<MapRule.Taker> takers;
  private final List<Image.Editor> pictures;

  /** Where each map's sums begin among those of a texel, and where the last ones end. */
  private final int[] sumAt;

  /** Which charts lie over which, see {@link LaidOver}; null for none. */
  private final int[] over;

  private final byte[] missed;
  private final byte[] covered;

  static Maps run(
      Mesh scan, Mesh cast, List<MapKind> kinds, int size, int side, int padding, Work work) {
    Bvh bvh = Bvh.of(scan, work.part(0.2, CoreWords.of("baking.indexing-the-scan")));
    float[] cage = Cage.of(cast, scan, bvh, work.part(0.1, CoreWords.of("work.making-the-cage")));
    Baking b = new Baking(scan, cast, kinds, size, side, bvh, cage);
    return b.bake(padding, work.part(0.7, CoreWords.of("work.baking")));
  }

  private Baking(
      Mesh scan, Mesh cast, List<MapKind> kinds, int size, int side, Bvh bvh, float[] cage) {
    this.cast = cast;
    this.size = size;
    this.side = side;
    this.bvh = bvh;
    this.cage = cage;
    split = SplitMesh.of(cast);
    over = LaidOver.of(cast);
    // Each once, in the order of the kinds, whatever the order asked for.
    this.kinds = kinds.stream().distinct().sorted().toList();
    takers = this.kinds.stream().map(k -> k.rule().taker(scan)).toList();
    pictures = this.kinds.stream().map(k -> begun(k.rule(), size)).toList();
    sumAt = new int[takers.size() + 1];
    for (int k = 0; k < takers.size(); k++) {
      sumAt[k + 1] = sumAt[k] + takers.get(k).sums();
    }
    missed = new byte[size * size];
    covered = new byte[size * size];
  }

  private static Image.Editor begun(MapRule r, int size) {
    return Image.begun(size, size, r.channels(), r.sample(), r.space());
  }

  private Maps bake(int padding, Work work) {
    int[][] byBand = trianglesByBand();
    int[][] counts = new int[byBand.length][2];
    Parallel.range(
        byBand.length,
        1,
        work.part(0.9, CoreWords.of("work.baking")),
        (from, to) -> {
          BandBaker baker = new BandBaker();
          for (int band = from; band < to; band++) {
            work.check();
            baker.bake(band, byBand[band], counts[band], work);
          }
        });
    int total = 0;
    int lost = 0;
    for (int[] c : counts) {
      total += c[0];
      lost += c[1];
    }
    Map<MapKind, Image> done = new EnumMap<>(MapKind.class);
    for (int k = 0; k < kinds.size(); k++) {
      Work share = work.part(0.1 / kinds.size(), CoreWords.of("work.padding"));
      Padding.fill(pictures.get(k), pictures.get(k).done(), covered, padding, share);
      done.put(kinds.get(k), pictures.get(k).done());
    }
    return new Maps(done, missed, total, lost);
  }

  /** The row of texels, from the top, that a texture coordinate lies in. */
  private double row(int textureVertex) {
    return (1 - (double) cast.uv().coords()[2 * textureVertex + 1]) * size;
  }

  private int[][] trianglesByBand() {
    int bands = (size + BAND - 1) / BAND;
    int[] count = new int[bands];
    int[][] out = new int[bands][];
    int[] c = cast.uv().corners();
    for (int pass = 0; pass < 2; pass++) {
      for (int t = 0; t < cast.triangleCount(); t++) {
        if (over != null && over[t] < 0) {
          continue;
        }
        double a = row(c[3 * t]);
        double b = row(c[3 * t + 1]);
        double d = row(c[3 * t + 2]);
        int first = Math.clamp((int) Math.floor(Math.min(a, Math.min(b, d)) / BAND), 0, bands - 1);
        int last = Math.clamp((int) Math.floor(Math.max(a, Math.max(b, d)) / BAND), 0, bands - 1);
        for (int band = first; band <= last; band++) {
          if (pass == 1) {
            out[band][count[band]] = t;
          }
          count[band]++;
        }
      }
      for (int band = 0; pass == 0 && band < bands; band++) {
        out[band] = new int[count[band]];
        count[band] = 0;
      }
    }
    return out;
  }

  /** Bakes bands of rows; holds the samples of one band. One per thread. */
  private final class BandBaker {
    private final int[] owner = new int[BAND * side * size * side];
    private final BvhQuery query = new BvhQuery(bvh);
    private final Hit hit = new Hit();
    private final double[] frame = hit.frame;
    private final double[] stored = new double[4];

    void bake(int band, int[] triangles, int[] counts, Work work) {
      java.util.Arrays.fill(owner, -1);
      int top = band * BAND;
      for (int t : triangles) {
        rasterise(t, top);
      }
      int rows = Math.min(BAND, size - top);
      int width = size * side;
      float[] sum = new float[sumAt[takers.size()]];
      for (int y = 0; y < rows; y++) {
        work.check();
        for (int x = 0; x < size; x++) {
          java.util.Arrays.fill(sum, 0);
          int samples = 0;
          int hits = 0;
          for (int sy = 0; sy < side; sy++) {
            int at = (y * side + sy) * width + x * side;
            for (int sx = 0; sx < side; sx++) {
              int t = owner[at + sx];
              if (t >= 0) {
                samples++;
                double u = (x + (sx + 0.5) / side) / size;
                double v = 1 - (top + y + (sy + 0.5) / side) / size;
                hits += sample(t, u, v, sum) ? 1 : 0;
              }
            }
          }
          if (samples > 0) {
            write(x, top + y, sum, samples);
            counts[0]++;
            if (2 * hits < samples) {
              missed[(top + y) * size + x] = 1;
              counts[1]++;
            }
          }
        }
      }
    }

    /** Marks the samples of the band whose place lies in a triangle; on a shared edge, the last. */
    private void rasterise(int t, int top) {
      int[] c = cast.uv().corners();
      float[] uv = cast.uv().coords();
      double w = (double) size * side;
      double ax = uv[2 * c[3 * t]] * w - 0.5;
      double ay = row(c[3 * t]) * side - 0.5 - (double) top * side;
      double bx = uv[2 * c[3 * t + 1]] * w - 0.5;
      double by = row(c[3 * t + 1]) * side - 0.5 - (double) top * side;
      double cx = uv[2 * c[3 * t + 2]] * w - 0.5;
      double cy = row(c[3 * t + 2]) * side - 0.5 - (double) top * side;
      double det = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
      if (det == 0) {
        return;
      }
      int y0 = Math.max(0, (int) Math.ceil(Math.min(ay, Math.min(by, cy))));
      int y1 = Math.min(BAND * side - 1, (int) Math.floor(Math.max(ay, Math.max(by, cy))));
      int x0 = Math.max(0, (int) Math.ceil(Math.min(ax, Math.min(bx, cx))));
      int x1 = Math.min(size * side - 1, (int) Math.floor(Math.max(ax, Math.max(bx, cx))));
      for (int y = y0; y <= y1; y++) {
        for (int x = x0; x <= x1; x++) {
          double u = ((x - ax) * (cy - ay) - (cx - ax) * (y - ay)) / det;
          double v = ((bx - ax) * (y - ay) - (x - ax) * (by - ay)) / det;
          if (u >= 0 && v >= 0 && u + v <= 1) {
            owner[y * size * side + x] = t;
          }
        }
      }
    }

    /** Adds one sample to the sums of all maps; whether its ray hit. */
    private boolean sample(int t, double texU, double texV, float[] sum) {
      float[] uv = cast.uv().coords();
      int[] c = cast.uv().corners();
      double ax = uv[2 * c[3 * t]];
      double ay = uv[2 * c[3 * t] + 1];
      double bx = uv[2 * c[3 * t + 1]] - ax;
      double by = uv[2 * c[3 * t + 1] + 1] - ay;
      double cx = uv[2 * c[3 * t + 2]] - ax;
      double cy = uv[2 * c[3 * t + 2] + 1] - ay;
      double det = bx * cy - cx * by;
      float u = (float) (((texU - ax) * cy - cx * (texV - ay)) / det);
      float v = (float) ((bx * (texV - ay) - (texU - ax) * by) / det);
      float w = 1 - u - v;
      int[] tri = cast.triangles();
      float[] p = cast.xyz();
      int i = 3 * tri[3 * t];
      int j = 3 * tri[3 * t + 1];
      int k = 3 * tri[3 * t + 2];
      float px = p[i] * w + p[j] * u + p[k] * v;
      float py = p[i + 1] * w + p[j + 1] * u + p[k + 1] * v;
      float pz = p[i + 2] * w + p[j + 2] * u + p[k + 2] * v;
      float out = cage[i / 3] * w + cage[j / 3] * u + cage[k / 3] * v;
      tangentFrame(t, w, u, v);
      float nx = (float) frame[6];
      float ny = (float) frame[7];
      float nz = (float) frame[8];
      boolean met =
          query.ray(
              px + nx * out,
              py + ny * out,
              pz + nz * out,
              -nx,
              -ny,
              -nz,
              0,
              2 * out,
              BvhQuery.Facing.FRONT);
      if (!met && !query.closest(px, py, pz, Float.POSITIVE_INFINITY)) {
        return false;
      }
      hit.triangle = query.triangle;
      hit.u = query.u;
      hit.v = query.v;
      for (int m = 0; m < takers.size(); m++) {
        takers.get(m).take(hit, sum, sumAt[m]);
      }
      return met;
    }

    /** The interpolated tangent, bitangent and unit normal as rows of {@link #frame}. */
    private void tangentFrame(int t, float w, float u, float v) {
      int a = split.corners()[3 * t];
      int b = split.corners()[3 * t + 1];
      int c = split.corners()[3 * t + 2];
      float[] n = split.normals();
      float[] g = split.tangents();
      for (int k = 0; k < 3; k++) {
        frame[6 + k] = n[3 * a + k] * w + n[3 * b + k] * u + n[3 * c + k] * v;
        frame[k] = g[4 * a + k] * w + g[4 * b + k] * u + g[4 * c + k] * v;
      }
      unit(6);
      unit(0);
      double hand = g[4 * a + 3];
      frame[3] = hand * (frame[7] * frame[2] - frame[8] * frame[1]);
      frame[4] = hand * (frame[8] * frame[0] - frame[6] * frame[2]);
      frame[5] = hand * (frame[6] * frame[1] - frame[7] * frame[0]);
    }

    private void unit(int at) {
      double l =
          Math.sqrt(
              frame[at] * frame[at]
                  + frame[at + 1] * frame[at + 1]
                  + frame[at + 2] * frame[at + 2]);
      double f = l > 0 ? 1 / l : 0;
      frame[at] *= f;
      frame[at + 1] *= f;
      frame[at + 2] *= f;
    }

    private void write(int x, int y, float[] sum, int samples) {
      covered[y * size + x] = 1;
      for (int k = 0; k < takers.size(); k++) {
        takers.get(k).store(sum, sumAt[k], samples, stored);
        pictures.get(k).set(x, y, stored);
      }
    }
  }
}
