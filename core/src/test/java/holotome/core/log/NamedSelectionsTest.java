package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.select.BrushStroke;
import holotome.core.select.Facing;
import holotome.core.select.Fence;
import holotome.core.select.Heights;
import holotome.core.select.IslandSizes;
import holotome.core.select.Likeness;
import holotome.core.select.Linked;
import holotome.core.select.Pick;
import holotome.core.select.Region;
import holotome.core.select.Reshape;
import holotome.core.select.Rim;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.trim.CutSelection;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;

/** Selections in Logs and projects: written, read, and meaning the same afterwards. */
class NamedSelectionsTest {
  private static final double[] VIEW = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};

  private static List<Pick> everyKind(Mesh m) {
    BitSet some = new BitSet();
    some.set(3, 40);
    return List.of(
        Pick.of(Pick.Join.REPLACE, new Heights(new Length(-0.2), null, new double[] {0, 0, 1})),
        Pick.of(Pick.Join.ADD, new Fence(VIEW, new double[] {-1, -1, 0.2, -1, 0, 0.7})),
        Pick.of(Pick.Join.ADD, new Fence(VIEW, new double[] {-1, -1, 0.5, 0.5}, 0.1)),
        Pick.of(
            Pick.Join.TAKE,
            new Region(new double[3], new double[] {0.5, 2.5, 0.4}, new double[] {10, 0, 5})),
        Pick.of(Pick.Join.ADD, new Facing(new double[] {0, 1, 0}, 35)),
        Pick.of(Pick.Join.TAKE, Likeness.of(0x406080, 9)),
        Pick.of(Pick.Join.ADD, new BrushStroke(new double[] {1, 0, 0, 0, 1, 0}, new Length(0.15))),
        Pick.of(Pick.Join.INTERSECT, new IslandSizes(2, null, null, new Length(9), null)),
        Pick.of(Pick.Join.TAKE, new Rim(1)),
        Pick.of(Pick.Join.ADD, new Linked(new double[] {0, 0, 1}, 12)),
        Pick.of(Pick.Join.ADD, some, m.triangleCount()),
        Pick.of(new Reshape(Reshape.How.SMOOTH, 2)),
        Pick.of(Reshape.of(Reshape.How.INVERT)));
  }

  @Test
  void everyKindOfPickComesBackFromALog() {
    Mesh m = Shapes.coloured(Shapes.sphere(1, 4));
    List<Pick> picks = everyKind(m);
    LogFile log =
        new LogFile(List.of(new Entry(CutSelection.of(picks, CutSelection.Then.KEEP), true)), null);
    LogFile back = LogFile.parse(log.text(), "log");
    List<Pick> read = ((CutSelection) back.entries().getFirst().step()).picks();
    assertThat(read).hasSameSizeAs(picks);
    for (int n = 1; n <= picks.size(); n++) {
      assertThat(Pick.all(read.subList(0, n), m, Frame.PLAIN, Work.unwatched()))
          .as("after %d picks", n)
          .isEqualTo(Pick.all(picks.subList(0, n), m, Frame.PLAIN, Work.unwatched()));
    }
    assertThat(back.text()).isEqualTo(log.text());
  }

  @Test
  void namedSelectionsAreKeptInTheirOrder() {
    Mesh m = Shapes.coloured(Shapes.sphere(1, 4));
    Map<String, List<Pick>> named = new LinkedHashMap<>();
    named.put("the rim", List.of(Pick.of(Pick.Join.REPLACE, new Rim(2))));
    named.put("all sorts", everyKind(m));
    LogFile back =
        LogFile.parse(new LogFile(List.of(), List.of("scan.ply"), named, List.of()).text(), "p");
    assertThat(back.source()).isEqualTo("scan.ply");
    assertThat(back.selections().keySet()).containsExactly("the rim", "all sorts");
    assertThat(Pick.all(back.selections().get("all sorts"), m, Frame.PLAIN, Work.unwatched()))
        .isEqualTo(Pick.all(named.get("all sorts"), m, Frame.PLAIN, Work.unwatched()));
  }

  @Test
  void aDamagedSelectionIsNamed() {
    String text =
        "{\"holotome\": 1, \"entries\": [], \"selections\": {\"foot\": [{\"height\": {}}]}}";
    assertThatThrownBy(() -> LogFile.parse(text, "p.holotome"))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("p.holotome: selection \"foot\"")
        .hasMessageContaining("height");
  }

  /** The short forms of earlier Logs still mean what they meant. */
  @Test
  void shortFormsAreReadOn() {
    Mesh m = Shapes.sphere(1, 3);
    String text =
        """
        {"holotome": 1, "entries": [
          {"do": "trim.select", "fence": {"view": [1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1],
           "outline": [0, -2, 2, -2, 2, 2, 0, 2]}, "then": "remove"}]}
        """;
    CutSelection step = (CutSelection) LogFile.parse(text, "x").entries().getFirst().step();
    BitSet set = Pick.all(step.allPicks(), m, Frame.PLAIN, Work.unwatched());
    assertThat(set.cardinality()).isBetween(600, 680);
  }
}
