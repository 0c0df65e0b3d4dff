package holotome.app.window;

import holotome.app.model.Finding;
import holotome.app.model.Finding.Severity;
import holotome.app.model.Insight;
import holotome.app.model.ScanFile;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.model.Trials;
import holotome.app.pane.SpacePane;
import holotome.app.words.AppWords;
import holotome.core.bake.BakeMaps;
import holotome.core.datum.DeclareUnit;
import holotome.core.datum.Level;
import holotome.core.datum.Origin;
import holotome.core.datum.Scale;
import holotome.core.geometry.Box;
import holotome.core.intake.Inspection;
import holotome.core.log.History;
import holotome.core.log.Lines;
import holotome.core.mend.FillHoles;
import holotome.core.mend.Tidy;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.ship.WriteAsset;
import holotome.core.step.Step;
import holotome.core.unit.Length;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import java.util.function.Predicate;

/** What there is to say about the work in each stage. */
final class Findings {
  private static final int ENGINE_TRIANGLES = 20_000;

  private final Session session;
  private final SpacePane view;
  private final Consumer<Class<? extends Step>> take;
  private final TrimFindings trim;
  private final MendFindings mend;
  private final UnwrapFindings unwrap;
  private final BakeFindings bake;

  /**
   * @param take takes up the tool that makes steps of this type
   */
  Findings(Session session, SpacePane view, Consumer<Class<? extends Step>> take) {
    this.session = session;
    this.view = view;
    this.take = take;
    this.trim = new TrimFindings(session, view, take);
    this.mend = new MendFindings(session, view, take);
    this.unwrap = new UnwrapFindings(session, take);
    this.bake = new BakeFindings(session, view, take);
  }

  List<Finding> of(Stage stage) {
    Workpiece w = session.current();
    if (w == null) {
      return List.of();
    }
    Insight i = session.insight();
    List<Finding> out = new ArrayList<>();
    trials(out);
    out.addAll(of(stage, w, i));
    return out;
  }

  /** Where several ways stand side by side: which is the current one, and the way to the others. */
  private void trials(List<Finding> out) {
    Trials trials = session.trials();
    if (!trials.areSeveral()) {
      return;
    }
    Lines.Named other = trials.compared() != null ? trials.compared() : trials.others().getFirst();
    int shared = trials.shared(other.name());
    String parts =
        shared == 0
            ? AppWords.of("findings.trial-from-the-start", trials.current(), other.name())
            : AppWords.of(
                "findings.trial-from",
                trials.current(),
                other.name(),
                Tape.title(other.entries().get(shared - 1)));
    out.add(
        new Finding(
            Severity.NOTE,
            AppWords.of("findings.trials-are-open", trials.all().size()),
            parts,
            view::switchCompared,
            AppWords.of("findings.take-trial", other.name()),
            () -> trials.take(other.name())));
  }

  private List<Finding> of(Stage stage, Workpiece w, Insight i) {
    return switch (stage) {
      case INTAKE -> intake(w, i);
      case TRIM -> i == null ? List.of(measuring()) : trim.of(w, i);
      case MEND -> mend(w, i);
      case DATUM -> datum(w, i);
      case REDUCE -> reduce(w);
      case UNWRAP -> unwrap.of(w, lastNote(Findings::unwraps));
      case BAKE -> bake.of(w);
      case SHIP -> ship(w);
    };
  }

  private Finding finding(
      Severity s,
      String title,
      String text,
      Runnable show,
      String action,
      Class<? extends Step> tool) {
    return leading(take, s, title, text, show, action, tool);
  }

  /** A finding whose action takes up a tool. */
  static Finding leading(
      Consumer<Class<? extends Step>> take,
      Severity s,
      String title,
      String text,
      Runnable show,
      String action,
      Class<? extends Step> tool) {
    return new Finding(s, title, text, show, action, () -> take.accept(tool));
  }

  private List<Finding> intake(Workpiece w, Insight i) {
    List<Finding> out = new ArrayList<>();
    ScanFile f = session.scanFile();
    out.add(
        new Finding(
            Severity.NOTE,
            f.path().getFileName().toString(),
            AppWords.of(
                "findings.triangles-points", f.format(), f.triangles(), f.points(), f.colour()),
            view.navigation()::showAll,
            null,
            null));
    unit(w, out);
    for (String note : f.notes()) {
      out.add(
          new Finding(
              Severity.WARN, AppWords.of("findings.while-reading"), note + ".", null, null, null));
    }
    double[] shift = f.shift();
    if (shift[0] != 0 || shift[1] != 0 || shift[2] != 0) {
      out.add(
          new Finding(
              Severity.NOTE,
              AppWords.of("findings.far-from-the-origin"),
              AppWords.of("findings.re-centred-by-the-offset", shift[0], shift[1], shift[2]),
              null,
              null,
              null));
    }
    long need = new Decimate(ENGINE_TRIANGLES, null, null, Role.CAST).memory(w) + w.scan().bytes();
    long most = Runtime.getRuntime().maxMemory();
    out.add(
        new Finding(
            need > most ? Severity.WARN : Severity.GOOD,
            AppWords.of("common.memory"),
            AppWords.of("findings.the-heaviest-step-needs-about", need / 1e9, most / 1e9),
            null,
            null,
            null));
    return out;
  }

  private void unit(Workpiece w, List<Finding> out) {
    Box b = w.frame().workBounds(w.scan());
    if (w.frame().trueSize()) {
      out.add(
          Finding.good(
              AppWords.of("findings.size-is-known"),
              Language.format(
                  "%s × %s × %s.",
                  Length.format(b.width(), true),
                  Length.format(b.depth(), true),
                  Length.format(b.height(), true))));
      return;
    }
    double h = b.height();
    String text =
        AppWords.of(
            "findings.tall-as-it-lies-if", Length.format(h, true), Length.format(h / 1000, true));
    boolean datum = session.stage() == Stage.DATUM;
    out.add(
        finding(
            Severity.WARN,
            AppWords.of("findings.unit-unknown"),
            text,
            null,
            datum ? AppWords.of("common.set-the-scale") : AppWords.of("common.set-the-unit"),
            datum ? Scale.class : DeclareUnit.class));
  }

  private Finding measuring() {
    if (session.unmeasured() != null) {
      return new Finding(
          Severity.WARN,
          AppWords.of("findings.the-scan-is-not-measured"),
          AppWords.of("findings.without-that-there-are-no", session.unmeasured().getMessage()),
          null,
          AppWords.of("findings.measure-it-now"),
          session::measureAgain);
    }
    return new Finding(
        Severity.NOTE,
        AppWords.of("findings.measuring-the-scan"),
        AppWords.of("findings.islands-borders-and-ground-will"),
        null,
        null,
        null);
  }

  private List<Finding> mend(Workpiece w, Insight i) {
    if (session.survey() != null) {
      return mend.of(w, session.survey());
    }
    if (i == null) {
      return List.of(measuring());
    }
    List<Finding> out = new ArrayList<>(soFar(i));
    if (session.unseen() != null) {
      out.add(
          new Finding(
              Severity.WARN,
              AppWords.of("findings.not-looked-at-closely"),
              session.unseen().getMessage() + ".",
              null,
              AppWords.of("findings.measure-it-now"),
              session::measureAgain));
      return out;
    }
    out.add(
        new Finding(
            Severity.NOTE,
            AppWords.of("findings.looking-closer"),
            AppWords.of("findings.crossings-spikes-and-handles-will"),
            null,
            null,
            null));
    return out;
  }

  /** What is known of the surface before it is looked at closely. */
  private List<Finding> soFar(Insight i) {
    List<Finding> out = new ArrayList<>();
    Inspection n = i.inspection();
    if (n.boundaryLoops() > 0) {
      out.add(
          finding(
              Severity.WARN,
              AppWords.count("findings.holes", n.boundaryLoops()),
              AppWords.of(
                  "findings.open-edges-the-longest-border",
                  n.boundaryEdges(),
                  i.holes().length == 0 ? 0 : i.holes()[0].length / 3),
              () -> view.showLoops(List.of(i.holes())),
              AppWords.of("common.fill-the-holes"),
              FillHoles.class));
    } else {
      out.add(Finding.good(AppWords.of("findings.closed"), AppWords.of("findings.no-open-border")));
    }
    if (n.nonManifoldEdges() > 0 || n.nonManifoldVertices() > 0) {
      out.add(
          finding(
              Severity.WARN,
              AppWords.of("findings.not-manifold"),
              nonManifold(n),
              null,
              AppWords.of("findings.tidy"),
              Tidy.class));
    }
    // Points that were doubled to part two fans tear nothing and are as they should be.
    int torn = n.tornEdges() > 0 ? n.duplicateVertices() : 0;
    int untidy = n.degenerateTriangles() + n.duplicateTriangles() + torn + n.unreferencedVertices();
    if (untidy > 0) {
      out.add(
          finding(
              Severity.WARN,
              AppWords.of("findings.untidy"),
              untidy(n),
              null,
              AppWords.of("findings.tidy"),
              Tidy.class));
    }
    if (!n.consistentlyOriented()) {
      out.add(
          finding(
              Severity.WARN,
              AppWords.of("findings.inside-out-in-places"),
              AppWords.of("findings.neighbouring-triangles-disagree-about-the"),
              null,
              AppWords.of("findings.tidy"),
              Tidy.class));
    }
    if (out.size() == 1 && out.getFirst().severity() == Severity.GOOD
        || untidy == 0 && n.nonManifoldEdges() == 0 && n.nonManifoldVertices() == 0) {
      out.add(
          Finding.good(
              AppWords.of("findings.tidy"),
              AppWords.of("findings.no-doubled-points-no-degenerate")));
    }
    return out;
  }

  private static String untidy(Inspection n) {
    List<String> parts = new ArrayList<>();
    add(parts, n.degenerateTriangles(), "findings.degenerate");
    add(parts, n.duplicateTriangles(), "findings.duplicate");
    if (n.tornEdges() > 0) {
      add(parts, n.duplicateVertices(), "findings.doubled");
    }
    add(parts, n.unreferencedVertices(), "findings.unused");
    return String.join(", ", parts) + ".";
  }

  private static void add(List<String> parts, long n, String key) {
    if (n > 0) {
      parts.add(AppWords.count(key, n));
    }
  }

  private static String nonManifold(Inspection n) {
    List<String> parts = new ArrayList<>();
    add(parts, n.nonManifoldEdges(), "findings.edges-shared");
    add(parts, n.nonManifoldVertices(), "findings.points-shared");
    return String.join(", ", parts) + ".";
  }

  private List<Finding> datum(Workpiece w, Insight i) {
    List<Finding> out = new ArrayList<>();
    unit(w, out);
    Box b = w.frame().workBounds(w.current());
    double d = Math.max(1e-12, b.diagonal());
    if (i != null && i.ground() != null) {
      double tilt =
          Math.toDegrees(
              Math.acos(
                  Math.clamp(w.frame().toWork().direction(i.ground().normal())[2], -1.0, 1.0)));
      if (tilt > 0.05) {
        out.add(
            finding(
                Severity.WARN,
                AppWords.of("findings.not-level"),
                AppWords.of("findings.the-largest-flat-part-is", tilt),
                null,
                AppWords.of("findings.level-it"),
                Level.class));
      } else {
        out.add(
            Finding.good(
                AppWords.of("findings.level"),
                AppWords.of("findings.the-largest-flat-part-is-2", tilt)));
      }
    }
    double[] c = b.centre();
    boolean base = Math.abs(b.minZ()) < 1e-4 * d && Math.hypot(c[0], c[1]) < 1e-3 * d;
    if (base) {
      out.add(
          Finding.good(
              AppWords.of("findings.origin-at-the-base"),
              AppWords.of("findings.stands-on-z-0-in")));
    } else {
      boolean s = w.frame().trueSize();
      out.add(
          finding(
              Severity.WARN,
              AppWords.of("findings.origin-is-elsewhere"),
              AppWords.of(
                  "findings.the-bases-middle-is-at",
                  Length.format(c[0], s),
                  Length.format(c[1], s),
                  Length.format(b.minZ(), s)),
              null,
              AppWords.of("common.move-the-origin"),
              Origin.class));
    }
    return out;
  }

  private List<Finding> reduce(Workpiece w) {
    if (w.cast() == null) {
      int n = w.scan().triangleCount();
      return List.of(
          finding(
              n > ENGINE_TRIANGLES ? Severity.WARN : Severity.NOTE,
              AppWords.of("findings.no-cast-yet"),
              n > ENGINE_TRIANGLES
                  ? AppWords.of(
                      "findings.triangles-are-times-the-usual",
                      n,
                      (double) n / ENGINE_TRIANGLES,
                      ENGINE_TRIANGLES)
                  : AppWords.of("findings.the-scan-is-light-already"),
              null,
              AppWords.of("common.make-a-cast"),
              Decimate.class));
    }
    return List.of(
        Finding.good(
            AppWords.of("findings.cast-is-made"),
            AppWords.of(
                "findings.triangles-of-the-scan",
                w.cast().triangleCount(),
                100.0 * w.cast().triangleCount() / w.scan().triangleCount(),
                lastNote(s -> !unwraps(s) && s.writes().contains(Part.CAST)))));
  }

  static boolean unwraps(Step s) {
    return s instanceof MakeCharts || s instanceof PackCharts;
  }

  private String lastNote(Predicate<Step> made) {
    for (History.Line l : session.history().lines().reversed()) {
      if (made.test(l.entry().step()) && l.entry().on()) {
        List<String> notes = l.effect().notes();
        String rest = String.join("; ", notes.subList(Math.min(1, notes.size() - 1), notes.size()));
        return notes.size() == 1 ? rest : Character.toUpperCase(rest.charAt(0)) + rest.substring(1);
      }
    }
    return "";
  }

  private List<Finding> ship(Workpiece w) {
    List<Finding> out = new ArrayList<>();
    if (!w.frame().trueSize()) {
      out.add(
          finding(
              Severity.WARN,
              AppWords.of("findings.unit-unknown"),
              AppWords.of("findings.what-is-written-will-take"),
              null,
              AppWords.of("common.set-the-scale"),
              Scale.class));
    }
    if (w.cast() == null) {
      out.add(
          finding(
              Severity.NOTE,
              AppWords.of("findings.no-cast"),
              AppWords.of("findings.the-full-scan-would-be"),
              null,
              AppWords.of("common.make-a-cast"),
              Decimate.class));
    } else if (w.maps() == null) {
      out.add(
          finding(
              Severity.WARN,
              AppWords.of("findings.no-maps"),
              AppWords.of("findings.the-cast-would-be-written"),
              null,
              AppWords.of("findings.bake"),
              BakeMaps.class));
    }
    boolean written =
        session.history().lines().stream()
            .anyMatch(l -> l.entry().step() instanceof WriteAsset && l.entry().on());
    if (written) {
      out.add(
          Finding.good(
              AppWords.of("findings.written"), lastNote(WriteAsset.class::isInstance) + "."));
    } else {
      out.add(
          finding(
              Severity.NOTE,
              AppWords.of("findings.not-written-yet"),
              AppWords.of("findings.files-go-to", folder()),
              null,
              AppWords.of("findings.write-it"),
              WriteAsset.class));
    }
    return out;
  }

  private String folder() {
    return session.output().toString();
  }
}
