package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.spatial.UsualSize;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.LongLines;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** Makes the Cast of even triangles. */
@Describes(
    id = "reduce.remesh",
    title = "Even triangles",
    help = "Makes a mesh of the same shape from triangles with sides of about the same length.",
    reads = {"scan", "frame"},
    writes = {"scan", "cast", "maps", "stand-in"})
public record Remesh(
    @Parameter(
            help = "About how many triangles",
            oneOf = "how fine",
            min = 4,
            max = 5e8,
            optional = true)
        Integer triangles,
    @Parameter(help = "Or how long their sides", oneOf = "how fine", min = 0, optional = true)
        Length edge,
    @Parameter(
            help =
                "Or how far from the other any point of either surface may be; smaller where it is more curved",
            oneOf = "how fine",
            min = 0,
            optional = true)
        Length tolerance,
    @Parameter(
            help = "Whether all are the same size, or smaller where the surface is more curved",
            preset = "even")
        Sizes sizes,
    @Parameter(
            help = "Edges that turn by more than this stay lines",
            unit = "°",
            min = 5,
            max = 180,
            preset = "60")
        double sharp,
    @Parameter(
            help = "What becomes of the result: the Cast, a lighter Scan, or a stand-in beside it",
            preset = "cast")
        Role as)
    implements Step {
  /** More than this no mesh can have. */
  private static final double MOST = 5e8;

  /** How large the triangles are. */
  public enum Sizes {
    EVEN,
    CURVATURE
  }

  public Remesh {
    sizes = sizes == null ? Sizes.EVEN : sizes;
    int given = (triangles == null ? 0 : 1) + (edge == null ? 0 : 1) + (tolerance == null ? 0 : 1);
    if (given != 1) {
      throw Failure.usage(CoreWords.of("remesh.give-one-of"));
    }
  }

  @Override
  public Set<Part<?>> reads() {
    return triangles != null ? Set.of(Part.SCAN) : Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public Set<Part<?>> writes() {
    return as.writes();
  }

  @Override
  public long memory(Workpiece in) {
    double made =
        triangles != null ? triangles : edge != null ? count(in) : in.scan().triangleCount();
    return (long) (130.0 * (in.scan().triangleCount() + Math.min(MOST, made)));
  }

  /** How many triangles the length comes to: by the area, and of needles by how long they are. */
  private double count(Workpiece in) {
    double length = in.frame().toBaseLength(edge.metres());
    double even = Measures.area(in.scan()) / (length * length) * 4 / Math.sqrt(3);
    return Math.max(even, in.scan().bounds().diagonal() / length);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = in.scan();
    if (edge != null && !(count(in) <= MOST)) {
      throw Failure.cannot(CoreWords.of("remesh.too-many", edge));
    }
    Mesh plain = Lightened.colouredByVertex(scan);
    byte[] lines =
        Wedges.of(
                plain,
                false,
                !scan.hasTexture(),
                Math.cos(Math.toRadians(sharp)),
                run.work().part(0.05, CoreWords.of("work.finding-seams")))
            .lines();
    Mesh bare = new Mesh(plain.xyz(), plain.triangles());
    Mesh even = made(in, bare, lines, run.work().part(0.6, CoreWords.of("work.evening")));
    Mesh light =
        Lightened.carrying(
            plain.with(plain.attributes().without(Attribute.Kind.UV), plain.materials()),
            even,
            run.work().part(0.2, CoreWords.of("work.carrying-over")));
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("remesh.made", light.triangleCount(), scan.triangleCount()));
    notes.add(
        Lightened.deviation(
            light, scan, run.work().part(0.15, CoreWords.of("work.measuring-deviation"))));
    if (tolerance != null) {
      notes.add(CoreWords.of("decimate.proved", tolerance));
    }
    if (triangles != null && isFar(light.triangleCount(), triangles)) {
      notes.add(CoreWords.of("remesh.other-count", triangles));
    }
    return new Outcome(as.into(in, light), notes);
  }

  private static boolean isFar(int made, int wanted) {
    return 2L * made < wanted || made > 2L * wanted;
  }

  private Mesh made(Workpiece in, Mesh given, byte[] lines, Work work) {
    if (!(Measures.area(given) > 0)) {
      work.advance(1);
      return given;
    }
    UsualSize size = UsualSize.of(given);
    Mesh mesh = size.to(given);
    if (tolerance != null) {
      double far = size.to(in.frame().toBaseLength(tolerance.metres()));
      return size.back(CurvedRemeshing.within(mesh, far, lines, work));
    }
    double count = triangles != null ? triangles : count(in);
    double length = Remeshing.lengthFor(mesh, count);
    byte[] seen = LongLines.of(mesh, lines, Remeshing.SEEN * length);
    if (sizes == Sizes.CURVATURE) {
      return size.back(CurvedRemeshing.byCount(mesh, (int) count, seen, work));
    }
    Remeshing.Result made =
        triangles != null
            ? Remeshing.toCount(mesh, Remeshing.untouched(mesh, seen), count, null, work)
            : Remeshing.even(mesh, length, seen, work);
    return size.back(made.mesh());
  }
}
