package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.datum.DeclareUnit;
import holotome.core.datum.Front;
import holotome.core.datum.KeepFrame;
import holotome.core.datum.Level;
import holotome.core.datum.Origin;
import holotome.core.datum.Place;
import holotome.core.datum.Scale;
import holotome.core.datum.Turn;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Parallel;
import holotome.core.unit.Length;
import java.nio.file.Path;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SplittableRandom;
import org.apache.commons.math3.geometry.euclidean.threed.Rotation;
import org.apache.commons.math3.geometry.euclidean.threed.RotationConvention;
import org.apache.commons.math3.geometry.euclidean.threed.Vector3D;
import org.apache.commons.math3.linear.MatrixUtils;
import org.apache.commons.math3.linear.RealMatrix;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/**
 * Long runs of placing steps in random order against products of matrices by Commons Math: nothing
 * drifts, the mesh's floats stay what they were, and the Log gives the same again.
 */
class DatumSequencesTest {
  private static final int STEPS = 120;

  @TempDir private Path dir;

  /** From base coordinates to the work, as the model has it. */
  private RealMatrix model;

  private final Map<String, RealMatrix> kept = new HashMap<>();
  private Mesh mesh;
  private RealMatrix toFile;

  private static RealMatrix moving(double[] by) {
    RealMatrix m = MatrixUtils.createRealIdentityMatrix(4);
    for (int i = 0; i < 3; i++) {
      m.setEntry(i, 3, by[i]);
    }
    return m;
  }

  private static RealMatrix scaling(double k) {
    return MatrixUtils.createRealDiagonalMatrix(new double[] {k, k, k, 1});
  }

  private static RealMatrix turning(int axis, double degrees) {
    Vector3D a = axis == 0 ? Vector3D.PLUS_I : axis == 1 ? Vector3D.PLUS_J : Vector3D.PLUS_K;
    double[][] r =
        new Rotation(a, Math.toRadians(degrees), RotationConvention.VECTOR_OPERATOR).getMatrix();
    RealMatrix m = MatrixUtils.createRealIdentityMatrix(4);
    m.setSubMatrix(r, 0, 0);
    return m;
  }

  private static RealMatrix matrix(Similarity s) {
    RealMatrix m = MatrixUtils.createRealIdentityMatrix(4);
    for (int i = 0; i < 3; i++) {
      for (int k = 0; k < 3; k++) {
        m.setEntry(i, k, s.scale() * s.rotation()[3 * i + k]);
      }
      m.setEntry(i, 3, s.shift()[i]);
    }
    return m;
  }

  private static double[] apply(RealMatrix m, double[] p) {
    double[] q = m.operate(new double[] {p[0], p[1], p[2], 1});
    return Vec.of(q[0], q[1], q[2]);
  }

  /** Least and largest of the placed vertices, by axis. */
  private double[][] box() {
    double[][] b = {{1e300, 1e300, 1e300}, {-1e300, -1e300, -1e300}};
    for (int v = 0; v < mesh.vertexCount(); v++) {
      double[] p = apply(model, Vec.at(mesh.xyz(), v));
      for (int k = 0; k < 3; k++) {
        b[0][k] = Math.min(b[0][k], p[k]);
        b[1][k] = Math.max(b[1][k], p[k]);
      }
    }
    return b;
  }

  private double[] middle() {
    double[][] b = box();
    return Vec.mul(Vec.add(b[0], b[1]), 0.5);
  }

  private void further(RealMatrix m) {
    model = m.multiply(model);
  }

  private void about(double[] place, RealMatrix m) {
    further(moving(Vec.mul(place, -1)));
    further(m);
    further(moving(place));
  }

  private static double[] random(SplittableRandom r, double size) {
    return Vec.of(
        size * (2 * r.nextDouble() - 1),
        size * (2 * r.nextDouble() - 1),
        size * (2 * r.nextDouble() - 1));
  }

  /** A step, with the model taken along. */
  private Step next(SplittableRandom r, double size) {
    switch (r.nextInt(8)) {
      case 0 -> {
        int axis = r.nextInt(3);
        double angle = r.nextInt(3) == 0 ? 90 : 360 * r.nextDouble() - 180;
        boolean origin = r.nextBoolean();
        about(origin ? new double[3] : middle(), turning(axis, angle));
        return new Turn(
            Turn.Axis.values()[axis], angle, origin ? Turn.About.ORIGIN : Turn.About.CENTRE);
      }
      case 1 -> {
        double[] move = random(r, size);
        double[] turn = random(r, 170);
        double[] place = random(r, size);
        double factor = Math.exp(0.4 * (2 * r.nextDouble() - 1));
        about(
            place,
            turning(2, turn[2])
                .multiply(turning(1, turn[1]))
                .multiply(turning(0, turn[0]))
                .multiply(scaling(factor)));
        further(moving(move));
        return new Place(move, turn, factor, place);
      }
      case 2 -> {
        // Back to about a metre, so that the run neither grows nor shrinks away.
        double[][] b = box();
        double to = 0.5 + r.nextDouble();
        further(scaling(to / (b[1][2] - b[0][2])));
        return new Scale(null, new Length(to), null, Scale.Along.HEIGHT);
      }
      case 3 -> {
        Origin.At at =
            List.of(Origin.At.BASE_CENTRE, Origin.At.BOX_CENTRE, Origin.At.KEPT).get(r.nextInt(3));
        boolean rest = r.nextBoolean();
        double[] to = at == Origin.At.KEPT ? new double[3] : middle();
        to[2] = rest || at == Origin.At.BASE_CENTRE ? box()[0][2] : to[2];
        further(moving(Vec.mul(to, -1)));
        return new Origin(at, null, null, Origin.Corner.LEFT_FRONT_BOTTOM, rest);
      }
      case 4 -> {
        double[] to = random(r, size);
        further(moving(Vec.mul(to, -1)));
        return new Origin(Origin.At.POINT, to);
      }
      case 5 -> {
        String name = "place " + r.nextInt(3);
        kept.put(name, model);
        return new KeepFrame(KeepFrame.Do.KEEP, name, null, null);
      }
      case 6 -> {
        if (kept.isEmpty()) {
          return next(r, size);
        }
        String name = kept.keySet().stream().sorted().toList().get(r.nextInt(kept.size()));
        model = kept.get(name);
        return new KeepFrame(KeepFrame.Do.USE, name, null, null);
      }
      default -> {
        Length.Unit unit = Length.Unit.values()[r.nextInt(3)];
        double now = Math.cbrt(det(model)) / Math.cbrt(det(toFile));
        further(scaling(unit.metres() / now));
        return new DeclareUnit(unit);
      }
    }
  }

  private static double det(RealMatrix m) {
    double[][] a = m.getData();
    return a[0][0] * (a[1][1] * a[2][2] - a[1][2] * a[2][1])
        - a[0][1] * (a[1][0] * a[2][2] - a[1][2] * a[2][0])
        + a[0][2] * (a[1][0] * a[2][1] - a[1][1] * a[2][0]);
  }

  private void check(Workpiece w) {
    assertThat(w.scan()).isSameAs(mesh);
    double size = Vec.length(Vec.sub(box()[1], box()[0]));
    for (int v = 0; v < mesh.vertexCount(); v += 7) {
      double[] p = Vec.at(mesh.xyz(), v);
      double[] is = w.frame().toWork().apply(p);
      double far = Vec.length(is) + size;
      assertThat(Vec.distance(is, apply(model, p))).isLessThan(1e-9 * far);
    }
    double[] r = w.frame().toWork().rotation();
    for (int i = 0; i < 3; i++) {
      for (int k = 0; k < 3; k++) {
        double dot = 0;
        for (int j = 0; j < 3; j++) {
          dot += r[3 * i + j] * r[3 * k + j];
        }
        assertThat(dot).isCloseTo(i == k ? 1 : 0, within(1e-12));
      }
    }
  }

  @Test
  void runsOfStepsAreProductsOfMatrices() {
    for (int seed = 0; seed < 6; seed++) {
      SplittableRandom r = new SplittableRandom(seed);
      mesh = Shapes.torus(1 + seed, 0.4, 24, 10);
      Similarity file =
          Similarity.scaling(Math.exp(3 * r.nextDouble()))
              .then(Similarity.turning(Vec.of(0.6, 0, 0.8), r.nextDouble()))
              .then(Similarity.translation(random(r, 1e5)));
      toFile = matrix(file);
      model = MatrixUtils.createRealIdentityMatrix(4);
      kept.clear();
      Workpiece begin = Workpiece.of(mesh, new Frame(file, Similarity.IDENTITY, false));
      History h = History.of(begin, new Checkpoints(1 << 28, dir.resolve("states" + seed)));
      for (int i = 0; i < STEPS; i++) {
        Step s = next(r, 2);
        h = h.apply(s, Run.unwatched());
        check(h.current());
      }
      again(h, begin);
    }
  }

  /** The Log as a file, replayed on one thread, gives the same to the last bit. */
  private void again(History h, Workpiece begin) {
    Path file = dir.resolve("steps.json");
    new LogFile(h.entries(), "torus.ply").write(file);
    LogFile read = LogFile.read(file);
    assertThat(read.entries()).hasSize(STEPS);
    Parallel.limitThreads(1);
    try {
      History again =
          History.of(begin, new Checkpoints(1 << 28, dir.resolve("again")))
              .replay(read.entries(), Run.unwatched());
      assertThat(again.current().frame().toWork()).isEqualTo(h.current().frame().toWork());
      assertThat(again.current().frame().named()).isEqualTo(h.current().frame().named());
      for (int i = 0; i <= STEPS; i += 17) {
        assertThat(again.stateAfter(i).frame()).isEqualTo(h.stateAfter(i).frame());
      }
    } finally {
      Parallel.limitThreads(1 << 10);
    }
  }

  /** What levelling and facing promise, whatever came before. */
  @Test
  void levelAndFrontDoWhatTheySayFromAnyPlacing() {
    SplittableRandom r = new SplittableRandom(77);
    mesh = Shapes.torus(1, 0.3, 30, 12);
    for (int i = 0; i < 300; i++) {
      Similarity place =
          Similarity.scaling(Math.exp(2 * r.nextDouble() - 1))
              .then(Similarity.turning(Vec.unit(random(r, 1)), 6 * r.nextDouble()))
              .then(Similarity.translation(random(r, 50)));
      Workpiece w = Workpiece.of(mesh, new Frame(Similarity.IDENTITY, place, true));
      double[][] p = {random(r, 3), random(r, 3), random(r, 3)};
      double[] all = new double[9];
      for (int k = 0; k < 3; k++) {
        System.arraycopy(p[k], 0, all, 3 * k, 3);
      }
      Step level = new Level(Level.By.POINTS, null, null, all, null, 1);
      Workpiece flat = level.apply(w, Run.unwatched()).work();
      double[] z = new double[3];
      for (int k = 0; k < 3; k++) {
        z[k] = flat.frame().toWork().apply(w.frame().toBase(p[k]))[2];
      }
      assertThat(z[1]).isCloseTo(z[0], within(1e-9));
      assertThat(z[2]).isCloseTo(z[0], within(1e-9));
      // Nothing is stretched, and what was up does not come to lie below.
      assertThat(flat.frame().toWork().scale()).isCloseTo(place.scale(), within(1e-12));
      double[] wasUp = w.frame().toWork().inverse().direction(Vec.of(0, 0, 1));
      assertThat(flat.frame().toWork().direction(wasUp)[2]).isGreaterThan(0);

      double[] from = random(r, 2);
      double[] to = Vec.add(from, random(r, 2));
      double[] line = {from[0], from[1], from[2], to[0], to[1], to[2]};
      Workpiece faced =
          new Front(Front.By.DIRECTION, line, null, null, null).apply(flat, Run.unwatched()).work();
      double[] a = faced.frame().toWork().apply(flat.frame().toBase(from));
      double[] b = faced.frame().toWork().apply(flat.frame().toBase(to));
      assertThat(b[0] - a[0]).isCloseTo(0, within(1e-9));
      assertThat(b[1]).isLessThan(a[1]);
      // Facing is a turn about the vertical alone.
      assertThat(b[2] - a[2]).isCloseTo(to[2] - from[2], within(1e-9));
    }
  }
}
