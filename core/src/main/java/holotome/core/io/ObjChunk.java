package holotome.core.io;

import holotome.core.image.Colours;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * One stretch of whole lines of an OBJ file, parsed on its own.
 *
 * <p>Corners name vertices either from the start of the file (kept as they are, counted from 0) or
 * backwards from where they stand. The latter are kept relative to the stretch's first vertex, as
 * {@link #RELATIVE} plus the number, until {@link ObjReader} knows where the stretch begins.
 */
final class ObjChunk {
  static final int RELATIVE = -(1 << 30);
  static final int NONE = Integer.MIN_VALUE;

  /** From this triangle of the stretch on, the material has this name. */
  record Use(int triangle, String material) {}

  final Floats xyz;
  final Floats uv = new Floats(16);
  final Ints colours = new Ints(16);
  final Ints corners;
  final Ints uvCorners = new Ints(16);
  final List<Use> uses = new ArrayList<>();
  final List<String> libraries = new ArrayList<>();
  boolean anyUv;

  /** What is kept of a mesh that was modelled; null for others. */
  final ObjModelled.Part modelled;

  /** Lines before the one with the fault, and the fault; null when there is none. */
  String fault;

  int lines;

  private final byte[] b;
  private final double[] offset;
  private int at;
  private final int end;
  private int faceSize;
  private int[] face = new int[16];
  private int[] faceUv = new int[16];
  private int[] faceNormal = new int[16];

  ObjChunk(byte[] bytes, int from, int to, double[] offset, boolean isModelled) {
    this.b = bytes;
    this.at = from;
    this.end = to;
    this.offset = offset;
    xyz = new Floats((to - from) / 20);
    corners = new Ints((to - from) / 16);
    modelled = isModelled ? new ObjModelled.Part() : null;
  }

  int vertexCount() {
    return xyz.n / 3;
  }

  int triangleCount() {
    return corners.n / 3;
  }

  void parse() {
    while (at < end && fault == null) {
      skipBlanks();
      if (at < end) {
        line();
      }
      while (at < end && b[at] != '\n') {
        at++;
      }
      at++;
      if (fault == null) {
        lines++;
      }
    }
  }

  private void line() {
    byte c = b[at];
    byte d = at + 1 < end ? b[at + 1] : (byte) '\n';
    if (c == 'v' && blank(d)) {
      at++;
      vertex();
    } else if (c == 'f' && blank(d)) {
      at++;
      face();
    } else if (c == 'v' && d == 't') {
      at += 2;
      double u = number();
      double v = number();
      if (!Double.isFinite(u + v)) {
        fault = CoreWords.of("obj-chunk.a-texture-vertex-needs-two");
        return;
      }
      uv.add((float) u);
      uv.add((float) v);
    } else if (modelled != null && c == 'v' && d == 'n') {
      at += 2;
      modelled.normal(number(), number(), number());
    } else if (modelled != null && c == 's' && blank(d)) {
      at++;
      modelled.smooth(triangleCount(), rest());
    } else if (c == 'u' && word("usemtl")) {
      uses.add(new Use(triangleCount(), rest()));
    } else if (c == 'm' && word("mtllib")) {
      libraries.add(rest());
    }
  }

  private static boolean blank(byte c) {
    return c == ' ' || c == '\t';
  }

  private void skipBlanks() {
    while (at < end && (blank(b[at]) || b[at] == '\r')) {
      at++;
    }
  }

  private boolean word(String w) {
    if (end - at <= w.length() || !blank(b[at + w.length()])) {
      return false;
    }
    for (int i = 0; i < w.length(); i++) {
      if (b[at + i] != w.charAt(i)) {
        return false;
      }
    }
    at += w.length();
    return true;
  }

  private String rest() {
    int from = at;
    while (at < end && b[at] != '\n') {
      at++;
    }
    return new String(b, from, at - from, StandardCharsets.UTF_8).strip();
  }

  /** The next number on this line; NaN if there is none or it is malformed. */
  private double number() {
    skipBlanks();
    int from = at;
    while (at < end && b[at] > ' ') {
      at++;
    }
    return from == at ? Double.NaN : AsciiNumber.parse(b, from, at);
  }

  private boolean atLineEnd() {
    skipBlanks();
    return at >= end || b[at] == '\n' || b[at] == '#';
  }

  private void vertex() {
    double x = number();
    double y = number();
    double z = number();
    if (!Double.isFinite(x + y + z)) {
      fault = CoreWords.of("obj-chunk.a-vertex-needs-three-finite");
      return;
    }
    if (!Offset.fits(x, y, z, offset)) {
      fault = CoreWords.of("common.a-coordinate-is-larger-than");
      return;
    }
    xyz.add((float) (x - offset[0]));
    xyz.add((float) (y - offset[1]));
    xyz.add((float) (z - offset[2]));
    if (atLineEnd()) {
      return;
    }
    double p = number();
    if (atLineEnd()) {
      return;
    }
    double q = number();
    double r = number();
    double blue = r;
    double green = q;
    double red = p;
    if (!atLineEnd()) {
      // x y z w r g b
      red = q;
      green = r;
      blue = number();
    }
    if (Double.isFinite(red + green + blue)) {
      while (colours.n < vertexCount() - 1) {
        colours.add(0xff808080);
      }
      double k = red > 1 || green > 1 || blue > 1 ? 1 : 255;
      colours.add(Colours.argb(red * k, green * k, blue * k));
    }
  }

  private void face() {
    faceSize = 0;
    while (!atLineEnd()) {
      int v = index(vertexCount());
      if (fault != null) {
        return;
      }
      int t = NONE;
      int n = NONE;
      if (at < end && b[at] == '/') {
        at++;
        if (at < end && b[at] != '/' && b[at] > ' ') {
          t = index(uv.n / 2);
        }
        // A normal's number may follow; normals of scans are computed anew.
        if (modelled != null && at < end && b[at] == '/') {
          at++;
          n = at < end && b[at] > ' ' ? index(modelled.normals()) : NONE;
        }
        while (at < end && b[at] > ' ') {
          at++;
        }
      }
      if (fault != null) {
        return;
      }
      if (faceSize == face.length) {
        face = java.util.Arrays.copyOf(face, 2 * faceSize);
        faceUv = java.util.Arrays.copyOf(faceUv, 2 * faceSize);
        faceNormal = java.util.Arrays.copyOf(faceNormal, 2 * faceSize);
      }
      face[faceSize] = v;
      faceNormal[faceSize] = n;
      faceUv[faceSize++] = t;
    }
    if (faceSize < 3) {
      fault = CoreWords.of("obj-chunk.a-face-needs-at-least");
      return;
    }
    for (int i = 2; i < faceSize; i++) {
      corner(0);
      corner(i - 1);
      corner(i);
    }
    if (modelled != null) {
      modelled.face(faceSize, faceNormal);
    }
  }

  private void corner(int i) {
    corners.add(face[i]);
    if (faceUv[i] != NONE && !anyUv) {
      anyUv = true;
      while (uvCorners.n < corners.n - 1) {
        uvCorners.add(NONE);
      }
    }
    if (anyUv) {
      uvCorners.add(faceUv[i]);
    }
  }

  private int index(int known) {
    boolean back = at < end && b[at] == '-';
    if (back) {
      at++;
    }
    long n = 0;
    int from = at;
    while (at < end && b[at] >= '0' && b[at] <= '9' && n < 1 << 30) {
      n = 10 * n + (b[at++] - '0');
    }
    if (at == from || n == 0 || n >= 1 << 30 || at < end && b[at] > ' ' && b[at] != '/') {
      fault = CoreWords.of("obj-chunk.a-corner-is-not-a");
      return 0;
    }
    return back ? RELATIVE + known - (int) n : (int) n - 1;
  }

  Failure failure(Path file, long linesBefore) {
    return Failure.badInput(CoreWords.of("common.line", file, (linesBefore + lines + 1), fault));
  }
}
