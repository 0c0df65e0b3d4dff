package holotome.core.map;

import holotome.core.task.Work;

/** The mean direction from which an even sky's light comes in, in the frame of the Cast. */
final class BentNormalMap extends MapRule {

  BentNormalMap() {
    super("bent-normal", Values.TANGENT_DIRECTION);
  }

  @Override
  public boolean castsRays() {
    return true;
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    float[] normals = source.normals(work);
    return rays ->
        new DirectionTaker() {
          @Override
          public void take(Hit hit, float[] out, int at) {
            rays.look(hit, normals);
            Directions.solve(hit.frame, rays.sum[0], rays.sum[1], rays.sum[2], out, at);
          }
        };
  }
}
