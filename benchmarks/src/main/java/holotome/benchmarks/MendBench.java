package holotome.benchmarks;

import holotome.core.frame.Frame;
import holotome.core.io.MeshReader;
import holotome.core.mend.FillHoles;
import holotome.core.mend.MakeSolid;
import holotome.core.mend.Survey;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.SolidProof;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Surveying, filling holes and making solids: seconds, and how near what was made is to what was
 * there.
 */
final class MendBench {
  private static final int HOLES = 312;

  private MendBench() {}

  static void run(int triangles) throws Exception {
    Table survey = new Table("survey of", "triangles", "takes, s");
    Mesh demo = Data.demo(triangles);
    survey.row(
        "demo",
        String.format("%,d", demo.triangleCount()),
        Timing.median(1, 3, () -> Survey.of(demo, Work.unwatched())));
    survey.print();
    Mesh dragon = Tidy.tidy(Data.dragon(), new ArrayList<>(), Work.unwatched());
    fill(dragon);
    Table solid =
        new Table(
            "solid of", "detail", "triangles", "takes, s", "made to scan, RMS %", "scan to made");
    solid(solid, "dragon", dragon, 300);
    solid(
        solid,
        "armadillo",
        MeshReader.read(cgal().resolve("armadillo.off"), Work.unwatched()).mesh(),
        100);
    solid.print();
  }

  /** Discs of a few rows of triangles are punched out and filled again. */
  private static void fill(Mesh dragon) throws Exception {
    VertexFans fans = VertexFans.of(dragon.vertexCount(), dragon.triangles(), Work.unwatched());
    BitSet gone = new BitSet(dragon.triangleCount());
    int step = dragon.vertexCount() / HOLES;
    for (int i = 0; i < HOLES; i++) {
      BitSet at = new BitSet();
      at.set(i * step + step / 2);
      for (int row = 0; row < 2; row++) {
        BitSet next = new BitSet();
        at.stream()
            .forEach(
                v -> {
                  for (int k = fans.start()[v]; k < fans.start()[v + 1]; k++) {
                    int t = fans.triangles()[k];
                    gone.set(t);
                    for (int c = 3 * t; c < 3 * t + 3; c++) {
                      next.set(dragon.triangles()[c]);
                    }
                  }
                });
        at = next;
      }
    }
    Mesh punched = Submesh.of(dragon, t -> !gone.get(t), Work.unwatched());
    Step how = new FillHoles(FillHoles.How.SMOOTH, null, false);
    Workpiece in = Workpiece.of(punched, Frame.PLAIN);
    Outcome out = how.apply(in, Run.unwatched());
    Mesh filled = out.work().scan();
    Mesh patches = Submesh.of(filled, t -> t >= punched.triangleCount(), Work.unwatched());
    Table table = new Table("fill", "holes", "triangles", "takes, s", "patch to surface, RMS %");
    table.row(
        "dragon, punched",
        String.valueOf(out.amount()),
        String.format("%,d", patches.triangleCount()),
        Timing.median(1, 3, () -> how.apply(in, Run.unwatched())),
        percent(patches, dragon));
    table.print();
  }

  private static String percent(Mesh from, Mesh to) {
    SurfaceDistance d = SurfaceDistance.of(from, to, 200_000, Work.unwatched());
    return String.format("%.4f", 100 * d.rms() / to.bounds().diagonal());
  }

  private static void solid(Table table, String name, Mesh mesh, int parts) throws Exception {
    Length detail = new Length(mesh.bounds().diagonal() / parts);
    Step step = new MakeSolid(MakeSolid.How.NEW, detail, null, null, MakeSolid.As.SCAN);
    Workpiece in = Workpiece.of(mesh, Frame.PLAIN);
    Mesh made = step.apply(in, Run.unwatched()).work().scan();
    table.row(
        name,
        "1/" + parts,
        String.format("%,d", made.triangleCount()),
        Timing.median(1, 3, () -> step.apply(in, Run.unwatched())),
        percent(made, mesh),
        percent(mesh, made));
  }

  private static Path cgal() {
    return Path.of(System.getProperty("holotome.datasets")).resolve("cgal");
  }

  /**
   * Every mesh of libcgal-demo, and the Stanford scans at every resolution they come in, made solid
   * both ways, each result proved again.
   */
  static void solids() throws Exception {
    System.out.println("| mesh | triangles | by itself | s | made anew | s |");
    System.out.println("|---|---:|---|---:|---|---:|");
    List<Path> files;
    try (var list = Files.list(cgal())) {
      files = new ArrayList<>(list.sorted().toList());
    }
    for (String scan :
        List.of(
            "bunny.obj", "dragon-res4.ply", "dragon-res3.ply", "dragon-res2.ply", "dragon.ply")) {
      files.add(Path.of(System.getProperty("holotome.datasets")).resolve(scan));
    }
    for (Path f : files) {
      Mesh mesh = MeshReader.read(f, Work.unwatched()).mesh();
      System.out.printf("| %s | %,d |", f.getFileName(), mesh.triangleCount());
      for (MakeSolid.How how : new MakeSolid.How[] {MakeSolid.How.AUTO, MakeSolid.How.NEW}) {
        long start = System.nanoTime();
        String said = one(mesh, how);
        System.out.printf(" %s | %.1f |", said, (System.nanoTime() - start) * 1e-9);
      }
      System.out.println();
    }
  }

  private static String one(Mesh mesh, MakeSolid.How how) {
    try {
      Mesh made =
          new MakeSolid(how, null, null, null, MakeSolid.As.SCAN)
              .apply(Workpiece.of(mesh, Frame.PLAIN), Run.unwatched())
              .work()
              .scan();
      SolidProof proof = SolidProof.of(made, Work.unwatched());
      if (!proof.holds()) {
        return "NOT PROVED: " + proof.problem();
      }
      double rms =
          SurfaceDistance.of(SurfaceDistance.distances(made.xyz(), Bvh.of(mesh), Work.unwatched()))
              .rms();
      return String.format(
          "%,d triangles, %.3f %%", made.triangleCount(), 100 * rms / mesh.bounds().diagonal());
    } catch (Failure e) {
      return "refused: " + e.getMessage();
    }
  }
}
