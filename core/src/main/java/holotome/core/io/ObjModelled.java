package holotome.core.io;

import holotome.core.array.LongIndex;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * What an OBJ file tells of a mesh that was modelled, beside its shape: faces with more than three
 * corners, and hard edges, which are said by normals at the corners or else by smoothing groups.
 * Normals are taken where every corner has one.
 */
final class ObjModelled {
  /** Steps that parts of normals are told apart by. */
  private static final double FINE = 1 << 20;

  private ObjModelled() {}

  /** Of one stretch of the file. */
  static final class Part {
    /** From this triangle of the stretch on, the smoothing group is this one; 0 for none. */
    record Smooth(int triangle, int group) {}

    private final Floats normals = new Floats(16);

    /** The normal's number per corner, as {@link ObjChunk} counts. */
    private final Ints corners = new Ints(16);

    /** Triangles of each face. */
    private final Ints faces = new Ints(16);

    private final List<Smooth> smooths = new ArrayList<>();

    int normals() {
      return normals.n / 3;
    }

    /** One that is not three numbers is kept as nothing, so that the count goes on. */
    void normal(double x, double y, double z) {
      boolean isGood = Double.isFinite(x + y + z);
      normals.add(isGood ? (float) x : 0);
      normals.add(isGood ? (float) y : 0);
      normals.add(isGood ? (float) z : 0);
    }

    void smooth(int triangle, String text) {
      int group;
      try {
        group = text.equals("off") ? 0 : Integer.parseInt(text);
      } catch (NumberFormatException e) {
        group = 0;
      }
      smooths.add(new Smooth(triangle, group));
    }

    void face(int size, int[] ofCorner) {
      faces.add(size - 2);
      for (int i = 2; i < size; i++) {
        corners.add(ofCorner[0]);
        corners.add(ofCorner[i - 1]);
        corners.add(ofCorner[i]);
      }
    }
  }

  /** The mesh with what else the file tells of it. */
  static Mesh of(Path file, Mesh mesh, ObjChunk[] chunks) {
    int[] faceOf = new int[mesh.triangleCount()];
    int at = 0;
    int face = 0;
    for (ObjChunk c : chunks) {
      for (int f = 0; f < c.modelled.faces.n; f++, face++) {
        for (int i = 0; i < c.modelled.faces.a[f]; i++) {
          faceOf[at++] = face;
        }
      }
    }
    Attribute normals = normals(file, mesh, chunks);
    normals = normals != null ? normals : smoothed(mesh, faceOf, chunks);
    return FaceCut.cut(normals == null ? mesh : mesh.with(normals), faceOf);
  }

  /** As the file gives them; null where it does not for all corners. */
  private static Attribute normals(Path file, Mesh mesh, ObjChunk[] chunks) {
    int count = 0;
    for (ObjChunk c : chunks) {
      count += c.modelled.normals();
    }
    float[] all = new float[3 * count];
    int[] number = new int[count];
    LongIndex known = new LongIndex();
    int n = 0;
    for (ObjChunk c : chunks) {
      Floats given = c.modelled.normals;
      for (int i = 0; i < given.n; i += 3, n++) {
        number[n] = known(given.a, i, all, known);
      }
    }
    int[] corners = new int[3 * mesh.triangleCount()];
    int at = 0;
    int base = 0;
    for (ObjChunk c : chunks) {
      Ints of = c.modelled.corners;
      for (int i = 0; i < of.n; i++) {
        if (of.a[i] == ObjChunk.NONE) {
          return null;
        }
        int v = of.a[i] < 0 ? of.a[i] - ObjChunk.RELATIVE + base : of.a[i];
        if (v < 0 || v >= count) {
          throw Failure.badInput(
              CoreWords.of(
                  "obj-reader.triangle-names-but-there-are",
                  file,
                  at / 3 + 1,
                  CoreWords.of("obj-reader.normal"),
                  v + 1,
                  count));
        }
        if (number[v] < 0) {
          return null;
        }
        corners[at++] = number[v];
      }
      base += c.modelled.normals();
    }
    return Attribute.of(
        Attribute.NORMAL,
        Kind.NORMAL,
        Domain.CORNER,
        Arrays.copyOf(all, 3 * known.size()),
        corners);
  }

  /** The number of a direction, which like ones share; -1 for one without length. */
  private static int known(float[] given, int i, float[] all, LongIndex known) {
    double l =
        Math.sqrt(
            (double) given[i] * given[i]
                + (double) given[i + 1] * given[i + 1]
                + (double) given[i + 2] * given[i + 2]);
    if (!(l > 1e-9)) {
      return -1;
    }
    long key = 0;
    for (int k = 0; k < 3; k++) {
      key = key << 21 | Math.round((given[i + k] / l + 1) / 2 * FINE);
    }
    int number = known.add(key);
    for (int k = 0; k < 3; k++) {
      all[3 * number + k] = (float) (given[i + k] / l);
    }
    return number;
  }

  /** By smoothing groups; null where the file has none. */
  private static Attribute smoothed(Mesh mesh, int[] faceOf, ObjChunk[] chunks) {
    int[] group = new int[mesh.triangleCount()];
    int at = 0;
    int current = 0;
    boolean any = false;
    for (ObjChunk c : chunks) {
      int base = at;
      for (Part.Smooth s : c.modelled.smooths) {
        Arrays.fill(group, at, base + s.triangle(), current);
        at = base + s.triangle();
        current = s.group();
        any = true;
      }
      Arrays.fill(group, at, base + c.triangleCount(), current);
      at = base + c.triangleCount();
    }
    return any ? GroupNormals.of(mesh, faceOf, group) : null;
  }
}
