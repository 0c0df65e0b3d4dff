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
import java.util.HashSet;
import java.util.List;
import java.util.Set;

/** Makes a chain of ever lighter meshes. */
@Describes(
    id = "reduce.levels",
    title = "Levels",
    help =
        "Makes lighter and lighter meshes of the Cast (or of the Scan, where there is no Cast), each a part of its own.",
    reads = {"scan", "cast", "frame"},
    writes = {
      "level-1", "level-2", "level-3", "level-4", "level-5", "level-6", "level-7", "level-8"
    })
public record MakeLevels(
    @Parameter(
            help = "How many of a hundred triangles of the one before each has",
            oneOf = "how much",
            unit = "%",
            min = 1,
            max = 99,
            optional = true)
        Double percent,
    @Parameter(
            help = "Or how many triangles the first has, the second and so on",
            oneOf = "how much",
            min = 4,
            max = 2e9,
            optional = true)
        double[] triangles,
    @Parameter(
            help =
                "Or how far the first may be from the mesh, each further one twice as far; it is measured and proved",
            oneOf = "how much",
            min = 0,
            optional = true)
        Length tolerance,
    @Parameter(
            help = "How many levels, if their triangles are not given",
            preset = "3",
            min = 1,
            max = 8)
        int count,
    @Parameter(
            help =
                "What becomes of texture coordinates: kept, so that all share the pictures, or colours at the vertices",
            preset = "keep")
        Decimate.Texture texture)
    implements Step {
  /** No more than so many. */
  static final int MOST = 8;

  public MakeLevels {
    int given =
        (triangles == null ? 0 : 1) + (percent == null ? 0 : 1) + (tolerance == null ? 0 : 1);
    if (given != 1) {
      throw Failure.usage(CoreWords.of("decimate.give-one-of-triangles-percent"));
    }
    if (triangles != null && (triangles.length == 0 || triangles.length > MOST)) {
      throw Failure.usage(CoreWords.of("levels.how-many", MOST));
    }
  }

  /** The part that holds a level, the first being 1. */
  public static Part<Mesh> level(int number) {
    return Part.mesh("level-" + number);
  }

  @Override
  public Set<Part<?>> reads() {
    Set<Part<?>> out = new HashSet<>(Set.of(Part.SCAN, Part.CAST));
    if (tolerance != null) {
      out.add(Part.FRAME);
    }
    return out;
  }

  private int levels() {
    return triangles != null ? triangles.length : count;
  }

  @Override
  public long memory(Workpiece in) {
    return (tolerance == null ? 90L : 220L) * in.current().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.current();
    boolean keeps = texture == Decimate.Texture.KEEP;
    Mesh plain = keeps ? mesh : Lightened.colouredByVertex(mesh);
    Wedges wedges =
        Wedges.of(
            plain,
            keeps,
            keeps || !mesh.hasTexture(),
            -1,
            run.work().part(0.05, CoreWords.of("work.finding-seams")));
    float[] weight = Lightened.weights(plain);
    Workpiece out = in;
    List<String> notes = new ArrayList<>();
    double wanted = mesh.triangleCount();
    for (int i = 1; i <= levels(); i++) {
      wanted = triangles != null ? triangles[i - 1] : percent != null ? wanted * percent / 100 : 0;
      Work work = run.work().part(0.95 / levels(), CoreWords.of("work.decimating"));
      Work decimating = work.part(0.8, CoreWords.of("work.decimating"));
      Mesh light;
      if (tolerance == null) {
        int target = (int) Math.max(4, Math.rint(wanted));
        light = Decimation.run(plain, target, weight, wedges, decimating);
      } else {
        double far = in.frame().toBaseLength(tolerance.metres()) * Math.scalb(1.0, i - 1);
        light = Tolerance.within(plain, far, weight, wedges, false, decimating);
      }
      out = out.with(level(i), light);
      notes.add(
          CoreWords.of(
              "levels.made",
              i,
              light.triangleCount(),
              Lightened.deviation(
                  light, mesh, work.part(0.2, CoreWords.of("work.measuring-deviation")))));
    }
    for (int i = levels() + 1; i <= MOST; i++) {
      out = out.with(level(i), null);
    }
    return new Outcome(out, notes);
  }
}
