package holotome.app.pane;

import holotome.core.geometry.Similarity;
import holotome.view.camera.Camera;
import java.util.function.BinaryOperator;
import java.util.function.UnaryOperator;

/** How the camera of a pane beside the view follows that of the view, and leads it. */
final class Links {
  private Links() {}

  /**
   * @param follow the other's camera, from the view's
   * @param lead the view's camera, from what it was and the other's as it was moved
   * @param turns whether the other can be turned by hand
   */
  record Link(UnaryOperator<Camera> follow, BinaryOperator<Camera> lead, boolean turns) {}

  /** A camera that looks at the same part of the work, as large, where it stands elsewhere. */
  static Camera carried(Camera c, Similarity from, Similarity to) {
    boolean same = from == null || to == null || from.equals(to);
    return same ? c : c.following(from.inverse().then(to));
  }

  /** The same camera in both. */
  static final Link TOGETHER = new Link(c -> c, (was, other) -> other, true);

  /**
   * @param yaw how far the other looks from farther to the right, in radians
   */
  static Link turned(double yaw) {
    return new Link(
        c -> c.turned(yaw, 0, c.target()), (was, o) -> o.turned(-yaw, 0, o.target()), true);
  }

  /** Always along an axis, without perspective, at the same place and as near. */
  static Link along(Camera.Direction d) {
    return new Link(
        c -> c.looking(c.target(), d.yaw(), d.pitch()).withPerspective(false),
        (was, o) ->
            o.looking(o.target(), was.yaw(), was.pitch()).withPerspective(was.perspective()),
        false);
  }
}
