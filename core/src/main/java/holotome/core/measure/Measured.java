package holotome.core.measure;

import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.List;

/**
 * What a measurement gave.
 *
 * @param value in metres, square or cubic metres of working space, or degrees
 * @param residual root of the mean square distance of a fit, in metres; NaN where nothing is fitted
 * @param more further figures, in plain words
 * @param lines what to draw: polylines in working space, 3 doubles a point
 * @param label where the figure stands, in working space
 */
public record Measured(
    Measurement of,
    double value,
    Quantity quantity,
    double residual,
    List<String> more,
    List<double[]> lines,
    double[] label) {

  /** What kind of figure it is. */
  public enum Quantity {
    LENGTH("mm", 1e3),
    AREA("mm2", 1e6),
    VOLUME("mm3", 1e9),
    ANGLE("deg", 1);

    private final String unit;
    private final double scale;

    Quantity(String unit, double scale) {
      this.unit = unit;
      this.scale = scale;
    }
  }

  public Measured {
    more = List.copyOf(more);
    lines = List.copyOf(lines);
  }

  /** The figure for reading. */
  public String text(boolean trueSize) {
    return switch (quantity) {
      case LENGTH ->
          (of.kind() == Measurement.Kind.CIRCLE
                      || of.kind() == Measurement.Kind.SPHERE
                      || of.kind() == Measurement.Kind.CYLINDER
                  ? "R "
                  : "")
              + Length.format(value, trueSize);
      case AREA -> Length.formatArea(value, trueSize);
      case VOLUME -> Length.formatVolume(value, trueSize);
      case ANGLE -> Language.format("%.2f°", value);
    };
  }

  /** The residual for reading; empty where nothing was fitted. */
  public String residualText(boolean trueSize) {
    return Double.isNaN(residual) ? "" : "± " + Length.format(residual, trueSize);
  }

  /**
   * A table of measurements as CSV (RFC 4180): name, kind, value, unit, residual in the unit, and
   * the further figures.
   *
   * @param trueSize whether the true size is known; if not the figures are in the file's units
   */
  public static String csv(List<Measured> all, boolean trueSize) {
    StringBuilder s = new StringBuilder("name,kind,value,unit,residual,more\r\n");
    for (Measured m : all) {
      double k = trueSize ? m.quantity.scale : 1;
      String unit = trueSize || m.quantity == Quantity.ANGLE ? m.quantity.unit : "file units";
      s.append(quoted(m.of.name())).append(',');
      s.append(m.of.kind().name().toLowerCase(java.util.Locale.ROOT).replace('_', '-'));
      s.append(',').append(number(m.value * k)).append(',').append(unit).append(',');
      s.append(Double.isNaN(m.residual) ? "" : number(m.residual * (trueSize ? 1e3 : 1)));
      s.append(',').append(quoted(String.join("; ", m.more))).append("\r\n");
    }
    return s.toString();
  }

  private static String number(double v) {
    return String.format(java.util.Locale.ROOT, "%.9g", v);
  }

  private static String quoted(String text) {
    return '"' + text.replace("\"", "\"\"") + '"';
  }
}
