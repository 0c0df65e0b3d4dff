package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.geometry.Placing;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * An outline on a view, reaching through the mesh along the line of sight; or a stroke on it.
 *
 * @param view from working space to the outline's plane: 4 x 4 by rows, homogeneous; a point is
 *     seen at (x / w, y / w) where w is above zero
 * @param outline x, y of its corners in turn; closed by itself
 * @param reach null for an outline; else the corners are those of an open stroke, and all within
 *     this distance of it, in the outline's plane, is inside
 */
public record Fence(
    @Parameter(help = "From working space to the outline's plane, 4 x 4 by rows") double[] view,
    @Parameter(help = "The outline's corners, x, y in turn") double[] outline,
    @Parameter(
            help = "The corners are a stroke, and all within this distance is inside",
            optional = true)
        Double reach)
    implements Rule {

  public Fence {
    if (view.length != 16) {
      throw Failure.usage(CoreWords.of("fence.a-fences-view-needs-16"));
    }
    if (reach == null && outline.length < 6 || outline.length < 2 || outline.length % 2 != 0) {
      throw Failure.usage(CoreWords.of("fence.a-fences-outline-needs-at"));
    }
    if (reach != null && !(reach > 0)) {
      throw Failure.usage(CoreWords.of("fence.a-strokes-reach-must-be"));
    }
  }

  public Fence(double[] view, double[] outline) {
    this(view, outline, null);
  }

  /** Tells which points of the outline's plane lie inside. */
  @FunctionalInterface
  private interface Inside {
    boolean contains(double x, double y);
  }

  /** The triangles whose centre lies inside; O(T) times the corners near it. */
  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    double[] m = Placing.then(frame.toWork(), view);
    Inside inside =
        reach == null
            ? new FenceOutline(outline)::contains
            : new FenceStroke(outline, reach)::contains;
    return TriangleTest.select(
        mesh,
        work,
        (t, x, y, z) -> {
          double w = m[12] * x + m[13] * y + m[14] * z + m[15];
          return w > 0
              && inside.contains(
                  (m[0] * x + m[1] * y + m[2] * z + m[3]) / w,
                  (m[4] * x + m[5] * y + m[6] * z + m[7]) / w);
        });
  }
}
