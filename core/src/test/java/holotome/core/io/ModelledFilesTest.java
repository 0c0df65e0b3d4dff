package holotome.core.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.InnerEdges;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Faces and hard edges of meshes that were modelled, read, kept and written. */
class ModelledFilesTest {
  private static final String BOX =
      """
      v 0 0 0
      v 2 0 0
      v 2 1 0
      v 0 1 0
      v 0 0 1
      v 2 0 1
      v 2 1 1
      v 0 1 1
      """;

  private static final int[][] SIDES = {
    {4, 3, 2, 1}, {5, 6, 7, 8}, {1, 2, 6, 5}, {2, 3, 7, 6}, {3, 4, 8, 7}, {4, 1, 5, 8}
  };

  @TempDir private Path dir;

  private Mesh read(String name, String text) throws IOException {
    return MeshReader.modelled(Files.writeString(dir.resolve(name), text), Work.unwatched()).mesh();
  }

  private Path write(String name, Mesh mesh) {
    Path file = dir.resolve(name);
    MeshWriter.write(file, mesh, Similarity.IDENTITY, Work.unwatched());
    return file;
  }

  private static String faces(String between, int... normals) {
    StringBuilder s = new StringBuilder();
    for (int f = 0; f < SIDES.length; f++) {
      s.append('f');
      for (int v : SIDES[f]) {
        s.append(' ').append(v).append(between).append(normals.length > 0 ? normals[f] : "");
      }
      s.append('\n');
    }
    return s.toString();
  }

  private static float[] normal(Mesh m, int corner) {
    Attribute a = m.attributes().first(Kind.NORMAL, Domain.CORNER);
    return Arrays.copyOfRange(a.floats(), 3 * a.index()[corner], 3 * a.index()[corner] + 3);
  }

  private static void assertFlat(Mesh m) {
    double[] n = new double[3];
    for (int t = 0; t < m.triangleCount(); t++) {
      Measures.cross(m.xyz(), m.triangles(), t, n);
      double l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]);
      for (int k = 0; k < 3; k++) {
        float[] given = normal(m, 3 * t + k);
        for (int d = 0; d < 3; d++) {
          assertThat((double) given[d]).isCloseTo(n[d] / l, within(1e-6));
        }
      }
    }
  }

  private static List<String> lines(Path file, String head) throws IOException {
    return Files.readAllLines(file).stream().filter(x -> x.startsWith(head)).toList();
  }

  @Test
  void facesAndNormalsOfAnObjComeBackAsTheyWere() throws IOException {
    String normals = "vn 0 0 -1\nvn 0 0 2\nvn 0 -1 0\nvn 1 0 0\nvn 0 1 0\nvn -3 0 0\n";
    Mesh m = read("box.obj", BOX + normals + faces("//", 1, 2, 3, 4, 5, 6));
    assertThat(m.triangleCount()).isEqualTo(12);
    assertThat(Measures.volume(m)).isCloseTo(2, within(1e-6));
    assertFlat(m);
    int within = 0;
    for (byte b : InnerEdges.of(m)) {
      within += Integer.bitCount(b);
    }
    assertThat(within).isEqualTo(12);
    Path out = write("out.obj", m);
    assertThat(lines(out, "f ")).hasSize(6).allMatch(f -> f.split(" ").length == 5);
    assertThat(lines(out, "vn ")).hasSize(6);
    assertThat(PolygonFile.read(out).faceCount()).isEqualTo(6);
    assertThat(MeshReader.modelled(out, Work.unwatched()).mesh().sameAs(m)).isTrue();
    // Scans are read without.
    Mesh scan = MeshReader.read(out, Work.unwatched()).mesh();
    assertThat(scan.attributes().isEmpty()).isTrue();
    assertThat(InnerEdges.of(scan)).isNull();
  }

  @Test
  void smoothingGroupsBecomeNormals() throws IOException {
    Mesh flat = read("off.obj", BOX + "s off\n" + faces(""));
    assertFlat(flat);
    // The four sides together, lid and bottom by themselves.
    String[] f = faces("").split("\n");
    Mesh m = read("s.obj", BOX + "s 2\n" + f[0] + "\ns 1\n" + f[1] + "\ns 3\n" + rest(f, 2));
    for (int c = 0; c < 12; c++) {
      assertThat(normal(m, c)).containsExactly(0, 0, c < 6 ? -1 : 1);
    }
    for (int c = 12; c < 36; c++) {
      float[] n = normal(m, c);
      // Half-way between the two sides, however large they are and wherever they are cut.
      assertThat(Math.abs(n[1])).isEqualTo((float) Math.sqrt(0.5), within(1e-5f));
      assertThat(Math.abs(n[0])).isEqualTo(Math.abs(n[1]), within(1e-5f));
      assertThat(n[2]).isZero();
    }
    assertThat(read("none.obj", BOX + faces("")).attributes().named(Attribute.NORMAL)).isNull();
  }

  private static String rest(String[] f, int from) {
    return String.join("\n", Arrays.copyOfRange(f, from, f.length)) + "\n";
  }

  @Test
  void whatIsWrongWithNormalsIsSaidOrPassedOver() throws IOException {
    assertThatThrownBy(() -> read("a.obj", BOX + "vn 0 0 1\n" + faces("//", 1, 1, 2, 1, 1, 1)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("normal 2");
    // One corner without, one that is no direction: as if there were none.
    String some = faces("//", 1, 1, 1, 1, 1, 1).replaceFirst("//1", "");
    assertThat(read("b.obj", BOX + "vn 0 0 1\n" + some).attributes().named(Attribute.NORMAL))
        .isNull();
    for (String bad : List.of("vn 0 0 0\n", "vn nan 0 1\n", "vn 1\n")) {
      Mesh m = read("c.obj", BOX + bad + faces("//", 1, 1, 1, 1, 1, 1));
      assertThat(m.attributes().named(Attribute.NORMAL)).isNull();
      assertThat(m.triangleCount()).isEqualTo(12);
    }
  }

  /**
   * Star-shaped outlines, convex or not: all of the area, facing one way, and the outline again.
   */
  @ParameterizedTest
  @ValueSource(strings = {"obj", "ply", "off"})
  void anyOutlineIsCutAndPutTogetherAgain(String ending) throws IOException {
    Random random = new Random(ending.hashCode());
    for (int round = 0; round < 40; round++) {
      int n = 3 + random.nextInt(12);
      double[] x = new double[n];
      double[] y = new double[n];
      double area = 0;
      for (int i = 0; i < n; i++) {
        double r = 0.3 + random.nextDouble();
        double angle = 2 * Math.PI * (i + 0.8 * random.nextDouble()) / n;
        x[i] = (float) (r * Math.cos(angle));
        y[i] = (float) (r * Math.sin(angle));
      }
      for (int i = 0; i < n; i++) {
        area += (x[i] * y[(i + 1) % n] - x[(i + 1) % n] * y[i]) / 2;
      }
      if (n == 3 && area < 0.05) {
        continue;
      }
      Mesh m = read("p." + ending, text(ending, x, y));
      assertThat(m.triangleCount()).isEqualTo(n - 2);
      double[] cross = new double[3];
      double sum = 0;
      for (int t = 0; t < n - 2; t++) {
        Measures.cross(m.xyz(), m.triangles(), t, cross);
        assertThat(cross[2]).isGreaterThan(-1e-6);
        sum += cross[2] / 2;
      }
      assertThat(sum).isCloseTo(area, within(1e-5));
      assertThat(MeshWriter.polygons(m)).isEqualTo(n > 3 ? 1 : 0);
      for (String kind : List.of("obj", "ply")) {
        Path out = write("q." + kind, m);
        Mesh again = MeshReader.modelled(out, Work.unwatched()).mesh();
        assertThat(again.triangleCount()).isEqualTo(n - 2);
        assertThat(MeshWriter.polygons(again)).isEqualTo(n > 3 ? 1 : 0);
        assertThat(PolygonFile.read(out).corners(0)).hasSize(n).containsOnlyOnce(0, 1, 2);
      }
    }
  }

  private static String text(String ending, double[] x, double[] y) {
    int n = x.length;
    StringBuilder s =
        new StringBuilder(
            switch (ending) {
              case "off" -> "OFF\n" + n + " 1 0\n";
              case "ply" ->
                  "ply\nformat ascii 1.0\nelement vertex "
                      + n
                      + "\nproperty float x\nproperty float y\nproperty float z\n"
                      + "element face 1\nproperty list uchar int vertex_indices\nend_header\n";
              default -> "";
            });
    boolean isObj = ending.equals("obj");
    for (int i = 0; i < n; i++) {
      s.append(isObj ? "v " : "").append(x[i]).append(' ').append(y[i]).append(" 0\n");
    }
    s.append(isObj ? "f" : n);
    for (int i = 0; i < n; i++) {
      s.append(' ').append(isObj ? i - n : i);
    }
    return s.append('\n').toString();
  }

  /** Larger than one stretch of the file: faces, normals and groups go over the border. */
  @Test
  void stretchesOfALargeFileAreJoined() throws IOException {
    int n = 480;
    StringBuilder s = new StringBuilder("vn 0 0 1\ns 1\n");
    for (int y = 0; y < n; y++) {
      for (int x = 0; x < n; x++) {
        s.append("v ").append(x).append(".000000 ").append(y).append(".000000 0.0000000\n");
      }
    }
    for (int y = 1; y < n; y++) {
      for (int x = 1; x < n; x++) {
        int v = y * n + x + 1;
        s.append("f ").append(v - n - 1).append("//1 ").append(v - n).append("//-1 ");
        s.append(v).append("//1 ").append(v - 1).append("//1\n");
      }
    }
    assertThat(s.length()).isGreaterThan(9 << 20);
    Mesh m = read("large.obj", s.toString());
    assertThat(m.triangleCount()).isEqualTo(2 * (n - 1) * (n - 1));
    assertThat(MeshWriter.polygons(m)).isEqualTo((n - 1) * (n - 1));
    assertThat(m.attributes().named(Attribute.NORMAL).count()).isEqualTo(1);
    Mesh groups =
        read("groups.obj", s.toString().replaceAll("//-?1", "").replace("vn 0 0 1\n", ""));
    assertThat(groups.attributes().named(Attribute.NORMAL).count()).isEqualTo(n * n);
  }

  /** A triangle taken away, a seam through a face: what is left of it is written as triangles. */
  @Test
  void facesThatAreNoLongerWholeGoAsTriangles() throws IOException {
    Mesh m = read("box.obj", BOX + faces(""));
    Mesh less = Submesh.of(m, t -> t != 3, Work.unwatched());
    Path out = write("less.obj", less);
    assertThat(lines(out, "f ").stream().map(f -> f.split(" ").length - 1))
        .containsExactly(4, 3, 4, 4, 4, 4);
    int[] of = new int[36];
    Arrays.fill(of, 12, 15, 1);
    Mesh seam = m.with(Attribute.of("uv", Kind.UV, Domain.CORNER, new float[] {0, 0, 1, 1}, of));
    assertThat(MeshWriter.polygons(seam)).isEqualTo(5);
    short[] material = new short[12];
    material[7] = 1;
    assertThat(MeshWriter.polygons(m.withMaterials(material, List.of()))).isEqualTo(5);
    // Parts of two faces with one number between them are no face.
    int[] one = new int[12];
    assertThat(
            MeshWriter.polygons(
                m.with(Attribute.of(Attribute.FACE, Kind.LABEL, Domain.TRIANGLE, one, null))))
        .isZero();
  }

  @Test
  void aFaceOfMoreCornersThanAByteCounts() throws IOException {
    int n = 300;
    double[] x = new double[n];
    double[] y = new double[n];
    for (int i = 0; i < n; i++) {
      x[i] = Math.cos(2 * Math.PI * i / n);
      y[i] = Math.sin(2 * Math.PI * i / n);
    }
    Mesh m = read("disc.obj", text("obj", x, y));
    Mesh back = MeshReader.modelled(write("disc.ply", m), Work.unwatched()).mesh();
    assertThat(MeshWriter.polygons(back)).isEqualTo(1);
    assertThat(back.triangleCount()).isEqualTo(n - 2);
  }
}
