package holotome.core.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.Locale;
import java.util.Map;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/** Lengths are read and written alike wherever the program runs. */
class LengthLocalesTest {
  private final Locale before = Locale.getDefault();

  @AfterEach
  void back() {
    Locale.setDefault(before);
  }

  private static final Map<String, Double> TEXTS =
      Map.ofEntries(
          Map.entry("500 mm", 0.5),
          Map.entry("0,5 m", 0.5),
          Map.entry("0.5m", 0.5),
          Map.entry(" 50 cm ", 0.5),
          Map.entry(".5 km", 500.0),
          Map.entry("1,25e3 mm", 1.25),
          Map.entry("19.685 in", 0.5),
          Map.entry("2 ft", 0.6096),
          Map.entry("2'", 0.6096),
          Map.entry("12\"", 0.3048),
          Map.entry("-3 cm", -0.03),
          Map.entry("+3 cm", 0.03));

  /** Without noughts behind, and the thousands stay what they are, whatever parts them. */
  @Test
  void roundLengthsHaveNoDecimalsTheyDoNotNeed() {
    assertThat(Length.formatRound(0.5, true)).isEqualTo("500 mm");
    assertThat(Length.formatRound(0.0025, true)).isEqualTo("2.5 mm");
    assertThat(Length.formatRound(2000, true)).isEqualTo("2,000 m");
    assertThat(Length.formatRound(2000, false)).isEqualTo("2,000 units");
    Language.speak(Language.GERMAN);
    try {
      assertThat(Length.formatRound(0.5, true)).isEqualTo("500 mm");
      assertThat(Length.formatRound(0.0025, true)).isEqualTo("2,5 mm");
      assertThat(Length.formatRound(2000, true)).isEqualTo("2.000 m");
      assertThat(Length.formatRound(2000, false)).isEqualTo("2.000 Einh");
    } finally {
      Language.speak(Language.ENGLISH);
    }
  }

  @Test
  void everyLocaleReadsAndWritesTheSame() {
    for (Locale l : Locale.getAvailableLocales()) {
      Locale.setDefault(l);
      TEXTS.forEach(
          (text, metres) ->
              assertThat(Length.parse(text).metres())
                  .as("%s in %s", text, l)
                  .isCloseTo(metres, within(1e-4)));
      assertThat(Length.format(0.5, true)).as(l.toString()).isEqualTo("500.0 mm");
      assertThat(Length.format(1234.4, true)).as(l.toString()).isEqualTo("1,234 m");
      assertThat(Length.formatArea(0.25, true)).as(l.toString()).isEqualTo("0.2500 m²");
      assertThat(Length.formatVolume(0.0025, true)).as(l.toString()).isEqualTo("2.500 l");
    }
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "", " ", "mm", "1.2.3 m", "1,2,3", "five mm", "5 yards", "0x10 m", "1e999 m", "NaN", "∞ m",
        "٥٠٠ mm", "5 mm mm", "--5 mm"
      })
  void whatIsNoLengthIsRefused(String text) {
    assertThatThrownBy(() -> Length.parse(text)).isInstanceOf(Failure.class);
  }

  @Test
  void aLengthReadBackIsTheSame() {
    for (double metres : new double[] {1e-6, 0.00123, 0.0456, 0.789, 1.5, 12.34, 567.8, 9_999}) {
      String text = new Length(metres).toString();
      assertThat(Length.parse(text.replace(",", "")).metres())
          .as(text)
          .isCloseTo(metres, within(1e-3 * metres + 1e-6));
    }
  }

  @Test
  void volumesAreToldInAUnitThatReads() {
    assertThat(Length.formatVolume(3, true)).isEqualTo("3.000 m³");
    assertThat(Length.formatVolume(5e-5, true)).isEqualTo("50.00 cm³");
    assertThat(Length.formatVolume(12, false)).isEqualTo("12.00 cubic units");
  }
}
