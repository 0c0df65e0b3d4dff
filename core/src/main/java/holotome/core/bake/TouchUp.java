package holotome.core.bake;

import holotome.core.geometry.Similarity;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.touch.Touch;
import holotome.core.touch.TouchGround;
import holotome.core.touch.Touching;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Touches the maps up by hand, one change after the other. What finds nothing to change is left
 * out, and it is said which.
 */
@Describes(
    id = "bake.touch",
    title = "Touch up",
    help =
        "Changes all maps at once by hand: copies from elsewhere, fills from around, blends seams away, softens, restores. Across the borders of charts as if there were none.",
    reads = {"cast", "maps", "frame"},
    writes = {"maps"})
public record TouchUp(@Parameter(help = "What is done, one after the other") List<Touch> touches)
    implements Step {
  /** What the ground takes a triangle and a texel, and a touch for each texel of the maps. */
  private static final long TRIANGLE_BYTES = 160;

  private static final long TEXEL_BYTES = 8;

  public TouchUp {
    if (touches == null || touches.isEmpty()) {
      throw Failure.usage(CoreWords.of("touch-up.no-touches"));
    }
    touches = List.copyOf(touches);
  }

  /** The same and more. */
  public TouchUp with(List<Touch> more) {
    List<Touch> all = new ArrayList<>(touches);
    all.addAll(more);
    return new TouchUp(all);
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null || in.maps() == null
        ? 0
        : TRIANGLE_BYTES * in.cast().triangleCount()
            + TEXEL_BYTES * in.maps().missed().width() * in.maps().missed().height();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    if (in.maps() == null || in.cast() == null || in.cast().uv() == null) {
      throw Failure.cannot(CoreWords.of("touch-up.no-maps"));
    }
    String label = CoreWords.of("work.touching-up");
    TouchGround ground = TouchGround.of(in.cast(), in.maps(), run.work().part(0.2, label));
    Similarity toBase = in.frame().toFile().inverse();
    Maps maps = in.maps();
    List<String> notes = new ArrayList<>();
    int done = 0;
    for (int i = 0; i < touches.size(); i++) {
      Touch touch = touches.get(i).moved(toBase);
      Work part = run.work().part(0.8 / touches.size(), label);
      try {
        maps = touched(ground, maps, in.maps(), touch, part);
        done++;
      } catch (Failure f) {
        if (f.kind() != Failure.Kind.CANNOT) {
          throw f;
        }
        notes.add(CoreWords.of("touch-up.left-out", i + 1, f.getMessage()));
      }
    }
    if (done == 0) {
      throw Failure.cannot(notes.getFirst());
    }
    notes.addFirst(CoreWords.count("touch-up.done", done));
    return new Outcome(in.withMaps(maps), notes, null, done);
  }

  private static Maps touched(TouchGround ground, Maps maps, Maps before, Touch touch, Work work) {
    Maps known = KeptTouches.find(maps, before, touch);
    if (known != null) {
      work.advance(1);
      return known;
    }
    Maps made = Touching.apply(ground, maps, before, touch, work);
    KeptTouches.keep(maps, before, touch, made);
    return made;
  }
}
