package holotome.core.unwrap;

import holotome.core.geometry.Vec;

/**
 * Looks along parallel lines, from one side and the other or from the six sides of a box. What is
 * seen nearly edge-on from one side and the other is told apart.
 */
final class SideProjection implements Projection {
  /** The cosine below which what is seen from two sides is edge-on. */
  private static final double EDGE_ON = 0.1;

  private final Ground ground;

  /** For each side to the right, up in the picture, and towards the one who looks. */
  private final double[][][] frames;

  private SideProjection(Ground ground, double[][][] frames) {
    this.ground = ground;
    this.frames = frames;
  }

  /**
   * From one side, and what is turned away from it as seen from behind.
   *
   * @param towards the one who looks; unit
   * @param up in the picture
   */
  static SideProjection flat(Ground ground, double[] towards, double[] up) {
    double[] x = Vec.unit(Vec.cross(up, towards));
    double[] y = Vec.cross(towards, x);
    return new SideProjection(
        ground,
        new double[][][] {
          {x, y, towards}, {Vec.mul(x, -1), y, Vec.mul(towards, -1)},
        });
  }

  /** From the six sides of a box; its first two directions unit and square to each other. */
  static SideProjection box(Ground ground, double[] z, double[] y) {
    double[] x = Vec.cross(y, z);
    double[][] to = {x, Vec.mul(x, -1), y, Vec.mul(y, -1), z, Vec.mul(z, -1)};
    double[][][] frames = new double[to.length][][];
    for (int i = 0; i < to.length; i++) {
      double[] up = i < 4 ? z : y;
      frames[i] = new double[][] {Vec.cross(up, to[i]), up, to[i]};
    }
    return new SideProjection(ground, frames);
  }

  private boolean isBox() {
    return frames.length > 2;
  }

  @Override
  public int sides() {
    return isBox() ? frames.length : frames.length + 1;
  }

  @Override
  public double facing(int t, int side) {
    if (!isLaying(side)) {
      return EDGE_ON;
    }
    double[] n = frames[side][2];
    double[] of = ground.normal();
    return n[0] * of[3 * t] + n[1] * of[3 * t + 1] + n[2] * of[3 * t + 2];
  }

  @Override
  public boolean isLaying(int side) {
    return side < frames.length;
  }

  @Override
  public boolean isCut(int h, int g, int side) {
    return false;
  }

  @Override
  public Piece placed(Piece p, int side) {
    double[][] f = frames[side];
    double[] uv = new double[2 * p.vertices()];
    int[] tri = ground.mesh().triangles();
    for (int i = 0; i < p.corners().length; i++) {
      double[] at = Vec.at(ground.mesh().xyz(), tri[3 * p.triangles()[i / 3] + i % 3]);
      uv[2 * p.corners()[i]] = Vec.dot(at, f[0]);
      uv[2 * p.corners()[i] + 1] = Vec.dot(at, f[1]);
    }
    return p.at(uv);
  }
}
