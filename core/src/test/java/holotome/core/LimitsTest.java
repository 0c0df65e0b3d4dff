package holotome.core;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;

/**
 * Readers take up to 700 million triangles: three times that still fits a whole number of 32 bits,
 * four times does not. Wherever a count is multiplied by more, it must be by a long or a double.
 */
class LimitsTest {
  private static final long MOST = 700_000_000;

  /** A whole number of 32 bits times a count, or a count times one. */
  private static final Pattern PRODUCT =
      Pattern.compile(
          "(?<![\\w.])(\\d[\\d_]*) \\* (?:[\\w.()]+\\.)?(?:triangleCount|vertexCount)\\(\\)"
              + "|(?:triangleCount|vertexCount)\\(\\) \\* (\\d[\\d_]*)(?![\\w.])");

  @Test
  void threeTimesTheMostFitsAndFourTimesDoesNot() {
    assertThat(3 * MOST).isLessThan(Integer.MAX_VALUE);
    assertThat(4 * MOST).isGreaterThan(Integer.MAX_VALUE);
    assertThat((int) Math.min(60_000, 20L * MOST + 100)).isEqualTo(60_000);
  }

  @Test
  void noCountIsMultipliedBeyondItsBits() throws IOException {
    Path root = Path.of("").toAbsolutePath();
    root = root.endsWith("core") ? root.getParent() : root;
    List<String> found = new ArrayList<>();
    int files = 0;
    for (String module : List.of("core", "view", "demo", "cli", "app")) {
      try (Stream<Path> all = Files.walk(root.resolve(module).resolve("src/main/java"))) {
        for (Path p : all.filter(f -> f.toString().endsWith(".java")).toList()) {
          files++;
          found.addAll(overflowing(p));
        }
      }
    }
    assertThat(files).isGreaterThan(200);
    assertThat(found).isEmpty();
  }

  private static List<String> overflowing(Path p) throws IOException {
    List<String> found = new ArrayList<>();
    for (String line : Files.readAllLines(p)) {
      Matcher m = PRODUCT.matcher(line);
      while (m.find()) {
        String factor = m.group(1) != null ? m.group(1) : m.group(2);
        if (Long.parseLong(factor.replace("_", "")) * MOST > Integer.MAX_VALUE) {
          found.add(p.getFileName() + ": " + line.strip());
        }
      }
    }
    return found;
  }

  @Test
  void theCheckItselfFindsWhatItLooksFor() throws IOException {
    Path p = Files.createTempFile("limits", ".java");
    Files.writeString(
        p,
        """
        int a = 20 * mesh.triangleCount();
        int b = 3 * mesh.triangleCount();
        long c = 20L * mesh.triangleCount();
        int d = 4 * triangleCount();
        int e = mesh.vertexCount() * 6;
        double f = 2.5 * mesh.vertexCount();
        """);
    try {
      assertThat(overflowing(p)).hasSize(3);
    } finally {
      Files.delete(p);
    }
  }
}
