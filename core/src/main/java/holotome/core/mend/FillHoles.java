package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.unit.Length;
import java.util.Arrays;
import java.util.Set;

/** Fills the holes of the Scan. */
@Describes(
    id = "mend.fill",
    title = "Fill holes",
    help =
        "Closes open borders: flat with few triangles, or smooth, continuing the surface around the hole.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record FillHoles(
    @Parameter(
            help = "Flat, or smooth: with triangles like those around it, continuing the surface",
            preset = "smooth")
        How how,
    @Parameter(help = "Only holes whose border is no longer than this", min = 0, optional = true)
        Length upTo,
    @Parameter(
            help = "Leave the longest border open, such as where the ground was cut away",
            preset = "false")
        boolean keepLongest)
    implements Step {

  /** How a hole is filled. */
  public enum How {
    FLAT,
    SMOOTH
  }

  @Override
  public Set<Part<?>> reads() {
    return upTo == null ? Set.of(Part.SCAN) : Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    Adjacency adjacency = Adjacency.of(mesh, work.part(0.2, "Finding holes"));
    int[][] loops = Borders.of(adjacency).loops();
    double limit = upTo == null ? Double.POSITIVE_INFINITY : in.frame().toBaseLength(upTo.metres());
    float[] xyz = new float[0];
    int[] triangles = new int[0];
    int filled = 0;
    int failed = 0;
    int left = 0;
    double longest = longest(mesh, loops);
    double share = 0.7 / Math.max(1, loops.length);
    for (int[] loop : loops) {
      double length = Borders.perimeter(mesh, loop);
      if (length > limit || keepLongest && length == longest) {
        left++;
        continue;
      }
      HoleFill fill =
          HoleFill.of(mesh, adjacency, loop, how == How.SMOOTH, work.part(share, "Filling holes"));
      if (fill == null) {
        failed++;
        continue;
      }
      int base = mesh.vertexCount() + xyz.length / 3;
      int[] t = fill.triangles().clone();
      for (int i = 0; i < t.length; i++) {
        if (t[i] >= mesh.vertexCount()) {
          t[i] += base - mesh.vertexCount();
        }
      }
      xyz = append(xyz, fill.xyz());
      triangles = append(triangles, t);
      filled++;
    }
    Mesh result = Patching.add(mesh, xyz, triangles, work.part(0.1, "Filling holes"));
    String note =
        String.format("%,d holes filled with %,d triangles", filled, triangles.length / 3);
    if (left > 0) {
      note += String.format("; %,d longer ones left open", left);
    }
    if (failed > 0) {
      note += String.format("; %,d could not be filled: their border crosses itself", failed);
    }
    return Outcome.of(in.withScan(result), note);
  }

  private static double longest(Mesh mesh, int[][] loops) {
    double most = -1;
    for (int[] l : loops) {
      most = Math.max(most, Borders.perimeter(mesh, l));
    }
    return most;
  }

  private static float[] append(float[] a, float[] b) {
    float[] out = Arrays.copyOf(a, a.length + b.length);
    System.arraycopy(b, 0, out, a.length, b.length);
    return out;
  }

  private static int[] append(int[] a, int[] b) {
    int[] out = Arrays.copyOf(a, a.length + b.length);
    System.arraycopy(b, 0, out, a.length, b.length);
    return out;
  }
}
