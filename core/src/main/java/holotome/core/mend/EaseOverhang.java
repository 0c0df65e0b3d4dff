package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/**
 * Moves what faces down in a selection up or down until it leans no farther from upright than
 * stated, so that it prints without supports. How much still leans farther, such as the ridge of a
 * vault, is measured and said.
 */
@Describes(
    id = "mend.overhang",
    title = "Ease overhangs",
    help =
        "Moves what faces down in the selection until it leans no farther from upright than stated: ceilings become vaults, noses and bellies slope to the wall below them.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record EaseOverhang(
    @Parameter(help = "What is selected, one pick after the other") List<Pick> picks,
    @Parameter(
            help = "How far from upright it may lean, in degrees",
            min = 10,
            max = 80,
            preset = "45")
        double angle)
    implements Step {
  /** What leans farther by less than so many degrees is not counted. */
  private static final double NEARLY = 0.5;

  private static final int OFTEN = (1 << 14) - 1;

  public EaseOverhang {
    picks = List.copyOf(picks);
    if (picks.isEmpty()) {
      throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return 60L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    BitSet set = Pick.all(picks, mesh, in.frame(), work.part(0.1, CoreWords.of("work.selecting")));
    VertexFans fans = VertexFans.of(mesh, work.part(0.3, CoreWords.of("work.finding-neighbours")));
    double[] up =
        Vec.unit(Vec.sub(in.frame().toBase(Vec.of(0, 0, 1)), in.frame().toBase(new double[3])));
    BitSet down = facingDown(mesh, fans, set, up, work);
    if (down.isEmpty()) {
      throw Failure.cannot(CoreWords.of("ease-overhang.nothing-faces-down"));
    }
    Work easing = work.part(0.5, CoreWords.of("ease-overhang.easing"));
    double[] heights = new Overhang(mesh, fans, down, up, Math.toRadians(angle)).heights(easing);
    float[] xyz = mesh.xyz().clone();
    int moved = 0;
    double most = 0;
    for (int v = 0; v < heights.length; v++) {
      double by = heights[v] - Vec.dot(Vec.at(mesh.xyz(), v), up);
      if (by != 0) {
        moved++;
        most = Math.max(most, Math.abs(by));
        for (int k = 0; k < 3; k++) {
          xyz[3 * v + k] = (float) (xyz[3 * v + k] + by * up[k]);
        }
      }
    }
    if (moved == 0) {
      throw Failure.cannot(CoreWords.of("ease-overhang.none-leans", degrees()));
    }
    Mesh out = TakeNoise.withNormals(mesh.withPositions(xyz));
    return new Outcome(
        in.withScan(out),
        List.of(
            CoreWords.of("pull-surface.pulled", moved, Length.inBase(most)),
            CoreWords.of(
                "ease-overhang.leaning",
                degrees(),
                100 * leaning(mesh, down, up),
                100 * leaning(out, down, up))));
  }

  private String degrees() {
    return angle == Math.rint(angle) ? String.valueOf((int) angle) : String.valueOf(angle);
  }

  /** Triangles of a selection that face down, by the mean of those around their corners. */
  private static BitSet facingDown(Mesh mesh, VertexFans fans, BitSet set, double[] up, Work work) {
    BitSet out = new BitSet();
    double[] n = new double[3];
    int count = 0;
    for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
      if ((count++ & OFTEN) == 0) {
        work.check();
      }
      double sum = 0;
      double all = 0;
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        int v = mesh.triangles()[c];
        for (int i = fans.start()[v]; i < fans.start()[v + 1]; i++) {
          if (set.get(fans.triangles()[i])) {
            Measures.cross(mesh.xyz(), mesh.triangles(), fans.triangles()[i], n);
            sum += Vec.dot(n, up);
            all += Vec.length(n);
          }
        }
      }
      out.set(t, sum < -0.05 * all);
    }
    return out;
  }

  /** The share of the area that leans farther than asked. */
  private double leaning(Mesh mesh, BitSet triangles, double[] up) {
    double limit = Math.sin(Math.toRadians(angle + NEARLY));
    double[] n = new double[3];
    double all = 0;
    double leaning = 0;
    for (int t = triangles.nextSetBit(0); t >= 0; t = triangles.nextSetBit(t + 1)) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
      double area = Vec.length(n);
      all += area;
      leaning += -Vec.dot(n, up) > limit * area ? area : 0;
    }
    return all > 0 ? leaning / all : 0;
  }
}
