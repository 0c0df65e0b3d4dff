package holotome.core.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.geometry.Similarity;
import holotome.core.image.Colours;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class ReadWriteTest {
  @TempDir Path dir;

  private Path file(String name, String text) throws IOException {
    return Files.writeString(dir.resolve(name), text, StandardCharsets.ISO_8859_1);
  }

  private static Loaded read(Path p) {
    Loaded l = MeshReader.read(p, Work.unwatched());
    Naive.assertSound(l.mesh());
    return l;
  }

  @Test
  void plyWrittenIsReadBackBitForBit() {
    Mesh m = Shapes.coloured(Shapes.torus(3, 1, 50, 30));
    Path p = dir.resolve("a.ply");
    MeshWriter.write(p, m, Similarity.IDENTITY, Work.unwatched());
    assertThat(read(p).mesh().sameAs(m)).isTrue();
  }

  @Test
  void objWrittenIsReadBackBitForBit() {
    Mesh m = Shapes.sphere(3, 4);
    Path p = dir.resolve("a.obj");
    MeshWriter.write(p, m, Similarity.IDENTITY, Work.unwatched());
    assertThat(read(p).mesh().sameAs(m)).isTrue();
  }

  @Test
  void objKeepsVertexColours() {
    Mesh m = Shapes.coloured(Shapes.sphere(3, 2));
    Path p = dir.resolve("c.obj");
    MeshWriter.write(p, m, Similarity.IDENTITY, Work.unwatched());
    assertThat(read(p).mesh().colours()).isEqualTo(m.colours());
  }

  @Test
  void stlIsWeldedAgain() {
    Mesh m = Shapes.sphere(3, 3);
    Path p = dir.resolve("a.stl");
    MeshWriter.write(p, m, Similarity.IDENTITY, Work.unwatched());
    Mesh back = read(p).mesh();
    assertThat(back.vertexCount()).isEqualTo(m.vertexCount());
    assertThat(Naive.closedAndOriented(back)).isTrue();
  }

  @Test
  void texturedObjComesBackWithItsPicture() {
    Mesh sheet = Shapes.sheet(1, 2);
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int v = 0; v < sheet.vertexCount(); v++) {
      uv[2 * v] = sheet.xyz()[3 * v];
      uv[2 * v + 1] = sheet.xyz()[3 * v + 1];
    }
    int[] pixels = new int[64 * 32];
    for (int i = 0; i < pixels.length; i++) {
      pixels[i] = Colours.argb(i % 64 * 4, i / 64 * 8, 77);
    }
    Raster picture = new Raster(64, 32, pixels);
    Mesh m =
        new Mesh(
            sheet.xyz(),
            sheet.triangles(),
            null,
            new Uv(uv, sheet.triangles()),
            null,
            List.of(new Material("stone", 0xffffffff, picture)));
    Path p = dir.resolve("t.obj");
    MeshWriter.write(p, m, Similarity.IDENTITY, Work.unwatched());
    Mesh back = read(p).mesh();
    assertThat(back.hasTexture()).isTrue();
    assertThat(back.materials().getFirst().image().pixels()).isEqualTo(pixels);
    assertThat(back.uv().coords()).startsWith(uv);
    // v = 0 is the bottom of the picture: its last row.
    assertThat(picture.sample(0, 0) >> 8 & 255).isEqualTo(31 * 8);
  }

  @Test
  void plyTextWithPolygonsAndOtherProperties() throws IOException {
    Path p =
        file(
            "p.ply",
            "ply\nformat ascii 1.0\ncomment made by hand\nelement vertex 5\nproperty double x\nproperty"
                + " float y\nproperty int z\nproperty float quality\nproperty uchar red\nproperty uchar"
                + " green\nproperty uchar blue\nelement face 2\nproperty uchar flags\nproperty list uchar"
                + " uint vertex_index\nend_header\n0 0 0 9 255 0 0\n1 0 0 9 0 255 0\n1 1 0 9 0 0 255\n0 1"
                + " 0 9 1 2 3\n.5 2e0 0 9 4 5 6\n0 5 0 1 2 4 3\n7 3 0 1 2");
    Mesh m = read(p).mesh();
    assertThat(m.triangles()).containsExactly(0, 1, 2, 0, 2, 4, 0, 4, 3, 0, 1, 2);
    assertThat(m.xyz()).endsWith(0.5f, 2, 0);
    assertThat(m.colours()[1]).isEqualTo(0xff00ff00);
  }

  @Test
  void plyBothBinaryOrdersGiveTheSame() throws IOException {
    Mesh[] both = new Mesh[2];
    for (int k = 0; k < 2; k++) {
      boolean big = k == 0;
      ByteBuffer b =
          ByteBuffer.allocate(4096).order(big ? ByteOrder.BIG_ENDIAN : ByteOrder.LITTLE_ENDIAN);
      b.put(
          ("ply\nformat binary_"
                  + (big ? "big" : "little")
                  + "_endian 1.0\nelement vertex 4\nproperty double x\nproperty float y\nproperty short z\nelement extra 1\nproperty list uchar short n\nelement face 2\nproperty list int ushort vertex_indices\nproperty float w\nend_header\n")
              .getBytes(StandardCharsets.US_ASCII));
      for (int v = 0; v < 4; v++) {
        b.putDouble(v & 1).putFloat(v >> 1).putShort((short) -v);
      }
      b.put((byte) 2).putShort((short) 5).putShort((short) 6);
      b.putInt(3).putShort((short) 0).putShort((short) 1).putShort((short) 3).putFloat(1);
      b.putInt(3).putShort((short) 0).putShort((short) 3).putShort((short) 2).putFloat(1);
      Path p = dir.resolve(big + ".ply");
      Files.write(p, java.util.Arrays.copyOf(b.array(), b.position()));
      both[k] = read(p).mesh();
    }
    assertThat(both[0].sameAs(both[1])).isTrue();
    assertThat(both[0].triangles()).containsExactly(0, 1, 3, 0, 3, 2);
    assertThat(both[0].xyz()).containsExactly(0, 0, 0, 1, 0, -1, 0, 1, -2, 1, 1, -3);
  }

  @Test
  void objCountsBackwardsAndMixesCorners() throws IOException {
    Path p =
        file(
            "n.obj",
            "# by hand\r\nv 0 0 0\r\nv 1 0 0\nv 1 1 0\nvt 0 0\nvt 1 1\nvn 0 0 1\nf -3//1 -2//1 -1//1\n"
                + "v 0 1 0 0.5 0.5 0.5\nusemtl a\nf 1/1/1 3/2/1 -1/-2\nf 1 2 3 4\n");
    Mesh m = read(p).mesh();
    assertThat(m.triangles()).containsExactly(0, 1, 2, 0, 2, 3, 0, 1, 2, 0, 2, 3);
    assertThat(m.uv().corners()[3]).isZero();
    assertThat(m.uv().corners()[4]).isEqualTo(1);
    assertThat(m.uv().corners()[5]).isZero();
    assertThat(m.colours()[3]).isEqualTo(0xff808080);
  }

  @Test
  void objOfManyStretchesEqualsTheSameReadOnOneThread() throws IOException {
    // Over two stretches of 8 MB, numbers counted backwards across the seam among them.
    StringBuilder s = new StringBuilder();
    Random r = new Random(3);
    int n = 260_000;
    for (int i = 0; i < n; i++) {
      s.append(
          String.format(
              Locale.ROOT,
              "v %.6f %.6f %.6f\n",
              r.nextDouble() * 9,
              r.nextDouble() * 9,
              r.nextDouble() * 9));
      if (i > 2) {
        s.append(i % 2 == 0 ? "f -1 -2 -3\n" : "f " + (i - 1) + " " + i + " " + (i + 1) + "\n");
      }
    }
    Path p = file("big.obj", s.toString());
    assertThat(Files.size(p)).isGreaterThan(2 << 23 >> 1);
    Mesh many = read(p).mesh();
    Parallel.limitThreads(1);
    Mesh one;
    try {
      one = read(p).mesh();
    } finally {
      Parallel.limitThreads(64);
    }
    assertThat(many.sameAs(one)).isTrue();
    assertThat(many.vertexCount()).isEqualTo(n);
    for (int i = 3; i < n; i += 2) {
      int t = 3 * (i - 3);
      assertThat(new int[] {many.triangles()[t], many.triangles()[t + 1], many.triangles()[t + 2]})
          .containsExactly(i - 2, i - 1, i);
    }
  }

  @Test
  void siteGridCoordinatesLoseNothing() throws IOException {
    // 450 million units from zero, with thousandths: a float there steps by 32 units.
    StringBuilder s = new StringBuilder();
    Random r = new Random(4);
    double[][] p = new double[300][3];
    for (double[] v : p) {
      v[0] = 450_123_456 + Math.rint(r.nextDouble() * 50_000) / 1000;
      v[1] = 5_900_000 + Math.rint(r.nextDouble() * 50_000) / 1000;
      v[2] = Math.rint(r.nextDouble() * 5000) / 1000;
      s.append(String.format(Locale.ROOT, "v %.3f %.3f %.3f\n", v[0], v[1], v[2]));
    }
    for (int i = 1; i + 2 <= 300; i++) {
      s.append("f ").append(i).append(' ').append(i + 1).append(' ').append(i + 2).append('\n');
    }
    Loaded l = read(file("site.obj", s.toString()));
    checkPlaces(l, p);
    for (String name : new String[] {"back.obj", "back.ply"}) {
      Path out = dir.resolve(name);
      MeshWriter.write(out, l.mesh(), l.frame().toFile(), Work.unwatched());
      checkPlaces(read(out), p);
    }
  }

  private static void checkPlaces(Loaded l, double[][] p) {
    for (int v = 0; v < p.length; v++) {
      double[] q =
          l.frame()
              .toFile()
              .apply(l.mesh().xyz()[3 * v], l.mesh().xyz()[3 * v + 1], l.mesh().xyz()[3 * v + 2]);
      for (int k = 0; k < 3; k++) {
        assertThat(q[k]).isCloseTo(p[v][k], within(4e-6));
      }
    }
  }

  @Test
  void offWithCommentsAndPolygons() throws IOException {
    Path p =
        file(
            "c.off",
            "OFF\n# a comment\n4 1 0\n0 0 0\n1 0 0 # here too\n1 1 0\n0 1 0\n4 0 1 2 3 0.5 0.5 0.5\n");
    assertThat(read(p).mesh().triangles()).containsExactly(0, 1, 2, 0, 2, 3);
  }

  @Test
  void stlTextIsRead() throws IOException {
    Path p =
        file(
            "t.stl",
            "solid a b\n facet normal 0 0 1\n outer loop\n vertex 0 0 0\n vertex 1 0 0\n vertex 0 1 0\n endloop\n endfacet\nendsolid a b\n");
    assertThat(read(p).mesh().triangleCount()).isEqualTo(1);
  }

  @Test
  void numbersAreParsedAsTheJdkDoes() {
    Random r = new Random(5);
    for (int i = 0; i < 20_000; i++) {
      double d = r.nextGaussian() * Math.pow(10, r.nextInt(40) - 20);
      String s =
          switch (i % 3) {
            case 0 -> Double.toString(d);
            case 1 -> String.format(Locale.ROOT, "%.7f", d);
            default -> String.format(Locale.ROOT, "%e", d);
          };
      byte[] b = s.getBytes(StandardCharsets.US_ASCII);
      assertThat(AsciiNumber.parse(b, 0, b.length)).isEqualTo(Double.parseDouble(s));
    }
    for (String bad : new String[] {"", "-", ".", "1e", "1,5", "nan", "inf", "0x1", "1.2.3", "١"}) {
      byte[] b = bad.getBytes(StandardCharsets.UTF_8);
      assertThat(AsciiNumber.parse(b, 0, b.length)).isNaN();
    }
  }
}
