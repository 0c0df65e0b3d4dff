package holotome.core.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowable;

import holotome.core.Datasets;
import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Any file may be hostile: refused with one plain line, or read as a sound mesh. */
class BadInputTest {
  @TempDir Path dir;

  /** Reads; a failure must be of kind BAD_INPUT, one line, and name the file. */
  private static boolean readsOrRefuses(Path p) {
    Throwable t =
        catchThrowable(() -> Naive.assertSound(MeshReader.read(p, Work.unwatched()).mesh()));
    if (t == null) {
      return true;
    }
    assertThat(t).isInstanceOf(Failure.class);
    assertThat(((Failure) t).kind()).isEqualTo(Failure.Kind.BAD_INPUT);
    assertThat(t.getMessage()).contains(p.getFileName().toString()).doesNotContain("\n");
    return false;
  }

  private Path sample(String ending) {
    Path p = dir.resolve("s." + ending);
    if (ending.equals("off")) {
      StringBuilder s = new StringBuilder("OFF\n8 12 0\n");
      Mesh m = Shapes.cube(2);
      for (int v = 0; v < 8; v++) {
        s.append(m.xyz()[3 * v])
            .append(' ')
            .append(m.xyz()[3 * v + 1])
            .append(' ')
            .append(m.xyz()[3 * v + 2])
            .append('\n');
      }
      for (int t = 0; t < 12; t++) {
        s.append("3 ")
            .append(m.triangles()[3 * t])
            .append(' ')
            .append(m.triangles()[3 * t + 1])
            .append(' ')
            .append(m.triangles()[3 * t + 2])
            .append('\n');
      }
      SafeFiles.write(p, o -> o.write(s.toString().getBytes(StandardCharsets.US_ASCII)));
    } else {
      MeshWriter.write(
          p, Shapes.coloured(Shapes.sphere(1, 2)), Similarity.IDENTITY, Work.unwatched());
    }
    return p;
  }

  @ParameterizedTest
  @ValueSource(strings = {"ply", "stl", "off"})
  void truncatedAnywhereIsRefused(String ending) throws IOException {
    byte[] whole = Files.readAllBytes(sample(ending));
    for (int i = 0; i < 60; i++) {
      int length = (int) ((long) whole.length * i / 61);
      Path p = dir.resolve("cut" + i + "." + ending);
      Files.write(p, java.util.Arrays.copyOf(whole, length));
      assertThat(readsOrRefuses(p))
          .as("%s cut to %d of %d", ending, length, whole.length)
          .isFalse();
    }
  }

  @ParameterizedTest
  @ValueSource(strings = {"ply", "stl", "off", "obj"})
  void flippedBytesNeverDoHarm(String ending) throws IOException {
    byte[] whole = Files.readAllBytes(sample(ending));
    Random r = new Random(17);
    int refused = 0;
    for (int i = 0; i < Datasets.times(400, 10_000); i++) {
      byte[] b = whole.clone();
      for (int k = 0; k <= i % 4; k++) {
        b[r.nextInt(i % 2 == 0 ? Math.min(b.length, 200) : b.length)] = (byte) r.nextInt();
      }
      Path p = dir.resolve("f." + ending);
      Files.write(p, b);
      refused += readsOrRefuses(p) ? 0 : 1;
    }
    assertThat(refused).isPositive();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "ply\nformat ascii 1.0\nelement vertex 2000000000\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n",
        "ply\nformat ascii 1.0\nelement vertex -3\nend_header\n",
        "ply\nformat binary_little_endian 1.0\nelement vertex 600000000\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n",
        "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 nan\n0 1 0\n3 0 1 2\n",
        "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nproperty float z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 0\n0 1 0\n3 0 1 3\n",
        "ply\nformat ascii 1.0\nelement vertex 0\nproperty float x\nproperty float y\nproperty float z\nelement face 0\nproperty list uchar int vertex_indices\nend_header\n",
        "ply\nformat ascii 1.0\nelement vertex 3\nproperty float x\nproperty float y\nend_header\n",
        "not a ply\n"
      })
  void plyThatLies(String text) throws IOException {
    Path p = Files.writeString(dir.resolve("x.ply"), text);
    assertThat(readsOrRefuses(p)).isFalse();
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 4\n",
        "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 0 1 2\n",
        "v 0 0 0\nv 1 0 0\nv 0 1 0\nf -4 -2 -1\n",
        "v 0 0 0\nv 1 0 inf\nv 0 1 0\nf 1 2 3\n",
        "v 0 0\nf 1 1 1\n",
        "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2\n",
        "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1/9 2/9 3/9\n",
        "v 0 0 0\nv 1 0 0\nv 0 1 0\n",
        "v 0,5 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3\n"
      })
  void objThatLies(String text) throws IOException {
    Path p = Files.writeString(dir.resolve("x.obj"), text);
    assertThat(readsOrRefuses(p)).isFalse();
  }

  @Test
  void theLineOfAFaultIsNamed() throws IOException {
    Path p =
        Files.writeString(dir.resolve("l.obj"), "v 0 0 0\nv 1 0 0\n\n# x\nv 0 one 0\nf 1 2 3\n");
    assertThatThrownBy(() -> MeshReader.read(p, Work.unwatched())).hasMessageContaining("line 5");
  }

  @Test
  void whatIsNoFileIsSaidPlainly() throws IOException {
    assertThatThrownBy(() -> MeshReader.read(dir, Work.unwatched()))
        .hasMessageContaining("is a directory");
    assertThatThrownBy(() -> MeshReader.read(dir.resolve("no.ply"), Work.unwatched()))
        .hasMessageContaining("no such file");
    Path empty = Files.createFile(dir.resolve("e.ply"));
    assertThatThrownBy(() -> MeshReader.read(empty, Work.unwatched()))
        .hasMessageContaining("is empty");
    Path other = Files.writeString(dir.resolve("x.doc"), "x");
    assertThatThrownBy(() -> MeshReader.read(other, Work.unwatched()))
        .hasMessageContaining("not a mesh format");
  }

  /** A remark may follow a number at once, as in mesh_with_colors.off of libcgal-demo. */
  @Test
  void remarksOfOffFilesNeedNoBlank() throws IOException {
    Path p =
        Files.writeString(
            dir.resolve("r.off"),
            "COFF#kind\n3 1 0#counts\n0 0 0 0.9 0 0#red\n1 0 0 0 0.9 0#green\n0 1 0#x\n3 0 1 2#face\n");
    assertThat(catchThrowable(() -> MeshReader.read(p, Work.unwatched())))
        .hasMessageContaining("colour of vertex 2");
    Files.writeString(
        p, Files.readString(p).replace("0 1 0#x", "0 1 0 0 0 0.9#blue"), StandardCharsets.UTF_8);
    Mesh m = MeshReader.read(p, Work.unwatched()).mesh();
    assertThat(m.triangleCount()).isEqualTo(1);
    assertThat(m.colours()[0]).isEqualTo(0xffe60000);
  }

  @Test
  void oneTriangleIsAMesh() throws IOException {
    Path p = Files.writeString(dir.resolve("1.obj"), "v 0 0 0\nv 1 0 0\nv 0 1 0\nf 1 2 3");
    assertThat(MeshReader.read(p, Work.unwatched()).mesh().triangleCount()).isEqualTo(1);
  }

  @Test
  void picturesOutsideTheDirectoryAreNotFollowed() throws IOException {
    Files.writeString(dir.resolve("m.mtl"), "newmtl a\nmap_Kd ../../../../etc/hostname\n");
    Path p =
        Files.writeString(
            dir.resolve("m.obj"),
            "mtllib m.mtl\nv 0 0 0\nv 1 0 0\nv 0 1 0\nvt 0 0\nusemtl a\nf 1/1 2/1 3/1\n");
    Loaded l = MeshReader.read(p, Work.unwatched());
    assertThat(l.mesh().hasTexture()).isFalse();
    assertThat(l.notes()).anyMatch(n -> n.contains("not beside"));
  }

  @Test
  void aFullDiskLeavesNothingBehind() throws IOException {
    Path target = Files.writeString(dir.resolve("keep.ply"), "old");
    assertThatThrownBy(
            () ->
                SafeFiles.write(
                    target,
                    out -> {
                      out.write(new byte[1000]);
                      throw new IOException("No space left on device");
                    }))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("the disk is full");
    assertThat(Files.readString(target)).isEqualTo("old");
    try (var files = Files.list(dir)) {
      assertThat(files).containsExactly(target);
    }
  }

  @Test
  void aRealFullDeviceIsSaidPlainly() throws IOException {
    org.junit.jupiter.api.Assumptions.assumeTrue(Files.exists(Path.of("/dev/full")));
    Throwable t =
        catchThrowable(
            () -> {
              try (OutputStream full = Files.newOutputStream(Path.of("/dev/full"))) {
                SafeFiles.write(dir.resolve("x"), out -> full.write(new byte[1 << 20]));
              }
            });
    assertThat(t).isInstanceOf(Failure.class).hasMessageContaining("disk is full");
    assertThat(Files.exists(dir.resolve("x"))).isFalse();
  }

  @Test
  void aSetOfFilesAppearsWholeOrNotAtAll() {
    try (SafeFiles files = new SafeFiles()) {
      files.add(dir.resolve("one"), out -> out.write(1));
      assertThatThrownBy(() -> files.add(dir, out -> out.write(2))).isInstanceOf(Failure.class);
    }
    assertThat(dir.resolve("one")).doesNotExist();
  }

  /** Finite as a double, yet more than a float holds: refused with its place, never infinite. */
  @ParameterizedTest
  @ValueSource(
      strings = {
        "s.obj|v 0 0 0\nv 1e39 0 0\nv 0 1 0\nf 1 2 3\n|line 2",
        "s.off|OFF\n3 1 0\n0 0 0\n0 -1e39 0\n0 1 0\n3 0 1 2\n|line 4",
        "s.ply|ply\nformat ascii 1.0\nelement vertex 3\nproperty double x\nproperty double y\nproperty double z\nelement face 1\nproperty list uchar int vertex_indices\nend_header\n0 0 0\n1 0 1e300\n0 1 0\n3 0 1 2\n|line 11",
        "s.stl|solid a\nfacet normal 0 0 1\nouter loop\nvertex 0 0 0\nvertex 1e39 0 0\nvertex 0 1 0\nendloop\nendfacet\nendsolid a\n|line 5"
      })
  void coordinatesBeyondAFloatAreRefused(String given) throws IOException {
    String[] parts = given.split("\\|");
    Path p = dir.resolve(parts[0]);
    Files.writeString(p, parts[1]);
    assertThat(catchThrowable(() -> MeshReader.read(p, Work.unwatched())))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.BAD_INPUT))
        .hasMessageContaining("larger than a mesh can hold")
        .hasMessageContaining(parts[2]);
  }
}
