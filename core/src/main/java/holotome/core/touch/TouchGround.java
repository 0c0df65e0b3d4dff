package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Coverage;
import holotome.core.part.Maps;
import holotome.core.spatial.Bvh;
import holotome.core.tangent.SplitMesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;
import java.lang.ref.SoftReference;
import java.lang.ref.WeakReference;

/**
 * What touches need to know of a Cast and of how its maps are laid out. The one made last is kept
 * as long as memory allows. A second or two for a million triangles or maps of 8192 pixels.
 *
 * @param twin per half-edge, see {@link Adjacency}
 * @param split with the frames that tangent normals are stored in
 * @param rings per texel, see {@link Coverage#rings}
 * @param width texels of the maps
 */
public record TouchGround(
    Mesh cast,
    int[] twin,
    SplitMesh split,
    Bvh index,
    byte[] rings,
    int size,
    int columns,
    int rows,
    int width,
    int height) {

  /** How far into the gutters of the charts a change is carried on. */
  static final int GUTTER = 16;

  private static WeakReference<Mesh> keptOf = new WeakReference<>(null);
  private static SoftReference<TouchGround> kept = new SoftReference<>(null);

  /** Looks at a Cast with texture coordinates. */
  public static TouchGround of(Mesh cast, Maps maps, Work work) {
    TouchGround known = known(cast, maps);
    if (known != null) {
      work.advance(1);
      return known;
    }
    String label = CoreWords.of("work.looking-at-the-surface");
    int[] twin = Adjacency.of(cast, work.part(0.2, label)).twin();
    Bvh index = Bvh.of(cast, work.part(0.4, label));
    byte[] rings = Coverage.rings(cast, maps, GUTTER, work.part(0.3, label));
    SplitMesh split = SplitMesh.of(cast);
    work.advance(0.1);
    TouchGround made =
        new TouchGround(
            cast,
            twin,
            split,
            index,
            rings,
            maps.size(),
            maps.columns(),
            maps.rows(),
            maps.missed().width(),
            maps.missed().height());
    keep(made);
    return made;
  }

  private static synchronized TouchGround known(Mesh cast, Maps maps) {
    TouchGround g = keptOf.refersTo(cast) ? kept.get() : null;
    boolean fits =
        g != null
            && g.size == maps.size()
            && g.width == maps.missed().width()
            && g.height == maps.missed().height();
    return fits ? g : null;
  }

  private static synchronized void keep(TouchGround made) {
    keptOf = new WeakReference<>(made.cast);
    kept = new SoftReference<>(made);
  }

  /** The side of a texel on a triangle, in base units: the root of its area. */
  double texel(int triangle) {
    double[] c = Measures.cross(cast, triangle);
    int[] k = cast.uv().corners();
    float[] uv = cast.uv().coords();
    int a = 2 * k[3 * triangle];
    int b = 2 * k[3 * triangle + 1];
    int d = 2 * k[3 * triangle + 2];
    double det =
        (uv[b] - uv[a]) * (uv[d + 1] - uv[a + 1]) - (uv[d] - uv[a]) * (uv[b + 1] - uv[a + 1]);
    double area = Vec.length(c);
    return det == 0 ? 0 : Math.sqrt(area / Math.abs(det)) / size;
  }
}
