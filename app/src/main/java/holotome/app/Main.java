package holotome.app;

/** Starts the application; a class of its own so that it also starts from the class path. */
public final class Main {
  private Main() {}

  public static void main(String[] arguments) {
    HolotomeApp.main(arguments);
  }
}
