package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.io.GlbWriter;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unwrap.KeepCharts.How;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.util.HashSet;
import java.util.Set;
import org.junit.jupiter.api.Test;

/** Charts kept as a second set, taken back, and written. */
class KeepChartsTest {

  private static Workpiece work(Workpiece in, Step... steps) {
    Workpiece w = in;
    for (Step s : steps) {
      w = s.apply(w, Run.unwatched()).work();
    }
    return w;
  }

  private static Workpiece charted() {
    Mesh m = Shapes.gridCube(3);
    return work(Workpiece.of(m, Frame.PLAIN).withCast(m), new MakeCharts(512, 4, 1.05, 0, 60));
  }

  private static final Step OTHER =
      new ProjectCharts(ProjectCharts.How.TUBE, null, new double[] {0, 0, 1}, null);

  private static void assertSame(Uv a, Uv b) {
    assertThat(a.coords()).isEqualTo(b.coords());
    assertThat(a.corners()).isEqualTo(b.corners());
  }

  @Test
  void keptWhileOthersAreCutAndTakenBack() {
    Workpiece first = charted();
    Workpiece both = work(first, new KeepCharts(How.SECOND), OTHER);
    assertThat(both.cast().uv().coords()).isNotEqualTo(first.cast().uv().coords());
    Workpiece swapped = work(both, new KeepCharts(How.SWAP));
    assertSame(swapped.cast().uv(), first.cast().uv());
    assertSame(work(swapped, new KeepCharts(How.SWAP)).cast().uv(), both.cast().uv());
    Workpiece back = work(both, new KeepCharts(How.RETURN));
    assertSame(back.cast().uv(), first.cast().uv());
    assertThat(back.cast().attributes().named(Attribute.UV_SECOND)).isNull();
    Workpiece dropped = work(both, new KeepCharts(How.DROP));
    assertSame(dropped.cast().uv(), both.cast().uv());
    assertThatThrownBy(() -> work(dropped, new KeepCharts(How.RETURN)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no second set");
  }

  /** Both sets stand in the file, each corner with its two places (glTF 2.0, 3.7.2.1). */
  @Test
  void writtenBesideTheFirst() throws IOException {
    Mesh m = work(charted(), new KeepCharts(How.SECOND), OTHER).cast();
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    GlbWriter.write(bytes, m, null, Similarity.IDENTITY, "cube", Work.unwatched());
    ByteBuffer file = ByteBuffer.wrap(bytes.toByteArray()).order(ByteOrder.LITTLE_ENDIAN);
    int length = file.getInt(12);
    JsonNode json = new ObjectMapper().readTree(bytes.toByteArray(), 20, length);
    JsonNode primitive = json.at("/meshes/0/primitives/0");
    Set<String> wanted = new HashSet<>();
    Uv second =
        new Uv(
            m.attributes().named(Attribute.UV_SECOND).floats(),
            m.attributes().named(Attribute.UV_SECOND).index());
    for (int c = 0; c < m.triangles().length; c++) {
      wanted.add(place(m.uv(), c) + " " + place(second, c));
    }
    Set<String> written = new HashSet<>();
    float[] a = floats(file, json, primitive.at("/attributes/TEXCOORD_0").asInt(), 28 + length);
    float[] b = floats(file, json, primitive.at("/attributes/TEXCOORD_1").asInt(), 28 + length);
    assertThat(b).hasSameSizeAs(a);
    for (int i = 0; i < a.length; i += 2) {
      written.add(a[i] + " " + a[i + 1] + " " + b[i] + " " + b[i + 1]);
    }
    assertThat(written).isEqualTo(wanted);
  }

  private static String place(Uv uv, int c) {
    int at = 2 * uv.corners()[c];
    return uv.coords()[at] + " " + (1 - uv.coords()[at + 1]);
  }

  private static float[] floats(ByteBuffer file, JsonNode json, int accessor, int body) {
    JsonNode a = json.at("/accessors/" + accessor);
    int at = body + json.at("/bufferViews/" + a.get("bufferView").asInt() + "/byteOffset").asInt();
    float[] out = new float[2 * a.get("count").asInt()];
    for (int i = 0; i < out.length; i++) {
      out[i] = file.getFloat(at + 4 * i);
    }
    return out;
  }
}
