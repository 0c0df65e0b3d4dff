package holotome.core.measure;

import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.solve.CircleFit;
import holotome.core.solve.CylinderFit;
import holotome.core.solve.PlaneFit;
import holotome.core.solve.SphereFit;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.List;

/** Takes measurements on a mesh as it stands in its frame. */
public final class Measuring {
  private static final int ROUND = 72;

  private final Mesh mesh;
  private final Frame frame;
  private final Work work;

  private Measuring(Mesh mesh, Frame frame, Work work) {
    this.mesh = mesh;
    this.frame = frame;
    this.work = work;
  }

  /**
   * Takes a measurement.
   *
   * @throws holotome.core.task.Failure where there is nothing of the kind to measure there
   */
  public static Measured of(Measurement m, Mesh mesh, Frame frame, Work work) {
    return new Measuring(mesh, frame, work).take(m);
  }

  private Measured take(Measurement m) {
    return switch (m.kind()) {
      case DISTANCE -> distance(m);
      case SURFACE -> surface(m);
      case FROM_PLANE -> fromPlane(m);
      case ANGLE -> angle(m);
      case CIRCLE -> circle(m);
      case SPHERE -> sphere(m);
      case CYLINDER -> cylinder(m);
      case PLANE -> flatness(m);
      case SIZE -> size(m);
      case SMALLEST_BOX -> smallestBox(m);
      case AREA -> area(m);
      case VOLUME -> volume(m);
    };
  }

  private double[] base(Measurement m, int pin) {
    return frame.toFile().inverse().apply(m.pins().get(pin).at());
  }

  private double[] work(Measurement m, int pin) {
    return frame.toWork().apply(base(m, pin));
  }

  private Patch patch(Measurement m, int pin) {
    double reach = m.pins().get(pin).reach() / frame.toFile().scale();
    return Patch.around(mesh, base(m, pin), reach, work);
  }

  private double scale() {
    return frame.toWork().scale();
  }

  private String length(double metres) {
    return Length.format(metres, frame.trueSize());
  }

  private static double[] line(double[]... points) {
    double[] out = new double[3 * points.length];
    for (int i = 0; i < points.length; i++) {
      System.arraycopy(points[i], 0, out, 3 * i, 3);
    }
    return out;
  }

  private static double[] between(double[] a, double[] b) {
    return Vec.mul(Vec.add(a, b), 0.5);
  }

  private Measured distance(Measurement m) {
    double[] a = work(m, 0);
    double[] b = work(m, 1);
    double[] d = Vec.sub(b, a);
    return new Measured(
        m,
        Vec.length(d),
        Measured.Quantity.LENGTH,
        Double.NaN,
        List.of(
            Language.format(
                "X %s, Y %s, Z %s",
                length(Math.abs(d[0])), length(Math.abs(d[1])), length(Math.abs(d[2])))),
        List.of(line(a, b)),
        between(a, b));
  }

  private Measured surface(Measurement m) {
    SurfacePath path = SurfacePath.between(mesh, base(m, 0), base(m, 1), work);
    double[] p = path.points().clone();
    for (int i = 0; i < p.length; i += 3) {
      System.arraycopy(frame.toWork().apply(p[i], p[i + 1], p[i + 2]), 0, p, i, 3);
    }
    int half = p.length / 6 * 3;
    return new Measured(
        m,
        path.length() * scale(),
        Measured.Quantity.LENGTH,
        Double.NaN,
        List.of(CoreWords.of("measuring.straight", length(Vec.distance(work(m, 0), work(m, 1))))),
        List.of(p),
        Vec.of(p[half], p[half + 1], p[half + 2]));
  }

  private Measured fromPlane(Measurement m) {
    PlaneFit plane = patch(m, 0).plane();
    double[] o = frame.toWork().apply(plane.point());
    double[] n = frame.toWork().direction(plane.normal());
    double[] p = work(m, 1);
    double d = Vec.dot(Vec.sub(p, o), n);
    double[] foot = Vec.sub(p, Vec.mul(n, d));
    List<double[]> lines = new ArrayList<>(ring(o, n, m.pins().get(0).reach() * fileToWork()));
    lines.add(line(p, foot));
    return new Measured(
        m,
        Math.abs(d),
        Measured.Quantity.LENGTH,
        plane.rms() * scale(),
        List.of(
            d >= 0
                ? CoreWords.of("measuring.in-front-of-the-plane")
                : CoreWords.of("measuring.behind-the-plane")),
        lines,
        between(p, foot));
  }

  private double fileToWork() {
    return scale() / frame.toFile().scale();
  }

  private Measured angle(Measurement m) {
    PlaneFit a = patch(m, 0).plane();
    PlaneFit b = patch(m, 1).plane();
    double sin = Vec.length(Vec.cross(a.normal(), b.normal()));
    double degrees = Math.toDegrees(Math.atan2(sin, Vec.dot(a.normal(), b.normal())));
    double[] oa = frame.toWork().apply(a.point());
    double[] ob = frame.toWork().apply(b.point());
    List<double[]> lines = new ArrayList<>();
    lines.addAll(
        ring(oa, frame.toWork().direction(a.normal()), m.pins().get(0).reach() * fileToWork()));
    lines.addAll(
        ring(ob, frame.toWork().direction(b.normal()), m.pins().get(1).reach() * fileToWork()));
    lines.add(line(oa, ob));
    return new Measured(
        m,
        degrees,
        Measured.Quantity.ANGLE,
        Math.max(a.rms(), b.rms()) * scale(),
        List.of(CoreWords.of("measuring.between-the-surfaces", 180 - degrees)),
        lines,
        between(oa, ob));
  }

  private static List<double[]> ring(double[] centre, double[] normal, double radius) {
    double[] u = Vec.perpendicular(normal);
    double[] v = Vec.cross(normal, u);
    double[] out = new double[3 * (ROUND + 1)];
    for (int i = 0; i <= ROUND; i++) {
      double a = 2 * Math.PI * i / ROUND;
      double[] p =
          Vec.add(
              centre, Vec.add(Vec.mul(u, radius * Math.cos(a)), Vec.mul(v, radius * Math.sin(a))));
      System.arraycopy(p, 0, out, 3 * i, 3);
    }
    return List.of(out);
  }

  private Measured circle(Measurement m) {
    double[] p = new double[3 * m.pins().size()];
    for (int i = 0; i < m.pins().size(); i++) {
      System.arraycopy(work(m, i), 0, p, 3 * i, 3);
    }
    CircleFit c = CircleFit.of(p);
    List<String> more = new ArrayList<>();
    more.add(CoreWords.of("measuring.across", length(2 * c.radius())));
    if (p.length > 9) {
      more.add(CoreWords.of("measuring.flat-within", length(c.flatness())));
    }
    return new Measured(
        m,
        c.radius(),
        Measured.Quantity.LENGTH,
        p.length > 9 ? c.rms() : Double.NaN,
        more,
        ring(c.centre(), c.normal(), c.radius()),
        c.centre());
  }

  private Measured sphere(Measurement m) {
    SphereFit s = SphereFit.of(patch(m, 0).thinned()[0]);
    double[] c = frame.toWork().apply(s.centre());
    double r = s.radius() * scale();
    List<double[]> lines = new ArrayList<>();
    for (int k = 0; k < 3; k++) {
      double[] n = new double[3];
      n[k] = 1;
      lines.addAll(ring(c, n, r));
    }
    return new Measured(
        m,
        r,
        Measured.Quantity.LENGTH,
        s.rms() * scale(),
        List.of(CoreWords.of("measuring.across", length(2 * r))),
        lines,
        c);
  }

  private Measured cylinder(Measurement m) {
    double[][] p = patch(m, 0).thinned();
    CylinderFit f = CylinderFit.of(p[0], p[1]);
    double r = f.radius() * scale();
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < p[0].length; i += 3) {
      double d = Vec.dot(Vec.sub(Vec.of(p[0][i], p[0][i + 1], p[0][i + 2]), f.point()), f.axis());
      low = Math.min(low, d);
      high = Math.max(high, d);
    }
    double[] axis = frame.toWork().direction(f.axis());
    double[] a = frame.toWork().apply(Vec.add(f.point(), Vec.mul(f.axis(), low)));
    double[] b = frame.toWork().apply(Vec.add(f.point(), Vec.mul(f.axis(), high)));
    List<double[]> lines = new ArrayList<>(ring(a, axis, r));
    lines.addAll(ring(b, axis, r));
    lines.add(line(a, b));
    double lean = Math.toDegrees(Math.acos(Math.min(1, Math.abs(axis[2]))));
    return new Measured(
        m,
        r,
        Measured.Quantity.LENGTH,
        f.rms() * scale(),
        List.of(
            CoreWords.of("measuring.across", length(2 * r)),
            CoreWords.of("measuring.axis-leans-from-upright", lean)),
        lines,
        between(a, b));
  }

  private Measured flatness(Measurement m) {
    Patch patch = patch(m, 0);
    PlaneFit plane = patch.plane();
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (int i = 0; i < patch.size(); i++) {
      double[] p = {patch.points()[3 * i], patch.points()[3 * i + 1], patch.points()[3 * i + 2]};
      double d = Vec.dot(Vec.sub(p, plane.point()), plane.normal());
      low = Math.min(low, d);
      high = Math.max(high, d);
    }
    double[] o = frame.toWork().apply(plane.point());
    double[] n = frame.toWork().direction(plane.normal());
    double lean = Math.toDegrees(Math.acos(Math.min(1, Math.abs(n[2]))));
    return new Measured(
        m,
        (high - low) * scale(),
        Measured.Quantity.LENGTH,
        plane.rms() * scale(),
        List.of(CoreWords.of("measuring.leans-from-level", lean)),
        ring(o, n, m.pins().get(0).reach() * fileToWork()),
        o);
  }

  private Measured size(Measurement m) {
    Box b = frame.workBounds(mesh);
    double longest = Math.max(b.width(), Math.max(b.depth(), b.height()));
    return new Measured(
        m,
        longest,
        Measured.Quantity.LENGTH,
        Double.NaN,
        List.of(
            Language.format(
                "X %s, Y %s, Z %s", length(b.width()), length(b.depth()), length(b.height()))),
        BoxEdges.edges(
            b.min(), Vec.of(1, 0, 0), Vec.of(0, 1, 0), Vec.of(0, 0, 1), Vec.sub(b.max(), b.min())),
        b.centre());
  }

  private Measured smallestBox(Measurement m) {
    SmallestBox box = SmallestBox.of(Hull.of(mesh.xyz()));
    double k = scale();
    double[] size = Vec.mul(box.size(), k);
    double[][] axes = new double[3][];
    double[] corner = frame.toWork().apply(box.centre());
    for (int i = 0; i < 3; i++) {
      double[] d = {box.axes()[3 * i], box.axes()[3 * i + 1], box.axes()[3 * i + 2]};
      axes[i] = frame.toWork().direction(d);
      corner = Vec.sub(corner, Vec.mul(axes[i], size[i] / 2));
    }
    return new Measured(
        m,
        size[0],
        Measured.Quantity.LENGTH,
        Double.NaN,
        List.of(Language.format("%s × %s × %s", length(size[0]), length(size[1]), length(size[2]))),
        BoxEdges.edges(corner, axes[0], axes[1], axes[2], size),
        frame.toWork().apply(box.centre()));
  }

  private Measured area(Measurement m) {
    double k = scale() * scale();
    return new Measured(
        m,
        Measures.area(mesh) * k,
        Measured.Quantity.AREA,
        Double.NaN,
        List.of(),
        List.of(),
        frame.workBounds(mesh).centre());
  }

  private Measured volume(Measurement m) {
    double k = scale() * scale() * scale();
    boolean closed = holotome.core.topology.Adjacency.of(mesh, work).borderEdges() == 0;
    return new Measured(
        m,
        Math.abs(Measures.volume(mesh)) * k,
        Measured.Quantity.VOLUME,
        Double.NaN,
        closed ? List.of() : List.of(CoreWords.of("measuring.not-closed-about-the-middle")),
        List.of(),
        frame.workBounds(mesh).centre());
  }
}
