package holotome.core.touch;

/**
 * What is there, the step along the line made a slope to either side: what was found by {@link
 * SeamStep}.
 */
record Levelled(CarriedMap[] maps, int[] places, SeamStep step, double[] there, double[] room)
    implements Coming {

  static Levelled of(Layout layout, SeamStep step) {
    int[] places = SeamStep.places(layout);
    return new Levelled(
        layout.carried(layout.maps()),
        places,
        step,
        new double[places[places.length - 1]],
        new double[places[places.length - 1]]);
  }

  @Override
  public boolean needsOwn() {
    return true;
  }

  @Override
  public boolean at(Region.Tile tile, int at, Spot spot, double[][] own, double[][] out) {
    for (int m = 0; m < maps.length; m++) {
      if (places[m] >= 0) {
        System.arraycopy(own[m], 0, there, places[m], maps[m].numbers());
      }
    }
    step.at(tile.along[at], tile.across[at], there, room);
    for (int m = 0; m < maps.length; m++) {
      for (int c = 0; c < maps[m].numbers(); c++) {
        out[m][c] = own[m][c] + (places[m] >= 0 ? room[places[m] + c] : 0);
      }
    }
    return true;
  }
}
