package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.proxy.MakeBlock;
import holotome.core.proxy.SettleProxy;
import java.util.List;
import java.util.Map;
import javafx.scene.Node;

/** Settles the Cast onto the Scan; shows what that would make, and only fields that matter. */
final class SettleTool extends StepTool {
  /** Larger scans are not tried out on every edit. */
  private static final int LARGE = 2_000_000;

  SettleTool(Session session) {
    super(
        session,
        SettleProxy.class,
        Stage.REDUCE,
        true,
        Map.of(),
        (s, t) -> AppWords.of("proxy-tool.settle"),
        w -> List.of());
    triedUpTo(LARGE);
    showing();
    needs(
        w -> w.cast() == null ? AppWords.of("proxy-tool.nothing-made") : null,
        w -> new Tool.Way(AppWords.of("proxy-tool.begin"), MakeBlock.class));
  }

  @Override
  public Node form() {
    Node form = super.form();
    changed();
    return form;
  }

  @Override
  protected void changed() {
    Object divide = values().get("divide");
    boolean isWhole = divide == null || "0".equals(String.valueOf(divide).strip());
    for (String name : List.of("shape", "when")) {
      if (isWhole) {
        hide(name);
      } else {
        reveal(name);
      }
    }
    if ("flat".equals(values().get("keep"))) {
      hide("smooth");
    } else {
      reveal("smooth");
    }
  }
}
