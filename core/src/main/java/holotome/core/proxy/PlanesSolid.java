package holotome.core.proxy;

import holotome.core.attribute.Attribute;
import holotome.core.frame.Frame;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.polygon.FaceLists;
import holotome.core.polygon.PolygonMesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * A solid of few faces from flat parts of a Scan.
 *
 * @param mesh in base coordinates; triangles of one face say so ({@link Attribute#FACE})
 * @param figures what there is to say
 */
record PlanesSolid(Mesh mesh, Figures figures) {

  /**
   * Figures of it; lengths in base units.
   *
   * @param walls that were seen, and how many of them bound nothing
   * @param turned how many planes were made parallel or square, by {@code most} radians at most
   * @param worst the largest root mean square distance of the Scan from its wall
   * @param rms over all walls, by area
   * @param closed faces where nothing was seen, in planes that only close, and how many were left
   *     open
   * @param seen share of the rest's area that was seen
   * @param drawnTogether edges that were too short to be true
   */
  record Figures(
      int faces,
      int corners,
      int walls,
      int idle,
      int turned,
      double most,
      double worst,
      double rms,
      int closed,
      int open,
      double seen,
      int drawnTogether) {}

  /**
   * What walls bound.
   *
   * @param parts the flat parts, grown already
   * @param upright working space's vertical, unit
   * @param angle in radians, by which walls may be off from square and are made square; 0 for none
   * @param open whether sides that nobody saw are left out
   */
  static PlanesSolid of(
      LocalScan scan,
      List<FlatPart> parts,
      double[] upright,
      double angle,
      boolean open,
      Work work) {
    Squaring.Squared squared = new Squaring(angle).of(parts);
    List<Wall> seen = squared.walls();
    Enclosure room = new Enclosure(scan, seen, upright, angle);
    List<Wall> walls = new ArrayList<>(seen);
    walls.addAll(room.closing());
    SolidCells cells = new SolidCells(room, walls, work);
    double within = Double.POSITIVE_INFINITY;
    for (FlatPart p : parts) {
      within = Math.min(within, p.within());
    }
    SolidFaces faces = new SolidFaces(cells, walls, open, 2 * within);
    PolygonMesh p = faces.mesh();
    if (p.faceCount() == 0) {
      throw Failure.cannot(CoreWords.of("planes.bound-nothing"));
    }
    for (int v = 0; v < p.vertexLimit(); v++) {
      if (p.hasVertex(v)) {
        double[] at = scan.toBase(p.position(v));
        p.move(v, at[0], at[1], at[2]);
      }
    }
    Mesh mesh = FaceLists.of(p).mesh();
    return new PlanesSolid(mesh, figures(scan, squared, walls, cells, faces, open));
  }

  private static Figures figures(
      LocalScan scan,
      Squaring.Squared squared,
      List<Wall> walls,
      SolidCells cells,
      SolidFaces faces,
      boolean open) {
    PolygonMesh p = faces.mesh();
    boolean[] bounds = new boolean[walls.size()];
    int closed = 0;
    for (int f = 0; f < p.faceLimit(); f++) {
      if (p.hasFace(f)) {
        bounds[faces.wall(f)] = true;
        closed += walls.get(faces.wall(f)).isSeen() ? 0 : 1;
      }
    }
    double area = 0;
    double seen = 0;
    boolean[] missing = new boolean[walls.size()];
    for (int i : faces.facets()) {
      int w = cells.cells().facets().get(i).plane;
      missing[w] = !walls.get(w).isSeen();
      area += missing[w] ? 0 : cells.area(i);
      seen += missing[w] ? 0 : cells.seen(i);
    }
    int leftOpen = 0;
    int idle = 0;
    double worst = 0;
    double sum = 0;
    double weight = 0;
    for (int w = 0; w < walls.size(); w++) {
      Wall wall = walls.get(w);
      leftOpen += open && missing[w] ? 1 : 0;
      if (wall.isSeen()) {
        idle += bounds[w] ? 0 : 1;
        double rms = wall.rms();
        worst = Math.max(worst, rms);
        sum += wall.area() * rms * rms;
        weight += wall.area();
      }
    }
    double size = scan.size();
    return new Figures(
        p.faceCount(),
        p.vertexCount(),
        squared.walls().size(),
        idle,
        squared.turned(),
        squared.most(),
        worst * size,
        weight > 0 ? Math.sqrt(sum / weight) * size : 0,
        closed,
        leftOpen,
        area > 0 ? Math.min(1, seen / area) : 0,
        faces.drawnTogether());
  }

  /** A direction of working space in the scan's, unit. */
  static double[] upright(Frame frame) {
    double[] zero = frame.toBase(new double[3]);
    return Vec.unit(Vec.sub(frame.toBase(new double[] {0, 0, 1}), zero));
  }
}
