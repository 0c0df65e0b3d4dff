package holotome.core.step;

import holotome.core.words.Language;
import holotome.core.words.Wording;

/**
 * What steps, their parameters and choices are called in the language spoken. In English that is
 * what the step's own description says; other languages have a bundle, "steps_xx.properties": the
 * step's id for its title, "id.help", "id.parameter" for a parameter's help, "label.name" for
 * labels and "choice.name" for choices.
 */
public final class StepWords {
  /** The bundles; the English one holds only what descriptions do not say. */
  public static final Wording WORDING = new Wording(StepWords.class::getResourceAsStream, "steps");

  private StepWords() {}

  /** A text of a description, or what stands for it. */
  static String of(String key, String english) {
    return Language.now() == Language.ENGLISH ? english : WORDING.or(key, english);
  }

  /** A parameter's name as a label: its first letter large, hyphens as spaces. */
  static String label(String name) {
    return of("label." + name, plain(name));
  }

  /** A choice of a parameter as it is shown. */
  public static String choice(String name) {
    return of("choice." + name, plain(name));
  }

  private static String plain(String name) {
    String s = name.replace('-', ' ');
    return s.isEmpty() ? s : Character.toUpperCase(s.charAt(0)) + s.substring(1);
  }
}
