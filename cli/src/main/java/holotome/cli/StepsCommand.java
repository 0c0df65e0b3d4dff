package holotome.cli;

import holotome.core.log.Catalogue;
import holotome.core.log.StepPages;
import holotome.core.step.StepKind;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import picocli.CommandLine.Command;
import picocli.CommandLine.Option;

@Command(
    name = "steps",
    description = "Every step with its parameters.",
    mixinStandardHelpOptions = true)
final class StepsCommand implements Callable<Integer> {
  @Option(names = "--json", description = "Print JSON.")
  private boolean json;

  @Option(names = "--markdown", description = "Print the page of documentation.")
  private boolean markdown;

  @Option(names = "--table", description = "Print a table of a line per stage, as Markdown.")
  private boolean table;

  @Override
  public Integer call() {
    if (markdown || table) {
      System.out.print(markdown ? StepPages.page() : StepPages.table());
      return 0;
    }
    if (json) {
      List<Object> list = new ArrayList<>();
      for (StepKind k : Catalogue.all()) {
        Map<String, Object> m = new LinkedHashMap<>();
        m.put("do", k.id());
        m.put("title", k.title());
        m.put("help", k.help());
        m.put("anyMesh", k.worksOnAnyMesh());
        m.put("parameters", k.fields().stream().map(StepsCommand::field).toList());
        list.add(m);
      }
      Console.json(Map.of("steps", list));
      return 0;
    }
    for (StepKind k : Catalogue.all()) {
      String any = k.worksOnAnyMesh() ? " (any mesh, by \"part\")" : "";
      System.out.println(k.id() + "  " + k.help() + any);
      print(k.fields(), "    ");
    }
    return 0;
  }

  /** Parameters, and below each group what it holds. */
  private static void print(List<StepKind.Field> fields, String indent) {
    for (StepKind.Field f : fields) {
      String preset =
          f.preset().isEmpty()
              ? (!f.oneOf().isEmpty()
                  ? " (one of these)"
                  : f.optional() ? " (may be left out)" : " (needed)")
              : " (else " + f.preset() + ")";
      String with = f.when().isEmpty() ? "" : ", with " + f.when();
      String unit = f.unit().isEmpty() ? "" : ", " + f.unit();
      System.out.printf(
          "%s%-14s %s%s%s%s%n%s%-14s %s%n",
          indent, f.name(), f.type(), unit, preset, with, indent, "", f.help());
      print(f.parts(), indent + "  ");
    }
  }

  private static Map<String, Object> field(StepKind.Field f) {
    Map<String, Object> m = new LinkedHashMap<>();
    m.put("name", f.name());
    m.put("type", f.type());
    m.put("help", f.help());
    m.put("unit", f.unit());
    m.put("min", Console.finite(f.min()));
    m.put("max", Console.finite(f.max()));
    m.put("preset", f.preset());
    m.put("optional", f.optional());
    m.put("when", f.when());
    m.put("oneOf", f.oneOf());
    if (!f.parts().isEmpty()) {
      m.put("parts", f.parts().stream().map(StepsCommand::field).toList());
    }
    return m;
  }
}
