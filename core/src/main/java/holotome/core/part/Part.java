package holotome.core.part;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;

/**
 * The name of one thing of the work, and what kind of thing it is. Names are those of a Log: small
 * letters, digits and hyphens.
 */
public final class Part<T> {
  /** The source mesh at full resolution. */
  public static final Part<Mesh> SCAN = new Part<>("scan", Mesh.class);

  /** The light mesh being made from it. */
  public static final Part<Mesh> CAST = new Part<>("cast", Mesh.class);

  /** The baked pictures of the Cast. */
  public static final Part<Maps> MAPS = new Part<>("maps", Maps.class);

  /** Where the base coordinates of all meshes stand. */
  public static final Part<Frame> FRAME = new Part<>("frame", Frame.class);

  private final String name;
  private final Class<T> type;

  private Part(String name, Class<T> type) {
    this.name = name;
    this.type = type;
  }

  /**
   * A mesh by its name, such as a lighter level or a proxy.
   *
   * @throws Failure if it cannot be a name, or names something else than a mesh
   */
  public static Part<Mesh> mesh(String name) {
    if (!name.matches("[a-z][a-z0-9-]{0,40}") || name.equals("maps") || name.equals("frame")) {
      throw Failure.usage(CoreWords.of("part.is-no-name-of-a", name));
    }
    return name.equals(SCAN.name)
        ? SCAN
        : name.equals(CAST.name) ? CAST : new Part<>(name, Mesh.class);
  }

  public String name() {
    return name;
  }

  /** What it is. */
  public Class<T> type() {
    return type;
  }

  public boolean isMesh() {
    return type == Mesh.class;
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof Part<?> p && p.name.equals(name);
  }

  @Override
  public int hashCode() {
    return name.hashCode();
  }

  @Override
  public String toString() {
    return name;
  }
}
