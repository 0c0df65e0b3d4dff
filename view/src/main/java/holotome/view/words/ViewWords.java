package holotome.view.words;

import holotome.core.words.Wording;

/** The words of pictures: what looks are called, what is being prepared. */
public final class ViewWords {
  /** The bundles themselves. */
  public static final Wording WORDING = new Wording(ViewWords.class::getResourceAsStream, "view");

  private ViewWords() {}

  /** A text; see {@link Wording#of}. */
  public static String of(String key, Object... args) {
    return WORDING.of(key, args);
  }
}
