package holotome.core.unwrap;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.unwrap.SeamEdit.How;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.Test;

/**
 * Seams, charts laid over others and charts that stay, on meshes that are not as they should be:
 * all that comes of it is a number in every place, or one plain line.
 */
class RoughHandChartsTest {

  private static Map<String, Mesh> rough() {
    Map<String, Mesh> out = new LinkedHashMap<>();
    float[] one = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    out.put("empty", new Mesh(new float[0], new int[0]));
    out.put("points only", new Mesh(one, new int[0]));
    out.put("one triangle", new Mesh(one, new int[] {0, 1, 2}));
    out.put("doubled", new Mesh(one, new int[] {0, 1, 2, 0, 1, 2, 0, 2, 1}));
    out.put("no area", new Mesh(one, new int[] {0, 0, 1, 1, 1, 1}));
    out.put("mess", Shapes.mess(300, 7));
    out.put("large", noise(1, 1e15f, 0));
    out.put("small", noise(2, 1e-15f, 0));
    out.put("far away", noise(3, 1, 1e6f));
    out.put("no number", noise(4, 1, 0));
    out.get("no number").xyz()[30] = Float.NaN;
    out.put("endless", noise(5, 1, 0));
    out.get("endless").xyz()[31] = Float.POSITIVE_INFINITY;
    out.put("fins", fins());
    return out;
  }

  private static Mesh noise(int seed, float scale, float shift) {
    Mesh sheet = Shapes.sheet(12, 12);
    float[] xyz = sheet.xyz().clone();
    Random random = new Random(seed);
    for (int i = 0; i < xyz.length; i++) {
      float up = i % 3 == 2 ? (float) (2 * random.nextGaussian()) : 0;
      xyz[i] = scale * (xyz[i] + up) + shift;
    }
    return sheet.withPositions(xyz);
  }

  /** A torus with a second copy of half of its triangles, so that edges have three and four. */
  private static Mesh fins() {
    Mesh m = Shapes.torus(2, 0.6, 24, 12);
    int n = m.triangles().length;
    int[] tri = Arrays.copyOf(m.triangles(), n + n / 2);
    System.arraycopy(m.triangles(), 0, tri, n, n / 2);
    return new Mesh(m.xyz(), tri);
  }

  private static boolean areFinite(float[] values) {
    for (float v : values) {
      if (!Float.isFinite(v)) {
        return false;
      }
    }
    return true;
  }

  private static double[] middle(Mesh m, int t) {
    double[] out = new double[3];
    for (int k = 0; k < 9 && 3 * t < m.triangles().length; k++) {
      out[k % 3] += m.xyz()[3 * m.triangles()[3 * t + k / 3] + k % 3] / 3.0;
    }
    return out;
  }

  private static List<Step> steps(Mesh m) {
    double[] a = middle(m, 0);
    double[] b = middle(m, Math.max(0, m.triangleCount() / 2));
    double[] both = Arrays.copyOf(a, 6);
    System.arraycopy(b, 0, both, 3, 3);
    List<Step> out = new ArrayList<>();
    out.add(new EditSeams(List.of(SeamEdit.way(false, both))));
    out.add(new EditSeams(List.of(SeamEdit.way(true, both))));
    out.add(new EditSeams(List.of(SeamEdit.at(How.RING, a))));
    out.add(new EditSeams(List.of(SeamEdit.sharp(20))));
    out.add(new EditSeams(List.of(SeamEdit.at(How.SEW, b))));
    for (LayOver.Fit fit : LayOver.Fit.values()) {
      out.add(new LayOver(a, b, fit, LayOver.Mirror.BETTER));
    }
    for (ProjectCharts.How how : ProjectCharts.How.values()) {
      out.add(new ProjectCharts(how, null, null, null));
      out.add(new ProjectCharts(how, a, new double[] {1, 2, 3}, null));
    }
    for (StraightenCharts.How how : StraightenCharts.How.values()) {
      out.add(new StraightenCharts(how, null));
    }
    out.add(new KeepCharts(KeepCharts.How.SECOND));
    out.add(new PackCharts(512, 2, true, a));
    out.add(new PackCharts(2, 3.0));
    return out;
  }

  @Test
  void aNumberEverywhereOrOnePlainLine() {
    int made = 0;
    for (Map.Entry<String, Mesh> e : rough().entrySet()) {
      Mesh m = e.getValue();
      Workpiece plain = Workpiece.of(m, Frame.PLAIN).withCast(m);
      List<Workpiece> both = new ArrayList<>(List.of(plain));
      try {
        both.add(new MakeCharts(512, 2, 1.05, 0, 180).apply(plain, Run.unwatched()).work());
      } catch (Failure f) {
        assertThat(f.kind()).isEqualTo(Failure.Kind.CANNOT);
      }
      for (Workpiece w : both) {
        for (Step s : steps(m)) {
          try {
            Mesh out = s.apply(w, Run.unwatched()).work().cast();
            assertThat(out.uv().corners()).hasSize(3 * m.triangleCount());
            assertThat(areFinite(out.uv().coords())).as("%s: %s", e.getKey(), s).isTrue();
            made++;
          } catch (RuntimeException any) {
            assertThat(any).as("%s: %s", e.getKey(), s).isInstanceOf(Failure.class);
            Failure f = (Failure) any;
            assertThat(f.kind())
                .as("%s: %s: %s", e.getKey(), s, f.getMessage())
                .isEqualTo(Failure.Kind.CANNOT);
            assertThat(f.getMessage()).doesNotContain("\n").isNotBlank();
          }
        }
      }
    }
    assertThat(made).isGreaterThan(30);
  }
}
