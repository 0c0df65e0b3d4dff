package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;

/** Turns every triangle over, so that its back becomes its front. */
@Describes(
    id = "mend.flip",
    title = "Turn over",
    help = "Turns all triangles over: what was the inside becomes the outside.")
public record TurnOver() implements Step {

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Uv uv = mesh.uv() == null ? null : new Uv(mesh.uv().coords(), turned(mesh.uv().corners()));
    Mesh result =
        new Mesh(
            mesh.xyz(),
            turned(mesh.triangles()),
            mesh.colours(),
            uv,
            mesh.material(),
            mesh.materials());
    run.work().advance(1);
    return Outcome.of(
        in.withScan(result), String.format("%,d triangles turned over", mesh.triangleCount()));
  }

  private static int[] turned(int[] corners) {
    int[] out = new int[corners.length];
    for (int i = 0; i < out.length; i += 3) {
      out[i] = corners[i];
      out[i + 1] = corners[i + 2];
      out[i + 2] = corners[i + 1];
    }
    return out;
  }
}
