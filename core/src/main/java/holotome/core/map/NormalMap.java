package holotome.core.map;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * The direction that the Scan faces: in the Cast's tangent space (red along the tangent, green
 * along the bitangent, up in the picture, blue along the normal) or in its own coordinates.
 */
final class NormalMap extends MapRule {
  private final boolean isTangent;

  NormalMap(String fileName, boolean isTangent) {
    super(fileName, isTangent ? Values.TANGENT_DIRECTION : Values.DIRECTION);
    this.isTangent = isTangent;
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    Mesh scan = source.scan();
    float[] normals = source.normals(work);
    return rays -> {
      float[] n = new float[3];
      return new DirectionTaker() {
        @Override
        public void take(Hit hit, float[] out, int at) {
          MapSource.normal(scan, normals, hit, n);
          if (isTangent) {
            Directions.solve(hit.frame, n[0], n[1], n[2], out, at);
          } else {
            System.arraycopy(n, 0, out, at, 3);
          }
        }
      };
    };
  }
}
