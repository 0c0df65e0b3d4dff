package holotome.app.tool;

import holotome.app.model.HandEditing;
import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.mend.Edit;
import holotome.core.mend.EditMesh;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/**
 * Edits by hand: a click chooses a point, an edge or a triangle, a drag moves what is chosen, and
 * the buttons do the rest. Every edit is made at once; those of a sitting are one entry.
 */
final class EditTool extends HandTool {
  /** Pixels before a press is a drag. */
  private static final double STILL = 3;

  /** Where it is looked for a surface beside a click that meets none, in pixels. */
  private static final double BESIDE = 5;

  private static final int[][] ROUND = {
    {0, 0}, {1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}
  };

  private final HandEditing hand;
  private final EditForm form;
  private List<Feature> chosen = List.of();
  private Vicinity vicinity;
  private Feature hovered;

  /** The Log for which things were chosen, and what is chosen once it has changed. */
  private History chosenFor;

  private List<Feature> chosenThen = List.of();
  private double[] held;
  private double[] by;
  private double startX;
  private double startY;
  private double lastX;
  private double lastY;

  private boolean down;

  /** Counts presses: an answer for an earlier one only chooses. */
  private int press;

  EditTool(Session session) {
    super(session, EditMesh.class, Stage.MEND);
    hand = new HandEditing(session);
    form = new EditForm(this, hand);
  }

  @Override
  public boolean isOnTriangles() {
    return true;
  }

  @Override
  public Node form() {
    follow();
    form.update();
    return form.node();
  }

  @Override
  public String missing() {
    return session.current() != null && chosen.isEmpty() ? AppWords.of("edit-tool.click") : null;
  }

  /** What is chosen now. */
  List<Feature> chosen() {
    return chosen;
  }

  /** Makes edits, and what is then chosen. */
  void make(List<Edit> edits, List<Feature> then) {
    if (edits.isEmpty() || session.jobs().isBusy()) {
      return;
    }
    chosenThen = then;
    hand.make(edits);
  }

  void takeOut(int index) {
    if (!session.jobs().isBusy()) {
      chosenThen = List.of();
      hand.takeOut(index);
    }
  }

  /** What was chosen belongs to the mesh it was chosen on. */
  private void follow() {
    if (session.history() != chosenFor) {
      chosenFor = session.history();
      hovered = null;
      take(chosenThen);
      chosenThen = List.of();
    }
  }

  private void take(List<Feature> next) {
    chosen = List.copyOf(next);
    vicinity = null;
    form.update();
    Workpiece w = session.current();
    if (chosen.isEmpty() || w == null) {
      return;
    }
    List<Feature> of = chosen;
    Mesh mesh = w.scan();
    Frame frame = w.frame();
    List<double[]> places = Feature.all(of);
    session
        .jobs()
        .fetch(
            () -> Vicinity.of(mesh, frame, places),
            v -> {
              if (chosen == of) {
                vicinity = v;
              }
            });
  }

  /** Chooses what lies along the rim between the last two points chosen, the shorter way. */
  void alongTheRim() {
    List<Feature> points = chosen.stream().filter(f -> f.size() == 1).toList();
    Insight insight = session.insight();
    if (points.size() < 2 || insight == null) {
      return;
    }
    double[] a = points.get(points.size() - 2).points();
    double[] b = points.getLast().points();
    List<double[]> way = RimWay.between(insight.holes(), session.current().frame(), a, b);
    if (way == null) {
      session.fail(Failure.cannot(AppWords.of("edit-tool.no-rim")));
      return;
    }
    List<Feature> next = new ArrayList<>(chosen);
    next.remove(points.get(points.size() - 2));
    next.remove(points.getLast());
    for (int i = 1; i < way.size(); i++) {
      next.add(new Feature(Feature.flat(List.of(way.get(i - 1), way.get(i)))));
    }
    take(next);
    edited();
  }

  // --- pointer -------------------------------------------------------------------------------

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    follow();
    held = null;
    by = null;
    down = true;
    startX = e.getX();
    startY = e.getY();
    lastX = startX;
    lastY = startY;
    int mine = ++press;
    if (e.getButton() != MouseButton.PRIMARY) {
      return;
    }
    boolean more = e.isShiftDown();
    feature(
        view,
        startX,
        startY,
        0,
        f -> {
          pressedOn(f, more);
          if (press != mine) {
            // The next press was there already: this one only chose.
            held = null;
          } else {
            // The pointer may have gone on, or let go, before it was known what it is on.
            drag(view);
            if (!down) {
              letGo();
            }
          }
          view.repaint();
        });
  }

  private void pressedOn(Feature f, boolean more) {
    if (f == null) {
      if (!more) {
        take(List.of());
      }
    } else {
      boolean isChosen = chosen.stream().anyMatch(f::isSame);
      held = more ? null : f.corner(0);
      if (more) {
        take(f.toggledIn(chosen));
      } else if (!isChosen) {
        take(List.of(f));
      }
    }
    edited();
  }

  /**
   * What lies under a pixel, or close beside it where there is no surface.
   *
   * @param round how often it was looked beside it; -1 not to do so
   */
  private void feature(ViewPort view, double x, double y, int round, Consumer<Feature> then) {
    double px = x + BESIDE * ROUND[Math.max(0, round)][0];
    double py = y + BESIDE * ROUND[Math.max(0, round)][1];
    view.pickTriangle(
        px,
        py,
        (t, p) -> {
          Mesh mesh = view.mesh();
          Workpiece w = session.current();
          if (t >= 0 && w != null && mesh == w.scan() && t < mesh.triangleCount()) {
            then.accept(Feature.under(view, triangle(mesh, w.frame(), t), form.size(), x, y));
          } else if (round >= 0 && round + 1 < ROUND.length) {
            feature(view, x, y, round + 1, then);
          } else {
            then.accept(null);
          }
        });
  }

  private static double[] triangle(Mesh mesh, Frame frame, int t) {
    double[] out = new double[9];
    for (int k = 0; k < 3; k++) {
      int v = 3 * mesh.triangles()[3 * t + k];
      double[] p = frame.toWork().apply(mesh.xyz()[v], mesh.xyz()[v + 1], mesh.xyz()[v + 2]);
      System.arraycopy(p, 0, out, 3 * k, 3);
    }
    return out;
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    lastX = e.getX();
    lastY = e.getY();
    drag(view);
  }

  private void drag(ViewPort view) {
    double dx = lastX - startX;
    double dy = lastY - startY;
    if (held != null && (by != null || Math.hypot(dx, dy) > STILL)) {
      double[] normal = vicinity == null ? null : vicinity.normal();
      by = form.along().way(view, held, normal, dx, dy);
      view.repaint();
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    down = false;
    letGo();
  }

  private void letGo() {
    if (held != null && by != null && Vec.length(by) > 0) {
      double[] way = by;
      double[] at = Feature.flat(Feature.all(chosen));
      List<Feature> then = chosen.stream().map(f -> f.moved(way)).toList();
      make(List.of(new Edit(Edit.How.MOVE, at, null, way)), then);
    }
    held = null;
    by = null;
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    int mine = press;
    feature(
        view,
        e.getX(),
        e.getY(),
        -1,
        f -> {
          if (press == mine && held == null) {
            hovered = f;
            view.repaint();
          }
        });
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    return !e.isShiftDown() && form.key(e.getCode());
  }

  @Override
  public void drop(ViewPort view) {
    take(List.of());
    held = null;
    by = null;
  }

  @Override
  public void end(ViewPort view) {
    drop(view);
    hovered = null;
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    follow();
    if (hovered != null && by == null) {
      FeatureMarks.draw(view, g, hovered, false);
    }
    if (by != null && vicinity != null) {
      for (int i = 0; i < vicinity.count(); i++) {
        Marks.line(view, g, vicinity.outline(i, by), Marks.VERDIGRIS);
      }
    }
    for (Feature f : chosen) {
      FeatureMarks.draw(view, g, by == null ? f : f.moved(by), true);
    }
    if (by != null) {
      boolean sized = session.current().frame().trueSize();
      double[] at = view.project(Vec.add(held, by));
      if (at != null) {
        Marks.slip(g, new double[] {at[0], at[1] - 22}, Length.format(Vec.length(by), sized));
      }
    }
  }
}
