package holotome.core.bake;

/** Which way rays run, back along what; the last six are seen from there, along one axis. */
public enum Along {
  /** Normals that turn evenly over the whole surface, over hard edges too: no gaps beside them. */
  SMOOTH,
  /** The normals that the Cast is shown with: at hard edges each side has its own. */
  SHADED,
  /** The triangles' own. */
  FACES,
  TOP,
  BOTTOM,
  FRONT,
  BACK,
  LEFT,
  RIGHT;

  /** The axis that is looked back along, in working coordinates; null for none. */
  double[] axis() {
    return switch (this) {
      case TOP -> new double[] {0, 0, 1};
      case BOTTOM -> new double[] {0, 0, -1};
      case FRONT -> new double[] {0, -1, 0};
      case BACK -> new double[] {0, 1, 0};
      case LEFT -> new double[] {-1, 0, 0};
      case RIGHT -> new double[] {1, 0, 0};
      default -> null;
    };
  }
}
