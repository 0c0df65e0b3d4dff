package holotome.core.contour;

/** Tells of any place whether it is inside a body. */
@FunctionalInterface
public interface Field {
  /** Places where it is above this are inside. */
  double LEVEL = 0.5;

  /** Asks; one for each thread. */
  @FunctionalInterface
  interface Probe {
    double at(double x, double y, double z);
  }

  Probe probe();
}
