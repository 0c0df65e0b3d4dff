package holotome.core.log;

import java.util.List;

/**
 * A line of a Log beside the current one, as it stands in the file.
 *
 * @param from so many entries it has in common with the current line, from the beginning
 * @param entries those that are its own
 */
public record LineFile(String name, int from, List<Entry> entries) {
  public LineFile {
    entries = List.copyOf(entries);
  }

  /**
   * A line of which all entries are known, beside the current one: what they share is not told
   * twice.
   */
  public static LineFile beside(String name, List<Entry> all, List<Entry> current) {
    int from = 0;
    while (from < Math.min(all.size(), current.size()) && all.get(from).equals(current.get(from))) {
      from++;
    }
    return new LineFile(name, from, all.subList(from, all.size()));
  }

  /** All entries of the line. */
  public List<Entry> all(List<Entry> current) {
    List<Entry> out = new java.util.ArrayList<>(current.subList(0, from));
    out.addAll(entries);
    return out;
  }
}
