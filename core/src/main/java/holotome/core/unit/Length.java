package holotome.core.unit;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import holotome.core.words.Language;
import java.text.DecimalFormatSymbols;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;

/**
 * A length in metres, read from text as people write it: "500 mm", "0,5 m", "19.7 in", "2 ft".
 *
 * @param metres finite
 */
public record Length(double metres) {
  private static final Pattern TEXT =
      Pattern.compile(
          "\\s*([+-]?(?:\\d+(?:[.,]\\d*)?|[.,]\\d+)(?:[eE][+-]?\\d+)?)\\s*(mm|cm|km|m|in|ft|\"|')?\\s*");

  /** Stands around a length in base coordinates; in no text otherwise. */
  private static final char MARK = '\u0001';

  /** Units by the name they are written with; the inch is 25.4 mm (ISO 80000-3). */
  public enum Unit {
    MM("mm", 0.001),
    CM("cm", 0.01),
    M("m", 1),
    KM("km", 1000),
    IN("in", 0.0254),
    FT("ft", 0.3048);

    private final String symbol;
    private final double metres;

    Unit(String symbol, double metres) {
      this.symbol = symbol;
      this.metres = metres;
    }

    public String symbol() {
      return symbol;
    }

    public double metres() {
      return metres;
    }
  }

  public Length {
    if (!Double.isFinite(metres)) {
      throw Failure.usage(CoreWords.of("length.a-length-must-be-a"));
    }
  }

  /** Reads a length; a bare number is in metres. */
  public static Length parse(String text) {
    return parse(text, Unit.M);
  }

  /** Reads a length; a bare number is in {@code bare}. Comma and point both mark decimals. */
  public static Length parse(String text, Unit bare) {
    Matcher m = TEXT.matcher(text);
    if (!m.matches()) {
      throw Failure.usage(CoreWords.of("length.is-not-a-length-write", text.strip()));
    }
    double number = Double.parseDouble(m.group(1).replace(',', '.'));
    return new Length(number * unit(m.group(2), bare).metres);
  }

  private static Unit unit(String symbol, Unit bare) {
    return switch (symbol) {
      case null -> bare;
      case "mm" -> Unit.MM;
      case "cm" -> Unit.CM;
      case "m" -> Unit.M;
      case "km" -> Unit.KM;
      case "in", "\"" -> Unit.IN;
      case "ft", "'" -> Unit.FT;
      default -> throw new IllegalStateException(symbol);
    };
  }

  /** With the unit that gives a number of one to four digits: "640 mm", "1.25 m". */
  @Override
  public String toString() {
    return format(metres, Locale.ROOT);
  }

  /**
   * A length for reading, with four digits that count. Where the true size is unknown the figure is
   * in the file's own units.
   */
  public static String format(double metres, boolean trueSize) {
    Locale locale = Language.now().locale();
    return trueSize ? format(metres, locale) : CoreWords.of("length.units", figure(metres, locale));
  }

  /** The same of a round length: without noughts behind the last decimal that counts. */
  public static String formatRound(double metres, boolean trueSize) {
    String text = format(metres, trueSize);
    char point = DecimalFormatSymbols.getInstance(Language.now().locale()).getDecimalSeparator();
    return text.indexOf(point) < 0
        ? text
        : text.replaceFirst("(" + Pattern.quote(String.valueOf(point)) + ")?0+ ", " ");
  }

  private static String format(double metres, Locale locale) {
    double a = Math.abs(metres);
    if (a >= 10_000) {
      return figure(metres / 1000, locale) + " km";
    }
    if (a >= 10) {
      return figure(metres, locale) + " m";
    }
    return figure(metres * 1000, locale) + " mm";
  }

  /** A figure without a unit, as {@link #format} gives it. */
  public static String figure(double value) {
    return figure(value, Language.now().locale());
  }

  /** A length as it is typed: with its unit, a point for the decimals, and no grouping. */
  public static String typed(double metres) {
    return typed(metres, true);
  }

  /** The same; without a unit where the true size is unknown. */
  public static String typed(double metres, boolean trueSize) {
    String text = trueSize ? format(metres, Locale.ROOT) : figure(metres, Locale.ROOT);
    return text.replace(",", "");
  }

  /**
   * A length in base coordinates within a text, for {@link #read} to put into words once it is
   * known where they stand.
   */
  public static String inBase(double length) {
    return "" + MARK + length + MARK;
  }

  /** A text with its lengths in base coordinates put into words. */
  public static String read(String text, double scale, boolean trueSize) {
    if (text.indexOf(MARK) < 0) {
      return text;
    }
    String[] parts = text.split(String.valueOf(MARK), -1);
    StringBuilder out = new StringBuilder(parts[0]);
    for (int i = 1; i < parts.length; i++) {
      out.append(i % 2 == 1 ? format(scale * Double.parseDouble(parts[i]), trueSize) : parts[i]);
    }
    return out.toString();
  }

  /**
   * An area for reading, with four digits that count: in square metres, or square centimetres where
   * that is less than a tenth of one; in the file's own units where the true size is unknown.
   */
  public static String formatArea(double squareMetres, boolean trueSize) {
    if (!trueSize) {
      return CoreWords.of("length.square-units", fourDigits(squareMetres));
    }
    return squareMetres >= 0.1
        ? fourDigits(squareMetres) + " m²"
        : fourDigits(squareMetres * 1e4) + " cm²";
  }

  /**
   * A volume for reading, with four digits that count: in litres, or cubic metres from a thousand
   * of them on, or cubic centimetres below a tenth of one; in the file's own units where the true
   * size is unknown.
   */
  public static String formatVolume(double cubicMetres, boolean trueSize) {
    if (!trueSize) {
      return CoreWords.of("length.cubic-units", fourDigits(cubicMetres));
    }
    if (cubicMetres >= 1) {
      return fourDigits(cubicMetres) + " m³";
    }
    return cubicMetres >= 1e-4
        ? fourDigits(cubicMetres * 1e3) + " l"
        : fourDigits(cubicMetres * 1e6) + " cm³";
  }

  private static String fourDigits(double v) {
    if (v == 0 || !Double.isFinite(v)) {
      return "0";
    }
    int decimals = 3 - (int) Math.floor(Math.log10(Math.abs(v)));
    java.math.BigDecimal d =
        java.math.BigDecimal.valueOf(v).setScale(decimals, java.math.RoundingMode.HALF_UP);
    return Language.format("%,." + Math.max(0, decimals) + "f", d);
  }

  /** At least three digits that count, whatever the size; what is below a billionth is nought. */
  private static String figure(double v, Locale locale) {
    double a = Math.abs(v);
    if (a < 5e-10) {
      return "0";
    }
    int decimals = a >= 1000 ? 0 : a >= 100 ? 1 : a >= 10 ? 2 : 3;
    if (a < 0.1) {
      decimals = Math.min(9, 2 - (int) Math.floor(Math.log10(a)));
    }
    return String.format(locale, "%,." + decimals + "f", v);
  }
}
