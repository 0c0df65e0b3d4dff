package holotome.core.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.polygon.PolygonMesh;
import holotome.core.polygon.Triangulated;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

/** Faces keep their corners there and back, and are the same surface to the reader of scans. */
class PolygonFileTest {
  @TempDir private Path dir;

  private static final String HOUSE =
      """
      v 0 0 0
      v 0.1 0 0
      v 0.1 0.3333333333333333 0
      v 0 0.25 0
      v 0.05 0.4 0
      vt 0 0
      vt 1 0
      vt 1 0.8
      vt 0 0.8
      vt 0.5 1
      f 1/1 2/2 3/3 4/4
      f -2/4 3/3 5/5
      """;

  @ParameterizedTest
  @ValueSource(strings = {"house.obj", "house.ply"})
  void facesComeBackAsTheyWere(String name) throws Exception {
    Path first = Files.writeString(dir.resolve("first.obj"), HOUSE);
    PolygonMesh m = PolygonFile.read(first);
    assertThat(m.faceCount()).isEqualTo(2);
    assertThat(m.corners(0)).containsExactly(0, 1, 2, 3);
    assertThat(m.corners(1)).containsExactly(3, 2, 4);
    assertThat(m.value("uv", m.halfEdges(1)[2])).containsExactly(0.5, 1);
    Path out = dir.resolve(name);
    PolygonFile.write(out, m);
    PolygonMesh back = PolygonFile.read(out);
    assertThat(back.corners(0)).isEqualTo(m.corners(0));
    assertThat(back.corners(1)).isEqualTo(m.corners(1));
    for (int v = 0; v < 5; v++) {
      assertThat(back.position(v)).isEqualTo(m.position(v));
    }
    if (name.endsWith("obj")) {
      assertThat(back.value("uv", back.halfEdges(1)[2])).containsExactly(0.5, 1);
    }
    var scan = MeshReader.read(out, Work.unwatched()).mesh();
    assertThat(scan.triangleCount()).isEqualTo(Triangulated.of(back).mesh().triangleCount());
  }

  /** The house in binary, with more on its points and faces than is wanted. */
  private static byte[] binary(ByteOrder order) {
    boolean little = order == ByteOrder.LITTLE_ENDIAN;
    String header =
        """
        ply
        format binary_%s_endian 1.0
        element vertex 5
        property uchar quality
        property double x
        property float y
        property short z
        element face 2
        property list uchar float texcoord
        property list ushort uint vertex_indices
        property int flags
        end_header
        """
            .formatted(little ? "little" : "big");
    double[][] points = {{0, 0, 0}, {1, 0, 0}, {1, 0.75, 3}, {0, 0.75, -3}, {0.5, 1, 7}};
    int[][] faces = {{0, 1, 2, 3}, {3, 2, 4}};
    ByteBuffer b = ByteBuffer.allocate(1000).order(order);
    for (double[] q : points) {
      b.put((byte) 200).putDouble(q[0]).putFloat((float) q[1]).putShort((short) q[2]);
    }
    for (int[] f : faces) {
      b.put((byte) 2).putFloat(0.5f).putFloat(0.25f);
      b.putShort((short) f.length);
      for (int v : f) {
        b.putInt(v);
      }
      b.putInt(-1);
    }
    byte[] head = header.getBytes(StandardCharsets.US_ASCII);
    byte[] out = Arrays.copyOf(head, head.length + b.position());
    System.arraycopy(b.array(), 0, out, head.length, b.position());
    return out;
  }

  @Test
  void binaryPlyOfEitherOrderKeepsItsFaces() throws Exception {
    for (ByteOrder order : List.of(ByteOrder.LITTLE_ENDIAN, ByteOrder.BIG_ENDIAN)) {
      PolygonMesh m = PolygonFile.read(Files.write(dir.resolve("b.ply"), binary(order)));
      assertThat(m.corners(0)).containsExactly(0, 1, 2, 3);
      assertThat(m.corners(1)).containsExactly(3, 2, 4);
      assertThat(m.position(3)).containsExactly(0, 0.75, -3);
      assertThat(m.position(4)).containsExactly(0.5, 1, 7);
    }
  }

  @Test
  void cutShortAnywhereBinaryPlyIsRefusedInOneLine() throws Exception {
    byte[] whole = binary(ByteOrder.LITTLE_ENDIAN);
    for (int n = 0; n < whole.length; n += 3) {
      Path file = Files.write(dir.resolve("short.ply"), Arrays.copyOf(whole, n));
      assertThatThrownBy(() -> PolygonFile.read(file))
          .as("%d bytes", n)
          .isInstanceOf(Failure.class)
          .hasMessageContaining("short.ply")
          .hasMessageNotContaining("\n");
    }
  }

  @Test
  void whatWasRemovedIsNotWritten() throws Exception {
    PolygonMesh m = PolygonFile.read(Files.writeString(dir.resolve("a.obj"), HOUSE));
    m.splitEdge(m.between(0, 1), 0.5);
    m.joinFaces(m.between(2, 3));
    Path out = dir.resolve("b.ply");
    PolygonFile.write(out, m);
    PolygonMesh back = PolygonFile.read(out);
    assertThat(back.faceCount()).isEqualTo(1);
    assertThat(back.vertexCount()).isEqualTo(6);
    assertThat(back.corners(0)).hasSize(6);
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "v 0 0 0 # v 1 0 0 # v 0 1e39 0 # f 1 2 3 | line 3: expected 3 finite numbers",
        "v 0 0 0 # v 1 0 0 # v 0 1 0 # f 1 2 9 | line 4: \"9\" names nothing",
        "v 0 0 0 # v 1 0 0 | holds no face",
        "v 0 0 0 # v 1 0 0 # v 0 1 0 # v 1 1 0 # f 1 2 3 # f 1 2 4 | from point 0 to 1"
      })
  void whatIsWrongIsSaidWithItsPlace(String text, String said) throws Exception {
    Path p = Files.writeString(dir.resolve("bad.obj"), text.replace(" # ", "\n"));
    assertThatThrownBy(() -> PolygonFile.read(p))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("bad.obj")
        .hasMessageContaining(said);
  }
}
