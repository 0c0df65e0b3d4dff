package holotome.core.io;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Shapes;
import holotome.core.datum.KeepFrame;
import holotome.core.datum.Turn;
import holotome.core.frame.AxisPreset;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.ship.WriteAsset;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.SplittableRandom;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.EnumSource;

/** Coordinates that come back, whatever frame and axes they went out in. */
class FrameFileTest {
  @TempDir Path dir;

  private static Similarity random(SplittableRandom r, double far) {
    double[] axis = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
    double[] t = new double[3];
    for (int k = 0; k < 3; k++) {
      t[k] = far * (2 * r.nextDouble() - 1);
    }
    return Similarity.scaling(Math.exp(2 * r.nextGaussian()))
        .then(Similarity.turning(axis, 6 * r.nextDouble()))
        .then(Similarity.translation(t));
  }

  @Test
  void aThousandRoundTripsDriftLessThanAFloatStep() {
    SplittableRandom r = new SplittableRandom(11);
    Mesh ball = Shapes.sphere(1, 2);
    Frame f = new Frame(random(r, 1e7), random(r, 10), true);
    Workpiece start = Workpiece.of(ball, f);
    Workpiece w =
        new KeepFrame(KeepFrame.Do.KEEP, "start", null, null).apply(start, Run.unwatched()).work();
    for (int i = 0; i < 1000; i++) {
      Similarity there = random(r, 1e7);
      double k = there.scale();
      double[] q = there.rotation();
      double[] t = there.shift();
      double[] m = {
        k * q[0], k * q[1], k * q[2], t[0], k * q[3], k * q[4], k * q[5], t[1], k * q[6], k * q[7],
        k * q[8], t[2], 0, 0, 0, 1
      };
      w =
          new KeepFrame(KeepFrame.Do.GIVEN, "grid", m, holotome.core.unit.Length.Unit.M)
              .apply(w, Run.unwatched())
              .work();
      w = new KeepFrame(KeepFrame.Do.USE, "grid", null, null).apply(w, Run.unwatched()).work();
      // There and back by figures alone, not by the one that was kept.
      w =
          w.withFrame(
              w.frame().placed(there.inverse()).placed(f.toFile().inverse()).placed(f.toWork()));
    }
    for (int v = 0; v < ball.vertexCount(); v++) {
      double[] p = Vec.at(ball.xyz(), v);
      double[] was = f.toWork().apply(p);
      double[] is = w.frame().toWork().apply(p);
      for (int k = 0; k < 3; k++) {
        assertThat(Math.abs(is[k] - was[k])).isLessThan(Math.ulp((float) 10));
      }
    }
    Workpiece back =
        new KeepFrame(KeepFrame.Do.USE, "start", null, null).apply(w, Run.unwatched()).work();
    assertThat(back.frame().toWork()).isEqualTo(f.toWork());
  }

  @ParameterizedTest
  @EnumSource(AxisPreset.class)
  void whatIsWrittenInAnyAxesIsReadBackWhereItWas(AxisPreset axes) {
    SplittableRandom r = new SplittableRandom(axes.ordinal());
    Mesh torus = Shapes.torus(2, 0.5, 24, 12);
    Frame f = new Frame(random(r, 1000), random(r, 3), true);
    Workpiece w =
        new KeepFrame(KeepFrame.Do.KEEP, "site", null, null)
            .apply(Workpiece.of(torus, f), Run.unwatched())
            .work();
    w = new Turn(Turn.Axis.X, 40).apply(w, Run.unwatched()).work();
    new WriteAsset(
            WriteAsset.Destination.RENDER,
            "ring",
            WriteAsset.Format.PLY,
            null,
            axes,
            WriteAsset.What.SCAN,
            true)
        .apply(w, new Run(Work.unwatched(), dir));
    Loaded back = MeshReader.read(dir.resolve("ring.ply"), Work.unwatched());
    assertThat(back.frame().trueSize()).isTrue();
    // Not turned inside out.
    assertThat(Math.signum(Measures.volume(back.mesh())))
        .isEqualTo(Math.signum(Measures.volume(torus)));
    double step = 4 * Math.ulp((float) Vec.length(w.frame().workBounds(torus).max()));
    for (int v = 0; v < torus.vertexCount(); v++) {
      double[] p = Vec.at(torus.xyz(), v);
      double[] q = Vec.at(back.mesh().xyz(), v);
      assertThat(Vec.distance(w.frame().toWork().apply(p), back.frame().toWork().apply(q)))
          .isLessThan(step);
      assertThat(
              Vec.distance(
                  w.frame().named("site").fromBase().apply(p),
                  back.frame().named("site").fromBase().apply(q)))
          .isLessThan(step);
      assertThat(
              Vec.distance(
                  f.toFile().apply(p), back.frame().named("first file").fromBase().apply(q)))
          .isLessThan(step * f.toFile().scale() / f.toWork().scale() + 1e-9);
    }
  }

  @Test
  void aSideFileNeverTellsOfAMeshThatWasReplaced() {
    Mesh ball = Shapes.sphere(1, 2);
    Workpiece w = Workpiece.of(ball, Frame.PLAIN.withTrueSize());
    for (boolean with : new boolean[] {true, false}) {
      // Written over without asking for the side file, and turned since.
      w = new Turn(Turn.Axis.X, 50).apply(w, Run.unwatched()).work();
      new WriteAsset(
              WriteAsset.Destination.ENGINEERING, "b", null, null, null, WriteAsset.What.SCAN, with)
          .apply(w, new Run(Work.unwatched(), dir));
    }
    Loaded back = MeshReader.read(dir.resolve("b.ply"), Work.unwatched());
    for (int v = 0; v < ball.vertexCount(); v++) {
      double[] is = back.frame().toWork().apply(Vec.at(back.mesh().xyz(), v));
      assertThat(Vec.distance(is, w.frame().toWork().apply(Vec.at(ball.xyz(), v))))
          .isLessThan(1e-6);
    }
  }

  /** A left-handed file, read by its side file, goes back to just what it was. */
  @Test
  void theOriginalFrameOfALeftHandedFileIsLeftHanded() throws Exception {
    SplittableRandom r = new SplittableRandom(5);
    Workpiece w =
        Workpiece.of(Shapes.torus(2, 0.5, 24, 12), new Frame(random(r, 1000), random(r, 3), true));
    new WriteAsset(
            WriteAsset.Destination.RENDER,
            "left",
            WriteAsset.Format.PLY,
            null,
            AxisPreset.CENTIMETRES_Z_UP_LEFT_HANDED,
            WriteAsset.What.SCAN,
            true)
        .apply(w, new Run(Work.unwatched(), dir));
    Loaded left = MeshReader.read(dir.resolve("left.ply"), Work.unwatched());
    assertThat(left.frame().leftHandedFile()).isTrue();
    Workpiece again = Workpiece.of(left.mesh(), left.frame());
    again = new Turn(Turn.Axis.X, 40).apply(again, Run.unwatched()).work();
    new WriteAsset(
            WriteAsset.Destination.CAPTURE, "back", null, null, null, WriteAsset.What.SCAN, true)
        .apply(again, new Run(Work.unwatched(), dir));
    // Read without their side files: the figures as they stand in the files.
    for (String name : List.of("left", "back")) {
      Files.move(dir.resolve(name + ".ply.frames.json"), dir.resolve(name + ".frames"));
    }
    Mesh a = MeshReader.read(dir.resolve("left.ply"), Work.unwatched()).mesh();
    Mesh b = MeshReader.read(dir.resolve("back.ply"), Work.unwatched()).mesh();
    assertThat(b.xyz()).isEqualTo(a.xyz());
    for (int t = 0; t < a.triangleCount(); t++) {
      assertThat(Vec.dot(Measures.cross(a, t), Measures.cross(b, t))).isPositive();
    }
    assertThat(Files.readString(dir.resolve("back.frames"))).contains("\"mirrored\" : true");
  }

  @Test
  void leftHandedAxesAreLeftHanded() throws Exception {
    Mesh m =
        new Mesh(
            new float[] {0, 0, 0, 1, 0, 0, 0, 2, 0, 0, 0, 3},
            new int[] {0, 2, 1, 0, 1, 3, 0, 3, 2, 1, 2, 3});
    new WriteAsset(
            WriteAsset.Destination.RENDER,
            "t",
            null,
            null,
            AxisPreset.CENTIMETRES_Z_UP_LEFT_HANDED,
            WriteAsset.What.SCAN,
            false)
        .apply(Workpiece.of(m, Frame.PLAIN.withTrueSize()), new Run(Work.unwatched(), dir));
    var lines = Files.readAllLines(dir.resolve("t.obj"));
    assertThat(lines).contains("v 100.0 0.0 0.0", "v 0.0 -200.0 0.0", "v 0.0 0.0 300.0");
    assertThat(dir.resolve("t.obj.frames.json")).doesNotExist();
  }

  @Test
  void theOriginalFrameComesBackToTheFloat() {
    Mesh ball = Shapes.sphere(3, 3);
    Frame f = Frame.ofOffset(new double[] {6_000_000, 450_000, 12});
    Workpiece w = new Turn(Turn.Axis.Y, 33).apply(Workpiece.of(ball, f), Run.unwatched()).work();
    new WriteAsset(WriteAsset.Destination.CAPTURE, "o", null, null, WriteAsset.What.SCAN)
        .apply(w, new Run(Work.unwatched(), dir));
    Loaded back = MeshReader.read(dir.resolve("o.ply"), Work.unwatched());
    for (int v = 0; v < ball.vertexCount(); v++) {
      double[] was = f.toFile().apply(Vec.at(ball.xyz(), v));
      double[] is = back.frame().toFile().apply(Vec.at(back.mesh().xyz(), v));
      for (int k = 0; k < 3; k++) {
        assertThat(Math.abs(is[k] - was[k])).isLessThanOrEqualTo(Math.ulp(3f));
      }
    }
  }

  @Test
  void sideFilesThatAreNoneAreRefusedInOneLine() throws Exception {
    Path mesh = dir.resolve("a.ply");
    MeshWriter.write(mesh, Shapes.cube(1), Similarity.IDENTITY, Work.unwatched());
    Path side = FrameFile.beside(mesh);
    for (String text :
        new String[] {
          "no json",
          "{}",
          "{\"holotome-frames\":1,\"frames\":[{\"name\":\"working\",\"matrix\":[1,2,3]}]}",
          "{\"holotome-frames\":1,\"frames\":[{\"name\":\"x\",\"matrix\":[1,0,0,0,0,2,0,0,0,0,1,0,0,0,0,1]}]}",
          "{\"holotome-frames\":1,\"frames\":[{\"name\":\"x\",\"matrix\":[-1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1]}]}"
        }) {
      Files.writeString(side, text);
      assertThatThrownBy(() -> MeshReader.read(mesh, Work.unwatched()))
          .isInstanceOf(Failure.class)
          .hasMessageContaining("a.ply.frames.json")
          .hasMessageNotContaining("\n");
    }
  }

  @Test
  void namesThatAreNotThereAreSaid() {
    Workpiece w = Workpiece.of(Shapes.cube(1), Frame.PLAIN);
    assertThatThrownBy(
            () -> new KeepFrame(KeepFrame.Do.USE, "nowhere", null, null).apply(w, Run.unwatched()))
        .hasMessageContaining("nowhere");
    assertThatThrownBy(() -> new KeepFrame(KeepFrame.Do.KEEP, "original", null, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(
            () ->
                new WriteAsset(
                        WriteAsset.Destination.RENDER, "a", null, "grid", WriteAsset.What.SCAN)
                    .apply(w, new Run(Work.unwatched(), dir)))
        .hasMessageContaining("working, original");
  }
}
