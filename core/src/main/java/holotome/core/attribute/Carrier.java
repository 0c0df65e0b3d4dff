package holotome.core.attribute;

import holotome.core.array.Ranks;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.image.LinearLight;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Carries all attributes of a mesh over to one made from it, by the stated {@link Provenance}: the
 * one place where that is done.
 *
 * <p>What goes on keeps its value. What lies between others is mixed by their weights: colours
 * channel by channel, numbers linearly, normals made unit again; materials and labels are those of
 * the heaviest. Corners mix the values of their own old triangle, so nothing is mixed across a
 * seam; new corners at one vertex that mix the same values share one. In a patch, numbers and
 * colours run evenly inwards from the rim ({@link HarmonicPatch}; colours as light), where a rim
 * vertex with several values counts with their mean; materials and labels are those of the nearest
 * triangle outside. Triangles that are turned over take their normals along.
 *
 * <p>Not done: pictures. Texture coordinates in a patch run evenly like other numbers, which is of
 * use only where there is no picture.
 */
public final class Carrier {
  private static final int GRAIN = 1 << 16;

  private final int[] old;
  private final Provenance p;
  private final int[] next;

  /** Made when first needed: of patches only. */
  private int[] patch;

  private PatchRim rim;
  private HarmonicPatch harmonic;

  /**
   * From one mesh to another.
   *
   * @param old 3 vertices per triangle of the mesh before
   * @param next the same of the mesh after
   */
  public Carrier(int[] old, Provenance p, int[] next) {
    if (next.length != 3 * p.triangles() || old.length != 3 * p.oldTriangles()) {
      throw new IllegalArgumentException("provenance of another number of triangles");
    }
    this.old = old;
    this.p = p;
    this.next = next;
  }

  /** All attributes; O(V + T) for each, on all cores but for what is redrawn. */
  public Attributes carry(Attributes from, Work work) {
    Attributes out = Attributes.NONE;
    for (Attribute a : from) {
      out = out.with(carry(a, work));
      work.advance(1.0 / from.size());
    }
    return from.isEmpty() ? Attributes.NONE : out;
  }

  private Attribute carry(Attribute a, Work work) {
    return switch (a.domain()) {
      case VERTEX -> ofVertices(a, work);
      case TRIANGLE -> ofTriangles(a);
      case CORNER -> ofCorners(a, work);
    };
  }

  /**
   * Positions, 3 floats each.
   *
   * @param added those of the added vertices
   */
  public static float[] positions(float[] xyz, Provenance p, float[] added) {
    int n = p.oldVertices();
    if (p.vertexMap() == null) {
      if (added.length == 0) {
        return xyz;
      }
      float[] out = Arrays.copyOf(xyz, xyz.length + added.length);
      System.arraycopy(added, 0, out, xyz.length, added.length);
      return out;
    }
    float[] out = new float[3 * p.vertices()];
    Values.scatter(xyz, 3, n, p.vertexMap(), 0, out, Work.unwatched());
    Values.scatter(added, 3, p.added().rows(), p.vertexMap(), n, out, Work.unwatched());
    return out;
  }

  /** Positions of added vertices by their weights, 3 floats each. */
  public static float[] blendedPositions(float[] xyz, Provenance p) {
    return (float[]) Values.blended(Kind.WEIGHT, xyz, 3, p.added());
  }

  private Attribute ofVertices(Attribute a, Work work) {
    int width = a.kind().width();
    Object values = a.values();
    Blends rows = p.added();
    Object out;
    if (rows.rows() == 0 && p.vertexMap() == null) {
      out = values;
    } else {
      Object added = Values.blended(a.kind(), values, width, rows);
      if (rows.hasPatch()) {
        fillPatch(a.kind(), width, (v, k) -> channel(a, v, k), added, work);
      }
      if (p.vertexMap() == null) {
        out = Values.grown(values, width, rows.rows());
        System.arraycopy(added, 0, out, width * p.oldVertices(), width * rows.rows());
      } else {
        out = Values.make(values, width * p.vertices());
        Values.scatter(values, width, p.oldVertices(), p.vertexMap(), 0, out, work.part(0, ""));
        Values.scatter(
            added, width, rows.rows(), p.vertexMap(), p.oldVertices(), out, work.part(0, ""));
      }
    }
    if (a.kind() == Kind.NORMAL && p.turnsAny()) {
      out = turnedNormals(out == values ? ((float[]) out).clone() : (float[]) out);
    }
    return Attribute.raw(a.name(), a.kind(), Domain.VERTEX, out, null);
  }

  /** Normals of vertices all of whose triangles were turned over, the other way. */
  private float[] turnedNormals(float[] n) {
    byte[] sides = new byte[n.length / 3];
    for (int c = 0; c < next.length; c++) {
      sides[next[c]] |= (byte) (p.isTurned(c / 3) ? 1 : 2);
    }
    for (int v = 0; v < sides.length; v++) {
      if (sides[v] == 1) {
        for (int k = 0; k < 3; k++) {
          n[3 * v + k] = 0 - n[3 * v + k];
        }
      }
    }
    return n;
  }

  private static double channel(Attribute a, int value, int k) {
    return a.kind() == Kind.COLOUR
        ? LinearLight.channel(a.ints()[value], k)
        : a.floats()[a.kind().width() * value + k];
  }

  /**
   * The values of the inner vertices of patches.
   *
   * @param known of a vertex along the rim
   * @param added filled: values of all added vertices
   */
  private void fillPatch(Kind kind, int width, HarmonicPatch.Known known, Object added, Work work) {
    if (kind == Kind.LABEL || kind == Kind.MATERIAL) {
      return;
    }
    int inner = p.added().rows();
    if (harmonic == null) {
      harmonic = new HarmonicPatch(patch(), p.oldVertices(), inner);
    }
    int channels = kind == Kind.COLOUR ? 4 : width;
    double[] x =
        harmonic.spread(
            channels, known, work.part(0, CoreWords.of("work.filling-in-what-is-carried")));
    for (int i = 0; i < inner; i++) {
      if (kind == Kind.COLOUR) {
        ((int[]) added)[i] = LinearLight.colour(x, 4 * i);
        continue;
      }
      float[] f = (float[]) added;
      for (int k = 0; k < width; k++) {
        f[width * i + k] = (float) x[channels * i + k];
      }
      if (kind == Kind.NORMAL && !Values.makeUnit(f, 3 * i)) {
        f[3 * i + 2] = 1;
      }
    }
  }

  private int[] patch() {
    if (patch == null) {
      Redrawn r = p.redrawn();
      patch = new int[3 * r.patches()];
      int at = 0;
      for (int i = 0; i < r.size(); i++) {
        if (r.source(i) == Redrawn.PATCH) {
          System.arraycopy(next, 3 * r.triangle(i), patch, at, 3);
          at += 3;
        }
      }
    }
    return patch;
  }

  private PatchRim rim() {
    if (rim == null) {
      rim = PatchRim.of(old, p.oldVertices(), patch());
    }
    return rim;
  }

  private Attribute ofTriangles(Attribute a) {
    int width = a.kind().width();
    if (p.kept() == null && p.redrawn().size() == 0) {
      return a;
    }
    Object out = Values.make(a.values(), width * p.triangles());
    forKept((t, at) -> Values.copy(a.values(), t, out, at, width));
    Redrawn r = p.redrawn();
    int inPatch = 0;
    for (int i = 0; i < r.size(); i++) {
      int from = r.source(i) == Redrawn.PATCH ? rim().nearest(inPatch++) : r.source(i);
      if (from < p.oldTriangles()) {
        Values.copy(a.values(), from, out, r.triangle(i), width);
      }
    }
    return Attribute.raw(a.name(), a.kind(), Domain.TRIANGLE, out, null);
  }

  private interface Going {
    void on(int old, int now);
  }

  /** All old triangles that go on, with their new numbers; on all cores. */
  private void forKept(Going body) {
    Ranks kept = p.kept();
    Parallel.range(
        p.oldTriangles(),
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          if (kept == null) {
            for (int t = from; t < to; t++) {
              body.on(t, t);
            }
            return;
          }
          int at = kept.rank(from);
          for (int t = from; t < to; t++) {
            if (kept.has(t)) {
              body.on(t, at++);
            }
          }
        });
  }

  private Attribute ofCorners(Attribute a, Work work) {
    if (p.kept() == null && p.redrawn().size() == 0 && !p.turnsAny()) {
      return a;
    }
    int[] from = a.index();
    int[] index = new int[next.length];
    forKept(
        (t, at) -> {
          boolean turned = p.isTurned(at);
          index[3 * at] = from[3 * t];
          index[3 * at + 1] = from[3 * t + (turned ? 2 : 1)];
          index[3 * at + 2] = from[3 * t + (turned ? 1 : 2)];
        });
    Object values = a.values();
    if (p.redrawn().size() > 0) {
      values = new RedrawnCorners(a, p, next).into(index);
      if (p.redrawn().patches() > 0) {
        values = patchCorners(a, values, index, work);
      }
    }
    if (a.kind() == Kind.NORMAL && p.turnsAny()) {
      values = turnedCorners((float[]) values, index);
    }
    return compact(a, values, index);
  }

  /** Gives turned triangles normals of their own, the other way. */
  private Object turnedCorners(float[] values, int[] index) {
    int n = values.length / 3;
    int[] other = new int[n];
    float[] out = Arrays.copyOf(values, values.length);
    int count = n;
    for (int c = 0; c < index.length; c++) {
      if (!p.isTurned(c / 3)) {
        continue;
      }
      int v = index[c];
      if (other[v] == 0) {
        if (3 * count + 3 > out.length) {
          out = Arrays.copyOf(out, 2 * out.length + 3);
        }
        for (int k = 0; k < 3; k++) {
          out[3 * count + k] = 0 - values[3 * v + k];
        }
        other[v] = ++count;
      }
      index[c] = other[v] - 1;
    }
    return Arrays.copyOf(out, 3 * count);
  }

  /**
   * One value for each vertex of the patches: the mean of its corners on the rim, spread inwards.
   */
  private Object patchCorners(Attribute a, Object before, int[] index, Work work) {
    int width = a.kind().width();
    int[] at = rim().vertices();
    int inner = p.added().rows();
    int base = length(before) / width;
    Object values = Values.grown(before, width, at.length + inner);
    Object added = Values.make(values, width * inner);
    if (a.kind() == Kind.LABEL || a.kind() == Kind.MATERIAL) {
      labelCorners(a, index, width, base, values);
      return values;
    }
    boolean isColour = a.kind() == Kind.COLOUR;
    int channels = isColour ? 4 : width;
    double[] mean = new double[channels * at.length];
    for (int i = 0; i < at.length; i++) {
      int[] corners = rim().cornersAt(i);
      for (int c : corners) {
        for (int k = 0; k < channels; k++) {
          mean[channels * i + k] += channel(a, a.index()[c], k) / corners.length;
        }
      }
      if (isColour) {
        ((int[]) values)[base + i] = LinearLight.colour(mean, 4 * i);
      } else {
        float[] f = (float[]) values;
        for (int k = 0; k < width; k++) {
          f[width * (base + i) + k] = (float) mean[channels * i + k];
        }
        if (a.kind() == Kind.NORMAL && !Values.makeUnit(f, 3 * (base + i))) {
          f[3 * (base + i) + 2] = 1;
        }
      }
    }
    fillPatch(a.kind(), width, (v, k) -> mean[channels * rim().place(v) + k], added, work);
    System.arraycopy(added, 0, values, width * (base + at.length), width * inner);
    forPatchCorners(
        (c, inPatch) -> {
          int v = next[c];
          index[c] =
              v < p.oldVertices() ? base + rim().place(v) : base + at.length + v - p.oldVertices();
        });
    return values;
  }

  /** Corners of patches take the label of the nearest triangle outside, at its first corner. */
  private void labelCorners(Attribute a, int[] index, int width, int base, Object values) {
    forPatchCorners((c, inPatch) -> index[c] = a.index()[3 * rim().nearest(inPatch)]);
  }

  private interface PatchCorner {
    void at(int corner, int inPatch);
  }

  private void forPatchCorners(PatchCorner body) {
    Redrawn r = p.redrawn();
    int inPatch = 0;
    for (int i = 0; i < r.size(); i++) {
      if (r.source(i) == Redrawn.PATCH) {
        for (int k = 0; k < 3; k++) {
          body.at(3 * r.triangle(i) + k, inPatch);
        }
        inPatch++;
      }
    }
  }

  private static int length(Object values) {
    return java.lang.reflect.Array.getLength(values);
  }

  /** Leaves out the values that no corner uses any more. */
  private static Attribute compact(Attribute a, Object values, int[] index) {
    int width = a.kind().width();
    int n = length(values) / width;
    int[] map = Compaction.of(index, n);
    int used = map[n];
    if (used < n) {
      Object out = Values.make(values, width * used);
      Values.scatter(values, width, n, map, 0, out, Work.unwatched());
      return Attribute.raw(a.name(), a.kind(), Domain.CORNER, out, index);
    }
    return Attribute.raw(a.name(), a.kind(), Domain.CORNER, values, index);
  }
}
