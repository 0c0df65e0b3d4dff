package holotome.app.pane;

import holotome.app.words.AppWords;

/** What is shown beside the view. */
public enum Arrangement {
  ONE,
  BEFORE,
  RIGHT,
  BEHIND,
  FLAT,
  CHARTS,
  THREE,
  FOUR;

  public String words() {
    return AppWords.of("panes." + name());
  }
}
