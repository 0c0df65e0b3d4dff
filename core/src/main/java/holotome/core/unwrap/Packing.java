package holotome.core.unwrap;

import holotome.core.mesh.Uv;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;

/**
 * Charts packed into squares of the texture, all at one scale (by {@link Packer}).
 *
 * @param at where each of them lies
 * @param staying those that stayed where they were
 * @param squares that they were packed into
 * @param fill share of the squares that charts cover
 * @param scale pixels to a unit of those whose size may change
 */
record Packing(
    Charts charts, List<At> at, Staying staying, PackSquares squares, double fill, double scale) {

  /**
   * Where a chart lies.
   *
   * @param scale pixels to its own unit
   * @param angle by which it is turned, in radians
   * @param x by how many pixels it is moved then
   */
  record At(double scale, double angle, double x, double y) {}

  static Packing pack(Charts charts, int size, int gutter, Work work) {
    return pack(charts, Staying.NONE, new PackSquares(size, gutter), null, work);
  }

  /**
   * The same into squares, around charts that stay where they are: at their scale where that fits,
   * smaller where it does not.
   *
   * @param rank of each chart: those of the highest come into the first squares, as far as they
   *     fit; null to fill all squares alike
   */
  static Packing pack(
      Charts charts, Staying staying, PackSquares squares, double[] rank, Work work) {
    return new Packer(charts, staying.in(squares), squares, rank).run(work);
  }

  /** Pixels to a unit that no packing of charts into such squares goes beyond. */
  static double most(Charts charts, PackSquares squares) {
    return new Packer(charts, Staying.NONE, squares, null).most();
  }

  /** Texture coordinates of all of them. */
  Uv uv() {
    return uv(List.of(this), staying);
  }

  /**
   * Texture coordinates of several packings that share all triangles of a mesh with charts that
   * stay.
   */
  static Uv uv(List<Packing> all, Staying staying) {
    int size = all.getFirst().squares.size();
    List<Charts.Chart> charts = new ArrayList<>(staying.charts());
    all.forEach(p -> charts.addAll(p.charts.list()));
    PackedUv out = new PackedUv(charts, size);
    staying.charts().forEach(c -> out.put(c, size, 0, 0, 0));
    for (Packing p : all) {
      for (int c = 0; c < p.at.size(); c++) {
        At a = p.at.get(c);
        out.put(p.charts.list().get(c), a.scale, a.angle, a.x, a.y);
      }
    }
    return out.uv();
  }
}
