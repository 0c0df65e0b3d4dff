package holotome.core.touch;

import holotome.core.part.Maps;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.function.Supplier;

/**
 * Touches maps up: one change by hand on all of them at once, over the borders of charts as if
 * there were none. What a texel becomes depends on the maps before the touch and on where it lies
 * beside the line, not on how quickly the line was drawn.
 */
public final class Touching {
  private Touching() {}

  /**
   * Makes a touch in base coordinates. Takes time and memory by the texels it reaches, about a
   * microsecond and 30 bytes each.
   *
   * @param maps as they are
   * @param before as they were before all touches: what is restored
   * @throws Failure where there is nothing to change, or to copy from
   */
  public static Maps apply(TouchGround ground, Maps maps, Maps before, Touch touch, Work work) {
    Layout layout = Layout.of(ground, maps, touch);
    if (layout.kinds().isEmpty()) {
      throw Failure.cannot(CoreWords.of("touch.no-such-map"));
    }
    Course course = course(ground, touch);
    Form form = form(ground, touch, course);
    Region region = new Region(ground.width(), ground.height());
    if (form.pieces() > 0) {
      new Reach(ground, region).find(form, 0, work);
    }
    work.advance(0.1);
    if (region.count() == 0) {
      throw Failure.cannot(CoreWords.of("touch.nothing-there"));
    }
    if (touch.how().copies() && !course.hasSource()) {
      throw Failure.cannot(CoreWords.of("touch.no-source"));
    }
    Supplier<Coming> coming =
        coming(
            layout, before, touch, form, region, work.part(0.4, CoreWords.of("work.touching-up")));
    return new Painting(layout, touch)
        .paint(
            maps,
            Painting.all(region),
            coming,
            TouchGround.GUTTER,
            work.part(0.5, CoreWords.of("work.touching-up")));
  }

  static Course course(TouchGround ground, Touch touch) {
    Course course = new Course(ground, touch);
    if (touch.area() && !touch.how().copies()) {
      course.rest(touch);
    } else if (!touch.area()) {
      for (int i = 0; i < touch.points(); i++) {
        course.follow(touch.point(i));
      }
    }
    return course;
  }

  static Form form(TouchGround ground, Touch touch, Course course) {
    double texel = course.size() == 0 ? 0 : ground.texel(course.dab(course.lead()).triangle());
    if (!touch.area() || course.size() == 0) {
      return StrokeForm.of(course, touch.radius(), texel);
    }
    boolean copies = touch.how().copies();
    return AreaForm.of(
        course,
        touch.radius(),
        texel,
        touch.line(),
        copies ? course.source(0) : course.dab(0),
        copies ? new int[] {course.dab(0).triangle()} : course.triangles(touch));
  }

  private static Supplier<Coming> coming(
      Layout layout, Maps before, Touch touch, Form form, Region region, Work work) {
    TouchGround ground = layout.ground();
    double texel = ground.texel(form.course().dab(form.course().lead()).triangle());
    return switch (touch.how()) {
      case COPY, FIT -> {
        boolean all = touch.how() == Touch.How.FIT;
        Fitting fit = Fitting.of(layout, form, region, touch.radius(), all, work);
        yield () -> new Copied(ground, form.course(), layout.carried(layout.maps()), fit);
      }
      case RESTORE -> () -> new Restored(layout.carried(before));
      case SOFTEN -> {
        SurfaceCells means = Softened.means(layout, region, touch.radius(), texel, work);
        yield () -> Softened.of(layout, means);
      }
      case BLEND -> {
        SeamStep step = SeamStep.of(layout, form, region, work);
        yield () -> Levelled.of(layout, step);
      }
      case FILL -> {
        FlatPatch patch = new FlatPatch(layout, form, region, texel, work);
        if (!patch.fill(work)) {
          throw Failure.cannot(CoreWords.of("touch.too-little-around"));
        }
        yield patch::coming;
      }
    };
  }
}
