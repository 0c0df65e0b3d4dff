package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.step.Step;
import holotome.core.unwrap.ArrangeCharts;
import holotome.core.unwrap.ChartEdit;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import java.util.List;

/** Charts moved by hand: a sitting is one entry. */
public final class ArrangingCharts {
  private static final int USUAL_SIZE = 2048;

  private final Session session;
  private final Sitting<ArrangeCharts> sitting;

  public ArrangingCharts(Session session) {
    this.session = session;
    sitting = new Sitting<>(session, ArrangeCharts.class);
  }

  /** Whether an edit is being made. */
  public boolean isMaking() {
    return sitting.isMaking();
  }

  /** Makes an edit. */
  public void make(ChartEdit edit) {
    sitting.make(
        AppWords.of("arrange-tool.moving"),
        last -> last == null ? new ArrangeCharts(List.of(edit)) : last.with(edit));
  }

  /** The picture that the charts were packed for last, in pixels, and the gutter. */
  public int[] picture() {
    int[] out = {USUAL_SIZE, 4};
    for (History.Line l : session.history().lines()) {
      Step s = l.entry().step();
      if (l.entry().on() && s instanceof MakeCharts m) {
        out = new int[] {m.size(), m.gutter()};
      } else if (l.entry().on() && s instanceof PackCharts p) {
        // Where a density was asked for the size came of it.
        out = new int[] {p.density() == null ? p.size() : l.effect().amount(), p.gutter()};
      }
    }
    return out;
  }
}
