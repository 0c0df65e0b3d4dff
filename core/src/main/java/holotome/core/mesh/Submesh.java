package holotome.core.mesh;

import holotome.core.task.Parallel;
import holotome.core.task.Work;

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
   * The triangles for which {@code choice} holds, in their order; vertices and texture vertices no
   * longer used are dropped, the others keep their order. O(V + T); the choice must not depend on
   * the thread that asks.
   */
  public static Mesh of(Mesh mesh, Choice choice, Work work) {
    int n = mesh.triangleCount();
    int chunks = Parallel.chunks(n, GRAIN);
    int[] offset = new int[chunks + 1];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.3, "Counting"),
        (c, from, to) -> {
          int k = 0;
          for (int t = from; t < to; t++) {
            if (choice.takes(t)) {
              k++;
            }
          }
          offset[c + 1] = k;
        });
    for (int c = 0; c < chunks; c++) {
      offset[c + 1] += offset[c];
    }
    int kept = offset[chunks];
    if (kept == n) {
      return mesh;
    }
    Taken taken = new Taken(mesh, kept);
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.3, "Gathering"),
        (c, from, to) -> {
          int k = offset[c];
          for (int t = from; t < to; t++) {
            if (choice.takes(t)) {
              taken.put(t, k++);
            }
          }
        });
    return taken.mesh(work.part(0.4, "Gathering"));
  }

  /** The triangles with the given numbers, in the given order, vertices compacted in old order. */
  public static Mesh gather(Mesh mesh, int[] chosen, Work work) {
    Taken taken = new Taken(mesh, chosen.length);
    Parallel.range(
        chosen.length,
        GRAIN,
        work.part(0.4, "Gathering"),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            taken.put(chosen[i], i);
          }
        });
    return taken.mesh(work.part(0.6, "Gathering"));
  }

  /** Triangles of a mesh being taken; each place is filled by one thread. */
  private static final class Taken {
    private final Mesh from;
    private final int[] corners;

    /** Null where the mesh has no texture. */
    private final int[] uvCorners;

    /** Null where the mesh has none. */
    private final short[] material;

    Taken(Mesh from, int triangles) {
      this.from = from;
      corners = new int[3 * triangles];
      uvCorners = from.uv() == null ? null : new int[3 * triangles];
      material = from.material() == null ? null : new short[triangles];
    }

    /** Takes triangle {@code t} as number {@code at}. */
    void put(int t, int at) {
      System.arraycopy(from.triangles(), 3 * t, corners, 3 * at, 3);
      if (uvCorners != null) {
        System.arraycopy(from.uv().corners(), 3 * t, uvCorners, 3 * at, 3);
      }
      if (material != null) {
        material[at] = from.material()[t];
      }
    }

    /** The mesh of what was taken, without what that does not use. */
    Mesh mesh(Work work) {
      int[] map = compact(corners, from.vertexCount());
      work.advance(0.5);
      int vertices = map[map.length - 1];
      float[] xyz = new float[3 * vertices];
      int[] colours = from.colours() == null ? null : new int[vertices];
      Parallel.range(
          from.vertexCount(),
          GRAIN,
          work.part(0.4, "Gathering"),
          (a, b) -> {
            for (int v = a; v < b; v++) {
              int w = map[v];
              if (w >= 0) {
                System.arraycopy(from.xyz(), 3 * v, xyz, 3 * w, 3);
                if (colours != null) {
                  colours[w] = from.colours()[v];
                }
              }
            }
          });
      Uv uv = uv();
      work.advance(0.1);
      return new Mesh(xyz, corners, colours, uv, material, from.materials());
    }

    private Uv uv() {
      if (uvCorners == null) {
        return null;
      }
      float[] old = from.uv().coords();
      int[] map = compact(uvCorners, old.length / 2);
      float[] coords = new float[2 * map[map.length - 1]];
      for (int v = 0; v < map.length - 1; v++) {
        if (map[v] >= 0) {
          coords[2 * map[v]] = old[2 * v];
          coords[2 * map[v] + 1] = old[2 * v + 1];
        }
      }
      return new Uv(coords, uvCorners);
    }
  }

  /**
   * Renumbers the corners in place to the entries they use, in old order. Returns the new number
   * per old entry, -1 where unused, and in one more element at the end how many are used.
   */
  public static int[] compact(int[] corners, int entries) {
    int[] map = new int[entries + 1];
    for (int v : corners) {
      map[v] = 1;
    }
    int count = 0;
    for (int v = 0; v < entries; v++) {
      map[v] = map[v] == 1 ? count++ : -1;
    }
    map[entries] = count;
    Parallel.range(
        corners.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            corners[i] = map[corners[i]];
          }
        });
    return map;
  }
}
