package holotome.core.unwrap;

import holotome.core.mesh.UvSquares;

/**
 * Squares of the texture that charts are packed into, one after the other in the common numbering.
 *
 * @param size pixels to a side of each
 * @param gutter pixels between charts, and between them and the sides
 * @param first the number of the first, from 0
 * @param count how many there are
 */
record PackSquares(int size, int gutter, int first, int count) {
  PackSquares(int size, int gutter) {
    this(size, gutter, 0, 1);
  }

  /** Where the lower left corner of one of them lies, in pixels. */
  int left(int square) {
    return (first + square) % UvSquares.IN_ROW * size;
  }

  int bottom(int square) {
    return (first + square) / UvSquares.IN_ROW * size;
  }
}
