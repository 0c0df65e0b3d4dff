package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.mend.TakeNoise;
import holotome.core.unit.Length;
import java.util.List;
import javafx.scene.Node;

/** Takes noise off: of what is selected where something is, else everywhere. */
final class NoiseTool extends RegionTool {

  NoiseTool(Session session) {
    super(
        session,
        TakeNoise.class,
        (s, t) -> AppWords.of("noise-tool.take-the-noise-off"),
        w ->
            List.of(
                new Row(
                    "memory",
                    "–",
                    AppWords.of(
                        "tools.about-mb",
                        new TakeNoise(TakeNoise.How.EDGES_KEPT, null, 1, null, new Length(0))
                                .memory(w)
                            >> 20))),
        AppWords.of("noise-tool.everywhere"));
  }

  @Override
  public Node form() {
    Node form = super.form();
    if (!isSomeWhere()) {
      hide("soft");
    }
    return form;
  }
}
