package holotome.core.log;

import holotome.core.step.Step;

/**
 * One step in a Log.
 *
 * @param on whether it takes effect; a switched-off entry stands by and can be switched on again
 */
public record Entry(Step step, boolean on) {
  public static Entry of(Step step) {
    return new Entry(step, true);
  }
}
