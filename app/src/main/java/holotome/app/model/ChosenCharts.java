package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
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
  private ChartSheet sheet;
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
  public ChartSheet sheet(Mesh mesh) {
    take(mesh);
    return sheet;
  }

  /** Lets go of the charts of all meshes but this one; null for all. */
  void keepOnly(Mesh mesh) {
    if (mesh != of) {
      jobs.stopLooking(this);
      begin(null);
    }
  }

  /** Looks once more for charts that were not found, because that was cancelled. */
  public void lookAgain() {
    asked = sheet != null;
  }

  private void take(Mesh mesh) {
    if (mesh != of) {
      begin(mesh);
    }
    if (!asked) {
      asked = true;
      find(mesh);
    }
  }

  private void begin(Mesh mesh) {
    of = mesh;
    sheet = null;
    asked = false;
    later.clear();
    chosen.clear();
    triangles = null;
  }

  private void find(Mesh mesh) {
    jobs.look(
        this,
        AppWords.of("common.finding-the-charts"),
        work -> ChartSheet.of(mesh, work),
        found -> {
          if (of == mesh) {
            sheet = found;
            List<Runnable> waiting = List.copyOf(later);
            later.clear();
            waiting.forEach(Runnable::run);
            changed.run();
          }
        },
        // Cancelled by the user: looked for again when the pane is next opened.
        f -> {
          later.clear();
          changed.run();
        });
  }

  /**
   * Chooses the chart of a triangle, or none for -1.
   *
   * @param add whether it joins those chosen, or leaves them if it is one of them
   */
  public void choose(Mesh mesh, int triangle, boolean add) {
    take(mesh);
    if (sheet == null) {
      // Chosen before the charts were found: done as soon as they are.
      later.add(() -> choose(mesh, triangle, add));
      return;
    }
    boolean was = triangle >= 0 && chosen.get(sheet.charts().ofTriangle()[triangle]);
    if (!add) {
      chosen.clear();
    }
    if (triangle >= 0) {
      chosen.set(sheet.charts().ofTriangle()[triangle], !add || !was);
    }
    triangles = chosen.isEmpty() ? null : trianglesOf(chosen);
    changed.run();
  }

  private BitSet trianglesOf(BitSet these) {
    int[] all = sheet.charts().ofTriangle();
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

  /**
   * A point of each chart that is chosen: the middle of its largest triangle, which lies in no
   * other chart. O(T).
   *
   * @param toWork from the mesh's coordinates to working space
   * @return x, y, z in turn; none where another mesh's are chosen
   */
  public double[] points(Mesh mesh, Similarity toWork) {
    if (mesh != of || triangles == null) {
      return new double[0];
    }
    int[] chart = sheet.charts().ofTriangle();
    int[] largest = new int[sheet.charts().count()];
    double[] area = new double[largest.length];
    for (int t = triangles.nextSetBit(0); t >= 0; t = triangles.nextSetBit(t + 1)) {
      double a = Vec.length(Measures.cross(mesh, t));
      if (a >= area[chart[t]]) {
        area[chart[t]] = a;
        largest[chart[t]] = t;
      }
    }
    double[] out = new double[3 * chosen.cardinality()];
    int n = 0;
    for (int c = chosen.nextSetBit(0); c >= 0; c = chosen.nextSetBit(c + 1)) {
      double[] middle = new double[3];
      for (int k = 0; k < 3; k++) {
        double[] p = Vec.at(mesh.xyz(), mesh.triangles()[3 * largest[c] + k]);
        middle = Vec.add(middle, Vec.mul(p, 1.0 / 3));
      }
      System.arraycopy(toWork.apply(middle), 0, out, n, 3);
      n += 3;
    }
    return out;
  }

  /** How many are chosen. */
  public int count() {
    return chosen.cardinality();
  }
}
