package holotome.app.window;

import holotome.app.model.Finding;
import holotome.app.model.Finding.Severity;
import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.pane.SpacePane;
import holotome.app.words.AppWords;
import holotome.core.log.Entry;
import holotome.core.mend.TurnOver;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.select.IslandSizes;
import holotome.core.select.Pick;
import holotome.core.spatial.PlaneFinder;
import holotome.core.step.Step;
import holotome.core.topology.Islands;
import holotome.core.trim.CutGround;
import holotome.core.trim.CutSelection;
import holotome.core.trim.KeepIslands;
import holotome.core.trim.TrimFringe;
import holotome.core.trim.TrimReview;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.function.Consumer;

/** What there is to say while trimming: what is stray, and what a cut went wrong about. */
final class TrimFindings {
  /** An open scan shows its backs from below; more than this is seen only of one inside out. */
  private static final double INSIDE_OUT = 0.6;

  private final Session session;
  private final SpacePane view;
  private final Consumer<Class<? extends Step>> take;

  TrimFindings(Session session, SpacePane view, Consumer<Class<? extends Step>> take) {
    this.session = session;
    this.view = view;
    this.take = take;
  }

  List<Finding> of(Workpiece w, Insight i) {
    List<Finding> out = new ArrayList<>();
    insideOut(i, out);
    ground(w, i, out);
    pieces(i, out);
    strips(i, out);
    loose(w, i, out);
    slivers(i, out);
    if (!w.frame().trueSize()) {
      out.add(
          new Finding(
              Severity.NOTE,
              AppWords.of("trim-findings.size-not-set-yet"),
              AppWords.of("trim-findings.a-scale-bar-that-is"),
              null,
              null,
              null));
    }
    return out;
  }

  private void insideOut(Insight i, List<Finding> out) {
    double backs = i.review().backs();
    if (backs > INSIDE_OUT) {
      out.add(
          new Finding(
              Severity.ERROR,
              AppWords.of("trim-findings.inside-out"),
              AppWords.of("trim-findings.from-outside-of-what-is", 100 * backs),
              view.navigation()::showAll,
              AppWords.of("trim-findings.turn-it-over"),
              () -> session.apply(new TurnOver())));
    }
  }

  private void ground(Workpiece w, Insight i, List<Finding> out) {
    PlaneFinder.Flat ground = i.ground();
    if (ground == null || ground.share() <= 0.25) {
      return;
    }
    double tilt =
        Math.toDegrees(
            Math.acos(Math.clamp(w.frame().toWork().direction(ground.normal())[2], -1.0, 1.0)));
    out.add(
        new Finding(
            Severity.WARN,
            AppWords.of("trim-findings.ground-is-attached"),
            AppWords.of("trim-findings.a-flat-part-of-of", 100 * ground.share(), tilt),
            () -> show(() -> i.near(ground)),
            AppWords.of("trim-findings.cut-it-away"),
            () -> take.accept(CutGround.class)));
  }

  private void pieces(Insight i, List<Finding> out) {
    int[] pieces = i.review().pieces();
    if (pieces.length < 2 || session.history().size() == 0) {
      return;
    }
    Islands islands = i.islands();
    long all = i.mesh().triangleCount();
    out.add(
        new Finding(
            Severity.ERROR,
            AppWords.of("trim-findings.the-subject-is-in-pieces", pieces.length),
            AppWords.of(
                "trim-findings.the-largest-holds-the-next",
                100.0 * islands.sizes()[pieces[0]] / all,
                100.0 * islands.sizes()[pieces[1]] / all),
            () -> show(() -> i.islandsOf(new int[] {pieces[1]})),
            session.canUndo() ? AppWords.of("trim-findings.undo-the-last-step") : null,
            session::undo));
  }

  private void strips(Insight i, List<Finding> out) {
    int[] strips = i.review().strips();
    if (strips.length == 0 || session.history().size() == 0) {
      return;
    }
    long triangles = 0;
    for (int s : strips) {
      triangles += i.islands().sizes()[s];
    }
    out.add(
        new Finding(
            Severity.WARN,
            strips.length == 1
                ? AppWords.of("trim-findings.a-strip-was-left")
                : AppWords.of("trim-findings.strips-were-left", strips.length),
            AppWords.of("trim-findings.long-and-narrow-triangles-apart", triangles),
            () -> show(() -> i.islandsOf(strips)),
            strips.length == 1
                ? AppWords.of("trim-findings.remove-the-strip")
                : AppWords.of("trim-findings.remove-the-strips"),
            () -> remove(i, strips)));
  }

  private void remove(Insight i, int[] ranks) {
    int n = i.mesh().triangleCount();
    Part<Mesh> part = session.partAtHand().part();
    session.change(
        AppWords.of("trim-findings.removing-strips"),
        (h, run) -> {
          Pick pick = Pick.of(Pick.Join.REPLACE, i.islandsOf(ranks), n);
          Step step = CutSelection.of(List.of(pick), CutSelection.Then.REMOVE);
          return h.apply(new Entry(step, true, part), run);
        });
  }

  private void loose(Workpiece w, Insight i, List<Finding> out) {
    int islands = i.islands().count();
    if (islands < 2) {
      out.add(
          Finding.good(
              AppWords.of("trim-findings.in-one-piece"),
              AppWords.of("trim-findings.triangles", i.mesh().triangleCount())));
      return;
    }
    int[] sizes = i.islands().sizes();
    int loose = i.mesh().triangleCount() - sizes[0];
    double largest = i.looseAcross() * w.frame().toWork().scale();
    out.add(
        new Finding(
            Severity.WARN,
            AppWords.count("trim-findings.loose-pieces", islands - 1),
            AppWords.of(
                "trim-findings.triangles-the-largest-across",
                loose,
                Length.format(largest, w.frame().trueSize())),
            () -> {
              if (sizes[1] < sizes[0]) {
                session
                    .selecting()
                    .pickOn(
                        null,
                        Pick.of(
                            Pick.Join.REPLACE, new IslandSizes(null, sizes[1], null, null, null)));
              } else {
                show(i::loose);
              }
            },
            AppWords.of("trim-findings.remove-loose-pieces"),
            () -> take.accept(KeepIslands.class)));
  }

  private void slivers(Insight i, List<Finding> out) {
    TrimReview review = i.review();
    int n = review.slivers().cardinality();
    if (n == 0 || session.history().size() == 0) {
      return;
    }
    out.add(
        new Finding(
            Severity.NOTE,
            AppWords.count("trim-findings.thin-slivers-at-the-border", n),
            AppWords.of("trim-findings.they-shade-badly-and-hinder"),
            () -> show(review::slivers),
            AppWords.of("common.even-the-borders-out"),
            () -> take.accept(TrimFringe.class)));
  }

  /** Selects triangles and comes to them. */
  private void show(java.util.function.Supplier<BitSet> what) {
    Workpiece asked = session.current();
    session
        .jobs()
        .fetch(
            what::get,
            set -> {
              view.showTriangles(set);
              session.selecting().replace(asked, set);
            });
  }
}
