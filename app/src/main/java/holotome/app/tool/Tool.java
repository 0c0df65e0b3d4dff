package holotome.app.tool;

import holotome.app.model.Figures;
import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.view.scene.Look;
import java.util.BitSet;
import java.util.List;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.KeyEvent;
import javafx.scene.input.MouseEvent;
import javafx.scene.input.ScrollEvent;

/**
 * A tool of a stage: parameters on the Sheet, perhaps something to do with the left button in the
 * view, and the step that comes of it.
 */
public abstract class Tool {
  protected final Session session;
  private Runnable edited = () -> {};

  protected Tool(Session session) {
    this.session = session;
  }

  /** Whether the tool makes steps at all; one that only looks has no button and no figures. */
  public boolean makesSteps() {
    return true;
  }

  /**
   * A figure before and after, as on the Sheet.
   *
   * @param id the same in every language
   */
  public record Row(String id, String before, String after) {
    /** What it is called. */
    public String name() {
      return AppWords.of("figure." + id);
    }
  }

  /** Its name in ids and settings, the same in every language. */
  public abstract String id();

  /** What it is called on the Sheet. */
  public String title() {
    return AppWords.of("tool." + id());
  }

  public abstract Stage stage();

  /** What the tool is for and how to begin, in a sentence. */
  public abstract String hint();

  /** The parameters; made anew whenever the tool is taken up. */
  public abstract Node form();

  /** What there is to see beside the parameters, below the buttons; null for nothing. */
  public Node details() {
    return null;
  }

  /** How the work is best shown while the tool is at hand; null for as it is shown. */
  public Look look() {
    return null;
  }

  /** Whether it is to be seen from where rays of a bake start. */
  public boolean showsCage() {
    return false;
  }

  /**
   * Lines on the surface that say what the tool would do, hidden by what lies in front of them:
   * both ends of each, 6 numbers a line, in working space; null for none.
   */
  public double[] surfaceLines() {
    return null;
  }

  /** Whether such lines are seen faintly where something lies in front of them. */
  public boolean areLinesSeenThrough() {
    return false;
  }

  /** What is still to be done before there is a step, in plain words; null for nothing. */
  public String missing() {
    return null;
  }

  /** What leads to what is missing, where another tool does. */
  public record Way(String words, Class<? extends Step> tool) {}

  /** The way to what {@link #missing} says; null where it is done with this tool. */
  public Way way() {
    return null;
  }

  /**
   * The step as the parameters stand, once nothing is missing.
   *
   * @throws holotome.core.task.Failure with what is wrong, in plain words
   */
  public abstract Step step();

  /** Takes the parameters over from an entry that is reopened. */
  public abstract void load(Step step);

  /** Whether the step is quick enough to be tried on every edit, for exact figures. */
  public boolean isQuick() {
    return true;
  }

  /** Whether it works on single triangles, which are then to be seen. */
  public boolean isOnTriangles() {
    return false;
  }

  /** Figures that can be told without running the step. */
  public List<Row> estimate(Workpiece in) {
    return List.of();
  }

  /** What the button says; {@code trial} is null while figures are not there. */
  public abstract String verb(History trial);

  /** What the user should know of the figures before going on, in plain words; null for nothing. */
  public String advice(Figures before, Figures after) {
    return null;
  }

  /** Called when the tool is taken up and laid down. */
  public void begin(ViewPort view) {}

  public void end(ViewPort view) {}

  /** Whether it takes clicks for itself, so that they choose nothing. */
  public boolean takesClicks() {
    return false;
  }

  public void pressed(ViewPort view, MouseEvent e) {}

  public void dragged(ViewPort view, MouseEvent e) {}

  public void released(ViewPort view, MouseEvent e) {}

  public void moved(ViewPort view, MouseEvent e) {}

  /** Called when the current Scan has been measured. */
  public void measured() {}

  /** Whether the tool made use of the wheel. */
  public boolean scrolled(ViewPort view, ScrollEvent e) {
    return false;
  }

  /** Triangles of the current Scan to be shown as selected while none are; null for none. */
  public BitSet marked() {
    return null;
  }

  /** Whether the tool made use of Enter, which else makes its step. */
  public boolean enter(ViewPort view) {
    return false;
  }

  /** Whether the tool made use of a key. */
  public boolean key(ViewPort view, KeyEvent e) {
    return false;
  }

  public void draw(ViewPort view, GraphicsContext g) {}

  /** The workpiece that should be shown while this tool is in hand; null for the usual one. */
  public Workpiece shows() {
    return null;
  }

  /** Called with what its step would make, whenever that was tried out. */
  public void tried(History trial) {}

  /**
   * What the tool has been given so far, where that can be taken back step by step; null where
   * there is nothing.
   */
  public Draft<?> draft() {
    return null;
  }

  /** Lets go of what was begun, as by Esc. */
  public void drop(ViewPort view) {}

  public final void onEdited(Runnable listener) {
    edited = listener;
  }

  /** To be called by the tool whenever its parameters changed. */
  protected final void edited() {
    edited.run();
  }
}
