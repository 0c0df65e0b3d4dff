package holotome.core.log;

import holotome.core.bake.BakeMaps;
import holotome.core.bake.BakeVertices;
import holotome.core.bake.EvenLight;
import holotome.core.bake.PaintCage;
import holotome.core.bake.SetTone;
import holotome.core.bake.TouchUp;
import holotome.core.datum.DeclareUnit;
import holotome.core.datum.Front;
import holotome.core.datum.KeepFrame;
import holotome.core.datum.Level;
import holotome.core.datum.Origin;
import holotome.core.datum.Place;
import holotome.core.datum.Scale;
import holotome.core.datum.Turn;
import holotome.core.datum.WriteSection;
import holotome.core.intake.OpenCast;
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
import holotome.core.proxy.EditProxy;
import holotome.core.proxy.FromPlanes;
import holotome.core.proxy.MakeBlock;
import holotome.core.proxy.SettleProxy;
import holotome.core.reduce.Decimate;
import holotome.core.reduce.GiveImportance;
import holotome.core.reduce.MakeFacets;
import holotome.core.reduce.MakeLevels;
import holotome.core.reduce.MakeQuads;
import holotome.core.reduce.Remesh;
import holotome.core.reduce.Resurface;
import holotome.core.ship.WriteAsset;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.swatch.LaySwatch;
import holotome.core.swatch.SettleSwatch;
import holotome.core.swatch.TileSwatch;
import holotome.core.task.Failure;
import holotome.core.trim.CutBox;
import holotome.core.trim.CutFence;
import holotome.core.trim.CutGround;
import holotome.core.trim.CutSelection;
import holotome.core.trim.KeepIslands;
import holotome.core.trim.PlaneCut;
import holotome.core.trim.TrimFringe;
import holotome.core.unwrap.ArrangeCharts;
import holotome.core.unwrap.EditSeams;
import holotome.core.unwrap.GiveSpace;
import holotome.core.unwrap.KeepCharts;
import holotome.core.unwrap.LayOver;
import holotome.core.unwrap.MakeCharts;
import holotome.core.unwrap.PackCharts;
import holotome.core.unwrap.ProjectCharts;
import holotome.core.unwrap.SparseHidden;
import holotome.core.unwrap.StraightenCharts;
import holotome.core.words.CoreWords;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;

/** Every kind of step there is, in working order. A new step is added here. */
public final class Catalogue {
  private static final List<StepKind> ALL =
      Stream.<Class<? extends Step>>of(
              CutSelection.class,
              KeepIslands.class,
              CutGround.class,
              PlaneCut.class,
              CutFence.class,
              CutBox.class,
              TrimFringe.class,
              Tidy.class,
              FillHoles.class,
              WeldPoints.class,
              TakeNoise.class,
              OrientOut.class,
              MakeManifold.class,
              TakeSpikes.class,
              CutCrossings.class,
              DropShells.class,
              CutHandles.class,
              PatchRegion.class,
              PullSurface.class,
              EaseOverhang.class,
              EditMesh.class,
              MakeSolid.class,
              HollowOut.class,
              PutOnBase.class,
              TurnOver.class,
              DeclareUnit.class,
              Scale.class,
              Level.class,
              Front.class,
              Turn.class,
              Origin.class,
              Place.class,
              KeepFrame.class,
              WriteSection.class,
              OpenCast.class,
              GiveImportance.class,
              Decimate.class,
              Remesh.class,
              Resurface.class,
              MakeFacets.class,
              MakeQuads.class,
              MakeLevels.class,
              FromPlanes.class,
              MakeBlock.class,
              EditProxy.class,
              SettleProxy.class,
              LaySwatch.class,
              SettleSwatch.class,
              TileSwatch.class,
              MakeCharts.class,
              PackCharts.class,
              GiveSpace.class,
              SparseHidden.class,
              ArrangeCharts.class,
              LayOver.class,
              KeepCharts.class,
              EditSeams.class,
              ProjectCharts.class,
              StraightenCharts.class,
              BakeMaps.class,
              PaintCage.class,
              BakeVertices.class,
              EvenLight.class,
              SetTone.class,
              TouchUp.class,
              WriteAsset.class)
          .map(StepKind::of)
          .toList();

  private Catalogue() {}

  public static List<StepKind> all() {
    return ALL;
  }

  public static StepKind byId(String id) {
    return ALL.stream()
        .filter(k -> k.id().equals(id))
        .findFirst()
        .orElseThrow(() -> Failure.usage(CoreWords.of("catalogue.there-is-no-step-holotome", id)));
  }

  /** Makes a step from plain values with its name under "do". */
  public static Step create(Map<String, ?> values) {
    if (!(values.get("do") instanceof String id)) {
      throw Failure.usage(CoreWords.of("catalogue.an-entry-needs-do-with"));
    }
    return byId(id).create(values);
  }
}
