package holotome.core.mesh;

import holotome.core.array.Ranks;
import holotome.core.attribute.Compaction;
import holotome.core.attribute.Provenance;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** Takes some triangles of a mesh, with all they carry, and leaves out the rest. */
public final class Submesh {
  private static final int GRAIN = 1 << 16;

  private Submesh() {}

  /** Which triangles to take. */
  @FunctionalInterface
  public interface Choice {
    boolean takes(int triangle);
  }

  /**
   * The triangles for which {@code choice} holds, in their order; vertices no longer used are
   * dropped, the others keep their order. O(V + T); the choice must not depend on the thread that
   * asks.
   */
  public static Mesh of(Mesh mesh, Choice choice, Work work) {
    Ranks kept =
        chosen(mesh.triangleCount(), choice, work.part(0.3, CoreWords.of("work.counting")));
    return kept.size() == mesh.triangleCount()
        ? mesh
        : of(mesh, kept, work.part(0.7, CoreWords.of("work.gathering")));
  }

  /** The triangles of a set; see {@link #of(Mesh, Choice, Work)}. */
  public static Mesh of(Mesh mesh, BitSet set, Work work) {
    return of(mesh, set::get, work);
  }

  /** The same triangles, without the vertices that none of them uses; O(V + T). */
  public static Mesh used(Mesh mesh) {
    int[] corners = mesh.triangles().clone();
    int[] map = Compaction.of(corners, mesh.vertexCount());
    int used = map[mesh.vertexCount()];
    return used == mesh.vertexCount()
        ? mesh
        : mesh.derive(
            Provenance.of(mesh.vertexCount(), mesh.triangleCount()).vertices(map, used).build(),
            new float[0],
            corners,
            Work.unwatched());
  }

  /** Which of so many triangles are chosen. */
  public static Ranks chosen(int n, Choice choice, Work work) {
    long[] words = new long[(n >>> 6) + 1];
    Parallel.range(
        n,
        GRAIN,
        work,
        (from, to) -> {
          // Chunks begin at whole words, so that no two write one.
          for (int t = from; t < to; t++) {
            if (choice.takes(t)) {
              words[t >>> 6] |= 1L << t;
            }
          }
        });
    return Ranks.of(words, n);
  }

  private static Mesh of(Mesh mesh, Ranks kept, Work work) {
    int[] tri = mesh.triangles();
    int[] corners = new int[3 * kept.size()];
    Parallel.range(
        mesh.triangleCount(),
        GRAIN,
        work.part(0.4, CoreWords.of("work.gathering")),
        (from, to) -> {
          int at = 3 * kept.rank(from);
          for (int t = from; t < to; t++) {
            if (kept.has(t)) {
              corners[at] = tri[3 * t];
              corners[at + 1] = tri[3 * t + 1];
              corners[at + 2] = tri[3 * t + 2];
              at += 3;
            }
          }
        });
    int[] map = Compaction.of(corners, mesh.vertexCount());
    work.advance(0.3);
    Provenance p =
        Provenance.of(mesh.vertexCount(), mesh.triangleCount())
            .kept(kept)
            .vertices(map, map[mesh.vertexCount()])
            .build();
    return mesh.derive(p, new float[0], corners, work.part(0.3, CoreWords.of("work.gathering")));
  }
}
