package holotome.app.tool;

import holotome.app.model.Insight;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.trim.KeepIslands;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.BitSet;
import java.util.function.Supplier;
import javafx.geometry.HPos;
import javafx.scene.Node;
import javafx.scene.canvas.Canvas;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.control.Label;
import javafx.scene.layout.ColumnConstraints;
import javafx.scene.layout.GridPane;
import javafx.scene.layout.Priority;
import javafx.scene.layout.VBox;
import javafx.scene.paint.Color;

/** Keeps some islands: their list and how many there are of each size; what goes is marked. */
final class IslandsTool extends MarkingTool {
  private static final int LISTED = 7;
  private static final double WIDTH = 262;
  private static final double HEIGHT = 64;

  private final VBox rows = new VBox(4);

  IslandsTool(Session session) {
    super(
        session,
        KeepIslands.class,
        Stage.TRIM,
        (s, t) ->
            Tools.removing(
                t, AppWords.of("islands-tool.remove-the-loose-pieces"), "tools.remove-loose"));
  }

  @Override
  public Node form() {
    Node fields = super.form();
    list();
    return fields;
  }

  @Override
  public Node details() {
    return rows;
  }

  @Override
  protected Supplier<BitSet> marks() {
    Insight insight = session.insight();
    Workpiece w = session.current();
    try {
      KeepIslands step = (KeepIslands) step();
      return () -> going(step, insight, w);
    } catch (Failure f) {
      // The Sheet says what is wrong with the limits.
      return null;
    }
  }

  private static BitSet going(KeepIslands step, Insight insight, Workpiece w) {
    Islands islands = insight.islands();
    boolean[] kept = step.kept(islands, w.scan(), w.frame(), Work.unwatched());
    int[] of = islands.ofTriangle();
    BitSet set = new BitSet(of.length);
    for (int t = 0; t < of.length; t++) {
      if (!kept[of[t]]) {
        set.set(t);
      }
    }
    return set;
  }

  @Override
  protected void list() {
    rows.getChildren().clear();
    Insight insight = session.insight();
    if (insight == null) {
      return;
    }
    Islands islands = insight.islands();
    GridPane grid = new GridPane();
    grid.setId("islands-list");
    grid.setHgap(12);
    grid.setVgap(3);
    ColumnConstraints name = new ColumnConstraints();
    name.setHgrow(Priority.ALWAYS);
    ColumnConstraints right = new ColumnConstraints();
    right.setHalignment(HPos.RIGHT);
    grid.getColumnConstraints().addAll(name, right, right);
    int shown = Math.min(LISTED, islands.count());
    long total = session.current().scan().triangleCount();
    row(
        grid,
        0,
        AppWords.of("islands-tool.largest-islands"),
        AppWords.of("islands.triangles"),
        AppWords.of("islands.share"),
        true);
    for (int i = 0; i < shown; i++) {
      int n = islands.sizes()[i];
      row(grid, i + 1, String.valueOf(i + 1), Language.format("%,d", n), share(n, total), false);
    }
    if (islands.count() > shown) {
      long rest = 0;
      for (int i = shown; i < islands.count(); i++) {
        rest += islands.sizes()[i];
      }
      row(
          grid,
          shown + 1,
          AppWords.of("islands-tool.more", islands.count() - shown),
          Language.format("%,d", rest),
          share(rest, total),
          false);
    }
    rows.getChildren().add(grid);
    if (islands.count() > 1) {
      Label l =
          new Label(
              AppWords.of(
                  "islands-tool.how-many-of-each-size",
                  Length.format(
                      insight.looseAcross() * session.current().frame().toWork().scale(),
                      session.current().frame().trueSize())));
      l.setWrapText(true);
      l.getStyleClass().addAll("soft", "small");
      rows.getChildren().addAll(l, histogram(islands.sizes()));
    }
  }

  private static String share(long n, long total) {
    double percent = 100.0 * n / Math.max(1, total);
    return percent >= 0.01 || n == 0 ? Language.format("%.2f %%", percent) : "< 0.01 %";
  }

  private static void row(GridPane g, int y, String a, String b, String c, boolean head) {
    String[] texts = {a, b, c};
    for (int x = 0; x < 3; x++) {
      Label l = new Label(texts[x]);
      if (head) {
        l.getStyleClass().addAll("soft", "small");
      } else if (x > 0) {
        l.getStyleClass().add("figure");
      }
      g.add(l, x, y);
    }
  }

  /** Columns by powers of two of the triangle count, their heights by the root of how many. */
  private static Canvas histogram(int[] sizes) {
    int columns = 32 - Integer.numberOfLeadingZeros(Math.max(1, sizes[0]));
    int[] count = new int[columns];
    for (int n : sizes) {
      count[31 - Integer.numberOfLeadingZeros(Math.max(1, n))]++;
    }
    int most = 1;
    for (int n : count) {
      most = Math.max(most, n);
    }
    Canvas canvas = new Canvas(WIDTH, HEIGHT);
    canvas.setId("islands-histogram");
    GraphicsContext g = canvas.getGraphicsContext2D();
    double step = WIDTH / columns;
    double foot = HEIGHT - 14;
    g.setFont(javafx.scene.text.Font.font("IBM Plex Mono", 10));
    for (int i = 0; i < columns; i++) {
      double h = foot * Math.sqrt((double) count[i] / most);
      g.setFill(Color.web("#6C4AB6", 0.75));
      g.fillRect(i * step + 1, foot - h, Math.max(1, step - 2), h);
      g.setFill(Color.gray(0.45));
      if (i % 4 == 0) {
        long at = 1L << i;
        String t = at >= 1 << 20 ? (at >> 20) + " M" : at >= 1 << 10 ? (at >> 10) + " k" : "" + at;
        g.fillText(t, i * step, HEIGHT - 2);
      }
    }
    g.setStroke(Color.gray(0.6));
    g.strokeLine(0, foot + 0.5, WIDTH, foot + 0.5);
    return canvas;
  }
}
