package holotome.core.words;

import java.math.BigDecimal;
import java.math.MathContext;
import java.text.DecimalFormatSymbols;
import java.util.Locale;

/**
 * The languages that words and figures can be given in, and the one that is spoken.
 *
 * <p>One language is spoken by the whole program; the window chooses it when it starts, everything
 * else speaks English. Files, Logs and the command line's own output are the same in every
 * language: they write their figures by {@link Locale#ROOT} and do not ask here.
 */
public enum Language {
  ENGLISH("", "English", Locale.ENGLISH),
  GERMAN("de", "Deutsch", Locale.GERMAN);

  private static volatile Language now = ENGLISH;

  private final String code;
  private final String ownName;
  private final Locale locale;

  Language(String code, String ownName, Locale locale) {
    this.code = code;
    this.ownName = ownName;
    this.locale = locale;
  }

  /** The language spoken. */
  public static Language now() {
    return now;
  }

  /** Speaks another language from now on; what was said before stays as it was. */
  public static void speak(Language language) {
    now = language;
  }

  /** The language a system of this locale has; English where none here is. */
  public static Language of(Locale system) {
    for (Language l : values()) {
      if (l.locale.getLanguage().equals(system.getLanguage())) {
        return l;
      }
    }
    return ENGLISH;
  }

  /** What its speakers call it. */
  public String ownName() {
    return ownName;
  }

  /** What the names of its bundles end in; empty for English, which all else falls back to. */
  public String code() {
    return code;
  }

  /** Says how figures and dates are written. */
  public Locale locale() {
    return locale;
  }

  /** Whether a noun after this number stands in the singular. */
  boolean isOne(long n) {
    return n == 1;
  }

  /** A figure as typed in the language spoken, with a point for the decimals. */
  public static String typed(String figure) {
    boolean comma = DecimalFormatSymbols.getInstance(now.locale).getDecimalSeparator() == ',';
    return comma ? figure.replace(',', '.') : figure;
  }

  /** A figure of four digits at most, without noughts at the end. */
  public static String figure(double value) {
    String plain =
        new BigDecimal(value).round(new MathContext(4)).stripTrailingZeros().toPlainString();
    return plain.replace('.', DecimalFormatSymbols.getInstance(now.locale).getDecimalSeparator());
  }

  /** Figures put into a pattern as they are written in the language spoken. */
  public static String format(String pattern, Object... args) {
    return String.format(now.locale, pattern, args);
  }
}
