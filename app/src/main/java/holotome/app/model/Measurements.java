package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.measure.Measured;
import holotome.core.measure.Measurement;
import holotome.core.measure.Measuring;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/**
 * What is measured on the work: kept with the project, and taken anew whenever the work changes.
 */
public final class Measurements {
  private final Session session;
  private final List<Measurement> kept = new ArrayList<>();
  private List<Measured> taken = List.of();
  private List<String> failed = List.of();
  private Mesh takenOn;
  private Frame takenIn;
  private int takenOf = -1;
  private int changes;

  /** The one added last, until it has been taken. */
  private Measurement fresh;

  Measurements(Session session) {
    this.session = session;
  }

  /** What is kept, in the order it was added. */
  public List<Measurement> all() {
    return List.copyOf(kept);
  }

  /** The figures of what could be measured, as the work last stood. */
  public List<Measured> taken() {
    return taken;
  }

  /** What could not be measured, one line each. */
  public List<String> failed() {
    return failed;
  }

  void load(List<Measurement> from) {
    kept.clear();
    kept.addAll(from);
    taken = List.of();
    failed = List.of();
    changes++;
  }

  /** Adds a measurement and takes it. */
  public void add(Measurement m) {
    kept.add(m);
    fresh = m;
    changes++;
    session.keep(AppWords.of("measurements.measured", m.name()));
    update();
  }

  public void remove(Measurement m) {
    if (kept.remove(m)) {
      changes++;
      session.keep(AppWords.of("measurements.took-off-the-list", m.name()));
      update();
    }
  }

  public void rename(Measurement m, String name) {
    int at = kept.indexOf(m);
    if (at >= 0 && !name.isBlank()) {
      kept.set(at, new Measurement(name.strip(), m.kind(), m.pins()));
      changes++;
      session.keep(AppWords.of("measurements.renamed-to", name.strip()));
      update();
    }
  }

  /** A name that is not taken: the kind's and a number. */
  public String freshName(Measurement.Kind kind) {
    for (int i = 1; ; i++) {
      String name = kind.title() + " " + i;
      if (kept.stream().noneMatch(m -> m.name().equals(name))) {
        return name;
      }
    }
  }

  /** Takes all measurements anew in the background, if the work or the list has changed. */
  public void update() {
    Workpiece w = session.current();
    if (w == null
        || takenOn == w.current() && takenIn == w.frame() && takenOf == changes
        || kept.isEmpty() && taken.isEmpty()) {
      return;
    }
    takenOn = w.current();
    takenIn = w.frame();
    takenOf = changes;
    int of = changes;
    List<Measurement> list = all();
    session
        .jobs()
        .look(
            this,
            AppWords.of("common.measuring"),
            work -> take(list, w, work),
            t -> {
              if (of == changes && session.current() == w) {
                settle(t);
              }
            },
            f -> stopped(f, w));
  }

  /** No figures: those of the work as it was before would be wrong now. */
  private void stopped(Failure f, Workpiece of) {
    if (session.current() != of) {
      return;
    }
    taken = List.of();
    failed =
        List.of(
            f.kind() == Failure.Kind.CANCELLED
                ? AppWords.of("measurements.measuring-was-stopped-measure-again")
                : f.getMessage());
    session.changed();
  }

  /** Takes all measurements anew, whether or not anything has changed. */
  public void again() {
    changes++;
    update();
  }

  private void settle(Taken t) {
    taken = t.done;
    String why = fresh == null ? null : t.failed.get(fresh);
    if (why != null) {
      // It never could be measured: it is not kept.
      kept.remove(fresh);
      t.failed.remove(fresh);
      changes++;
      takenOf = changes;
      session.fail(Failure.cannot(why));
    }
    fresh = null;
    failed =
        t.failed.entrySet().stream().map(e -> e.getKey().name() + ": " + e.getValue()).toList();
    session.changed();
  }

  private record Taken(List<Measured> done, Map<Measurement, String> failed) {}

  private static Taken take(List<Measurement> list, Workpiece w, Work work) {
    List<Measured> done = new ArrayList<>();
    Map<Measurement, String> failed = new LinkedHashMap<>();
    for (Measurement m : list) {
      try {
        Work part = work.part(1.0 / list.size(), AppWords.of("common.measuring"));
        done.add(Measuring.of(m, w.current(), w.frame(), part));
      } catch (Failure f) {
        if (f.kind() == Failure.Kind.CANCELLED) {
          throw f;
        }
        failed.put(m, f.getMessage());
      }
    }
    return new Taken(done, failed);
  }

  /** Writes the figures as CSV. */
  public void write(Path file) {
    try {
      String csv = Measured.csv(taken, session.current().frame().trueSize());
      holotome.core.io.SafeFiles.write(
          file, out -> out.write(csv.getBytes(StandardCharsets.UTF_8)));
      session.say(AppWords.count("measurements.written", taken.size(), file.getFileName()));
    } catch (Failure f) {
      session.fail(f);
    }
  }
}
