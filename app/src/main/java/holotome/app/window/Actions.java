package holotome.app.window;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.function.BooleanSupplier;

/** Every action by name, with its key: for finding, and for the help. */
final class Actions {
  private final List<Action> all = new ArrayList<>();

  /** Something that can be done; {@code key} is for reading, empty where there is none. */
  record Action(String name, String key, Runnable run, BooleanSupplier enabled) {}

  void add(String name, String key, Runnable run) {
    add(name, key, run, () -> true);
  }

  void add(String name, String key, Runnable run, BooleanSupplier enabled) {
    all.add(new Action(name, key, run, enabled));
  }

  /** Those whose names hold every word typed, in the order they were added. */
  List<Action> matching(String typed) {
    String[] words = typed.toLowerCase(Locale.ROOT).strip().split("\\s+");
    return all.stream()
        .filter(a -> a.enabled.getAsBoolean())
        .filter(
            a -> {
              String n = a.name.toLowerCase(Locale.ROOT);
              for (String w : words) {
                if (!n.contains(w)) {
                  return false;
                }
              }
              return true;
            })
        .toList();
  }
}
