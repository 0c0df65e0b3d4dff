package holotome.core.map;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.task.Work;

/** The Scan as the rules of maps ask it; what several of them need is made once. */
public final class MapSource {
  private final Mesh scan;
  private final Bvh index;
  private final MapSettings settings;
  private float[] normals;

  /**
   * @param index of the Scan's triangles
   */
  public MapSource(Mesh scan, Bvh index, MapSettings settings) {
    this.scan = scan;
    this.index = index;
    this.settings = settings;
  }

  public Mesh scan() {
    return scan;
  }

  public Bvh index() {
    return index;
  }

  public MapSettings settings() {
    return settings;
  }

  /** Unit normals per vertex of the Scan, 3 floats each. */
  synchronized float[] normals(Work work) {
    if (normals == null) {
      work.check();
      normals = Measures.vertexNormals(scan);
    }
    return normals;
  }

  /** The Scan's normal at a hit, interpolated and of unit length; zeros for none. */
  static void normal(Mesh scan, float[] normals, Hit hit, float[] out) {
    int[] tri = scan.triangles();
    int a = 3 * tri[3 * hit.triangle];
    int b = 3 * tri[3 * hit.triangle + 1];
    int c = 3 * tri[3 * hit.triangle + 2];
    float w = 1 - hit.u - hit.v;
    float x = normals[a] * w + normals[b] * hit.u + normals[c] * hit.v;
    float y = normals[a + 1] * w + normals[b + 1] * hit.u + normals[c + 1] * hit.v;
    float z = normals[a + 2] * w + normals[b + 2] * hit.u + normals[c + 2] * hit.v;
    float l = (float) Math.sqrt(x * x + y * y + z * z);
    float f = l > 0 ? 1 / l : 0;
    out[0] = x * f;
    out[1] = y * f;
    out[2] = z * f;
  }
}
