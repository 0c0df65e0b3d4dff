package holotome.app.window;

import holotome.app.model.Finding;
import holotome.app.model.Finding.Severity;
import holotome.app.model.Session;
import holotome.app.pane.SpacePane;
import holotome.app.words.AppWords;
import holotome.core.attribute.Attribute;
import holotome.core.bake.Along;
import holotome.core.bake.BakeMaps;
import holotome.core.bake.PaintCage;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.log.History;
import holotome.core.map.Missed;
import holotome.core.map.MissedPatch;
import holotome.core.mend.FillHoles;
import holotome.core.mend.OrientOut;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.unwrap.MakeCharts;
import holotome.view.scene.Look;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.function.Consumer;

/** What there is to say of the maps: whether there are any, and why rays missed, place by place. */
final class BakeFindings {
  /** From this share of the texels on missed rays are a matter. */
  private static final double MANY = 0.005;

  /** A reason that fewer texels have is not worth a word. */
  private static final int FEW = 16;

  /** One mesh so much larger than the other is hardly of the same thing. */
  private static final double OTHER_SIZE = 5;

  /** How much around a place is shown, as a share of the Cast's diagonal. */
  private static final double AROUND = 0.06;

  private final Session session;
  private final SpacePane view;
  private final Consumer<Class<? extends Step>> take;

  /** Which place of each reason is looked at, of the maps it belongs to. */
  private final Map<Missed, Integer> at = new EnumMap<>(Missed.class);

  private Maps of;

  BakeFindings(Session session, SpacePane view, Consumer<Class<? extends Step>> take) {
    this.session = session;
    this.view = view;
    this.take = take;
  }

  List<Finding> of(Workpiece w) {
    if (w.cast() == null || w.cast().uv() == null) {
      boolean isMade = w.cast() != null;
      return List.of(
          leading(
              Severity.ERROR,
              AppWords.of("findings.nothing-to-bake-onto"),
              AppWords.of("findings.the-cast-needs-texture-coordinates"),
              isMade ? AppWords.of("common.cut-charts") : AppWords.of("common.make-a-cast"),
              isMade ? MakeCharts.class : Decimate.class));
    }
    if (w.maps() == null) {
      return List.of(
          leading(
              Severity.WARN,
              AppWords.of("findings.no-maps-yet"),
              AppWords.of("findings.colour-and-detail-are-still"),
              AppWords.of("findings.bake"),
              BakeMaps.class));
    }
    List<Finding> out = new ArrayList<>();
    double ratio = w.scan().bounds().diagonal() / w.cast().bounds().diagonal();
    if (ratio > OTHER_SIZE || ratio < 1 / OTHER_SIZE) {
      out.add(
          leading(
              Severity.ERROR,
              AppWords.of("bake-findings.other-size"),
              AppWords.of("bake-findings.other-size-text", ratio),
              AppWords.of("common.make-a-cast"),
              Decimate.class));
    }
    Maps m = w.maps();
    for (Missed reason : Missed.values()) {
      List<MissedPatch> patches = m.patches().stream().filter(p -> p.reason() == reason).toList();
      int texels = patches.stream().mapToInt(MissedPatch::texels).sum();
      if (texels >= FEW) {
        out.add(missed(w, reason, patches, texels));
      }
    }
    if (printsEdges(w)) {
      out.add(
          leading(
              Severity.WARN,
              AppWords.of("bake-findings.edges"),
              AppWords.of("bake-findings.edges-text"),
              AppWords.of("findings.bake-again"),
              BakeMaps.class));
    }
    if (m.missedShare() <= MANY) {
      out.addFirst(
          Finding.good(
              AppWords.of("findings.hardly-a-ray-missed"),
              AppWords.of(
                  "findings.of-texels", m.missedCount(), m.covered(), 100 * m.missedShare())));
    }
    out.addFirst(Finding.good(AppWords.of("findings.maps-are-baked"), maps(m) + "."));
    return out;
  }

  /** Whether rays run along normals that part at edges: those print themselves into the maps. */
  private boolean printsEdges(Workpiece w) {
    Along along = null;
    for (History.Line l : session.history().lines()) {
      if (l.entry().on() && l.entry().step() instanceof BakeMaps b) {
        along = b.along();
      }
    }
    boolean isHard =
        w.cast().attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.CORNER) != null;
    return along == Along.FACES || along == Along.SHADED && isHard;
  }

  private Finding missed(Workpiece w, Missed reason, List<MissedPatch> patches, int texels) {
    String key = "bake-findings." + reason.name().toLowerCase(java.util.Locale.ROOT);
    boolean isMany = reason.isLost() && texels > MANY * w.maps().covered();
    Class<? extends Step> mends =
        switch (reason) {
          case HOLE -> FillHoles.class;
          case INSIDE -> OrientOut.class;
          case NOTHING, OTHER -> PaintCage.class;
        };
    String action =
        switch (reason) {
          case HOLE -> AppWords.of("common.fill-the-holes");
          case INSIDE -> StepKind.of(OrientOut.class).title();
          case NOTHING, OTHER -> AppWords.of("bake-findings.see-the-cage");
        };
    return new Finding(
        isMany ? Severity.WARN : Severity.NOTE,
        AppWords.of(key + "-title"),
        AppWords.count("bake-findings.places", patches.size(), texels)
            + " "
            + AppWords.of(key + "-text"),
        () -> show(w, reason, patches, 0),
        action,
        () -> take.accept(mends),
        patches.size() > 1
            ? new Finding.Places(
                () -> show(w, reason, patches, -1), () -> show(w, reason, patches, 1))
            : null);
  }

  /** Comes to a place, in the look that shows where rays missed. */
  private void show(Workpiece w, Missed reason, List<MissedPatch> patches, int by) {
    if (of != w.maps()) {
      of = w.maps();
      at.clear();
    }
    int n = patches.size();
    int now = Math.floorMod(at.getOrDefault(reason, by < 0 ? 0 : by > 0 ? -1 : 0) + by, n);
    at.put(reason, now);
    view.settings().setLook(Look.MISSED);
    session.changed();
    int triangle = patches.get(now).triangle();
    if (triangle >= 0 && w.cast() != null) {
      view.showBox(around(w.cast(), triangle, w.frame().toWork()));
    }
    session.say(AppWords.of("space-pane.place-of", now + 1, n));
  }

  private static Box around(Mesh cast, int triangle, Similarity toWork) {
    double[] middle = new double[3];
    for (int c = 0; c < 3; c++) {
      int v = cast.triangles()[3 * triangle + c];
      for (int k = 0; k < 3; k++) {
        middle[k] += cast.xyz()[3 * v + k] / 3.0;
      }
    }
    double[] p = toWork.apply(middle);
    double r = AROUND * cast.bounds().diagonal() * toWork.scale();
    return new Box(p[0] - r, p[1] - r, p[2] - r, p[0] + r, p[1] + r, p[2] + r);
  }

  private Finding leading(
      Severity severity, String title, String text, String action, Class<? extends Step> to) {
    return Findings.leading(take, severity, title, text, null, action, to);
  }

  private static String maps(Maps m) {
    String names =
        m.pictures().keySet().stream()
            .sorted()
            .map(k -> k.rule().title())
            .collect(java.util.stream.Collectors.joining(", "));
    return AppWords.of("findings.px", names, m.missed().width(), m.missed().height());
  }
}
