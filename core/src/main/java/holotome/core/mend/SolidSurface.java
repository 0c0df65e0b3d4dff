package holotome.core.mend;

import holotome.core.contour.DualSurface;
import holotome.core.contour.Field;
import holotome.core.contour.Lattice;
import holotome.core.mesh.InRange;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.spatial.Outward;
import holotome.core.spatial.Reprojection;
import holotome.core.spatial.WindingNumber;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Crumbs;
import holotome.core.words.CoreWords;
import java.util.List;

/**
 * A new surface around what a scan winds around: inside is where the generalised winding number is
 * above a half, so that openings are closed evenly and surfaces that cross become one; where the
 * scan is, the surface lies on it ({@link DualSurface}).
 *
 * @param mesh closed, with what the scan carries
 * @param rms how far its vertices are from the scan where the scan is, in base units
 * @param bridged how wide the widest opening is that was closed, in base units
 */
record SolidSurface(Mesh mesh, double rms, double bridged) {
  /** Cells of room around the scan. */
  private static final int ROOM = 4;

  private static final int GRAIN = 1 << 12;

  /**
   * Bytes that one takes beside the scan.
   *
   * @param detail in the same units as the area
   */
  static long memory(long triangles, double area, double detail) {
    return 190L * triangles + (long) (2.2 * 420 * area / (detail * detail));
  }

  /**
   * @param scan tidy: its triangles agree with their neighbours and look outwards
   * @param detail the step of the lattice, in base units
   */
  static SolidSurface of(Mesh scan, double detail, Work work) {
    InRange small = InRange.of(scan);
    SolidSurface s = made(small.mesh(), detail * small.by(), work);
    return new SolidSurface(small.back(s.mesh()), s.rms() / small.by(), s.bridged() / small.by());
  }

  private static SolidSurface made(Mesh scan, double detail, Work work) {
    Bvh bvh = Bvh.of(scan, work.part(0.15, CoreWords.of("work.indexing-the-surface")));
    WindingNumber winding = WindingNumber.of(bvh);
    Field field =
        () -> {
          WindingNumber.Query q = winding.query();
          return q::at;
        };
    Lattice lattice = Lattice.around(scan.bounds(), detail, ROOM);
    DualSurface.Result made =
        DualSurface.of(
            scan, lattice, field, work.part(0.6, CoreWords.of("work.making-the-surface")));
    Mesh whole = Crumbs.dropped(made.mesh(), 2 * detail, work);
    if (whole.isEmpty()) {
      throw Failure.cannot(CoreWords.of("solid-surface.no-volume"));
    }
    double[] off = distances(whole, bvh, detail, work.part(0.1, CoreWords.of("work.measuring")));
    Mesh carried =
        Reprojection.of(scan, bvh, whole, work.part(0.15, CoreWords.of("work.carrying-over")));
    return new SolidSurface(carried, off[0], off[1]);
  }

  /** Root mean square of those within a detail of the scan; twice the farthest of the others. */
  private static double[] distances(Mesh mesh, Bvh bvh, double detail, Work work) {
    int n = mesh.vertexCount();
    double[][] parts = new double[Parallel.chunks(n, GRAIN)][];
    Parallel.chunked(
        n,
        GRAIN,
        work,
        (c, from, to) -> {
          BvhQuery q = new BvhQuery(bvh);
          double[] s = new double[3];
          for (int v = from; v < to; v++) {
            q.closest(
                mesh.xyz()[3 * v],
                mesh.xyz()[3 * v + 1],
                mesh.xyz()[3 * v + 2],
                Float.POSITIVE_INFINITY);
            if (q.distance <= detail) {
              s[0] += (double) q.distance * q.distance;
              s[1]++;
            } else {
              s[2] = Math.max(s[2], q.distance);
            }
          }
          parts[c] = s;
        });
    double squares = 0;
    double count = 0;
    double far = 0;
    for (double[] s : parts) {
      squares += s[0];
      count += s[1];
      far = Math.max(far, s[2]);
    }
    return new double[] {count > 0 ? Math.sqrt(squares / count) : 0, 2 * far};
  }

  /** The detail that a scan holds: one and a half of its mean edges, within bounds. */
  static double fitting(Mesh scan) {
    double diagonal = scan.bounds().diagonal();
    double edge = Math.sqrt(4 / Math.sqrt(3) * Measures.area(scan) / scan.triangleCount());
    return Math.clamp(1.5 * edge, diagonal / 500, diagonal / 60);
  }

  /** The detail that gives about so many triangles: three for each square of it. */
  static double forTriangles(Mesh scan, int triangles) {
    return Math.sqrt(3 * Measures.area(scan) / triangles);
  }

  /** What was put together of a scan for all this, and what was done to it. */
  static Mesh prepared(Mesh scan, List<String> notes, Work work) {
    Mesh tidy = Tidy.tidy(scan, notes, work.part(0.6, CoreWords.of("work.welding")));
    return Outward.turn(tidy, notes, work.part(0.4, CoreWords.of("work.turning-triangles")));
  }
}
