package holotome.app.window;

import holotome.app.words.AppWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.input.KeyCode;
import javafx.scene.input.KeyEvent;

/**
 * A key with what is held beside it, as it is read and written: "Ctrl Shift Z", "Alt 1", "Home".
 * The digits of the number pad are those of the main row.
 */
record KeyCombo(KeyCode code, boolean control, boolean alt, boolean shift) {

  /**
   * Reads one.
   *
   * @throws IllegalArgumentException if it names no key
   */
  static KeyCombo of(String text) {
    boolean control = false;
    boolean alt = false;
    boolean shift = false;
    KeyCode code = null;
    for (String w : text.strip().split("\\s+")) {
      switch (w.toLowerCase(Locale.ROOT)) {
        case "ctrl" -> control = true;
        case "alt" -> alt = true;
        case "shift" -> shift = true;
        default -> code = code(w);
      }
    }
    if (code == null) {
      throw new IllegalArgumentException("\"" + text + "\" names no key");
    }
    return new KeyCombo(code, control, alt, shift);
  }

  private static KeyCode code(String word) {
    if (word.length() == 1 && Character.isDigit(word.charAt(0))) {
      return KeyCode.valueOf("DIGIT" + word);
    }
    for (KeyCode c : KeyCode.values()) {
      if (c.getName().replace(" ", "").equalsIgnoreCase(word)) {
        return c;
      }
    }
    throw new IllegalArgumentException("\"" + word + "\" names no key");
  }

  /** The one that an event is; null for keys that are only held beside others. */
  static KeyCombo of(KeyEvent e) {
    KeyCode c = e.getCode();
    if (c.isModifierKey() || c == KeyCode.UNDEFINED) {
      return null;
    }
    int pad = c.ordinal() - KeyCode.NUMPAD0.ordinal();
    if (pad >= 0 && pad <= 9) {
      c = KeyCode.values()[KeyCode.DIGIT0.ordinal() + pad];
    }
    return new KeyCombo(c, e.isControlDown(), e.isAltDown(), e.isShiftDown());
  }

  /** The digit pressed alone; -1 for anything else. */
  int digit() {
    int n = code.ordinal() - KeyCode.DIGIT0.ordinal();
    return !control && !alt && !shift && n >= 0 && n <= 9 ? n : -1;
  }

  /** For reading, in the language spoken; {@link #toString} is the same in every language. */
  String words() {
    return AppWords.keys(toString());
  }

  @Override
  public String toString() {
    List<String> words = new ArrayList<>();
    if (control) {
      words.add("Ctrl");
    }
    if (alt) {
      words.add("Alt");
    }
    if (shift) {
      words.add("Shift");
    }
    words.add(code.getName().replace(" ", ""));
    return String.join(" ", words);
  }
}
