package holotome.core.mend;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.select.SoftSelection;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Set;

/** Takes the noise of the capture off the surface. */
@Describes(
    id = "mend.noise",
    title = "Noise",
    help =
        "Takes the capture's noise off: leaving sharp edges sharp, or smoothing everything alike without shrinking it.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record TakeNoise(
    @Parameter(help = "Leave sharp edges sharp, or smooth everything alike", preset = "edges-kept")
        How how,
    @Parameter(
            help =
                "How strong the noise is (one standard deviation): what is finer goes; measured on the scan where left out",
            min = 0,
            when = "how=edges-kept",
            optional = true)
        Length strength,
    @Parameter(
            help = "So many rounds of smoothing",
            min = 1,
            max = 200,
            preset = "10",
            when = "how=plain")
        int rounds,
    @Parameter(
            help = "What is selected, one pick after the other; else everywhere",
            optional = true)
        List<Pick> picks,
    @Parameter(
            help = "How far inwards from the selection's rim it comes in gradually",
            min = 0,
            preset = "0 mm")
        Length soft)
    implements Step {

  /** In which way. */
  public enum How {
    EDGES_KEPT,
    PLAIN
  }

  public TakeNoise {
    if (picks != null) {
      picks = List.copyOf(picks);
      if (picks.isEmpty()) {
        throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
      }
    }
  }

  @Override
  public Set<Part<?>> reads() {
    return Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public long memory(Workpiece in) {
    return 76L * in.scan().triangleCount() + 60L * in.scan().vertexCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    VertexFans fans = VertexFans.of(mesh, work.part(0.1, CoreWords.of("work.finding-neighbours")));
    float[] weight = picks == null ? null : weights(in, fans, work);
    List<String> notes = new ArrayList<>();
    float[] moved =
        how == How.PLAIN
            ? plain(mesh, fans, weight, work.part(0.7, CoreWords.of("work.smoothing")))
            : kept(in, fans, weight, notes, work);
    if (weight != null) {
      blend(mesh.xyz(), moved, weight);
    }
    Mesh result = withNormals(mesh.withPositions(moved));
    notes.add(0, change(mesh.xyz(), moved));
    return new Outcome(in.withScan(result), notes);
  }

  private float[] weights(Workpiece in, VertexFans fans, Work work) {
    BitSet set =
        Pick.all(picks, in.scan(), in.frame(), work.part(0.05, CoreWords.of("work.selecting")));
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("take-noise.nothing-is-selected"));
    }
    return SoftSelection.weights(
        in.scan(),
        fans,
        set,
        in.frame().toBaseLength(soft.metres()),
        work.part(0.05, CoreWords.of("work.selecting")));
  }

  private float[] kept(
      Workpiece in, VertexFans fans, float[] weight, List<String> notes, Work work) {
    Mesh mesh = in.scan();
    double noise =
        strength != null ? in.frame().toBaseLength(strength.metres()) : NoiseLevel.of(mesh, fans);
    work.advance(0.05);
    if (strength == null) {
      notes.add(CoreWords.of("take-noise.measured", Length.inBase(noise)));
    }
    if (!(noise > 0)) {
      return mesh.xyz().clone();
    }
    return NormalFilter.run(
        mesh.xyz(),
        mesh.triangles(),
        fans,
        weight,
        noise,
        work.part(0.7, CoreWords.of("work.smoothing")));
  }

  private float[] plain(Mesh mesh, VertexFans fans, float[] weight, Work work) {
    boolean[] moves = new boolean[mesh.vertexCount()];
    for (int v = 0; v < moves.length; v++) {
      moves[v] = weight == null || weight[v] > 0;
    }
    int[] twin = Adjacency.of(mesh, work.part(0.2, CoreWords.of("work.finding-neighbours"))).twin();
    for (int h = 0; h < twin.length; h++) {
      if (twin[h] < 0) {
        moves[mesh.triangles()[h]] = false;
        moves[mesh.triangles()[Adjacency.next(h)]] = false;
      }
    }
    return PlainSmoothing.run(
        mesh.xyz(),
        mesh.triangles(),
        fans,
        moves,
        rounds,
        work.part(0.8, CoreWords.of("work.smoothing")));
  }

  /** Goes only as far as each vertex's weight says. */
  private static void blend(float[] before, float[] after, float[] weight) {
    for (int i = 0; i < after.length; i++) {
      after[i] = before[i] + weight[i / 3] * (after[i] - before[i]);
    }
  }

  /** Normals that the vertices carry are those of the surface as it was: they are made anew. */
  static Mesh withNormals(Mesh moved) {
    Attribute had = moved.attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.VERTEX);
    return had == null
        ? moved
        : moved.with(
            Attribute.of(
                had.name(),
                Attribute.Kind.NORMAL,
                Attribute.Domain.VERTEX,
                Measures.vertexNormals(moved),
                null));
  }

  private static String change(float[] before, float[] after) {
    double sum = 0;
    double most = 0;
    for (int i = 0; i < before.length; i += 3) {
      double x = after[i] - before[i];
      double y = after[i + 1] - before[i + 1];
      double z = after[i + 2] - before[i + 2];
      double d = x * x + y * y + z * z;
      sum += d;
      most = Math.max(most, d);
    }
    double rms = before.length == 0 ? 0 : Math.sqrt(sum / (before.length / 3));
    return CoreWords.of("take-noise.moved", Length.inBase(rms), Length.inBase(Math.sqrt(most)));
  }
}
