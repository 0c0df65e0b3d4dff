package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.core.datum.Scale;
import holotome.core.log.History;
import holotome.core.mesh.Box;
import holotome.core.mesh.Vec;
import holotome.core.step.KnownLength;
import holotome.core.step.Length;
import holotome.core.step.Step;
import holotome.core.step.Workpiece;
import holotome.core.task.Failure;
import java.util.List;
import javafx.geometry.VPos;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.CheckBox;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * Two picked points and the true distance between them. The points can be picked on the scan as it
 * was opened, whatever has been cut away since: both stand in the same base coordinates.
 */
public final class ScaleTool extends Tool {
  private static final int LOUPE = 21;
  private static final int ZOOM = 6;

  private double[] from;
  private double[] to;
  private String is = "";
  private boolean asOpened;
  private boolean chosen;
  private double[] pointer;
  private int nearest;
  private Label measured;
  private final TextField[] ends = new TextField[2];
  private boolean writing;

  public ScaleTool(Session session) {
    super(session);
  }

  @Override
  public String title() {
    return "Scale";
  }

  @Override
  public Stage stage() {
    return Stage.DATUM;
  }

  @Override
  public String hint() {
    return "Pick both ends of something whose length is known, then type the length. A picked point can be dragged.";
  }

  @Override
  public Node form() {
    if (!chosen && session.history() != null) {
      asOpened = session.current().scan() != session.history().stateAfter(0).scan();
    }
    CheckBox opened = new CheckBox("Pick on the scan as opened");
    opened.setId("field-as-opened");
    opened.setSelected(asOpened);
    opened.setOnAction(
        e -> {
          asOpened = opened.isSelected();
          chosen = true;
          edited();
        });
    measured = new Label();
    measured.getStyleClass().add("figure");
    measured.setId("measured");
    TextField length = new TextField(is);
    length.setId("field-is");
    length.setPromptText("500 mm");
    length.setPrefColumnCount(10);
    length
        .textProperty()
        .addListener(
            (o, was, now) -> {
              is = now;
              edited();
            });
    ends[0] = end("field-from", 0);
    ends[1] = end("field-to", 1);
    write();
    return new VBox(
        6,
        opened,
        Fields.row("One end", ends[0]),
        Fields.row("Other end", ends[1]),
        Fields.row("In the scan", measured),
        Fields.row("True length", length));
  }

  /** A field for one end's x, y, z: filled in by picking, or typed. */
  private TextField end(String id, int which) {
    TextField t = new TextField();
    t.setId(id);
    t.setPromptText("x, y, z or pick");
    t.setPrefWidth(196);
    t.textProperty()
        .addListener(
            (o, was, now) -> {
              if (!writing) {
                typed(t, which, now);
              }
            });
    return t;
  }

  private void typed(TextField field, int which, String text) {
    double[] p = Points.parse(text);
    field.getStyleClass().remove("wrong");
    if (p == null && !text.isBlank()) {
      field.getStyleClass().add("wrong");
    }
    if (which == 0) {
      from = p;
    } else {
      to = p;
    }
    showLength();
    edited();
  }

  private void write() {
    if (measured == null) {
      return;
    }
    writing = true;
    ends[0].setText(from == null ? "" : Points.brief(from));
    ends[1].setText(to == null ? "" : Points.brief(to));
    writing = false;
    showLength();
  }

  private void showLength() {
    if (from == null || to == null) {
      measured.setText(from == null ? "pick one end" : "pick the other end");
      measured.getStyleClass().add("soft");
    } else {
      measured.getStyleClass().removeAll("soft");
      measured.setText(Length.format(Vec.distance(from, to), session.current().frame().trueSize()));
    }
  }

  @Override
  public String missing() {
    if (from == null || to == null) {
      return from == null
          ? "Pick one end of a known length in the view"
          : "Pick the other end in the view";
    }
    return is.isBlank() ? "Type the true length, such as 500 mm" : null;
  }

  @Override
  public Step step() {
    Length l = Length.parse(is, Length.Unit.MM);
    Scale scale = new Scale(List.of(new KnownLength(from, to, l)));
    Box b = session.current().frame().workBounds(session.current().current());
    double size = scale.factor() * Math.max(b.width(), Math.max(b.depth(), b.height()));
    if (size > 20_000 || size < 1e-4) {
      throw Failure.usage(
          "That would make the scan "
              + Length.format(size, true)
              + " across; check the length and its unit");
    }
    return scale;
  }

  @Override
  public void load(Step step) {
    KnownLength k = ((Scale) step).lengths().getFirst();
    from = k.from();
    to = k.to();
    is = k.is().toString();
  }

  @Override
  public void end(ViewPort view) {
    from = null;
    to = null;
    pointer = null;
    chosen = false;
  }

  @Override
  public void drop(ViewPort view) {
    from = null;
    to = null;
    write();
    view.repaint();
    edited();
  }

  @Override
  public String verb(History trial) {
    return is.isBlank() ? "Set the scale" : "Set the scale by " + is.strip();
  }

  @Override
  public Workpiece shows() {
    if (!asOpened || session.history() == null) {
      return null;
    }
    // The scan as opened, placed as the work stands now.
    return Workpiece.of(session.history().stateAfter(0).scan(), session.current().frame());
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    pointer = new double[] {e.getX(), e.getY()};
    view.repaint();
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    moved(view, e);
    nearest = from == null ? 0 : to == null ? 1 : nearer(view, e);
    take(view, e);
  }

  private int nearer(ViewPort view, MouseEvent e) {
    double[] a = view.project(from);
    double[] b = view.project(to);
    if (a == null || b == null) {
      return 1;
    }
    return Math.hypot(e.getX() - a[0], e.getY() - a[1])
            < Math.hypot(e.getX() - b[0], e.getY() - b[1])
        ? 0
        : 1;
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    moved(view, e);
    take(view, e);
  }

  private void take(ViewPort view, MouseEvent e) {
    int which = nearest;
    view.pick(
        e.getX(),
        e.getY(),
        p -> {
          if (p == null) {
            return;
          }
          if (which == 0) {
            from = p;
          } else {
            to = p;
          }
          write();
          view.repaint();
          edited();
        });
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    double[] a = from == null ? null : view.project(from);
    double[] b = to == null ? null : view.project(to);
    if (a != null && b != null) {
      g.setStroke(Color.web("#F6F4EF"));
      g.setLineWidth(4);
      g.strokeLine(a[0], a[1], b[0], b[1]);
      g.setStroke(Color.web("#1F7A6D"));
      g.setLineWidth(2);
      g.strokeLine(a[0], a[1], b[0], b[1]);
      String text = Length.format(Vec.distance(from, to), session.current().frame().trueSize());
      g.setFont(Font.font("IBM Plex Mono", 12));
      double x = (a[0] + b[0]) / 2;
      double y = (a[1] + b[1]) / 2 - 16;
      g.setFill(Color.web("#F6F4EF"));
      g.fillRect(x - 4 * text.length() - 4, y - 9, 8 * text.length() + 8, 18);
      g.setFill(Color.web("#1D2B33"));
      g.setTextAlign(TextAlignment.CENTER);
      g.setTextBaseline(VPos.CENTER);
      g.fillText(text, x, y);
    }
    Marks.ring(g, a);
    Marks.ring(g, b);
    loupe(view, g);
  }

  /** Shows the pixels around the pointer enlarged, with the very pixel that would be picked. */
  private void loupe(ViewPort view, GraphicsContext g) {
    if (pointer == null || from != null && to != null) {
      return;
    }
    int px = (int) pointer[0];
    int py = (int) pointer[1];
    double side = LOUPE * ZOOM;
    double x0 = pointer[0] + 24 + side > view.width() ? pointer[0] - 24 - side : pointer[0] + 24;
    double y0 = pointer[1] - 24 - side < 0 ? pointer[1] + 24 : pointer[1] - 24 - side;
    for (int i = 0; i < LOUPE; i++) {
      for (int j = 0; j < LOUPE; j++) {
        int c = view.pixel(px + i - LOUPE / 2, py + j - LOUPE / 2);
        g.setFill(Color.rgb(c >> 16 & 255, c >> 8 & 255, c & 255));
        g.fillRect(x0 + i * ZOOM, y0 + j * ZOOM, ZOOM, ZOOM);
      }
    }
    g.setStroke(Color.web("#1D2B33"));
    g.setLineWidth(1);
    g.strokeRect(x0 - 0.5, y0 - 0.5, side + 1, side + 1);
    double c = LOUPE / 2 * ZOOM;
    g.setStroke(Color.web("#F6F4EF"));
    g.strokeRect(x0 + c, y0 + c, ZOOM, ZOOM);
    g.setStroke(Color.web("#1D2B33"));
    g.strokeRect(x0 + c - 1, y0 + c - 1, ZOOM + 2, ZOOM + 2);
  }
}
