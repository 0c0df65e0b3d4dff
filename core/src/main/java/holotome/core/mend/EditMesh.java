package holotome.core.mend;

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
import java.util.Arrays;
import java.util.List;

/**
 * Changes points, edges and triangles by hand, one edit after the other. Edits that cannot be done
 * are left out, and it is said which and why.
 */
@Describes(
    id = "mend.edit",
    title = "Edit",
    help =
        "Changes single points, edges and triangles by hand: moved, deleted, added, turned, collapsed, split, and rims snapped together.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record EditMesh(@Parameter(help = "What is done, one edit after the other") List<Edit> edits)
    implements Step {
  /** So many edits that could not be done are told one by one, the last ones. */
  private static final int TOLD = 5;

  public EditMesh {
    if (edits == null || edits.isEmpty()) {
      throw Failure.usage(CoreWords.of("edit-mesh.no-edits"));
    }
    edits = List.copyOf(edits);
  }

  /** The same and more. */
  public EditMesh with(List<Edit> more) {
    List<Edit> all = new ArrayList<>(edits);
    all.addAll(more);
    return new EditMesh(all);
  }

  @Override
  public long memory(Workpiece in) {
    return 45L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    List<double[]> at = new ArrayList<>();
    List<double[]> to = new ArrayList<>();
    int n = 0;
    for (Edit e : edits) {
      at.add(base(in, e.at()));
      to.add(e.to() == null ? null : base(in, e.to()));
      n += e.at().length + (e.to() == null ? 0 : e.to().length);
    }
    double[] places = new double[n];
    n = 0;
    for (int i = 0; i < at.size(); i++) {
      for (double[] p : new double[][] {at.get(i), to.get(i)}) {
        if (p != null) {
          System.arraycopy(p, 0, places, n, p.length);
          n += p.length;
        }
      }
    }
    Neighbourhood around =
        Neighbourhood.of(
            mesh, places, run.work().part(0.4, CoreWords.of("work.finding-neighbours")));
    HandEdits hand = new HandEdits(around);
    List<String> notes = new ArrayList<>();
    int done = 0;
    for (int i = 0; i < edits.size(); i++) {
      run.work().check();
      Edit e = edits.get(i);
      String why = hand.run(e.how(), at.get(i), to.get(i), e.by() == null ? null : way(in, e));
      if (why == null) {
        done++;
      } else {
        notes.add(CoreWords.of("edit-mesh.left-out", i + 1, why));
      }
    }
    if (done == 0) {
      throw Failure.cannot(notes.getFirst());
    }
    if (notes.size() > TOLD) {
      int more = notes.size() - TOLD;
      notes.subList(0, more).clear();
      notes.addFirst(CoreWords.count("edit-mesh.more-left-out", more));
    }
    notes.addFirst(CoreWords.count("edit-mesh.done", done));
    Mesh made = around.done(run.work().part(0.6, CoreWords.of("work.carrying-over")));
    if (made.isEmpty()) {
      throw Failure.cannot(CoreWords.of("edit-mesh.nothing-left"));
    }
    return new Outcome(in.withScan(TakeNoise.withNormals(made)), notes, null, done);
  }

  private static double[] base(Workpiece in, double[] points) {
    double[] out = new double[points.length];
    for (int i = 0; i < out.length; i += 3) {
      double[] p = in.frame().toBase(Arrays.copyOfRange(points, i, i + 3));
      System.arraycopy(p, 0, out, i, 3);
    }
    return out;
  }

  private static double[] way(Workpiece in, Edit e) {
    double[] from = Arrays.copyOf(e.at(), 3);
    double[] until = {from[0] + e.by()[0], from[1] + e.by()[1], from[2] + e.by()[2]};
    double[] a = in.frame().toBase(from);
    double[] b = in.frame().toBase(until);
    return new double[] {b[0] - a[0], b[1] - a[1], b[2] - a[2]};
  }
}
