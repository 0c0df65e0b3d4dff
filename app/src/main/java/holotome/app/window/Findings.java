package holotome.app.window;

import holotome.app.model.Finding;
import holotome.app.model.Finding.Severity;
import holotome.app.model.Insight;
import holotome.app.model.ScanFile;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.pane.SpacePane;
import holotome.core.bake.BakeMaps;
import holotome.core.datum.DeclareUnit;
import holotome.core.datum.Level;
import holotome.core.datum.Origin;
import holotome.core.datum.Scale;
import holotome.core.geometry.Box;
import holotome.core.intake.Inspection;
import holotome.core.log.History;
import holotome.core.mend.FillHoles;
import holotome.core.mend.Tidy;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.ship.WriteAsset;
import holotome.core.step.Step;
import holotome.core.unit.Length;
import holotome.core.unwrap.MakeCharts;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;

/** What there is to say about the work in each stage. */
final class Findings {
  private static final int ENGINE_TRIANGLES = 20_000;

  private final Session session;
  private final SpacePane view;
  private final Consumer<Class<? extends Step>> take;
  private final TrimFindings trim;

  /**
   * @param take takes up the tool that makes steps of this type
   */
  Findings(Session session, SpacePane view, Consumer<Class<? extends Step>> take) {
    this.session = session;
    this.view = view;
    this.take = take;
    this.trim = new TrimFindings(session, view, take);
  }

  List<Finding> of(Stage stage) {
    Workpiece w = session.current();
    if (w == null) {
      return List.of();
    }
    Insight i = session.insight();
    return switch (stage) {
      case INTAKE -> intake(w, i);
      case TRIM -> i == null ? List.of(measuring()) : trim.of(w, i);
      case MEND -> mend(i);
      case DATUM -> datum(w, i);
      case REDUCE -> reduce(w);
      case UNWRAP -> unwrap(w);
      case BAKE -> bake(w);
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
    return new Finding(s, title, text, show, action, () -> take.accept(tool));
  }

  private List<Finding> intake(Workpiece w, Insight i) {
    List<Finding> out = new ArrayList<>();
    ScanFile f = session.scanFile();
    out.add(
        new Finding(
            Severity.NOTE,
            f.path().getFileName().toString(),
            String.format(
                "%s, %,d triangles, %,d points, %s.",
                f.format(), f.triangles(), f.points(), f.colour()),
            view.navigation()::showAll,
            null,
            null));
    unit(w, out);
    for (String note : f.notes()) {
      out.add(new Finding(Severity.WARN, "While reading", note + ".", null, null, null));
    }
    double[] shift = f.shift();
    if (shift[0] != 0 || shift[1] != 0 || shift[2] != 0) {
      out.add(
          new Finding(
              Severity.NOTE,
              "Far from the origin",
              String.format(
                  "Re-centred by %.0f, %.0f, %.0f; the offset is kept and results can be written back.",
                  shift[0], shift[1], shift[2]),
              null,
              null,
              null));
    }
    long need =
        new Decimate(ENGINE_TRIANGLES, null, null, Decimate.As.CAST).memory(w) + w.scan().bytes();
    long most = Runtime.getRuntime().maxMemory();
    out.add(
        new Finding(
            need > most ? Severity.WARN : Severity.GOOD,
            "Memory",
            String.format(
                "The heaviest step needs about %.1f GB of %.0f GB.", need / 1e9, most / 1e9),
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
              "Size is known",
              String.format(
                  "%s × %s × %s.",
                  Length.format(b.width(), true),
                  Length.format(b.depth(), true),
                  Length.format(b.height(), true))));
      return;
    }
    double h = b.height();
    String text =
        String.format(
            "Tall as it lies: %s if in metres, %s if in millimetres. A length known in the scan settles it.",
            Length.format(h, true), Length.format(h / 1000, true));
    boolean datum = session.stage() == Stage.DATUM;
    out.add(
        finding(
            Severity.WARN,
            "Unit unknown",
            text,
            null,
            datum ? "Set the scale" : "Set the unit",
            datum ? Scale.class : DeclareUnit.class));
  }

  private Finding measuring() {
    if (session.unmeasured() != null) {
      return new Finding(
          Severity.WARN,
          "The scan is not measured",
          session.unmeasured().getMessage() + ". Without that there are no findings.",
          null,
          "Measure it now",
          session::measureAgain);
    }
    return new Finding(
        Severity.NOTE,
        "Measuring the scan",
        "Islands, borders and ground will be listed here.",
        null,
        null,
        null);
  }

  private List<Finding> mend(Insight i) {
    if (i == null) {
      return List.of(measuring());
    }
    List<Finding> out = new ArrayList<>();
    Inspection n = i.inspection();
    if (n.boundaryLoops() > 0) {
      out.add(
          finding(
              Severity.WARN,
              String.format("%,d %s", n.boundaryLoops(), n.boundaryLoops() == 1 ? "hole" : "holes"),
              String.format(
                  "%,d open edges; the longest border has %,d.",
                  n.boundaryEdges(), i.holes().length == 0 ? 0 : i.holes()[0].length / 3),
              () -> view.showLoops(List.of(i.holes())),
              "Fill the holes",
              FillHoles.class));
    } else {
      out.add(Finding.good("Closed", "No open border."));
    }
    if (n.nonManifoldEdges() > 0 || n.nonManifoldVertices() > 0) {
      out.add(finding(Severity.WARN, "Not manifold", nonManifold(n), null, "Tidy", Tidy.class));
    }
    // Points that were doubled to part two fans tear nothing and are as they should be.
    int torn = n.tornEdges() > 0 ? n.duplicateVertices() : 0;
    int untidy = n.degenerateTriangles() + n.duplicateTriangles() + torn + n.unreferencedVertices();
    if (untidy > 0) {
      out.add(finding(Severity.WARN, "Untidy", untidy(n), null, "Tidy", Tidy.class));
    }
    if (!n.consistentlyOriented()) {
      out.add(
          finding(
              Severity.WARN,
              "Inside out in places",
              "Neighbouring triangles disagree about the outside.",
              null,
              "Tidy",
              Tidy.class));
    }
    if (out.size() == 1 && out.getFirst().severity() == Severity.GOOD
        || untidy == 0 && n.nonManifoldEdges() == 0 && n.nonManifoldVertices() == 0) {
      out.add(
          Finding.good(
              "Tidy", "No doubled points, no degenerate or duplicate triangles, manifold."));
    }
    return out;
  }

  private static String untidy(Inspection n) {
    List<String> parts = new ArrayList<>();
    add(parts, n.degenerateTriangles(), "degenerate triangle");
    add(parts, n.duplicateTriangles(), "duplicate triangle");
    if (n.tornEdges() > 0) {
      add(parts, n.duplicateVertices(), "doubled point");
    }
    add(parts, n.unreferencedVertices(), "unused point");
    return String.join(", ", parts) + ".";
  }

  private static void add(List<String> parts, int n, String what) {
    if (n > 0) {
      parts.add(several(n, what));
    }
  }

  private static String nonManifold(Inspection n) {
    List<String> parts = new ArrayList<>();
    if (n.nonManifoldEdges() > 0) {
      parts.add(several(n.nonManifoldEdges(), "edge") + " of more than two triangles");
    }
    if (n.nonManifoldVertices() > 0) {
      parts.add(several(n.nonManifoldVertices(), "point") + " where separate fans meet");
    }
    return String.join(", ", parts) + ".";
  }

  private static String several(long n, String what) {
    return String.format("%,d %s%s", n, what, n == 1 ? "" : "s");
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
                "Not level",
                String.format("The largest flat part is tilted %.2f°.", tilt),
                null,
                "Level it",
                Level.class));
      } else {
        out.add(
            Finding.good(
                "Level", String.format("The largest flat part is level within %.2f°.", tilt)));
      }
    }
    double[] c = b.centre();
    boolean base = Math.abs(b.minZ()) < 1e-4 * d && Math.hypot(c[0], c[1]) < 1e-3 * d;
    if (base) {
      out.add(Finding.good("Origin at the base", "Stands on Z = 0, in the middle."));
    } else {
      boolean s = w.frame().trueSize();
      out.add(
          finding(
              Severity.WARN,
              "Origin is elsewhere",
              String.format(
                  "The base's middle is at %s, %s, %s.",
                  Length.format(c[0], s), Length.format(c[1], s), Length.format(b.minZ(), s)),
              null,
              "Move the origin",
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
              "No Cast yet",
              n > ENGINE_TRIANGLES
                  ? String.format(
                      "%,d triangles are %,.0f times the usual %,d for an engine.",
                      n, (double) n / ENGINE_TRIANGLES, ENGINE_TRIANGLES)
                  : "The scan is light already.",
              null,
              "Make a Cast",
              Decimate.class));
    }
    return List.of(
        Finding.good(
            "Cast is made",
            String.format(
                "%,d triangles, %.2f %% of the scan. %s.",
                w.cast().triangleCount(),
                100.0 * w.cast().triangleCount() / w.scan().triangleCount(),
                lastNote(Decimate.class))));
  }

  private String lastNote(Class<? extends Step> type) {
    for (History.Line l : session.history().lines().reversed()) {
      if (type.isInstance(l.entry().step()) && l.entry().on()) {
        String note = l.effect().notes().getLast();
        return note.contains("; ")
            ? Character.toUpperCase(note.charAt(note.indexOf("; ") + 2))
                + note.substring(note.indexOf("; ") + 3)
            : note;
      }
    }
    return "";
  }

  private List<Finding> unwrap(Workpiece w) {
    if (w.cast() == null) {
      return List.of(
          finding(
              Severity.ERROR,
              "No Cast",
              "Only the Cast is unwrapped.",
              null,
              "Make a Cast",
              Decimate.class));
    }
    if (w.cast().uv() == null) {
      return List.of(
          finding(
              Severity.WARN,
              "No texture coordinates",
              "The Cast needs charts before anything can be baked.",
              null,
              "Cut charts",
              MakeCharts.class));
    }
    return List.of(Finding.good("Unwrapped", lastNote(MakeCharts.class) + "."));
  }

  private List<Finding> bake(Workpiece w) {
    if (w.cast() == null || w.cast().uv() == null) {
      return List.of(
          finding(
              Severity.ERROR,
              "Nothing to bake onto",
              "The Cast needs texture coordinates.",
              null,
              w.cast() == null ? "Make a Cast" : "Cut charts",
              w.cast() == null ? Decimate.class : MakeCharts.class));
    }
    if (w.maps() == null) {
      return List.of(
          finding(
              Severity.WARN,
              "No maps yet",
              "Colour and detail are still on the scan alone.",
              null,
              "Bake",
              BakeMaps.class));
    }
    double share = w.maps().missedShare();
    String text =
        String.format(
            "%,d of %,d texels (%.3f %%).",
            w.maps().missedCount(), w.maps().covered(), 100 * share);
    if (share > 0.005) {
      return List.of(
          finding(Severity.WARN, "Missed rays", text, null, "Bake again", BakeMaps.class));
    }
    return List.of(
        Finding.good("Maps are baked", maps(w) + "."), Finding.good("Hardly a ray missed", text));
  }

  private static String maps(Workpiece w) {
    return w.maps().pictures().entrySet().stream()
        .sorted(java.util.Map.Entry.comparingByKey())
        .map(
            e ->
                String.format(
                    "%s, %,d × %,d px",
                    e.getKey().fileName(), e.getValue().width(), e.getValue().height()))
        .collect(java.util.stream.Collectors.joining("; "));
  }

  private List<Finding> ship(Workpiece w) {
    List<Finding> out = new ArrayList<>();
    if (!w.frame().trueSize()) {
      out.add(
          finding(
              Severity.WARN,
              "Unit unknown",
              "What is written will take the file's units for metres.",
              null,
              "Set the scale",
              Scale.class));
    }
    if (w.cast() == null) {
      out.add(
          finding(
              Severity.NOTE,
              "No Cast",
              "The full scan would be written.",
              null,
              "Make a Cast",
              Decimate.class));
    } else if (w.maps() == null) {
      out.add(
          finding(
              Severity.WARN,
              "No maps",
              "The Cast would be written without pictures.",
              null,
              "Bake",
              BakeMaps.class));
    }
    boolean written =
        session.history().lines().stream()
            .anyMatch(l -> l.entry().step() instanceof WriteAsset && l.entry().on());
    if (written) {
      out.add(Finding.good("Written", lastNote(WriteAsset.class) + "."));
    } else {
      out.add(
          finding(
              Severity.NOTE,
              "Not written yet",
              "Files go to " + folder() + ".",
              null,
              "Write it",
              WriteAsset.class));
    }
    return out;
  }

  private String folder() {
    return session.output().toString();
  }
}
