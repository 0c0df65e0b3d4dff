package holotome.core.trim;

import holotome.core.mesh.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Placing;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * An outline on a view, reaching through the mesh along the line of sight.
 *
 * @param view from working space to the outline's plane: 4 x 4 by rows, homogeneous; a point is
 *     seen at (x / w, y / w) where w is above zero
 * @param outline x, y of its corners in turn; closed by itself
 */
public record Fence(
    @Parameter(help = "From working space to the outline's plane, 4 x 4 by rows") double[] view,
    @Parameter(help = "The outline's corners, x, y in turn") double[] outline) {

  public Fence {
    if (view.length != 16) {
      throw Failure.usage("a fence's view needs 16 numbers");
    }
    if (outline.length < 6 || outline.length % 2 != 0) {
      throw Failure.usage("a fence's outline needs at least three corners");
    }
  }

  /** The triangles whose centre lies inside the outline; O(T) times the corners near it. */
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    double[] m = Placing.then(frame.toWork(), view);
    FenceOutline inside = new FenceOutline(outline);
    int n = mesh.triangleCount();
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    // Chunks of a multiple of 64 triangles own whole words of the set.
    long[] words = new long[(n + 63) / 64];
    Parallel.range(
        n,
        1 << 14,
        work,
        (from, to) -> {
          for (int t = from; t < to; t++) {
            int a = 3 * tri[3 * t];
            int b = 3 * tri[3 * t + 1];
            int c = 3 * tri[3 * t + 2];
            double x = ((double) p[a] + p[b] + p[c]) / 3;
            double y = ((double) p[a + 1] + p[b + 1] + p[c + 1]) / 3;
            double z = ((double) p[a + 2] + p[b + 2] + p[c + 2]) / 3;
            double w = m[12] * x + m[13] * y + m[14] * z + m[15];
            if (!(w > 0)) {
              continue;
            }
            double u = (m[0] * x + m[1] * y + m[2] * z + m[3]) / w;
            double v = (m[4] * x + m[5] * y + m[6] * z + m[7]) / w;
            if (inside.contains(u, v)) {
              words[t >>> 6] |= 1L << t;
            }
          }
        });
    return BitSet.valueOf(words);
  }
}
