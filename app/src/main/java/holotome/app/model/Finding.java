package holotome.app.model;

import holotome.app.words.AppWords;

/**
 * Something measured that needs attention, or that is as it should be.
 *
 * @param show brings it into view; null where there is nothing to show
 * @param actionName the repair in words; null for none
 */
public record Finding(
    Severity severity,
    String title,
    String text,
    Runnable show,
    String actionName,
    Runnable action) {

  /** How much it matters; the word stands beside the colour. */
  public enum Severity {
    GOOD,
    NOTE,
    WARN,
    ERROR;

    public String word() {
      return AppWords.of("finding." + name());
    }
  }

  public static Finding good(String title, String text) {
    return new Finding(Severity.GOOD, title, text, null, null, null);
  }
}
