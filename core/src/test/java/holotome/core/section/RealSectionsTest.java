package holotome.core.section;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import java.util.SplittableRandom;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Sections of the meshes of Debian's libcgal-demo by random planes, beside the slow way. */
class RealSectionsTest {
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
  void nothingIsLostAndClosedStaysClosed(String name) {
    Mesh mesh = MeshReader.read(Datasets.file("cgal/" + name + ".off"), Work.unwatched()).mesh();
    Adjacency a = Adjacency.of(mesh);
    boolean closed = a.borderEdges() == 0 && a.crowdedEdges() == 0 && a.misfitEdges() == 0;
    SplittableRandom random = new SplittableRandom(name.hashCode());
    double[] c = mesh.bounds().centre();
    double size = mesh.bounds().diagonal();
    for (int i = 0; i < 12; i++) {
      double[] n =
          Vec.unit(Vec.of(random.nextGaussian(), random.nextGaussian(), random.nextGaussian()));
      double[] p = Vec.add(c, Vec.mul(n, 0.3 * size * (random.nextDouble() - 0.5)));
      SectionPlane plane = SectionPlane.of(p, n);
      Section s = Slicer.cut(mesh, Similarity.IDENTITY, plane, Work.unwatched());
      double slow = slowLength(mesh, plane);
      assertThat(s.length()).isCloseTo(slow, within(1e-9 * size + 1e-9 * slow));
      if (closed) {
        assertThat(s.openCurves()).as("open curves of %s", name).isZero();
      }
      for (Curve curve : s.curves()) {
        CurveFit fit = CurveFit.of(curve, 1e-3 * size);
        double fitted = length(fit);
        // Within the tolerance everywhere, and never longer by more than what wiggles are lost.
        assertThat(fitted).isLessThan(1.2 * curve.length() + 2e-3 * size);
        assertThat(fit.pieces().size()).isLessThanOrEqualTo(curve.size());
        assertThat(fit.pieces()).allMatch(x -> x.off() <= 1e-3 * size * (1 + 1e-9));
      }
    }
  }

  private static double length(CurveFit fit) {
    if (fit.circle() != null) {
      return 2 * Math.PI * fit.circle().radius();
    }
    double[] at = fit.start();
    double sum = 0;
    for (CurveFit.Piece p : fit.pieces()) {
      double chord = Math.hypot(p.x() - at[0], p.y() - at[1]);
      double half = 2 * Math.atan(Math.abs(p.bulge()));
      sum += p.isArc() ? chord * half / Math.sin(half) : chord;
      at = new double[] {p.x(), p.y()};
    }
    return sum;
  }

  /** Triangle by triangle: the length of each one's share of the plane. */
  private static double slowLength(Mesh mesh, SectionPlane plane) {
    double sum = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      double[][] hit = new double[3][];
      int n = 0;
      for (int k = 0; k < 3; k++) {
        double[] a = Vec.at(mesh.xyz(), mesh.triangles()[3 * t + k]);
        double[] b = Vec.at(mesh.xyz(), mesh.triangles()[3 * t + (k + 1) % 3]);
        double ha = Vec.dot(a, plane.normal()) - plane.offset();
        double hb = Vec.dot(b, plane.normal()) - plane.offset();
        if (ha >= 0 != hb >= 0) {
          hit[n++] = Vec.add(a, Vec.mul(Vec.sub(b, a), ha / (ha - hb)));
        }
      }
      sum += n == 2 ? Vec.distance(hit[0], hit[1]) : 0;
    }
    return sum;
  }
}
