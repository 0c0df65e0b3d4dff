package holotome.core.io;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** What killed runs leave behind is cleared by the next write there; what others are at is not. */
class SafeFilesTest {
  @TempDir private Path dir;

  @Test
  void theNextWriteTakesLeftOverPartsAway() throws Exception {
    // Numbers of processes end below 2^22 on Linux (pid_max, proc(5)): this one is nobody's.
    Path dead = Files.writeString(dir.resolve(".a.ply.part99999999"), "half");
    Path alive =
        Files.writeString(
            dir.resolve(".a.ply.part" + ProcessHandle.current().parent().get().pid()), "x");
    Path other = Files.writeString(dir.resolve(".b.ply.part99999999"), "half");
    Path own = Files.writeString(dir.resolve(".a.ply.parts-list"), "mine");
    SafeFiles.write(dir.resolve("a.ply"), out -> out.write(65));
    assertThat(dead).doesNotExist();
    assertThat(alive).exists();
    assertThat(other).exists();
    assertThat(own).exists();
    assertThat(dir.resolve("a.ply")).hasContent("A");
    try (Stream<Path> all = Files.list(dir)) {
      assertThat(all.filter(p -> p.getFileName().toString().startsWith(".a"))).hasSize(2);
    }
  }
}
