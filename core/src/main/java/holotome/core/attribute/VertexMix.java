package holotome.core.attribute;

import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.image.Colours;
import holotome.core.image.LinearLight;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Attributes of a mesh whose vertices are merged two by two, over and over: what a {@link
 * Provenance} would say with as many sources for each vertex as were merged into it. Those on
 * vertices are mixed at each merge, those on triangles go with their triangles; values on corners
 * are first brought to the vertices, as their mean. Texture coordinates have no mean: they stay
 * where what is merged are wedges, of which a vertex has one for each place it has in a picture,
 * and go otherwise.
 *
 * <p>Several threads may merge at once if no vertex is any two's.
 */
public final class VertexMix {
  private final Attributes of;
  private final Object[] values;

  /**
   * Takes copies.
   *
   * @param triangles 3 vertices each
   */
  public VertexMix(Attributes all, int[] triangles, int vertices) {
    Attributes list = Attributes.NONE;
    for (Attribute a : all) {
      if (a.domain() == Domain.VERTEX) {
        list = list.with(a);
      } else if (a.domain() == Domain.CORNER && a.kind() != Kind.UV) {
        list = list.with(onVertices(a, triangles, vertices));
      }
    }
    of = list;
    values = new Object[of.size()];
    int i = 0;
    for (Attribute a : of) {
      int n = a.kind().width() * vertices;
      values[i] = Values.make(a.values(), n);
      System.arraycopy(a.values(), 0, values[i++], 0, n);
    }
  }

  /**
   * Of wedges: corners around a vertex that agree in their texture coordinates.
   *
   * @param ofCorner the wedge of each corner, 3 per triangle
   * @param vertex the vertex of each wedge
   */
  public VertexMix(Attributes all, int[] ofCorner, int[] vertex) {
    Attributes list = Attributes.NONE;
    List<Object> taken = new ArrayList<>();
    for (Attribute a : all) {
      int width = a.kind().width();
      Object x = Values.make(a.values(), width * vertex.length);
      if (a.domain() == Domain.VERTEX) {
        for (int w = 0; w < vertex.length; w++) {
          Values.copy(a.values(), vertex[w], x, w, width);
        }
      } else if (a.kind() == Kind.UV) {
        for (int c = ofCorner.length - 1; c >= 0; c--) {
          Values.copy(a.values(), a.index()[c], x, ofCorner[c], width);
        }
      } else if (a.domain() == Domain.CORNER) {
        x = onVertices(a, ofCorner, vertex.length).values();
      } else {
        continue;
      }
      list = list.with(a);
      taken.add(x);
    }
    of = list;
    values = taken.toArray();
  }

  private VertexMix(Attributes of, Object[] values) {
    this.of = of;
    this.values = values;
  }

  /** The same to go on from. */
  public VertexMix copy() {
    Object[] copies = new Object[values.length];
    for (int i = 0; i < copies.length; i++) {
      copies[i] = Values.grown(values[i], 1, 0);
    }
    return new VertexMix(of, copies);
  }

  /** The mean of the values at a vertex's corners; of labels the first one. */
  static Attribute onVertices(Attribute a, int[] triangles, int vertices) {
    int width = a.kind().width();
    Object out = Values.make(a.values(), width * vertices);
    if (a.kind() == Kind.LABEL || a.kind() == Kind.MATERIAL) {
      for (int c = triangles.length - 1; c >= 0; c--) {
        Values.copy(a.values(), a.index()[c], out, triangles[c], width);
      }
      return Attribute.raw(a.name(), a.kind(), Domain.VERTEX, out, null);
    }
    boolean isColour = a.kind() == Kind.COLOUR;
    int channels = isColour ? 4 : width;
    double[] sum = new double[channels * vertices];
    int[] count = new int[vertices];
    for (int c = 0; c < triangles.length; c++) {
      count[triangles[c]]++;
      for (int k = 0; k < channels; k++) {
        sum[channels * triangles[c] + k] +=
            isColour
                ? LinearLight.channel(a.ints()[a.index()[c]], k)
                : a.floats()[width * a.index()[c] + k];
      }
    }
    for (int i = 0; i < sum.length; i++) {
      sum[i] /= Math.max(1, count[i / channels]);
    }
    for (int v = 0; v < vertices; v++) {
      if (isColour) {
        ((int[]) out)[v] = LinearLight.colour(sum, 4 * v);
        continue;
      }
      float[] f = (float[]) out;
      for (int k = 0; k < width; k++) {
        f[width * v + k] = (float) sum[width * v + k];
      }
      if (a.kind() == Kind.NORMAL && !Values.makeUnit(f, 3 * v)) {
        f[3 * v + 2] = 1;
      }
    }
    return Attribute.raw(a.name(), a.kind(), Domain.VERTEX, out, null);
  }

  /** Merges vertex w into v, at the share f of the way from v to w. */
  public void merge(int v, int w, float f) {
    int i = 0;
    for (Attribute a : of) {
      Object x = values[i++];
      switch (a.kind()) {
        case COLOUR -> ((int[]) x)[v] = Colours.mix(((int[]) x)[v], ((int[]) x)[w], f);
        case LABEL, MATERIAL -> {
          if (f > 0.5f) {
            Values.copy(x, w, x, v, 1);
          }
        }
        default -> mix(a.kind(), (float[]) x, v, w, f);
      }
    }
  }

  private static void mix(Kind kind, float[] x, int v, int w, float f) {
    int width = kind.width();
    float[] before = Arrays.copyOfRange(x, width * v, width * v + width);
    for (int k = 0; k < width; k++) {
      x[width * v + k] += f * (x[width * w + k] - x[width * v + k]);
    }
    if (kind == Kind.NORMAL && !Values.makeUnit(x, 3 * v)) {
      System.arraycopy(before, 0, x, 3 * v, 3);
    }
  }

  /** The attributes of what is left. */
  public Attributes left(int[] map, int count) {
    Attributes out = Attributes.NONE;
    int i = 0;
    for (Attribute a : of) {
      int width = a.kind().width();
      Object x = Values.make(a.values(), width * count);
      Values.scatter(values[i], width, map.length - 1, map, 0, x, Work.unwatched());
      out = out.with(Attribute.raw(a.name(), a.kind(), Domain.VERTEX, x, null));
      i++;
    }
    return out;
  }

  /**
   * The attributes of what is left, of wedges.
   *
   * @param wedge the old wedge of each corner that is left; each vertex's first one speaks for it
   * @param corners the new vertex of each
   * @param count of the new vertices
   */
  public Attributes left(int[] wedge, int[] corners, int count) {
    int[] speaks = new int[count];
    for (int c = corners.length - 1; c >= 0; c--) {
      speaks[corners[c]] = wedge[c];
    }
    int[] index = wedge.clone();
    int old = 0;
    for (int w : wedge) {
      old = Math.max(old, w + 1);
    }
    int[] map = Compaction.of(index, old);
    Attributes out = Attributes.NONE;
    int i = 0;
    for (Attribute a : of) {
      int width = a.kind().width();
      boolean isUv = a.kind() == Kind.UV;
      Object x = Values.make(a.values(), width * (isUv ? map[old] : count));
      if (isUv) {
        Values.scatter(values[i], width, old, map, 0, x, Work.unwatched());
      } else {
        for (int v = 0; v < count; v++) {
          Values.copy(values[i], speaks[v], x, v, width);
        }
      }
      Domain domain = isUv ? Domain.CORNER : Domain.VERTEX;
      out = out.with(Attribute.raw(a.name(), a.kind(), domain, x, isUv ? index : null));
      i++;
    }
    return out;
  }

  /**
   * Adds the attributes on triangles of those that are left, each with the old one it comes from.
   */
  public static Attributes withTriangles(Attributes some, Attributes all, int[] from) {
    Attributes out = some;
    for (Attribute a : all) {
      if (a.domain() == Domain.TRIANGLE) {
        int width = a.kind().width();
        Object x = Values.make(a.values(), width * from.length);
        for (int t = 0; t < from.length; t++) {
          Values.copy(a.values(), from[t], x, t, width);
        }
        out = out.with(Attribute.raw(a.name(), a.kind(), Domain.TRIANGLE, x, null));
      }
    }
    return out;
  }
}
