package holotome.core.mend;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Work;
import java.util.List;

/**
 * All that is wrong with a mesh, kind by kind, with places. Nothing is changed by it.
 *
 * <p>O(T log T); parts follow one another, or two run side by side, so that no more than some 44
 * bytes a triangle are taken at once.
 */
public final class Survey {
  /** What is held on to of larger meshes would be too much. */
  private static final int KEPT = 20_000_000;

  /** Of a mesh with more borders than one edge for so many triangles they are not kept. */
  private static final int FEW = 20;

  /**
   * What is kept beside the faults to tell them after a small change.
   *
   * @param loops the borders, as half-edges
   * @param doubled points on one spot, whether or not the surface is torn there; null where nothing
   *     is torn and it is not known
   * @param torn edges at which it is
   */
  record Ground(int[][] loops, IslandFaults islands, Fault doubled, int torn) {
    /** The ground, or null where the mesh is too large or too torn to keep it. */
    static Ground of(Mesh mesh, int[][] loops, IslandFaults islands, Fault doubled, int torn) {
      long edges = 0;
      for (int[] loop : loops) {
        edges += loop.length;
      }
      return mesh.triangleCount() > KEPT || FEW * edges > mesh.triangleCount()
          ? null
          : new Ground(loops, islands, doubled, torn);
    }
  }

  private final Mesh mesh;
  private final List<Fault> faults;
  private final double noise;
  private final double near;
  private final int handles;
  private final SelfIntersections crossings;
  private final Ground ground;

  Survey(
      Mesh mesh,
      List<Fault> faults,
      double noise,
      double near,
      int handles,
      SelfIntersections crossings,
      Ground ground) {
    this.mesh = mesh;
    this.faults = List.copyOf(faults);
    this.noise = noise;
    this.near = near;
    this.handles = handles;
    this.crossings = crossings;
    this.ground = ground;
  }

  public Mesh mesh() {
    return mesh;
  }

  /** What was found, in the order it is mended; kinds without any are left out. */
  public List<Fault> faults() {
    return faults;
  }

  /** The noise of the surface (one standard deviation), in base units. */
  public double noise() {
    return noise;
  }

  /** The distance within which near points lie, the natural gap, in base units; 0 for none. */
  public double near() {
    return near;
  }

  /** How many handles there are in all, small or not; -1 where not counted. */
  public int handles() {
    return handles;
  }

  /** The pairs of triangles that cross. */
  public SelfIntersections crossings() {
    return crossings;
  }

  /** What the next survey starts from, 4 bytes a triangle; null where that is too much. */
  Ground ground() {
    return ground;
  }

  /** A forecast of what it takes, in bytes. */
  public static long memory(Mesh mesh) {
    return 44L * mesh.triangleCount();
  }

  /** The same where little changed. */
  public static long memoryOfChanges(Mesh mesh) {
    return 16L * mesh.triangleCount();
  }

  /** The faults of a kind; null for none. */
  public Fault of(Fault.Kind kind) {
    return faults.stream().filter(f -> f.kind() == kind).findFirst().orElse(null);
  }

  public static Survey of(Mesh mesh, Work work) {
    return new WholeSurvey(mesh).run(work);
  }

  /**
   * The same of a mesh that was made from one surveyed before: where little changed only that is
   * looked at, and the noise is taken to be what it was.
   *
   * @param before null for none
   */
  public static Survey after(Survey before, Mesh mesh, Work work) {
    Survey changed = before == null ? null : ofChanges(before, mesh, work.part(0.2, work.label()));
    return changed == null ? new WholeSurvey(mesh).run(work.part(0.8, work.label())) : changed;
  }

  /**
   * As {@link #after}, but null where the whole is to be looked at. 10 million triangles take about
   * a second.
   */
  public static Survey ofChanges(Survey before, Mesh mesh, Work work) {
    return before.ground == null || !before.crossings.isWhole()
        ? null
        : new ChangedSurvey(before, mesh).run(work);
  }
}
