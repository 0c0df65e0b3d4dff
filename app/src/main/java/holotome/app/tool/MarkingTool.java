package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.core.log.History;
import holotome.core.step.Step;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.function.BiFunction;
import java.util.function.Supplier;

/** A tool that lists what was measured, and marks in the view what its step is about. */
abstract class MarkingTool extends StepTool {
  private final Marking marking;
  private ViewPort view;

  MarkingTool(
      Session session,
      Class<? extends Step> type,
      Stage stage,
      BiFunction<Step, History, String> verb) {
    super(session, type, stage, true, Map.of(), verb, w -> List.of());
    marking = new Marking(session);
  }

  /** Fills the list anew. */
  protected abstract void list();

  /** How to work out what is marked; null for nothing. */
  protected abstract Supplier<BitSet> marks();

  @Override
  public void begin(ViewPort port) {
    view = port;
    mark();
  }

  @Override
  public void end(ViewPort port) {
    marking.clear();
    view = null;
  }

  @Override
  protected void changed() {
    mark();
  }

  @Override
  public void measured() {
    list();
    mark();
  }

  @Override
  public BitSet marked() {
    return marking.set();
  }

  private void mark() {
    marking.clear();
    Supplier<BitSet> what = view == null || session.insight() == null ? null : marks();
    if (what != null) {
      ViewPort on = view;
      marking.ask(what, on::refresh);
    }
  }
}
