package holotome.view.scene;

import holotome.view.words.ViewWords;

/** Ways of drawing the surface. */
public enum Look {
  CLAY,
  COLOUR,
  FLAT_COLOUR,
  WIRE,
  BARE_WIRE,
  POINTS,
  NORMALS,
  RELIEF,
  FACING,
  DEVIATION,
  CHARTS,
  CHECKER,
  STRETCH,
  DENSITY,
  IMPORTANCE,
  BAKED,
  MISSED;

  public String title() {
    return ViewWords.of("look." + name());
  }

  /** Whether the look needs texture coordinates. */
  public boolean needsUv() {
    return switch (this) {
      case CHARTS, CHECKER, STRETCH, DENSITY, BAKED, MISSED -> true;
      default -> false;
    };
  }

  /** Whether the look draws {@link Readings}. */
  public boolean hasReadings() {
    return this == DEVIATION || this == STRETCH || this == DENSITY || this == IMPORTANCE;
  }
}
