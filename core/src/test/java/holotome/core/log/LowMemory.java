package holotome.core.log;

import holotome.core.Datasets;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Stream;

/**
 * Runs every step with less and less memory until it runs out, in a process of its own: what it was
 * given must be as before, nothing may be written, and with memory again it must work as ever.
 * Prints the step and how often it ran out; ends with 1 at the first thing that is not so.
 */
final class LowMemory {
  private static final double[] FREE_MB = {1.5, 0.3};
  private static final int BLOCK = 32 << 10;

  private LowMemory() {}

  public static void main(String[] args) throws Exception {
    Path dir = Path.of(args[0]);
    Workpiece start = GivenSteps.start(5, 90);
    List<GivenSteps.Given> all = steps();
    for (int i = 0; i < all.size(); i++) {
      GivenSteps.Given given = all.get(i);
      Workpiece w = GivenSteps.before(given, start);
      Step step = Catalogue.create(given.entry());
      Outcome wanted = step.apply(w, new Run(Work.unwatched(), dir.resolve("whole-" + i)));
      int ranOut = 0;
      for (double free : FREE_MB) {
        ranOut += runsOut(step, w, dir.resolve("short-" + i + "-" + free), free) ? 1 : 0;
      }
      Outcome again = step.apply(w, new Run(Work.unwatched(), dir.resolve("again-" + i)));
      EveryStepTest.assertSame(again.work(), wanted.work());
      System.out.println("ran out " + ranOut + " " + given.entry().get("do"));
    }
  }

  /** One of each kind, or all where {@code verify long} asks for them. */
  static List<GivenSteps.Given> steps() {
    Set<Object> seen = new HashSet<>();
    return GivenSteps.steps()
        .filter(g -> seen.add(g.entry().get("do")) || Datasets.times(0, 1) > 0)
        .toList();
  }

  private static boolean runsOut(Step step, Workpiece w, Path into, double megabytes)
      throws Exception {
    int before = sum(w);
    // Made ready while there is memory.
    Run run = new Run(Work.unwatched(), into);
    List<byte[]> ballast = full();
    for (double left = megabytes * (1 << 20); left > 0; ) {
      left -= ballast.removeLast().length;
    }
    boolean out = false;
    try {
      step.apply(w, run);
    } catch (OutOfMemoryError e) {
      out = true;
    } catch (Failure f) {
      out = f.kind() == Failure.Kind.MEMORY;
      if (!out) {
        throw f;
      }
    } finally {
      ballast.clear();
    }
    if (sum(w) != before) {
      throw new IllegalStateException(step + " changed what it was given");
    }
    if (out && Files.exists(into)) {
      try (Stream<Path> files = Files.list(into)) {
        List<Path> left = files.toList();
        if (!left.isEmpty()) {
          throw new IllegalStateException(step + " left " + left);
        }
      }
    }
    return out;
  }

  /** As much as there is room for. */
  private static List<byte[]> full() {
    List<byte[]> ballast = new ArrayList<>(1 << 14);
    // Large blocks first: each of the last ones costs a collection.
    fill(ballast, 64 * BLOCK);
    ballast.removeLast();
    fill(ballast, BLOCK);
    return ballast;
  }

  private static void fill(List<byte[]> ballast, int size) {
    try {
      while (true) {
        ballast.add(new byte[size]);
      }
    } catch (OutOfMemoryError e) {
      // Full.
    }
  }

  private static int sum(Workpiece w) {
    return 31 * sum(w.scan()) + (w.cast() == null ? 0 : sum(w.cast()));
  }

  private static int sum(Mesh m) {
    return Arrays.hashCode(m.xyz())
        + 31 * Arrays.hashCode(m.triangles())
        + 961 * Arrays.hashCode(m.colours());
  }
}
