package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/**
 * A tool of Datum whose step may take several picked points, or what is selected: points are picked
 * one after the other, the selection is the session's.
 */
final class DatumTool extends StepTool {
  private final StepKind kind;
  private final List<double[]> picked = new ArrayList<>();
  private Map<String, Object> stored;
  private History on;

  DatumTool(Session session, Class<? extends Step> type, BiFunction<Step, History, String> verb) {
    super(session, type, Stage.DATUM, true, Map.of(), verb, w -> List.of());
    kind = StepKind.of(type);
  }

  @Override
  public Node form() {
    if (session.reopened() < 0 && session.history() != on) {
      // Points of working space mean another place once the work has been moved.
      picked.clear();
      stored = null;
    }
    on = session.history();
    Node form = super.form();
    for (String name : List.of("points", "picks")) {
      if (has(name)) {
        hide(name);
      }
    }
    return form;
  }

  private boolean has(String name) {
    return kind.fields().stream().anyMatch(f -> f.name().equals(name));
  }

  private String by() {
    return String.valueOf(values().get("by"));
  }

  /** How many points the chosen way takes; 0 for none. */
  private int wanted() {
    return switch (by()) {
      case "points" -> 3;
      case "direction", "edge" -> 2;
      default -> 0;
    };
  }

  @Override
  public String missing() {
    int more = wanted() - picked.size();
    if (more > 0 && stored == null) {
      return switch (by()) {
        case "points" ->
            picked.isEmpty()
                ? AppWords.of("datum-tool.click-three-points-of-a")
                : AppWords.count("datum-tool.click-more-points", more);
        case "edge" ->
            more == 2
                ? AppWords.of("datum-tool.click-both-ends-of-an")
                : AppWords.of("datum-tool.click-its-other-end");
        default ->
            more == 2
                ? AppWords.of("datum-tool.click-a-point-then-one")
                : AppWords.of("datum-tool.click-one-nearer-the-front");
      };
    }
    if (by().equals("selection") && session.selected() == null && stored == null) {
      return AppWords.of("datum-tool.select-the-part-in-trim");
    }
    if (values().get("point") != null) {
      return null;
    }
    return switch (by()) {
      case "region", "wall" -> AppWords.of("datum-tool.click-the-middle-of-the");
      case "null" ->
          switch (String.valueOf(values().get("at"))) {
            case "point" -> AppWords.of("datum-tool.click-where-the-origin-goes");
            case "ball-centre" -> AppWords.of("datum-tool.click-on-the-ball");
            case "hole-centre" -> AppWords.of("datum-tool.click-near-the-hole");
            default -> null;
          };
      default -> null;
    };
  }

  @Override
  public Step step() {
    Map<String, Object> v = new LinkedHashMap<>(values());
    if (wanted() > 0 && picked.size() == wanted()) {
      List<Double> flat = new ArrayList<>();
      for (double[] p : picked) {
        for (double x : p) {
          flat.add(x);
        }
      }
      v.put("points", flat);
    } else if (stored != null && stored.containsKey("points") && wanted() > 0) {
      v.put("points", stored.get("points"));
    }
    if (by().equals("selection")) {
      if (session.selected() != null) {
        v.put("picks", StepKind.plain(session.selected().picks()));
      } else if (stored != null && stored.get("picks") != null) {
        v.put("picks", stored.get("picks"));
      }
    }
    return kind.create(v);
  }

  @Override
  public void load(Step step) {
    super.load(step);
    stored = kind.values(step);
    picked.clear();
  }

  @Override
  protected void changed() {
    picked.clear();
  }

  @Override
  public void end(ViewPort view) {
    picked.clear();
    stored = null;
  }

  @Override
  public void drop(ViewPort view) {
    picked.clear();
    stored = null;
    view.repaint();
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    if (wanted() == 0) {
      super.pressed(view, e);
      return;
    }
    view.pick(
        e.getX(),
        e.getY(),
        p -> {
          if (p == null) {
            return;
          }
          if (picked.size() >= wanted()) {
            picked.clear();
          }
          picked.add(p);
          view.repaint();
          edited();
        });
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (wanted() == 0) {
      super.draw(view, g);
    }
    for (int i = 0; i < picked.size(); i++) {
      if (i > 0) {
        double[] a = picked.get(i - 1);
        double[] b = picked.get(i);
        Marks.line(view, g, new double[] {a[0], a[1], a[2], b[0], b[1], b[2]}, Marks.VERDIGRIS);
      }
      Marks.ring(g, view.project(picked.get(i)));
    }
  }
}
