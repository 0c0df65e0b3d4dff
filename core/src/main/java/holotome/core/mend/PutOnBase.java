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

/**
 * Puts an open bust on a base: a wall from its longest border straight down, further ones farther
 * out, and a flat foot. The border may be ragged, as long as it does not lie over itself seen from
 * below.
 */
@Describes(
    id = "mend.base",
    title = "Base",
    help =
        "Puts an open scan on a base: a wall straight down from its longest border, more walls with ledges between them where asked, closed by a flat foot.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record PutOnBase(
    @Parameter(
            help = "How far below the lowest point of the border the foot lies",
            min = 0,
            preset = "10 mm")
        Length height,
    @Parameter(help = "How many walls it has, one below the other", min = 1, max = 8, preset = "1")
        int steps,
    @Parameter(
            help =
                "How far each wall stands out from the one above it, round about the border's outline",
            min = 0,
            preset = "5 mm")
        Length ledge)
    implements Step {

  /** Flat, straight down. */
  public PutOnBase(Length height) {
    this(height, 1, new Length(0.005));
  }

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
    double least = 1e-6 * in.frame().workBounds(mesh).diagonal();
    double foot = lowest - Math.max(height.metres(), least * steps);
    double[] ring = new double[2 * n];
    double[] points = new double[3 * n];
    for (int i = 0; i < n; i++) {
      ring[2 * i] = at[i][0];
      ring[2 * i + 1] = at[i][1];
      System.arraycopy(at[i], 0, points, 3 * i, 3);
    }
    if (!(Triangulator.area(ring) > 0)) {
      throw Failure.cannot(CoreWords.of("put-on-base.inside-out"));
    }
    Plinth plinth =
        HoleFill.simple(ring)
            ? Plinth.of(points, lowest, foot, steps, Math.max(ledge.metres(), least))
            : null;
    if (plinth == null) {
      throw Failure.cannot(CoreWords.of("put-on-base.overlaps"));
    }
    double[] below = plinth.added(n);
    float[] xyz = new float[below.length];
    for (int i = 0; i < below.length; i += 3) {
      double[] b = in.frame().toBase(Vec.of(below[i], below[i + 1], below[i + 2]));
      for (int k = 0; k < 3; k++) {
        xyz[i + k] = (float) b[k];
      }
    }
    int[] tri = plinth.triangles();
    for (int c = 0; c < tri.length; c++) {
      tri[c] = tri[c] < n ? rim[tri[c]] : mesh.vertexCount() + tri[c] - n;
    }
    Mesh out = Patching.add(mesh, xyz, tri, work.part(0.5, CoreWords.of("work.filling-holes")));
    return Outcome.of(in.withScan(out), CoreWords.of("put-on-base.put", n, tri.length / 3));
  }
}
