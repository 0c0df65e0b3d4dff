package holotome.app.model;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;

/**
 * Which charts of the Cast are chosen, in whichever pane. They belong to one mesh with its texture
 * coordinates: another one has none chosen. Interface thread.
 */
public final class ChosenCharts {
  private final Jobs jobs;
  private final Runnable changed;
  private Mesh of;
  private boolean asked;
  private Charts charts;
  private final BitSet chosen = new BitSet();
  private BitSet triangles;
  private final List<Runnable> later = new ArrayList<>();

  ChosenCharts(Jobs jobs, Runnable changed) {
    this.jobs = jobs;
    this.changed = changed;
  }

  /** The triangles of the chosen charts; null for none, or where they are another mesh's. */
  public BitSet of(Mesh mesh) {
    return mesh == of ? triangles : null;
  }

  /** The charts of a mesh with texture coordinates, once they are known: null until then. */
  public Charts charts(Mesh mesh) {
    take(mesh);
    return charts;
  }

  private void take(Mesh mesh) {
    if (mesh != of) {
      of = mesh;
      charts = null;
      asked = false;
      later.clear();
      chosen.clear();
      triangles = null;
    }
    if (!asked) {
      asked = true;
      find(mesh);
    }
  }

  private void find(Mesh mesh) {
    jobs.fetch(
        () -> Charts.of(mesh, Work.unwatched()),
        c -> {
          if (of == mesh) {
            charts = c;
            List<Runnable> waiting = List.copyOf(later);
            later.clear();
            waiting.forEach(Runnable::run);
            changed.run();
          }
        });
  }

  /**
   * Chooses the chart of a triangle, or none for -1.
   *
   * @param add whether it joins those chosen, or leaves them if it is one of them
   */
  public void choose(Mesh mesh, int triangle, boolean add) {
    take(mesh);
    if (charts == null) {
      // Chosen before the charts were found: done as soon as they are.
      later.add(() -> choose(mesh, triangle, add));
      return;
    }
    boolean was = triangle >= 0 && chosen.get(charts.ofTriangle()[triangle]);
    if (!add) {
      chosen.clear();
    }
    if (triangle >= 0) {
      chosen.set(charts.ofTriangle()[triangle], !add || !was);
    }
    triangles = chosen.isEmpty() ? null : trianglesOf(chosen);
    changed.run();
  }

  private BitSet trianglesOf(BitSet these) {
    int[] all = charts.ofTriangle();
    BitSet out = new BitSet(all.length);
    for (int t = 0; t < all.length; t++) {
      if (these.get(all[t])) {
        out.set(t);
      }
    }
    return out;
  }

  /** Whether any was chosen; none is afterwards. */
  public boolean drop() {
    boolean any = !chosen.isEmpty();
    chosen.clear();
    triangles = null;
    if (any) {
      changed.run();
    }
    return any;
  }

  /** How many are chosen. */
  public int count() {
    return chosen.cardinality();
  }
}
