package holotome.view.camera;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import org.joml.Matrix4d;

/**
 * Where the eye stands and how it looks: an immutable value in working space.
 *
 * @param target what is looked at, 3 doubles
 * @param distance from the eye to the target; in parallel views it sets the height shown
 * @param yaw radians about Z; 0 looks along +Y
 * @param pitch radians above the horizon that the eye stands, -pi/2 to pi/2
 * @param perspective else parallel
 * @param focal focal length in millimetres, for a picture 24 mm high: 12 over the tangent of half
 *     the vertical angle of view
 */
public record Camera(
    double[] target, double distance, double yaw, double pitch, boolean perspective, double focal) {

  /** As long as shows 35 degrees from top to bottom. */
  public static final double USUAL_FOCAL = 12 / Math.tan(Math.toRadians(17.5));

  /** A view with the usual focal length. */
  public Camera(double[] target, double distance, double yaw, double pitch, boolean perspective) {
    this(target, distance, yaw, pitch, perspective, USUAL_FOCAL);
  }

  /** Views along an axis, and one askew. */
  public enum Direction {
    FRONT(0, 0),
    RIGHT(Math.PI / 2, 0),
    BACK(Math.PI, 0),
    LEFT(-Math.PI / 2, 0),
    TOP(0, Math.PI / 2),
    BOTTOM(0, -Math.PI / 2),
    ASKEW(Math.toRadians(-28), Math.toRadians(24));

    private final double yaw;
    private final double pitch;

    Direction(double yaw, double pitch) {
      this.yaw = yaw;
      this.pitch = pitch;
    }

    public double yaw() {
      return yaw;
    }

    public double pitch() {
      return pitch;
    }
  }

  /** Shows a whole box from a direction, for a picture of this shape. */
  public static Camera showing(Box box, Direction from, double aspect) {
    return new Camera(box.centre(), 1, from.yaw, from.pitch, true).fitting(box, aspect);
  }

  /** The same direction, moved to just show a whole box. */
  public Camera fitting(Box box, double aspect) {
    double[] c = box.centre();
    double d = 1e-9;
    for (int i = 0; i < 8; i++) {
      double[] corner =
          Vec.of(
              (i & 1) == 0 ? box.minX() : box.maxX(),
              (i & 2) == 0 ? box.minY() : box.maxY(),
              (i & 4) == 0 ? box.minZ() : box.maxZ());
      double[] p = Vec.sub(corner, c);
      double nearer = perspective ? Vec.dot(p, forward()) : 0;
      double x = Math.abs(Vec.dot(p, right())) / (tan() * aspect);
      double y = Math.abs(Vec.dot(p, up())) / tan();
      d = Math.max(d, Math.max(x, y) - nearer);
    }
    return new Camera(c, 1.04 * d, yaw, pitch, perspective, focal);
  }

  public double[] right() {
    return Vec.of(Math.cos(yaw), Math.sin(yaw), 0);
  }

  public double[] forward() {
    double c = Math.cos(pitch);
    return Vec.of(-Math.sin(yaw) * c, Math.cos(yaw) * c, -Math.sin(pitch));
  }

  public double[] up() {
    return Vec.cross(right(), forward());
  }

  public double[] eye() {
    return Vec.sub(target, Vec.mul(forward(), distance));
  }

  /** Turned by angles about a point that stays where it is seen. */
  public Camera turned(double deltaYaw, double deltaPitch, double[] pivot) {
    Camera turned =
        new Camera(
            target,
            distance,
            Math.IEEEremainder(yaw + deltaYaw, 2 * Math.PI),
            Math.clamp(pitch + deltaPitch, -Math.PI / 2, Math.PI / 2),
            perspective,
            focal);
    double[] d = Vec.sub(target, pivot);
    double x = Vec.dot(d, right());
    double y = Vec.dot(d, up());
    double z = Vec.dot(d, forward());
    double[] moved =
        Vec.add(
            pivot,
            Vec.add(
                Vec.mul(turned.right(), x),
                Vec.add(Vec.mul(turned.up(), y), Vec.mul(turned.forward(), z))));
    return new Camera(moved, distance, turned.yaw, turned.pitch, perspective, focal);
  }

  public Camera looking(Direction from) {
    return new Camera(target, distance, from.yaw, from.pitch, perspective, focal);
  }

  /** At a place, from as far as before, along angles. */
  public Camera looking(double[] at, double toYaw, double toPitch) {
    return new Camera(at, distance, toYaw, toPitch, perspective, focal);
  }

  /** At a place, from the side that a direction points to. */
  public Camera lookingFrom(double[] direction, double[] at) {
    double[] n = Vec.unit(direction);
    double level = Math.hypot(n[0], n[1]);
    return looking(
        at, level < 1e-9 ? yaw : Math.atan2(n[0], -n[1]), Math.asin(Math.clamp(n[2], -1.0, 1.0)));
  }

  /** With another focal length; what is at the target stays as large. */
  public Camera withFocal(double to) {
    return new Camera(target, distance * to / focal, yaw, pitch, perspective, to);
  }

  /** Half the angle of view from top to bottom, as its tangent. */
  private double tan() {
    return 12 / focal;
  }

  /** Shifted so that what is at the target's depth follows the pointer by so many pixels. */
  public Camera shifted(double dx, double dy, int height) {
    double unit = 2 * tan() * distance / height;
    double[] t = Vec.add(target, Vec.add(Vec.mul(right(), -dx * unit), Vec.mul(up(), dy * unit)));
    return new Camera(t, distance, yaw, pitch, perspective, focal);
  }

  /** Nearer (factor below 1) or farther from a point, which stays where it is seen. */
  public Camera closer(double factor, double[] point) {
    double[] t = Vec.add(point, Vec.mul(Vec.sub(target, point), factor));
    return new Camera(t, distance * factor, yaw, pitch, perspective, focal);
  }

  /**
   * Follows the work when its place changes: looks at the same part of it, as large as before, from
   * the same side of the room, so that a turn is seen as one.
   */
  public Camera following(Similarity change) {
    return new Camera(
        change.apply(target), distance * change.scale(), yaw, pitch, perspective, focal);
  }

  public Camera withPerspective(boolean on) {
    return new Camera(target, distance, yaw, pitch, on, focal);
  }

  /** The length in working space of one pixel at the target. */
  public double unitsPerPixel(int height) {
    return 2 * tan() * distance / height;
  }

  /**
   * From working space to pixels: 4 x 4 by rows, homogeneous; x to the right, y down, both in
   * pixels, depth from 0 (near) to 1 (far), w above zero in front of the eye.
   *
   * @param scene what must lie between near and far
   */
  public double[] toPixels(int width, int height, Box scene) {
    double reach =
        Math.max(1e-9, Vec.distance(scene.centre(), target) + scene.diagonal() / 2) * 1.01;
    double aspect = (double) width / height;
    Matrix4d m = new Matrix4d();
    if (perspective) {
      double near = Math.max(distance - reach, distance * 0.01);
      double far = distance + reach;
      double top = near * tan();
      m.frustum(-top * aspect, top * aspect, -top, top, near, far, true);
    } else {
      double top = distance * tan();
      m.ortho(-top * aspect, top * aspect, -top, top, distance - reach, distance + reach, true);
    }
    double[] e = eye();
    double[] u = up();
    m.lookAt(e[0], e[1], e[2], target[0], target[1], target[2], u[0], u[1], u[2]);
    Matrix4d screen =
        new Matrix4d()
            .translate(width / 2.0, height / 2.0, 0)
            .scale(width / 2.0, -height / 2.0, 1)
            .mul(m);
    double[] out = new double[16];
    for (int r = 0; r < 4; r++) {
      for (int c = 0; c < 4; c++) {
        out[4 * r + c] = screen.get(c, r);
      }
    }
    return out;
  }

  /** The ray through a pixel: origin and unit direction, 6 doubles. */
  public double[] ray(double x, double y, int width, int height) {
    double unit = 2 * tan() / height;
    double dx = (x - width / 2.0) * unit;
    double dy = (height / 2.0 - y) * unit;
    double[] side = Vec.add(Vec.mul(right(), dx), Vec.mul(up(), dy));
    double[] o;
    double[] d;
    if (perspective) {
      o = eye();
      d = Vec.unit(Vec.add(forward(), side));
    } else {
      o = Vec.add(eye(), Vec.mul(side, distance));
      d = forward();
    }
    return new double[] {o[0], o[1], o[2], d[0], d[1], d[2]};
  }
}
