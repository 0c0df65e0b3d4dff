package holotome.app.pane;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.view.camera.Camera;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Consumer;
import org.junit.jupiter.api.Test;

class WheelZoomTest {
  private Camera camera =
      Camera.showing(new Box(-1, -1, -1, 1, 1, 1), Camera.Direction.ASKEW, 1.25);
  private final List<Consumer<double[]>> asked = new ArrayList<>();
  private final WheelZoom wheel =
      new WheelZoom((x, y, answer) -> asked.add(answer), () -> camera, c -> camera = c);

  private double away(double[] from) {
    return Vec.distance(camera.eye(), from);
  }

  @Test
  void turnsAddUpUntilThePlaceIsKnown() {
    double[] place = {0.4, 0.3, 0.9};
    Camera before = camera;
    wheel.turned(100, 100, 40);
    wheel.turned(100, 100, 40);
    assertThat(camera).isSameAs(before);
    assertThat(asked).hasSize(1);
    double far = away(place);
    asked.getFirst().accept(place);
    assertThat(away(place) / far).isCloseTo(Math.pow(0.9985, 80), within(1e-6));
    // In the same run the place is known.
    far = away(place);
    wheel.turned(101, 100, 40);
    assertThat(asked).hasSize(1);
    assertThat(away(place) / far).isCloseTo(Math.pow(0.9985, 40), within(1e-6));
  }

  @Test
  void elsewhereItIsAskedAnew() {
    wheel.turned(100, 100, 40);
    asked.getFirst().accept(new double[] {0, 0, 1});
    wheel.turned(200, 100, 40);
    assertThat(asked).hasSize(2);
    double[] other = {1, 0, 0};
    double far = away(other);
    asked.get(1).accept(other);
    assertThat(away(other)).isLessThan(far);
  }

  @Test
  void overNothingItComesCloserToTheMiddleOfTheView() {
    double[] middle = camera.target();
    double far = away(middle);
    wheel.turned(5, 5, 100);
    asked.getFirst().accept(null);
    assertThat(away(middle) / far).isCloseTo(Math.pow(0.9985, 100), within(1e-6));
    assertThat(Vec.distance(camera.target(), middle)).isLessThan(1e-9);
  }

  @Test
  void backwardsItGoesAway() {
    double far = camera.distance();
    wheel.turned(5, 5, -100);
    asked.getFirst().accept(null);
    assertThat(camera.distance()).isGreaterThan(far);
  }
}
