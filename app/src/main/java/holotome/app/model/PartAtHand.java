package holotome.app.model;

import holotome.core.log.Entry;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.WeakHashMap;

/**
 * Which mesh of the work the tools of Trim and Mend work on: the Scan, or any other part. To them
 * it stands in the Scan's place, alone; what they make is an entry for that part. Lives on the
 * interface thread.
 */
public final class PartAtHand {
  private final Session session;
  private Part<Mesh> chosen = Part.SCAN;

  /** States as they are seen now, by the whole ones: what is shown twice is the same. */
  private final Map<Workpiece, Workpiece> seen = new WeakHashMap<>();

  PartAtHand(Session session) {
    this.session = session;
  }

  /** The part worked on in this stage. */
  public Part<Mesh> part() {
    Workpiece w = session.whole();
    return isOffered() && w != null && w.get(chosen) != null ? chosen : Part.SCAN;
  }

  /** Whether the stage is one whose tools work on any mesh. */
  public boolean isOffered() {
    return session.stage() == Stage.TRIM || session.stage() == Stage.MEND;
  }

  /** The meshes there are to work on. */
  public List<Part<Mesh>> all() {
    List<Part<Mesh>> out = new ArrayList<>();
    if (session.whole() != null) {
      session
          .whole()
          .parts()
          .forEach(
              (p, value) -> {
                if (value instanceof Mesh) {
                  out.add(Part.mesh(p.name()));
                }
              });
    }
    return out;
  }

  /** Works on the next mesh. */
  public void next() {
    List<Part<Mesh>> all = all();
    if (all.size() > 1 && !session.jobs().isBusy()) {
      keeping(() -> chosen = all.get((all.indexOf(part()) + 1) % all.size()));
      session.changed();
    }
  }

  /** Works on the part that an entry has; null for the Scan. */
  void follow(Part<Mesh> part) {
    chosen = part == null ? Part.SCAN : part;
  }

  /** Makes a change; where another mesh is worked on after it, what was selected is let go. */
  void keeping(Runnable change) {
    Part<Mesh> before = part();
    change.run();
    if (!part().equals(before)) {
      seen.clear();
      session.otherMesh();
    }
  }

  /** A state as the tools see it: the part in the Scan's place. The same for the same state. */
  public Workpiece seen(Workpiece state) {
    Part<Mesh> p = part();
    if (state == null || p.equals(Part.SCAN) || state.get(p) == null) {
      return state;
    }
    return seen.computeIfAbsent(state, s -> alone(s, p));
  }

  /** A state with a part in the Scan's place, alone; any thread. */
  public static Workpiece alone(Workpiece state, Part<Mesh> part) {
    return part.equals(Part.SCAN) || state.get(part) == null
        ? state
        : state.with(Part.CAST, null).with(Part.MAPS, null).withScan(state.get(part));
  }

  /** An entry of a step for the part worked on, if the step is one for any mesh. */
  public Entry entry(Step step) {
    Part<Mesh> p = part();
    return new Entry(step, true, StepKind.of(step).worksOnAnyMesh() ? p : null);
  }
}
