package holotome.app.model;

import holotome.app.words.AppWords;

/**
 * Something measured that needs attention, or that is as it should be.
 *
 * @param show brings it into view; null where there is nothing to show
 * @param actionName the repair in words; null for none
 * @param places leads from place to place; null where there is none or only one
 */
public record Finding(
    Severity severity,
    String title,
    String text,
    Runnable show,
    String actionName,
    Runnable action,
    Places places) {

  /** Goes to the place before and to the next one. */
  public record Places(Runnable back, Runnable on) {}

  public Finding(
      Severity severity,
      String title,
      String text,
      Runnable show,
      String actionName,
      Runnable action) {
    this(severity, title, text, show, actionName, action, null);
  }

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
