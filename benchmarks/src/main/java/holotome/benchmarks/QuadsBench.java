package holotome.benchmarks;

import holotome.core.frame.Frame;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.reduce.MakeQuads;
import holotome.core.reduce.Role;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;

/** Quads of the Stanford scans and the demo; and of all closed meshes of Debian's libcgal-demo. */
final class QuadsBench {
  private static final int SAMPLES = 60_000;

  private QuadsBench() {}

  /** Times them. */
  static void run() {
    Table table = new Table("mesh", "triangles", "quads", "s", "RMS, sides", "what it said");
    row(table, "dragon", Data.dragon(), 10_000);
    row(table, "dragon", Data.dragon(), 10_000);
    row(table, "dragon", Data.dragon(), 40_000);
    row(table, "dragon", Data.dragon(), 160_000);
    for (int millions : new int[] {1, 10}) {
      row(table, "demo", Data.demo(millions * 1_000_000), 10_000);
    }
    table.print();
  }

  private static void row(Table table, String name, Mesh mesh, int quads) {
    long begun = System.nanoTime();
    Outcome out =
        new MakeQuads(quads, null, null, 45, null, null, Role.CAST)
            .apply(Workpiece.of(mesh, Frame.PLAIN), Run.unwatched());
    double seconds = (System.nanoTime() - begun) / 1e9;
    table.row(
        name,
        mesh.triangleCount(),
        quads,
        seconds,
        off(mesh, out.work().cast(), quads),
        String.join("; ", out.notes()));
  }

  /** How far a surface and quads on it are from one another, in sides. */
  private static double off(Mesh mesh, Mesh cast, int quads) {
    SurfaceDistance there = SurfaceDistance.of(mesh, cast, SAMPLES, Work.unwatched());
    SurfaceDistance back = SurfaceDistance.of(cast, mesh, SAMPLES, Work.unwatched());
    return there.worse(back).rms() / Math.sqrt(Measures.area(mesh) / quads);
  }

  /** All closed meshes, 4,000 quads each. */
  static void meshes() throws IOException {
    Table table = new Table("mesh", "triangles", "s", "RMS, sides", "sound", "what it said");
    List<Path> files;
    try (Stream<Path> all = Files.list(Path.of(System.getProperty("holotome.datasets"), "cgal"))) {
      files = all.filter(p -> p.toString().endsWith(".off")).sorted().toList();
    }
    for (Path p : files) {
      try {
        Mesh mesh = MeshReader.read(p, Work.unwatched()).mesh();
        Adjacency given = Adjacency.of(mesh);
        boolean isClosed =
            given.borderEdges() + given.crowdedEdges() + given.misfitEdges() == 0
                && mesh.triangleCount() > 0;
        if (!isClosed) {
          continue;
        }
        long begun = System.nanoTime();
        Outcome out =
            new MakeQuads(4000, null, null, 45, null, null, Role.CAST)
                .apply(Workpiece.of(mesh, Frame.PLAIN), Run.unwatched());
        double seconds = (System.nanoTime() - begun) / 1e9;
        Mesh cast = out.work().cast();
        Adjacency a = Adjacency.of(cast);
        table.row(
            p.getFileName().toString(),
            mesh.triangleCount(),
            seconds,
            off(mesh, cast, 4000),
            a.borderEdges() + a.crowdedEdges() + a.misfitEdges() == 0 ? "closed" : "open",
            String.join("; ", out.notes()));
      } catch (Failure f) {
        table.row(p.getFileName().toString(), "", "", "", "", f.getMessage());
      }
    }
    table.print();
  }
}
