package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.reduce.GiveImportance;
import holotome.core.words.Language;
import holotome.view.scene.Look;
import java.util.List;

/** Says how much what is selected matters, or everything. */
final class ImportanceTool extends RegionTool {

  ImportanceTool(Session session) {
    super(
        session,
        GiveImportance.class,
        Stage.REDUCE,
        false,
        (s, t) ->
            s instanceof GiveImportance g
                ? AppWords.of("importance-tool.let-it-count", Language.figure(g.times()))
                : AppWords.of("importance-tool.let-it-count-plain"),
        w -> List.of(),
        AppWords.of("importance-tool.everything"));
  }

  @Override
  public Look look() {
    return Look.IMPORTANCE;
  }
}
