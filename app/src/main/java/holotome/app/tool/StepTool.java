package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.core.log.History;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.function.BiFunction;
import java.util.function.Function;
import java.util.function.Supplier;
import javafx.scene.Node;
import javafx.scene.canvas.GraphicsContext;
import javafx.scene.input.MouseEvent;

/** A tool whose Sheet is made from the description of its step alone. */
public class StepTool extends Tool {
  private final StepKind kind;
  private final Stage stage;
  private final boolean quick;
  private final BiFunction<Step, History, String> verb;
  private final Function<Workpiece, List<Row>> estimate;
  private final Map<String, Object> values = new LinkedHashMap<>();
  private Fields fields;
  private Need need;
  private int triedUpTo = Integer.MAX_VALUE;
  private Following following;

  /** Whether what was tried out is shown, on which work that was, and what came of it. */
  private boolean isShowing;

  private Workpiece triedOn;
  private Workpiece tried;

  /** A field that goes by what was done elsewhere, and what it was last set to by that. */
  private static final class Following {
    final String name;
    final Supplier<String> source;
    Object last;

    Following(String name, Supplier<String> source) {
      this.name = name;
      this.source = source;
    }
  }

  /** What must be there first; see {@link #needs}. */
  private record Need(Function<Workpiece, String> missing, Function<Workpiece, Way> way) {}

  /**
   * @param verb what the button says, from the step (null if incomplete) and the trial (may be
   *     null)
   * @param presets values to begin with instead of the step's own presets
   */
  public StepTool(
      Session session,
      Class<? extends Step> type,
      Stage stage,
      boolean quick,
      Map<String, Object> presets,
      BiFunction<Step, History, String> verb,
      Function<Workpiece, List<Row>> estimate) {
    super(session);
    this.kind = StepKind.of(type);
    this.stage = stage;
    this.quick = quick;
    this.verb = verb;
    this.estimate = estimate;
    values.putAll(presets);
  }

  @Override
  public String id() {
    return kind.slug();
  }

  @Override
  public String title() {
    return kind.title();
  }

  @Override
  public Stage stage() {
    return stage;
  }

  @Override
  public String hint() {
    return kind.help();
  }

  @Override
  public boolean isQuick() {
    Workpiece w = session.current();
    return quick && (w == null || w.scan().triangleCount() <= triedUpTo);
  }

  /** On larger meshes it is not tried out on every edit. */
  final StepTool triedUpTo(int triangles) {
    triedUpTo = triangles;
    return this;
  }

  /** Shows in the panes what it would make, as soon as that was tried out. */
  final StepTool showing() {
    isShowing = true;
    return this;
  }

  @Override
  public void end(ViewPort port) {
    tried = null;
  }

  @Override
  public void tried(History trial) {
    if (isShowing) {
      triedOn = session.current();
      tried = trial.current();
      session.changed();
    }
  }

  @Override
  public Workpiece shows() {
    return tried != null && triedOn == session.current() ? tried : null;
  }

  /**
   * Lets a field go by what was done elsewhere until another value is asked for.
   *
   * @param source its value, null for the one that it has
   */
  final StepTool following(String name, Supplier<String> source) {
    following = new Following(name, source);
    return this;
  }

  @Override
  public Node form() {
    String led = following == null ? null : following.source.get();
    if (led != null) {
      values.put(following.name, led);
    }
    fields = new Fields(this::fieldEdited);
    for (StepKind.Field f : kind.fields()) {
      fields.add(f, values.get(f.name()));
    }
    if (following != null) {
      following.last = fields.values().get(following.name);
    }
    return fields.box();
  }

  private void fieldEdited() {
    values.clear();
    values.putAll(fields.values());
    if (following != null && !Objects.equals(values.get(following.name), following.last)) {
      following = null;
    }
    changed();
    edited();
  }

  /** Called when a field was edited, before anything is told of it. */
  protected void changed() {}

  /** Fills a field in as if typed. */
  protected final void fill(String name, String text) {
    fields.fill(name, text);
  }

  /** Leaves a field out of sight, for a parameter that is chosen in another way. */
  protected final void hide(String name) {
    fields.hide(name);
  }

  /** Shows a hidden field again. */
  protected final void reveal(String name) {
    fields.reveal(name);
  }

  /**
   * Says what must be there before the step can be made.
   *
   * @param missing what is not there, in the window's words; null once all is
   * @param way what leads to it
   */
  StepTool needs(Function<Workpiece, String> missing, Function<Workpiece, Way> way) {
    need = new Need(missing, way);
    return this;
  }

  @Override
  public String missing() {
    Workpiece w = session.current();
    return need == null || w == null ? null : need.missing.apply(w);
  }

  @Override
  public Way way() {
    Workpiece w = session.current();
    return need == null || w == null ? null : need.way.apply(w);
  }

  @Override
  public Step step() {
    return kind.create(fields == null ? values : fields.values());
  }

  /** The field that a click in the view fills in; null where the step has none. */
  private String pointField() {
    return kind.fields().stream()
        .filter(f -> f.type().equals("numbers") && f.name().equals("point"))
        .map(StepKind.Field::name)
        .findFirst()
        .orElse(null);
  }

  @Override
  public void pressed(ViewPort view, MouseEvent e) {
    String name = pointField();
    if (name == null || fields == null) {
      return;
    }
    view.pick(
        e.getX(),
        e.getY(),
        p -> {
          if (p != null) {
            fields.fill(name, Points.format(p));
          }
        });
  }

  @Override
  public void draw(ViewPort view, GraphicsContext g) {
    String name = pointField();
    if (name == null || fields == null || !(fields.values().get(name) instanceof String text)) {
      return;
    }
    double[] p = Points.parse(text);
    // Half typed: the Sheet says so, there is no place to mark.
    if (p != null) {
      Marks.ring(g, view.project(p));
    }
  }

  @Override
  public void load(Step step) {
    following = null;
    values.clear();
    values.putAll(kind.values(step));
    values.remove("do");
  }

  protected final boolean isSet(String name) {
    return values.get(name) != null;
  }

  /** The values as they stand. */
  protected final Map<String, Object> values() {
    return fields == null ? values : fields.values();
  }

  /** Sets one value as if typed; used by findings. */
  public void set(String name, Object value) {
    values.put(name, value);
  }

  @Override
  public String verb(History trial) {
    Step s = null;
    try {
      s = step();
    } catch (holotome.core.task.Failure f) {
      // The Sheet says what is missing; the button only needs its words.
      return verb.apply(null, trial);
    }
    return verb.apply(s, trial);
  }

  @Override
  public List<Row> estimate(Workpiece in) {
    return estimate.apply(in);
  }
}
