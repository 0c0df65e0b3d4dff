package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.log.Effect;
import holotome.core.log.Entry;
import holotome.core.log.History;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unwrap.ArrangeCharts;
import holotome.core.unwrap.ChartEdit;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import java.util.List;

/**
 * Charts moved by hand: as long as the last entry is one of that the next edits go into it, so that
 * a sitting is one entry, and undo takes back one after the other.
 */
public final class ArrangingCharts {
  private static final int USUAL_SIZE = 2048;

  private final Session session;

  public ArrangingCharts(Session session) {
    this.session = session;
  }

  private ArrangeCharts last() {
    History h = session.history();
    if (h == null || h.size() == 0) {
      return null;
    }
    Entry e = h.lines().getLast().entry();
    return e.on() && e.step() instanceof ArrangeCharts a ? a : null;
  }

  /** How many edits the entry has that the next one goes into. */
  public int made() {
    ArrangeCharts last = last();
    return last == null ? 0 : last.edits().size();
  }

  /** Makes an edit. */
  public void make(ChartEdit edit) {
    ArrangeCharts last = last();
    ArrangeCharts step = last == null ? new ArrangeCharts(List.of(edit)) : last.with(edit);
    int done = last == null ? 0 : session.history().lines().getLast().effect().amount();
    session.change(
        AppWords.of("arrange-tool.moving"),
        (h, run) -> {
          History next =
              last == null
                  ? h.apply(new Entry(step, true, null), run)
                  : h.revise(h.size() - 1, step, run);
          Effect effect = next.lines().getLast().effect();
          if (effect.amount() <= done) {
            throw Failure.cannot(effect.notes().getLast());
          }
          return next;
        });
  }

  /** The picture that the charts were packed for last, in pixels, and the gutter. */
  public int[] picture() {
    int[] out = {USUAL_SIZE, 4};
    for (History.Line l : session.history().lines()) {
      Step s = l.entry().step();
      if (l.entry().on() && s instanceof MakeCharts m) {
        out = new int[] {m.size(), m.gutter()};
      } else if (l.entry().on() && s instanceof PackCharts p) {
        out = new int[] {p.size(), p.gutter()};
      }
    }
    return out;
  }
}
