package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.view.camera.Camera;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Orientation;
import javafx.scene.Node;
import javafx.scene.control.SplitPane;
import javafx.scene.layout.StackPane;

/**
 * One to four panes, parted by dividers that can be dragged: the view, and beside it on request the
 * state before, other sides of the work, or its charts. Unwrap and Bake remember an arrangement of
 * their own and begin with the charts beside the view.
 */
public final class Panes extends StackPane {
  private final Session session;
  private final SpacePane main;
  private final List<SpacePane> others = new ArrayList<>();
  private final StateBefore before;
  private FlatPane flat;
  private Arrangement shown;
  private Arrangement usual = Arrangement.ONE;
  private Arrangement ofCharts;

  public Panes(Session session, SpacePane main) {
    this.session = session;
    this.main = main;
    before = new StateBefore(session);
    arrange(Arrangement.ONE);
  }

  public Arrangement arrangement() {
    return shown;
  }

  /** The next arrangement, after the last the first. */
  public void next() {
    show(Arrangement.values()[(shown.ordinal() + 1) % Arrangement.values().length]);
  }

  /** Shows an arrangement, from now on in all stages that share it. */
  public void show(Arrangement what) {
    if (isOfCharts()) {
      ofCharts = what;
    } else {
      usual = what;
    }
    session.changed();
  }

  private boolean isOfCharts() {
    return session.stage() == Stage.UNWRAP || session.stage() == Stage.BAKE;
  }

  private Arrangement wanted() {
    if (!isOfCharts()) {
      return usual;
    }
    return ofCharts != null ? ofCharts : hasCharts() ? Arrangement.FLAT : usual;
  }

  private boolean hasCharts() {
    return session.isOpen() && session.shown().current().uv() != null;
  }

  private void arrange(Arrangement what) {
    shown = what;
    close();
    Node all =
        switch (what) {
          case ONE -> main;
          case BEFORE -> beside(main, other("second-view", Links.TOGETHER));
          case RIGHT -> beside(main, other("second-view", Links.turned(Math.PI / 2)));
          case BEHIND -> beside(main, other("second-view", Links.turned(Math.PI)));
          case FLAT -> beside(main, charts());
          case CHARTS -> charts();
          case THREE ->
              beside(
                  main,
                  over(
                      other("second-view", Links.along(Camera.Direction.TOP)),
                      other("third-view", Links.along(Camera.Direction.FRONT))));
          case FOUR ->
              over(
                  beside(main, other("second-view", Links.along(Camera.Direction.TOP))),
                  beside(
                      other("third-view", Links.along(Camera.Direction.FRONT)),
                      other("fourth-view", Links.along(Camera.Direction.RIGHT))));
        };
    getChildren().setAll(all);
  }

  private SpacePane other(String id, Links.Link link) {
    SpacePane p = main.companion(id, link);
    others.add(p);
    return p;
  }

  private FlatPane charts() {
    session.charts().lookAgain();
    flat = new FlatPane(session, main.settings());
    return flat;
  }

  private static SplitPane beside(Node left, Node right) {
    return new SplitPane(left, right);
  }

  private static SplitPane over(Node top, Node bottom) {
    SplitPane s = new SplitPane(top, bottom);
    s.setOrientation(Orientation.VERTICAL);
    return s;
  }

  private void close() {
    main.unlink();
    others.forEach(SpacePane::shutDown);
    others.clear();
    if (flat != null) {
      flat.shutDown();
      flat = null;
    }
  }

  /** Brings the panes beside the view in line with the session. */
  public void update() {
    if (wanted() != shown) {
      arrange(wanted());
    }
    if (shown == Arrangement.BEFORE) {
      before.find(this::holdUp);
      holdUp();
    }
    others.forEach(SpacePane::refresh);
    if (flat != null) {
      flat.refresh();
    }
  }

  private void holdUp() {
    if (shown == Arrangement.BEFORE && before.state() != null) {
      others.forEach(p -> p.peek(before.state()));
    }
  }

  /** Shows everything there is, in every pane. */
  public void showAll() {
    main.navigation().showAll();
    if (flat != null) {
      flat.showAll();
    }
  }

  /** Whether all panes beside the view show what is wanted, in full. */
  public boolean isExactShown() {
    return (flat == null || flat.isExactShown())
        && others.stream().allMatch(SpacePane::isExactShown);
  }

  public void shutDown() {
    close();
  }
}
