package holotome.core.mend;

import holotome.core.attribute.Provenance;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Orientation;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Makes a mesh clean to work on, moving nothing.
 *
 * <p>In this order: vertices on exactly the same spot become one; triangles without area or with a
 * corner twice go in the same breath (welding alone would leave them as edges of too many
 * triangles); of triangles with the same corners one stays; triangles are turned to agree with
 * their neighbours; edges of more than two triangles and vertices where several fans meet are
 * parted ({@link FanSplit}); vertices nothing uses go.
 */
@Describes(
    id = "mend.tidy",
    title = "Tidy",
    help =
        "Welds doubled points, drops duplicate and degenerate triangles, parts non-manifold edges and vertices, makes triangles agree on their outside.")
public record Tidy() implements Step {

  @Override
  public Outcome apply(Workpiece in, Run run) {
    List<String> notes = new ArrayList<>();
    Mesh result = tidy(in.scan(), notes, run.work());
    return new Outcome(in.withScan(result), notes);
  }

  /** Tidies a mesh and adds what was done to the notes. */
  public static Mesh tidy(Mesh mesh, List<String> notes, Work work) {
    Mesh welded = weld(mesh, notes, work.part(0.25, CoreWords.of("work.welding")));
    Mesh clean = drop(welded, notes, work.part(0.25, CoreWords.of("work.dropping-triangles")));
    if (clean.isEmpty()) {
      throw Failure.cannot(CoreWords.of("tidy.every-triangle-is-degenerate-nothing"));
    }
    Mesh turned =
        Orientation.agree(clean, notes, work.part(0.2, CoreWords.of("work.turning-triangles")));
    Mesh split = FanSplit.split(turned, notes, work.part(0.2, CoreWords.of("work.parting-fans")));
    Mesh compact = compact(split, notes);
    work.advance(0.1);
    if (notes.isEmpty()) {
      notes.add(CoreWords.of("tidy.nothing-to-tidy"));
    }
    return compact;
  }

  private static Mesh weld(Mesh mesh, List<String> notes, Work work) {
    int[] first = PointWeld.representatives(mesh.xyz(), work);
    int doubled = 0;
    for (int v = 0; v < first.length; v++) {
      doubled += first[v] == v ? 0 : 1;
    }
    if (doubled == 0) {
      return mesh;
    }
    notes.add(CoreWords.count("tidy.doubled-points-welded", doubled));
    int[] tri = new int[mesh.triangles().length];
    for (int i = 0; i < tri.length; i++) {
      tri[i] = first[mesh.triangles()[i]];
    }
    return mesh.derive(stays(mesh).build(), new float[0], tri, Work.unwatched());
  }

  private static Provenance.Builder stays(Mesh mesh) {
    return Provenance.of(mesh.vertexCount(), mesh.triangleCount());
  }

  private static Mesh drop(Mesh mesh, List<String> notes, Work work) {
    boolean[] gone = Measures.withoutArea(mesh);
    int degenerate = count(gone);
    Degenerate.Unfolded turned = Degenerate.unfoldNeedles(mesh, gone);
    Mesh unfolded =
        turned.redrawn().size() == 0
            ? mesh
            : mesh.derive(
                stays(mesh).redrawn(turned.redrawn()).build(),
                new float[0],
                turned.triangles(),
                Work.unwatched());
    work.advance(0.4);
    Degenerate.markDuplicates(unfolded, gone);
    int duplicates = count(gone) - degenerate;
    if (degenerate > 0) {
      notes.add(CoreWords.count("tidy.degenerate-triangles-dropped", degenerate));
    }
    if (duplicates > 0) {
      notes.add(CoreWords.count("tidy.duplicate-triangles-dropped", duplicates));
    }
    return degenerate + duplicates == 0
        ? unfolded
        : Submesh.of(
            unfolded, t -> !gone[t], work.part(0.5, CoreWords.of("work.dropping-triangles")));
  }

  private static int count(boolean[] flags) {
    int n = 0;
    for (boolean f : flags) {
      n += f ? 1 : 0;
    }
    return n;
  }

  private static Mesh compact(Mesh mesh, List<String> notes) {
    Mesh used = Submesh.used(mesh);
    int unused = mesh.vertexCount() - used.vertexCount();
    if (unused > 0) {
      notes.add(CoreWords.count("tidy.unused-points-dropped", unused));
    }
    return used;
  }
}
