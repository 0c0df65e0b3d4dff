package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.Map;

/** The picks of a step that works where something is selected: now, or when it was stored. */
final class SelectedPart {
  private static final String PICKS = "picks";

  private final Session session;
  private final StepKind kind;
  private Object stored;

  SelectedPart(Session session, StepKind kind) {
    this.session = session;
    this.kind = kind;
  }

  /** Whether something is selected, now or when it was stored. */
  boolean isSome() {
    return session.selected() != null || stored != null;
  }

  /** Puts the picks among a step's values: those of now before the stored ones, or none. */
  void put(Map<String, Object> values) {
    values.remove(PICKS);
    if (session.selected() != null) {
      values.put(PICKS, StepKind.plain(session.selected().picks()));
    } else if (stored != null) {
      values.put(PICKS, stored);
    }
  }

  /**
   * Where the step works, in words.
   *
   * @param everywhere what is said where nothing is selected
   */
  String words(String everywhere) {
    return session.selected() != null
        ? AppWords.of("noise-tool.in-the-selection", session.selected().count())
        : isSome() ? AppWords.of("noise-tool.as-stored") : everywhere;
  }

  /** Takes over what an entry that is reopened has. */
  void load(Step step) {
    stored = kind.values(step).get(PICKS);
  }

  void clear() {
    stored = null;
  }
}
