package holotome.core.bake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.image.Colours;
import holotome.core.image.Image;
import holotome.core.image.Raster;
import holotome.core.map.MapKind;
import holotome.core.map.Missed;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.Role;
import holotome.core.step.Run;
import holotome.core.tangent.SplitMesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.unwrap.MakeCharts;
import java.util.List;
import org.junit.jupiter.api.Test;

class BakeTest {
  private static final List<MapKind> BOTH = List.of(MapKind.COLOUR, MapKind.NORMAL);

  /** A sheet whose texture is the sheet itself, from 0 to 1. */
  private static Mesh squareCast() {
    Mesh sheet = Shapes.sheet(1, 4);
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int v = 0; v < sheet.vertexCount(); v++) {
      uv[2 * v] = sheet.xyz()[3 * v];
      uv[2 * v + 1] = sheet.xyz()[3 * v + 1];
    }
    return sheet.withUv(new Uv(uv, sheet.triangles()));
  }

  private static Maps bake(Mesh scan, Mesh cast, int size, int samples) {
    Workpiece in = Workpiece.of(scan, Frame.PLAIN).withCast(cast);
    return new BakeMaps(BOTH, size, samples, 4).apply(in, Run.unwatched()).work().maps();
  }

  @Test
  void rampOfColourAndWaveOfNormalsComeOutAsTheirFormula() {
    // The scan: a fine sheet that waves by 0.01 sin(20 x), red growing along x, green along y.
    Mesh fine = Shapes.sheet(1, 400);
    float[] xyz = fine.xyz().clone();
    int[] colours = new int[fine.vertexCount()];
    for (int v = 0; v < colours.length; v++) {
      colours[v] = Colours.argb(255.0 * xyz[3 * v], 255.0 * xyz[3 * v + 1], 40.0);
      xyz[3 * v + 2] = (float) (0.01 * Math.sin(20 * xyz[3 * v]));
    }
    int size = 128;
    Maps maps = bake(new Mesh(xyz, fine.triangles(), colours), squareCast(), size, 4);
    assertThat(maps.covered()).isEqualTo(size * size);
    assertThat(maps.missedCount()).isZero();
    Raster colour = maps.pictures().get(MapKind.COLOUR).raster();
    Raster normal = maps.pictures().get(MapKind.NORMAL).raster();
    for (int y = 2; y < size - 2; y++) {
      for (int x = 2; x < size - 2; x++) {
        double px = (x + 0.5) / size;
        double py = 1 - (y + 0.5) / size;
        int c = colour.pixels()[y * size + x];
        assertThat((double) (c >> 16 & 255)).isCloseTo(255 * px, within(1.6));
        assertThat((double) (c >> 8 & 255)).isCloseTo(255 * py, within(1.6));
        double slope = 0.2 * Math.cos(20 * px);
        double l = Math.sqrt(1 + slope * slope);
        int n = normal.pixels()[y * size + x];
        assertThat((n >> 16 & 255) / 127.5 - 1).isCloseTo(-slope / l, within(0.02));
        assertThat((n >> 8 & 255) / 127.5 - 1).isCloseTo(0, within(0.02));
        assertThat((n & 255) / 127.5 - 1).isCloseTo(1 / l, within(0.02));
      }
    }
  }

  @Test
  void upInThePictureIsGreen() {
    Mesh fine = Shapes.sheet(1, 200);
    float[] xyz = fine.xyz().clone();
    for (int v = 0; v < fine.vertexCount(); v++) {
      xyz[3 * v + 2] = -0.2f * xyz[3 * v + 1];
    }
    // The surface falls towards +y, so its normal leans to +y: green above the middle (glTF 2.0).
    int n =
        bake(fine.withPositions(xyz), squareCast(), 32, 1)
            .pictures()
            .get(MapKind.NORMAL)
            .argb(16, 16);
    assertThat((n >> 8 & 255) / 127.5 - 1).isCloseTo(0.2 / Math.sqrt(1.04), within(0.02));
  }

  @Test
  void theScansOwnTexturesAreTaken() {
    Mesh cast = squareCast();
    int[] pixels = new int[64 * 64];
    for (int i = 0; i < pixels.length; i++) {
      pixels[i] = Colours.argb(4 * (i % 64), 255 - 4 * (i / 64), 9);
    }
    Raster other = new Raster(1, 1, new int[] {0xff0000ff});
    short[] material = new short[cast.triangleCount()];
    material[0] = 1;
    Mesh scan =
        cast.withMaterials(
            material,
            List.of(
                new Material("a", -1, new Raster(64, 64, pixels)), new Material("b", -1, other)));
    Raster colour = bake(scan, cast, 64, 1).pictures().get(MapKind.COLOUR).raster();
    // Triangle 0 is the lower right half of the cell at 0..0.25.
    assertThat(colour.pixels()[(63 - 2) * 64 + 14]).isEqualTo(0xff0000ff);
    int c = colour.pixels()[20 * 64 + 40];
    assertThat(c >> 16 & 255).isBetween(158, 162);
  }

  @Test
  void missingSurfaceIsCountedAndMapped() {
    Mesh half =
        holotome.core.mesh.Submesh.of(
            Shapes.sheet(1, 100), t -> t / 2 / 100 < 50, holotome.core.task.Work.unwatched());
    Maps maps = bake(half, squareCast(), 64, 4);
    assertThat(maps.missedShare()).isBetween(0.48, 0.52);
    assertThat(maps.missed().stored(60, 32, 0)).isEqualTo(Missed.HOLE.code());
    assertThat(maps.missed().stored(4, 32, 0)).isZero();
  }

  @Test
  void sphereBakesWithoutAMissAndTheSameOnOneThread() {
    Workpiece in = Workpiece.of(Shapes.coloured(Shapes.sphere(1, 6)), Frame.PLAIN);
    Workpiece w = new Decimate(600, null, null, Role.CAST).apply(in, Run.unwatched()).work();
    w = new MakeCharts(256, 3, 1.1, 0, 180).apply(w, Run.unwatched()).work();
    BakeMaps step = new BakeMaps(BOTH, 256, 16, 6);
    Maps many = step.apply(w, Run.unwatched()).work().maps();
    assertThat(many.missedCount()).isZero();
    Parallel.limitThreads(1);
    try {
      Maps one = step.apply(w, Run.unwatched()).work().maps();
      for (MapKind k : BOTH) {
        assertThat(one.pictures().get(k).sameAs(many.pictures().get(k))).isTrue();
      }
    } finally {
      Parallel.limitThreads(64);
    }
  }

  @Test
  void paddingRunsOnPastTheCharts() {
    for (Image.Sample s : Image.Sample.values()) {
      Image.Editor e = Image.begun(150, 150, 3, s, Image.Space.LINEAR);
      byte[] covered = new byte[150 * 150];
      e.set(8, 8, 32, 64, 0.75);
      covered[8 * 150 + 8] = 1;
      Padding.fill(e, e.done(), covered, 3, true, Work.unwatched());
      for (int i = 0; i < 150 * 150; i++) {
        for (int c = 0; c < 3; c++) {
          assertThat(e.done().stored(i % 150, i / 150, c)).isEqualTo(e.done().stored(8, 8, c));
        }
      }
    }
  }

  @Test
  void tangentFramesAreUnitAndUpright() {
    Workpiece in = Workpiece.of(Shapes.sphere(1, 3), Frame.PLAIN).withCast(Shapes.sphere(1, 3));
    Mesh m = new MakeCharts(512, 4, 1.1, 0, 180).apply(in, Run.unwatched()).work().cast();
    SplitMesh s = SplitMesh.of(m);
    for (int v = 0; v < s.position().length; v++) {
      float[] t = s.tangents();
      float[] n = s.normals();
      double dot = t[4 * v] * n[3 * v] + t[4 * v + 1] * n[3 * v + 1] + t[4 * v + 2] * n[3 * v + 2];
      double length =
          Math.sqrt(
              t[4 * v] * t[4 * v] + t[4 * v + 1] * t[4 * v + 1] + t[4 * v + 2] * t[4 * v + 2]);
      assertThat(dot).isCloseTo(0, within(1e-5));
      assertThat(length).isCloseTo(1, within(1e-5));
      assertThat(t[4 * v + 3]).isEqualTo(1);
    }
  }
}
