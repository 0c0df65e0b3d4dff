package holotome.app.pane;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;
import static org.mockito.ArgumentMatchers.any;
import static org.mockito.ArgumentMatchers.anyDouble;
import static org.mockito.ArgumentMatchers.anyInt;
import static org.mockito.Mockito.doAnswer;
import static org.mockito.Mockito.mock;
import static org.mockito.Mockito.when;

import holotome.app.tool.ViewPort;
import holotome.core.geometry.Box;
import holotome.view.camera.Camera;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import javafx.scene.canvas.GraphicsContext;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;

/** What stands beside the work is drawn at its true size, on the work's floor. */
class FamiliarThingsTest {
  private static final int WIDTH = 1000;
  private static final int HEIGHT = 800;

  private final GraphicsContext g = mock(GraphicsContext.class);
  private final List<double[][]> outlines = new ArrayList<>();
  private final List<String> texts = new ArrayList<>();

  @BeforeEach
  void listen() {
    doAnswer(
            i -> {
              outlines.add(
                  new double[][] {
                    ((double[]) i.getArgument(0)).clone(), ((double[]) i.getArgument(1)).clone()
                  });
              return null;
            })
        .when(g)
        .strokePolygon(any(), any(), anyInt());
    doAnswer(
            i -> {
              texts.add(i.getArgument(0));
              return null;
            })
        .when(g)
        .fillText(any(), anyDouble(), anyDouble());
  }

  /** From the front, in parallel, so that a metre is so many pixels wherever it is. */
  private static ViewPort view(Box b, double height, double yaw, double pitch) {
    Camera c = new Camera(b.centre(), height, yaw, pitch, false).withPerspective(false);
    ViewPort v = mock(ViewPort.class);
    when(v.camera()).thenReturn(c);
    when(v.width()).thenReturn((double) WIDTH);
    when(v.height()).thenReturn((double) HEIGHT);
    double[] m = c.toPixels(WIDTH, HEIGHT, b);
    when(v.toPixels()).thenReturn(m);
    when(v.project(any())).thenCallRealMethod();
    return v;
  }

  private static double extent(double[] v) {
    return Arrays.stream(v).max().orElseThrow() - Arrays.stream(v).min().orElseThrow();
  }

  @Test
  void besideABollardStandAHandAndAPersonAtTheirSize() {
    Box b = new Box(-0.26, -0.26, 0, 0.26, 0.26, 0.64);
    ViewPort v = view(b, 6, 0.4, 0);
    double[] foot = v.project(new double[] {0, 0, 0});
    double[] head = v.project(new double[] {0, 0, 1});
    double metre = foot[1] - head[1];
    FamiliarThings.draw(g, v, b);
    assertThat(outlines).hasSize(2);
    assertThat(texts).containsExactly("hand, 190 mm", "person, 1.75 m");
    assertThat(extent(outlines.get(0)[1])).isCloseTo(0.19 * metre, within(0.01));
    assertThat(extent(outlines.get(1)[1])).isCloseTo(1.75 * metre, within(0.01));
    for (double[][] o : outlines) {
      // Level with the work's lowest point, and beside it.
      assertThat(Arrays.stream(o[1]).max().orElseThrow()).isCloseTo(foot[1], within(0.01));
    }
    assertThat(Arrays.stream(outlines.get(0)[0]).max().orElseThrow()).isLessThan(foot[0]);
    assertThat(Arrays.stream(outlines.get(1)[0]).min().orElseThrow()).isGreaterThan(foot[0]);
  }

  @Test
  void whereThePersonDoesNotFitASmallDrawingShowsBoth() {
    Box b = new Box(-0.26, -0.26, 0, 0.26, 0.26, 0.64);
    FamiliarThings.draw(g, view(b, 1.8, 0.4, 0.2), b);
    // The hand in the scene; hand and person in the drawing.
    assertThat(outlines).hasSize(3);
    assertThat(texts).contains("beside a hand, 190 mm", "and a person, 1.75 m");
    double drawn = extent(outlines.get(2)[1]) / extent(outlines.get(1)[1]);
    assertThat(drawn).isCloseTo(1.75 / 0.19, within(0.01));
  }

  @Test
  void aScanInTheWrongUnitIsSeenAtOnce() {
    // 640 m instead of 640 mm: a door and a person are specks beside it.
    Box b = new Box(-260, -260, 0, 260, 260, 640);
    ViewPort v = view(b, 1500, 0.4, 0);
    FamiliarThings.draw(g, v, b);
    assertThat(outlines).hasSize(2);
    assertThat(extent(outlines.get(0)[1])).isLessThan(3);
    assertThat(texts).anyMatch(t -> t.contains("door")).anyMatch(t -> t.contains("person"));
    outlines.clear();
    texts.clear();
    // 0.64 mm: a coin does not fit beside it.
    Box small = new Box(-0.00026, -0.00026, 0, 0.00026, 0.00026, 0.00064);
    FamiliarThings.draw(g, view(small, 0.0015, 0.4, 0), small);
    assertThat(texts).anyMatch(t -> t.contains("coin"));
  }

  @Test
  void fromAboveTheyAreShownInTheDrawingOnly() {
    Box b = new Box(-0.26, -0.26, 0, 0.26, 0.26, 0.64);
    FamiliarThings.draw(g, view(b, 8, 0, Math.PI / 2), b);
    assertThat(outlines).hasSize(2);
    assertThat(texts).anyMatch(t -> t.startsWith("beside a"));
  }
}
