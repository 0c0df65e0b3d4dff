package holotome.core.spatial;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.lang.ref.Reference;
import java.lang.ref.SoftReference;
import java.lang.ref.WeakReference;
import java.util.ArrayDeque;

/**
 * The indexes last made, for as long as memory allows and their meshes live: a step that needs one
 * for a mesh whose places and triangles did not change since does not make it anew.
 */
final class KeptIndexes {
  /** The Scan, the Cast, and one beside them. */
  private static final int MOST = 3;

  private static final ArrayDeque<Kept> KEPT = new ArrayDeque<>();

  /** An index and the arrays that it was made of. */
  private record Kept(Reference<float[]> xyz, Reference<int[]> triangles, Reference<Bvh> index) {
    boolean isOf(Mesh mesh) {
      return xyz.refersTo(mesh.xyz()) && triangles.refersTo(mesh.triangles());
    }
  }

  private KeptIndexes() {}

  static Bvh of(Mesh mesh, Work work) {
    Bvh known = find(mesh);
    if (known != null) {
      work.advance(1);
      return known;
    }
    Bvh made = new BvhBuilder(mesh).build(work);
    synchronized (KEPT) {
      KEPT.addFirst(
          new Kept(
              new WeakReference<>(mesh.xyz()),
              new WeakReference<>(mesh.triangles()),
              new SoftReference<>(made)));
      while (KEPT.size() > MOST) {
        KEPT.removeLast();
      }
    }
    return made;
  }

  private static Bvh find(Mesh mesh) {
    synchronized (KEPT) {
      KEPT.removeIf(k -> k.index.refersTo(null) || k.xyz.refersTo(null));
      for (Kept k : KEPT) {
        Bvh index = k.isOf(mesh) ? k.index.get() : null;
        if (index != null) {
          KEPT.remove(k);
          KEPT.addFirst(k);
          return index;
        }
      }
      return null;
    }
  }
}
