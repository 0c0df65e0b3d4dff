package holotome.core.log;

import holotome.core.step.StepKind;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;

/** The steps as pages of documentation, from their one description: Markdown. */
public final class StepPages {
  private StepPages() {}

  /** Every step with its parameters. */
  public static String page() {
    StringBuilder out = new StringBuilder();
    out.append("# Steps\n\nMade by `scripts/steps` from the descriptions that the steps carry.\n");
    out.append(
        "A Log names a step under \"do\" and its parameters beside it; lengths are texts with a unit"
            + " or plain metres. Steps that work on any mesh take \"part\" as well, the name of the"
            + " mesh in place of the Scan.\n");
    String stage = "";
    for (StepKind k : Catalogue.all()) {
      if (!k.stage().equals(stage)) {
        stage = k.stage();
        out.append("\n## ").append(title(stage)).append('\n');
      }
      out.append("\n### ").append(k.title()).append(": `").append(k.id()).append("`\n\n");
      out.append(k.help()).append('\n');
      if (k.worksOnAnyMesh()) {
        out.append("Works on any mesh.\n");
      }
      if (!k.fields().isEmpty()) {
        out.append("\n| parameter | is | else |\n|---|---|---|\n");
        rows(out, k.fields(), "");
      }
    }
    return out.toString();
  }

  private static void rows(StringBuilder out, List<StepKind.Field> fields, String within) {
    for (StepKind.Field f : fields) {
      String unit = f.unit().isEmpty() ? "" : " in " + f.unit();
      String with = f.when().isEmpty() ? "" : "; with `" + f.when().replace("|", "` or `") + "`";
      String otherwise =
          !f.preset().isEmpty()
              ? f.preset()
              : !f.oneOf().isEmpty() ? "one of these" : f.optional() ? "left out" : "needed";
      out.append("| ").append(within).append('`').append(f.name()).append("` | ");
      out.append(f.help()).append(" (").append(f.type().replace("|", "\\|")).append(unit);
      out.append(with).append(") | ").append(otherwise).append(" |\n");
      rows(out, f.parts(), within + "`" + f.name() + "` › ");
    }
  }

  /** The steps of each stage in a table of a line each. */
  public static String table() {
    Map<String, StringBuilder> lines = new LinkedHashMap<>();
    for (StepKind k : Catalogue.all()) {
      StringBuilder line = lines.computeIfAbsent(k.stage(), s -> new StringBuilder());
      line.append(line.isEmpty() ? "" : ", ").append('`').append(k.id()).append('`');
    }
    StringBuilder out = new StringBuilder("| stage | steps |\n|---|---|\n");
    lines.forEach(
        (stage, line) ->
            out.append("| ").append(title(stage)).append(" | ").append(line).append(" |\n"));
    return out.toString();
  }

  private static String title(String stage) {
    return Character.toUpperCase(stage.charAt(0)) + stage.substring(1);
  }
}
