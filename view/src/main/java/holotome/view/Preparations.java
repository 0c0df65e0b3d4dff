package holotome.view;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.view.cluster.Hierarchy;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * What meshes need to be drawn in little time, for the few used last; shared by renderers that show
 * the same meshes. Any thread.
 */
final class Preparations {
  private static final int KEPT = 3;

  /**
   * Together no more triangles than these, unless one mesh alone has more: memory is short then.
   */
  private static final long MOST_KEPT = 60_000_000;

  private final Map<Mesh, Prepared> prepared = new LinkedHashMap<>();

  /** Meshes below this many triangles are drawn as they are. */
  private final int small;

  /** Of the mesh prepared last: an edit of it is prepared from there. */
  private volatile Hierarchy latest;

  Preparations(int small) {
    this.small = small;
  }

  synchronized Prepared of(Mesh mesh) {
    Prepared p = prepared.remove(mesh);
    if (p == null) {
      p = new Prepared(mesh);
    }
    prepared.put(mesh, p);
    while (prepared.size() > 1 && (prepared.size() > KEPT || triangles() > MOST_KEPT)) {
      prepared.remove(prepared.keySet().iterator().next());
    }
    return p;
  }

  private long triangles() {
    return prepared.keySet().stream().mapToLong(Mesh::triangleCount).sum();
  }

  /** Makes the hierarchy of a large mesh, unless it is there. */
  void prepare(Mesh mesh, Work work) {
    Prepared p = of(mesh);
    if (mesh.triangleCount() >= small && p.hierarchy() == null) {
      Hierarchy before = latest;
      Hierarchy made = before == null ? Hierarchy.of(mesh, work) : before.updated(mesh, work);
      latest = made;
      p.take(made);
    }
  }

  boolean isPrepared(Mesh mesh) {
    return mesh.triangleCount() < small || of(mesh).hierarchy() != null;
  }
}
