package holotome.core.touch;

import holotome.core.part.Maps;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Supplier;

/**
 * A brush's touch while it is drawn, of a kind that {@link Touch.How#isLive} says can be shown
 * meanwhile: each point costs what it newly reaches. Tone and level are fitted, and gutters filled
 * to the end, only when the whole touch is made. One thread at a time.
 */
public final class LiveTouch {
  /** Rings of the gutters that are made meanwhile. */
  private static final int RINGS = 3;

  private final Layout layout;
  private final Course course;
  private final StrokeForm form;
  private final Region region;
  private final Reach reach;
  private final Painting painting;
  private final Supplier<Coming> coming;
  private int found;
  private Maps shown;

  /**
   * @param touch in base coordinates; of its line only where it begins matters
   * @param before as the maps were before all touches
   */
  public LiveTouch(TouchGround ground, Maps maps, Maps before, Touch touch) {
    layout = Layout.of(ground, maps, touch);
    course = new Course(ground, touch.along(touch.point(0)));
    form = new StrokeForm(course, touch.radius(), 1);
    region = new Region(ground.width(), ground.height());
    reach = new Reach(ground, region);
    painting = new Painting(layout, touch);
    coming =
        touch.how().copies()
            ? () -> new Copied(ground, course, layout.carried(maps), null)
            : () -> new Restored(layout.carried(before));
    shown = maps;
  }

  /** Goes on to points of the surface, in base coordinates, and gives the maps as they then are. */
  public Maps follow(List<double[]> points) {
    for (double[] p : points) {
      course.follow(p);
    }
    // The last piece may have been a dab that has become a stretch.
    reach.find(form, Math.max(0, Math.min(found, form.pieces() - 1)), Work.unwatched());
    found = form.pieces();
    List<Painting.Part> parts = new ArrayList<>();
    for (Region.Tile t : region.tiles()) {
      int[] fresh = t.takeFresh();
      if (fresh.length > 0) {
        parts.add(new Painting.Part(t, fresh));
      }
    }
    shown = painting.paint(shown, parts, coming, RINGS, Work.unwatched());
    return shown;
  }
}
