package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Handles;
import holotome.core.topology.Islands;
import holotome.core.topology.PointWeld;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/** Looks a mesh through as a whole; one use each. */
final class WholeSurvey {
  /** Above so many triangles it is not looked where handles are: that takes too long. */
  private static final int HANDLES = 20_000_000;

  private final Mesh mesh;
  private final Map<Fault.Kind, Fault> faults = new EnumMap<>(Fault.Kind.class);
  private final LocalFaults local;
  private double noise;
  private double near;
  private int handles = -1;
  private Survey.Ground ground;

  WholeSurvey(Mesh mesh) {
    this.mesh = mesh;
    local = new LocalFaults(mesh, this::put);
  }

  Survey run(Work work) {
    int[] first =
        PointWeld.representatives(
            mesh.xyz(), work.part(0.08, CoreWords.of("work.comparing-points")));
    local.points(first);
    put(WideFaults.unused(mesh));
    work.advance(0.02);
    SelfIntersections crossings =
        SelfIntersections.of(
            mesh, first, work.part(0.35, CoreWords.of("common.looking-for-self-intersections")));
    put(WideFaults.crossings(mesh, crossings));
    // Much of either is on one core.
    Work single = work.part(0.2, CoreWords.of("work.inspecting"));
    Work neighbours = work.part(0.35, CoreWords.of("work.finding-neighbours"));
    Parallel.range(
        2,
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            if (i == 0) {
              neighbours(first, neighbours);
            } else {
              local.triangles(single.part(0.4, CoreWords.of("work.inspecting")));
              around(single.part(0.6, CoreWords.of("work.finding-spikes")));
            }
          }
        });
    return new Survey(mesh, found(faults), noise, near, handles, crossings, ground);
  }

  /** Those there are, in the order they are mended. */
  static List<Fault> found(Map<Fault.Kind, Fault> faults) {
    return faults.values().stream().filter(f -> f.count() > 0).toList();
  }

  private synchronized void put(Fault f) {
    faults.put(f.kind(), f);
  }

  private synchronized Fault get(Fault.Kind kind) {
    return faults.get(kind);
  }

  private void neighbours(int[] first, Work work) {
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.4, CoreWords.of("work.finding-neighbours")));
    local.edges(adjacency, work.part(0.1, work.label()));
    int[][] loops = Borders.of(adjacency).loops();
    put(WideFaults.holes(mesh, loops));
    Fault doubled = get(Fault.Kind.DOUBLED_POINTS);
    int torn = Borders.torn(adjacency, first);
    if (torn == 0) {
      // Points that were doubled to part two fans tear nothing and are as they should be.
      put(new Fault.Gathered().done(Fault.Kind.DOUBLED_POINTS));
    }
    WideFaults.Near close =
        WideFaults.near(mesh, loops, work.part(0.1, CoreWords.of("work.comparing-points")));
    near = close.distance();
    put(close.fault());
    boolean isManifold =
        adjacency.crowdedEdges() == 0
            && adjacency.misfitEdges() == 0
            && get(Fault.Kind.PINCHED_POINTS).count() == 0;
    Islands islands = Islands.of(adjacency, work.part(0.1, CoreWords.of("work.finding-islands")));
    if (isManifold) {
      handles(
          adjacency,
          WideFaults.genus(mesh, islands.count(), loops),
          work.part(0.2, CoreWords.of("work.finding-handles")));
    }
    IslandFaults pieces =
        IslandFaults.of(
            mesh, adjacency, islands, work.part(0.2, CoreWords.of("work.finding-islands")));
    pieces.tell(mesh, this::put);
    ground = Survey.Ground.of(mesh, loops, pieces, doubled, torn);
  }

  private void handles(Adjacency adjacency, int genus, Work work) {
    if (genus == 0) {
      handles = 0;
    } else if (mesh.triangleCount() <= HANDLES) {
      Handles h = handlesOf(adjacency, work);
      handles = h.genus();
      put(WideFaults.handles(mesh, h));
    }
  }

  static Handles handlesOf(Adjacency adjacency, Work work) {
    return Handles.of(adjacency, CutHandles.SHARE * adjacency.mesh().bounds().diagonal(), work);
  }

  /** What is told from the triangles around each vertex. */
  private void around(Work work) {
    VertexFans fans = VertexFans.of(mesh, work.part(0.5, CoreWords.of("work.finding-neighbours")));
    local.spikes(fans, work.part(0.2, work.label()));
    noise = mesh.isEmpty() ? 0 : NoiseLevel.of(mesh, fans);
    work.advance(0.3);
  }
}
