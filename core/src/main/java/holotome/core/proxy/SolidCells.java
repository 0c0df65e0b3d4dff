package holotome.core.proxy;

import holotome.core.geometry.Vec;
import holotome.core.solve.LeastCut;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Which cells between walls are inside: those for which it costs least, over all of them at once,
 * to have what was seen of the Scan before an outside and behind an inside, and to have few sides
 * that nobody saw (as in Bauchet and Lafarge, Kinetic shape reconstruction, 2020). What a facet has
 * of the Scan is counted in square cells of its plane.
 */
final class SolidCells {
  /** What a side costs that nobody saw, for what it would cost to be wrong about one seen. */
  private static final double UNSEEN = 0.5;

  /** Costs are whole numbers of this. */
  private static final double UNIT = 1e-10;

  private final List<Wall> walls;
  private final Arrangement cells;
  private final boolean[] inside;

  /** How much of each facet was seen, before it and from behind, by its place in the list. */
  private final double[] before;

  private final double[] behind;
  private final double[] area;

  /** Parts the room by the walls, and chooses. */
  SolidCells(Enclosure room, List<Wall> walls, Work work) {
    this.walls = walls;
    cells = room.room();
    for (int i = 0; i < walls.size(); i++) {
      work.check();
      cells.cut(i, walls.get(i));
      work.advance(0.5 / walls.size());
    }
    int n = cells.facets().size();
    before = new double[n];
    behind = new double[n];
    area = new double[n];
    look(room.scan(), work.part(0.3, CoreWords.of("planes.looking")));
    LeastCut cut = new LeastCut(cells.cellCount());
    for (int i = 0; i < n; i++) {
      vote(cut, i);
    }
    inside = cut.first(work.part(0.2, CoreWords.of("planes.choosing")));
  }

  Arrangement cells() {
    return cells;
  }

  boolean isInside(int cell) {
    return cell != Arrangement.OUTSIDE && inside[cell];
  }

  /** How large a facet is, and how much of it was seen. */
  double area(int facet) {
    return area[facet];
  }

  double seen(int facet) {
    return Math.min(area[facet], before[facet] + behind[facet]);
  }

  private void vote(LeastCut cut, int i) {
    Arrangement.Facet f = cells.facets().get(i);
    long there = Math.round(before[i] / UNIT);
    long back = Math.round(behind[i] / UNIT);
    long unseen = Math.round(UNSEEN * Math.max(0, area[i] - seen(i)) / UNIT);
    // The first side is the inside.
    if (f.front == Arrangement.OUTSIDE || f.back == Arrangement.OUTSIDE) {
      cut.cost(f.front == Arrangement.OUTSIDE ? f.back : f.front, unseen, 0);
      return;
    }
    cut.cost(f.front, there, back);
    cut.cost(f.back, back, there);
    cut.apart(f.front, f.back, unseen);
  }

  private void look(LocalScan scan, Work work) {
    List<List<Integer>> ofWall = new ArrayList<>();
    walls.forEach(w -> ofWall.add(new ArrayList<>()));
    for (int i = 0; i < area.length; i++) {
      Arrangement.Facet f = cells.facets().get(i);
      area[i] = areaOf(f);
      if (f.plane >= 0) {
        ofWall.get(f.plane).add(i);
      }
    }
    Parallel.range(
        walls.size(),
        1,
        work,
        (from, to) -> {
          for (int w = from; w < to; w++) {
            if (walls.get(w).isSeen()) {
              lookAt(scan, walls.get(w), ofWall.get(w));
            }
          }
        });
  }

  private double areaOf(Arrangement.Facet f) {
    double[] sum = new double[3];
    double[] a = cells.at(f.corners[0]);
    for (int i = 1; i + 1 < f.corners.length; i++) {
      double[] u = Vec.sub(cells.at(f.corners[i]), a);
      double[] v = Vec.sub(cells.at(f.corners[i + 1]), a);
      sum = Vec.add(sum, Vec.cross(u, v));
    }
    return Vec.length(sum) / 2;
  }

  private void lookAt(LocalScan scan, Wall wall, List<Integer> facets) {
    PlaneGrid there = new PlaneGrid(wall.normal(), PlaneGrid.FINE);
    PlaneGrid back = new PlaneGrid(wall.normal(), PlaneGrid.FINE);
    double[] p = new double[9];
    for (FlatPart part : wall.parts()) {
      boolean isFront = Vec.dot(part.normal(), wall.normal()) > 0;
      for (int t = part.triangles().nextSetBit(0); t >= 0; t = part.triangles().nextSetBit(t + 1)) {
        scan.corners(t, p);
        (isFront ? there : back).cover(p, true);
      }
    }
    for (int i : facets) {
      int[] corners = cells.facets().get(i).corners;
      double[] x = new double[corners.length];
      double[] y = new double[corners.length];
      double[] middle = new double[3];
      for (int k = 0; k < corners.length; k++) {
        double[] at = cells.at(corners[k]);
        x[k] = there.column(at[0], at[1], at[2]);
        y[k] = there.row(at[0], at[1], at[2]);
        middle = Vec.add(middle, Vec.mul(at, 1.0 / corners.length));
      }
      int[] counts = new int[3];
      double cell = PlaneGrid.cell(PlaneGrid.FINE);
      there.eachWithin(
          x,
          y,
          c -> {
            counts[0]++;
            counts[1] += there.isSet(c) ? 1 : 0;
            counts[2] += back.isSet(c) ? 1 : 0;
          });
      double inGrid = Math.min(area[i], counts[0] * cell * cell);
      if (counts[0] == 0) {
        // Smaller than a cell.
        int c = there.cell(middle[0], middle[1], middle[2]);
        counts[0] = 1;
        counts[1] = there.isSet(c) ? 1 : 0;
        counts[2] = back.isSet(c) ? 1 : 0;
        inGrid = area[i];
      }
      before[i] = inGrid * counts[1] / counts[0];
      behind[i] = inGrid * counts[2] / counts[0];
    }
  }
}
