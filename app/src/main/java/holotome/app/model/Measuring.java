package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.memory.Claim;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;

/** Measures the current Scan in the background, for the findings; what was measured is kept. */
final class Measuring {

  /** Measuring waits so many seconds for memory when no other large computation is at work. */
  private static final double PATIENCE = 10;

  private final Session session;
  private final Insights insights = new Insights();
  private Failure failure;

  Measuring(Session session) {
    this.session = session;
  }

  Insight of(Mesh mesh) {
    return insights.of(mesh);
  }

  void clear() {
    insights.clear();
  }

  /** Which mesh is worked on: what was measured of it is held whatever memory there is. */
  void setAtHand(Mesh mesh) {
    insights.setAtHand(mesh);
  }

  /** Why there is nothing measured; null where it was, or is to be. */
  Failure failure() {
    return failure;
  }

  void begin() {
    Mesh mesh = session.current().scan();
    failure = null;
    if (insights.of(mesh) != null) {
      return;
    }
    session
        .jobs()
        .quietly(
            work -> {
              try (Claim room = Claim.of(Insight.memory(mesh))) {
                room.require(PATIENCE, AppWords.of("common.measuring"), work);
                return Insight.of(mesh, work);
              }
            },
            result -> {
              insights.put(result);
              session.changed();
            },
            f -> {
              failure = f.kind() == Failure.Kind.CANCELLED ? null : f;
              session.changed();
            });
  }

  /** Takes the measuring up again after another quiet job ended it. */
  void beginIfIdle() {
    boolean isIdle = !session.jobs().isQuietRunning() && !session.jobs().isBusy();
    if (session.isOpen() && session.insight() == null && failure == null && isIdle) {
      begin();
    }
  }
}
