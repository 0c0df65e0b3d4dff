package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/**
 * A box anywhere in working space, turned in any way.
 *
 * @param centre x, y, z
 * @param size its three edges
 * @param turn by so many degrees about X, then Y, then Z, all through its centre
 */
public record Region(
    @Parameter(help = "The box's centre, x y z in working space") double[] centre,
    @Parameter(help = "Its size along its own three edges") double[] size,
    @Parameter(help = "Turned by so many degrees about X, then Y, then Z", preset = "0, 0, 0")
        double[] turn)
    implements Rule {

  public Region {
    if (centre.length != 3 || size.length != 3 || turn.length != 3) {
      throw Failure.usage(CoreWords.of("region.a-box-needs-three-numbers"));
    }
    if (!(size[0] > 0 && size[1] > 0 && size[2] > 0)) {
      throw Failure.usage(CoreWords.of("region.a-boxs-size-must-be"));
    }
  }

  /** The directions of its three edges: unit vectors, 9 numbers. */
  public double[] axes() {
    double[] out = new double[9];
    for (int k = 0; k < 3; k++) {
      double[] e = new double[3];
      e[k] = 1;
      for (int about = 0; about < 3; about++) {
        double a = Math.toRadians(turn[about]);
        int i = (about + 1) % 3;
        int j = (about + 2) % 3;
        double x = e[i] * Math.cos(a) - e[j] * Math.sin(a);
        e[j] = e[i] * Math.sin(a) + e[j] * Math.cos(a);
        e[i] = x;
      }
      System.arraycopy(e, 0, out, 3 * k, 3);
    }
    return out;
  }

  /** The triangles whose centre lies in the box. */
  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    Similarity back = frame.toWork().inverse();
    double[] c = back.apply(centre);
    double scale = back.scale();
    double[] axes = axes();
    double[][] e = new double[3][];
    for (int k = 0; k < 3; k++) {
      double[] axis = {axes[3 * k], axes[3 * k + 1], axes[3 * k + 2]};
      e[k] = Vec.mul(Vec.unit(back.direction(axis)), 2 / (size[k] * scale));
    }
    return TriangleTest.select(
        mesh,
        work,
        (t, x, y, z) -> {
          double dx = x - c[0];
          double dy = y - c[1];
          double dz = z - c[2];
          return Math.abs(dx * e[0][0] + dy * e[0][1] + dz * e[0][2]) <= 1
              && Math.abs(dx * e[1][0] + dy * e[1][1] + dz * e[1][2]) <= 1
              && Math.abs(dx * e[2][0] + dy * e[2][1] + dz * e[2][2]) <= 1;
        });
  }
}
