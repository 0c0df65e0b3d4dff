package holotome.core.step;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.datum.Scale;
import holotome.core.geometry.Box;
import holotome.core.log.Catalogue;
import holotome.core.log.LogFile;
import holotome.core.reduce.Decimate;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class StepKindTest {
  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "500 mm|0.5",
        "0,5 m|0.5",
        "19.7 in|0.50038",
        "1 km|1000",
        "2ft|0.6096",
        ".5|0.5",
        "-3 cm|-0.03",
        "1e-3 m|0.001",
        " 12,25 |12.25"
      })
  void lengthsAsPeopleWriteThem(String text, double metres) {
    assertThat(Length.parse(text).metres()).isCloseTo(metres, within(1e-12));
  }

  @ParameterizedTest
  @ValueSource(strings = {"", "mm", "5 miles", "1.000,5", "five", "1 2", "NaN", "1e999"})
  void whatIsNoLengthIsRefused(String text) {
    assertThatThrownBy(() -> Length.parse(text)).isInstanceOf(Failure.class);
  }

  @ParameterizedTest
  @CsvSource({
    "0.64,640.0 mm",
    "0.0012345,1.235 mm",
    "12.5,12.50 m",
    "63000,63.00 km",
    "0,0 mm",
    "0.000000157,0.000157 mm"
  })
  void lengthsForReading(double metres, String text) {
    assertThat(Length.format(metres, true)).isEqualTo(text);
  }

  @Test
  void unknownSizeIsInUnits() {
    assertThat(Length.format(2871.4, false)).isEqualTo("2,871 units");
  }

  @Test
  void everyStepIsDescribedThroughout() {
    assertThat(Catalogue.all()).hasSizeGreaterThan(12);
    for (StepKind k : Catalogue.all()) {
      assertThat(k.id()).matches("[a-z]+\\.[a-z-]+");
      assertThat(k.help()).endsWith(".");
      for (StepKind.Field f : k.fields()) {
        assertThat(f.help()).as(k.id() + "." + f.name()).isNotBlank();
        assertThat(f.name()).matches("[a-z]+(-[a-z]+)*");
      }
    }
  }

  @Test
  void aStepSurvivesBeingWrittenAndRead() {
    String text =
        """
        { "holotome": 1, "entries": [
          { "do": "trim.islands", "keep": "larger", "across": "3 mm" },
          { "do": "trim.plane", "point": [0, 0, 0.02], "normal": [0, 0, 1], "close": "flat" },
          { "do": "trim.select", "fence": { "view": [1,0,0,0,0,1,0,0,0,0,1,0,0,0,0,1], "outline": [0,0,1,0,1,1] }, "then": "keep", "on": false },
          { "do": "mend.fill", "how": "flat", "up-to": "0,5 m", "keep-longest": true },
          { "do": "datum.scale", "lengths": [ { "from": [0,0,0], "to": [0.1,0,0], "is": "500 mm" } ] },
          { "do": "reduce.decimate", "tolerance": "0.2 mm", "as": "scan" },
          { "do": "bake.maps", "maps": ["colour"], "size": 64 },
          { "do": "ship.write", "for": "print", "name": "a b" } ] }
        """;
    LogFile log = LogFile.parse(text, "test");
    LogFile again = LogFile.parse(log.text(), "again");
    assertThat(again.text()).isEqualTo(log.text());
    assertThat(again.entries()).hasSize(8);
    assertThat(again.entries().get(2).on()).isFalse();
    assertThat(((Scale) again.entries().get(4).step()).factorFor(Box.EMPTY))
        .isCloseTo(5, within(1e-12));
    assertThat(((Decimate) again.entries().get(5).step()).tolerance().metres())
        .isCloseTo(0.0002, within(1e-15));
  }

  @ParameterizedTest
  @CsvSource(
      delimiter = '|',
      value = {
        "{\"do\":\"trim.nothing\"}|no step",
        "{\"do\":\"reduce.decimate\",\"triangle\":3}|no parameter",
        "{\"do\":\"reduce.decimate\"}|one of triangles",
        "{\"do\":\"reduce.decimate\",\"triangles\":5,\"percent\":5}|one of triangles",
        "{\"do\":\"reduce.decimate\",\"triangles\":2.5}|whole number",
        "{\"do\":\"reduce.decimate\",\"percent\":200}|between",
        "{\"do\":\"trim.plane\",\"point\":[0,0,0],\"normal\":[0,0,0]}|null",
        "{\"do\":\"trim.plane\",\"point\":[0,0],\"normal\":[0,0,1]}|three numbers",
        "{\"do\":\"trim.plane\",\"normal\":[0,0,1]}|needs \"point\"",
        "{\"do\":\"mend.fill\",\"how\":\"round\"}|not one of",
        "{\"do\":\"bake.maps\",\"samples\":3}|1, 4, 9, 16",
        "{\"do\":\"ship.write\",\"name\":\"../x\"}|not a file name",
        "{\"do\":\"datum.scale\",\"lengths\":[{\"from\":[0,0,0],\"to\":[0,0,0],\"is\":1}]}|same point",
        "{}|\"do\""
      })
  void aWrongEntryIsSaidPlainly(String entry, String words) {
    assertThatThrownBy(
            () -> LogFile.parse("{\"holotome\":1,\"entries\":[" + entry + "]}", "x.json"))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("x.json: entry 1")
        .hasMessageContaining(words);
  }

  @ParameterizedTest
  @ValueSource(
      strings = {
        "",
        "[]",
        "{",
        "{\"entries\":[]}",
        "{\"holotome\":2,\"entries\":[]}",
        "{\"holotome\":1}",
        "null"
      })
  void whatIsNoLogIsRefused(String text) {
    assertThatThrownBy(() -> LogFile.parse(text, "x.json"))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("x.json");
  }

  @Test
  void valuesMayComeAsTextToo() {
    StepKind k = Catalogue.byId("reduce.decimate");
    assertThat(((Decimate) k.create(Map.of("triangles", "1200"))).triangles()).isEqualTo(1200);
    assertThat(k.create(Map.of("percent", 10)).getClass()).isEqualTo(Decimate.class);
    assertThat(Catalogue.byId("bake.maps").create(Map.of("maps", "normal")).toString())
        .contains("NORMAL");
    assertThat(Catalogue.byId("bake.maps").create(Map.of("maps", List.of("colour", "normal"))))
        .isNotNull();
  }
}
