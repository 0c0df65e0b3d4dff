package holotome.core.reduce;

import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** Makes the Cast: fewer triangles, the same shape. */
@Describes(
    id = "reduce.decimate",
    title = "Decimate",
    help = "Makes a lighter mesh of the same shape by collapsing the edges that matter least.",
    reads = {"scan", "frame"},
    writes = {"scan", "cast", "maps", "stand-in"})
public record Decimate(
    @Parameter(
            help = "How many triangles to keep",
            oneOf = "how much",
            min = 4,
            max = 2e9,
            optional = true)
        Integer triangles,
    @Parameter(
            help = "Or how many of a hundred",
            oneOf = "how much",
            unit = "%",
            min = 0.0001,
            max = 100,
            optional = true)
        Double percent,
    @Parameter(
            help =
                "Or how far from the other any point of either surface may be; it is measured and proved",
            oneOf = "how much",
            min = 0,
            optional = true)
        Length tolerance,
    @Parameter(
            help = "What becomes of the result: the Cast, a lighter Scan, or a stand-in beside it",
            preset = "cast")
        Role as,
    @Parameter(
            help =
                "What becomes of texture coordinates: colours at the vertices, or kept, with their seams",
            preset = "colours")
        Texture texture,
    @Parameter(
            help = "Edges that turn by more than this stay lines",
            unit = "°",
            min = 5,
            max = 180,
            optional = true)
        Double sharp,
    @Parameter(
            help = "Whether what would come to cut through itself is made anew until it does not",
            preset = "avoid")
        Crossings crossings)
    implements Step {

  /** What becomes of texture coordinates. */
  public enum Texture {
    COLOURS,
    KEEP
  }

  /** What becomes of places where the light mesh would cut through itself. */
  public enum Crossings {
    AVOID,
    LEAVE
  }

  /** Decimates with texture coordinates turned to colours, and no edges held. */
  public Decimate(Integer triangles, Double percent, Length tolerance, Role as) {
    this(triangles, percent, tolerance, as, Texture.COLOURS, null, Crossings.AVOID);
  }

  public Decimate {
    texture = texture == null ? Texture.COLOURS : texture;
    crossings = crossings == null ? Crossings.AVOID : crossings;
    int given =
        (triangles == null ? 0 : 1) + (percent == null ? 0 : 1) + (tolerance == null ? 0 : 1);
    if (given != 1) {
      throw Failure.usage(CoreWords.of("decimate.give-one-of-triangles-percent"));
    }
  }

  @Override
  public Set<Part<?>> reads() {
    return tolerance == null ? Set.of(Part.SCAN) : Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public Set<Part<?>> writes() {
    return as.writes();
  }

  @Override
  public long memory(Workpiece in) {
    return (tolerance == null ? 90L : 220L) * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = in.scan();
    int target =
        triangles != null
            ? triangles
            : percent != null
                ? (int) Math.max(4, Math.rint(scan.triangleCount() * percent / 100))
                : 0;
    boolean keeps = texture == Texture.KEEP;
    Mesh plain = keeps ? scan : Lightened.colouredByVertex(scan);
    // Pictures that are turned to colours leave no borders between them.
    boolean hasBorders = keeps || !scan.hasTexture();
    double cosine = sharp == null ? -1 : Math.cos(Math.toRadians(sharp));
    Wedges wedges =
        Wedges.of(
            plain,
            keeps,
            hasBorders,
            cosine,
            run.work().part(0.05, CoreWords.of("work.finding-seams")));
    Work work = run.work().part(0.8, CoreWords.of("work.decimating"));
    boolean isTooMany = plain.triangleCount() > Uncrossed.MOST_TRIED;
    boolean avoids = crossings == Crossings.AVOID && !isTooMany;
    Mesh light;
    int cutting = 0;
    if (tolerance != null) {
      double far = in.frame().toBaseLength(tolerance.metres());
      light = Tolerance.within(plain, far, wedges, avoids, work);
    } else if (avoids && plain.triangleCount() > target) {
      Uncrossed.Result made = Uncrossed.decimate(plain, target, wedges, work);
      light = made.light().mesh();
      cutting = made.crossing();
    } else {
      light = Decimation.run(plain, target, wedges, work);
    }
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("decimate.kept", light.triangleCount(), scan.triangleCount()));
    notes.add(
        Lightened.deviation(
            light, scan, run.work().part(0.15, CoreWords.of("work.measuring-deviation"))));
    if (tolerance != null) {
      notes.add(CoreWords.of("decimate.proved", tolerance));
    } else if (light.triangleCount() > 1.02 * target + 2) {
      notes.add(CoreWords.of("decimate.no-further-edge-could-go"));
    }
    if (crossings == Crossings.AVOID && isTooMany) {
      notes.add(CoreWords.of("reduce.not-looked-for", Uncrossed.MOST_TRIED));
    }
    if (cutting > 0) {
      notes.add(CoreWords.of("reduce.cross", cutting));
    }
    return new Outcome(as.into(in, light), notes);
  }
}
