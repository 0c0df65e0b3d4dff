package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.frame.Frame;
import holotome.core.image.LinearLight;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.mesh.Uv;
import holotome.core.mesh.VertexColours;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.step.Run;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** What a patch carries: colour, texture and materials run on from its rim. */
class PatchColourTest {

  private static Workpiece fill(Mesh m, FillHoles.How how) {
    return new FillHoles(how, null, false)
        .apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched())
        .work();
  }

  /** A flat sheet with a round hole whose light runs evenly from left to right. */
  private static Mesh sheet() {
    Mesh m = Shapes.sheet(2, 60);
    int[] colours = new int[m.vertexCount()];
    for (int v = 0; v < colours.length; v++) {
      colours[v] = LinearLight.colour(new double[] {light(m, v), 0.25, 1 - light(m, v), 1}, 0);
    }
    Mesh coloured = m.with(Attribute.of("colour", Kind.COLOUR, Domain.VERTEX, colours, null));
    return Submesh.of(
        coloured,
        t -> {
          double x = 0;
          double y = 0;
          for (int k = 0; k < 3; k++) {
            x += m.xyz()[3 * m.triangles()[3 * t + k]] / 3.0;
            y += m.xyz()[3 * m.triangles()[3 * t + k] + 1] / 3.0;
          }
          return Math.hypot(x - 1, y - 1) > 0.5;
        },
        Work.unwatched());
  }

  private static double light(Mesh m, int v) {
    return 0.1 + 0.4 * m.xyz()[3 * v];
  }

  /** A linear function is harmonic: inside the patch the light is what it was before the hole. */
  @Test
  void lightRunsEvenlyThroughASmoothPatch() {
    Mesh holed = sheet();
    Mesh filled = fill(holed, FillHoles.How.SMOOTH).scan();
    assertThat(filled.vertexCount()).isGreaterThan(holed.vertexCount() + 100);
    double worst = 0;
    for (int v = holed.vertexCount(); v < filled.vertexCount(); v++) {
      double x = filled.xyz()[3 * v];
      if (x < 0.45 || x > 1.55 || filled.xyz()[3 * v + 1] < 0.45) {
        continue; // The sheet's own border is filled as well.
      }
      int c = filled.colours()[v];
      assertThat(c >>> 24).isEqualTo(255);
      worst = Math.max(worst, Math.abs(LinearLight.channel(c, 0) - light(filled, v)));
      assertThat(LinearLight.channel(c, 1)).isCloseTo(0.25, within(0.01));
    }
    // Neighbours count alike however far they are: off the formula by a small part of the range.
    assertThat(worst).isLessThan(0.05);
  }

  /** The same with a picture: the patch has one of its own, which shows the same light. */
  @ParameterizedTest
  @EnumSource(value = FillHoles.How.class, mode = EnumSource.Mode.EXCLUDE, names = "BRIDGE")
  void texturedPatchesHaveAPictureThatRunsOn(FillHoles.How how) {
    Mesh plain = sheet();
    int size = 256;
    int[] pixels = new int[size * size];
    for (int i = 0; i < pixels.length; i++) {
      double l = 0.1 + 0.8 * (i % size + 0.5) / size;
      pixels[i] = LinearLight.colour(new double[] {l, 0.25, 1 - l, 1}, 0);
    }
    Mesh textured = textured(plain, new Raster(size, size, pixels));
    Mesh filled = fill(textured, how).scan();
    assertThat(filled.materials()).extracting(Material::name).containsExactly("quay", "quay patch");
    Random r = new Random(5);
    double worst = 0;
    int looked = 0;
    for (int t = textured.triangleCount(); t < filled.triangleCount(); t++) {
      double[] p = new double[2];
      float b = r.nextFloat();
      float c = (1 - b) * r.nextFloat();
      float[] w = {1 - b - c, b, c};
      for (int k = 0; k < 3; k++) {
        p[0] += w[k] * filled.xyz()[3 * filled.triangles()[3 * t + k]];
        p[1] += w[k] * filled.xyz()[3 * filled.triangles()[3 * t + k] + 1];
      }
      if (Math.hypot(p[0] - 1, p[1] - 1) > 0.48) {
        continue;
      }
      int argb = VertexColours.at(filled, t, b, c);
      worst = Math.max(worst, Math.abs(LinearLight.channel(argb, 0) - (0.1 + 0.4 * p[0])));
      looked++;
    }
    assertThat(looked).isGreaterThan(10);
    assertThat(worst).isLessThan(0.06);
    // What was there is drawn as before.
    for (int t = 0; t < textured.triangleCount(); t += 97) {
      assertThat(VertexColours.at(filled, t, 0.3f, 0.3f))
          .isEqualTo(VertexColours.at(textured, t, 0.3f, 0.3f));
    }
  }

  @Test
  void patchesTakeTheMaterialOfTheirNeighbours() {
    Mesh plain = sheet();
    short[] material = new short[plain.triangleCount()];
    for (int t = 0; t < material.length; t++) {
      material[t] = (short) (plain.xyz()[3 * plain.triangles()[3 * t]] < 1 ? 2 : 1);
    }
    Mesh m =
        plain.withMaterials(
            material,
            List.of(
                new Material("none", 1, null),
                new Material("right", 2, null),
                new Material("left", 3, null)));
    Mesh filled = fill(m, FillHoles.How.SMOOTH).scan();
    int wrong = 0;
    for (int t = m.triangleCount(); t < filled.triangleCount(); t++) {
      assertThat(filled.material()[t]).isIn((short) 1, (short) 2);
      double x = filled.xyz()[3 * filled.triangles()[3 * t]];
      boolean clear = Math.abs(x - 1) > 0.2;
      wrong += clear && filled.material()[t] != (x < 1 ? 2 : 1) ? 1 : 0;
    }
    assertThat(wrong).isLessThan((filled.triangleCount() - m.triangleCount()) / 50);
  }

  /** Where two fans meet at a point the border comes by it twice: parted and filled, not left. */
  @Test
  void bordersThatMeetThemselvesArePartedAndFilled() {
    Random r = new Random(12);
    Mesh whole = Shapes.sphere(1, 5);
    Mesh holed = Submesh.of(whole, t -> r.nextInt(6) > 0, Work.unwatched());
    assertThat(Naive.verticesWithSeveralFans(holed)).isGreaterThan(50);
    var out =
        new FillHoles(FillHoles.How.FLAT, null, false)
            .apply(Workpiece.of(holed, Frame.PLAIN), Run.unwatched());
    assertThat(out.notes().toString()).contains("points doubled where separate fans met");
    Mesh tidied = Tidy.tidy(holed, new ArrayList<>(), Work.unwatched());
    Mesh after = fill(tidied, FillHoles.How.FLAT).scan();
    int left = Borders.of(Adjacency.of(out.work().scan())).loops().length;
    assertThat(left).isEqualTo(Borders.of(Adjacency.of(after)).loops().length);
    assertThat(left).isLessThan(8);
  }

  /** Bars finer than the triangles: a patch shows them where they were, in a picture as fine. */
  @Test
  void aPatchKeepsWhatThePictureShowed() {
    Mesh plain = Shapes.sheet(2, 30);
    int size = 1024;
    int[] pixels = new int[size * size];
    for (int i = 0; i < pixels.length; i++) {
      pixels[i] = bar((i % size + 0.5) / size * 2);
    }
    Mesh textured = textured(plain, new Raster(size, size, pixels));
    BitSet some = new BitSet();
    for (int t = 0; t < plain.triangleCount(); t++) {
      int v = 3 * plain.triangles()[3 * t];
      some.set(t, Math.hypot(plain.xyz()[v] - 1, plain.xyz()[v + 1] - 1) < 0.6);
    }
    List<Pick> picks = List.of(Pick.of(Pick.Join.REPLACE, some, plain.triangleCount()));
    Mesh out =
        new PatchRegion(picks, PatchRegion.Shape.PLANE, false)
            .apply(Workpiece.of(textured, Frame.PLAIN), Run.unwatched())
            .work()
            .scan();
    int first = plain.triangleCount() - some.cardinality();
    assertThat(out.triangleCount()).isGreaterThan(first + 200);
    Random r = new Random(5);
    int wrong = 0;
    int looked = 0;
    for (int t = first; t < out.triangleCount(); t++) {
      float b = 0.1f + 0.5f * r.nextFloat();
      float c = 0.1f + (0.8f - b) * r.nextFloat();
      double x = 0;
      float[] w = {1 - b - c, b, c};
      for (int k = 0; k < 3; k++) {
        x += w[k] * out.xyz()[3 * out.triangles()[3 * t + k]];
      }
      // Not where one bar goes over into the next within a texel or two.
      if (Math.abs(x * 25 - Math.rint(x * 25)) < 0.2) {
        continue;
      }
      looked++;
      int off = (VertexColours.at(out, t, b, c) & 255) - (bar(x) & 255);
      wrong += Math.abs(off) > 40 ? 1 : 0;
    }
    assertThat(looked).isGreaterThan(100);
    assertThat((double) wrong / looked).isLessThan(0.03);
  }

  /** Bars of 0.04, dark and light in turn. */
  private static int bar(double x) {
    return (int) Math.floor(x * 25) % 2 == 0 ? 0xff202020 : 0xffe0e0e0;
  }

  /** A sheet of side 2 under a picture that is laid over it as it is. */
  private static Mesh textured(Mesh sheet, Raster picture) {
    float[] uv = new float[2 * sheet.vertexCount()];
    for (int v = 0; v < sheet.vertexCount(); v++) {
      uv[2 * v] = sheet.xyz()[3 * v] / 2;
      uv[2 * v + 1] = sheet.xyz()[3 * v + 1] / 2;
    }
    return new Mesh(
        sheet.xyz(),
        sheet.triangles(),
        null,
        new Uv(uv, sheet.triangles().clone()),
        null,
        List.of(new Material("quay", 0xffffffff, picture)));
  }
}
