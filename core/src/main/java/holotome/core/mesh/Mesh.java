package holotome.core.mesh;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.attribute.Attributes;
import holotome.core.attribute.Carrier;
import holotome.core.attribute.Provenance;
import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.task.Work;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;

/**
 * A triangle mesh: an immutable value over flat arrays.
 *
 * <p>The arrays are handed out without copying, for speed; nobody writes to them once the mesh is
 * made. A step that makes a mesh from another says where each vertex and triangle comes from
 * ({@link Provenance}) and has it {@linkplain #derive derived}: all attributes are carried along by
 * one operator, and the {@link Lineage} tells others what stayed.
 *
 * <p>Layout: {@code xyz} holds 3 floats per vertex, in the base coordinates of the workpiece's
 * frame; {@code triangles} holds 3 vertex numbers per triangle, counter-clockwise seen from
 * outside; {@link Attribute}s hold all else. The usual ones have a short way to them: {@code
 * colours}, one 0xAARRGGBB per vertex; {@code uv}, the first set of texture coordinates; {@code
 * material}, one number into {@code materials} per triangle, null for all 0.
 */
public final class Mesh {
  private final float[] xyz;
  private final int[] triangles;
  private final Attributes attributes;
  private final List<Material> materials;
  private final Lineage lineage;
  private final int[] colours;
  private final Uv uv;
  private final short[] material;
  private volatile Box bounds;
  private volatile Placed placed;
  private volatile UsedVertices used;

  public Mesh(float[] xyz, int[] triangles) {
    this(xyz, triangles, Attributes.NONE, List.of());
  }

  public Mesh(float[] xyz, int[] triangles, int[] colours) {
    this(xyz, triangles, colours, null, null, List.of());
  }

  /** With the usual attributes; null for none. */
  public Mesh(
      float[] xyz,
      int[] triangles,
      int[] colours,
      Uv uv,
      short[] material,
      List<Material> materials) {
    this(
        xyz,
        triangles,
        Attributes.of(
            colours == null
                ? null
                : Attribute.of(Attribute.COLOUR, Kind.COLOUR, Domain.VERTEX, colours, null),
            uv == null ? null : uv.attribute(Attribute.UV),
            material == null ? null : Attribute.materials(material)),
        materials);
  }

  /**
   * With any attributes.
   *
   * @throws IllegalArgumentException if an array's length does not fit
   */
  public Mesh(float[] xyz, int[] triangles, Attributes attributes, List<Material> materials) {
    this(xyz, triangles, attributes, materials, Lineage.root(triangles.length / 3));
  }

  private Mesh(
      float[] xyz,
      int[] triangles,
      Attributes attributes,
      List<Material> materials,
      Lineage lineage) {
    if (xyz.length % 3 != 0 || triangles.length % 3 != 0) {
      throw new IllegalArgumentException("positions and triangles come in threes");
    }
    for (Attribute a : attributes) {
      a.check(xyz.length / 3, triangles.length / 3);
    }
    this.xyz = xyz;
    this.triangles = triangles;
    this.attributes = attributes;
    this.materials = List.copyOf(materials);
    this.lineage = lineage;
    Attribute c = attributes.first(Kind.COLOUR, Domain.VERTEX);
    this.colours = c == null ? null : c.ints();
    Attribute t = attributes.first(Kind.UV, Domain.CORNER);
    this.uv = t == null ? null : new Uv(t.floats(), t.index());
    Attribute m = attributes.first(Kind.MATERIAL, Domain.TRIANGLE);
    this.material = m == null ? null : m.shorts();
  }

  public float[] xyz() {
    return xyz;
  }

  public int[] triangles() {
    return triangles;
  }

  public Attributes attributes() {
    return attributes;
  }

  /** How this mesh came from others. */
  public Lineage lineage() {
    return lineage;
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

  /** The vertices that no triangle uses; null where there are none. Worked out once, O(V + T). */
  public BitSet unused() {
    UsedVertices u = used;
    if (u == null) {
      u = UsedVertices.of(this);
      used = u;
    }
    return u.unused();
  }

  /**
   * The box around the surface: around all vertices that a triangle uses. Computed once; empty for
   * a mesh without triangles.
   */
  public Box bounds() {
    Box b = bounds;
    if (b == null) {
      b = isEmpty() ? Box.EMPTY : Box.of(xyz, unused());
      bounds = b;
    }
    return b;
  }

  /** The box around the surface in another place; the last one asked for is kept. */
  public Box boundsPlaced(Similarity place) {
    Placed p = placed;
    if (p == null || !p.place.equals(place)) {
      p = new Placed(place, isEmpty() ? Box.EMPTY : Placing.bounds(xyz, unused(), place));
      placed = p;
    }
    return p.box;
  }

  private record Placed(Similarity place, Box box) {}

  /** The same triangles with all vertices moved. */
  public Mesh withPositions(float[] positions) {
    return new Mesh(positions, triangles, attributes, materials);
  }

  /** With a first set of texture coordinates, or another one in its place; null for none. */
  public Mesh withUv(Uv newUv) {
    Attribute before = attributes.first(Kind.UV, Domain.CORNER);
    String name = before == null ? Attribute.UV : before.name();
    Attributes now =
        newUv == null ? attributes.without(name) : attributes.with(newUv.attribute(name));
    return with(now, materials);
  }

  public Mesh withMaterials(short[] ofTriangle, List<Material> list) {
    Attributes now = attributes.without(Kind.MATERIAL);
    return with(ofTriangle == null ? now : now.with(Attribute.materials(ofTriangle)), list);
  }

  /** With one more attribute, or the one of its name replaced. */
  public Mesh with(Attribute attribute) {
    return with(attributes.with(attribute), materials);
  }

  /** The same surface with other attributes and materials. */
  public Mesh with(Attributes others, List<Material> list) {
    Mesh out = new Mesh(xyz, triangles, others, list, lineage);
    // Who drew the surface with other colours must not take it for the same.
    boolean looksTheSame =
        out.colours == colours
            && (!hasTexture() && !out.hasTexture() || Objects.equals(out.uv, uv))
            && list.equals(materials);
    return looksTheSame
        ? out.having(bounds, used)
        : new Mesh(xyz, triangles, others, list).having(bounds, used);
  }

  private Mesh having(Box box, UsedVertices vertices) {
    bounds = box;
    used = vertices;
    return this;
  }

  /** The same, made as one whose lineage is known: for a mesh that was put aside and read back. */
  public Mesh of(Lineage known) {
    return new Mesh(xyz, triangles, attributes, materials, known);
  }

  /**
   * A mesh made from this one, with all that this one carries.
   *
   * @param p where its vertices and triangles come from
   * @param added positions of the vertices that are new, 3 floats each; null to put them where
   *     their weights say
   * @param next its triangles, 3 vertices each; taken over
   */
  public Mesh derive(Provenance p, float[] added, int[] next, Work work) {
    float[] at = added == null ? Carrier.blendedPositions(xyz, p) : added;
    float[] positions = Carrier.positions(xyz, p, at);
    Attributes carried = new Carrier(triangles, p, next).carry(attributes, work);
    return new Mesh(positions, next, carried, materials, lineage.then(p));
  }

  /** Bytes held by the arrays, pictures included. */
  public long bytes() {
    long b = 4L * xyz.length + 4L * triangles.length + attributes.bytes();
    for (Material m : materials) {
      if (m.image() != null) {
        b += 4L * m.image().pixels().length;
      }
    }
    return b;
  }

  /** Equal when every array is, element by element, and so are materials with their pictures. */
  public boolean sameAs(Mesh o) {
    return Arrays.equals(xyz, o.xyz)
        && Arrays.equals(triangles, o.triangles)
        && attributes.sameAs(o.attributes)
        && materials.size() == o.materials.size()
        && sameMaterials(o);
  }

  private boolean sameMaterials(Mesh o) {
    for (int i = 0; i < materials.size(); i++) {
      if (!materials.get(i).sameAs(o.materials.get(i))) {
        return false;
      }
    }
    return true;
  }
}
