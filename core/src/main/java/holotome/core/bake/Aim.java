package holotome.core.bake;

import holotome.core.geometry.Vec;
import holotome.core.map.Hit;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.tangent.SplitMesh;

/**
 * Where the ray of a place of the Cast starts and which way it runs, and the frame that directions
 * are stored in there. One per thread.
 */
final class Aim {

  /**
   * What all threads share.
   *
   * @param split with the normals and tangents that the Cast is shown with
   * @param smooth normals per vertex, 3 floats each
   * @param out how far out rays start, per vertex
   * @param axis that all rays run back along, unit, in base coordinates; null for none
   */
  record Ground(
      Mesh cast, SplitMesh split, float[] smooth, float[] out, Along along, double[] axis) {
    static Ground of(Mesh cast, float[] out, Along along, double[] axis) {
      return new Ground(cast, SplitMesh.of(cast), Measures.vertexNormals(cast), out, along, axis);
    }
  }

  private final Ground ground;
  private final float[] p;
  private final int[] tri;
  private final float[] uv;
  private final int[] corners;

  /** The triangle at hand, and the texture coordinates of its corners. */
  private int triangle = -1;

  private double ax;
  private double ay;
  private double bx;
  private double by;
  private double cx;
  private double cy;
  private double det;

  /** The unit normal of the triangle, and how wide a texture square of width 1 is on it. */
  private final double[] flat = new double[3];

  private double perTexture;

  /** The unit direction that the ray runs back along, and how far out it starts. */
  float dx;

  float dy;
  float dz;
  float out;

  Aim(Ground ground) {
    this.ground = ground;
    p = ground.cast.xyz();
    tri = ground.cast.triangles();
    uv = ground.cast.uv() == null ? null : ground.cast.uv().coords();
    corners = ground.cast.uv() == null ? null : ground.cast.uv().corners();
  }

  private void take(int t) {
    triangle = t;
    ax = uv[2 * corners[3 * t]];
    ay = uv[2 * corners[3 * t] + 1];
    bx = uv[2 * corners[3 * t + 1]] - ax;
    by = uv[2 * corners[3 * t + 1] + 1] - ay;
    cx = uv[2 * corners[3 * t + 2]] - ax;
    cy = uv[2 * corners[3 * t + 2] + 1] - ay;
    det = bx * cy - cx * by;
    Measures.cross(p, tri, t, flat);
    double l = Vec.length(flat);
    perTexture = Math.sqrt(l / Math.abs(det));
    for (int k = 0; k < 3; k++) {
      flat[k] = l > 0 ? flat[k] / l : 0;
    }
  }

  /**
   * Aims from a place in the texture that lies in a triangle, and sets the place and the frame of a
   * hit.
   *
   * @param width of a sample, as a share of the texture square
   */
  void at(int t, double texU, double texV, double width, Hit hit) {
    if (t != triangle) {
      take(t);
    }
    float u = (float) (((texU - ax) * cy - cx * (texV - ay)) / det);
    float v = (float) ((bx * (texV - ay) - (texU - ax) * by) / det);
    float w = 1 - u - v;
    int i = tri[3 * t];
    int j = tri[3 * t + 1];
    int k = tri[3 * t + 2];
    hit.castX = p[3 * i] * w + p[3 * j] * u + p[3 * k] * v;
    hit.castY = p[3 * i + 1] * w + p[3 * j + 1] * u + p[3 * k + 1] * v;
    hit.castZ = p[3 * i + 2] * w + p[3 * j + 2] * u + p[3 * k + 2] * v;
    hit.footprint = (float) (width * perTexture);
    float[] far = ground.out;
    out = far[i] * w + far[j] * u + far[k] * v;
    ground.split.frame(t, u, v, hit.frame);
    switch (ground.along) {
      case SHADED -> run(hit.frame[6], hit.frame[7], hit.frame[8]);
      case FACES -> run(flat[0], flat[1], flat[2]);
      case SMOOTH -> {
        float[] n = ground.smooth;
        run(
            n[3 * i] * w + n[3 * j] * u + n[3 * k] * v,
            n[3 * i + 1] * w + n[3 * j + 1] * u + n[3 * k + 1] * v,
            n[3 * i + 2] * w + n[3 * j + 2] * u + n[3 * k + 2] * v);
      }
      default -> run(ground.axis[0], ground.axis[1], ground.axis[2]);
    }
  }

  /** Aims from a vertex, along its normal; the frame is left as it is. */
  void atVertex(int v, Hit hit) {
    hit.castX = p[3 * v];
    hit.castY = p[3 * v + 1];
    hit.castZ = p[3 * v + 2];
    out = ground.out[v];
    flat[0] = 0;
    flat[1] = 0;
    flat[2] = 1;
    run(ground.smooth[3 * v], ground.smooth[3 * v + 1], ground.smooth[3 * v + 2]);
  }

  private void run(double x, double y, double z) {
    double l = Math.sqrt(x * x + y * y + z * z);
    if (l < 1e-6) {
      dx = (float) flat[0];
      dy = (float) flat[1];
      dz = (float) flat[2];
    } else {
      dx = (float) (x / l);
      dy = (float) (y / l);
      dz = (float) (z / l);
    }
  }
}
