package holotome.app.model;

import holotome.app.words.AppWords;
import java.util.Locale;

/** The parts of the job, in working order. */
public enum Stage {
  INTAKE,
  TRIM,
  MEND,
  DATUM,
  REDUCE,
  UNWRAP,
  BAKE,
  SHIP;

  /** Its name in files and ids. */
  public String id() {
    return name().toLowerCase(Locale.ROOT);
  }

  public String title() {
    return AppWords.of("stage." + id());
  }

  /** Whether the stage is about the Cast. */
  public boolean showsCast() {
    return compareTo(REDUCE) >= 0;
  }
}
