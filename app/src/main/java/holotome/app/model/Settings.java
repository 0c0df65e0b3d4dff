package holotome.app.model;

import holotome.core.io.SafeFiles;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.io.IOException;
import java.io.Reader;
import java.io.StringWriter;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Locale;
import java.util.Map;
import java.util.Properties;
import javafx.application.ColorScheme;
import javafx.application.Platform;

/**
 * What the user has set for good, kept in one file of plain text. What cannot be read there is
 * taken as usual.
 */
public final class Settings {
  /** The units the size of the work can be shown in. */
  public static final Length.Unit[] UNITS = {
    Length.Unit.MM, Length.Unit.CM, Length.Unit.M, Length.Unit.IN, Length.Unit.FT
  };

  /** Percent of the machine's memory that the program may take, as a rule. */
  public static final int USUAL_MEMORY = 72;

  /** How the window looks. */
  public enum Paper {
    FILM,
    SLATE,
    SYSTEM
  }

  private final Home home;
  private final Path file;
  private Paper paper = Paper.FILM;
  private int textSize = 100;
  private Length.Unit unit;
  private boolean turnsByMiddle;
  private int memory = USUAL_MEMORY;
  private boolean guideSeen;
  private Language language;
  private Path output;
  private Map<String, String> keys = new LinkedHashMap<>();
  private String written = "";

  /** Reads what is kept. */
  public Settings(Home home) {
    this.home = home;
    this.file = home.settings();
    Properties p = new Properties();
    if (Files.isRegularFile(file)) {
      try (Reader in = Files.newBufferedReader(file, StandardCharsets.UTF_8)) {
        p.load(in);
      } catch (IOException | IllegalArgumentException e) {
        p.clear();
      }
    }
    read(p);
    written = text();
  }

  private void read(Properties p) {
    paper = choice(Paper.values(), p.getProperty("paper"), Paper.FILM);
    unit = choice(UNITS, p.getProperty("unit"), null);
    turnsByMiddle = "middle".equals(p.getProperty("turn"));
    guideSeen = "seen".equals(p.getProperty("guide"));
    language = choice(Language.values(), p.getProperty("language"), null);
    textSize = number(p, "text-size", 100, 100, 200);
    memory = number(p, "memory", USUAL_MEMORY, 10, 90);
    try {
      String given = p.getProperty("output");
      output = given == null || given.isBlank() ? null : Path.of(given);
    } catch (java.nio.file.InvalidPathException e) {
      output = null;
    }
    for (String name : p.stringPropertyNames()) {
      if (name.startsWith("key.")) {
        keys.put(name.substring(4), p.getProperty(name));
      }
    }
  }

  private static int number(Properties p, String name, int usual, int least, int most) {
    try {
      String given = p.getProperty(name, String.valueOf(usual)).strip();
      return Math.clamp(Integer.parseInt(given), least, most);
    } catch (NumberFormatException e) {
      return usual;
    }
  }

  private static <E extends Enum<E>> E choice(E[] all, String name, E usual) {
    for (E e : all) {
      if (e.name().equalsIgnoreCase(name)) {
        return e;
      }
    }
    return usual;
  }

  private String text() {
    Map<String, String> lines = new java.util.TreeMap<>();
    lines.put("paper", paper.name().toLowerCase(Locale.ROOT));
    lines.put("text-size", String.valueOf(textSize));
    lines.put("turn", turnsByMiddle ? "middle" : "right");
    if (memory != USUAL_MEMORY) {
      lines.put("memory", String.valueOf(memory));
    }
    if (guideSeen) {
      lines.put("guide", "seen");
    }
    if (language != null) {
      lines.put("language", language.name().toLowerCase(Locale.ROOT));
    }
    if (unit != null) {
      lines.put("unit", unit.name().toLowerCase(Locale.ROOT));
    }
    if (output != null) {
      lines.put("output", output.toString());
    }
    keys.forEach((id, key) -> lines.put("key." + id, key));
    Properties p = new Properties();
    StringBuilder all = new StringBuilder("# Settings of Holotome\n");
    lines.forEach(
        (name, value) -> {
          p.clear();
          p.setProperty(name, value);
          StringWriter one = new StringWriter();
          try {
            p.store(one, null);
          } catch (IOException e) {
            throw new IllegalStateException(e);
          }
          // The first line holds the date: the same settings shall be the same text.
          all.append(one.toString().substring(one.toString().indexOf('\n') + 1));
        });
    return all.toString();
  }

  /** Writes them where they have changed. */
  public void keep() {
    String now = text();
    if (!now.equals(written)) {
      SafeFiles.write(file, out -> out.write(now.getBytes(StandardCharsets.UTF_8)));
      written = now;
    }
  }

  public Paper paper() {
    return paper;
  }

  public void setPaper(Paper next) {
    paper = next;
  }

  /** Whether the window is dark now. */
  public boolean isSlate() {
    return paper == Paper.SLATE
        || paper == Paper.SYSTEM && Platform.getPreferences().getColorScheme() == ColorScheme.DARK;
  }

  /** In percent, 100 to 200. */
  public int textSize() {
    return textSize;
  }

  public void setTextSize(int percent) {
    textSize = Math.clamp(percent, 100, 200);
  }

  /** The unit of the work's size; null for what reads best. */
  public Length.Unit unit() {
    return unit;
  }

  public void setUnit(Length.Unit next) {
    unit = next;
  }

  /** Whether the middle button turns the view and the right one shifts it, not the other way. */
  public boolean turnsByMiddle() {
    return turnsByMiddle;
  }

  public void setTurnsByMiddle(boolean on) {
    turnsByMiddle = on;
  }

  /** The language chosen, spoken from the next start on; null for the system's. */
  public Language language() {
    return language;
  }

  public void setLanguage(Language next) {
    language = next;
  }

  /** Speaks the language chosen, or the system's. */
  public void speak() {
    Language.speak(
        language != null ? language : Language.of(Locale.getDefault(Locale.Category.DISPLAY)));
  }

  /** Whether the first steps were shown once: they do not come by themselves again. */
  public boolean isGuideSeen() {
    return guideSeen;
  }

  public void setGuideSeen() {
    guideSeen = true;
  }

  /** Percent of the machine's memory that the program may take, from the next start on. */
  public int memory() {
    return memory;
  }

  public void setMemory(int percent) {
    memory = Math.clamp(percent, 10, 90);
  }

  /** The directory that written files go below, while no project says otherwise. */
  public Path output() {
    return output != null ? output : home.usualOutput();
  }

  public void setOutput(Path directory) {
    output = directory;
  }

  /** Keys in place of the usual ones, by the action's name. */
  public Map<String, String> keys() {
    return keys;
  }

  public void setKeys(Map<String, String> chosen) {
    keys = new LinkedHashMap<>(chosen);
  }
}
