package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Failure;

/** A tool whose changes are made by hand in a pane, each at once: a sitting is one entry. */
abstract class HandTool extends Tool {
  private final StepKind kind;
  private final Stage stage;

  /**
   * @param type of the entry that the changes go into
   */
  HandTool(Session session, Class<? extends Step> type, Stage stage) {
    super(session);
    kind = StepKind.of(type);
    this.stage = stage;
  }

  @Override
  public final String id() {
    return kind.slug();
  }

  @Override
  public final String title() {
    return kind.title();
  }

  @Override
  public final Stage stage() {
    return stage;
  }

  @Override
  public final String hint() {
    return kind.help();
  }

  @Override
  public final boolean makesSteps() {
    return false;
  }

  @Override
  public final boolean isQuick() {
    return false;
  }

  @Override
  public final Step step() {
    throw Failure.usage(AppWords.of("edit-tool.at-once"));
  }

  @Override
  public final String verb(History trial) {
    return title();
  }

  @Override
  public final void load(Step step) {}
}
