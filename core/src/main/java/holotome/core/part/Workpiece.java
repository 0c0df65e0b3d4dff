package holotome.core.part;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;

/**
 * What the steps work on: immutable, each step makes a new one that shares what it left alone.
 *
 * @param scan the source mesh at full resolution; never null
 * @param cast the light mesh being made from it, or null; in the same base coordinates
 * @param maps the baked pictures of the Cast, or null
 * @param frame where the base coordinates stand
 */
public record Workpiece(Mesh scan, Mesh cast, Maps maps, Frame frame) {

  public static Workpiece of(Mesh scan, Frame frame) {
    return new Workpiece(scan, null, null, frame);
  }

  public Workpiece withScan(Mesh mesh) {
    return new Workpiece(mesh, cast, maps, frame);
  }

  /** Maps belong to one Cast: a new Cast drops them. */
  public Workpiece withCast(Mesh mesh) {
    return new Workpiece(scan, mesh, null, frame);
  }

  public Workpiece withMaps(Maps baked) {
    return new Workpiece(scan, cast, baked, frame);
  }

  public Workpiece withFrame(Frame placed) {
    return new Workpiece(scan, cast, maps, placed);
  }

  /** The Cast where there is one, else the Scan. */
  public Mesh current() {
    return cast != null ? cast : scan;
  }
}
