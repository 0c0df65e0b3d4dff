package holotome.core.scans;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.bake.BakeMaps;
import holotome.core.image.Colours;
import holotome.core.image.Raster;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.io.Pictures;
import holotome.core.map.MapKind;
import holotome.core.mend.Tidy;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.trim.KeepIslands;
import holotome.core.unwrap.MakeCharts;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Scans whose colour comes in pictures, as capture programs write them: several materials. */
class TexturedScanTest {
  @TempDir private Path dir;

  /** A picture that is red going right and green going up, with a blue of its own. */
  private void picture(String name, int blue) throws IOException {
    int[] px = new int[128 * 128];
    for (int i = 0; i < px.length; i++) {
      px[i] = Colours.argb(2 * (i % 128), 255 - 2 * (i / 128), blue);
    }
    try (var out = Files.newOutputStream(dir.resolve(name))) {
      Pictures.writePng(new Raster(128, 128, px), out);
    }
  }

  /** A ball whose texture coordinates are its x and y, the upper half of one material. */
  private Path ball() throws IOException {
    Mesh m = Shapes.sphere(1, 5);
    StringBuilder s = new StringBuilder("mtllib ball.mtl\n");
    for (int v = 0; v < m.vertexCount(); v++) {
      float x = m.xyz()[3 * v];
      float y = m.xyz()[3 * v + 1];
      s.append("v ").append(x).append(' ').append(y).append(' ').append(m.xyz()[3 * v + 2]);
      s.append("\nvt ").append((x + 1) / 2).append(' ').append((y + 1) / 2).append('\n');
    }
    for (int half = 0; half < 2; half++) {
      s.append(half == 0 ? "usemtl upper\n" : "usemtl lower half\n");
      for (int t = 0; t < m.triangleCount(); t++) {
        float z = m.xyz()[3 * m.triangles()[3 * t] + 2];
        if (z >= 0 == (half == 0)) {
          s.append("f");
          for (int k = 0; k < 3; k++) {
            int v = m.triangles()[3 * t + k] + 1;
            s.append(' ').append(v).append('/').append(v);
          }
          s.append('\n');
        }
      }
    }
    Files.writeString(
        dir.resolve("ball.mtl"),
        "# two materials\nnewmtl upper\nKd 1 1 1\nmap_Kd upper.png\n"
            + "newmtl lower half\nKd 1 1 1\nmap_Kd -s 1 1 1 lower half.png\n");
    picture("upper.png", 10);
    picture("lower half.png", 200);
    return Files.writeString(dir.resolve("ball.obj"), s);
  }

  private static int colourAt(Mesh m, int t) {
    return VertexColours.at(m, t, 1 / 3f, 1 / 3f);
  }

  @Test
  void severalMaterialsKeepTheirPictures() throws IOException {
    Mesh m = MeshReader.read(ball(), Work.unwatched()).mesh();
    Naive.assertSound(m);
    assertThat(m.materials()).hasSize(2);
    assertThat(m.hasTexture()).isTrue();
    for (int t = 0; t < m.triangleCount(); t += 11) {
      double x = 0;
      double z = m.xyz()[3 * m.triangles()[3 * t] + 2];
      for (int k = 0; k < 3; k++) {
        x += m.xyz()[3 * m.triangles()[3 * t + k]] / 3.0;
      }
      int c = colourAt(m, t);
      assertThat(c & 255).isEqualTo(z >= 0 ? 10 : 200);
      assertThat((double) (c >> 16 & 255)).isCloseTo(127.5 * (x + 1), within(3.0));
    }
  }

  @Test
  void steppingThroughTrimAndMendKeepsThem() throws IOException {
    Mesh m = MeshReader.read(ball(), Work.unwatched()).mesh();
    Workpiece w = Workpiece.of(m, holotome.core.frame.Frame.PLAIN);
    w = new Tidy().apply(w, Run.unwatched()).work();
    w =
        new KeepIslands(KeepIslands.Keep.LARGEST, 1, new holotome.core.unit.Length(0))
            .apply(w, Run.unwatched())
            .work();
    assertThat(w.scan().materials()).hasSize(2);
    assertThat(w.scan().uv()).isNotNull();
    assertThat(colourAt(w.scan(), 7)).isEqualTo(colourAt(m, 7));
  }

  @Test
  void bakedFromAllOfThemTheColoursAreTheirs() throws IOException {
    Loaded l = MeshReader.read(ball(), Work.unwatched());
    Workpiece w = Workpiece.of(l.mesh(), l.frame());
    w = new Decimate(1500, null, null, Role.CAST).apply(w, Run.unwatched()).work();
    w = new MakeCharts(512, 4, 1.1, 0, 180).apply(w, Run.unwatched()).work();
    w = new BakeMaps(List.of(MapKind.COLOUR), 512, 4, 8).apply(w, Run.unwatched()).work();
    Maps maps = w.maps();
    assertThat(maps.missedShare()).isLessThan(0.001);
    Mesh cast = w.cast();
    Raster colour = maps.pictures().get(MapKind.COLOUR).raster();
    for (int t = 0; t < cast.triangleCount(); t += 5) {
      double x = 0;
      double y = 0;
      double z = 0;
      float u = 0;
      float v = 0;
      for (int k = 0; k < 3; k++) {
        int p = 3 * cast.triangles()[3 * t + k];
        int q = 2 * cast.uv().corners()[3 * t + k];
        x += cast.xyz()[p] / 3.0;
        y += cast.xyz()[p + 1] / 3.0;
        z += cast.xyz()[p + 2] / 3.0;
        u += cast.uv().coords()[q] / 3;
        v += cast.uv().coords()[q + 1] / 3;
      }
      int c = colour.sample(u, v);
      // The Cast's flat triangles lie a little inside the ball: a percent or so of the radius.
      assertThat((double) (c >> 16 & 255)).isCloseTo(127.5 * (x + 1), within(6.0));
      assertThat((double) (c >> 8 & 255)).isCloseTo(127.5 * (y + 1), within(6.0));
      if (Math.abs(z) > 0.15) {
        assertThat(c & 255).isEqualTo(z > 0 ? 10 : 200);
      }
    }
  }

  @Test
  void namesOfPicturesMayHoldBlanksUmlautsAndOptions() throws IOException {
    Path obj = ball();
    Files.move(dir.resolve("upper.png"), dir.resolve("Größe 1.png"));
    Files.writeString(
        dir.resolve("ball.mtl"),
        "newmtl upper\nmap_Kd -clamp on -o 0 0 Größe 1.png\n"
            + "newmtl lower half\nmap_Kd -mm 0 1 -blendu off lower half.png\n");
    Loaded l = MeshReader.read(obj, Work.unwatched());
    assertThat(l.notes()).isEmpty();
    assertThat(l.mesh().materials()).allSatisfy(m -> assertThat(m.image()).isNotNull());
  }

  @Test
  void aPictureThatIsMissingOrBrokenIsNamedAndTheMeshIsRead() throws IOException {
    Path obj = ball();
    Files.delete(dir.resolve("upper.png"));
    Files.writeString(dir.resolve("lower half.png"), "no picture at all");
    Loaded l = MeshReader.read(obj, Work.unwatched());
    assertThat(l.mesh().triangleCount()).isEqualTo(20480);
    assertThat(String.join("\n", l.notes())).contains("upper.png").contains("lower half.png");
    Files.delete(dir.resolve("ball.mtl"));
    Loaded plain = MeshReader.read(obj, Work.unwatched());
    assertThat(String.join("\n", plain.notes())).contains("ball.mtl");
    assertThat(plain.mesh().triangleCount()).isEqualTo(20480);
  }
}
