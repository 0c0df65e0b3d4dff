package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/** Lays spikes and folds down: their vertices go to the mean of their neighbours. */
@Describes(
    id = "mend.spikes",
    title = "Spikes",
    help =
        "Lays down points that stand out like spikes, and triangles folded onto their neighbours; what is sound does not move.")
public record TakeSpikes(
    @Parameter(
            help = "How many times higher than wide a point must stand out",
            min = 0.5,
            max = 20,
            preset = "1.5")
        double sharp)
    implements Step {
  /** Long spikes come down ring by ring. */
  private static final int ROUNDS = 40;

  @Override
  public long memory(Workpiece in) {
    return 60L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    VertexFans fans = VertexFans.of(mesh, work.part(0.1, CoreWords.of("work.finding-neighbours")));
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.2, CoreWords.of("work.finding-neighbours")));
    float[] now = mesh.xyz().clone();
    BitSet moved = new BitSet();
    int tips = 0;
    int folds = 0;
    BitSet ask = null;
    for (int round = 0; round < ROUNDS; round++) {
      work.check();
      Work part = work.part(round == 0 ? 0.4 : 0.2 / ROUNDS, CoreWords.of("work.finding-spikes"));
      BitSet move =
          Spikes.tips(now, mesh.triangles(), fans, sharp, ask, part.part(0.5, part.label()));
      BitSet folded =
          ask == null
              ? Spikes.folds(mesh, adjacency, part.part(0.5, part.label()))
              : Spikes.folds(now, adjacency, fans, ask);
      tips = round == 0 ? move.cardinality() : tips;
      folds = round == 0 ? folded.cardinality() : folds;
      for (int h = folded.nextSetBit(0); h >= 0; h = folded.nextSetBit(h + 1)) {
        move.set(mesh.triangles()[h]);
        move.set(mesh.triangles()[Adjacency.next(h)]);
        move.set(mesh.triangles()[Adjacency.previous(h)]);
        move.set(mesh.triangles()[Adjacency.previous(adjacency.twin()[h])]);
      }
      if (move.isEmpty()) {
        break;
      }
      now = laidDown(mesh, fans, now, move);
      moved.or(move);
      // Only what is beside what moved can have become a spike or a fold.
      ask = fans.near(move.stream().toArray(), 1, mesh.triangles());
    }
    if (moved.isEmpty()) {
      return Outcome.of(in, CoreWords.of("take-spikes.none"));
    }
    return new Outcome(
        in.withScan(TakeNoise.withNormals(mesh.withPositions(now))),
        List.of(CoreWords.of("take-spikes.laid-down", tips, folds, moved.cardinality())),
        null,
        tips + folds);
  }

  private static float[] laidDown(Mesh mesh, VertexFans fans, float[] p, BitSet move) {
    float[] out = p.clone();
    double[] sum = new double[3];
    for (int v = move.nextSetBit(0); v >= 0; v = move.nextSetBit(v + 1)) {
      int n = fans.around(v, mesh.triangles(), p, sum);
      for (int k = 0; k < 3; k++) {
        out[3 * v + k] = (float) (sum[k] / n);
      }
    }
    return out;
  }
}
