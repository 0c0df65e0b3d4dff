package holotome.benchmarks;

import holotome.core.task.Failure;
import java.util.Arrays;
import java.util.List;

/** Runs a benchmark by name. */
public final class Main {
  private Main() {}

  public static void main(String[] arguments) throws Exception {
    List<String> rest =
        Arrays.asList(arguments).subList(Math.min(1, arguments.length), arguments.length);
    try {
      switch (arguments.length == 0 ? "" : arguments[0]) {
        case "read" -> ReadBench.run();
        case "decimate" -> DecimateBench.run();
        case "remesh" -> RemeshBench.run(rest);
        case "unwrap" -> UnwrapBench.run(rest);
        case "bake" -> BakeBench.run(rest);
        case "touch" -> TouchBench.run(rest);
        case "planes" ->
            PlanesBench.run(rest.isEmpty() ? 10_000_000 : Integer.parseInt(rest.getFirst()));
        case "swatch" ->
            SwatchBench.run(rest.isEmpty() ? 10_000_000 : Integer.parseInt(rest.getFirst()));
        case "quads" -> {
          if (rest.contains("meshes")) {
            QuadsBench.meshes();
          } else {
            QuadsBench.run();
          }
        }
        case "deviation" -> DeviationBench.run();
        case "rays" -> RaysBench.run();
        case "view" -> ViewBench.run();
        case "datum" -> DatumBench.run();
        case "job" -> JobBench.run(rest);
        case "cancel" -> {
          if (rest.contains("maps")) {
            CancelBench.maps(rest.size() > 1 ? Integer.parseInt(rest.getLast()) : 4096);
          } else {
            CancelBench.run(rest.isEmpty() ? 1_200_000 : Integer.parseInt(rest.getFirst()));
          }
        }
        case "revise" ->
            ReviseBench.run(rest.isEmpty() ? 1_200_000 : Integer.parseInt(rest.getFirst()));
        case "mend" -> {
          if (rest.contains("solids")) {
            MendBench.solids();
          } else {
            MendBench.run(rest.isEmpty() ? 1_200_000 : Integer.parseInt(rest.getFirst()));
          }
        }
        default -> {
          System.err.println(
              "bench: name one of read, decimate, remesh, deviation, rays, view, datum, job, unwrap, bake, touch, swatch, planes, quads, cancel, revise, mend (the last eight but touch and quads take triangle counts; mend solids and quads meshes go through all meshes)");
          System.exit(2);
        }
      }
    } catch (Failure f) {
      System.err.println("bench: " + f.getMessage());
      System.exit(f.kind().exitCode());
    }
  }
}
