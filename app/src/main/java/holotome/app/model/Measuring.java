package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.memory.Claim;
import holotome.core.mend.Survey;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.function.Consumer;
import java.util.function.Function;

/** Measures the current Scan in the background, for the findings; what was measured is kept. */
final class Measuring {

  /** Measuring waits so many seconds for memory when no other large computation is at work. */
  private static final double PATIENCE = 10;

  /** Larger meshes are not held on to for what was found on them. */
  private static final int KEPT = 20_000_000;

  private final Session session;
  private final Insights insights = new Insights();
  private Failure failure;
  private Survey survey;

  /** A mesh that could not be surveyed is not tried again by itself, and why it could not. */
  private Mesh unsurveyed;

  private Failure unseen;

  Measuring(Session session) {
    this.session = session;
  }

  Insight of(Mesh mesh) {
    return insights.of(mesh);
  }

  /** All that is wrong with a mesh; null where that is not known. */
  Survey surveyOf(Mesh mesh) {
    return survey != null && survey.mesh() == mesh ? survey : null;
  }

  /** Why a mesh could not be surveyed; null where it was, or is to be. */
  Failure unseen(Mesh mesh) {
    return unsurveyed == mesh ? unseen : null;
  }

  void clear() {
    insights.clear();
    survey = null;
    unsurveyed = null;
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
    unsurveyed = null;
    if (insights.of(mesh) != null) {
      beginIfIdle();
    } else if (session.stage() == Stage.MEND && survey != null && surveyOf(mesh) == null) {
      surveyWhatChanged(survey, mesh);
    } else {
      measure(mesh);
    }
  }

  /** After a small change all that is wrong is known long before the rest. */
  private void surveyWhatChanged(Survey before, Mesh mesh) {
    quietly(
        Survey.memoryOfChanges(mesh),
        work -> Survey.ofChanges(before, mesh, work),
        found -> {
          survey = found == null ? survey : found;
          session.changed();
          measure(mesh);
        },
        f -> {
          if (f.kind() == Failure.Kind.CANCELLED) {
            session.changed();
          } else {
            measure(mesh);
          }
        });
  }

  /** Looks at a mesh in the background, once there is room. */
  private <T> void quietly(
      long bytes, Function<Work, T> look, Consumer<T> done, Consumer<Failure> failed) {
    session
        .jobs()
        .quietly(
            work -> {
              try (Claim room = Claim.of(bytes)) {
                room.require(PATIENCE, AppWords.of("common.measuring"), work);
                return look.apply(work);
              }
            },
            done,
            failed);
  }

  private void measure(Mesh mesh) {
    quietly(
        Insight.memory(mesh),
        work -> Insight.of(mesh, work),
        result -> {
          insights.put(result);
          session.changed();
          beginIfIdle();
        },
        f -> {
          failure = f.kind() == Failure.Kind.CANCELLED ? null : f;
          session.changed();
        });
  }

  /** Takes the measuring up again after another quiet job ended it. */
  void beginIfIdle() {
    boolean isIdle = !session.jobs().isQuietRunning() && !session.jobs().isBusy();
    if (!session.isOpen() || !isIdle) {
      return;
    }
    if (session.insight() == null && failure == null) {
      begin();
    } else if (session.insight() != null && session.stage() == Stage.MEND) {
      beginSurvey();
    }
  }

  /** Looks for all that is wrong, once what every stage asks for is known. */
  private void beginSurvey() {
    Mesh mesh = session.current().scan();
    if (surveyOf(mesh) != null || unsurveyed == mesh) {
      return;
    }
    Survey before = survey != null && survey.mesh().triangleCount() <= KEPT ? survey : null;
    // What is not compared with is let go of, with its mesh.
    survey = before;
    quietly(
        Survey.memory(mesh),
        work -> Survey.after(before, mesh, work),
        found -> {
          survey = found;
          session.changed();
        },
        f -> {
          if (f.kind() != Failure.Kind.CANCELLED) {
            unsurveyed = mesh;
            unseen = f;
          }
          session.changed();
        });
  }
}
