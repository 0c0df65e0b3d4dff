package holotome.core.words;

/** The words of the core: what steps report, what went wrong, what is being computed. */
public final class CoreWords {
  /** The bundles themselves. */
  public static final Wording WORDING = new Wording(CoreWords.class::getResourceAsStream, "core");

  private CoreWords() {}

  /** A text; see {@link Wording#of}. */
  public static String of(String key, Object... args) {
    return WORDING.of(key, args);
  }

  /** A text about a number of things; see {@link Wording#count}. */
  public static String count(String key, long n, Object... args) {
    return WORDING.count(key, n, args);
  }
}
