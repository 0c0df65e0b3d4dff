package holotome.view.scene;

import holotome.core.geometry.Box;

/** One of the things that a scene shows at once, each drawn its own way. */
public sealed interface Layer permits MeshLayer, LineLayer, DotLayer {

  /** Where it lies in working space. */
  Box bounds();

  /** What becomes of the part of a line or dot that lies behind something. */
  enum Hidden {
    LEFT_OUT,
    /** Drawn at a quarter of its strength. */
    FAINT,
    /** Drawn as if nothing was in front. */
    SHOWN
  }
}
