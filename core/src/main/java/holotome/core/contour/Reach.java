package holotome.core.contour;

/** Where a surface is looked for. */
@FunctionalInterface
public interface Reach {
  /** Everywhere. */
  Reach ALL = (x, y, z) -> true;

  /** Whether it is looked for around a place. */
  boolean holds(double x, double y, double z);
}
