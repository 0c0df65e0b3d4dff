package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** What lies between two heights along a direction, measured from the origin. */
public record Heights(
    @Parameter(help = "From this height up; else from the lowest", optional = true) Length from,
    @Parameter(help = "Up to this height; else to the highest", optional = true) Length to,
    @Parameter(help = "The direction that counts as up", preset = "0, 0, 1") double[] along)
    implements Rule {

  public Heights {
    if (along.length != 3 || !(Vec.length(along) > 0)) {
      throw Failure.usage(CoreWords.of("heights.a-heights-direction-needs-three"));
    }
    if (from == null && to == null) {
      throw Failure.usage(CoreWords.of("heights.give-a-height-to-begin"));
    }
    if (from != null && to != null && from.metres() > to.metres()) {
      throw Failure.usage(CoreWords.of("heights.the-height-to-begin-at"));
    }
  }

  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    Similarity place = frame.toWork();
    double[] up = Vec.unit(along);
    double[] n = Vec.mul(Vec.unit(place.inverse().direction(up)), place.scale());
    double[] origin = place.apply(0, 0, 0);
    double zero = Vec.dot(origin, up);
    double low = from == null ? Double.NEGATIVE_INFINITY : from.metres() - zero;
    double high = to == null ? Double.POSITIVE_INFINITY : to.metres() - zero;
    return TriangleTest.select(
        mesh,
        work,
        (t, x, y, z) -> {
          double h = x * n[0] + y * n[1] + z * n[2];
          return h >= low && h <= high;
        });
  }
}
