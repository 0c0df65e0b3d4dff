package holotome.core.step;

import holotome.core.unit.Length;
import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/** What one parameter of a step means, on a component of the step's record. */
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.RECORD_COMPONENT)
public @interface Parameter {
  String help();

  /** The unit of a plain number; a {@link Length} says its own. */
  String unit() default "";

  double min() default Double.NEGATIVE_INFINITY;

  double max() default Double.POSITIVE_INFINITY;

  /** The value where none is given, as it would be written in a Log; empty for none. */
  String preset() default "";

  /**
   * Only of use where another parameter has this value, or one of several: "name=value" or
   * "name=this|that"; empty for always.
   */
  String when() default "";

  /** Parameters that share such a name exclude each other: exactly one is given; empty for none. */
  String oneOf() default "";

  /** Whether the parameter may be left out though it has no preset: it is then null. */
  boolean optional() default false;
}
