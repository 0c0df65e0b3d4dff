package holotome.app.tool;

import holotome.core.log.History;
import holotome.core.step.Step;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;

/** The size of the picture that the charts were last packed for. */
final class PackedSize {
  private PackedSize() {}

  /** In pixels; null where they never were. */
  static String of(History history) {
    int out = 0;
    if (history == null) {
      return null;
    }
    for (History.Line line : history.lines()) {
      Step step = line.entry().step();
      if (line.entry().on() && step instanceof MakeCharts m) {
        out = m.size();
      } else if (line.entry().on() && step instanceof PackCharts) {
        out = line.effect().amount();
      }
    }
    return out > 0 ? Integer.toString(out) : null;
  }
}
