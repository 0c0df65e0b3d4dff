package holotome.core.proxy;

import holotome.core.mesh.Places;
import holotome.core.part.Workpiece;
import holotome.core.polygon.FaceLists;
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
 * Changes points, edges and faces of the Cast by hand, one edit after the other. Edits that find
 * nothing, or after which the surface would not be sound, are left out, and it is said which.
 */
@Describes(
    id = "proxy.edit",
    title = "Edit",
    help =
        "Moves points, edges and faces of the Cast by hand, pulls faces out, divides and joins them.",
    reads = {"cast", "frame"},
    writes = {"cast", "maps"})
public record EditProxy(
    @Parameter(help = "What is done, one edit after the other") List<ProxyEdit> edits)
    implements Step {
  /** Larger ones are not edited by hand. */
  public static final int MOST = 200_000;

  private static final FaceLists NOTHING = new FaceLists(new double[0], new int[0][]);

  public EditProxy {
    if (edits == null || edits.isEmpty()) {
      throw Failure.usage(CoreWords.of("edit-mesh.no-edits"));
    }
    edits = List.copyOf(edits);
  }

  /** The same and one more. */
  public EditProxy with(ProxyEdit more) {
    List<ProxyEdit> all = new ArrayList<>(edits);
    all.add(more);
    return new EditProxy(all);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    boolean isNew = in.cast() == null || in.cast().isEmpty();
    if (isNew && edits.getFirst().how() != ProxyEdit.How.STRIP) {
      throw Failure.cannot(CoreWords.of("proxy-settle.no-cast"));
    }
    if (!isNew && in.cast().triangleCount() > MOST) {
      throw Failure.cannot(CoreWords.of("proxy-edit.too-large", in.cast().triangleCount(), MOST));
    }
    if (!isNew) {
      Places.checkCast(in.cast());
    }
    EditedProxy edited = new EditedProxy(isNew ? NOTHING : FaceLists.of(in.cast()), in.frame());
    List<String> notes = new ArrayList<>();
    int done = 0;
    for (int i = 0; i < edits.size(); i++) {
      run.work().check();
      try {
        edited.make(edits.get(i));
        done++;
      } catch (Failure f) {
        notes.add(CoreWords.of("proxy-edit.left-out", i + 1, f.getMessage()));
      }
      run.work().advance(1.0 / edits.size());
    }
    if (done == 0) {
      throw Failure.cannot(notes.getFirst());
    }
    FaceLists now = edited.now();
    notes.addFirst(CoreWords.of("block.made", now.faces().length, now.vertexCount()));
    notes.addFirst(CoreWords.count("proxy-edit.done", done));
    if (!isNew && in.cast().uv() != null) {
      notes.add(CoreWords.of("proxy-edit.charts-gone"));
    }
    return new Outcome(in.withCast(now.mesh()), notes, null, done);
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 2000L * Math.min(MOST, in.cast().triangleCount());
  }
}
