package holotome.core.log;

import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Several ways of doing the same work: lines of entries that part from one another, one of which is
 * the current one. An immutable value; what lines have in common they share. Never empty.
 *
 * @param all the lines in the order they were begun, each under its own name
 * @param at which of them is the current one
 */
public record Lines(List<Named> all, int at) {

  /**
   * A line under its name.
   *
   * @param history what was run of it
   * @param ahead entries that come after, not run yet: a line from a file runs when it is taken
   */
  public record Named(String name, History history, List<Entry> ahead) {
    public Named {
      ahead = List.copyOf(ahead);
    }

    public Named(String name, History history) {
      this(name, history, List.of());
    }

    /** All its entries. */
    public List<Entry> entries() {
      List<Entry> out = new ArrayList<>(history.entries());
      out.addAll(ahead);
      return out;
    }

    /** Run to its end. */
    public Named run(Run run) {
      return ahead.isEmpty() ? this : new Named(name, history.replay(ahead, run));
    }
  }

  public Lines {
    all = List.copyOf(all);
    if (at < 0 || at >= all.size()) {
      throw new IllegalArgumentException("no line " + at);
    }
  }

  /** One line alone. */
  public static Lines of(String name, History history) {
    return new Lines(List.of(new Named(name, history)), 0);
  }

  public Named current() {
    return all.get(at);
  }

  /** With the current line gone on, or gone back. */
  public Lines changed(History history) {
    List<Named> next = new ArrayList<>(all);
    next.set(at, new Named(current().name, history));
    return new Lines(next, at);
  }

  /**
   * A further line that has the first entries of the current one, and becomes the current one.
   *
   * @throws Failure if another line has that name
   */
  public Lines part(String name, int entries) {
    if (all.stream().anyMatch(l -> l.name.equals(name))) {
      throw Failure.usage(CoreWords.of("lines.there-is-a-line-already", name));
    }
    List<Named> next = new ArrayList<>(all);
    next.add(new Named(name, current().history.first(entries)));
    return new Lines(next, next.size() - 1);
  }

  /** With a further line of the given entries, which is not run yet; the current one stays. */
  public Lines beside(String name, List<Entry> entries) {
    if (all.stream().anyMatch(l -> l.name.equals(name))) {
      throw Failure.usage(CoreWords.of("lines.there-is-a-line-already", name));
    }
    int n = alike(current().history.entries(), entries);
    List<Named> next = new ArrayList<>(all);
    next.add(new Named(name, current().history.first(n), entries.subList(n, entries.size())));
    return new Lines(next, at);
  }

  /** With a line under another name. */
  public Lines renamed(String name, String other) {
    int there = find(name);
    if (other.equals(name)) {
      return this;
    }
    if (all.stream().anyMatch(l -> l.name.equals(other))) {
      throw Failure.usage(CoreWords.of("lines.there-is-a-line-already", other));
    }
    List<Named> next = new ArrayList<>(all);
    next.set(there, new Named(other, all.get(there).history, all.get(there).ahead));
    return new Lines(next, at);
  }

  /** The line of that name. */
  public Named named(String name) {
    return all.get(find(name));
  }

  /** With a line in the place of the one of its name, as the current one. */
  public Lines take(Named line) {
    int there = find(line.name);
    List<Named> next = new ArrayList<>(all);
    next.set(there, line);
    return new Lines(next, there);
  }

  /** With another line as the current one. */
  public Lines take(String name) {
    return new Lines(all, find(name));
  }

  /**
   * Without a line.
   *
   * @throws Failure if it is the only one
   */
  public Lines drop(String name) {
    int gone = find(name);
    if (all.size() == 1) {
      throw Failure.cannot(CoreWords.of("lines.is-the-only-line-there", name));
    }
    List<Named> next = new ArrayList<>(all);
    next.remove(gone);
    int now = at == gone ? Math.max(0, gone - 1) : at > gone ? at - 1 : at;
    return new Lines(next, now);
  }

  private int find(String name) {
    for (int i = 0; i < all.size(); i++) {
      if (all.get(i).name.equals(name)) {
        return i;
      }
    }
    throw Failure.usage(
        CoreWords.of(
            "lines.there-is-no-line-there",
            name,
            String.join(", ", all.stream().map(Named::name).toList())));
  }

  /** How many entries at the beginning a line shares with the current one. */
  public int shared(String name) {
    return alike(current().entries(), named(name).entries());
  }

  private static int alike(List<Entry> a, List<Entry> b) {
    int n = 0;
    while (n < a.size() && n < b.size() && a.get(n).equals(b.get(n))) {
      n++;
    }
    return n;
  }
}
