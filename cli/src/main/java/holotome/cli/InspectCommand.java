package holotome.cli;

import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.intake.Inspection;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.mend.Fault;
import holotome.core.mend.Survey;
import java.math.BigDecimal;
import java.math.MathContext;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;
import picocli.CommandLine.Parameters;

@Command(
    name = "inspect",
    description = "What is in a mesh, and what is wrong with it.",
    mixinStandardHelpOptions = true)
final class InspectCommand implements Callable<Integer> {
  /** Places that are listed of each kind of fault. */
  private static final int PLACES = 10;

  @Parameters(paramLabel = "FILE", description = "A mesh: ply, obj, stl or off.")
  private Path file;

  @Option(names = "--json", description = "Print JSON.")
  private boolean json;

  @Option(
      names = "--faults",
      description =
          "Look for everything that is wrong as well, with places: takes some times longer.")
  private boolean faults;

  @Override
  public Integer call() throws Exception {
    return Console.watched(
        work -> {
          Loaded loaded = MeshReader.read(file, work.part(0.4, "Reading"));
          double share = faults ? 0.2 : 0.6;
          Inspection i = Inspection.of(loaded.mesh(), true, work.part(share, "Inspecting"));
          Survey survey =
              faults ? Survey.of(loaded.mesh(), work.part(0.4, "Looking for faults")) : null;
          Box b = Placing.bounds(loaded.mesh().xyz(), loaded.frame().toFile());
          Map<String, Object> values = values(loaded, i, b);
          if (survey != null) {
            values.put("noise", survey.noise() * loaded.frame().toFile().scale());
            values.put("faults", faults(survey, loaded.frame().toFile()));
          }
          print(loaded, values, i);
          if (survey != null && !json) {
            printFaults(survey, loaded.frame().toFile());
          }
          return 0;
        });
  }

  /** Each kind with its count and the worst places, in the file's own coordinates. */
  private static List<Map<String, Object>> faults(Survey survey, Similarity toFile) {
    List<Map<String, Object>> out = new ArrayList<>();
    for (Fault f : survey.faults()) {
      Map<String, Object> m = new LinkedHashMap<>();
      m.put("kind", name(f));
      m.put("count", f.count());
      List<double[]> places = new ArrayList<>();
      for (int i = 0; i < Math.min(PLACES, f.sizes().length); i++) {
        places.add(place(f, i, toFile));
      }
      m.put("places", places);
      out.add(m);
    }
    return out;
  }

  private static String name(Fault f) {
    return f.kind().name().toLowerCase(Locale.ROOT).replace('_', '-');
  }

  private static double[] place(Fault f, int i, Similarity toFile) {
    float[] p = f.places();
    return toFile.apply(p[3 * i], p[3 * i + 1], p[3 * i + 2]);
  }

  private static void printFaults(Survey survey, Similarity toFile) {
    System.out.println(survey.faults().isEmpty() ? "  no faults" : "  faults, worst place first");
    for (Fault f : survey.faults()) {
      double[] at = place(f, 0, toFile);
      System.out.printf(
          "    %-20s %,12d   at %s, %s, %s%n",
          name(f).replace('-', ' '), f.count(), short6(at[0]), short6(at[1]), short6(at[2]));
    }
  }

  private static Map<String, Object> values(Loaded loaded, Inspection i, Box b) {
    Map<String, Object> m = new LinkedHashMap<>();
    m.put("format", loaded.format());
    m.put("triangles", i.triangles());
    m.put("vertices", i.vertices());
    m.put("bounds", Map.of("min", b.min(), "max", b.max()));
    m.put("unit", "unknown");
    m.put("area", i.area());
    m.put("volume", Console.finite(i.volume()));
    m.put("closed", i.closed());
    m.put("boundaryLoops", i.boundaryLoops());
    m.put("boundaryEdges", i.boundaryEdges());
    m.put("nonManifoldEdges", i.nonManifoldEdges());
    m.put("nonManifoldVertices", i.nonManifoldVertices());
    m.put("degenerateTriangles", i.degenerateTriangles());
    m.put("duplicateTriangles", i.duplicateTriangles());
    m.put("duplicateVertices", i.duplicateVertices());
    m.put("tornEdges", i.tornEdges());
    m.put("unreferencedVertices", i.unreferencedVertices());
    m.put("islands", i.islands());
    m.put("eulerCharacteristic", i.eulerCharacteristic());
    m.put("consistentlyOriented", i.consistentlyOriented());
    m.put("selfIntersections", i.selfIntersections());
    m.put("hasColour", i.hasColour());
    m.put("hasUv", i.hasUv());
    m.put("notes", loaded.notes());
    return m;
  }

  private void print(Loaded loaded, Map<String, Object> values, Inspection i) {
    if (json) {
      Console.json(values);
      return;
    }
    System.out.println(file + ": " + loaded.format());
    values.forEach(
        (k, v) -> {
          if (!k.equals("format")
              && !k.equals("bounds")
              && !k.equals("notes")
              && !k.equals("faults")) {
            String text =
                switch (v) {
                  case Integer n -> String.format("%,d", n);
                  case Long n -> String.format("%,d", n);
                  case Double d -> short6(d);
                  case null -> "not closed";
                  default -> v.toString();
                };
            System.out.printf("  %-22s %s%n", words(k), text);
          }
        });
    Box b = i.bounds();
    System.out.printf(
        "  %-22s %s × %s × %s units%n",
        "size", short6(b.width()), short6(b.depth()), short6(b.height()));
    loaded.notes().forEach(n -> System.out.println("  note: " + n));
  }

  /** Six digits that count, without idle zeros. */
  private static String short6(double v) {
    return new BigDecimal(v).round(new MathContext(6)).stripTrailingZeros().toPlainString();
  }

  private static String words(String camel) {
    return camel.replaceAll("([A-Z])", " $1").toLowerCase(Locale.ROOT);
  }
}
