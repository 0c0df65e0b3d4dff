package holotome.app.tool;

import holotome.app.model.Session;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.Map;

/** The charts that a step works on, each by a point: those chosen now, or when it was stored. */
final class ChosenPart {
  private final Session session;
  private final StepKind kind;
  private final String field;
  private Object stored;

  /**
   * @param field of the step that holds the points
   */
  ChosenPart(Session session, StepKind kind, String field) {
    this.session = session;
    this.kind = kind;
    this.field = field;
  }

  /** A point of each chart that is chosen now, in working space. */
  double[] now() {
    return session.charts().points(session.current());
  }

  /** Whether an entry that is reopened has charts. */
  boolean isStored() {
    return stored != null;
  }

  /**
   * Puts points among a step's values: those of now before the stored ones, or none.
   *
   * @param now as {@link #now} told
   */
  void put(Map<String, Object> values, double[] now) {
    values.remove(field);
    if (now.length > 0) {
      values.put(field, StepKind.plain(now));
    } else if (stored != null) {
      values.put(field, stored);
    }
  }

  /** Takes over what an entry that is reopened has. */
  void load(Step step) {
    stored = kind.values(step).get(field);
  }

  void clear() {
    stored = null;
  }
}
