package holotome.core.map;

/** The maps that can be baked, by the names that Logs use. */
public enum MapKind {
  COLOUR(new ColourMap()),
  NORMAL(new NormalMap());

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
