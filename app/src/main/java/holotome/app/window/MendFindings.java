package holotome.app.window;

import holotome.app.model.Finding;
import holotome.app.model.Finding.Severity;
import holotome.app.model.Session;
import holotome.app.pane.SpacePane;
import holotome.app.words.AppWords;
import holotome.core.mend.CutCrossings;
import holotome.core.mend.CutHandles;
import holotome.core.mend.DropShells;
import holotome.core.mend.Fault;
import holotome.core.mend.FillHoles;
import holotome.core.mend.MakeManifold;
import holotome.core.mend.OrientOut;
import holotome.core.mend.Survey;
import holotome.core.mend.TakeNoise;
import holotome.core.mend.TakeSpikes;
import holotome.core.mend.Tidy;
import holotome.core.mend.WeldPoints;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/**
 * What is wrong with the surface, kind by kind, with the way to each place and to what mends it.
 */
final class MendFindings {
  /** Noise is a finding from this part of the diagonal on. */
  private static final double NOISY = 5e-5;

  private final Session session;
  private final SpacePane view;
  private final Consumer<Class<? extends Step>> take;

  MendFindings(Session session, SpacePane view, Consumer<Class<? extends Step>> take) {
    this.session = session;
    this.view = view;
    this.take = take;
  }

  List<Finding> of(Workpiece w, Survey s) {
    List<Finding> out = new ArrayList<>();
    Fault holes = s.of(Fault.Kind.HOLES);
    out.add(
        holes == null
            ? Finding.good(AppWords.of("findings.closed"), AppWords.of("findings.no-open-border"))
            : finding(w, holes));
    for (Fault f : s.faults()) {
      if (f != holes) {
        out.add(finding(w, f));
      }
    }
    if (s.faults().stream().allMatch(f -> f.kind() == Fault.Kind.HOLES)) {
      out.add(
          Finding.good(
              AppWords.of("mend-findings.sound"), AppWords.of("mend-findings.nothing-else")));
    }
    if (s.noise() > NOISY * w.scan().bounds().diagonal()) {
      out.add(
          new Finding(
              Severity.NOTE,
              AppWords.of("mend-findings.noise"),
              AppWords.of("mend-findings.noise-level", length(w, s.noise())),
              null,
              title(TakeNoise.class),
              () -> take.accept(TakeNoise.class)));
    }
    return out;
  }

  private Finding finding(Workpiece w, Fault f) {
    Class<? extends Step> mends = mends(f.kind());
    boolean isMany = f.sizes().length > 1;
    return new Finding(
        f.kind() == Fault.Kind.SLIVERS || f.kind() == Fault.Kind.UNUSED_POINTS
            ? Severity.NOTE
            : Severity.WARN,
        AppWords.count("mend-findings." + f.kind(), (int) Math.min(f.count(), 2_000_000_000)),
        text(w, f),
        () -> show(f),
        mends == null ? null : title(mends),
        mends == null ? null : () -> take.accept(mends),
        isMany
            ? new Finding.Places(() -> view.showFault(f, -1), () -> view.showFault(f, 1))
            : null);
  }

  private void show(Fault f) {
    if (f.kind() == Fault.Kind.HOLES && session.insight() != null) {
      // All of them at once, as lines; the arrows come to one after the other.
      view.showLoops(List.of(session.insight().holes()));
      return;
    }
    view.showFault(f, 0);
  }

  private static String title(Class<? extends Step> type) {
    return type == FillHoles.class
        ? AppWords.of("common.fill-the-holes")
        : StepKind.of(type).title();
  }

  private static String length(Workpiece w, double base) {
    return Length.format(base * w.frame().toWork().scale(), w.frame().trueSize());
  }

  private String text(Workpiece w, Fault f) {
    double worst = f.sizes().length == 0 ? 0 : f.sizes()[0];
    return switch (f.kind()) {
      case CROSSINGS -> AppWords.of("mend-findings.crossings-text", (int) worst);
      case SHELLS, INSIDE_OUT -> AppWords.of("mend-findings.pieces-text", (int) worst);
      case HOLES -> AppWords.of("mend-findings.holes-text", length(w, worst));
      case HANDLES -> AppWords.of("mend-findings.handles-text", length(w, worst));
      case SPIKES -> AppWords.of("mend-findings.spikes-text", length(w, worst));
      case NEAR_POINTS ->
          AppWords.of("mend-findings.near-text", length(w, session.survey().near()));
      case DOUBLED_POINTS -> AppWords.of("mend-findings.doubled-text");
      case UNUSED_POINTS -> AppWords.of("mend-findings.unused-text");
      case PINCHED_POINTS -> AppWords.of("mend-findings.pinched-text");
      case DEGENERATE, DUPLICATE, SLIVERS, CROWDED_EDGES, DISAGREEING, FOLDS ->
          AppWords.of("mend-findings.edge-text", length(w, worst));
    };
  }

  private static Class<? extends Step> mends(Fault.Kind kind) {
    return switch (kind) {
      case DOUBLED_POINTS, UNUSED_POINTS, DEGENERATE, DUPLICATE -> Tidy.class;
      case NEAR_POINTS -> WeldPoints.class;
      case SLIVERS -> null;
      case CROWDED_EDGES, PINCHED_POINTS -> MakeManifold.class;
      case DISAGREEING, INSIDE_OUT -> OrientOut.class;
      case SHELLS -> DropShells.class;
      case SPIKES, FOLDS -> TakeSpikes.class;
      case CROSSINGS -> CutCrossings.class;
      case HANDLES -> CutHandles.class;
      case HOLES -> FillHoles.class;
    };
  }
}
