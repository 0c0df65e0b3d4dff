package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.model.TouchingUp;
import holotome.app.words.AppWords;
import holotome.core.bake.BakeMaps;
import holotome.core.bake.TouchUp;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.touch.Touch;
import holotome.core.unit.RoundLength;
import holotome.view.scene.Look;
import java.util.Arrays;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;

/**
 * Touches the maps up with a brush or by areas, in the space pane and in the flat one. What a brush
 * does is seen while it is drawn; a sitting is one entry.
 */
final class TouchTool extends HandTool implements FlatTool {
  private static final double LARGER = 1.15;

  /** The radius at first, of the diagonal. */
  private static final double USUAL = 0.02;

  private final TouchingUp touching;
  private final TouchForm form;
  private final TouchMarks marks = new TouchMarks();

  /** What is copied: a point in working space, and where that is in the texture. */
  private double[] source;

  private double[] sourceInTexture;

  /**
   * The outline around a piece that is to be dragged elsewhere, in working space; null for none.
   */
  private double[] piece;

  /** What is being drawn; null for nothing. */
  private TouchStroke stroke;

  private ViewPort space;
  private FlatPort flat;

  TouchTool(Session session) {
    super(session, TouchUp.class, Stage.BAKE);
    touching = new TouchingUp(session, this::show);
    form = new TouchForm(this::rethink);
  }

  @Override
  public Node form() {
    Workpiece w = session.current();
    if (TouchingUp.hasMaps(w)) {
      form.offer(w.maps().pictures().keySet());
      if (!form.hasRadius()) {
        double size = RoundLength.below(USUAL * w.frame().workBounds(w.cast()).diagonal());
        form.setRadius(size, w.frame().trueSize());
      }
    }
    say();
    return form.node();
  }

  @Override
  public String missing() {
    Workpiece w = session.current();
    return w == null || TouchingUp.hasMaps(w) ? null : AppWords.of("touch-tool.no-maps");
  }

  @Override
  public Way way() {
    return missing() == null ? null : new Way(AppWords.of("findings.bake"), BakeMaps.class);
  }

  @Override
  public Look look() {
    return Look.BAKED;
  }

  @Override
  public boolean takesClicks() {
    return true;
  }

  @Override
  public void begin(ViewPort view) {
    space = view;
    touching.prepare();
  }

  @Override
  public void end(ViewPort view) {
    stroke = null;
    piece = null;
    marks.away();
  }

  @Override
  public Workpiece shows() {
    return touching.shown();
  }

  /** Every press is answered: what was drawn before is made meanwhile. */
  @Override
  public boolean isMaking() {
    return false;
  }

  private void show() {
    if (space != null) {
      space.refreshQuickly();
    }
    if (flat != null) {
      flat.refreshQuickly();
    }
  }

  private void rethink() {
    piece = null;
    stroke = null;
    say();
    repaint();
  }

  private void repaint() {
    if (space != null) {
      space.repaint();
    }
    if (flat != null) {
      flat.repaint();
    }
  }

  private void say() {
    boolean copies = form.how().copies();
    String next =
        form.isArea()
            ? piece != null ? "drag" : copies ? "around-piece" : "around"
            : copies ? source == null ? "mark" : "paint-copy" : "paint";
    form.say(AppWords.of("touch-tool." + next));
  }

  // --- what both panes do --------------------------------------------------------------------

  private double radius() {
    return form.radius(session.current().frame().trueSize());
  }

  private void press(TouchPane pane, MouseEvent e) {
    stroke = null;
    if (e.getButton() != MouseButton.PRIMARY || missing() != null || radius() <= 0) {
      return;
    }
    if (e.isShiftDown()) {
      pane.pick(
          e.getX(),
          e.getY(),
          (p, uv) -> {
            source = p == null ? source : p;
            sourceInTexture = p == null ? sourceInTexture : uv;
            say();
            repaint();
          });
      return;
    }
    if (form.how().copies() && !form.isArea() && source == null) {
      session.say(AppWords.of("touch-tool.mark"));
      return;
    }
    boolean isLine = !form.isArea();
    stroke =
        new TouchStroke(pane, radius(), form.isArea(), isLine ? this::begun : p -> {}, this::went);
    stroke.to(e.getX(), e.getY());
  }

  private void drag(TouchPane pane, MouseEvent e) {
    marks.at(pane.isFlat(), e.getX(), e.getY());
    if (stroke != null && stroke.isOn(pane)) {
      stroke.to(e.getX(), e.getY());
    }
    pane.repaint();
  }

  private void release(TouchPane pane, MouseEvent e) {
    TouchStroke s = stroke;
    if (s == null || !s.isOn(pane)) {
      return;
    }
    s.end(
        e.getX(),
        e.getY(),
        () -> {
          if (stroke == s) {
            stroke = null;
          }
          finish(s);
          say();
          repaint();
        });
  }

  /** A line, or a further part of one that goes on elsewhere, begins. */
  private void begun(double[] point) {
    touching.begin(touch(new double[][] {point}, source, start(point)));
  }

  private void went(double[] point) {
    touching.follow(inFile(point));
  }

  /** Where the source came to when the line began: its further parts hold to it. */
  private double[] start(double[] point) {
    double[] first = stroke == null ? null : stroke.first();
    return first == null || first == point ? null : first;
  }

  private void finish(TouchStroke s) {
    if (form.isArea()) {
      area(s);
      return;
    }
    List<double[][]> lines = s.lines();
    if (lines.isEmpty()) {
      touching.drop();
      return;
    }
    double[] first = lines.getFirst()[0];
    touching.end(lines.stream().map(l -> touch(l, source, l[0] == first ? null : first)).toList());
  }

  private void area(TouchStroke s) {
    if (piece != null) {
      double[][] ends = s.ends();
      if (ends != null && s.isFar()) {
        touching.end(List.of(touch(points(piece), ends[0], ends[1])));
      }
      piece = null;
      return;
    }
    double[][] outline = s.lines().isEmpty() ? new double[0][] : s.outline();
    if (outline.length < 3) {
      return;
    }
    if (form.how().copies()) {
      piece = TouchPane.flat(outline);
    } else {
      touching.end(List.of(touch(outline, null, null)));
    }
  }

  private static double[][] points(double[] flat) {
    double[][] out = new double[flat.length / 3][];
    for (int i = 0; i < out.length; i++) {
      out[i] = Arrays.copyOfRange(flat, 3 * i, 3 * i + 3);
    }
    return out;
  }

  private double[] inFile(double[] p) {
    Frame f = session.current().frame();
    return f.toFile().apply(f.toBase(p));
  }

  /** As the Sheet stands, from points of working space. */
  private Touch touch(double[][] line, double[] from, double[] to) {
    Frame f = session.current().frame();
    double[] points = new double[3 * line.length];
    for (int i = 0; i < line.length; i++) {
      System.arraycopy(inFile(line[i]), 0, points, 3 * i, 3);
    }
    boolean copies = form.how().copies();
    Similarity toFile = f.toFile();
    return new Touch(
        form.how(),
        points,
        form.isArea(),
        f.toBaseLength(radius()) * toFile.scale(),
        form.soft(),
        form.strength(),
        copies && from != null ? inFile(from) : null,
        copies && to != null ? inFile(to) : null,
        form.turn(),
        form.maps());
  }

  // --- the space pane ------------------------------------------------------------------------

  private TouchPane pane(ViewPort view) {
    return TouchPane.of(view, session);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    press(pane(view), e);
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    drag(pane(view), e);
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    release(pane(view), e);
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    marks.at(false, e.getX(), e.getY());
    view.repaint();
  }

  @Override
  public boolean scrolled(ViewPort view, ScrollEvent e) {
    return resized(e);
  }

  private boolean resized(ScrollEvent e) {
    if (!e.isControlDown() || session.current() == null) {
      return false;
    }
    double f = e.getDeltaY() > 0 ? LARGER : 1 / LARGER;
    form.setRadius(radius() * f, session.current().frame().trueSize());
    repaint();
    return true;
  }

  @Override
  public void drop(ViewPort view) {
    if (piece == null && stroke == null) {
      source = null;
    }
    piece = null;
    stroke = null;
    touching.drop();
    say();
    repaint();
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    if (missing() == null) {
      boolean copies = form.how().copies();
      double[] at = copies && source != null ? view.project(source) : null;
      marks.draw(g, pane(view), radius(), form, at, piece, stroke);
    }
  }

  // --- the flat pane -------------------------------------------------------------------------

  private TouchPane pane(FlatPort port) {
    Workpiece w = session.current();
    Mesh mesh = w.cast();
    var sheet = session.charts().sheet(mesh);
    return TouchPane.of(port, w, sheet == null ? 1 : sheet.perUnit());
  }

  @Override
  public void flatPressed(FlatPort port, MouseEvent e) {
    press(pane(port), e);
  }

  @Override
  public void flatDragged(FlatPort port, MouseEvent e) {
    drag(pane(port), e);
  }

  @Override
  public void flatReleased(FlatPort port, MouseEvent e) {
    release(pane(port), e);
  }

  @Override
  public void flatMoved(FlatPort port, MouseEvent e) {
    marks.at(true, e.getX(), e.getY());
    port.repaint();
  }

  @Override
  public boolean flatScrolled(FlatPort port, ScrollEvent e) {
    return resized(e);
  }

  @Override
  public void drawFlat(FlatPort port, GraphicsContext g) {
    flat = port;
    if (missing() == null && session.current().cast() != null) {
      boolean copies = form.how().copies();
      double[] at =
          copies && sourceInTexture != null
              ? port.project(sourceInTexture[0], sourceInTexture[1])
              : null;
      marks.draw(g, pane(port), radius(), form, at, null, stroke);
    }
  }
}
