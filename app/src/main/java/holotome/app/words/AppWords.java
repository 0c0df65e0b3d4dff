package holotome.app.words;

import holotome.core.words.Wording;
import java.util.ArrayList;
import java.util.List;

/** The words of the window. */
public final class AppWords {
  /** The bundles themselves. */
  public static final Wording WORDING = new Wording(AppWords.class::getResourceAsStream, "app");

  private AppWords() {}

  /** A text; see {@link Wording#of}. */
  public static String of(String key, Object... args) {
    return WORDING.of(key, args);
  }

  /** Whether there is such a text. */
  public static boolean has(String key) {
    return WORDING.has(key);
  }

  /** Keys for reading ("Ctrl Z"), each by its name on the keyboards of the language spoken. */
  public static String keys(String keys) {
    List<String> out = new ArrayList<>();
    for (String k : keys.split(" ")) {
      boolean named = k.matches("[A-Za-z]{2,}") && WORDING.has("key." + k);
      out.add(named ? of("key." + k) : k);
    }
    return String.join(" ", out);
  }

  /** A text about a number of things; see {@link Wording#count}. */
  public static String count(String key, long n, Object... args) {
    return WORDING.count(key, n, args);
  }
}
