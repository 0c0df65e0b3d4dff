package holotome.core.reduce;

import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
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
import java.util.Arrays;
import java.util.BitSet;
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
        Crossings crossings,
    @Parameter(
            help = "What becomes of what is selected: as all else, finer, coarser, or as it is",
            preset = "alike")
        Selected selected,
    @Parameter(
            help = "So many times as dense, or as sparse, as elsewhere",
            min = 1,
            max = 100,
            preset = "4",
            when = "selected=finer|coarser")
        double times,
    @Parameter(
            help = "What is selected, one pick after the other",
            when = "selected=finer|coarser|kept",
            optional = true)
        List<Pick> picks,
    @Parameter(
            help =
                "Whether one half is made light and mirrored onto the other, across the working origin's plane; seen from the front",
            preset = "no")
        Symmetric symmetric)
    implements Step {

  /** So many times as dense is what is finer, as a rule. */
  private static final double USUAL = 4;

  /** What becomes of texture coordinates. */
  public enum Texture {
    COLOURS,
    KEEP
  }

  /** What becomes of what is selected. */
  public enum Selected {
    ALIKE,
    FINER,
    COARSER,
    KEPT
  }

  /** Which half is mirrored. */
  public enum Symmetric {
    NO,
    LEFT,
    RIGHT,
    FRONT,
    BACK
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

  /** Decimates everywhere alike. */
  public Decimate(
      Integer triangles,
      Double percent,
      Length tolerance,
      Role as,
      Texture texture,
      Double sharp,
      Crossings crossings) {
    this(
        triangles,
        percent,
        tolerance,
        as,
        texture,
        sharp,
        crossings,
        Selected.ALIKE,
        USUAL,
        null,
        Symmetric.NO);
  }

  public Decimate {
    texture = texture == null ? Texture.COLOURS : texture;
    crossings = crossings == null ? Crossings.AVOID : crossings;
    selected = selected == null ? Selected.ALIKE : selected;
    symmetric = symmetric == null ? Symmetric.NO : symmetric;
    if (symmetric != Symmetric.NO && (tolerance != null || selected != Selected.ALIKE)) {
      throw Failure.usage(CoreWords.of("decimate.symmetric-by-number"));
    }
    picks = picks == null || selected == Selected.ALIKE ? null : List.copyOf(picks);
    if (selected != Selected.ALIKE && (picks == null || picks.isEmpty())) {
      throw Failure.usage(CoreWords.of("common.a-selection-needs-at-least"));
    }
    int given =
        (triangles == null ? 0 : 1) + (percent == null ? 0 : 1) + (tolerance == null ? 0 : 1);
    if (given != 1) {
      throw Failure.usage(CoreWords.of("decimate.give-one-of-triangles-percent"));
    }
  }

  @Override
  public Set<Part<?>> reads() {
    boolean isPlaced = tolerance != null || picks != null || symmetric != Symmetric.NO;
    return isPlaced ? Set.of(Part.SCAN, Part.FRAME) : Set.of(Part.SCAN);
  }

  @Override
  public Set<Part<?>> writes() {
    return as.writes();
  }

  @Override
  public long memory(Workpiece in) {
    boolean hasWedges = texture == Texture.KEEP && in.scan().uv() != null;
    long each = tolerance != null ? PROVING : hasWedges ? DECIMATING + WEDGES : DECIMATING;
    return (each + (Importance.of(in.scan()) == null ? 0 : WEIGHTS)) * in.scan().triangleCount();
  }

  /** Bytes a triangle: measured, and a little more. */
  private static final long DECIMATING = 55;

  private static final long WEDGES = 40;
  private static final long PROVING = 220;
  private static final long WEIGHTS = 10;

  /** What errors count for at each vertex; null where they count for the same everywhere. */
  private float[] weights(Mesh plain, Workpiece in, Work work) {
    float[] out = Lightened.weights(plain);
    if (picks == null) {
      return out;
    }
    BitSet set =
        Pick.all(picks, in.scan(), in.frame(), work.part(0, CoreWords.of("work.selecting")));
    if (set.isEmpty()) {
      throw Failure.cannot(CoreWords.of("take-noise.nothing-is-selected"));
    }
    float weight =
        switch (selected) {
          case KEPT -> Float.POSITIVE_INFINITY;
          case FINER -> Lightened.weight(times);
          case COARSER -> Lightened.weight(1 / times);
          case ALIKE -> 1;
        };
    BitSet vertices = new BitSet(plain.vertexCount());
    int[] tri = plain.triangles();
    for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
      for (int k = 0; k < 3; k++) {
        vertices.set(tri[3 * t + k]);
      }
    }
    if (out == null) {
      out = new float[plain.vertexCount()];
      Arrays.fill(out, 1);
    }
    for (int v = vertices.nextSetBit(0); v >= 0; v = vertices.nextSetBit(v + 1)) {
      out[v] *= weight;
    }
    return out;
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
    MirroredHalf half = symmetric == Symmetric.NO ? null : MirroredHalf.of(symmetric, in.frame());
    Mesh all = keeps ? scan : Lightened.colouredByVertex(scan);
    Mesh plain =
        half == null ? all : half.cut(all, run.work().part(0, CoreWords.of("work.cutting")));
    target = half == null ? target : (target + 1) / 2;
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
    float[] weight = weights(plain, in, run.work());
    Work work = run.work().part(0.8, CoreWords.of("work.decimating"));
    boolean isTooMany = plain.triangleCount() > Uncrossed.MOST_TRIED;
    boolean avoids = crossings == Crossings.AVOID && !isTooMany;
    Mesh light;
    int cutting = 0;
    if (tolerance != null) {
      double far = in.frame().toBaseLength(tolerance.metres());
      light = Tolerance.within(plain, far, weight, wedges, avoids, work);
    } else if (avoids && plain.triangleCount() > target) {
      Uncrossed.Result made = Uncrossed.decimate(plain, target, weight, wedges, work);
      light = made.light().mesh();
      cutting = made.crossing();
    } else {
      light =
          plain.triangleCount() <= target
              ? plain
              : Decimation.of(plain, target, Double.POSITIVE_INFINITY, weight, wedges, work).mesh();
    }
    boolean isReached = tolerance != null || light.triangleCount() <= 1.02 * target + 2;
    light = half == null ? light : half.whole(light, work.part(0, work.label()));
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("decimate.kept", light.triangleCount(), scan.triangleCount()));
    notes.add(
        Lightened.deviation(
            light, scan, run.work().part(0.15, CoreWords.of("work.measuring-deviation"))));
    if (tolerance != null) {
      notes.add(CoreWords.of("decimate.proved", tolerance));
    } else if (!isReached) {
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
