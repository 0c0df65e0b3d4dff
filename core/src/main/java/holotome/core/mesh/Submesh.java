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
    int[] chosen = new int[kept];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.2, "Gathering"),
        (c, from, to) -> {
          int k = offset[c];
          for (int t = from; t < to; t++) {
            if (choice.takes(t)) {
              chosen[k++] = t;
            }
          }
        });
    return gather(mesh, chosen, work.part(0.5, "Gathering"));
  }

  /** The triangles with the given numbers, in the given order, vertices compacted in old order. */
  public static Mesh gather(Mesh mesh, int[] chosen, Work work) {
    int[] corner = pick(mesh.triangles(), chosen);
    work.advance(0.3);
    int[] map = compact(corner, mesh.vertexCount());
    work.advance(0.3);
    int vertices = map[map.length - 1];
    float[] xyz = new float[3 * vertices];
    int[] colours = mesh.colours() == null ? null : new int[vertices];
    Parallel.range(
        mesh.vertexCount(),
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            int w = map[v];
            if (w >= 0) {
              System.arraycopy(mesh.xyz(), 3 * v, xyz, 3 * w, 3);
              if (colours != null) {
                colours[w] = mesh.colours()[v];
              }
            }
          }
        });
    work.advance(0.3);
    Uv uv = null;
    if (mesh.uv() != null) {
      int[] uvCorner = pick(mesh.uv().corners(), chosen);
      float[] old = mesh.uv().coords();
      int[] uvMap = compact(uvCorner, old.length / 2);
      float[] coords = new float[2 * uvMap[uvMap.length - 1]];
      for (int v = 0; v < uvMap.length - 1; v++) {
        if (uvMap[v] >= 0) {
          coords[2 * uvMap[v]] = old[2 * v];
          coords[2 * uvMap[v] + 1] = old[2 * v + 1];
        }
      }
      uv = new Uv(coords, uvCorner);
    }
    short[] material = null;
    if (mesh.material() != null) {
      material = new short[chosen.length];
      for (int i = 0; i < chosen.length; i++) {
        material[i] = mesh.material()[chosen[i]];
      }
    }
    work.advance(0.1);
    return new Mesh(xyz, corner, colours, uv, material, mesh.materials());
  }

  private static int[] pick(int[] corners, int[] chosen) {
    int[] out = new int[3 * chosen.length];
    Parallel.range(
        chosen.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            System.arraycopy(corners, 3 * chosen[i], out, 3 * i, 3);
          }
        });
    return out;
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
