package holotome.app.tool;

import holotome.app.model.Problems;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.proxy.FlatPreview;
import holotome.core.proxy.FromPlanes;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.words.Language;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.input.MouseEvent;
import javafx.scene.layout.HBox;
import javafx.scene.layout.VBox;

/**
 * Makes a Proxy from planes: a click takes the flat part that lies there, or lets go of it again,
 * and the edges of what they bound are drawn over the Scan.
 */
final class PlanesTool extends StepTool {
  /** Larger scans are not tried out on every edit; what was clicked is seen all the same. */
  private static final int LARGE = 2_000_000;

  private final ClickedPlaces places = new ClickedPlaces(this::placed);
  private final FlatPreview preview = new FlatPreview();
  private final OverScan over;
  private final Label said = new Label();
  private final Button find = new Button(AppWords.of("planes-tool.find"));
  private final Button clear = new Button(AppWords.of("planes-tool.clear"));
  private ViewPort view;

  /** The triangles of each place's part, and of which scan they are. */
  private List<BitSet> parts = List.of();

  private BitSet marked;
  private Workpiece of;

  PlanesTool(Session session) {
    super(
        session,
        FromPlanes.class,
        Stage.REDUCE,
        true,
        Map.of(),
        (s, t) -> AppWords.of("planes-tool.make"),
        w -> List.of(new Row("triangles", Language.format("%,d", w.scan().triangleCount()), "")));
    over = new OverScan(session);
    triedUpTo(LARGE);
    said.setWrapText(true);
    said.getStyleClass().addAll("soft", "small");
    find.setId("find-planes");
    find.setOnAction(e -> find());
    clear.setId("clear-planes");
    clear.setOnAction(e -> places.set(List.of()));
  }

  @Override
  public Node form() {
    Node fields = super.form();
    hide("places");
    say();
    return new VBox(10, fields, said, new HBox(8, find, clear));
  }

  @Override
  public void begin(ViewPort port) {
    view = port;
    grow();
  }

  @Override
  public void end(ViewPort port) {
    super.end(port);
    session.jobs().stopLooking(this);
    preview.clear();
    parts = List.of();
    marked = null;
    of = null;
    over.end();
    view = null;
  }

  /** The Scan, also where there is a Cast already: it is what is pointed at. */
  @Override
  public Workpiece shows() {
    return over.shows(this::step);
  }

  @Override
  protected void changed() {
    grow();
  }

  @Override
  public Step step() {
    FromPlanes s = (FromPlanes) super.step();
    if (places.isEmpty()) {
      throw Failure.usage(AppWords.of("planes-tool.click"));
    }
    return s.with(places.flat());
  }

  @Override
  public void load(Step step) {
    FromPlanes s = (FromPlanes) step;
    super.load(s.with(null));
    places.load(s.places());
  }

  @Override
  public Draft<?> draft() {
    return places.draft();
  }

  private void say() {
    int n = places.count();
    said.setText(
        n == 0 ? AppWords.of("planes-tool.click") : AppWords.count("planes-tool.parts", n));
    clear.setVisible(n > 0);
  }

  /** Once other places count. */
  private void placed() {
    say();
    edited();
    grow();
    if (view != null) {
      view.repaint();
    }
  }

  // --- what is flat ------------------------------------------------------------------------------

  private void grow() {
    Workpiece w = session.current();
    FromPlanes plain = plain();
    if (w == null || view == null || plain == null || places.isEmpty()) {
      session.jobs().stopLooking(this);
      parts = List.of();
      marked = null;
      over.forget();
      session.changed();
      return;
    }
    FromPlanes s = plain.with(places.flat());
    String what = AppWords.of("planes-tool.growing");
    session
        .jobs()
        .look(
            this,
            what,
            work -> preview.parts(w, s, work),
            found -> {
              parts = found;
              of = w;
              marked = new BitSet();
              found.forEach(marked::or);
              session.changed();
            },
            f -> Problems.note(what, f));
  }

  private void find() {
    Workpiece w = session.current();
    FromPlanes plain = plain();
    if (w == null || plain == null) {
      return;
    }
    session
        .jobs()
        .look(
            this,
            AppWords.of("planes-tool.finding"),
            work -> preview.found(w, plain, work),
            found -> {
              if (found.isEmpty()) {
                said.setText(AppWords.of("planes-tool.none"));
                return;
              }
              places.set(found);
            },
            f -> Problems.note(AppWords.of("planes-tool.finding"), f));
  }

  /** The step without places; null while a field is wrong, which the Sheet says. */
  private FromPlanes plain() {
    try {
      return ((FromPlanes) super.step()).with(null);
    } catch (Failure f) {
      return null;
    }
  }

  @Override
  public BitSet marked() {
    return of != null && of == session.current() ? marked : null;
  }

  // --- what they bound ---------------------------------------------------------------------------

  @Override
  public void tried(History trial) {
    super.tried(trial);
    over.tried(trial);
  }

  @Override
  public boolean areLinesSeenThrough() {
    return true;
  }

  @Override
  public double[] surfaceLines() {
    return places.isEmpty() ? null : over.lines();
  }

  // --- places ------------------------------------------------------------------------------------

  @Override
  public boolean takesClicks() {
    return true;
  }

  @Override
  public void pressed(ViewPort on, MouseEvent e) {
    places.pressed(e);
  }

  @Override
  public void released(ViewPort on, MouseEvent e) {
    Workpiece w = session.current();
    if (w != null && places.isClick(e)) {
      on.pickTriangle(e.getX(), e.getY(), (t, p) -> clicked(w, t, p));
    }
  }

  private void clicked(Workpiece w, int triangle, double[] point) {
    if (point == null || w != session.current() || view == null) {
      return;
    }
    int had = partOf(triangle);
    if (had >= 0 && had < places.count()) {
      places.remove(had);
    } else {
      places.add(w.frame(), point);
    }
  }

  /** The place whose part a triangle is of; -1 for none. */
  private int partOf(int triangle) {
    if (of != session.current() || triangle < 0) {
      return -1;
    }
    for (int i = 0; i < parts.size(); i++) {
      if (parts.get(i).get(triangle)) {
        return i;
      }
    }
    return -1;
  }

  @Override
  public void draw(ViewPort on, GraphicsContext g) {
    super.draw(on, g);
    Workpiece w = session.current();
    if (w != null && !over.isDone(this::step)) {
      places.draw(on, g, w.frame());
    }
  }
}
