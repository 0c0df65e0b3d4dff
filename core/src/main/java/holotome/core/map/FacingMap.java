package holotome.core.map;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/** How far the Scan faces up along its own Z: 1 for up, 0.5 for sideways, 0 for down. */
final class FacingMap extends MapRule {

  FacingMap() {
    super("facing", Values.SHARE);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    Mesh scan = source.scan();
    float[] normals = source.normals(work);
    return rays -> {
      float[] n = new float[3];
      return new Plain() {
        @Override
        float value(Hit hit) {
          MapSource.normal(scan, normals, hit, n);
          return 0.5f + 0.5f * n[2];
        }
      };
    };
  }
}
