package holotome.core.topology;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;

/**
 * How many pieces a mesh has, and how many loops of open edges.
 *
 * @param borders {@link #NOT_COUNTED} of very large meshes
 */
public record Counts(int islands, int borders) {
  public static final int NOT_COUNTED = -1;

  /** Above so many triangles borders are not counted: they want much time and memory. */
  private static final int MOST = 20_000_000;

  /** Counts; O(V + T), and 26 bytes per triangle where borders are counted, 4 where not. */
  public static Counts of(Mesh mesh, Work work) {
    boolean both = countsBorders(mesh);
    int islands = Islands.count(mesh, work.part(both ? 0.4 : 1, CoreWords.of("work.measuring")));
    if (!both) {
      return new Counts(islands, NOT_COUNTED);
    }
    Adjacency adjacency = Adjacency.of(mesh, work.part(0.6, CoreWords.of("work.measuring")));
    return new Counts(islands, Borders.of(adjacency).loops().length);
  }

  /** Whether the borders of a mesh are counted. */
  public static boolean countsBorders(Mesh mesh) {
    return mesh.triangleCount() <= MOST;
  }
}
