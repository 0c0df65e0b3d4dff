package holotome.app.words;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.log.Catalogue;
import holotome.core.step.StepKind;
import holotome.core.step.StepWords;
import holotome.core.words.CoreWords;
import holotome.core.words.Language;
import holotome.core.words.Wording;
import holotome.view.words.ViewWords;
import java.io.IOException;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.ResourceBundle;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.junit.jupiter.api.Test;

/** All words stand in bundles, every language has all of them, and none is left over. */
class WordsTest {
  private static final Map<String, Wording> MODULES =
      Map.of("core", CoreWords.WORDING, "view", ViewWords.WORDING, "app", AppWords.WORDING);
  private static final Pattern PLACE =
      Pattern.compile("%(?:(\\d+)\\$)?([-+,]*(?:\\.\\d+)?[a-zA-Z])|%%");

  /** Two words in a row: a sentence, or the beginning of one. */
  private static final Pattern SENTENCE = Pattern.compile("[A-Za-z]{2,}[,;:.]? [a-z]{2,}");

  /** What is written into files, or for machines. */
  private static final Pattern FOR_MACHINES =
      Pattern.compile(
          "(ply|\\\\n?property|property|element|# )\\\\?.*|.*\\\\n(property|element) .*|whole number"
              + "|list of |how much|first file.*|.*written by Holotome\\\\?n?|true \\| false"
              + "|No space left|file units|section,offset.*|solid .*|mesh,.*|name,.*");

  /** Places by their number, whatever their order. */
  private static Map<Integer, String> places(String text) {
    Map<Integer, String> out = new TreeMap<>();
    Matcher m = PLACE.matcher(text);
    int n = 0;
    while (m.find()) {
      if (m.group(2) != null) {
        n++;
        out.put(m.group(1) == null ? n : Integer.parseInt(m.group(1)), m.group(2));
      }
    }
    return out;
  }

  @Test
  void everyLanguageHasEveryTextWithTheSamePlaces() {
    List<String> wrong = new ArrayList<>();
    MODULES.forEach(
        (module, wording) -> {
          for (Language l : Language.values()) {
            Set<String> missing = new TreeSet<>(wording.keys(Language.ENGLISH));
            missing.removeAll(wording.keys(l));
            missing.forEach(k -> wrong.add(module + ": no " + l + " for " + k));
            ResourceBundle said = wording.bundle(l);
            for (String k : wording.keys(l)) {
              if (!wording.keys(Language.ENGLISH).contains(k)) {
                wrong.add(module + ": only " + l + " has " + k);
              } else if (said.getString(k).isBlank()
                  || !places(said.getString(k))
                      .equals(places(wording.bundle(Language.ENGLISH).getString(k)))) {
                wrong.add(module + ": " + l + " says otherwise " + k);
              }
            }
          }
        });
    assertThat(wrong).isEmpty();
  }

  @Test
  void everyTextIsUsedAndEveryTextUsedIsThere() throws IOException {
    List<String> wrong = new ArrayList<>();
    for (var m : MODULES.entrySet()) {
      Set<String> keys = m.getValue().keys(Language.ENGLISH);
      Set<String> plain = new TreeSet<>();
      keys.forEach(k -> plain.add(k.replaceFirst("\\.(one|other)$", "")));
      Set<String> used = new HashSet<>();
      for (Literals.Literal l : Literals.of(m.getKey())) {
        used.add(l.text());
        boolean asked = l.before().matches("(?s).*Words\\.(of|count)\\(\\s*");
        boolean begins = l.text().endsWith(".");
        if (asked && !begins && !plain.contains(l.text())) {
          wrong.add(l.file().getFileName() + ":" + l.line() + " asks for " + l.text());
        }
      }
      for (String k : plain) {
        boolean begun = used.stream().anyMatch(u -> u.endsWith(".") && k.startsWith(u));
        if (!used.contains(k) && !begun) {
          wrong.add(m.getKey() + ": nobody uses " + k);
        }
      }
    }
    assertThat(wrong).isEmpty();
  }

  @Test
  void stepsAreSaidInEveryLanguage() {
    Set<String> wanted = new TreeSet<>();
    for (StepKind k : Catalogue.all()) {
      wanted.add(k.id());
      wanted.add(k.id() + ".help");
      for (StepKind.Field f : k.fields()) {
        wanted.add(k.id() + "." + f.name());
        wanted.add("label." + f.name());
        f.choices().forEach(c -> wanted.add("choice." + c));
      }
    }
    for (Language l : Language.values()) {
      if (l != Language.ENGLISH) {
        assertThat(StepWords.WORDING.keys(l)).as(l.ownName()).isEqualTo(wanted);
      }
    }
  }

  @Test
  void noSentenceStandsInTheSources() throws IOException {
    List<String> found = new ArrayList<>();
    for (String module : MODULES.keySet()) {
      for (Literals.Literal l : Literals.of(module)) {
        boolean programmers =
            l.before()
                .matches(
                    "(?s).*(\\w*(Exception|Error)\\(|@\\w+\\(|System\\.err|LOG\\.|note\\(|Font\\.font\\().*");
        boolean pages =
            l.file().endsWith("StepPages.java") || l.file().endsWith("DrawingFile.java");
        if (SENTENCE.matcher(l.text()).find()
            && !programmers
            && !pages
            && !FOR_MACHINES.matcher(l.text()).matches()) {
          found.add(l.file().getFileName() + ":" + l.line() + " \"" + l.text() + "\"");
        }
      }
    }
    assertThat(found).isEmpty();
  }
}
