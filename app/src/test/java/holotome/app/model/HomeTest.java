package holotome.app.model;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

class HomeTest {
  @TempDir private Path dir;

  @Test
  void recentFilesAreNewestFirstOnceEachAndThereStill() throws IOException {
    Home home = new Home(dir.resolve("home"));
    assertThat(home.recent()).isEmpty();
    for (int i = 0; i < 12; i++) {
      home.addRecent(Files.writeString(dir.resolve(i + ".ply"), "x"));
    }
    home.addRecent(dir.resolve("7.ply"));
    assertThat(home.recent()).hasSize(8).doesNotHaveDuplicates();
    assertThat(home.recent().getFirst()).isEqualTo(dir.resolve("7.ply"));
    Files.delete(dir.resolve("7.ply"));
    assertThat(home.recent().getFirst()).isEqualTo(dir.resolve("11.ply"));
  }

  @Test
  void unsavedWorkHasAFileOfItsOwnEachAndIsFoundAgain() throws IOException {
    Home home = new Home(dir.resolve("home"));
    Path a = home.freshRecovery();
    Files.createDirectories(a.getParent());
    Files.writeString(a, "one");
    Path b = home.freshRecovery();
    assertThat(b).isNotEqualTo(a);
    Files.writeString(b, "two");
    assertThat(home.unsaved()).containsExactly(b, a);
    assertThat(home.isRecovery(a)).isTrue();
    assertThat(home.isRecovery(dir.resolve("mine.holotome"))).isFalse();
  }

  @Test
  void assetsGoToAFolderNamedAfterTheScan() {
    Home home = new Home(dir);
    assertThat(home.output(Path.of("/scans/quay.v2.ply"))).isEqualTo(dir.resolve("out/quay.v2"));
    assertThat(home.output(Path.of("/scans/plain"))).isEqualTo(dir.resolve("out/plain"));
    assertThat(home.states().getFileName().toString())
        .contains(String.valueOf(ProcessHandle.current().pid()));
  }
}
