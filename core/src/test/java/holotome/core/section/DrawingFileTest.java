package holotome.core.section;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.SafeFiles;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;

/** Drawings read back by readers that are not ours: npm dxf-parser and svg-path-properties. */
class DrawingFileTest {
  @TempDir Path dir;

  private record Entity(
      String kind, String layer, boolean closed, double length, double x, double y, double z) {}

  private List<Entity> read(List<Section> sections, double tolerance, DrawingFile.Format format)
      throws Exception {
    Datasets.file("drawings");
    Path file = dir.resolve("s." + format.name().toLowerCase(java.util.Locale.ROOT));
    try (SafeFiles files = new SafeFiles()) {
      DrawingFile.add(files, file, sections, tolerance, format);
      files.commit();
    }
    Process p =
        new ProcessBuilder("node", Datasets.script("read-drawing").toString(), file.toString())
            .redirectErrorStream(true)
            .start();
    String out = new String(p.getInputStream().readAllBytes());
    assertThat(p.waitFor()).as(out).isZero();
    List<Entity> list = new ArrayList<>();
    for (String line : out.lines().toList()) {
      String[] w = line.split(" ");
      list.add(
          new Entity(
              w[0],
              w[1],
              w[2].equals("closed"),
              Double.parseDouble(w[4]),
              Double.parseDouble(w[5]),
              Double.parseDouble(w[6]),
              Double.parseDouble(w[7])));
    }
    return list;
  }

  private static List<Section> stack() {
    Mesh both =
        Shapes.together(Shapes.torus(1, 0.25, 200, 80), Shapes.moved(Shapes.cube(1), 3, 0, 0));
    return Slicer.stack(
        both,
        Similarity.IDENTITY,
        SectionPlane.of(Vec.of(0, 0, 0.01), Vec.of(0, 0, 1)),
        0.1,
        2,
        Work.unwatched());
  }

  @Test
  void exactPointsComeBackInMillimetres() throws Exception {
    List<Section> s = stack();
    for (DrawingFile.Format f : List.of(DrawingFile.Format.DXF, DrawingFile.Format.SVG)) {
      List<Entity> back = read(s, 0, f);
      assertThat(back).hasSize(6).allMatch(Entity::closed);
      int i = 0;
      for (Section x : s) {
        for (Curve c : x.curves()) {
          assertThat(back.get(i++).length())
              .isCloseTo(1000 * c.length(), within(1e-6 * 1000 * c.length()));
        }
      }
      assertThat(back.getFirst().x())
          .isCloseTo(1000 * s.get(0).curves().getFirst().xy()[0], within(1e-6));
    }
    List<Entity> dxf = read(s, 0, DrawingFile.Format.DXF);
    assertThat(dxf.get(0).layer()).isEqualTo("SECTION_1");
    assertThat(dxf.get(5).layer()).isEqualTo("SECTION_2");
    // The second section stands its distance above the first.
    assertThat(dxf.get(5).z()).isCloseTo(100, within(1e-6));
  }

  @Test
  void fittedArcsComeBackAsLong() throws Exception {
    List<Section> s = stack();
    List<Entity> dxf = read(s, 2e-3, DrawingFile.Format.DXF);
    List<Entity> svg = read(s, 2e-3, DrawingFile.Format.SVG);
    assertThat(dxf.stream().filter(e -> e.kind().equals("circle"))).hasSize(4);
    int i = 0;
    for (Section x : s) {
      for (Curve c : x.curves()) {
        assertThat(dxf.get(i).length()).isCloseTo(1000 * c.length(), within(2.0));
        assertThat(svg.get(i).length()).isCloseTo(1000 * c.length(), within(2.0));
        i++;
      }
    }
  }

  @Test
  void bulgesTurnTheWayTheCurveDoes() throws Exception {
    // A half disc: one arc, one line.
    int n = 200;
    double[] xy = new double[2 * n];
    for (int i = 0; i < n; i++) {
      xy[2 * i] = Math.cos(Math.PI * i / (n - 1));
      xy[2 * i + 1] = Math.sin(Math.PI * i / (n - 1));
    }
    Section s =
        new Section(SectionPlane.of(new double[3], Vec.of(0, 0, 1)), List.of(new Curve(xy, true)));
    for (DrawingFile.Format f : List.of(DrawingFile.Format.DXF, DrawingFile.Format.SVG)) {
      List<Entity> back = read(List.of(s), 1e-3, f);
      assertThat(back).hasSize(1);
      assertThat(back.getFirst().length()).isCloseTo(1000 * (Math.PI + 2), within(1.0));
    }
    String svg = DrawingFile.svg(List.of(s), 1e-3, "half <disc>");
    // From (1, 0) over the top: up is down in SVG, so the sweep is against the clock, flag 0.
    assertThat(svg).contains(" 0 0 0 -1000.000000000 0.000000000").contains("half &lt;disc&gt;");
  }

  @Test
  void theTableHasALineASection() throws Exception {
    Path file = dir.resolve("s.csv");
    try (SafeFiles files = new SafeFiles()) {
      DrawingFile.add(files, file, stack(), 0, DrawingFile.Format.CSV);
      files.commit();
    }
    List<String> lines = Files.readAllLines(file);
    assertThat(lines).hasSize(3);
    String[] first = lines.get(1).split(",");
    assertThat(Double.parseDouble(first[1])).isCloseTo(10, within(1e-6));
    assertThat(Integer.parseInt(first[2])).isEqualTo(3);
  }
}
