package holotome.core.tangent;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * A mesh with one vertex per position, texture vertex and tangent, as graphics hardware wants it,
 * with normals and tangents.
 *
 * <p>The same frames serve for baking a normal map and for writing it, so that what is baked is
 * what is shown. Tangents are those of {@link StandardTangents}, and a vertex is parted where the
 * standard gives it several.
 *
 * @param position vertex of the mesh per split vertex
 * @param texture texture vertex per split vertex; -1 without texture coordinates
 * @param corners split vertex per triangle corner
 * @param normals unit, 3 floats per split vertex
 * @param tangents unit and at right angles to the normal, with the handedness of the bitangent, 4
 *     floats per split vertex; null without texture coordinates
 */
public record SplitMesh(
    int[] position, int[] texture, int[] corners, float[] normals, float[] tangents) {

  /**
   * Splits a mesh; O(T log T). Where it carries normals at its corners those are taken, and a
   * vertex is parted where they differ; else they are those of the surface around each vertex.
   */
  public static SplitMesh of(Mesh mesh) {
    Attribute given = mesh.attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.CORNER);
    SplitMesh split = given == null ? smooth(mesh) : parted(mesh, given);
    return mesh.uv() == null ? split : split.withTangents(mesh);
  }

  /** Parted by texture coordinates and normals. */
  private static SplitMesh parted(Mesh mesh, Attribute given) {
    int[] tri = mesh.triangles();
    int n = tri.length;
    int[] uv = mesh.uv() == null ? null : mesh.uv().corners();
    // Corners of one vertex are few: each is held against those of it that were met before.
    int[] last = new int[mesh.vertexCount()];
    Arrays.fill(last, -1);
    int[] before = new int[n];
    int[] position = new int[n];
    int[] texture = new int[n];
    int[] normal = new int[n];
    int[] corners = new int[n];
    int count = 0;
    for (int c = 0; c < n; c++) {
      int u = uv == null ? -1 : uv[c];
      int at = last[tri[c]];
      while (at >= 0 && (texture[at] != u || normal[at] != given.index()[c])) {
        at = before[at];
      }
      if (at < 0) {
        at = count++;
        position[at] = tri[c];
        texture[at] = u;
        normal[at] = given.index()[c];
        before[at] = last[tri[c]];
        last[tri[c]] = at;
      }
      corners[c] = at;
    }
    float[] normals = new float[3 * count];
    for (int i = 0; i < count; i++) {
      System.arraycopy(given.floats(), 3 * normal[i], normals, 3 * i, 3);
    }
    return new SplitMesh(
        Arrays.copyOf(position, count), Arrays.copyOf(texture, count), corners, normals, null);
  }

  /**
   * Vertices parted further.
   *
   * @param split with the normals and tangents that they had
   * @param value of the further set, per split vertex
   */
  public record Further(SplitMesh split, int[] value) {}

  /**
   * The same, parted also where a further set of values differs at the corners of a vertex. O(T).
   *
   * @param index of the value per corner
   */
  public Further parted(int[] index) {
    int n = corners.length;
    int[] last = new int[position.length];
    Arrays.fill(last, -1);
    int[] before = new int[n];
    int[] from = new int[n];
    int[] value = new int[n];
    int[] at = new int[n];
    int count = 0;
    for (int c = 0; c < n; c++) {
      int v = last[corners[c]];
      while (v >= 0 && value[v] != index[c]) {
        v = before[v];
      }
      if (v < 0) {
        v = count++;
        from[v] = corners[c];
        value[v] = index[c];
        before[v] = last[corners[c]];
        last[corners[c]] = v;
      }
      at[c] = v;
    }
    int[] places = new int[count];
    int[] textures = new int[count];
    float[] directions = new float[3 * count];
    float[] along = tangents == null ? null : new float[4 * count];
    for (int v = 0; v < count; v++) {
      places[v] = position[from[v]];
      textures[v] = texture[from[v]];
      System.arraycopy(normals, 3 * from[v], directions, 3 * v, 3);
      if (along != null) {
        System.arraycopy(tangents, 4 * from[v], along, 4 * v, 4);
      }
    }
    SplitMesh split = new SplitMesh(places, textures, at, directions, along);
    return new Further(split, Arrays.copyOf(value, count));
  }

  /**
   * The interpolated tangent, bitangent and normal of a place of a triangle, as long as they come
   * out: the standard.
   *
   * @param u weight of the second corner
   * @param v weight of the third
   * @param frame set to the three as rows
   */
  public void frame(int triangle, double u, double v, double[] frame) {
    double w = 1 - u - v;
    int a = corners[3 * triangle];
    int b = corners[3 * triangle + 1];
    int c = corners[3 * triangle + 2];
    for (int k = 0; k < 3; k++) {
      frame[6 + k] = normals[3 * a + k] * w + normals[3 * b + k] * u + normals[3 * c + k] * v;
      frame[k] = tangents[4 * a + k] * w + tangents[4 * b + k] * u + tangents[4 * c + k] * v;
    }
    double hand = tangents[4 * a + 3];
    frame[3] = hand * (frame[7] * frame[2] - frame[8] * frame[1]);
    frame[4] = hand * (frame[8] * frame[0] - frame[6] * frame[2]);
    frame[5] = hand * (frame[6] * frame[1] - frame[7] * frame[0]);
  }

  private static SplitMesh smooth(Mesh mesh) {
    int[] tri = mesh.triangles();
    int n = tri.length;
    int[] position;
    int[] texture;
    int[] corners;
    if (mesh.uv() == null) {
      corners = tri;
      position = new int[mesh.vertexCount()];
      texture = new int[position.length];
      Arrays.setAll(position, i -> i);
      Arrays.fill(texture, -1);
    } else {
      long[] keys = new long[n];
      for (int c = 0; c < n; c++) {
        keys[c] = (long) tri[c] << 32 | mesh.uv().corners()[c];
      }
      long[] unique = keys.clone();
      Arrays.sort(unique);
      int count = 0;
      for (int i = 0; i < n; i++) {
        if (i == 0 || unique[i] != unique[i - 1]) {
          unique[count++] = unique[i];
        }
      }
      position = new int[count];
      texture = new int[count];
      for (int i = 0; i < count; i++) {
        position[i] = (int) (unique[i] >>> 32);
        texture[i] = (int) unique[i];
      }
      corners = new int[n];
      for (int c = 0; c < n; c++) {
        corners[c] = Arrays.binarySearch(unique, 0, count, keys[c]);
      }
    }
    float[] byVertex = Measures.vertexNormals(mesh);
    float[] normals = new float[3 * position.length];
    for (int i = 0; i < position.length; i++) {
      System.arraycopy(byVertex, 3 * position[i], normals, 3 * i, 3);
      if (normals[3 * i] == 0 && normals[3 * i + 1] == 0 && normals[3 * i + 2] == 0) {
        normals[3 * i + 2] = 1;
      }
    }
    return new SplitMesh(position, texture, corners, normals, null);
  }

  /** With tangents, parted where those of one vertex differ. */
  private SplitMesh withTangents(Mesh mesh) {
    int[] same = welded(mesh);
    int[] at = new int[corners.length];
    for (int c = 0; c < at.length; c++) {
      at[c] = same[corners[c]];
    }
    StandardTangents t = new StandardTangents(mesh, at, normals);
    Further f = parted(t.group);
    float[] out = new float[4 * f.value.length];
    for (int v = 0; v < f.value.length; v++) {
      System.arraycopy(t.tangents, 4 * f.value[v], out, 4 * v, 4);
    }
    SplitMesh s = f.split;
    return new SplitMesh(s.position, s.texture, s.corners, s.normals, out);
  }

  /** Per vertex, the first that has the same place, normal and texture coordinates. */
  private int[] welded(Mesh mesh) {
    int n = position.length;
    int bits = 33 - Integer.numberOfLeadingZeros(Math.max(1, n));
    int[] table = new int[1 << bits];
    int[] out = new int[n];
    for (int v = 0; v < n; v++) {
      int slot = hash(mesh, v) >>> 32 - bits;
      while (table[slot] != 0 && !isSame(mesh, table[slot] - 1, v)) {
        slot = slot + 1 & table.length - 1;
      }
      if (table[slot] == 0) {
        table[slot] = v + 1;
      }
      out[v] = table[slot] - 1;
    }
    return out;
  }

  private float value(Mesh mesh, int v, int k) {
    return k < 3
        ? mesh.xyz()[3 * position[v] + k]
        : k < 6 ? normals[3 * v + k - 3] : mesh.uv().coords()[2 * texture[v] + k - 6];
  }

  private int hash(Mesh mesh, int v) {
    int h = 1;
    for (int k = 0; k < 8; k++) {
      // Both zeros are one number.
      h = 31 * h + Float.floatToRawIntBits(value(mesh, v, k) + 0f);
      h *= 0x9e3779b1;
    }
    return h;
  }

  private boolean isSame(Mesh mesh, int v, int w) {
    for (int k = 0; k < 8; k++) {
      if (value(mesh, v, k) != value(mesh, w, k)) {
        return false;
      }
    }
    return true;
  }
}
