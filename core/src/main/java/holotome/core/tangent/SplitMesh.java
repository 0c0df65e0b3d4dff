package holotome.core.tangent;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * A mesh with one vertex per pair of position and texture vertex, as graphics hardware wants it,
 * with normals and tangents.
 *
 * <p>The same frames serve for baking a normal map and for writing it, so that what is baked is
 * what is shown. Tangents follow Lengyel, "Computing tangent space basis vectors for an arbitrary
 * mesh" (2001), without making them orthogonal to the normal until they are written.
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
    return given == null ? smooth(mesh) : parted(mesh, given);
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
        Arrays.copyOf(position, count),
        Arrays.copyOf(texture, count),
        corners,
        normals,
        uv == null ? null : tangents(mesh, corners, normals));
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
    float[] tangents = mesh.uv() == null ? null : tangents(mesh, corners, normals);
    return new SplitMesh(position, texture, corners, normals, tangents);
  }

  private static float[] tangents(Mesh mesh, int[] corners, float[] normals) {
    int count = normals.length / 3;
    double[] sum = new double[6 * count];
    float[] p = mesh.xyz();
    float[] uv = mesh.uv().coords();
    for (int c = 0; c < corners.length; c += 3) {
      int a = 3 * mesh.triangles()[c];
      int b = 3 * mesh.triangles()[c + 1];
      int d = 3 * mesh.triangles()[c + 2];
      int ua = 2 * mesh.uv().corners()[c];
      int ub = 2 * mesh.uv().corners()[c + 1];
      int ud = 2 * mesh.uv().corners()[c + 2];
      double s1 = uv[ub] - uv[ua];
      double t1 = uv[ub + 1] - uv[ua + 1];
      double s2 = uv[ud] - uv[ua];
      double t2 = uv[ud + 1] - uv[ua + 1];
      double det = s1 * t2 - s2 * t1;
      if (det == 0) {
        continue;
      }
      double sign = Math.signum(det);
      for (int k = 0; k < 3; k++) {
        double e1 = p[b + k] - p[a + k];
        double e2 = p[d + k] - p[a + k];
        // Weighted by area in texture and space alike: det and the edges are left unscaled.
        double t = sign * (e1 * t2 - e2 * t1);
        double u = sign * (e2 * s1 - e1 * s2);
        for (int i = 0; i < 3; i++) {
          sum[6 * corners[c + i] + k] += t;
          sum[6 * corners[c + i] + 3 + k] += u;
        }
      }
    }
    float[] out = new float[4 * count];
    for (int i = 0; i < count; i++) {
      double[] n = {normals[3 * i], normals[3 * i + 1], normals[3 * i + 2]};
      double[] t = {sum[6 * i], sum[6 * i + 1], sum[6 * i + 2]};
      double[] b = {sum[6 * i + 3], sum[6 * i + 4], sum[6 * i + 5]};
      t = Vec.unit(Vec.sub(t, Vec.mul(n, Vec.dot(n, t))));
      if (Vec.length(t) < 0.5) {
        t = Vec.perpendicular(n);
      }
      out[4 * i] = (float) t[0];
      out[4 * i + 1] = (float) t[1];
      out[4 * i + 2] = (float) t[2];
      out[4 * i + 3] = Vec.dot(Vec.cross(n, t), b) < 0 ? -1 : 1;
    }
    return out;
  }
}
