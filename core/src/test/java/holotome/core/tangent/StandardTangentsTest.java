package holotome.core.tangent;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.unwrap.MakeCharts;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Arrays;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Tangents beside those of the standard's own reference: npm mikktspace 1.1.1. */
class StandardTangentsTest {
  @TempDir Path dir;

  /** Per corner the tangent and its handedness, 4 floats. */
  private float[] reference(float[] positions, float[] normals, float[] uv) throws Exception {
    Datasets.file("tangents");
    Path in = dir.resolve("in");
    Path out = dir.resolve("out");
    ByteBuffer b =
        ByteBuffer.allocate(4 * (positions.length + normals.length + uv.length))
            .order(ByteOrder.LITTLE_ENDIAN);
    b.asFloatBuffer().put(positions).put(normals).put(uv);
    Files.write(in, b.array());
    Process p =
        new ProcessBuilder(
                "node", Datasets.script("tangents").toString(), in.toString(), out.toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(p.getInputStream().readAllBytes());
    assertThat(p.waitFor()).as(said).isZero();
    float[] tangents = new float[positions.length / 3 * 4];
    ByteBuffer.wrap(Files.readAllBytes(out))
        .order(ByteOrder.LITTLE_ENDIAN)
        .asFloatBuffer()
        .get(tangents);
    return tangents;
  }

  /** The share of corners whose tangents are the reference's, to a tenth of a degree. */
  private double agreement(Mesh mesh) throws Exception {
    SplitMesh s = SplitMesh.of(mesh);
    int n = mesh.triangles().length;
    float[] positions = new float[3 * n];
    float[] normals = new float[3 * n];
    float[] uv = new float[2 * n];
    for (int c = 0; c < n; c++) {
      System.arraycopy(mesh.xyz(), 3 * mesh.triangles()[c], positions, 3 * c, 3);
      System.arraycopy(s.normals(), 3 * s.corners()[c], normals, 3 * c, 3);
      System.arraycopy(mesh.uv().coords(), 2 * mesh.uv().corners()[c], uv, 2 * c, 2);
    }
    float[] wanted = reference(positions, normals, uv);
    int same = 0;
    for (int c = 0; c < n; c++) {
      int v = 4 * s.corners()[c];
      float[] t = s.tangents();
      double dot = 0;
      for (int k = 0; k < 3; k++) {
        dot += (double) t[v + k] * wanted[4 * c + k];
      }
      boolean isSame = dot > Math.cos(Math.toRadians(0.1)) && t[v + 3] == wanted[4 * c + 3];
      same += isSame ? 1 : 0;
    }
    return (double) same / n;
  }

  private static Mesh charted(Mesh m) {
    Workpiece in = Workpiece.of(m, Frame.PLAIN).withCast(m);
    return new MakeCharts(512, 4, 1.1, 0, 180).apply(in, Run.unwatched()).work().cast();
  }

  /** Every other chart, by the middle of its triangles, mirrored over the other ones. */
  private static Mesh mirrored(Mesh m) {
    float[] uv = new float[2 * m.triangles().length];
    int[] corners = new int[m.triangles().length];
    for (int c = 0; c < corners.length; c++) {
      int of = m.uv().corners()[c];
      boolean isLeft = m.xyz()[3 * m.triangles()[c - c % 3]] < 0;
      uv[2 * c] = isLeft ? 1 - m.uv().coords()[2 * of] : m.uv().coords()[2 * of];
      uv[2 * c + 1] = m.uv().coords()[2 * of + 1];
      corners[c] = c;
    }
    return m.withUv(new Uv(uv, corners));
  }

  @Test
  void agreesOnCharts() throws Exception {
    assertThat(agreement(charted(Shapes.sphere(1, 4)))).isEqualTo(1);
    assertThat(agreement(charted(Shapes.torus(1, 0.4, 60, 30)))).isEqualTo(1);
    assertThat(agreement(charted(Shapes.cube(1)))).isEqualTo(1);
  }

  @Test
  void agreesWhereHalfOfTheTextureIsMirrored() throws Exception {
    Mesh m = mirrored(charted(Shapes.torus(1, 0.4, 60, 30)));
    SplitMesh s = SplitMesh.of(m);
    int turned = 0;
    for (int v = 3; v < s.tangents().length; v += 4) {
      turned += s.tangents()[v] < 0 ? 1 : 0;
    }
    assertThat(turned).isBetween(s.position().length / 4, 3 * s.position().length / 4);
    assertThat(agreement(m)).isEqualTo(1);
  }

  @Test
  void agreesOnHardEdges() throws Exception {
    Mesh m = charted(Shapes.cube(1));
    float[] normals = new float[3 * m.triangleCount()];
    int[] index = new int[m.triangles().length];
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] n = Vec.unit(holotome.core.mesh.Measures.cross(m, t));
      for (int k = 0; k < 3; k++) {
        normals[3 * t + k] = (float) n[k];
        index[3 * t + k] = t;
      }
    }
    Mesh hard =
        m.with(
            Attribute.of(
                Attribute.NORMAL, Attribute.Kind.NORMAL, Attribute.Domain.CORNER, normals, index));
    assertThat(agreement(hard)).isEqualTo(1);
  }

  /** Any texture at all: turned every way, and some triangles without area in it. */
  @Test
  void agreesOnAnyTextureAtAll() throws Exception {
    Mesh m = Shapes.sphere(1, 4);
    Random r = new Random(5);
    float[] uv = new float[2 * m.vertexCount()];
    for (int i = 0; i < uv.length; i++) {
      // Few places: many triangles have two corners in one.
      uv[i] = r.nextInt(8) / 8f;
    }
    double agreed = agreement(m.withUv(new Uv(uv, m.triangles().clone())));
    assertThat(agreed).isGreaterThan(0.995);
  }

  @Test
  void framesAreUnitAndAtRightAnglesToTheNormal() {
    SplitMesh s = SplitMesh.of(mirrored(charted(Shapes.sphere(1, 4))));
    for (int v = 0; v < s.position().length; v++) {
      float[] t = Arrays.copyOfRange(s.tangents(), 4 * v, 4 * v + 3);
      float[] n = Arrays.copyOfRange(s.normals(), 3 * v, 3 * v + 3);
      double dot = t[0] * n[0] + t[1] * n[1] + t[2] * n[2];
      assertThat(Math.abs(dot)).isLessThan(1e-5);
      assertThat(Math.sqrt(t[0] * t[0] + t[1] * t[1] + t[2] * t[2])).isBetween(0.99999, 1.00001);
    }
  }
}
