package holotome.core.part;

/** The pictures that can be baked. */
public enum MapKind {
  COLOUR("colour"),
  NORMAL("normal");

  private final String fileName;

  MapKind(String fileName) {
    this.fileName = fileName;
  }

  public String fileName() {
    return fileName;
  }
}
