package holotome.core.ship;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Shapes;
import holotome.core.bake.BakeMaps;
import holotome.core.frame.Frame;
import holotome.core.image.Image;
import holotome.core.io.ImageFile;
import holotome.core.io.MeshReader;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.mesh.VertexColours;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.stream.Stream;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Maps of several squares of the texture, in files by their numbers. */
class SquareFilesTest {
  private static final int SIZE = 128;

  @TempDir private Path dir;

  private static Workpiece work;

  /** A coloured ball whose Cast has charts in three squares. */
  @BeforeAll
  static void bake() {
    Workpiece w = Workpiece.of(Shapes.coloured(Shapes.sphere(1, 5)), Frame.PLAIN);
    w = new Decimate(600, null, null, Role.CAST).apply(w, Run.unwatched()).work();
    w = new MakeCharts(SIZE, 4, 1.003, 0, 180).apply(w, Run.unwatched()).work();
    w = new PackCharts(SIZE, 4, 3, PackCharts.By.ROOM, null).apply(w, Run.unwatched()).work();
    List<MapKind> kinds = List.of(MapKind.COLOUR, MapKind.NORMAL, MapKind.HEIGHT);
    work = new BakeMaps(kinds, SIZE, 4, 8).apply(w, Run.unwatched()).work();
  }

  private static WriteAsset to(WriteAsset.Destination d, WriteAsset.Squares squares) {
    return new WriteAsset(
        d,
        "ball",
        null,
        null,
        null,
        WriteAsset.What.CAST,
        1,
        false,
        WriteAsset.Measured.EXR,
        WriteAsset.Green.UP,
        null,
        squares,
        1);
  }

  private Path write(Workpiece w, WriteAsset step) {
    step.apply(w, new Run(Work.unwatched(), dir));
    return dir.resolve(step.fileName());
  }

  private List<String> names() throws IOException {
    try (Stream<Path> s = Files.list(dir)) {
      return s.map(p -> p.getFileName().toString()).sorted().toList();
    }
  }

  /** Each square's file is that part of the baked picture; the note names them all. */
  @Test
  void objHasOneForEverySquare() throws IOException {
    Path obj = write(work, to(WriteAsset.Destination.RENDER, WriteAsset.Squares.EACH));
    assertThat(names())
        .containsExactly(
            "ball.mtl",
            "ball.obj",
            "ball_colour.1001.png",
            "ball_colour.1002.png",
            "ball_colour.1003.png",
            "ball_height.1001.exr",
            "ball_height.1002.exr",
            "ball_height.1003.exr",
            "ball_maps.json",
            "ball_normal.1001.png",
            "ball_normal.1002.png",
            "ball_normal.1003.png");
    assertThat(Files.readString(dir.resolve("ball_maps.json")))
        .contains("ball_normal.1003.png")
        .contains("\"pixels\" : 128");
    for (String kind : new String[] {"colour", "normal"}) {
      Image whole =
          work.maps().pictures().get(MapKind.valueOf(kind.toUpperCase(java.util.Locale.ROOT)));
      for (int s = 0; s < 3; s++) {
        Path file = dir.resolve("ball_" + kind + ".100" + (s + 1) + ".png");
        Image.Space space = kind.equals("colour") ? Image.Space.SRGB : Image.Space.LINEAR;
        Image read = ImageFile.read(file, space, Work.unwatched());
        for (int i = 0; i < SIZE * SIZE; i++) {
          assertThat(read.argb(i % SIZE, i / SIZE))
              .isEqualTo(whole.argb(s * SIZE + i % SIZE, i / SIZE));
        }
      }
    }
    // Coordinates lie in the squares that the files are numbered by, and the colours are found.
    Mesh back = MeshReader.read(obj, Work.unwatched()).mesh();
    assertThat(back.materials()).hasSize(3);
    assertThat(back.triangleCount()).isEqualTo(work.cast().triangleCount());
    int most = 0;
    for (int t = 0; t < back.triangleCount(); t++) {
      most =
          Math.max(most, apart(VertexColours.at(back, t, 1f / 3, 1f / 3), baked(work.cast(), t)));
    }
    assertThat(most).isLessThan(2);
  }

  /** What the baked picture has at the middle of a triangle. */
  private static int baked(Mesh cast, int t) {
    float[] at = middle(cast.uv().coords(), cast.uv().corners(), t);
    return work.maps().pictures().get(MapKind.COLOUR).shown(at[0] / 3, at[1]);
  }

  private static float[] middle(float[] uv, int[] corners, int t) {
    float[] out = new float[2];
    for (int k = 0; k < 3; k++) {
      out[0] += uv[2 * corners[3 * t + k]] / 3;
      out[1] += uv[2 * corners[3 * t + k] + 1] / 3;
    }
    return out;
  }

  /** The most that a channel of two colours differs by. */
  private static int apart(int a, int b) {
    int most = 0;
    for (int shift = 0; shift < 24; shift += 8) {
      most = Math.max(most, Math.abs((a >> shift & 255) - (b >> shift & 255)));
    }
    return most;
  }

  /**
   * Its own parts, one for every square, each with its pictures, all in the first square; by the
   * Khronos glTF validator without errors.
   */
  @Test
  void glbHasAPartForEverySquare() throws IOException, InterruptedException {
    Path glb = write(work, to(WriteAsset.Destination.ENGINE, WriteAsset.Squares.EACH));
    WriteAssetTest.assertValid(glb);
    GlbPart[] parts = GlbPart.all(glb);
    assertThat(parts).hasSize(3);
    int triangles = 0;
    for (GlbPart part : parts) {
      triangles += part.corners().length / 3;
      for (int c : part.corners()) {
        assertThat(part.uv()[2 * c]).isBetween(0f, 1f);
        assertThat(part.uv()[2 * c + 1]).isBetween(0f, 1f);
      }
      assertThat(part.normal().width()).isEqualTo(SIZE);
    }
    assertThat(triangles).isEqualTo(work.cast().triangleCount());
    // Triangles keep their order within each part.
    int[] next = new int[3];
    short[] of = SquarePictures.of(work.cast(), work.maps(), true).ofTriangle();
    for (int t = 0; t < of.length; t++) {
      GlbPart part = parts[of[t]];
      float[] at = middle(part.uv(), part.corners(), next[of[t]]++);
      assertThat(apart(part.colour().sample(at[0], 1 - at[1]), baked(work.cast(), t)))
          .isLessThan(2);
    }
    // One over all of them holds the same colours.
    Path one = write(work, to(WriteAsset.Destination.ENGINE, WriteAsset.Squares.ONE));
    WriteAssetTest.assertValid(one);
    GlbPart[] whole = GlbPart.all(one);
    assertThat(whole).hasSize(1);
    assertThat(whole[0].colour().width()).isEqualTo(3 * SIZE);
    assertThat(names()).contains("ball_height.exr");
  }

  @Test
  void aTriangleOverABorderIsSaid() {
    Uv uv = work.cast().uv();
    float[] moved = uv.coords().clone();
    for (int i = 0; i < moved.length; i += 2) {
      moved[i] += 0.3f;
    }
    Workpiece w = work.withCast(work.cast().withUv(new Uv(moved, uv.corners())));
    w = new BakeMaps(List.of(MapKind.COLOUR), SIZE, 1, 0).apply(w, Run.unwatched()).work();
    Workpiece over = w;
    assertThatThrownBy(
            () -> write(over, to(WriteAsset.Destination.ENGINE, WriteAsset.Squares.EACH)))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("over the borders");
    assertThat(write(over, to(WriteAsset.Destination.ENGINE, WriteAsset.Squares.ONE))).exists();
  }
}
