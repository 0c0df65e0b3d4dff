package holotome.demo;

import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.SerializationFeature;
import holotome.core.geometry.Similarity;
import holotome.core.io.MeshWriter;
import holotome.core.io.SafeFiles;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Writes demo scans, each with a small JSON beside it that states the truth about it. */
public final class DemoFiles {
  private static final ObjectMapper JSON =
      new ObjectMapper().enable(SerializationFeature.INDENT_OUTPUT);

  /** The scans there are, by name. */
  public static final List<String> NAMES = List.of("bollard", "shop-window", "net-shed", "setts");

  private DemoFiles() {}

  /**
   * Writes a scan: as PLY (streamed, colour per vertex) or OBJ (colour in a texture atlas, up to 20
   * million triangles), by the file's ending.
   */
  public static void write(String name, Path file, int triangles, Work work) {
    if (!NAMES.contains(name)) {
      throw Failure.usage(
          "there is no demo scan \"" + name + "\"; there are " + String.join(", ", NAMES));
    }
    if (name.equals("shop-window")) {
      shopWindow(file, triangles, work);
      return;
    }
    if (name.equals("net-shed")) {
      netShed(file, triangles, work);
      return;
    }
    if (name.equals("setts")) {
      setts(file, triangles, work);
      return;
    }
    BollardScan scan = BollardScan.of(triangles);
    String ending = file.toString().toLowerCase(Locale.ROOT);
    try (SafeFiles files = new SafeFiles()) {
      int[] ends = new int[4];
      if (ending.endsWith(".ply")) {
        ScanStream stream = new ScanStream(scan, work);
        files.add(file, stream::write);
        System.arraycopy(stream.ends(), 0, ends, 0, 4);
      } else if (ending.endsWith(".obj")) {
        if (triangles > 20_000_000) {
          throw Failure.usage("as OBJ a demo scan has up to 20,000,000 triangles; choose ply");
        }
        BollardScan.Made made = scan.make(work.part(0.5, "Making the demo scan"));
        System.arraycopy(made.ends(), 0, ends, 0, 4);
        MeshWriter.add(
            files,
            file,
            Atlas.textured(scan, made, work.part(0.2, "Painting the atlas")),
            Similarity.IDENTITY,
            work.part(0.3, "Writing"));
      } else {
        throw Failure.usage(file + ": a demo scan is written as ply or obj");
      }
      files.add(truthBeside(file), out -> out.write(truth(ends)));
      files.commit();
    }
  }

  private static void shopWindow(Path file, int triangles, Work work) {
    check("a shop window", file, triangles);
    Map<String, Object> truth = new LinkedHashMap<>();
    truth.put(
        "about", "Truth of a made-up scan, in metres: the panes lie in the plane y = paneDepth.");
    truth.put("paneDepth", ShopWindow.PANE_DEPTH);
    try (SafeFiles files = new SafeFiles()) {
      MeshWriter.add(files, file, ShopWindow.scan(triangles), Similarity.IDENTITY, work);
      files.add(truthBeside(file), out -> out.write(json(truth)));
      files.commit();
    }
  }

  private static void setts(Path file, int triangles, Work work) {
    check("a patch of setts", file, triangles);
    Map<String, Object> truth = new LinkedHashMap<>();
    truth.put(
        "about",
        "Truth of a made-up scan: three metres of paving square, a rule of a metre on it. Scan coordinates are true metres times scale.");
    truth.put("scale", Setts.SCALE);
    List<double[]> ends = new ArrayList<>();
    for (double[] end : Setts.RULE) {
      double z = Setts.base(end[0], end[1]);
      ends.add(new double[] {Setts.SCALE * end[0], Setts.SCALE * end[1], Setts.SCALE * z});
    }
    truth.put("rule", Map.of("ends", ends, "metres", Setts.RULE[1][0] - Setts.RULE[0][0]));
    try (SafeFiles files = new SafeFiles()) {
      MeshWriter.add(files, file, Setts.scan(triangles), Similarity.IDENTITY, work);
      files.add(truthBeside(file), out -> out.write(json(truth)));
      files.commit();
    }
  }

  /** With the light mesh that was modelled over it beside the scan: x.ply has x.cast.obj. */
  private static void netShed(Path file, int triangles, Work work) {
    check("a net shed", file, triangles);
    Map<String, Object> truth = new LinkedHashMap<>();
    truth.put(
        "about",
        "Truth of a made-up scan, in metres: no camera saw the sides in unseen; each is as the side beside it in asSeenOn, from left to right as seen from outside. Points lie on those sides.");
    double y = NetShed.DEPTH / 2;
    double x = NetShed.LENGTH / 2;
    truth.put("unseen", List.of(new double[] {x, 2 * y, 1}, new double[] {2 * x, y, 1}));
    truth.put("asSeenOn", List.of(new double[] {x, 0, 1}, new double[] {0, y, 1}));
    try (SafeFiles files = new SafeFiles()) {
      Work half = work.part(0.9, "Writing");
      MeshWriter.add(files, file, NetShed.scan(triangles), Similarity.IDENTITY, half);
      MeshWriter.add(
          files,
          castBeside(file),
          NetShed.modelled(),
          Similarity.IDENTITY,
          work.part(0.1, "Writing"));
      files.add(truthBeside(file), out -> out.write(json(truth)));
      files.commit();
    }
  }

  private static void check(String what, Path file, int triangles) {
    if (triangles < BollardScan.LEAST || triangles > 20_000_000) {
      throw Failure.usage(what + " has from 20,000 to 20,000,000 triangles");
    }
    if (!file.toString().toLowerCase(Locale.ROOT).endsWith(".ply")) {
      throw Failure.usage(file + ": " + what + " is written as ply");
    }
  }

  /** Where the truth about a scan stands: x.ply has x.truth.json. */
  public static Path truthBeside(Path file) {
    return beside(file, ".truth.json");
  }

  /** Where the light mesh that goes with a scan stands. */
  public static Path castBeside(Path file) {
    return beside(file, ".cast.obj");
  }

  private static Path beside(Path file, String ending) {
    String name = file.getFileName().toString();
    return file.resolveSibling(name.substring(0, name.lastIndexOf('.')) + ending);
  }

  private static byte[] json(Map<String, Object> root) throws IOException {
    return (JSON.writeValueAsString(root) + "\n").getBytes(StandardCharsets.UTF_8);
  }

  private static byte[] truth(int[] ends) throws IOException {
    Similarity s = BollardScan.CAPTURE;
    Map<String, Object> root = new LinkedHashMap<>();
    root.put(
        "about",
        "Truth of a made-up scan. Scan coordinates = scale * rotation * true metres + shift.");
    root.put("capture", Map.of("scale", s.scale(), "rotation", s.rotation(), "shift", s.shift()));
    List<double[]> bar = new ArrayList<>();
    for (double[] end : Extras.barEnds()) {
      bar.add(s.apply(end));
    }
    root.put("scaleBar", Map.of("ends", bar, "metres", Extras.BAR_LENGTH));
    root.put(
        "bollard",
        Map.of(
            "height",
            Bollard.HEIGHT,
            "flangeDiameter",
            2 * Bollard.FLANGE_RADIUS,
            "axis",
            s.direction(new double[] {0, 0, 1}),
            "baseCentre",
            s.apply(0, 0, 0)));
    Map<String, int[]> parts = new LinkedHashMap<>();
    String[] names = {"subject", "paving", "bar", "debris"};
    for (int i = 0; i < 4; i++) {
      parts.put(names[i], new int[] {i == 0 ? 0 : ends[i - 1], ends[i]});
    }
    root.put("triangles", parts);
    return json(root);
  }
}
