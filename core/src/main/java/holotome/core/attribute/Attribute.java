package holotome.core.attribute;

import java.util.Arrays;

/**
 * Values that a mesh carries beside its shape, one for each of its vertices, corners or triangles:
 * an immutable value over flat arrays, which are handed out without copying.
 *
 * <p>Layout: values stand one after the other, {@link Kind#width} numbers each, in an array of the
 * kind's type. On vertices and triangles value i is that of vertex or triangle i. On corners {@code
 * index} holds, for each corner (3 per triangle), the number of its value, so that corners can
 * share one: a seam is where two corners at one vertex do not.
 */
public final class Attribute {
  /** What values stand for, and so how they are stored and what lies between two of them. */
  public enum Kind {
    /** 0xAARRGGBB, sRGB; one int. */
    COLOUR(1),
    /** Texture coordinates u, v; v = 0 is the bottom of the picture; two floats. */
    UV(2),
    /** A direction of unit length; three floats. Mixed ones are made unit again. */
    NORMAL(3),
    /** A number into the mesh's materials; one short. Never mixed. */
    MATERIAL(1),
    /** Any number that names something; one int. Never mixed. */
    LABEL(1),
    /** A share from 0 to 1; one float. */
    MASK(1),
    /** Any quantity; one float. */
    WEIGHT(1);

    private final int width;

    Kind(int width) {
      this.width = width;
    }

    /** Numbers per value. */
    public int width() {
      return width;
    }
  }

  /** What has a value each. */
  public enum Domain {
    VERTEX,
    CORNER,
    TRIANGLE
  }

  /** The name of what is usually there once. */
  public static final String COLOUR = "colour";

  public static final String UV = "uv";

  /** Texture coordinates that are kept beside those in use. */
  public static final String UV_SECOND = "uv-2";

  public static final String MATERIAL = "material";
  public static final String NORMAL = "normal";

  /** Numbers of the faces with more than three corners that triangles are parts of. */
  public static final String FACE = "face";

  /** So many times the triangles and texels of elsewhere each triangle's surface is to have. */
  public static final String IMPORTANCE = "importance";

  /** How many times as far out as it would be the cage of a bake is. */
  public static final String CAGE = "cage";

  /** The weights of a Swatch: what share of the tile's size it covers beyond it on two sides. */
  public static final String APRON = "apron";

  /** The weights of a settled Swatch: how far it lies over where it was laid, in base units. */
  public static final String LIFT = "lift";

  /** Which charts lie over which, so that both read the same texels. */
  public static final String LAID_OVER = "laid-over";

  private final String name;
  private final Kind kind;
  private final Domain domain;
  private final Object values;
  private final int[] index;

  private Attribute(String name, Kind kind, Domain domain, Object values, int[] index) {
    if ((domain == Domain.CORNER) != (index != null)) {
      throw new IllegalArgumentException(name + ": an index goes with corners, and only with them");
    }
    this.name = name;
    this.kind = kind;
    this.domain = domain;
    this.values = values;
    this.index = index;
  }

  /** Of colours or labels. */
  public static Attribute of(String name, Kind kind, Domain domain, int[] values, int[] index) {
    if (kind != Kind.COLOUR && kind != Kind.LABEL) {
      throw new IllegalArgumentException(name + ": " + kind + " is not stored in ints");
    }
    return new Attribute(name, kind, domain, values, index);
  }

  /** Of texture coordinates, normals, masks or weights. */
  public static Attribute of(String name, Kind kind, Domain domain, float[] values, int[] index) {
    boolean isFloat =
        kind == Kind.UV || kind == Kind.NORMAL || kind == Kind.MASK || kind == Kind.WEIGHT;
    if (!isFloat || values.length % kind.width != 0) {
      throw new IllegalArgumentException(name + ": " + values.length + " floats of " + kind);
    }
    return new Attribute(name, kind, domain, values, index);
  }

  /** Of material numbers. */
  public static Attribute materials(short[] ofTriangle) {
    return new Attribute(MATERIAL, Kind.MATERIAL, Domain.TRIANGLE, ofTriangle, null);
  }

  static Attribute raw(String name, Kind kind, Domain domain, Object values, int[] index) {
    return new Attribute(name, kind, domain, values, index);
  }

  public String name() {
    return name;
  }

  public Kind kind() {
    return kind;
  }

  public Domain domain() {
    return domain;
  }

  /** How many values there are: of corners, that differ. */
  public int count() {
    return length() / kind.width;
  }

  private int length() {
    return switch (values) {
      case int[] a -> a.length;
      case float[] a -> a.length;
      default -> ((short[]) values).length;
    };
  }

  /** The values of a colour or label. */
  public int[] ints() {
    return (int[]) values;
  }

  /** The values of texture coordinates, normals, masks and weights. */
  public float[] floats() {
    return (float[]) values;
  }

  /** The values of a material. */
  public short[] shorts() {
    return (short[]) values;
  }

  /** The array of the values, whatever its type. */
  Object values() {
    return values;
  }

  /** The value's number per corner; null on vertices and triangles. */
  public int[] index() {
    return index;
  }

  /** These values with another's of the same kind and domain behind them. */
  public Attribute followedBy(Attribute o) {
    if (o.kind != kind || o.domain != domain) {
      throw new IllegalArgumentException(this + " and " + o);
    }
    int n = length();
    Object all = Values.grown(values, 1, o.length());
    System.arraycopy(o.values, 0, all, n, o.length());
    int[] both = null;
    if (index != null) {
      both = Arrays.copyOf(index, index.length + o.index.length);
      for (int i = 0; i < o.index.length; i++) {
        both[index.length + i] = o.index[i] + count();
      }
    }
    return new Attribute(name, kind, domain, all, both);
  }

  /** The same with normals the other way along one axis; others stay as they are. */
  public Attribute mirrored(int axis) {
    if (kind != Kind.NORMAL) {
      return this;
    }
    float[] n = floats().clone();
    for (int i = axis; i < n.length; i += 3) {
      n[i] = 0 - n[i];
    }
    return new Attribute(name, kind, domain, n, index);
  }

  /**
   * The same with normals mirrored in a plane; others stay as they are.
   *
   * @param plane the plane's normal, of unit length
   */
  public Attribute mirrored(double[] plane) {
    if (kind != Kind.NORMAL) {
      return this;
    }
    float[] n = floats().clone();
    for (int i = 0; i < n.length; i += 3) {
      double along = n[i] * plane[0] + n[i + 1] * plane[1] + n[i + 2] * plane[2];
      for (int k = 0; k < 3; k++) {
        n[i + k] = (float) (n[i + k] - 2 * along * plane[k]);
      }
    }
    return new Attribute(name, kind, domain, n, index);
  }

  /**
   * The same with normals turned; others stay as they are.
   *
   * @param rotation row by row
   */
  public Attribute turned(double[] rotation) {
    if (kind != Kind.NORMAL) {
      return this;
    }
    float[] n = floats();
    float[] out = new float[n.length];
    for (int i = 0; i < n.length; i += 3) {
      for (int k = 0; k < 3; k++) {
        out[i + k] =
            (float)
                (rotation[3 * k] * n[i]
                    + rotation[3 * k + 1] * n[i + 1]
                    + rotation[3 * k + 2] * n[i + 2]);
      }
    }
    return new Attribute(name, kind, domain, out, index);
  }

  /** The same under another name. */
  public Attribute named(String other) {
    return new Attribute(other, kind, domain, values, index);
  }

  /** The same with other values at its corners. */
  public Attribute indexed(int[] ofCorners) {
    return new Attribute(name, kind, domain, values, ofCorners);
  }

  /** The array of the values: for those who count what is shared. */
  public Object array() {
    return values;
  }

  /** Bytes held by both arrays. */
  public long bytes() {
    return valueBytes() + (index == null ? 0 : 4L * index.length);
  }

  /** Bytes held by the values alone. */
  public long valueBytes() {
    return (kind == Kind.MATERIAL ? 2L : 4L) * length();
  }

  /**
   * Checks the lengths against a mesh's.
   *
   * @throws IllegalArgumentException if there is not one value each
   */
  public void check(int vertices, int triangles) {
    boolean fits =
        switch (domain) {
          case VERTEX -> count() == vertices;
          case TRIANGLE -> count() == triangles;
          case CORNER -> index.length == 3 * triangles;
        };
    if (!fits) {
      throw new IllegalArgumentException(
          name
              + ": not one value for each of "
              + vertices
              + " vertices, "
              + triangles
              + " triangles");
    }
  }

  /** Equal when name, kind, domain and every element are. */
  public boolean sameAs(Attribute o) {
    boolean sameValues =
        switch (values) {
          case int[] a -> o.values instanceof int[] b && Arrays.equals(a, b);
          case float[] a -> o.values instanceof float[] b && Arrays.equals(a, b);
          default -> o.values instanceof short[] b && Arrays.equals((short[]) values, b);
        };
    return sameValues
        && name.equals(o.name)
        && kind == o.kind
        && domain == o.domain
        && Arrays.equals(index, o.index);
  }

  @Override
  public String toString() {
    return name + ": " + kind + " on " + domain;
  }
}
