package holotome.app.words;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.Stream;

/** The string literals of Java sources, comments left out. */
final class Literals {
  /**
   * @param text as between the quotes
   * @param before what stands before it in the same statement, without literals and comments
   */
  record Literal(Path file, int line, String text, String before) {}

  private Literals() {}

  /** Those of all sources below a module's main directory. */
  static List<Literal> of(String module) throws IOException {
    Path main = root().resolve(module).resolve("src/main/java");
    List<Literal> out = new ArrayList<>();
    try (Stream<Path> files = Files.walk(main)) {
      for (Path f : files.filter(p -> p.toString().endsWith(".java")).sorted().toList()) {
        read(f, Files.readString(f), out);
      }
    }
    return out;
  }

  private static Path root() {
    Path here = Path.of("").toAbsolutePath();
    return Files.isDirectory(here.resolve("core")) ? here : here.getParent();
  }

  private static void read(Path file, String s, List<Literal> out) {
    StringBuilder statement = new StringBuilder();
    int line = 1;
    int i = 0;
    while (i < s.length()) {
      char c = s.charAt(i);
      int end = i + 1;
      if (s.startsWith("//", i)) {
        end = s.indexOf('\n', i);
      } else if (s.startsWith("/*", i)) {
        end = s.indexOf("*/", i) + 2;
      } else if (s.startsWith("\"\"\"", i)) {
        end = s.indexOf("\"\"\"", i + 3) + 3;
      } else if (c == '"' || c == '\'') {
        while (s.charAt(end) != c) {
          end += s.charAt(end) == '\\' ? 2 : 1;
        }
        end++;
        if (c == '"') {
          out.add(new Literal(file, line, s.substring(i + 1, end - 1), statement.toString()));
        }
      } else if (c == ';' || c == '{' || c == '}') {
        statement.setLength(0);
      } else {
        statement.append(c);
      }
      line += (int) s.substring(i, end).chars().filter(x -> x == '\n').count();
      i = end;
    }
  }
}
