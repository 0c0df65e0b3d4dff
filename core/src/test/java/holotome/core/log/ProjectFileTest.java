package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.select.Pick;
import holotome.core.step.Blob;
import holotome.core.step.Run;
import holotome.core.task.Failure;
import holotome.core.trim.CutSelection;
import java.io.ByteArrayOutputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.BitSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.zip.Deflater;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** A project as an archive: with what its entries carry, several lines, and hostile ones. */
class ProjectFileTest {
  @TempDir private Path dir;

  private static BitSet some(int n, long seed) {
    BitSet set = new BitSet();
    Random r = new Random(seed);
    for (int i = 0; i < n; i++) {
      set.set(i, r.nextBoolean());
    }
    return set;
  }

  private static CutSelection stored(long seed) {
    return CutSelection.of(
        List.of(Pick.of(Pick.Join.REPLACE, some(5000, seed), 5000)), CutSelection.Then.REMOVE);
  }

  private static Entry entry(Map<String, Object> of) {
    return Entry.of(Catalogue.create(of));
  }

  private static LogFile log() {
    List<Entry> entries =
        List.of(
            entry(Map.of("do", "mend.tidy")),
            Entry.of(stored(1)),
            Entry.of(stored(1)),
            Entry.of(stored(2)));
    List<LineFile> others =
        List.of(
            new LineFile("lighter", 1, List.of(entry(Map.of("do", "mend.flip")))),
            new LineFile("bare", 0, List.of()));
    return new LogFile(entries, List.of("quay.ply"), Map.of(), List.of(), "main", others);
  }

  @Test
  void itIsAnArchiveThatOthersOpenAndComesBackTheSame() throws Exception {
    Path file = dir.resolve("quay.holotome");
    log().write(file);
    try (ZipFile zip = new ZipFile(file.toFile())) {
      String text =
          new String(
              zip.getInputStream(zip.getEntry("project.json")).readAllBytes(),
              StandardCharsets.UTF_8);
      assertThat(text).contains("\"blob\" : \"0001\"").contains("\"blob\" : \"0002\"");
      // What is carried twice is kept once.
      assertThat(zip.stream().filter(e -> e.getName().startsWith("blobs/")).count()).isEqualTo(2);
      assertThat(zip.entries().nextElement().getName()).isEqualTo("project.json");
    }
    LogFile back = LogFile.read(file);
    assertThat(back.text()).isEqualTo(log().text());
    assertThat(LogFile.isLog(file)).isTrue();
    byte[] first = Files.readAllBytes(file);
    back.write(file);
    assertThat(Files.readAllBytes(file)).isEqualTo(first);
    // Python's zipfile and json, as an independent reader.
    Process p =
        new ProcessBuilder(
                "python3",
                "-c",
                "import zipfile,json,sys;z=zipfile.ZipFile(sys.argv[1]);assert z.testzip() is None;"
                    + "print(len(json.loads(z.read('project.json'))['entries']))",
                file.toString())
            .redirectErrorStream(true)
            .start();
    String said = new String(p.getInputStream().readAllBytes(), StandardCharsets.UTF_8).strip();
    org.junit.jupiter.api.Assumptions.assumeTrue(p.waitFor() != 127);
    assertThat(said).isEqualTo("4");
  }

  @Test
  void linesComeBackWithWhatTheyShare() throws Exception {
    Path file = dir.resolve("quay.holotome");
    log().write(file);
    LogFile back = LogFile.read(file);
    assertThat(back.line()).isEqualTo("main");
    assertThat(back.line(null)).isEqualTo(back.entries());
    assertThat(back.line("lighter"))
        .containsExactly(back.entries().get(0), entry(Map.of("do", "mend.flip")));
    assertThat(back.line("bare")).isEmpty();
    assertThatThrownBy(() -> back.line("third"))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("main, lighter, bare");
    LineFile again = LineFile.beside("x", back.line("lighter"), back.entries());
    assertThat(again.from()).isEqualTo(1);
    assertThat(again.all(back.entries())).isEqualTo(back.line("lighter"));
  }

  /** Projects as they were before: JSON alone, with what is carried as text. */
  @Test
  void projectsOfBeforeStillOpen() throws Exception {
    Path old = dir.resolve("old.holotome");
    LogFile plain = new LogFile(log().entries(), "quay.ply");
    Files.writeString(old, plain.text());
    LogFile back = LogFile.read(old);
    assertThat(back.text()).isEqualTo(plain.text());
    assertThat(back.others()).isEmpty();
    assertThat(plain.text())
        .contains(
            ((CutSelection) plain.entries().get(1).step()).picks().getFirst().stored().text());
  }

  @Test
  void whatIsWrongWithAnArchiveIsSaid() throws Exception {
    Path file = dir.resolve("quay.holotome");
    log().write(file);
    byte[] whole = Files.readAllBytes(file);
    for (int cut : new int[] {5, 100, whole.length / 2, whole.length - 1}) {
      Path broken = dir.resolve("broken.holotome");
      Files.write(broken, java.util.Arrays.copyOf(whole, cut));
      assertThatThrownBy(() -> LogFile.read(broken))
          .isInstanceOfSatisfying(
              Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.BAD_INPUT))
          .hasMessageContaining("broken.holotome")
          .satisfies(e -> assertThat(e.getMessage()).doesNotContain("\n"));
    }
    archive("no.holotome", Map.of("else.txt", "x"));
    assertThatThrownBy(() -> LogFile.read(dir.resolve("no.holotome")))
        .hasMessageContaining("without a project.json");
    archive(
        "lost.holotome",
        Map.of(
            "project.json",
            "{\"holotome\": 1, \"entries\": [{\"do\": \"trim.select\", \"stored\": {\"blob\": \"0009\"}}]}"));
    assertThatThrownBy(() -> LogFile.read(dir.resolve("lost.holotome")))
        .hasMessageContaining("\"0009\" is not among its blobs");
  }

  /** Names that lead out of the archive are never followed; bombs are not unpacked. */
  @Test
  void hostileArchivesDoNoHarm() throws Exception {
    archive(
        "out.holotome",
        Map.of(
            "project.json",
            "{\"holotome\": 1, \"entries\": []}",
            "../../evil",
            "x",
            "blobs/../x",
            "y"));
    assertThat(LogFile.read(dir.resolve("out.holotome")).entries()).isEmpty();
    assertThat(dir.getParent().resolve("evil")).doesNotExist();
    Path bomb = dir.resolve("bomb.holotome");
    try (OutputStream out = Files.newOutputStream(bomb);
        ZipOutputStream zip = new ZipOutputStream(out)) {
      zip.setLevel(Deflater.BEST_SPEED);
      zip.putNextEntry(new ZipEntry("project.json"));
      byte[] blank = new byte[1 << 20];
      java.util.Arrays.fill(blank, (byte) ' ');
      for (int i = 0; i < 1100; i++) {
        zip.write(blank);
      }
      zip.closeEntry();
    }
    assertThat(Files.size(bomb)).isLessThan(16 << 20);
    assertThatThrownBy(() -> LogFile.read(bomb))
        .hasMessageContaining("more than a project can hold");
  }

  private void archive(String name, Map<String, String> files) throws Exception {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (ZipOutputStream zip = new ZipOutputStream(bytes)) {
      for (Map.Entry<String, String> f : files.entrySet()) {
        zip.putNextEntry(new ZipEntry(f.getKey()));
        zip.write(f.getValue().getBytes(StandardCharsets.UTF_8));
        zip.closeEntry();
      }
    }
    Files.write(dir.resolve(name), bytes.toByteArray());
  }

  @Test
  void blobsAreEqualByTheirBytes() {
    Blob a = Blob.of(new byte[] {1, 2, 3});
    assertThat(a).isEqualTo(Blob.parse(a.text())).hasSameHashCodeAs(Blob.parse(a.text()));
    assertThat(a).isNotEqualTo(Blob.of(new byte[] {1, 2}));
    assertThat(a.toString()).isEqualTo("3 bytes");
  }

  /** Lines in memory: parted, switched, dropped; what they share is the same. */
  @Test
  void linesPartAndShareWhatIsBefore() {
    Checkpoints keep = new Checkpoints(1L << 30, dir.resolve("states"));
    History h =
        History.of(GivenSteps.start(3, 20), keep)
            .replay(
                List.of(
                    entry(Map.of("do", "mend.tidy")),
                    entry(Map.of("do", "trim.islands", "keep", "largest")),
                    entry(Map.of("do", "mend.flip"))),
                Run.unwatched());
    Lines lines = Lines.of("main", h).part("other", 2);
    assertThat(lines.current().name()).isEqualTo("other");
    assertThat(lines.current().history().current().scan()).isSameAs(h.stateAfter(2).scan());
    lines =
        lines.changed(
            lines
                .current()
                .history()
                .apply(Catalogue.create(Map.of("do", "datum.turn", "angle", 5)), Run.unwatched()));
    assertThat(lines.shared("main")).isEqualTo(2);
    assertThat(lines.take("main").current().history()).isSameAs(h);
    Lines parted = lines;
    assertThatThrownBy(() -> parted.part("main", 1)).hasMessageContaining("already");
    assertThatThrownBy(() -> parted.take("third")).hasMessageContaining("main, other");
    Lines one = parted.drop("main");
    assertThat(one.current().name()).isEqualTo("other");
    assertThatThrownBy(() -> one.drop("other")).hasMessageContaining("the only line");
    assertThat(parted.drop("other").current().name()).isEqualTo("main");
    assertThat(parted.renamed("other", "light").current().name()).isEqualTo("light");
    assertThatThrownBy(() -> parted.renamed("other", "main")).hasMessageContaining("already");
  }

  /** A line from a file runs when it is taken, from where it parts. */
  @Test
  void aLineBesideRunsOnlyItsOwnEntriesAndOnlyWhenItIsTaken() {
    Checkpoints keep = new Checkpoints(1L << 30, dir.resolve("states"));
    List<Entry> main =
        List.of(
            entry(Map.of("do", "mend.tidy")),
            entry(Map.of("do", "trim.islands", "keep", "largest")));
    List<Entry> other =
        List.of(
            entry(Map.of("do", "mend.tidy")),
            entry(Map.of("do", "datum.turn", "angle", 5)),
            entry(Map.of("do", "mend.flip")));
    History h = History.of(GivenSteps.start(3, 20), keep).replay(main, Run.unwatched());
    Lines lines = Lines.of("main", h).beside("other", other);
    assertThat(lines.current().name()).isEqualTo("main");
    assertThat(lines.shared("other")).isEqualTo(1);
    assertThat(lines.named("other").entries()).isEqualTo(other);
    assertThat(lines.named("other").history().size()).isEqualTo(1);
    Lines taken = lines.take(lines.named("other").run(Run.unwatched()));
    assertThat(taken.current().history().entries()).isEqualTo(other);
    assertThat(taken.current().ahead()).isEmpty();
    assertThat(taken.current().history().stateAfter(1).scan()).isSameAs(h.stateAfter(1).scan());
    assertThat(taken.take("main").current().history()).isSameAs(h);
  }
}
