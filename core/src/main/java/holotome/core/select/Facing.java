package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** Surface that faces a direction, within an angle. */
public record Facing(
    @Parameter(help = "The direction, x y z in working space") double[] towards,
    @Parameter(help = "Within this angle of it", unit = "°", min = 0, max = 180, preset = "20")
        double within)
    implements Rule {

  public Facing {
    if (towards.length != 3 || !(Vec.length(towards) > 0)) {
      throw Failure.usage(CoreWords.of("facing.a-direction-needs-three-numbers"));
    }
  }

  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    double[] d = Vec.unit(frame.toWork().inverse().direction(towards));
    double least = Math.cos(Math.toRadians(within));
    return TriangleTest.select(
        mesh,
        work,
        (t, x, y, z) -> {
          double[] n = Measures.cross(mesh, t);
          double length = Vec.length(n);
          return length > 0 && Vec.dot(n, d) >= least * length;
        });
  }
}
