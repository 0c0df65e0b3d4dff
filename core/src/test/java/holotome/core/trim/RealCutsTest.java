package holotome.core.trim;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Naive;
import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Fence;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.Random;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Cuts of ten meshes of Debian's libcgal-demo by random planes and fences. */
class RealCutsTest {
  private static final int PLANES = 6;

  private static Mesh read(String name) {
    return MeshReader.read(Datasets.file("cgal/" + name + ".off"), Work.unwatched()).mesh();
  }

  /** Whether every edge has just two triangles, one each way: what a cap can close again. */
  private static boolean isClosed(Mesh m) {
    Adjacency a = Adjacency.of(m);
    return a.borderEdges() == 0 && a.crowdedEdges() == 0 && a.misfitEdges() == 0;
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "elephant",
        "armadillo",
        "bones",
        "camel",
        "couplingdown",
        "dino",
        "fandisk",
        "femur",
        "knot2",
        "lion-head"
      })
  void cappedCutsAreClosedWhereTheMeshWas(String name) {
    Mesh m = read(name);
    boolean closed = isClosed(m);
    Random r = new Random(name.hashCode());
    Box b = m.bounds();
    double volume = Math.abs(Measures.volume(m));
    for (int i = 0; i < PLANES; i++) {
      double[] n = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      double[] p = b.centre();
      for (int k = 0; k < 3; k++) {
        p[k] += 0.25 * (r.nextDouble() - 0.5) * (b.max()[k] - b.min()[k]);
      }
      PlaneCut.Close close = i % 2 == 0 ? PlaneCut.Close.FLAT : PlaneCut.Close.EVEN;
      Mesh front = cut(m, p, n, close);
      Mesh back = cut(m, p, Vec.mul(n, -1), close);
      Naive.assertSound(front);
      if (!closed) {
        continue;
      }
      for (Mesh half : new Mesh[] {front, back}) {
        assertThat(isClosed(half)).as("%s, plane %d, %s", name, i, close).isTrue();
      }
      assertThat(Math.abs(Measures.volume(front)) + Math.abs(Measures.volume(back)))
          .as("%s, plane %d", name, i)
          .isCloseTo(volume, within(1e-4 * volume));
    }
  }

  private static Mesh cut(Mesh m, double[] p, double[] n, PlaneCut.Close close) {
    return new PlaneCut(p, n, close)
        .apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched())
        .work()
        .scan();
  }

  /** A fence parts a mesh without losing or adding surface, and opens nothing but its line. */
  @ParameterizedTest
  @ValueSource(strings = {"elephant", "camel", "dino", "hand"})
  void fencesPartAMeshWithoutLoss(String name) {
    Mesh m = read(name);
    Random r = new Random(7);
    Box b = m.bounds();
    double size = b.diagonal();
    double[] view = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, -0.1 / size, 1};
    for (int i = 0; i < 4; i++) {
      int corners = 5 + r.nextInt(60);
      double[] o = new double[2 * corners];
      for (int k = 0; k < corners; k++) {
        double a = 2 * Math.PI * k / corners;
        double radius = size * (0.1 + 0.15 * r.nextDouble());
        o[2 * k] = b.centre()[0] + radius * Math.cos(a);
        o[2 * k + 1] = b.centre()[1] + radius * Math.sin(a);
      }
      Fence fence = new Fence(view, o);
      Workpiece w = Workpiece.of(m, Frame.PLAIN);
      try {
        Mesh in = new CutFence(fence, CutFence.Keep.INSIDE).apply(w, Run.unwatched()).work().scan();
        Mesh out =
            new CutFence(fence, CutFence.Keep.OUTSIDE).apply(w, Run.unwatched()).work().scan();
        Naive.assertSound(in);
        assertThat(Measures.area(in) + Measures.area(out))
            .isCloseTo(Measures.area(m), within(1e-5 * Measures.area(m)));
        long opened = Naive.border(m);
        // Both sides of the line have the same edges along it.
        assertThat(Naive.border(in) - Naive.border(out) - opened).isBetween(-2 * opened, 0L);
        assertThat(Naive.crowded(in) + Naive.crowded(out)).isEqualTo(Naive.crowded(m));
      } catch (Failure e) {
        assertThat(e).hasMessageContaining("Nothing would be left");
      }
    }
  }
}
