package holotome.app.tool;

import holotome.app.model.EditingProxy;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.polygon.FaceLists;
import holotome.core.proxy.EditProxy;
import holotome.core.proxy.MakeBlock;
import holotome.core.proxy.ProxyEdit;
import holotome.core.proxy.ProxyEdit.How;
import holotome.core.unit.Length;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.function.UnaryOperator;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseButton;
import javafx.scene.input.MouseEvent;

/**
 * Edits the Cast's polygons by hand: a click chooses a point, an edge or a face, a drag moves what
 * is chosen, the buttons do the rest. Every edit is made at once; those of a sitting are one entry.
 * The Scan or the Cast is seen, with the Cast's edges over it.
 */
final class ProxyEditTool extends HandTool {
  /** Pixels before a press is a drag. */
  private static final double STILL = 3;

  private final EditingProxy hand;
  private final OverScan over;
  private final ProxyEditForm form;
  private final PlaceHandles handles = new PlaceHandles();
  private List<Feature> chosen = List.of();
  private Feature hovered;
  private PolygonPicking picking;
  private FaceLists pickingOf;

  /** The Log for which things were chosen, and what is chosen once it has changed. */
  private History chosenFor;

  private List<Feature> chosenThen = List.of();
  private double[] held;
  private double[] by;
  private FaceLists dragged;
  private double startX;
  private double startY;

  /** What a drag of a handle comes to so far; null for nothing. */
  private PlaceHandles.Drag drag;

  /** The line along which faces are cut, in pixels; null while none is drawn. */
  private double[] cut;

  /** The rectangle that is drawn around things, as two corners; null for none. */
  private double[] frame;

  private boolean isCutting;

  /** Whether the next drag draws a strip, and the one that is drawn; null for none. */
  private boolean isStripping;

  private StripPen pen;

  ProxyEditTool(Session session) {
    super(session, EditProxy.class, Stage.REDUCE);
    over = new OverScan(session);
    hand = new EditingProxy(session);
    form = new ProxyEditForm(this, hand);
  }

  @Override
  public Node form() {
    follow();
    form.update();
    return form.node();
  }

  @Override
  public String missing() {
    Workpiece w = session.current();
    if (w == null) {
      return null;
    }
    if (isStripping) {
      return AppWords.of("proxy-edit-tool.draw-strip");
    }
    return w.cast() == null
        ? AppWords.of("proxy-edit-tool.nothing-made")
        : hand.faces() == null
            ? AppWords.of("proxy-edit-tool.too-large", EditProxy.MOST)
            : isCutting
                ? AppWords.of("proxy-edit-tool.draw")
                : chosen.isEmpty() ? AppWords.of("proxy-edit-tool.click") : null;
  }

  @Override
  public Way way() {
    Workpiece w = session.current();
    return w != null && w.cast() == null && !isStripping
        ? new Way(AppWords.of("proxy-tool.begin"), MakeBlock.class)
        : null;
  }

  /** What is chosen now. */
  List<Feature> chosen() {
    return chosen;
  }

  boolean isCutting() {
    return isCutting;
  }

  /** Has the next drag cut along it, or no longer. */
  void cutNext(boolean wanted) {
    isCutting = wanted;
    isStripping = false;
    cut = null;
    edited();
  }

  boolean isStripping() {
    return isStripping;
  }

  /** Has drags draw strips of quads, or no longer. */
  void stripNext(boolean wanted) {
    isStripping = wanted;
    isCutting = false;
    pen = null;
    edited();
  }

  private void strip(double[] pairs) {
    pen = null;
    Workpiece w = session.current();
    if (pairs == null || w == null || session.jobs().isBusy()) {
      session.changed();
      return;
    }
    double[] places = InFile.places(w.frame(), pairs);
    hand.make(new ProxyEdit(How.STRIP, null, null, places, null, null, null));
  }

  /** Shows the Scan or the Cast. */
  void seenAnew() {
    session.changed();
  }

  /**
   * Makes an edit of what is chosen.
   *
   * @param by a way or a direction in working space; null for none
   * @param at a place in working space; null for none
   * @param amount a length of working space is to be given in the file's unit already
   */
  void make(How how, double[] by, double[] at, Double amount, List<Feature> then) {
    if (session.current() == null || session.jobs().isBusy()) {
      return;
    }
    chosenThen = then;
    hand.make(edit(how, by, at, amount));
  }

  private ProxyEdit edit(How how, double[] by, double[] at, Double amount) {
    Frame f = session.current().frame();
    return new ProxyEdit(
        how,
        InFile.middles(f, chosen.stream().filter(c -> c.size() > 2).toList()),
        InFile.middles(f, chosen.stream().filter(c -> c.size() == 2).toList()),
        InFile.middles(f, chosen.stream().filter(c -> c.size() == 1).toList()),
        by == null ? null : InFile.way(f, by),
        at == null ? null : f.toFile().apply(f.toBase(at)),
        amount);
  }

  /** A length of working space in the file's unit. */
  double inFile(double metres) {
    Frame f = session.current().frame();
    return f.toFile().scale() * f.toBaseLength(metres);
  }

  /** Chooses other things. */
  void choose(List<Feature> next) {
    chosen = List.copyOf(next);
    form.update();
    edited();
    session.changed();
  }

  /** What was chosen belongs to the mesh it was chosen on. */
  private void follow() {
    if (session.history() != chosenFor) {
      chosenFor = session.history();
      hovered = null;
      FaceLists f = hand.faces();
      chosen =
          f == null ? List.of() : chosenThen.stream().map(c -> c.at(p -> nearest(f, p))).toList();
      chosenThen = List.of();
      form.update();
    }
  }

  /** The corner that is meant by a place: what was made stands in floats. */
  private static double[] nearest(FaceLists f, double[] place) {
    double[] best = place;
    double least = Double.POSITIVE_INFINITY;
    for (int v = 0; v < f.vertexCount(); v++) {
      double d = Vec.distance(f.at(v), place);
      if (d < least) {
        least = d;
        best = f.at(v);
      }
    }
    return best;
  }

  private PolygonPicking picking() {
    FaceLists f = hand.faces();
    if (f != pickingOf) {
      pickingOf = f;
      picking = f == null ? null : new PolygonPicking(f);
    }
    return picking;
  }

  // --- pointer -----------------------------------------------------------------------------------

  @Override
  public boolean takesClicks() {
    return true;
  }

  @Override
  public void begin(ViewPort view) {
    form.take(view);
  }

  @Override
  public void end(ViewPort view) {
    drop(view);
    hovered = null;
    over.end();
    form.take(null);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    follow();
    held = null;
    by = null;
    startX = e.getX();
    startY = e.getY();
    Workpiece w = session.current();
    if (isStripping && w != null && e.getButton() == MouseButton.PRIMARY) {
      pen = new StripPen();
      pen.to(view, e, w.frame());
      return;
    }
    if (e.getButton() != MouseButton.PRIMARY || picking() == null) {
      return;
    }
    if (isCutting) {
      cut = new double[] {startX, startY, startX, startY};
      return;
    }
    double[] middle = ProxyEditForm.middle(chosen);
    if (hasHandles()
        && handles.pressed(
            view, startX, startY, middle, PlaceHandles.size(view, middle, across()))) {
      return;
    }
    Feature f = picking().under(view, startX, startY, form.size());
    boolean more = e.isShiftDown();
    if (f == null) {
      frame = new double[] {startX, startY, startX, startY};
      if (!more) {
        choose(List.of());
      }
      return;
    }
    boolean isChosen = chosen.stream().anyMatch(f::isSame);
    if (more) {
      choose(f.toggledIn(chosen));
    } else {
      held = f.corner(0);
      if (!isChosen) {
        choose(List.of(f));
      }
    }
    view.repaint();
  }

  @Override
  public void dragged(ViewPort view, MouseEvent e) {
    double dx = e.getX() - startX;
    double dy = e.getY() - startY;
    if (pen != null) {
      pen.to(view, e, session.current().frame());
    } else if (cut != null) {
      cut[2] = e.getX();
      cut[3] = e.getY();
      view.repaint();
    } else if (frame != null) {
      frame[2] = e.getX();
      frame[3] = e.getY();
      view.repaint();
    } else if (handles.isHeld()) {
      drag = handles.dragged(view, e.getX(), e.getY(), 0, e.isShiftDown() ? 15 : 0);
      dragged = drag == null ? null : hand.tried(edit(drag));
      session.changed();
      view.repaint();
    } else if (held != null && (by != null || Math.hypot(dx, dy) > STILL)) {
      by = form.along().way(view, held, normal(), dx, dy);
      dragged = hand.tried(edit(How.MOVE, by, null, null));
      session.changed();
      view.repaint();
    }
  }

  private boolean hasHandles() {
    return form.hasHandles() && !chosen.isEmpty() && !isCutting;
  }

  private double across() {
    Workpiece w = session.current();
    return w.frame().workBounds(w.cast()).diagonal();
  }

  /** What a drag of a handle comes to, as an edit. */
  private ProxyEdit edit(PlaceHandles.Drag d) {
    return Vec.length(d.move()) > 0
        ? edit(How.MOVE, d.move(), null, null)
        : d.axis() >= 0
            ? edit(How.TURN, axis(d.axis()), null, d.degrees())
            : edit(How.SCALE, null, null, d.factor());
  }

  private static double[] axis(int k) {
    double[] out = new double[3];
    out[k] = 1;
    return out;
  }

  private void makeDragged(PlaceHandles.Drag d) {
    double[] middle = ProxyEditForm.middle(chosen);
    Similarity turn =
        d.axis() >= 0 ? PlaceHandles.turn(d.axis(), d.degrees()) : Similarity.scaling(d.factor());
    UnaryOperator<double[]> to =
        p -> Vec.add(Vec.add(middle, turn.apply(Vec.sub(p, middle))), d.move());
    chosenThen = chosen.stream().map(f -> f.at(to)).toList();
    hand.make(edit(d));
  }

  /** The mean direction of the faces that are chosen, or around what is; null for none. */
  double[] normal() {
    FaceLists f = hand.faces();
    Set<List<Double>> corners = new HashSet<>();
    for (double[] p : Feature.all(chosen)) {
      corners.add(Arrays.stream(p).boxed().toList());
    }
    double[] sum = new double[3];
    boolean isFaces = chosen.stream().anyMatch(c -> c.size() > 2);
    for (int i = 0; f != null && i < f.faces().length; i++) {
      int within = 0;
      for (double[] p : f.corners(i)) {
        within += corners.contains(Arrays.stream(p).boxed().toList()) ? 1 : 0;
      }
      if (within == f.faces()[i].length || !isFaces && within > 0) {
        sum = Vec.add(sum, f.normal(i));
      }
    }
    return Vec.length(sum) > 0 ? Vec.unit(sum) : null;
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    if (pen != null) {
      pen.to(view, e, session.current().frame());
      pen.end(view, form.far(), this::strip);
      return;
    }
    if (frame != null) {
      chooseWithin(view, frame);
      frame = null;
    } else if (handles.isHeld()) {
      handles.released();
      if (drag != null && !session.jobs().isBusy()) {
        makeDragged(drag);
      }
      drag = null;
    } else if (cut != null) {
      double[] line = cut;
      cutNext(false);
      if (Math.hypot(line[2] - line[0], line[3] - line[1]) > STILL) {
        cutAlong(view, line);
      }
    } else if (held != null && by != null) {
      double[] from = held;
      double[] corner = otherCorner(view, e.getX(), e.getY());
      if (corner != null) {
        move(Vec.sub(corner, from));
      } else if (form.isOnScan()) {
        view.pick(
            e.getX(),
            e.getY(),
            p -> {
              if (p != null) {
                move(Vec.sub(p, from));
              }
            });
      } else {
        move(by);
      }
    }
    held = null;
    by = null;
    dragged = null;
    session.changed();
  }

  /** Chooses what lies within a rectangle as well. */
  private void chooseWithin(ViewPort view, double[] r) {
    double[] low = {Math.min(r[0], r[2]), Math.min(r[1], r[3])};
    double[] high = {Math.max(r[0], r[2]), Math.max(r[1], r[3])};
    List<Feature> next = chosen;
    if (picking() != null && Math.hypot(high[0] - low[0], high[1] - low[1]) > STILL) {
      for (Feature f : picking().within(view, low, high, form.size())) {
        next = next.stream().anyMatch(f::isSame) ? next : f.toggledIn(next);
      }
    }
    choose(next);
  }

  /** The point that a single one is dropped on; null for none. */
  private double[] otherCorner(ViewPort view, double x, double y) {
    boolean isOne = chosen.size() == 1 && chosen.getFirst().size() == 1;
    Feature f = isOne ? picking().under(view, x, y, 1) : null;
    return f == null || f.isSame(chosen.getFirst()) ? null : f.corner(0);
  }

  /** Moves what is chosen. */
  void move(double[] way) {
    if (Vec.length(way) > 0) {
      make(How.MOVE, way, null, null, chosen.stream().map(f -> f.moved(way)).toList());
    }
  }

  /** Cuts along the plane in which a line of the picture is seen. */
  private void cutAlong(ViewPort view, double[] line) {
    double a = line[1] - line[3];
    double b = line[2] - line[0];
    double c = -(a * line[0] + b * line[1]);
    double[] m = view.toPixels();
    double[] plane = new double[4];
    for (int k = 0; k < 4; k++) {
      plane[k] = a * m[k] + b * m[4 + k] + c * m[12 + k];
    }
    double[] n = Arrays.copyOf(plane, 3);
    double l = Vec.dot(n, n);
    if (l > 0) {
      // Faces that are chosen are cut alone; points and edges say nothing of what is.
      chosen = chosen.stream().filter(f -> f.size() > 2).toList();
      make(How.CUT, n, Vec.mul(n, -plane[3] / l), null, List.of());
    }
  }

  @Override
  public void moved(ViewPort view, MouseEvent e) {
    if (picking() != null && !isCutting && !isStripping) {
      hovered = picking().under(view, e.getX(), e.getY(), form.size());
      view.repaint();
    }
  }

  @Override
  public boolean key(ViewPort view, KeyEvent e) {
    return !e.isShiftDown() && form.key(e.getCode());
  }

  @Override
  public void drop(ViewPort view) {
    held = null;
    by = null;
    dragged = null;
    cut = null;
    frame = null;
    drag = null;
    handles.released();
    isCutting = false;
    isStripping = false;
    pen = null;
    choose(List.of());
  }

  // --- what is seen ------------------------------------------------------------------------------

  @Override
  public Workpiece shows() {
    return form.isScanSeen() ? over.bare() : null;
  }

  @Override
  public boolean areLinesSeenThrough() {
    return true;
  }

  @Override
  public double[] surfaceLines() {
    FaceLists f = dragged == null ? hand.faces() : dragged;
    return f == null ? null : OverScan.edges(f);
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    follow();
    if (cut != null) {
      Marks.thick(g, new double[] {cut[0], cut[1]}, new double[] {cut[2], cut[3]});
    }
    if (frame != null) {
      FeatureMarks.rectangle(g, frame);
    }
    if (pen != null) {
      pen.draw(view, g);
    }
    if (hovered != null && by == null) {
      FeatureMarks.draw(view, g, hovered, false);
    }
    for (Feature f : chosen) {
      FeatureMarks.draw(view, g, by == null ? f : f.moved(by), true);
    }
    if (hasHandles() && picking() != null && by == null && drag == null) {
      double[] middle = ProxyEditForm.middle(chosen);
      handles.draw(view, g, middle, PlaceHandles.size(view, middle, across()));
    }
    if (by != null) {
      double[] at = view.project(Vec.add(held, by));
      if (at != null) {
        boolean sized = session.current().frame().trueSize();
        Marks.slip(g, new double[] {at[0], at[1] - 22}, Length.format(Vec.length(by), sized));
      }
    }
  }
}
