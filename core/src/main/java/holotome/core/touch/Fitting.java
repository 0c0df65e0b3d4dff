package holotome.core.touch;

import holotome.core.task.Work;

/**
 * What has to be added to a copy so that it fits what is around where it goes: in the rim what is
 * there less what comes, carried into the middle as smoothly as can be ({@link
 * SurfaceCells#spread}). Colours count as they look.
 */
final class Fitting implements Copied.Shift {
  /** Cubes are so many of a radius wide. */
  private static final double OF_RADIUS = 0.25;

  /** And so many of an area's reach. */
  private static final double OF_REACH = 1 / 32.0;

  private final SurfaceCells cells;
  private final int[] places;
  private final boolean isKnown;

  private Fitting(SurfaceCells cells, int[] places) {
    this.cells = cells;
    this.places = places;
    isKnown = cells.isKnown();
    if (isKnown) {
      cells.spread();
    }
  }

  /**
   * Fits a copy.
   *
   * @param all whether everything that can be is fitted, else only what has a level
   */
  static Fitting of(
      Layout layout, Form form, Region region, double radius, boolean all, Work work) {
    int[] places = layout.places(m -> all ? m.isFitted() : m.isLevelled());
    int numbers = places[places.length - 1];
    double size = OF_RADIUS * radius;
    if (form instanceof AreaForm a) {
      size = Math.max(size, OF_REACH * a.reach());
    }
    SurfaceCells cells = new SurfaceCells(size, numbers);
    if (numbers == 0) {
      return new Fitting(cells, places);
    }
    CarriedMap[] maps = layout.carried(layout.maps());
    Copied copied = new Copied(layout.ground(), form.course(), maps, null);
    Spot spot = new Spot(layout.ground());
    double[][] own = layout.room();
    double[][] come = layout.room();
    double[] rest = new double[numbers];
    for (Region.Tile tile : region.tiles()) {
      work.check();
      for (int i = 0; i < tile.far.length; i++) {
        if (tile.far[i] == Float.POSITIVE_INFINITY) {
          continue;
        }
        spot.set(tile.triangle[i], tile.second[i], tile.third[i]);
        if (tile.far[i] <= 1) {
          cells.occupy(spot.x, spot.y, spot.z);
        } else if (copied.at(tile, i, spot, own, come)) {
          for (int m = 0; m < maps.length; m++) {
            if (places[m] >= 0) {
              maps[m].own(tile.x(i), tile.y(i), spot, own[m]);
              for (int c = 0; c < maps[m].numbers(); c++) {
                rest[places[m] + c] = own[m][c] - come[m][c];
              }
            }
          }
          cells.put(spot.x, spot.y, spot.z, rest);
        }
      }
    }
    return new Fitting(cells, places);
  }

  @Override
  public boolean at(Spot spot, double[] out) {
    return isKnown && cells.read(spot.x, spot.y, spot.z, out);
  }

  @Override
  public int[] places() {
    return places;
  }
}
