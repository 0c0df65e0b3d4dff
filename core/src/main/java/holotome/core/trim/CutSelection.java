package holotome.core.trim;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import java.util.BitSet;

/** Removes or keeps the triangles inside a fence, or of a stored selection. */
@Describes(
    id = "trim.select",
    title = "Lasso",
    help =
        "Removes what is selected, or all else; by a fence, which fits any scan, or triangle by triangle.")
public record CutSelection(
    @Parameter(
            help = "An outline that reaches through the mesh along the line of sight",
            optional = true)
        Fence fence,
    @Parameter(
            help = "A set of triangles of this very mesh, as the window stores it",
            optional = true)
        String stored,
    @Parameter(help = "What happens to the selection", preset = "remove") Then then)
    implements Step {

  /** What happens to the selected triangles. */
  public enum Then {
    REMOVE,
    KEEP
  }

  public CutSelection {
    if ((fence == null) == (stored == null)) {
      throw Failure.usage("give either a fence or a stored selection");
    }
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    BitSet selected =
        fence != null
            ? fence.select(mesh, in.frame(), run.work().part(0.5, "Selecting"))
            : StoredSelection.decode(stored, mesh.triangleCount());
    boolean keep = then == Then.KEEP;
    int left = keep ? selected.cardinality() : mesh.triangleCount() - selected.cardinality();
    if (left == 0) {
      throw Failure.cannot("Nothing would be left; select less");
    }
    Mesh result = Submesh.of(mesh, t -> selected.get(t) == keep, run.work().part(0.5, "Removing"));
    return Outcome.of(
        in.withScan(result),
        String.format("%,d triangles removed", mesh.triangleCount() - result.triangleCount()));
  }
}
