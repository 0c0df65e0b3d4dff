package holotome.core.ship;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.mesh.UvSquares;
import holotome.core.part.Maps;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Maps as they are written: one set of pictures, or one for each square of the texture that has
 * charts.
 *
 * @param mesh whose texture coordinates fit those pictures: of several they lie where they lay, of
 *     one picture over several squares all of it is their square
 * @param squares of several the mesh's; null for one set
 * @param sets in the order of the numbers that {@link #ofTriangle} gives
 */
record SquarePictures(Mesh mesh, UvSquares squares, List<Set> sets) {
  /**
   * One set of pictures.
   *
   * @param ending what is put behind the names of its files: the square's number behind a dot, or
   *     nothing
   */
  record Set(String ending, Maps maps, int column, int row) {}

  /**
   * @param isEach whether each square has pictures of its own
   * @throws Failure where triangles reach over the borders of their squares then
   */
  static SquarePictures of(Mesh mesh, Maps maps, boolean isEach) {
    if (maps.columns() == 1 && maps.rows() == 1) {
      return new SquarePictures(mesh, null, List.of(new Set("", maps, 0, 0)));
    }
    if (!isEach) {
      return new SquarePictures(overAll(mesh, maps), null, List.of(new Set("", maps, 0, 0)));
    }
    UvSquares squares = UvSquares.of(mesh.uv());
    long over = Arrays.stream(squares.of()).filter(s -> s == UvSquares.NONE).count();
    if (over > 0) {
      throw Failure.cannot(CoreWords.count("write-asset.over-borders", (int) over));
    }
    List<Set> sets = new ArrayList<>();
    for (int s = squares.used().nextSetBit(0); s >= 0; s = squares.used().nextSetBit(s + 1)) {
      int column = squares.column(s);
      int row = squares.row(s);
      Maps own = maps.square(column, row);
      sets.add(new Set("." + squares.number(s), own, column, row));
    }
    return new SquarePictures(mesh, squares, sets);
  }

  /** The coordinates of one picture that covers all squares. */
  private static Mesh overAll(Mesh mesh, Maps maps) {
    float[] uv = mesh.uv().coords().clone();
    for (int i = 0; i < uv.length; i += 2) {
      uv[i] /= maps.columns();
      uv[i + 1] /= maps.rows();
    }
    return mesh.withUv(new Uv(uv, mesh.uv().corners()));
  }

  /** Per triangle the set that it is drawn with. */
  short[] ofTriangle() {
    short[] out = new short[mesh.triangleCount()];
    if (squares == null) {
      return out;
    }
    short[] set = new short[squares.columns() * squares.rows()];
    short n = 0;
    for (int s = squares.used().nextSetBit(0); s >= 0; s = squares.used().nextSetBit(s + 1)) {
      set[s] = n++;
    }
    for (int t = 0; t < out.length; t++) {
      out[t] = set[squares.of()[t]];
    }
    return out;
  }

  /** The mesh with every chart in the first square, for files whose pictures know of no other. */
  Mesh inFirst() {
    if (squares == null) {
      return mesh;
    }
    float[] coords = mesh.uv().coords().clone();
    int[] corners = mesh.uv().corners();
    boolean[] isMoved = new boolean[coords.length / 2];
    for (int c = 0; c < corners.length; c++) {
      int at = corners[c];
      if (!isMoved[at]) {
        int s = squares.of()[c / 3];
        coords[2 * at] -= squares.column(s);
        coords[2 * at + 1] -= squares.row(s);
        isMoved[at] = true;
      }
    }
    return mesh.withUv(new Uv(coords, corners));
  }
}
