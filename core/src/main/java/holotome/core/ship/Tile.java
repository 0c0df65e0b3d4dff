package holotome.core.ship;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import java.util.Arrays;

/**
 * A mesh that is one flat rectangle whose chart fills the texture square: a material to be put
 * beside itself.
 *
 * @param width along U, in base units
 * @param height along V
 */
record Tile(Mesh mesh, double width, double height) {
  private static final float[] SQUARE = {0, 0, 1, 0, 0, 1, 1, 1};

  /** The fourth corner may lie so far off, as a share of the size, by its rounding to floats. */
  private static final double HAIR = 1e-5;

  /** Null for any other mesh. */
  static Tile of(Mesh mesh) {
    boolean isSquare = mesh.vertexCount() == 4 && mesh.triangleCount() == 2 && mesh.uv() != null;
    if (!isSquare || !Arrays.equals(mesh.uv().coords(), SQUARE)) {
      return null;
    }
    double[] across = Vec.sub(Vec.at(mesh.xyz(), 1), Vec.at(mesh.xyz(), 0));
    double[] up = Vec.sub(Vec.at(mesh.xyz(), 2), Vec.at(mesh.xyz(), 0));
    double[] last = Vec.sub(Vec.sub(Vec.at(mesh.xyz(), 3), Vec.at(mesh.xyz(), 1)), up);
    double width = Vec.length(across);
    double height = Vec.length(up);
    double size = width + height;
    boolean isFlat = Vec.length(last) <= HAIR * size && size > 0;
    return isFlat && Math.abs(Vec.dot(across, up)) <= HAIR * size * size
        ? new Tile(mesh, width, height)
        : null;
  }

  /** So many times as large each way about its first corner, its texture beside itself as often. */
  Mesh repeated(int times) {
    float[] xyz = mesh.xyz().clone();
    for (int i = 3; i < xyz.length; i++) {
      xyz[i] = xyz[i % 3] + times * (xyz[i] - xyz[i % 3]);
    }
    float[] uv = mesh.uv().coords().clone();
    for (int i = 0; i < uv.length; i++) {
      uv[i] *= times;
    }
    return mesh.withPositions(xyz).withUv(new Uv(uv, mesh.uv().corners()));
  }
}
