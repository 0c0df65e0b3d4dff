package holotome.core.mesh;

import holotome.core.geometry.Vec;
import java.util.Arrays;

/**
 * A mesh that is one flat rectangle whose chart fills the texture square: four vertices in the
 * order of their texture coordinates (0, 0), (1, 0), (0, 1), (1, 1), two triangles.
 *
 * @param corner where texture coordinates begin, base units
 * @param across from there along U, as long as it is wide
 * @param up from there along V, as long as it is high
 */
public record TextureRectangle(double[] corner, double[] across, double[] up) {
  private static final float[] SQUARE = {0, 0, 1, 0, 0, 1, 1, 1};

  /** Corners may lie so far off, as a share of the size, by their rounding to floats. */
  private static final double HAIR = 1e-5;

  /** The rectangle that a mesh is; null for any other mesh. O(1). */
  public static TextureRectangle of(Mesh mesh) {
    boolean isPlain = mesh.vertexCount() == 4 && mesh.triangleCount() == 2 && mesh.uv() != null;
    if (!isPlain || !Arrays.equals(mesh.uv().coords(), SQUARE)) {
      return null;
    }
    double[] corner = Vec.at(mesh.xyz(), 0);
    double[] across = Vec.sub(Vec.at(mesh.xyz(), 1), corner);
    double[] up = Vec.sub(Vec.at(mesh.xyz(), 2), corner);
    double width = Vec.length(across);
    double height = Vec.length(up);
    double hair = HAIR * (width + height);
    double[] last = Vec.sub(Vec.sub(Vec.at(mesh.xyz(), 3), Vec.at(mesh.xyz(), 1)), up);
    boolean isOne =
        width > 0
            && height > 0
            && Vec.length(last) <= hair
            && Math.abs(Vec.dot(across, up)) <= hair * Math.max(width, height);
    return isOne ? new TextureRectangle(corner, across, up) : null;
  }

  /** Along U, in base units. */
  public double width() {
    return Vec.length(across);
  }

  /** Along V, in base units. */
  public double height() {
    return Vec.length(up);
  }

  /** A mesh that is one, so many times as large about its corner, its texture as often in it. */
  public static Mesh repeated(Mesh mesh, int times) {
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
