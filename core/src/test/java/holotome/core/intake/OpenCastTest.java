package holotome.core.intake;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.frame.AxisPreset;
import holotome.core.frame.Frame;
import holotome.core.frame.Mirrored;
import holotome.core.frame.NamedFrame;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.io.MeshReader;
import holotome.core.io.MeshWriter;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.ship.WriteAsset;
import holotome.core.step.Outcome;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.EnumSource;

class OpenCastTest {
  @TempDir private Path dir;

  /** No side of it is like another: turned or mirrored it does not lie on itself. */
  private static Mesh odd(int levels) {
    Mesh m = Shapes.sphere(1, levels);
    float[] p = m.xyz().clone();
    for (int i = 0; i < p.length; i += 3) {
      p[i] *= p[i] > 0 ? 2 : 1;
      p[i + 1] *= p[i + 1] > 0 ? 0.5f : 1;
      p[i + 2] += 0.3f * p[i] + 1.4f;
    }
    return m.withPositions(p);
  }

  /** A scan far from the origin of its capture, placed at true size, with a site grid kept. */
  private static Workpiece work() {
    Frame f =
        Frame.ofOffset(new double[] {412_345.25, 5_612_345.5, 87.125})
            .placed(
                Similarity.scaling(0.25)
                    .then(Similarity.turning(new double[] {0.3, 0.4, 0.866}, 0.7))
                    .then(Similarity.translation(new double[] {0.5, -2, 1})))
            .withTrueSize();
    Similarity grid = f.toWork().then(Similarity.translation(new double[] {3000, 2000, 0}));
    return Workpiece.of(odd(5), f.keeping(new NamedFrame("site grid", grid, 1)));
  }

  private Outcome open(Workpiece w, String file) {
    return new OpenCast(dir.resolve(file).toString(), null, null).apply(w, Run.unwatched());
  }

  private Path write(Workpiece w, WriteAsset step) {
    step.apply(w, new Run(Work.unwatched(), dir));
    return dir.resolve(step.fileName());
  }

  private static WriteAsset working(String name, AxisPreset axes) {
    return new WriteAsset(
        WriteAsset.Destination.RENDER,
        name,
        WriteAsset.Format.PLY,
        null,
        axes,
        WriteAsset.What.CAST,
        false);
  }

  private static void assertSamePlace(Mesh back, Mesh cast, double step) {
    assertThat(back.triangleCount()).isEqualTo(cast.triangleCount());
    assertThat(back.vertexCount()).isEqualTo(cast.vertexCount());
    for (int i = 0; i < cast.xyz().length; i++) {
      assertThat((double) back.xyz()[i]).isCloseTo(cast.xyz()[i], within(step));
    }
    assertThat(Measures.volume(back)).isCloseTo(Measures.volume(cast), within(1e-2));
  }

  @ParameterizedTest
  @EnumSource(AxisPreset.class)
  void whatWasWrittenForOutsideComesBackToItsPlace(AxisPreset axes) {
    Workpiece w = work().withCast(odd(3));
    write(w, working("out", axes));
    Outcome o = open(w, "out.ply");
    // A step of the floats that were written, in base units: four to a metre.
    assertSamePlace(o.work().cast(), w.cast(), 4 * Math.ulp(2f));
    assertThat(o.work().maps()).isNull();
  }

  @ParameterizedTest
  @CsvSource({"original,true", "original,false", "site grid,true", "site grid,false"})
  void andInFramesThatAreKept(String frame, boolean sideFile) {
    Workpiece w = work().withCast(odd(3));
    Path file =
        write(
            w,
            new WriteAsset(
                WriteAsset.Destination.RENDER,
                "kept",
                WriteAsset.Format.OBJ,
                frame,
                null,
                WriteAsset.What.CAST,
                sideFile));
    // Placed anew meanwhile: the capture's frame is where it was.
    Workpiece moved =
        sideFile
            ? w.withFrame(w.frame().placed(Similarity.translation(new double[] {9, 9, 9})))
            : w;
    Outcome o = open(moved, file.getFileName().toString());
    assertSamePlace(o.work().cast(), w.cast(), 4 * Math.ulp(3000f));
    assertThat(o.notes().toString()).contains(sideFile ? "side file" : "frame");
  }

  @ParameterizedTest
  @CsvSource({
    "1000,false,false",
    "0.001,true,false",
    "39.37007874015748,false,false",
    "1,false,true",
    "100,true,true"
  })
  void whatIsOftenMistakenIsFoundAndSaid(double scale, boolean yUp, boolean mirrored) {
    Workpiece w = work();
    Similarity s = w.frame().toWork().then(Similarity.scaling(scale));
    s = yUp ? s.then(AxisPreset.METRES_Y_UP.fromWork()) : s;
    Mesh cast = odd(3);
    Mesh placed = cast.withPositions(Placing.apply(cast.xyz(), s));
    MeshWriter.write(
        dir.resolve("mistaken.ply"),
        mirrored ? Mirrored.mesh(placed) : placed,
        Similarity.IDENTITY,
        Work.unwatched());
    Outcome o = open(w, "mistaken.ply");
    assertSamePlace(o.work().cast(), cast, 1e-5);
    assertThat(o.notes().toString().contains("it was turned back")).isEqualTo(mirrored);
  }

  @Test
  void whatLiesNowhereIsRefusedAndCanBeHadAllTheSame() {
    Workpiece w = work();
    Path far = dir.resolve("far.ply");
    Mesh ring = Shapes.moved(Shapes.torus(3, 1, 20, 10), 7e3, 0, 0);
    MeshWriter.write(far, ring, Similarity.IDENTITY, Work.unwatched());
    assertThatThrownBy(() -> open(w, "far.ply"))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("does not lie on this Scan");
    OpenCast said = new OpenCast(far.toString(), "working", null);
    assertThat(said.apply(w, Run.unwatched()).work().cast().triangleCount()).isEqualTo(400);
    assertThatThrownBy(() -> open(w, "missing.ply"))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no such file");
  }

  @Test
  void whoSaysTheWrongFrameIsToldTheRightOne() {
    Workpiece w = work().withCast(odd(3));
    Path file = write(w, working("mm", AxisPreset.MILLIMETRES_Z_UP));
    OpenCast wrong = new OpenCast(file.toString(), "working", null);
    assertThat(wrong.apply(w, Run.unwatched()).notes().toString())
        .containsIgnoringCase("millimetres z up")
        .contains("would lie on the Scan");
    OpenCast none = new OpenCast(file.toString(), "nowhere", null);
    assertThatThrownBy(() -> none.apply(w, Run.unwatched()))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("site grid");
  }

  @Test
  void roughCastsAndRoughScansAreOpenedOrRefusedInPlainWords() {
    Mesh one = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2});
    Mesh line = new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2});
    float[] vast = odd(3).xyz().clone();
    for (int i = 0; i < vast.length; i++) {
      vast[i] *= 1e30f;
    }
    float[] nowhere = odd(3).xyz().clone();
    nowhere[4] = Float.NaN;
    List<Mesh> all =
        List.of(
            one,
            line,
            Shapes.mess(60, 5),
            odd(3).withPositions(vast),
            odd(3).withPositions(nowhere));
    int n = 0;
    for (Mesh cast : all) {
      for (Mesh scan : all) {
        String name = "rough" + n++ + ".ply";
        MeshWriter.write(dir.resolve(name), cast, Similarity.IDENTITY, Work.unwatched());
        try {
          Mesh out = open(Workpiece.of(scan, Frame.PLAIN), name).work().cast();
          assertThat(out.triangleCount()).isPositive();
        } catch (Failure f) {
          assertThat(f.getMessage()).doesNotStartWith("Internal error").doesNotContain("\n");
        }
      }
    }
  }

  @Test
  void textureCoordinatesComeAlong() {
    Workpiece w = work().withCast(Shapes.laden(odd(3)));
    write(
        w,
        new WriteAsset(
            WriteAsset.Destination.RENDER,
            "uv",
            WriteAsset.Format.OBJ,
            null,
            WriteAsset.What.CAST));
    Mesh back = open(w, "uv.obj").work().cast();
    assertThat(back.uv()).isNotNull();
    for (int c = 0; c < 3 * back.triangleCount(); c++) {
      int a = 2 * back.uv().corners()[c];
      int b = 2 * w.cast().uv().corners()[c];
      assertThat(back.uv().coords()[a]).isEqualTo(w.cast().uv().coords()[b]);
      assertThat(back.uv().coords()[a + 1]).isEqualTo(w.cast().uv().coords()[b + 1]);
    }
  }

  /** A block of quadrangles with flat sides, out and back in every hand and axis: all as it was. */
  @ParameterizedTest
  @EnumSource(AxisPreset.class)
  void facesAndHardEdgesComeAlong(AxisPreset axes) throws Exception {
    Path made = dir.resolve("made.obj");
    Files.writeString(
        made,
        """
        v -1 -0.5 0.4
        v 2 -0.5 1.3
        v 2 0.5 1.3
        v -1 0.5 0.4
        v -1 -0.5 1.6
        v 2 -0.5 2.5
        v 2 0.5 2.5
        v -1 0.5 1.6
        s off
        f 4 3 2 1
        f 5 6 7 8
        f 1 2 6 5
        s 1
        f 2 3 7 6
        f 3 4 8 7
        f 4 1 5 8
        """);
    Mesh block = MeshReader.modelled(made, Work.unwatched()).mesh();
    Workpiece w = work().withCast(block);
    write(
        w,
        new WriteAsset(
            WriteAsset.Destination.RENDER,
            "block",
            WriteAsset.Format.OBJ,
            null,
            axes,
            WriteAsset.What.CAST,
            false));
    Outcome out =
        new OpenCast(dir.resolve("block.obj").toString(), null, axes).apply(w, Run.unwatched());
    Mesh back = out.work().cast();
    assertThat(MeshWriter.polygons(back)).isEqualTo(6);
    assertThat(String.join("; ", out.notes())).contains("6 of its faces").contains("hard and soft");
    Attribute is = back.attributes().named(Attribute.NORMAL);
    Attribute was = block.attributes().named(Attribute.NORMAL);
    assertThat(is.count()).isBetween(5, was.count());
    // Each corner as the one at its place in the same face: faces keep their order.
    for (int c = 0; c < 36; c++) {
      int at = -1;
      for (int d = 6 * (c / 6); d < 6 * (c / 6) + 6; d++) {
        double off = 0;
        for (int k = 0; k < 3; k++) {
          off +=
              Math.abs(
                  back.xyz()[3 * back.triangles()[c] + k]
                      - block.xyz()[3 * block.triangles()[d] + k]);
        }
        at = off < 1e-4 ? d : at;
      }
      assertThat(at).isNotNegative();
      for (int k = 0; k < 3; k++) {
        assertThat(is.floats()[3 * is.index()[c] + k])
            .isEqualTo(was.floats()[3 * was.index()[at] + k], within(1e-5f));
      }
    }
  }
}
