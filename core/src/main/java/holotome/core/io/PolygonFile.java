package holotome.core.io;

import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.polygon.PolygonMesh;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;

/**
 * Reads and writes faces with any number of corners: OBJ (Wavefront, appendix B1 of its manual,
 * 3.0) with texture coordinates, and PLY (Turk, "The PLY Polygon File Format", 1994), read in text
 * and both binary orders, written in text. For small meshes that are modelled; scans go through
 * {@link MeshReader}, which cuts faces into triangles.
 */
public final class PolygonFile {
  /** Texture coordinates are carried under this name. */
  public static final String UV = "uv";

  private static final long MOST_BYTES = 512L << 20;

  private PolygonFile() {}

  /**
   * Reads a file.
   *
   * @throws Failure if it cannot be read, or its faces are no manifold surface
   */
  public static PolygonMesh read(Path file) {
    String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
    try {
      if (Files.size(file) > MOST_BYTES) {
        throw Failure.badInput(CoreWords.of("polygon-file.is-too-large-to-be", file));
      }
      if (name.endsWith(".obj")) {
        return obj(file);
      }
      if (name.endsWith(".ply")) {
        return ply(file);
      }
    } catch (IOException e) {
      throw new Failure(
          Failure.Kind.BAD_INPUT,
          CoreWords.of("polygon-file.cannot-be-read", file, e.getMessage()),
          e);
    }
    throw Failure.badInput(CoreWords.of("polygon-file.polygons-are-read-from-obj", file));
  }

  private static PolygonMesh obj(Path file) throws IOException {
    List<double[]> points = new ArrayList<>();
    List<double[]> textures = new ArrayList<>();
    List<int[]> faces = new ArrayList<>();
    List<int[]> ofCorners = new ArrayList<>();
    int line = 0;
    for (String text : Files.readAllLines(file, StandardCharsets.UTF_8)) {
      line++;
      String[] w = text.strip().split("\\s+");
      switch (w[0]) {
        case "v" -> points.add(numbers(file, line, w, 3));
        case "vt" -> textures.add(numbers(file, line, w, 2));
        case "f" -> {
          int[] face = new int[w.length - 1];
          int[] uv = new int[w.length - 1];
          for (int i = 1; i < w.length; i++) {
            String[] parts = w[i].split("/", -1);
            face[i - 1] = index(file, line, parts[0], points.size());
            uv[i - 1] =
                parts.length > 1 && !parts[1].isEmpty()
                    ? index(file, line, parts[1], textures.size())
                    : -1;
          }
          faces.add(face);
          ofCorners.add(uv);
        }
        default -> {}
      }
    }
    PolygonMesh m = made(file, points, faces);
    boolean textured =
        !faces.isEmpty()
            && ofCorners.stream().allMatch(c -> Arrays.stream(c).min().orElse(-1) >= 0);
    if (textured) {
      m.add(UV, Kind.UV, Domain.CORNER);
      for (int f = 0; f < faces.size(); f++) {
        int[] h = m.halfEdges(f);
        for (int i = 0; i < h.length; i++) {
          // The face's row of half-edges begins at its first corner.
          m.set(UV, h[i], textures.get(ofCorners.get(f)[i]));
        }
      }
      m.settle();
    }
    return m;
  }

  private static PolygonMesh made(Path file, List<double[]> points, List<int[]> faces) {
    if (faces.isEmpty()) {
      throw Failure.badInput(CoreWords.of("polygon-file.holds-no-face", file));
    }
    double[] p = new double[3 * points.size()];
    for (int i = 0; i < points.size(); i++) {
      System.arraycopy(points.get(i), 0, p, 3 * i, 3);
    }
    try {
      return PolygonMesh.of(p, faces.toArray(int[][]::new));
    } catch (Failure f) {
      throw new Failure(f.kind(), file + ": " + f.getMessage(), f);
    }
  }

  private static double[] numbers(Path file, int line, String[] w, int n) {
    double[] out = new double[n];
    for (int i = 0; i < n; i++) {
      byte[] b = i + 1 < w.length ? w[i + 1].getBytes(StandardCharsets.US_ASCII) : new byte[0];
      out[i] = AsciiNumber.parse(b, 0, b.length);
      if (!(Math.abs(out[i]) <= Float.MAX_VALUE)) {
        throw Failure.badInput(
            CoreWords.of("polygon-file.line-expected-finite-numbers", file, line, n));
      }
    }
    return out;
  }

  /** Numbers count from 1, or back from the last one. */
  private static int index(Path file, int line, String text, int count) {
    int i;
    try {
      i = Integer.parseInt(text);
    } catch (NumberFormatException e) {
      i = 0;
    }
    int at = i > 0 ? i - 1 : count + i;
    if (i == 0 || at < 0 || at >= count) {
      throw Failure.badInput(CoreWords.of("polygon-file.line-names-nothing", file, line, text));
    }
    return at;
  }

  private static PolygonMesh ply(Path file) throws IOException {
    PolygonPly p = PolygonPly.read(file);
    return made(file, p.points(), p.faces());
  }

  /**
   * Writes a file, by its ending as OBJ or PLY in text; whole or not at all. Numbers are written so
   * that they come back the same.
   */
  public static void write(Path file, PolygonMesh m) {
    String name = file.getFileName().toString().toLowerCase(Locale.ROOT);
    String text;
    if (name.endsWith(".obj")) {
      text = objText(m);
    } else if (name.endsWith(".ply")) {
      text = plyText(m);
    } else {
      throw Failure.usage(CoreWords.of("polygon-file.polygons-are-written-as-obj", file));
    }
    SafeFiles.write(file, out -> out.write(text.getBytes(StandardCharsets.US_ASCII)));
  }

  private static int[] places(PolygonMesh m) {
    int[] place = new int[m.vertexLimit()];
    int n = 0;
    for (int v = 0; v < place.length; v++) {
      place[v] = m.hasVertex(v) ? n++ : -1;
    }
    return place;
  }

  private static String objText(PolygonMesh m) {
    StringBuilder s = new StringBuilder();
    int[] place = places(m);
    for (int v = 0; v < place.length; v++) {
      if (place[v] >= 0) {
        double[] p = m.position(v);
        s.append("v ").append(p[0]).append(' ').append(p[1]).append(' ').append(p[2]).append('\n');
      }
    }
    boolean textured = m.attributes().contains(UV);
    int uvs = 0;
    for (int f = 0; f < m.faceLimit(); f++) {
      if (!m.hasFace(f)) {
        continue;
      }
      int[] h = m.halfEdges(f);
      if (textured) {
        for (int k : h) {
          double[] uv = m.value(UV, k);
          s.append("vt ").append(uv[0]).append(' ').append(uv[1]).append('\n');
        }
      }
      s.append('f');
      for (int k : h) {
        s.append(' ').append(place[m.origin(k)] + 1);
        if (textured) {
          s.append('/').append(++uvs);
        }
      }
      s.append('\n');
    }
    return s.toString();
  }

  private static String plyText(PolygonMesh m) {
    StringBuilder s = new StringBuilder("ply\nformat ascii 1.0\nelement vertex ");
    s.append(m.vertexCount());
    s.append("\nproperty double x\nproperty double y\nproperty double z\nelement face ");
    s.append(m.faceCount()).append("\nproperty list uchar int vertex_indices\nend_header\n");
    int[] place = places(m);
    for (int v = 0; v < place.length; v++) {
      if (place[v] >= 0) {
        double[] p = m.position(v);
        s.append(p[0]).append(' ').append(p[1]).append(' ').append(p[2]).append('\n');
      }
    }
    for (int f = 0; f < m.faceLimit(); f++) {
      if (m.hasFace(f)) {
        int[] c = m.corners(f);
        s.append(c.length);
        for (int v : c) {
          s.append(' ').append(place[v]);
        }
        s.append('\n');
      }
    }
    return s.toString();
  }
}
