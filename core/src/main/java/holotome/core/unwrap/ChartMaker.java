package holotome.core.unwrap;

import holotome.core.array.Grouping;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Cuts a mesh into few charts that lie flat without overlap: parted into small patches near a plane
 * ({@link ChartSeeds}), each laid flat, neighbours then made one as long as the stretch stays
 * within what is allowed ({@link ChartMerging}), their borders straightened ({@link Straightened}).
 * Seams run along creases where they can.
 *
 * <p>Every triangle lies in one chart, none on its back. The result does not depend on the number
 * of threads. 48,000 triangles in some two seconds on two cores.
 */
final class ChartMaker {
  /** Triangles to a patch, about. */
  private static final int PATCH = 32;

  /** A chart twice as ragged as a circle packs well still. */
  private static final double RAGGED = 2.2;

  /** From so many triangles on charts are found on a stand-in of so many. */
  private static final int HEAVY = 150_000;

  private static final int LIGHT = 60_000;

  /**
   * From this share of the surface on, and below this share of their boxes, large charts pack ill.
   */
  private static final double MUCH = 0.5;

  private static final double LOOSE = 0.7;

  private static final int PASSES = 2;
  private static final int ROUNDS = 6;

  /** Where fewer charts are wanted: by how much more is allowed each time, and at most. */
  private static final double MORE_STRETCH = 2.5;

  private static final double LEAST_MORE = 0.01;
  private static final double MORE_RAGGED = 2;
  private static final double MOST_STRETCH = 3;

  private ChartMaker() {}

  static Charts make(Mesh mesh, ChartRule rule, Work work) {
    Ground ground = Ground.of(mesh, work.part(0.03, CoreWords.of("work.cutting-charts")));
    ground.endAtCreases(rule.crease());
    ground.endWhereImportanceChanges();
    if (!(ground.least() > 0)) {
      throw Failure.cannot(CoreWords.of("packing.the-cast-has-no-area"));
    }
    int n = ground.area().length;
    if (n <= HEAVY) {
      List<Piece> few = few(ground, rule, false, work.part(0.97, work.label()));
      return charts(ground, rule, few, rule.stretch(), work);
    }
    CoarseSurface coarse =
        CoarseSurface.of(ground, LIGHT / 2, work.part(0.15, CoreWords.of("work.cutting-charts")));
    Ground light = Ground.of(coarse.mesh(), Work.unwatched());
    List<Piece> pieces = few(light, rule, true, work.part(0.22, work.label()));
    Work flattening = work.part(0.6, CoreWords.of("work.flattening-charts"));
    double most = rule.stretch();
    for (Piece p : pieces) {
      most = Math.max(most, p.stretch());
    }
    List<Piece> fine = FineCharts.of(ground, coarse, pieces, most, flattening);
    List<Piece> parted = ImportanceSplit.of(ground, fine);
    return charts(ground, rule, parted, most, work);
  }

  private static Charts charts(
      Ground ground, ChartRule rule, List<Piece> pieces, double most, Work work) {
    List<Piece> laid = rule.strips() ? TurnedStrip.of(ground, pieces, most, work) : pieces;
    return charts(ground, new Fins(ground, laid).attached(most, work));
  }

  private static List<Piece> few(Ground ground, ChartRule rule, boolean isWhole, Work work) {
    List<Piece> patches = patches(ground, rule.stretch(), work.part(0.3, work.label()));
    Work merging = work.part(0.7, CoreWords.of("work.flattening-charts"));
    ChartRule now = rule;
    double ragged = RAGGED;
    Form form = new Form(ragged, isWhole, false);
    List<Piece> pieces = merged(ground, patches, now, form, merging.part(0.5, merging.label()));
    if (rule.charts() == 0 && isLoose(pieces)) {
      Form round = new Form(ragged, isWhole, true);
      pieces = merged(ground, patches, now, round, merging.part(0.5, merging.label()));
    }
    while (pieces.size() > Math.max(1, rule.charts()) && rule.charts() > 0) {
      if (now.stretch() > MOST_STRETCH) {
        break;
      }
      now =
          new ChartRule(
              1 + Math.max(LEAST_MORE, (now.stretch() - 1) * MORE_STRETCH),
              rule.charts(),
              rule.crease(),
              false);
      ragged *= MORE_RAGGED;
      Form looser = new Form(ragged, isWhole, false);
      pieces = merged(ground, pieces, now, looser, merging.part(0.1, merging.label()));
    }
    return pieces;
  }

  private static List<Piece> patches(Ground ground, double stretch, Work work) {
    int n = ground.area().length;
    int[] patch = ChartSeeds.of(ground, Math.max(1, n / PATCH), work.part(0.4, work.label()));
    int count = 0;
    for (int p : patch) {
      count = Math.max(count, p + 1);
    }
    new SeamStraightening(ground, patch, count, new BitSet()).run(work);
    return flat(ground, patch, count, stretch, work.part(0.6, work.label()));
  }

  /** The patches laid flat, cut where they would not lie so. */
  private static List<Piece> flat(
      Ground ground, int[] patch, int count, double stretch, Work work) {
    Grouping by = Grouping.of(patch, count, Work.unwatched());
    PieceFlattening flattening = new PieceFlattening(ground, patch, stretch);
    List<List<Piece>> flat = new ArrayList<>(count);
    for (int c = 0; c < count; c++) {
      flat.add(List.of());
    }
    Parallel.range(
        count,
        8,
        work,
        (from, to) -> {
          for (int c = from; c < to; c++) {
            int[] members = Arrays.copyOfRange(by.order(), by.start()[c], by.start()[c + 1]);
            flat.set(c, members.length == 0 ? List.of() : flattening.flat(members, work));
          }
        });
    List<Piece> out = new ArrayList<>();
    flat.forEach(out::addAll);
    return out;
  }

  /** What outlines charts may have, as {@link ChartMerging} takes it. */
  private record Form(double ragged, boolean isWhole, boolean isRound) {}

  /**
   * Whether a good part of the surface lies in large charts that leave much of their boxes free.
   */
  private static boolean isLoose(List<Piece> pieces) {
    double all = 0;
    for (Piece p : pieces) {
      all += p.area();
    }
    double large = 0;
    double boxes = 0;
    for (Piece p : pieces) {
      if (p.area() > ChartMerging.LARGE * all) {
        large += p.area();
        boxes += p.smallestBox();
      }
    }
    return large > MUCH * all && large < LOOSE * boxes;
  }

  private static List<Piece> merged(
      Ground ground, List<Piece> pieces, ChartRule rule, Form form, Work work) {
    double most = rule.stretch();
    List<Piece> out = pieces;
    for (int pass = 0; pass < PASSES; pass++) {
      double share = pass == 0 ? 0.7 : 0.3;
      out =
          new ChartMerging(ground, most, form.ragged, form.isWhole, form.isRound, out)
              .merged(rule.charts(), work.part(0.7 * share, work.label()));
      out = Straightened.of(ground, out, most, ROUNDS, work.part(0.3 * share, work.label()));
    }
    return out;
  }

  /** Each at the area that it has on the surface, times what it matters. */
  private static Charts charts(Ground ground, List<Piece> pieces) {
    int[] chart = new int[ground.area().length];
    float[] importance = Importance.of(ground.mesh());
    List<Charts.Chart> list = new ArrayList<>(pieces.size());
    for (Piece p : pieces) {
      double flat = 0;
      double wanted = importance == null ? p.area() : 0;
      for (int i = 0; i < p.triangles().length; i++) {
        int t = p.triangles()[i];
        flat += p.flatArea(i);
        wanted += importance == null ? 0 : importance[t] * p.restArea(i);
        chart[t] = list.size();
      }
      double s = Math.sqrt(wanted / flat);
      double[] uv = p.uv().clone();
      for (int i = 0; i < uv.length; i++) {
        uv[i] *= s;
      }
      list.add(new Charts.Chart(p.triangles(), p.corners(), uv));
    }
    return new Charts(chart, list);
  }
}
