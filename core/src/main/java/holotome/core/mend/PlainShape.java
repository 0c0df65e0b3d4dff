package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.solve.CylinderFit;
import holotome.core.solve.PlaneFit;
import holotome.core.solve.SphereFit;

/**
 * A plain shape that points are brought onto: a plane, a cylinder or a ball, fitted to what lies
 * around a region.
 */
sealed interface PlainShape {

  /** The point of the shape nearest to a point. */
  double[] nearest(double[] p);

  /** Root mean square of the distances of what it was fitted to. */
  double rms();

  /** A plane. */
  record Plane(PlaneFit fit) implements PlainShape {
    @Override
    public double[] nearest(double[] p) {
      double d = Vec.dot(Vec.sub(p, fit.point()), fit.normal());
      return Vec.sub(p, Vec.mul(fit.normal(), d));
    }

    @Override
    public double rms() {
      return fit.rms();
    }
  }

  /** A cylinder. */
  record Tube(CylinderFit fit) implements PlainShape {
    @Override
    public double[] nearest(double[] p) {
      double along = Vec.dot(Vec.sub(p, fit.point()), fit.axis());
      double[] foot = Vec.add(fit.point(), Vec.mul(fit.axis(), along));
      double[] out = Vec.sub(p, foot);
      double l = Vec.length(out);
      return l > 0 ? Vec.add(foot, Vec.mul(out, fit.radius() / l)) : p;
    }

    @Override
    public double rms() {
      return fit.rms();
    }
  }

  /** A ball. */
  record Ball(SphereFit fit) implements PlainShape {
    @Override
    public double[] nearest(double[] p) {
      double[] out = Vec.sub(p, fit.centre());
      double l = Vec.length(out);
      return l > 0 ? Vec.add(fit.centre(), Vec.mul(out, fit.radius() / l)) : p;
    }

    @Override
    public double rms() {
      return fit.rms();
    }
  }
}
