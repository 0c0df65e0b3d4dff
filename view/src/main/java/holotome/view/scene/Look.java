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
  BAKED,
  MISSED;

  public String title() {
    return ViewWords.of("look." + name());
  }

  /** Whether the look needs texture coordinates. */
  public boolean needsUv() {
    return this == CHARTS || this == CHECKER || this == BAKED || this == MISSED;
  }
}
