package holotome.core.mesh;

import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import java.util.Arrays;
import java.util.List;

/**
 * A triangle mesh: an immutable value over flat arrays.
 *
 * <p>The arrays are handed out without copying, for speed; nobody writes to them once the mesh is
 * made. A step that changes one attribute makes a new mesh that shares the others.
 *
 * <p>Layout: {@code xyz} holds 3 floats per vertex, in the base coordinates of the workpiece's
 * {@link Frame}; {@code triangles} holds 3 vertex numbers per triangle, counter-clockwise seen from
 * outside; {@code colours} one 0xAARRGGBB per vertex, or null; {@code uv} texture coordinates, or
 * null; {@code material} one number into {@code materials} per triangle, or null for all 0.
 */
public final class Mesh {
  private final float[] xyz;
  private final int[] triangles;
  private final int[] colours;
  private final Uv uv;
  private final short[] material;
  private final List<Material> materials;
  private volatile Box bounds;
  private volatile Placed placed;

  public Mesh(float[] xyz, int[] triangles) {
    this(xyz, triangles, null, null, null, List.of());
  }

  public Mesh(float[] xyz, int[] triangles, int[] colours) {
    this(xyz, triangles, colours, null, null, List.of());
  }

  public Mesh(
      float[] xyz,
      int[] triangles,
      int[] colours,
      Uv uv,
      short[] material,
      List<Material> materials) {
    if (xyz.length % 3 != 0 || triangles.length % 3 != 0) {
      throw new IllegalArgumentException("positions and triangles come in threes");
    }
    if (colours != null && colours.length != xyz.length / 3) {
      throw new IllegalArgumentException("one colour per vertex");
    }
    if (uv != null && uv.corners().length != triangles.length) {
      throw new IllegalArgumentException("one texture vertex per corner");
    }
    if (material != null && material.length != triangles.length / 3) {
      throw new IllegalArgumentException("one material per triangle");
    }
    this.xyz = xyz;
    this.triangles = triangles;
    this.colours = colours;
    this.uv = uv;
    this.material = material;
    this.materials = List.copyOf(materials);
  }

  public float[] xyz() {
    return xyz;
  }

  public int[] triangles() {
    return triangles;
  }

  public int[] colours() {
    return colours;
  }

  public Uv uv() {
    return uv;
  }

  public short[] material() {
    return material;
  }

  public List<Material> materials() {
    return materials;
  }

  public int vertexCount() {
    return xyz.length / 3;
  }

  public int triangleCount() {
    return triangles.length / 3;
  }

  public boolean isEmpty() {
    return triangles.length == 0;
  }

  /** Whether any material brings a picture that the texture coordinates can address. */
  public boolean hasTexture() {
    return uv != null && materials.stream().anyMatch(m -> m.image() != null);
  }

  public boolean hasColour() {
    return colours != null || hasTexture();
  }

  public Material materialOf(int triangle) {
    if (materials.isEmpty()) {
      return null;
    }
    int m = material == null ? 0 : material[triangle];
    return m < 0 || m >= materials.size() ? null : materials.get(m);
  }

  /** The box around all vertices, computed once; empty for a mesh with no vertex. */
  public Box bounds() {
    Box b = bounds;
    if (b == null) {
      b = Box.of(xyz);
      bounds = b;
    }
    return b;
  }

  /** The box around all vertices in another place; the last one asked for is kept. */
  public Box boundsPlaced(Similarity place) {
    Placed p = placed;
    if (p == null || !p.place.equals(place)) {
      p = new Placed(place, Placing.bounds(xyz, place));
      placed = p;
    }
    return p.box;
  }

  private record Placed(Similarity place, Box box) {}

  public Mesh withPositions(float[] positions) {
    return new Mesh(positions, triangles, colours, uv, material, materials);
  }

  public Mesh withUv(Uv newUv) {
    return new Mesh(xyz, triangles, colours, newUv, material, materials);
  }

  public Mesh withMaterials(short[] ofTriangle, List<Material> list) {
    return new Mesh(xyz, triangles, colours, uv, ofTriangle, list);
  }

  /** Bytes held by the arrays, pictures included. */
  public long bytes() {
    long b = 4L * xyz.length + 4L * triangles.length;
    if (colours != null) {
      b += 4L * colours.length;
    }
    if (uv != null) {
      b += 4L * uv.coords().length + 4L * uv.corners().length;
    }
    if (material != null) {
      b += 2L * material.length;
    }
    for (Material m : materials) {
      if (m.image() != null) {
        b += 4L * m.image().pixels().length;
      }
    }
    return b;
  }

  /** Equal when every array is equal, element by element; pictures are compared too. */
  public boolean sameAs(Mesh o) {
    return Arrays.equals(xyz, o.xyz)
        && Arrays.equals(triangles, o.triangles)
        && Arrays.equals(colours, o.colours)
        && (uv == null) == (o.uv == null)
        && (uv == null
            || Arrays.equals(uv.coords(), o.uv.coords())
                && Arrays.equals(uv.corners(), o.uv.corners()))
        && Arrays.equals(material, o.material);
  }
}
