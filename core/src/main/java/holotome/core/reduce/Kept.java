package holotome.core.reduce;

/** Triangles that are left, with what goes with them; arrays that nobody needs are null. */
final class Kept {
  final int[] tri;
  final int[] wedge;
  final byte[] lines;
  final int[] from;

  Kept(int n, boolean hasWedges, boolean hasLines, boolean isTraced) {
    tri = new int[3 * n];
    wedge = hasWedges ? new int[3 * n] : null;
    lines = hasLines ? new byte[n] : null;
    from = isTraced ? new int[n] : null;
  }

  int count() {
    return tri.length / 3;
  }

  void into(Kept all, int at) {
    System.arraycopy(tri, 0, all.tri, 3 * at, tri.length);
    if (wedge != null) {
      System.arraycopy(wedge, 0, all.wedge, 3 * at, wedge.length);
    }
    if (lines != null) {
      System.arraycopy(lines, 0, all.lines, at, lines.length);
    }
    if (from != null) {
      System.arraycopy(from, 0, all.from, at, from.length);
    }
  }
}
