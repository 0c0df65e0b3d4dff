package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.model.Stage;
import holotome.app.words.AppWords;
import holotome.core.datum.DeclareUnit;
import holotome.core.datum.Front;
import holotome.core.datum.KeepFrame;
import holotome.core.datum.Level;
import holotome.core.datum.Origin;
import holotome.core.datum.Place;
import holotome.core.datum.Scale;
import holotome.core.datum.Turn;
import holotome.core.datum.WriteSection;
import holotome.core.geometry.Box;
import holotome.core.log.Catalogue;
import holotome.core.log.History;
import holotome.core.mend.CutCrossings;
import holotome.core.mend.CutHandles;
import holotome.core.mend.DropShells;
import holotome.core.mend.EaseOverhang;
import holotome.core.mend.EditMesh;
import holotome.core.mend.FillHoles;
import holotome.core.mend.HollowOut;
import holotome.core.mend.MakeManifold;
import holotome.core.mend.MakeSolid;
import holotome.core.mend.OrientOut;
import holotome.core.mend.PatchRegion;
import holotome.core.mend.PullSurface;
import holotome.core.mend.PutOnBase;
import holotome.core.mend.TakeNoise;
import holotome.core.mend.TakeSpikes;
import holotome.core.mend.Tidy;
import holotome.core.mend.TurnOver;
import holotome.core.mend.WeldPoints;
import holotome.core.part.Workpiece;
import holotome.core.ship.WriteAsset;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.trim.CutBox;
import holotome.core.trim.CutFence;
import holotome.core.trim.CutGround;
import holotome.core.trim.CutSelection;
import holotome.core.trim.KeepIslands;
import holotome.core.trim.PlaneCut;
import holotome.core.trim.TrimFringe;
import holotome.core.unit.Length;
import holotome.core.words.Language;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.function.Function;

/**
 * The tools of each stage, in the order of their numbers, and the one that edits a kind of step.
 */
public final class Tools {
  /** Faults of larger meshes are not mended on trial. */
  private static final int QUICK_FAULTS = 2_000_000;

  private final Map<Class<? extends Step>, Tool> byStep = new LinkedHashMap<>();
  private final List<Tool> all = new ArrayList<>();

  public Tools(Session session) {
    Function<Workpiece, List<Tool.Row>> none = w -> List.of();
    Map<String, Object> plain = Map.of();
    add(
        DeclareUnit.class,
        new StepTool(
            session,
            DeclareUnit.class,
            Stage.INTAKE,
            true,
            plain,
            (s, t) ->
                s instanceof DeclareUnit d
                    ? AppWords.of("common.one-unit-is-1", d.unit().symbol())
                    : AppWords.of("common.set-the-unit"),
            none));
    add(CutSelection.class, new LassoTool(session));
    addAlso(new BoxTool(session), new BrushTool(session), new AlikeTool(session));
    add(KeepIslands.class, new IslandsTool(session));
    add(CutGround.class, new GroundTool(session));
    add(PlaneCut.class, new PlaneTool(session));
    add(CutFence.class, new FenceTool(session));
    add(CutBox.class, new CropTool(session));
    add(
        TrimFringe.class,
        new StepTool(
            session,
            TrimFringe.class,
            Stage.TRIM,
            true,
            plain,
            (s, t) ->
                removing(t, AppWords.of("common.even-the-borders-out"), "tools.remove-fringe"),
            none));
    addTidying(session);
    add(FillHoles.class, new HolesTool(session));
    add(WeldPoints.class, new WeldTool(session));
    add(TakeNoise.class, new NoiseTool(session));
    add(EditMesh.class, new EditTool(session));
    add(
        PatchRegion.class,
        new RegionTool(
            session, PatchRegion.class, (s, t) -> AppWords.of("tools.make-the-patch"), none, null));
    addPulling(session);
    add(
        MakeSolid.class,
        new StepTool(
            session,
            MakeSolid.class,
            Stage.MEND,
            false,
            plain,
            (s, t) -> AppWords.of("tools.make-the-solid"),
            none));
    add(HollowOut.class, new HollowTool(session));
    add(
        PutOnBase.class,
        new StepTool(
            session,
            PutOnBase.class,
            Stage.MEND,
            true,
            plain,
            (s, t) -> AppWords.of("tools.put-it-on-a-base"),
            none));
    add(Scale.class, new ScaleTool(session));
    add(
        Level.class,
        new DatumTool(session, Level.class, (s, t) -> AppWords.of("tools.level-the-work")));
    add(
        Origin.class,
        new DatumTool(session, Origin.class, (s, t) -> AppWords.of("common.move-the-origin")));
    add(
        Turn.class,
        new DatumTool(
            session,
            Turn.class,
            (s, t) ->
                s instanceof Turn u
                    ? AppWords.of("tools.turn-by", u.angle())
                    : AppWords.of("tools.turn-the-work")));
    add(
        Front.class,
        new DatumTool(session, Front.class, (s, t) -> AppWords.of("tools.face-the-front")));
    addAlso(new MeasureTool(session));
    add(Place.class, new PlaceTool(session));
    add(WriteSection.class, new SectionTool(session));
    add(KeepFrame.class, new FrameTool(session));
    new ReduceTools(session).all().forEach(this::add);
    new UnwrapTools(session).all().forEach(this::add);
    new BakeTools(session).all().forEach(this::add);
    StepTool[] ship = new StepTool[1];
    ship[0] =
        new WriteTool(
            session,
            (s, t) ->
                s instanceof WriteAsset a
                    ? AppWords.of("tools.write", a.fileName())
                    : AppWords.of("tools.write-the-asset"),
            w -> shipping(w, ship[0]));
    add(WriteAsset.class, ship[0]);
    addTheRest(session);
  }

  /** Tidying, and what mends one sort of fault each, are one tool with a choice. */
  private void addTidying(Session session) {
    Map<Class<? extends Step>, Tool> kinds = new LinkedHashMap<>();
    for (Class<? extends Step> type :
        List.of(
            Tidy.class,
            OrientOut.class,
            MakeManifold.class,
            TakeSpikes.class,
            CutCrossings.class,
            DropShells.class,
            CutHandles.class,
            TurnOver.class)) {
      StepKind k = StepKind.of(type);
      String verb =
          type == Tidy.class
              ? AppWords.of("tools.tidy-the-mesh")
              : AppWords.of("tools.mend-kind", k.title());
      StepTool tool =
          new StepTool(session, type, Stage.MEND, true, Map.of(), (s, t) -> verb, w -> List.of());
      kinds.put(type, type == Tidy.class ? tool : tool.triedUpTo(QUICK_FAULTS));
    }
    addKinds(session, "tidy", kinds);
  }

  private void addPulling(Session session) {
    Map<Class<? extends Step>, Tool> kinds = new LinkedHashMap<>();
    kinds.put(PullSurface.class, new PullTool(session));
    kinds.put(
        EaseOverhang.class,
        new RegionTool(
            session,
            EaseOverhang.class,
            (s, t) -> AppWords.of("tools.ease-the-overhangs"),
            w -> List.of(),
            null));
    addKinds(session, "pull", kinds);
  }

  private void addKinds(Session session, String id, Map<Class<? extends Step>, Tool> kinds) {
    KindTool tool = new KindTool(session, id, Stage.MEND, kinds);
    all.add(tool);
    kinds.keySet().forEach(type -> byStep.put(type, tool));
  }

  /** A step that no tool was made for has the Sheet that its description gives. */
  private void addTheRest(Session session) {
    for (StepKind k : Catalogue.all()) {
      if (!byStep.containsKey(k.type())) {
        Stage stage = Stage.valueOf(k.stage().toUpperCase(Locale.ROOT));
        // What the first stages do is quick; what comes after may take long.
        boolean quick = stage.compareTo(Stage.DATUM) <= 0;
        add(
            k.type(),
            new StepTool(
                session, k.type(), stage, quick, Map.of(), (s, t) -> k.title(), w -> List.of()));
      }
    }
  }

  private void add(Class<? extends Step> type, Tool tool) {
    byStep.put(type, tool);
    if (!all.contains(tool)) {
      all.add(tool);
    }
  }

  /** Adds further tools for a kind of step; its entries are opened with the first. */
  private void addAlso(Tool... more) {
    all.addAll(List.of(more));
  }

  public List<Tool> of(Stage stage) {
    return all.stream().filter(t -> t.stage() == stage).toList();
  }

  /** The tool that makes steps of this type. */
  public Tool making(Class<? extends Step> type) {
    Tool tool = byStep.get(type);
    if (tool instanceof KindTool kinds) {
      kinds.choose(type);
    }
    return tool;
  }

  public Iterable<Tool> all() {
    return all;
  }

  /** What a button says that removes something: how much of it, once that was tried. */
  static String removing(History trial, String plain, String key) {
    if (trial == null) {
      return plain;
    }
    int n = -trial.lines().getLast().effect().change();
    return n > 0 ? AppWords.count(key, n) : plain;
  }

  /** The step as it is filled in; null while it is not whole. */
  static Step stepOf(StepTool tool) {
    try {
      return tool.step();
    } catch (holotome.core.task.Failure f) {
      return null;
    }
  }

  private static List<Tool.Row> shipping(Workpiece w, StepTool tool) {
    List<Tool.Row> rows = new ArrayList<>();
    Box b = w.frame().workBounds(w.current());
    boolean s = w.frame().trueSize();
    rows.add(new Tool.Row("width", "", Length.format(b.width(), s)));
    rows.add(new Tool.Row("depth", "", Length.format(b.depth(), s)));
    rows.add(new Tool.Row("height", "", Length.format(b.height(), s)));
    rows.add(new Tool.Row("lowest-point", "", Length.format(b.minZ(), s)));
    rows.add(new Tool.Row("triangles", "", Language.format("%,d", w.current().triangleCount())));
    rows.add(
        new Tool.Row(
            "maps",
            "",
            w.maps() == null
                ? AppWords.of("tools.no-maps")
                : String.valueOf(w.maps().pictures().size())));
    if (stepOf(tool) instanceof WriteAsset a) {
      rows.add(new Tool.Row("file", "", a.fileName()));
    }
    return rows;
  }
}
