package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.core.log.History;
import holotome.core.select.Fence;
import holotome.core.select.StoredSelection;
import holotome.core.step.Step;
import holotome.core.trim.CutSelection;
import java.util.Arrays;
import java.util.BitSet;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.ChoiceBox;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;

/** Draws a loop around triangles: what is visible in it, or all that lies behind it. */
public final class LassoTool extends Tool {
  private double[] path = new double[256];
  private int length;
  private boolean drawing;
  private Fence onlyFence;
  private CutSelection.Then then = CutSelection.Then.REMOVE;
  private CutSelection loaded;

  public LassoTool(Session session) {
    super(session);
  }

  @Override
  public String title() {
    return "Lasso";
  }

  @Override
  public Stage stage() {
    return Stage.TRIM;
  }

  @Override
  public String hint() {
    return "Draw a loop in the view. With Shift it adds, with Ctrl it takes away; V switches between what is visible and all the way through.";
  }

  @Override
  public Node form() {
    ChoiceBox<String> c = new ChoiceBox<>();
    c.setId("field-then");
    c.getItems().setAll("Remove", "Keep only");
    c.getSelectionModel().select(then == CutSelection.Then.REMOVE ? 0 : 1);
    c.setOnAction(
        e -> {
          then =
              c.getSelectionModel().getSelectedIndex() == 0
                  ? CutSelection.Then.REMOVE
                  : CutSelection.Then.KEEP;
          edited();
        });
    return new VBox(6, Fields.row("The selection", c));
  }

  @Override
  public String missing() {
    return session.selection() == null && loaded == null ? "Draw a loop to select" : null;
  }

  @Override
  public Step step() {
    BitSet s = session.selection();
    if (s == null) {
      return new CutSelection(loaded.picks(), loaded.fence(), loaded.stored(), then);
    }
    if (onlyFence != null) {
      return new CutSelection(null, onlyFence, null, then);
    }
    return new CutSelection(
        null, null, StoredSelection.encode(s, session.current().scan().triangleCount()), then);
  }

  @Override
  public void load(Step step) {
    loaded = (CutSelection) step;
    then = loaded.then();
  }

  @Override
  public void begin(ViewPort view) {
    onlyFence = null;
  }

  @Override
  public void end(ViewPort view) {
    loaded = null;
    length = 0;
  }

  @Override
  public void drop(ViewPort view) {
    length = 0;
    drawing = false;
    onlyFence = null;
    session.select(null);
  }

  @Override
  public String verb(History trial) {
    BitSet s = session.selection();
    if (s == null) {
      return then == CutSelection.Then.REMOVE ? "Remove the selection" : "Keep the selection";
    }
    return String.format(
        then == CutSelection.Then.REMOVE ? "Remove %,d triangles" : "Keep only %,d triangles",
        s.cardinality());
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    length = 0;
    drawing = true;
    add(e.getX(), e.getY());
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    if (drawing && Math.hypot(e.getX() - path[length - 2], e.getY() - path[length - 1]) >= 2) {
      add(e.getX(), e.getY());
      view.repaint();
    }
  }

  private void add(double x, double y) {
    if (length + 2 > path.length) {
      path = Arrays.copyOf(path, 2 * length);
    }
    path[length++] = x;
    path[length++] = y;
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (!drawing) {
      return;
    }
    drawing = false;
    double[] outline = Arrays.copyOf(path, length);
    length = 0;
    view.repaint();
    boolean add = e.isShiftDown();
    boolean take = e.isControlDown();
    if (outline.length < 6) {
      if (!add && !take) {
        onlyFence = null;
        session.select(null);
        edited();
      }
      return;
    }
    if (view.isThrough()) {
      Fence fence = new Fence(view.toPixels(), outline);
      session
          .jobs()
          .run(
              "Selecting",
              work -> fence.select(session.current().scan(), session.current().frame(), work),
              set -> combine(set, add, take, fence));
    } else {
      view.visibleWithin(outline, set -> combine(set, add, take, null));
    }
  }

  /** A selection made by one fence alone stays a fence, which fits any scan. */
  private void combine(BitSet set, boolean add, boolean take, Fence fence) {
    BitSet old = session.selection();
    BitSet result = set;
    if (old != null && (add || take)) {
      result = (BitSet) old.clone();
      if (add) {
        result.or(set);
      } else {
        result.andNot(set);
      }
      onlyFence = null;
    } else if (take) {
      result = new BitSet();
    } else {
      onlyFence = fence;
    }
    loaded = null;
    session.select(result);
    edited();
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (length < 4) {
      return;
    }
    g.setLineWidth(1.4);
    g.setStroke(Color.web("#6C4AB6"));
    g.setFill(Color.web("#6C4AB6", 0.10));
    g.beginPath();
    g.moveTo(path[0], path[1]);
    for (int i = 2; i < length; i += 2) {
      g.lineTo(path[i], path[i + 1]);
    }
    g.closePath();
    g.fill();
    g.stroke();
  }
}
