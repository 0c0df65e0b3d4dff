package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Moves charts in the texture by hand, one edit after the other. Edits that find nothing to move
 * are left out, and it is said which.
 */
@Describes(
    id = "unwrap.arrange",
    title = "Arrange",
    help =
        "Moves, turns and scales charts in the texture by hand, and moves single points of their outlines and insides.",
    reads = {"cast", "frame"},
    writes = {"cast", "maps"})
public record ArrangeCharts(
    @Parameter(help = "What is done, one edit after the other") List<ChartEdit> edits)
    implements Step {

  public ArrangeCharts {
    if (edits == null || edits.isEmpty()) {
      throw Failure.usage(CoreWords.of("edit-mesh.no-edits"));
    }
    edits = List.copyOf(edits);
  }

  /** The same and one more. */
  public ArrangeCharts with(ChartEdit more) {
    List<ChartEdit> all = new ArrayList<>(edits);
    all.add(more);
    return new ArrangeCharts(all);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.of(in);
    MovedCharts moved =
        MovedCharts.of(cast, in.frame(), run.work().part(0.5, CoreWords.of("work.finding-charts")));
    List<String> notes = new ArrayList<>();
    int done = 0;
    for (int i = 0; i < edits.size(); i++) {
      run.work().check();
      if (moved.make(edits.get(i))) {
        done++;
      } else {
        notes.add(CoreWords.of("chart-edit.left-out", i + 1));
      }
    }
    if (done == 0) {
      throw Failure.cannot(notes.getFirst());
    }
    notes.addFirst(CoreWords.count("chart-edit.done", done));
    return new Outcome(in.withCast(cast.withUv(moved.uv())), notes, null, done);
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 60L * in.cast().triangleCount();
  }
}
