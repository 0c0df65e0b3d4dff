package holotome.core.unwrap;

import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.List;

/** The Cast that a step of this stage works on, or the one line that says there is none. */
final class CastAtHand {
  private CastAtHand() {}

  /**
   * @throws Failure where there is no Cast, or one without a triangle
   */
  static Mesh of(Workpiece in) {
    if (in.cast() == null) {
      throw Failure.cannot(CoreWords.of("make-charts.there-is-no-cast-to"));
    }
    if (in.cast().triangleCount() == 0) {
      throw Failure.cannot(CoreWords.of("packing.the-cast-has-no-area"));
    }
    return in.cast();
  }

  /** The same with plain colours in place of pictures: those do not fit other charts. */
  static Mesh withoutPictures(Mesh cast) {
    List<Material> plain =
        cast.materials().stream().map(m -> new Material(m.name(), m.argb(), null)).toList();
    return cast.with(cast.attributes(), plain);
  }

  /**
   * @throws Failure where there is no Cast, or one without charts
   */
  static Mesh withCharts(Workpiece in) {
    Mesh cast = of(in);
    if (cast.uv() == null) {
      throw Failure.cannot(CoreWords.of("pack-charts.no-charts"));
    }
    return cast;
  }
}
