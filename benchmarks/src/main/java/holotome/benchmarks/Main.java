package holotome.benchmarks;

/** Runs a benchmark by name. */
public final class Main {
  private Main() {}

  public static void main(String[] arguments) {
    System.out.println("benchmarks: none yet");
  }
}
