package holotome.core.reduce;

import holotome.core.contour.DualSurface;
import holotome.core.contour.ScreenedPoisson;
import holotome.core.cut.FieldSplit;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.Outward;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Crumbs;
import holotome.core.topology.Orientation;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/**
 * A smooth surface through a scan whatever its triangles are like: the level of a screened Poisson
 * function ({@link ScreenedPoisson}) as a mesh ({@link DualSurface}), cut off evenly some way
 * beyond the scan ({@link FieldSplit}), or closed.
 *
 * @param mesh the surface, bare
 * @param bvh its index
 * @param lost triangles of the scan that have no new surface near them: loose pieces too small for
 *     the detail
 * @param bridged how wide the widest opening is that was closed, in base units
 */
record NewSurface(Mesh mesh, Bvh bvh, BitSet lost, double bridged) {
  /** Steps around what is kept, so that the cut is made within. */
  private static final int ROOM = 3;

  /** Steps from the scan to where its new surface is missed. */
  private static final double MISSED = 2;

  /** Triangles to each square of the step. */
  private static final double DENSITY = 2.85;

  /** Bytes that a triangle of the scan and a square of the step take. */
  private static final double SCAN_BYTES = 130;

  private static final double STEP_BYTES = 1000;

  static long memory(long triangles, double area, double step) {
    return (long) (SCAN_BYTES * triangles + STEP_BYTES * area / (step * step));
  }

  /** The step that a scan holds: one and a quarter of its mean edges, within bounds. */
  static double fitting(Mesh scan) {
    double diagonal = scan.bounds().diagonal();
    double edge = Math.sqrt(4 / Math.sqrt(3) * Measures.area(scan) / scan.triangleCount());
    return Math.clamp(1.25 * edge, diagonal / 4000, diagonal / 60);
  }

  /** About how many triangles a step gives. */
  static long triangles(Mesh scan, double step) {
    return Math.round(DENSITY * Measures.area(scan) / (step * step));
  }

  /** The step that gives about so many triangles. */
  static double forTriangles(Mesh scan, int triangles) {
    return Math.sqrt(DENSITY * Measures.area(scan) / triangles);
  }

  /** How far a surface can go on beyond a scan, in base units. */
  static double farthest(Mesh scan, double step) {
    return ScreenedPoisson.room(scan.bounds(), step) - ROOM * step;
  }

  /**
   * @param scan its triangles look outwards
   * @param at the scan's index
   * @param step the detail, in base units
   * @param closeness how much lying on the scan counts beside its normals
   * @param reach how far the surface goes on beyond the scan, in base units, no more than {@link
   *     #farthest}; infinite for a closed one
   */
  static NewSurface of(Mesh scan, Bvh at, double step, double closeness, double reach, Work work) {
    boolean closed = reach == Double.POSITIVE_INFINITY;
    ScreenedPoisson field =
        ScreenedPoisson.of(
            scan,
            step,
            closeness,
            closed,
            work.part(0.45, CoreWords.of("work.making-the-surface")));
    Work making = work.part(0.35, CoreWords.of("work.making-the-surface"));
    Mesh whole =
        closed
            ? DualSurface.from(scan, field.window(), field, making).mesh()
            : DualSurface.within(
                    field.within(reach / step + ROOM),
                    scan,
                    field.window(scan.bounds(), (int) Math.min(1 << 20, reach / step) + 2 * ROOM),
                    field,
                    making)
                .mesh();
    Work measuring = work.part(0.05, CoreWords.of("work.measuring"));
    float[] off = SurfaceDistance.distances(whole.xyz(), at, measuring);
    double bridged = 0;
    Mesh kept = whole;
    if (closed) {
      for (float d : off) {
        bridged = Math.max(bridged, 2 * d);
      }
    } else {
      for (int v = 0; v < off.length; v++) {
        off[v] = (float) (reach - off[v]);
      }
      kept = FieldSplit.of(whole, off, work.part(0.05, CoreWords.of("work.cutting"))).mesh();
    }
    kept = Crumbs.dropped(kept, MISSED * step, work);
    if (kept.isEmpty()) {
      throw Failure.cannot(CoreWords.of("resurface.nothing-came"));
    }
    Bvh bvh = Bvh.of(kept, work.part(0.05, CoreWords.of("work.indexing-the-surface")));
    BitSet lost = lost(scan, bvh, MISSED * step, work.part(0.05, CoreWords.of("work.measuring")));
    return new NewSurface(kept, bvh, lost, bridged > 2 * MISSED * step ? bridged : 0);
  }

  /** Turned so that neighbours agree and islands look outwards, as far as that can be told. */
  static Mesh ready(Mesh bare, Bvh bvh, List<String> notes, Work work) {
    Mesh agreed =
        Orientation.agree(bare, notes, work.part(0.4, CoreWords.of("work.turning-triangles")));
    return Outward.turn(agreed, bvh, notes, work.part(0.6, CoreWords.of("work.turning-triangles")));
  }

  private static BitSet lost(Mesh scan, Bvh made, double far, Work work) {
    float[] off = SurfaceDistance.distances(scan.xyz(), made, work);
    BitSet lost = new BitSet(scan.triangleCount());
    int[] tri = scan.triangles();
    for (int t = 0; t < scan.triangleCount(); t++) {
      if (off[tri[3 * t]] > far && off[tri[3 * t + 1]] > far && off[tri[3 * t + 2]] > far) {
        lost.set(t);
      }
    }
    return lost;
  }
}
