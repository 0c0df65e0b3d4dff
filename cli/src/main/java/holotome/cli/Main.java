package holotome.cli;

import holotome.core.task.Failure;
import java.io.FileNotFoundException;
import java.io.FileOutputStream;
import java.io.PrintStream;
import java.util.Locale;
import picocli.CommandLine;
import picocli.CommandLine.Command;

/** The program without a window. */
@Command(
    name = "holotome",
    description =
        "Turns a raw scanned mesh into a finished asset. Without a command it opens the window.",
    version = "Holotome 0.1.0",
    mixinStandardHelpOptions = true,
    synopsisSubcommandLabel = "COMMAND",
    subcommands = {
      InspectCommand.class,
      CompareCommand.class,
      StepsCommand.class,
      ReplayCommand.class,
      MeasureCommand.class,
      PictureCommand.class,
      DemoScanCommand.class
    })
public final class Main {
  public static void main(String[] arguments) {
    errors();
    // Figures read the same everywhere; a Log or a script may be waiting for them.
    Locale.setDefault(Locale.Category.FORMAT, Locale.ROOT);
    System.exit(run(arguments));
  }

  /** What is said goes where the launcher tells, past what it takes out of Java's own messages. */
  private static void errors() {
    String file = System.getProperty("holotome.errors");
    if (file == null) {
      return;
    }
    try {
      System.setErr(new PrintStream(new FileOutputStream(file, true), true));
    } catch (FileNotFoundException e) {
      // A system without such files: all of it goes the usual way.
      System.err.flush();
    }
  }

  /** Runs one command and returns its exit code. */
  public static int run(String... arguments) {
    CommandLine line = new CommandLine(new Main());
    line.setCaseInsensitiveEnumValuesAllowed(true);
    line.setExecutionExceptionHandler(
        (e, commandLine, parsed) -> {
          Failure f = Failure.of(e);
          System.err.println("holotome: " + f.getMessage());
          if (f.getMessage().startsWith("Internal error")
              && System.getenv("HOLOTOME_TRACE") != null) {
            e.printStackTrace();
          }
          return f.kind().exitCode();
        });
    line.setParameterExceptionHandler(
        (e, given) -> {
          System.err.println(
              "holotome: "
                  + e.getMessage().lines().findFirst().orElse("wrong usage")
                  + "; see holotome --help");
          return Failure.Kind.USAGE.exitCode();
        });
    if (arguments.length == 0) {
      line.usage(System.out);
      return 0;
    }
    return line.execute(arguments);
  }
}
