package holotome.core.touch;

import holotome.core.task.Work;

/** The mean of what lies around, over some of the radius; numbers of things stay. */
record Softened(CarriedMap[] maps, int[] places, SurfaceCells cells, double[] room)
    implements Coming {
  /** Cubes are so many of a radius wide: about as far does the mean reach. */
  private static final double OF_RADIUS = 0.3;

  /** But so many texels at least. */
  private static final double TEXELS = 2;

  /** The means of a region; what is between 1 and the rim counts too. */
  static SurfaceCells means(Layout layout, Region region, double radius, double texel, Work work) {
    int[] places = places(layout);
    int numbers = places[places.length - 1];
    SurfaceCells cells = new SurfaceCells(Math.max(OF_RADIUS * radius, TEXELS * texel), numbers);
    CarriedMap[] maps = layout.carried(layout.maps());
    Spot spot = new Spot(layout.ground());
    double[][] own = layout.room();
    double[] all = new double[numbers];
    for (Region.Tile tile : region.tiles()) {
      work.check();
      for (int i = 0; i < tile.far.length; i++) {
        if (tile.far[i] == Float.POSITIVE_INFINITY) {
          continue;
        }
        spot.set(tile.triangle[i], tile.second[i], tile.third[i]);
        for (int m = 0; m < maps.length; m++) {
          if (places[m] >= 0) {
            maps[m].own(tile.x(i), tile.y(i), spot, own[m]);
            System.arraycopy(own[m], 0, all, places[m], maps[m].numbers());
          }
        }
        cells.put(spot.x, spot.y, spot.z, all);
      }
    }
    cells.spread();
    return cells;
  }

  static int[] places(Layout layout) {
    return layout.places(m -> !m.isNumber());
  }

  static Softened of(Layout layout, SurfaceCells cells) {
    int[] places = places(layout);
    return new Softened(
        layout.carried(layout.maps()), places, cells, new double[places[places.length - 1]]);
  }

  @Override
  public boolean needsOwn() {
    return true;
  }

  @Override
  public boolean at(Region.Tile tile, int at, Spot spot, double[][] own, double[][] out) {
    boolean any = cells.read(spot.x, spot.y, spot.z, room);
    for (int m = 0; m < maps.length; m++) {
      if (places[m] >= 0) {
        System.arraycopy(room, places[m], out[m], 0, maps[m].numbers());
      } else {
        System.arraycopy(own[m], 0, out[m], 0, maps[m].numbers());
      }
    }
    return any;
  }
}
