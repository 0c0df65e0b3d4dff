package holotome.core.io;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.polygon.FaceRings;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/** Writes a mesh as PLY, OBJ (with its library and pictures) or STL; GLB see {@link GlbWriter}. */
public final class MeshWriter {
  private MeshWriter() {}

  /**
   * Writes by the file's ending. Files appear whole or not at all.
   *
   * @param placing from base coordinates to those of the file
   */
  public static void write(Path file, Mesh mesh, Similarity placing, Work work) {
    try (SafeFiles files = new SafeFiles()) {
      add(files, file, mesh, placing, work);
      files.commit();
    }
  }

  /** How many faces with more than three corners OBJ and PLY files of a mesh have. */
  public static int polygons(Mesh mesh) {
    FaceRings faces = FaceRings.of(mesh);
    return faces == null ? 0 : faces.polygons();
  }

  /** Writes into a set of files that is committed later. */
  public static void add(SafeFiles files, Path file, Mesh mesh, Similarity placing, Work work) {
    add(files, file, mesh, placing, List.of(), work);
  }

  /**
   * The same.
   *
   * @param endings what is put behind the names of an OBJ's pictures, material by material; empty
   *     for numbers
   */
  public static void add(
      SafeFiles files, Path file, Mesh mesh, Similarity placing, List<String> endings, Work work) {
    String name = file.getFileName().toString();
    String ending = name.substring(name.lastIndexOf('.') + 1).toLowerCase(Locale.ROOT);
    switch (ending) {
      case "ply" -> files.add(file, out -> ply(new ByteSink(out), mesh, placing, work));
      case "stl" -> files.add(file, out -> stl(new ByteSink(out), mesh, placing, work));
      case "obj" -> obj(files, file, mesh, placing, endings, work);
      case "glb" -> files.add(file, out -> GlbWriter.write(out, mesh, null, placing, name, work));
      default ->
          throw Failure.usage(CoreWords.of("mesh-writer.is-not-a-mesh-format", file, ending));
    }
  }

  /** Whether floats would lose the shape where it stands: far off for its size. */
  private static boolean needsDoubles(Mesh mesh, Similarity placing) {
    Box b = Placing.bounds(mesh.xyz(), placing);
    double[] c = b.centre();
    return Vec.length(c) > 100 * b.diagonal();
  }

  private static void ply(ByteSink out, Mesh mesh, Similarity placing, Work work)
      throws IOException {
    boolean doubles = needsDoubles(mesh, placing);
    String t = doubles ? "double" : "float";
    StringBuilder h = new StringBuilder("ply\nformat binary_little_endian 1.0\n");
    h.append("element vertex ").append(mesh.vertexCount()).append('\n');
    for (String axis : new String[] {"x", "y", "z"}) {
      h.append("property ").append(t).append(' ').append(axis).append('\n');
    }
    int[] colours = mesh.colours();
    if (colours != null) {
      h.append("property uchar red\nproperty uchar green\nproperty uchar blue\n");
    }
    FaceRings faces = FaceRings.of(mesh);
    int count = faces == null ? mesh.triangleCount() : faces.count();
    h.append("element face ").append(count).append('\n');
    // A byte counts no more than 255 corners.
    boolean wide = faces != null && faces.most() > 255;
    h.append(
        wide
            ? "property list int int vertex_indices\nend_header\n"
            : "property list uchar int vertex_indices\nend_header\n");
    out.putText(h.toString());
    Points points = new Points(mesh, placing);
    double total = mesh.vertexCount() + mesh.triangleCount();
    for (int v = 0; v < mesh.vertexCount(); v++) {
      points.read(v);
      if (doubles) {
        out.putDouble(points.x);
        out.putDouble(points.y);
        out.putDouble(points.z);
      } else {
        out.putFloat((float) points.x);
        out.putFloat((float) points.y);
        out.putFloat((float) points.z);
      }
      if (colours != null) {
        out.putByte(colours[v] >> 16);
        out.putByte(colours[v] >> 8);
        out.putByte(colours[v]);
      }
      tick(work, v, total);
    }
    int[] tri = mesh.triangles();
    for (int f = 0; f < count; f++) {
      int from = faces == null ? 3 * f : faces.start()[f];
      int to = faces == null ? 3 * f + 3 : faces.start()[f + 1];
      if (wide) {
        out.putInt(to - from);
      } else {
        out.putByte(to - from);
      }
      for (int c = from; c < to; c++) {
        out.putInt(tri[faces == null ? c : faces.corners()[c]]);
      }
      tick(work, f, total);
    }
    out.flush();
  }

  private static void tick(Work work, int i, double total) {
    if ((i & 0xffff) == 0) {
      work.advance(0x10000 / total);
    }
  }

  private static void stl(ByteSink out, Mesh mesh, Similarity placing, Work work)
      throws IOException {
    // A binary file must not begin with "solid", which marks a text file.
    out.putText(String.format(Locale.ROOT, "%-80s", "binary STL written by Holotome"));
    out.putInt(mesh.triangleCount());
    Points p = new Points(mesh, placing);
    int[] tri = mesh.triangles();
    float[] c = new float[9];
    for (int i = 0; i < tri.length; i += 3) {
      for (int k = 0; k < 3; k++) {
        p.read(tri[i + k]);
        c[3 * k] = (float) p.x;
        c[3 * k + 1] = (float) p.y;
        c[3 * k + 2] = (float) p.z;
      }
      double[] u = {(double) c[3] - c[0], (double) c[4] - c[1], (double) c[5] - c[2]};
      double[] v = {(double) c[6] - c[0], (double) c[7] - c[1], (double) c[8] - c[2]};
      double[] n = Vec.unit(Vec.cross(u, v));
      for (double x : n) {
        out.putFloat((float) x);
      }
      for (float x : c) {
        out.putFloat(x);
      }
      out.putShort(0);
      tick(work, i / 3, mesh.triangleCount());
    }
    out.flush();
  }

  private static void obj(
      SafeFiles files, Path file, Mesh mesh, Similarity placing, List<String> endings, Work work) {
    String name = file.getFileName().toString();
    String stem = name.substring(0, name.lastIndexOf('.'));
    boolean library = !mesh.materials().isEmpty() && mesh.uv() != null;
    files.add(file, out -> objText(new ByteSink(out), mesh, placing, library ? stem : null, work));
    if (!library) {
      return;
    }
    StringBuilder mtl = new StringBuilder();
    for (int m = 0; m < mesh.materials().size(); m++) {
      Material material = mesh.materials().get(m);
      mtl.append("newmtl ").append(materialName(material, m)).append('\n');
      mtl.append(
          String.format(
              Locale.ROOT,
              "Kd %.4f %.4f %.4f%n",
              (material.argb() >> 16 & 255) / 255.0,
              (material.argb() >> 8 & 255) / 255.0,
              (material.argb() & 255) / 255.0));
      if (material.image() != null) {
        String picture = pictureName(stem, mesh, endings, m);
        mtl.append("map_Kd ").append(picture).append('\n');
        files.add(
            file.resolveSibling(picture), out -> Pictures.writePng(material.image(), out, work));
      }
    }
    files.add(
        file.resolveSibling(stem + ".mtl"),
        out -> out.write(mtl.toString().getBytes(java.nio.charset.StandardCharsets.UTF_8)));
  }

  private static String materialName(Material m, int number) {
    String n = m.name().replaceAll("\\s+", "_");
    return n.isEmpty() ? "material" + number : n;
  }

  private static String pictureName(String stem, Mesh mesh, List<String> endings, int m) {
    boolean isOne = mesh.materials().size() == 1;
    String ending = !endings.isEmpty() ? endings.get(m) : isOne ? "" : Integer.toString(m + 1);
    return stem + "_colour" + ending + ".png";
  }

  private static void objText(
      ByteSink out, Mesh mesh, Similarity placing, String library, Work work) throws IOException {
    boolean doubles = needsDoubles(mesh, placing);
    out.putText("# written by Holotome\n");
    if (library != null) {
      out.putText("mtllib " + library + ".mtl\n");
    }
    Points p = new Points(mesh, placing);
    int[] colours = library == null ? mesh.colours() : null;
    StringBuilder s = new StringBuilder();
    double total = mesh.vertexCount() + mesh.triangleCount();
    for (int v = 0; v < mesh.vertexCount(); v++) {
      p.read(v);
      s.setLength(0);
      s.append("v ");
      number(s, p.x, doubles).append(' ');
      number(s, p.y, doubles).append(' ');
      number(s, p.z, doubles);
      if (colours != null) {
        for (int shift = 16; shift >= 0; shift -= 8) {
          s.append(' ').append((float) ((colours[v] >> shift & 255) / 255.0));
        }
      }
      out.putText(s.append('\n').toString());
      tick(work, v, total);
    }
    int[] uv = mesh.uv() == null ? null : mesh.uv().corners();
    if (uv != null) {
      float[] c = mesh.uv().coords();
      for (int i = 0; i < c.length; i += 2) {
        out.putText("vt " + c[i] + " " + c[i + 1] + "\n");
      }
    }
    int[] normal = normals(out, mesh, p);
    FaceRings faces = FaceRings.of(mesh);
    int[] tri = mesh.triangles();
    int current = -1;
    int count = faces == null ? mesh.triangleCount() : faces.count();
    for (int f = 0; f < count; f++) {
      int t = faces == null ? f : faces.triangle(f);
      int m = mesh.material() == null ? 0 : mesh.material()[t];
      if (library != null && m != current && m >= 0) {
        out.putText("usemtl " + materialName(mesh.materials().get(m), m) + "\n");
        current = m;
      }
      s.setLength(0);
      s.append('f');
      int to = faces == null ? 3 * f + 3 : faces.start()[f + 1];
      for (int c = faces == null ? 3 * f : faces.start()[f]; c < to; c++) {
        int k = faces == null ? c : faces.corners()[c];
        s.append(' ').append(tri[k] + 1);
        if (uv != null) {
          s.append('/').append(uv[k] + 1);
        }
        if (normal != null) {
          s.append(uv == null ? "//" : "/").append(normal[k] + 1);
        }
      }
      out.putText(s.append('\n').toString());
      tick(work, f, total);
    }
    out.flush();
  }

  /**
   * Writes the normals that a mesh carries at its corners; their numbers, null where it has none.
   */
  private static int[] normals(ByteSink out, Mesh mesh, Points p) throws IOException {
    Attribute a = mesh.attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.CORNER);
    if (a == null) {
      return null;
    }
    float[] n = a.floats();
    for (int i = 0; i < n.length; i += 3) {
      double[] d = p.direction(n, i);
      out.putText("vn " + (float) d[0] + " " + (float) d[1] + " " + (float) d[2] + "\n");
    }
    return a.index();
  }

  private static StringBuilder number(StringBuilder s, double x, boolean exact) {
    // Adding nought takes the sign off nought.
    return exact ? s.append(x + 0.0) : s.append((float) x + 0f);
  }

  /** Positions of vertices after placing, in double precision. */
  private static final class Points {
    private final float[] xyz;
    private final double[] m;
    double x;
    double y;
    double z;

    Points(Mesh mesh, Similarity placing) {
      xyz = mesh.xyz();
      m = Placing.matrix(placing);
    }

    /** A unit direction after placing. */
    double[] direction(float[] n, int i) {
      double[] d = new double[3];
      for (int k = 0; k < 3; k++) {
        d[k] = m[4 * k] * n[i] + m[4 * k + 1] * n[i + 1] + m[4 * k + 2] * n[i + 2];
      }
      return Vec.unit(d);
    }

    void read(int v) {
      double a = xyz[3 * v];
      double b = xyz[3 * v + 1];
      double c = xyz[3 * v + 2];
      x = m[0] * a + m[1] * b + m[2] * c + m[3];
      y = m[4] * a + m[5] * b + m[6] * c + m[7];
      z = m[8] * a + m[9] * b + m[10] * c + m[11];
    }
  }
}
