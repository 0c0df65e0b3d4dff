package holotome.core.step;

import java.lang.annotation.ElementType;
import java.lang.annotation.Retention;
import java.lang.annotation.RetentionPolicy;
import java.lang.annotation.Target;

/** What a step is called and what it does; see {@link StepKind}. */
@Retention(RetentionPolicy.RUNTIME)
@Target(ElementType.TYPE)
public @interface Describes {
  /** As in a Log: stage and name, "trim.islands". */
  String id();

  /** As on a Sheet. */
  String title();

  /** One or two plain sentences. */
  String help();

  /** The parts it looks at, by name; a step whose parameters decide says so itself. */
  String[] reads() default {"scan"};

  /** The parts it changes, by name. */
  String[] writes() default {"scan"};
}
