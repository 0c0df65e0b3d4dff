package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/** All surface that hangs together with a point, up to sharp edges or to the end of its island. */
public record Linked(
    @Parameter(help = "A point on the surface, x y z in working space") double[] point,
    @Parameter(
            help = "Stops at edges that bend by more than this; 180 takes the whole island",
            unit = "°",
            min = 0,
            max = 180,
            preset = "180")
        double sharp)
    implements Rule {

  public Linked {
    if (point.length != 3) {
      throw Failure.usage(CoreWords.of("linked.the-point-needs-three-numbers"));
    }
  }

  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    if (mesh.isEmpty()) {
      return new BitSet();
    }
    int seed =
        NearestTriangle.of(
            mesh, frame.toBase(point), work.part(0.2, CoreWords.of("work.selecting")));
    if (sharp >= 180) {
      int[] of =
          Islands.of(mesh, work.part(0.6, CoreWords.of("work.finding-islands"))).ofTriangle();
      int island = of[seed];
      return TriangleTest.select(
          mesh, work.part(0.2, CoreWords.of("work.selecting")), (t, x, y, z) -> of[t] == island);
    }
    int[] twin = Adjacency.of(mesh, work.part(0.5, CoreWords.of("work.finding-neighbours"))).twin();
    return flood(mesh, twin, seed, Math.cos(Math.toRadians(sharp)), work);
  }

  private static BitSet flood(Mesh mesh, int[] twin, int seed, double least, Work work) {
    BitSet in = new BitSet(mesh.triangleCount());
    int[] queue = new int[1024];
    int end = 0;
    queue[end++] = seed;
    in.set(seed);
    for (int at = 0; at < end; at++) {
      if ((at & 0xffff) == 0) {
        work.check();
      }
      int t = queue[at];
      double[] n = Measures.cross(mesh, t);
      double length = Vec.length(n);
      for (int k = 0; k < 3; k++) {
        int g = twin[3 * t + k];
        if (g < 0 || in.get(g / 3)) {
          continue;
        }
        double[] m = Measures.cross(mesh, g / 3);
        // A sliver without direction bends nothing.
        double both = length * Vec.length(m);
        if (both == 0 || Vec.dot(n, m) >= least * both) {
          in.set(g / 3);
          if (end == queue.length) {
            queue = Arrays.copyOf(queue, end > 1 << 29 ? Integer.MAX_VALUE - 8 : 2 * end);
          }
          queue[end++] = g / 3;
        }
      }
    }
    return in;
  }
}
