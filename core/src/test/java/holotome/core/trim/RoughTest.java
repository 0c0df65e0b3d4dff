package holotome.core.trim;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Naive;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.log.Catalogue;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.BrushStroke;
import holotome.core.select.Facing;
import holotome.core.select.Fence;
import holotome.core.select.Heights;
import holotome.core.select.IslandSizes;
import holotome.core.select.Linked;
import holotome.core.select.Pick;
import holotome.core.select.Region;
import holotome.core.select.Reshape;
import holotome.core.select.Rim;
import holotome.core.select.Rule;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Islands;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Selecting and cutting where there is next to nothing, everything at once, or far away. */
class RoughTest {
  private static final List<Integer> VIEW = List.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1);
  private static final double[] VIEWED = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};

  private static Map<String, Mesh> meshes() {
    Map<String, Mesh> out = new LinkedHashMap<>();
    out.put("empty", new Mesh(new float[0], new int[0]));
    out.put("points only", new Mesh(new float[] {0, 0, 0, 1, 1, 1}, new int[0]));
    out.put(
        "one triangle", new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0.5f}, new int[] {0, 1, 2}));
    out.put("a point as a triangle", new Mesh(new float[9], new int[] {0, 1, 2}));
    out.put("one vertex thrice", new Mesh(new float[] {1, 2, 3}, new int[] {0, 0, 0}));
    out.put("a mess", Shapes.mess(300, 3));
    out.put("far away", Shapes.moved(Shapes.sphere(1, 2), 3e6, -4e6, 1e6));
    out.put("huge", scaled(1e12f));
    out.put("tiny", scaled(1e-12f));
    return out;
  }

  private static Mesh scaled(float by) {
    Mesh m = Shapes.sphere(1, 2);
    float[] p = m.xyz().clone();
    for (int i = 0; i < p.length; i++) {
      p[i] *= by;
    }
    return m.withPositions(p);
  }

  /** Every step of trimming gives a sound mesh or says in a line why it cannot. */
  @Test
  void everyCutGivesASoundMeshOrAPlainLine() {
    List<Map<String, Object>> steps =
        List.of(
            Map.of("do", "trim.islands", "keep", "larger", "triangles", 2, "near", 0.5),
            Map.of("do", "trim.ground"),
            Map.of("do", "trim.ground", "along", "ground"),
            Map.of("do", "trim.ground", "along", "seam"),
            plane("flat", "front"),
            plane("even", "both"),
            Map.of("do", "trim.fence", "fence", fence(), "keep", "inside"),
            Map.of("do", "trim.fence", "fence", fence()),
            Map.of("do", "trim.box", "box", box(), "close", "even"),
            Map.of("do", "trim.box", "box", box(), "keep", "outside"),
            Map.of("do", "trim.fringe", "thin", 0.5),
            Map.of("do", "mend.flip"));
    List<String> troubles = new ArrayList<>();
    meshes()
        .forEach(
            (name, m) -> {
              for (Map<String, Object> s : steps) {
                try {
                  Naive.assertSound(
                      Catalogue.create(s)
                          .apply(Workpiece.of(m, Frame.PLAIN), Run.unwatched())
                          .work()
                          .scan());
                } catch (Failure f) {
                  assertThat(f.getMessage())
                      .as("%s: %s", name, s)
                      .isNotBlank()
                      .doesNotContain("\n");
                } catch (RuntimeException e) {
                  troubles.add(name + ": " + s + ": " + e + " at " + e.getStackTrace()[0]);
                }
              }
            });
    assertThat(troubles).isEmpty();
  }

  private static Map<String, Object> plane(String close, String keep) {
    return Map.of(
        "do",
        "trim.plane",
        "point",
        List.of(0.2, 0.1, 0),
        "normal",
        List.of(1, 2, 1),
        "close",
        close,
        "keep",
        keep);
  }

  private static Map<String, Object> fence() {
    return Map.of("view", VIEW, "outline", List.of(-0.3, -0.2, 0.7, 0, 0.2, 0.9));
  }

  private static Map<String, Object> box() {
    return Map.of("centre", List.of(0.2, 0.1, 0), "size", List.of(0.6, 0.8, 1));
  }

  @Test
  void everyRuleAndChangeTakesWhatThereIs() {
    List<Rule> rules =
        List.of(
            new Fence(VIEWED, new double[] {0, 0, 0, 0, 0, 0}),
            new Fence(VIEWED, new double[] {0.1, 0.1}, 0.4),
            new Region(new double[3], new double[] {1, 1, 1}, new double[] {1, 2, 3}),
            new Heights(new Length(0), null, new double[] {0, 0, 1}),
            new Facing(new double[] {0, 0, 1}, 30),
            new IslandSizes(1, null, null, null, new Length(0.5)),
            new Rim(2),
            new Linked(new double[3], 30),
            new Linked(new double[3], 180),
            new BrushStroke(new double[3], new Length(0.3)));
    meshes()
        .forEach(
            (name, m) -> {
              for (Rule rule : rules) {
                BitSet s =
                    Pick.of(Pick.Join.ADD, rule)
                        .apply(new BitSet(), m, Frame.PLAIN, Work.unwatched());
                assertThat(s.length())
                    .as("%s: %s", name, rule)
                    .isLessThanOrEqualTo(m.triangleCount());
                for (Reshape.How how : Reshape.How.values()) {
                  BitSet t = new Reshape(how, 2).apply(s, m, Work.unwatched());
                  assertThat(t.length())
                      .as("%s: %s", name, how)
                      .isLessThanOrEqualTo(m.triangleCount());
                }
              }
              TrimReview r = TrimReview.of(m, Islands.of(m), Adjacency.of(m), Work.unwatched());
              assertThat(r.backs()).as(name).isBetween(0.0, 1.0);
            });
  }
}
