package holotome.core.map;

/** The maps that can be baked, by the names that Logs use. */
public enum MapKind {
  COLOUR(new ColourMap()),
  NORMAL(new NormalMap("normal", true)),
  OBJECT_NORMAL(new NormalMap("object-normal", false)),
  OCCLUSION(new OcclusionMap()),
  BENT_NORMAL(new BentNormalMap()),
  HEIGHT(new HeightMap()),
  CURVATURE(new CurvatureMap()),
  THICKNESS(new ThicknessMap()),
  POSITION(new PositionMap()),
  FACING(new FacingMap()),
  DISTANCE(new DistanceMap()),
  IMPORTANCE(new ImportanceMap()),
  MATERIAL(new NumberMap("material")),
  ISLAND(new NumberMap("island")),
  MASK(new MaskMap());

  private final MapRule rule;

  MapKind(MapRule rule) {
    this.rule = rule;
  }

  public MapRule rule() {
    return rule;
  }

  public String fileName() {
    return rule.fileName();
  }
}
