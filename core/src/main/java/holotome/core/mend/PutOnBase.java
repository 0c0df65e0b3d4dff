package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.triangulation.Triangulator;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.List;

/**
 * Puts an open bust on a base: a wall from its longest border straight down, and a flat foot. The
 * border may be ragged, as long as it does not lie over itself seen from below.
 */
@Describes(
    id = "mend.base",
    title = "Base",
    help =
        "Puts an open scan on a base: a wall straight down from its longest border, closed by a flat foot.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record PutOnBase(
    @Parameter(
            help = "How far below the lowest point of the border the foot lies",
            min = 0,
            preset = "10 mm")
        Length height)
    implements Step {

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.5, CoreWords.of("work.finding-the-borders")));
    int[][] loops = Borders.of(adjacency).loops();
    if (loops.length == 0) {
      throw Failure.cannot(CoreWords.of("put-on-base.closed"));
    }
    int[] loop = loops[0];
    for (int[] l : loops) {
      loop = Borders.perimeter(mesh, l) > Borders.perimeter(mesh, loop) ? l : loop;
    }
    int[] rim = Borders.vertices(mesh, loop);
    int n = rim.length;
    double[][] at = new double[n][];
    double lowest = Double.POSITIVE_INFINITY;
    for (int i = 0; i < n; i++) {
      at[i] = in.frame().toWork().apply(Vec.at(mesh.xyz(), rim[i]));
      lowest = Math.min(lowest, at[i][2]);
    }
    // Where the size is not true a length counts in the units that stand for metres.
    double foot = lowest - Math.max(height.metres(), 1e-6 * in.frame().workBounds(mesh).diagonal());
    float[] xyz = new float[3 * n];
    double[] ring = new double[2 * n];
    int[] numbers = new int[n];
    for (int i = 0; i < n; i++) {
      double[] b = in.frame().toBase(Vec.of(at[i][0], at[i][1], foot));
      for (int k = 0; k < 3; k++) {
        xyz[3 * i + k] = (float) b[k];
      }
      // The foot is seen from below, its ring against the border's direction.
      int j = n - 1 - i;
      ring[2 * j] = at[i][0];
      ring[2 * j + 1] = -at[i][1];
      numbers[j] = mesh.vertexCount() + i;
    }
    boolean isOutward = Triangulator.area(ring) > 0;
    if (isOutward && !HoleFill.simple(ring)) {
      throw Failure.cannot(CoreWords.of("put-on-base.overlaps"));
    }
    int[] cap = isOutward ? Triangulator.triangulate(List.of(ring), List.of(numbers)) : null;
    if (!isOutward) {
      throw Failure.cannot(CoreWords.of("put-on-base.inside-out"));
    }
    if (cap == null || cap.length != 3 * (n - 2)) {
      throw Failure.cannot(CoreWords.of("put-on-base.overlaps"));
    }
    int[] tri = new int[6 * n + cap.length];
    for (int i = 0; i < n; i++) {
      int a = rim[i];
      int b = rim[(i + 1) % n];
      int c = mesh.vertexCount() + i;
      int d = mesh.vertexCount() + (i + 1) % n;
      int[] two = {b, a, c, b, c, d};
      System.arraycopy(two, 0, tri, 6 * i, 6);
    }
    System.arraycopy(cap, 0, tri, 6 * n, cap.length);
    Mesh out = Patching.add(mesh, xyz, tri, work.part(0.5, CoreWords.of("work.filling-holes")));
    return Outcome.of(in.withScan(out), CoreWords.of("put-on-base.put", n, tri.length / 3));
  }
}
