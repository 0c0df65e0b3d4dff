package holotome.core.touch;

/** What was there before all touches. */
record Restored(CarriedMap[] before) implements Coming {
  @Override
  public boolean at(Region.Tile tile, int at, Spot spot, double[][] own, double[][] out) {
    for (int m = 0; m < before.length; m++) {
      before[m].own(tile.x(at), tile.y(at), spot, out[m]);
    }
    return true;
  }
}
