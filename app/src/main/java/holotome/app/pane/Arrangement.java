package holotome.app.pane;

/** What is shown beside the view. */
public enum Arrangement {
  ONE("One pane"),
  BEFORE("Beside it: before the last step"),
  RIGHT("Beside it: from the right"),
  BEHIND("Beside it: from behind"),
  FLAT("Beside it: charts and maps"),
  THREE("Three panes: two more sides"),
  FOUR("Four panes: three more sides");

  private final String words;

  Arrangement(String words) {
    this.words = words;
  }

  public String words() {
    return words;
  }
}
