package holotome.core.part;

import holotome.core.map.TexelTriangle;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/** Which texels of a Cast's maps have surface: those whose middle lies in a triangle. O(texels). */
public final class Coverage {
  private static final int GRAIN = 4096;

  private Coverage() {}

  /** One bit a texel, by rows from the top. */
  public static BitSet of(Mesh cast, Maps maps) {
    byte[] rings = covered(cast, maps, Work.unwatched());
    BitSet out = new BitSet(rings.length);
    for (int i = 0; i < rings.length; i++) {
      if (rings[i] == 0) {
        out.set(i);
      }
    }
    return out;
  }

  /** Per texel 0 where there is surface, else -1. */
  private static byte[] covered(Mesh cast, Maps maps, Work work) {
    int width = maps.missed().width();
    byte[] out = new byte[Math.multiplyExact(width, maps.missed().height())];
    Arrays.fill(out, (byte) -1);
    // Several threads may write to one texel: all of them the same.
    Parallel.range(
        cast.triangleCount(),
        GRAIN,
        work,
        (from, to) -> {
          TexelTriangle at = new TexelTriangle(cast, maps.size(), maps.columns(), maps.rows());
          for (int t = from; t < to; t++) {
            if (at.take(t)) {
              mark(at, width, out);
            }
          }
        });
    return out;
  }

  private static void mark(TexelTriangle at, int width, byte[] out) {
    for (int y = at.top; y <= at.bottom; y++) {
      for (int x = at.left; x <= at.right; x++) {
        double u = at.second(x, y);
        double v = at.third(x, y);
        if (u >= 0 && v >= 0 && u + v <= 1) {
          out[y * width + x] = 0;
        }
      }
    }
  }

  /**
   * How many texels, straight or askew, each lies from the nearest that has surface: 0 for those
   * that have, -1 for more than {@code most}. O(texels).
   */
  public static byte[] rings(Mesh cast, Maps maps, int most, Work work) {
    String label = CoreWords.of("work.finding-borders");
    int width = maps.missed().width();
    int height = maps.missed().height();
    byte[] out = covered(cast, maps, work.part(0.5, label));
    Work sweeps = work.part(0.5, label);
    for (int y = 0; y < height; y++) {
      sweeps.check();
      for (int x = 0; x < width; x++) {
        int near = y > 0 ? least(out, (y - 1) * width, x, width) : -1;
        come(out, y * width + x, less(near, x > 0 ? out[y * width + x - 1] : -1), most);
      }
    }
    for (int y = height - 1; y >= 0; y--) {
      sweeps.check();
      for (int x = width - 1; x >= 0; x--) {
        int near = y < height - 1 ? least(out, (y + 1) * width, x, width) : -1;
        come(out, y * width + x, less(near, x < width - 1 ? out[y * width + x + 1] : -1), most);
      }
    }
    sweeps.advance(1);
    return out;
  }

  /** The least of three of a row beside one another; -1 is more than any. */
  private static int least(byte[] of, int row, int x, int width) {
    int out = of[row + x];
    out = x > 0 ? less(out, of[row + x - 1]) : out;
    return x < width - 1 ? less(out, of[row + x + 1]) : out;
  }

  private static int less(int a, int b) {
    return a < 0 ? b : b < 0 ? a : Math.min(a, b);
  }

  /** One further than its neighbour, where that is nearer than is known. */
  private static void come(byte[] of, int at, int near, int most) {
    if (near >= 0 && near < most && less(of[at], near + 1) != of[at]) {
      of[at] = (byte) (near + 1);
    }
  }
}
