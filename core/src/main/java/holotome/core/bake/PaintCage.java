package holotome.core.bake;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Makes the cage wider or narrower by hand where rays miss, or meet another part. How many times as
 * far out it is then is kept with the Cast, per vertex.
 */
@Describes(
    id = "bake.cage",
    title = "Cage",
    help =
        "Shows from how far out rays start, as a shell around the Cast, and makes that wider or narrower where it is painted over.",
    reads = {"cast", "frame"},
    writes = {"cast"})
public record PaintCage(
    @Parameter(help = "What is done, one stroke after the other") List<CageEdit> edits)
    implements Step {
  private static final int GRAIN = 1 << 14;

  /** The cage is at least and at most so many times as far out as it would be. */
  private static final double LEAST = 1e-3;

  private static final double MOST = 1e3;

  public PaintCage {
    if (edits == null || edits.isEmpty()) {
      throw Failure.usage(CoreWords.of("edit-mesh.no-edits"));
    }
    edits = List.copyOf(edits);
  }

  /** The same and one more. */
  public PaintCage with(CageEdit more) {
    List<CageEdit> all = new ArrayList<>(edits);
    all.add(more);
    return new PaintCage(all);
  }

  /** How many times as far out as it would be the cage is, per vertex; null where nobody said. */
  static float[] of(Mesh cast) {
    Attribute a = cast.attributes().named(Attribute.CAGE);
    return a == null ? null : a.floats();
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 8L * in.cast().vertexCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = in.cast();
    if (cast == null) {
      throw Failure.cannot(CoreWords.of("bake-maps.there-is-no-cast-to"));
    }
    float[] known = of(cast);
    float[] times = known == null ? new float[cast.vertexCount()] : known.clone();
    if (known == null) {
      Arrays.fill(times, 1);
    }
    Similarity toBase = in.frame().toFile().inverse();
    List<String> notes = new ArrayList<>();
    int done = 0;
    for (int i = 0; i < edits.size(); i++) {
      Work part = run.work().part(1.0 / edits.size(), CoreWords.of("work.making-the-cage"));
      if (paint(cast, edits.get(i), toBase, times, part)) {
        done++;
      } else {
        notes.add(CoreWords.of("chart-edit.left-out", i + 1));
      }
    }
    if (done == 0) {
      throw Failure.cannot(notes.getFirst());
    }
    notes.addFirst(CoreWords.count("cage.done", done));
    Attribute a =
        Attribute.of(Attribute.CAGE, Attribute.Kind.WEIGHT, Attribute.Domain.VERTEX, times, null);
    Mesh painted = cast.with(a);
    // The maps that there are stay those of this surface.
    return new Outcome(in.with(Part.CAST, painted), notes, null, done);
  }

  /** Paints one stroke; whether it met any vertex. */
  private static boolean paint(
      Mesh cast, CageEdit edit, Similarity toBase, float[] times, Work work) {
    int n = edit.line().length / 3;
    double[] line = new double[3 * n];
    for (int i = 0; i < n; i++) {
      double[] p = toBase.apply(edit.line()[3 * i], edit.line()[3 * i + 1], edit.line()[3 * i + 2]);
      System.arraycopy(p, 0, line, 3 * i, 3);
    }
    double radius = edit.radius() * toBase.scale();
    double log = Math.log(edit.times());
    float[] p = cast.xyz();
    boolean[] met = new boolean[Parallel.chunks(cast.vertexCount(), GRAIN)];
    Parallel.chunked(
        cast.vertexCount(),
        GRAIN,
        work,
        (c, from, to) -> {
          for (int v = from; v < to; v++) {
            double far = Math.sqrt(square(line, p[3 * v], p[3 * v + 1], p[3 * v + 2])) / radius;
            if (far < 1) {
              double share = 1 - far * far * (3 - 2 * far);
              times[v] = (float) Math.clamp(times[v] * Math.exp(share * log), LEAST, MOST);
              met[c] = true;
            }
          }
        });
    boolean any = false;
    for (boolean m : met) {
      any |= m;
    }
    return any;
  }

  /** The square of the distance of a place from a line. */
  private static double square(double[] line, double x, double y, double z) {
    double best = Double.POSITIVE_INFINITY;
    int n = line.length / 3;
    for (int i = 0; i < n; i++) {
      int a = 3 * i;
      int b = 3 * Math.min(i + 1, n - 1);
      double dx = line[b] - line[a];
      double dy = line[b + 1] - line[a + 1];
      double dz = line[b + 2] - line[a + 2];
      double l = dx * dx + dy * dy + dz * dz;
      double t =
          l > 0
              ? Math.clamp(
                  ((x - line[a]) * dx + (y - line[a + 1]) * dy + (z - line[a + 2]) * dz) / l, 0, 1)
              : 0;
      double ex = line[a] + t * dx - x;
      double ey = line[a + 1] + t * dy - y;
      double ez = line[a + 2] + t * dz - z;
      best = Math.min(best, ex * ex + ey * ey + ez * ez);
    }
    return best;
  }
}
