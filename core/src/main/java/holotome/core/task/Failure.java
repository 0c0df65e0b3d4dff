package holotome.core.task;

import holotome.core.words.CoreWords;

/**
 * A refusal in plain words: what happened, to what, and what to do about it.
 *
 * <p>Thrown at the edges of the core. The message is one line, fit to be shown as it stands.
 */
public final class Failure extends RuntimeException {
  private static final long serialVersionUID = 1L;

  /** Why something could not be done; each kind has its exit code on the command line. */
  public enum Kind {
    USAGE(2),
    BAD_INPUT(3),
    CANNOT(4),
    MEMORY(5),
    CANCELLED(130);

    private final int exitCode;

    Kind(int exitCode) {
      this.exitCode = exitCode;
    }

    public int exitCode() {
      return exitCode;
    }
  }

  private final Kind kind;

  public Failure(Kind kind, String message) {
    super(message);
    this.kind = kind;
  }

  public Failure(Kind kind, String message, Throwable cause) {
    super(message, cause);
    this.kind = kind;
  }

  public Kind kind() {
    return kind;
  }

  public static Failure usage(String message) {
    return new Failure(Kind.USAGE, message);
  }

  public static Failure badInput(String message) {
    return new Failure(Kind.BAD_INPUT, message);
  }

  public static Failure cannot(String message) {
    return new Failure(Kind.CANNOT, message);
  }

  public static Failure cancelled() {
    return new Failure(Kind.CANCELLED, CoreWords.of("failure.cancelled-nothing-was-changed"));
  }

  /** Turns whatever went wrong into a Failure with one line; a Failure passes through. */
  public static Failure of(Throwable thrown) {
    Throwable at = thrown;
    while (at instanceof java.util.concurrent.ExecutionException && at.getCause() != null) {
      at = at.getCause();
    }
    return switch (at) {
      case Failure failure -> failure;
      case OutOfMemoryError e ->
          new Failure(Kind.MEMORY, CoreWords.of("failure.not-enough-memory-close-other"), e);
      case java.io.IOException e -> new Failure(Kind.BAD_INPUT, message(e), e);
      default -> new Failure(Kind.CANNOT, CoreWords.of("failure.internal-error", at), at);
    };
  }

  private static String message(java.io.IOException e) {
    return switch (e) {
      case java.nio.file.NoSuchFileException x -> CoreWords.of("common.no-such-file", x.getFile());
      case java.nio.file.AccessDeniedException x ->
          CoreWords.of("failure.access-is-denied-check-the", x.getFile());
      default ->
          e.getMessage() == null ? e.toString() : e.getMessage().lines().findFirst().orElse("");
    };
  }
}
