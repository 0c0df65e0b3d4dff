package holotome.core.contour;

/** A level of the solution: a function that is linear along the edges of the level's cells. */
sealed interface PoissonLevel permits CoarseLevel, BrickLevel {
  /** Reads values; one for each thread. */
  Reader reader();

  /** Reads values, those that a level does not reach from coarser ones. */
  interface Reader {
    /** The value at a node. */
    float at(int i, int j, int k);

    /** The value at a place, in the level's own steps. */
    float at(double x, double y, double z);

    /** The value at a place from the corners of its cell, those that count for nothing left out. */
    default float between(double x, double y, double z, int i, int j, int k) {
      double fx = x - i;
      double fy = y - j;
      double fz = z - k;
      double sum = 0;
      for (int c = 0; c < 8; c++) {
        double share =
            ((c & 1) != 0 ? fx : 1 - fx)
                * ((c & 2) != 0 ? fy : 1 - fy)
                * ((c & 4) != 0 ? fz : 1 - fz);
        if (share > 0) {
          sum += share * at(i + (c & 1), j + (c >> 1 & 1), k + (c >> 2));
        }
      }
      return (float) sum;
    }
  }
}
