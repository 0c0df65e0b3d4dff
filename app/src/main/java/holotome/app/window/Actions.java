package holotome.app.window;

import holotome.app.words.AppWords;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.BooleanSupplier;

/**
 * Every action there is: its name for settings, its words, its key, when it can be done and what it
 * does. Keys, the finder, buttons, tooltips and the page of all keys read it.
 */
final class Actions {
  private final Map<String, Action> all = new LinkedHashMap<>();

  /** Keys that the user chose in place of the usual ones; empty text for no key. */
  private final Map<String, String> chosen = new LinkedHashMap<>();

  /**
   * Something that can be done.
   *
   * @param id as in the settings
   * @param usual the usual key; null for none
   * @param also a second key that does the same, and is not changed; null for none
   * @param hint how it is reached by keys where no single key does it; empty for none
   */
  record Action(
      String id,
      String words,
      KeyCombo usual,
      KeyCombo also,
      String hint,
      Runnable run,
      BooleanSupplier enabled) {}

  /** Adds an action with a key such as "Ctrl Z"; empty for none. */
  void add(String id, String words, String key, Runnable run) {
    add(id, words, key, run, () -> true);
  }

  void add(String id, String words, String key, Runnable run, BooleanSupplier enabled) {
    add(id, words, key, "", run, enabled);
  }

  void add(
      String id, String words, String key, String also, Runnable run, BooleanSupplier enabled) {
    put(new Action(id, words, combo(key), combo(also), "", run, enabled));
  }

  /** Adds an action that a row of keys leads to. */
  void addByWay(String id, String words, String hint, Runnable run) {
    put(new Action(id, words, null, null, hint, run, () -> true));
  }

  private void put(Action a) {
    if (all.put(a.id, a) != null) {
      throw new IllegalArgumentException("two actions are called " + a.id);
    }
  }

  private static KeyCombo combo(String key) {
    return key.isEmpty() ? null : KeyCombo.of(key);
  }

  List<Action> all() {
    return List.copyOf(all.values());
  }

  Action named(String id) {
    return all.get(id);
  }

  /** The key that does it now; null for none. */
  KeyCombo key(Action a) {
    String own = chosen.get(a.id);
    return own == null ? a.usual : combo(own);
  }

  /** Its key for reading, or how it is reached; empty for neither. */
  String keyText(Action a) {
    KeyCombo k = key(a);
    return k != null ? k.words() : AppWords.keys(a.hint);
  }

  /** The key of the action of that name for reading. */
  String keyText(String id) {
    return all.containsKey(id) ? keyText(all.get(id)) : "";
  }

  /** The action that a key does; null for none. */
  Action by(KeyCombo key) {
    for (Action a : all.values()) {
      if (key.equals(key(a)) || key.equals(a.also)) {
        return a;
      }
    }
    return null;
  }

  /** The keys chosen by the user, by action. */
  Map<String, String> chosen() {
    return chosen;
  }

  /** Takes over keys chosen earlier; what names no action or no key is passed over. */
  void choose(Map<String, String> keys) {
    chosen.clear();
    keys.forEach(
        (id, text) -> {
          try {
            if (all.containsKey(id)) {
              combo(text);
              chosen.put(id, text);
            }
          } catch (IllegalArgumentException e) {
            // A key of another version or keyboard: the usual one holds.
            chosen.remove(id);
          }
        });
  }

  /** Gives an action another key; whichever had it has none then. Returns that one, or null. */
  Action choose(Action a, KeyCombo key) {
    Action before = by(key);
    if (before != null && before != a) {
      chosen.put(before.id, "");
    }
    if (key.equals(a.usual)) {
      chosen.remove(a.id);
    } else {
      chosen.put(a.id, key.toString());
    }
    return before == a ? null : before;
  }

  /** Those whose words hold every word typed, in the order they were added. */
  List<Action> matching(String typed) {
    String[] words = typed.toLowerCase(Locale.ROOT).strip().split("\\s+");
    List<Action> out = new ArrayList<>();
    for (Action a : all.values()) {
      String text = a.words.toLowerCase(Locale.ROOT);
      boolean holds = a.enabled.getAsBoolean();
      for (String w : words) {
        holds &= text.contains(w);
      }
      if (holds) {
        out.add(a);
      }
    }
    return out;
  }
}
