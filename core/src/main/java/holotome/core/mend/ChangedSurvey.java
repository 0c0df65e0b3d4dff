package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Handles;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * Looks a mesh through of which the one it was made from was: where little changed, what is wrong
 * in the region around that, before and after, tells how what is wrong with the whole changed.
 *
 * <p>A few passes over the triangles; the rest goes with the region.
 */
final class ChangedSurvey {
  private final Survey before;
  private final Survey.Ground ground;
  private final Mesh mesh;
  private final Map<Fault.Kind, Fault> faults = new EnumMap<>(Fault.Kind.class);

  ChangedSurvey(Survey before, Mesh mesh) {
    this.before = before;
    this.mesh = mesh;
    ground = before.ground();
  }

  /** Null where the whole is to be looked at. */
  Survey run(Work work) {
    ChangedRegion region =
        ChangedRegion.of(
            before.mesh(),
            ground.loops(),
            mesh,
            work.part(0.4, CoreWords.of("work.finding-neighbours")));
    if (region == null) {
      return null;
    }
    LocalFaults.All was = LocalFaults.All.of(region.before().mesh());
    LocalFaults.All now = LocalFaults.All.of(region.after().mesh());
    int torn = ground.torn() - was.torn() + now.torn();
    for (Fault f : was.faults().values()) {
      boolean isDoubled = f.kind() == Fault.Kind.DOUBLED_POINTS;
      if (isDoubled && ground.doubled() == null) {
        continue;
      }
      Fault old = isDoubled ? ground.doubled() : before.of(f.kind());
      Fault next = (old == null ? none(f.kind()) : old).after(f, now.faults().get(f.kind()));
      if (next == null) {
        return null;
      }
      faults.put(f.kind(), next);
    }
    Fault doubled = doubled(torn, work.part(0.1, CoreWords.of("work.comparing-points")));
    faults.put(Fault.Kind.DOUBLED_POINTS, torn == 0 ? none(Fault.Kind.DOUBLED_POINTS) : doubled);
    IslandFaults islands =
        ground
            .islands()
            .after(
                mesh,
                region,
                was.adjacency(),
                now.adjacency(),
                work.part(0.2, CoreWords.of("work.finding-islands")));
    if (islands == null) {
      return null;
    }
    islands.tell(mesh, f -> faults.put(f.kind(), f));
    faults.put(Fault.Kind.UNUSED_POINTS, WideFaults.unused(mesh));
    SelfIntersections crossings =
        SelfIntersections.after(
            before.crossings(),
            region::to,
            region.fresh(),
            mesh,
            work.part(0.2, CoreWords.of("common.looking-for-self-intersections")));
    faults.put(Fault.Kind.CROSSINGS, WideFaults.crossings(mesh, crossings));
    int[][] loops = loops(region, now.adjacency());
    faults.put(Fault.Kind.HOLES, WideFaults.holes(mesh, loops));
    WideFaults.Near near =
        WideFaults.near(mesh, loops, work.part(0.1, CoreWords.of("work.comparing-points")));
    faults.put(Fault.Kind.NEAR_POINTS, near.fault());
    int handles = handles(islands.islands().count(), loops, work);
    return new Survey(
        mesh,
        WholeSurvey.found(faults),
        before.noise(),
        near.distance(),
        handles,
        crossings,
        Survey.Ground.of(mesh, loops, islands, doubled, torn));
  }

  private static Fault none(Fault.Kind kind) {
    return new Fault.Gathered().done(kind);
  }

  /**
   * The region has no points that no triangle uses: with such, all are compared, where it is asked.
   *
   * @return null where nothing is torn, and it is not known
   */
  private Fault doubled(int torn, Work work) {
    boolean isKnown =
        ground.doubled() != null && mesh.unused() == null && before.mesh().unused() == null;
    if (isKnown || torn == 0) {
      return isKnown ? faults.get(Fault.Kind.DOUBLED_POINTS) : null;
    }
    Fault[] found = new Fault[1];
    new LocalFaults(mesh, f -> found[0] = f).points(PointWeld.representatives(mesh.xyz(), work));
    return found[0];
  }

  /** The borders now: those that were not touched, and those in the region. */
  private int[][] loops(ChangedRegion region, Adjacency now) {
    ChangedRegion.Side side = region.after();
    List<int[]> out = new ArrayList<>();
    for (int i = 0; i < ground.loops().length; i++) {
      if (!region.isLoopTouched(i)) {
        out.add(Arrays.stream(ground.loops()[i]).map(h -> 3 * region.to(h / 3) + h % 3).toArray());
      }
    }
    for (int[] loop : Borders.of(now).loops()) {
      // Others go along the cut around the region.
      if (region.isTouched(side.vertices()[side.mesh().triangles()[loop[0]]])) {
        out.add(Arrays.stream(loop).map(h -> 3 * side.triangles()[h / 3] + h % 3).toArray());
      }
    }
    out.sort((a, b) -> a.length != b.length ? b.length - a.length : a[0] - b[0]);
    return out.toArray(int[][]::new);
  }

  /** Where there are as many as before, they are taken to be the same. */
  private int handles(int islands, int[][] loops, Work work) {
    boolean isManifold =
        faults.get(Fault.Kind.CROWDED_EDGES).count() == 0
            && faults.get(Fault.Kind.DISAGREEING).count() == 0
            && faults.get(Fault.Kind.PINCHED_POINTS).count() == 0;
    if (!isManifold) {
      return -1;
    }
    int genus = WideFaults.genus(mesh, islands, loops);
    Fault same = before.of(Fault.Kind.HANDLES);
    if (genus != 0 && before.handles() == genus) {
      if (same != null) {
        faults.put(Fault.Kind.HANDLES, same);
      }
    } else if (genus != 0) {
      Handles h =
          WholeSurvey.handlesOf(
              Adjacency.of(mesh, work.part(0.1, CoreWords.of("work.finding-neighbours"))),
              work.part(0.1, CoreWords.of("work.finding-handles")));
      faults.put(Fault.Kind.HANDLES, WideFaults.handles(mesh, h));
      return h.genus();
    }
    return genus;
  }
}
