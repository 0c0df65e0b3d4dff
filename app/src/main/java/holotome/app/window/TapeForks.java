package holotome.app.window;

import holotome.app.model.Trials;
import holotome.app.words.AppWords;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.log.Lines;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.VPos;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.paint.Color;
import javafx.scene.text.Font;
import javafx.scene.text.TextAlignment;

/**
 * The Trials beside the current one, as they are drawn on the Tape: each in outline, in a row of
 * its own below, from where it parts.
 */
final class TapeForks {
  /** A row's height, with the gap above it. */
  static final double ROW = 24;

  /** So many rows are drawn; a further one says how many there are beside. */
  private static final int MOST = 3;

  private static final double INDENT = 14;
  private static final Font WORDS = Font.font("IBM Plex Sans", 12);
  private final List<Hit> hits = new ArrayList<>();

  /** Where a Trial is drawn. */
  private record Hit(String name, double left, double right, double top) {}

  /** How much height the rows take. */
  static double height(Trials trials) {
    return ROW * Math.min(MOST, trials.others().size());
  }

  /**
   * Draws the rows.
   *
   * @param ends where each state of the current line ends, from left to right
   * @param floor of the current line's blocks
   */
  void draw(
      GraphicsContext g,
      Trials trials,
      List<double[]> ends,
      double floor,
      double width,
      double length,
      Color ink,
      Color soft) {
    hits.clear();
    List<Lines.Named> others = trials.others();
    for (int i = 0; i < Math.min(MOST, others.size()); i++) {
      double top = floor + i * ROW + 4;
      boolean rest = i == MOST - 1 && others.size() > MOST;
      if (rest) {
        g.setFill(soft);
        words(
            g,
            AppWords.of("tape-forks.more", others.size() - MOST + 1),
            Math.max(Tape.LEFT, ends.getFirst()[0]),
            top,
            width);
        return;
      }
      row(
          g,
          others.get(i),
          trials.shared(others.get(i).name()),
          ends,
          floor,
          top,
          width,
          length,
          ink,
          soft);
    }
  }

  private void row(
      GraphicsContext g,
      Lines.Named line,
      int shared,
      List<double[]> ends,
      double floor,
      double top,
      double width,
      double length,
      Color ink,
      Color soft) {
    double from = Math.max(Tape.LEFT, ends.get(shared)[1]);
    double middle = top + (ROW - 4) / 2;
    double x = Math.min(from + INDENT, width - Tape.NAME - 60);
    double left = x;
    g.setStroke(ink);
    g.setLineWidth(1);
    g.strokePolyline(
        new double[] {x - INDENT + 0.5, x - INDENT + 0.5, x},
        new double[] {floor, Math.round(middle) + 0.5, Math.round(middle) + 0.5},
        3);
    List<Entry> entries = line.entries();
    List<History.Line> run = line.history().lines();
    int own = entries.size() - shared;
    double most = Math.max(40, (width - x - Tape.NAME) / Math.max(1, own));
    double block = Math.min(length - INDENT, most);
    for (int i = shared; i < entries.size() && x + block <= width - 60; i++) {
      g.strokeRect(x + 0.5, top + 0.5, block - 1, ROW - 5);
      g.setFill(ink);
      String title = Tape.title(entries.get(i));
      String figure = i < run.size() ? StageBar.count(run.get(i).effect().triangles()) : "";
      words(g, figure.isEmpty() ? title : title + "  " + figure, x + 7, top, x + block - 4);
      x += block;
    }
    g.setFill(soft);
    double end = words(g, line.name(), x + 8, top, width);
    hits.add(new Hit(line.name(), left, end, top));
  }

  /** Writes within one row; gives where the text ends. */
  private static double words(GraphicsContext g, String text, double x, double top, double right) {
    g.setFont(WORDS);
    g.setTextAlign(TextAlignment.LEFT);
    g.setTextBaseline(VPos.CENTER);
    String shown = Tape.fitting(text, WORDS, right - x);
    g.fillText(shown, x, top + (ROW - 4) / 2);
    g.setTextBaseline(VPos.TOP);
    return x + Tape.width(shown, WORDS);
  }

  /** The Trial drawn at a place; null for none. */
  String at(double x, double y) {
    for (Hit h : hits) {
      if (x >= h.left - INDENT && x <= h.right && y >= h.top && y <= h.top + ROW) {
        return h.name;
      }
    }
    return null;
  }
}
