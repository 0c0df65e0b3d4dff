package holotome.app.window;

/** Looks into parts of the window that show only on the screen. */
public final class WindowProbe {
  private WindowProbe() {}

  /** Whether the Tape draws a step that is not applied yet. On the interface thread. */
  public static boolean isTapePending(Desk desk) {
    return desk.tape().isPending();
  }

  /** Takes up the tools of all stages one after the other. */
  public static Iterable<Runnable> tools(Desk desk) {
    java.util.List<Runnable> out = new java.util.ArrayList<>();
    for (Actions.Action a : desk.actions().all()) {
      if (a.id().startsWith("tool.")) {
        out.add(a.run());
      }
    }
    return out;
  }
}
