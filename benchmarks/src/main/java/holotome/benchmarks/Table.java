package holotome.benchmarks;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;

/** A table of figures, printed in Markdown so that it can stand in the documentation as it is. */
final class Table {
  private final List<String[]> rows = new ArrayList<>();

  Table(String... header) {
    rows.add(header);
  }

  Table row(Object... cells) {
    String[] text = new String[cells.length];
    for (int i = 0; i < cells.length; i++) {
      text[i] = cells[i] instanceof Double d ? figure(d) : String.valueOf(cells[i]);
    }
    rows.add(text);
    return this;
  }

  /** Three digits that count. */
  static String figure(double v) {
    double a = Math.abs(v);
    int decimals = a >= 100 ? 0 : a >= 10 ? 1 : a >= 1 ? 2 : a >= 0.1 ? 3 : 4;
    return String.format(Locale.ROOT, "%,." + decimals + "f", v);
  }

  void print() {
    int columns = rows.getFirst().length;
    int[] width = new int[columns];
    for (String[] r : rows) {
      for (int i = 0; i < columns; i++) {
        width[i] = Math.max(width[i], r[i].length());
      }
    }
    for (int n = 0; n < rows.size(); n++) {
      StringBuilder line = new StringBuilder("|");
      for (int i = 0; i < columns; i++) {
        String format = " %" + (i == 0 ? "-" : "") + Math.max(3, width[i]) + "s |";
        line.append(String.format(format, rows.get(n)[i]));
      }
      System.out.println(line);
      if (n == 0) {
        StringBuilder rule = new StringBuilder("|");
        for (int i = 0; i < columns; i++) {
          String dashes = "-".repeat(Math.max(3, width[i]));
          rule.append(i == 0 ? " " + dashes + " |" : " " + dashes.substring(1) + ": |");
        }
        System.out.println(rule);
      }
    }
    System.out.println();
  }
}
