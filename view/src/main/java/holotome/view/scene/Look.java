package holotome.view.scene;

/** Ways of drawing the surface. */
public enum Look {
  CLAY("Clay"),
  COLOUR("Colour, lit"),
  FLAT_COLOUR("Colour, flat"),
  WIRE("Wire over clay"),
  BARE_WIRE("Wire alone"),
  POINTS("Points"),
  NORMALS("Directions"),
  RELIEF("Hollows and ridges"),
  FACING("Facing"),
  CHARTS("Charts"),
  CHECKER("Checker"),
  BAKED("Baked"),
  MISSED("Missed rays");

  private final String title;

  Look(String title) {
    this.title = title;
  }

  public String title() {
    return title;
  }

  /** Whether the look needs texture coordinates. */
  public boolean needsUv() {
    return this == CHARTS || this == CHECKER || this == BAKED || this == MISSED;
  }
}
