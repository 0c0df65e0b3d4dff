package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.tool.FlatTool;
import holotome.app.tool.Tool;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.map.MapKind;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.unit.Length;
import holotome.view.scene.Layer;
import holotome.view.scene.LineLayer;
import holotome.view.scene.Look;
import holotome.view.scene.Setting;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import javafx.application.Platform;

/** How the work is shown: the look of each stage, light, background, grid, and a clipping plane. */
public final class ViewSettings {
  private static final int TOOL_LINES = 0xff1f7a6d;

  private static final float LINE_WIDTH = 1.5f;

  private static final double STEP = 1.25;
  private static final double DIMMEST = 0.2;
  private static final double BRIGHTEST = 5;

  private final Session session;
  private final Map<Stage, Look> looks = new EnumMap<>(Stage.class);

  /** What each stage showed before the look that was switched to. */
  private final Map<Stage, Look> last = new EnumMap<>(Stage.class);

  private boolean grid = true;
  private boolean sized;
  private boolean compared;
  private MapKind map;
  private Setting setting = Setting.PLAIN;
  private double[] normal;
  private double depth;

  private boolean turnsByMiddle;

  private Tool tool;

  /** The look of the tool at hand; null once another was taken, or where it has none. */
  private Look ofTool;

  private final ShownFigures figures;
  private final ShownCage cage;

  ViewSettings(Session session) {
    this.session = session;
    figures = new ShownFigures(session);
    cage = new ShownCage(session);
  }

  /** What the tool at hand wants to be seen: from where rays of a bake start, or its lines. */
  List<Layer> ofTool(Workpiece w) {
    if (tool == null || !tool.showsCage()) {
      cage.rest();
      double[] lines = tool == null ? null : tool.surfaceLines();
      if (lines == null) {
        return List.of();
      }
      Layer.Hidden behind = tool.areLinesSeenThrough() ? Layer.Hidden.FAINT : Layer.Hidden.LEFT_OUT;
      return List.of(new LineLayer(lines, TOOL_LINES, LINE_WIDTH, behind));
    }
    return cage.layers(w);
  }

  /** The figures of looks that draw one for each triangle. */
  ShownFigures figures() {
    return figures;
  }

  /** The tool at hand; null for none. */
  Tool tool() {
    return tool;
  }

  /** Shows the look of a tool as long as that is at hand, unless another is taken. */
  void setTool(Tool next) {
    boolean isDrawnFlat = tool instanceof FlatTool || next instanceof FlatTool;
    tool = next;
    Look look = next == null ? null : next.look();
    if (look != ofTool || isDrawnFlat) {
      ofTool = look;
      // The tool is still being taken up: what says how the work is shown follows after that.
      Platform.runLater(session::changed);
    }
  }

  Setting setting() {
    return setting;
  }

  /** The same with the edges of triangles, where a tool works on those. */
  Setting setting(Tool with) {
    return setting.withEdges(with != null && with.isOnTriangles());
  }

  public boolean hasGrid() {
    return grid;
  }

  public void switchGrid() {
    grid = !grid;
  }

  /** Whether the work's size is drawn about it. */
  public boolean isSized() {
    return sized;
  }

  public void switchSized() {
    sized = !sized;
  }

  /** Whether the state before is shown on the left of a line across the pane. */
  public boolean isCompared() {
    return compared;
  }

  public void switchCompared() {
    compared = !compared;
  }

  public void brighten(boolean more) {
    double b = setting.brightness() * (more ? STEP : 1 / STEP);
    setting = setting.withBrightness(Math.clamp(b, DIMMEST, BRIGHTEST));
  }

  public void usualBrightness() {
    setting = setting.withBrightness(1);
  }

  public void nextBackground() {
    Setting.Background[] all = Setting.Background.values();
    setting = setting.withBackground(all[(setting.background().ordinal() + 1) % all.length]);
  }

  public boolean isClipping() {
    return normal != null;
  }

  /** Leaves out what lies before a plane through a point, across a direction; or nothing again. */
  void switchClip(double[] direction, double[] point) {
    normal = normal == null ? direction : null;
    depth = normal == null ? 0 : Vec.dot(point, direction);
    place();
  }

  void moveClip(double by) {
    depth += by;
    place();
  }

  private void place() {
    setting =
        setting.withClip(
            normal == null ? null : new double[] {normal[0], normal[1], normal[2], -depth});
  }

  /** How far the clipping plane lies from the origin, to be read. */
  public String clipText(boolean trueSize) {
    return AppWords.of("view-settings.clipped-at-the-wheel-moves", Length.format(depth, trueSize));
  }

  Look look(Workpiece w, Mesh m) {
    Look l = ofTool != null ? ofTool : looks.getOrDefault(session.stage(), preset());
    if (m == null) {
      return l;
    }
    if (l.needsUv() && m.uv() == null
        || (l == Look.BAKED || l == Look.MISSED) && w.maps() == null) {
      return m.hasColour() && session.stage() != Stage.REDUCE ? Look.COLOUR : Look.CLAY;
    }
    return l;
  }

  private Look preset() {
    return switch (session.stage()) {
      case INTAKE, TRIM, DATUM -> Look.COLOUR;
      case MEND -> Look.CLAY;
      case REDUCE -> Look.WIRE;
      case UNWRAP -> Look.CHARTS;
      case BAKE, SHIP -> Look.BAKED;
    };
  }

  public void setLook(Look look) {
    take(look);
    map = null;
  }

  private void take(Look look) {
    looks.put(session.stage(), look);
    ofTool = null;
  }

  /** Takes a look, or where it is the one shown already the one before it. */
  void switchLook(Look look, Look now) {
    if (now == look) {
      setLook(last.getOrDefault(session.stage(), preset()));
    } else {
      last.put(session.stage(), now);
      setLook(look);
    }
  }

  /** Shows one map as it is, without light. */
  public void setMap(MapKind alone) {
    take(Look.BAKED);
    map = alone;
  }

  /** The map that is shown alone; null for all together, or where there is none of the kind. */
  MapKind map(Workpiece w) {
    boolean there = map != null && w.maps() != null && w.maps().pictures().containsKey(map);
    return there ? map : null;
  }

  /** What a look is called, for the work as it is. */
  String title(Look look, Workpiece w) {
    MapKind alone = look == Look.BAKED ? map(w) : null;
    return alone == null
        ? look.title()
        : AppWords.of("view-settings.map-alone", alone.rule().title());
  }

  /**
   * Takes the next look that the mesh at hand allows.
   *
   * @param compares whether there is something to compare it with
   */
  void nextLook(Workpiece w, Mesh m, boolean compares) {
    Look now = look(w, m);
    if (now == Look.BAKED) {
      // All maps together, then each alone.
      MapKind[] kinds = MapKind.values();
      for (int k = map(w) == null ? 0 : map.ordinal() + 1; k < kinds.length; k++) {
        if (w.maps().pictures().containsKey(kinds[k])) {
          map = kinds[k];
          return;
        }
      }
      map = null;
    }
    Look[] all = Look.values();
    for (int i = 1; i <= all.length; i++) {
      Look l = all[(now.ordinal() + i) % all.length];
      boolean can =
          m != null
              && (!l.needsUv() || m.uv() != null)
              && (l != Look.DEVIATION || compares)
              && (l != Look.IMPORTANCE || Importance.of(m) != null)
              && (l != Look.BAKED && l != Look.MISSED || w.maps() != null)
              && (l != Look.COLOUR && l != Look.FLAT_COLOUR || m.hasColour());
      if (can) {
        take(l);
        return;
      }
    }
  }

  /** Whether the middle button turns and the right one shifts. */
  boolean turnsByMiddle() {
    return turnsByMiddle;
  }

  public void setTurnsByMiddle(boolean on) {
    turnsByMiddle = on;
  }
}
