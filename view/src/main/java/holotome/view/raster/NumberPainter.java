package holotome.view.raster;

import holotome.view.cluster.Piece;

/**
 * Draws pieces by number: true triangles under their numbers in the mesh, or all under that of the
 * piece with, in the lowest bits, that of the triangle within.
 */
public final class NumberPainter implements PieceRasteriser.Target {
  private final Projection projection;
  private final TriangleFill fill;
  private final boolean exact;
  private final ThreadLocal<Scratch> scratch = ThreadLocal.withInitial(Scratch::new);

  private static final class Scratch {
    private long[] places = new long[1024];
    private float[] depths = new float[1024];
    private final float[] corner = new float[12];
  }

  public NumberPainter(Projection projection, TriangleFill fill, boolean exact) {
    this.projection = projection;
    this.fill = fill;
    this.exact = exact;
  }

  @Override
  public void draw(Piece p, int number) {
    Scratch s = scratch.get();
    int n = p.xyz().length / 3;
    if (s.places.length < n) {
      s.places = new long[2 * n];
      s.depths = new float[2 * n];
    }
    long[] places = s.places;
    float[] depths = s.depths;
    projection.places(p.xyz(), 0, n, places, depths);
    char[] corners = p.corners();
    int[] ids = p.ids();
    int base = number << Piece.BITS;
    for (int t = 0; t < ids.length; t++) {
      int va = corners[3 * t];
      int vb = corners[3 * t + 1];
      int vc = corners[3 * t + 2];
      long a = places[va];
      long b = places[vb];
      long c = places[vc];
      if (a == TriangleFill.NOWHERE || b == TriangleFill.NOWHERE || c == TriangleFill.NOWHERE) {
        for (int k = 0; k < 3; k++) {
          projection.apply(p.xyz(), corners[3 * t + k], s.corner, 4 * k);
        }
        fill.reaching(s.corner, exact ? ids[t] : base | t);
      } else if (fill.reaches(a, b, c) != 0) {
        fill.triangle(a, b, c, depths[va], depths[vb], depths[vc], exact ? ids[t] : base | t);
      }
    }
  }
}
