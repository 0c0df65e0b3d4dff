package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.topology.Charts;
import holotome.core.triangulation.Triangulator;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.function.Supplier;

/**
 * Which charts of the Cast are chosen, in whichever pane. They belong to one mesh with its texture
 * coordinates: another one has none chosen. Interface thread.
 */
public final class ChosenCharts {
  private final Jobs jobs;
  private final Runnable changed;
  private final Supplier<int[]> picture;
  private Mesh of;
  private boolean asked;
  private ChartSheet sheet;
  private final BitSet chosen = new BitSet();
  private BitSet triangles;
  private final List<Runnable> later = new ArrayList<>();

  /**
   * @param picture the size of the picture that charts were packed for, and how far apart
   */
  ChosenCharts(Jobs jobs, Runnable changed, Supplier<int[]> picture) {
    this.picture = picture;
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

  /**
   * Lets go of the charts of all meshes but this one; null for all. Where it is the same surface,
   * with charts moved, cut or weighed anew, those that have the same places stay chosen.
   */
  void keepOnly(Mesh mesh) {
    if (mesh == of) {
      return;
    }
    jobs.stopLooking(this);
    boolean isSame =
        mesh != null && of != null && mesh.uv() != null && mesh.triangles() == of.triangles();
    int[] kept = isSame ? largest(of) : new int[0];
    begin(null);
    if (kept.length > 0) {
      begin(mesh);
      later.add(() -> chooseAll(mesh, kept));
      asked = true;
      find(mesh);
    }
  }

  private void chooseAll(Mesh mesh, int[] ofTriangles) {
    if (mesh == of && sheet != null) {
      for (int t : ofTriangles) {
        chosen.set(sheet.charts().ofTriangle()[t]);
      }
      take();
    }
  }

  /**
   * Chooses the charts that lie within a closed line in the texture. O(outlines) for those outside
   * its box, times its corners for the others.
   *
   * @param line u, v in turn
   * @param add whether they join those chosen
   */
  public void chooseWithin(Mesh mesh, double[] line, boolean add) {
    if (mesh != of || sheet == null) {
      return;
    }
    double[] box = box(line);
    BitSet out = new BitSet();
    double[] ends = sheet.outlines().ends();
    int[] chart = sheet.outlines().chart();
    for (int pass = 0; pass < 2; pass++) {
      for (int i = 0; i < ends.length; i += 3) {
        double u = ends[i];
        double v = ends[i + 1];
        boolean isIn =
            pass == 0
                ? u >= box[0] && v >= box[1] && u <= box[2] && v <= box[3]
                : out.get(chart[i / 6]) || Triangulator.contains(line, u, v);
        if (!isIn) {
          out.set(chart[i / 6]);
        }
      }
    }
    BitSet within = new BitSet();
    for (int c : sheet.outlines().chart()) {
      within.set(c, !out.get(c));
    }
    if (!add) {
      chosen.clear();
    }
    chosen.or(within);
    take();
  }

  private static double[] box(double[] line) {
    double[] b = {
      Double.POSITIVE_INFINITY,
      Double.POSITIVE_INFINITY,
      Double.NEGATIVE_INFINITY,
      Double.NEGATIVE_INFINITY
    };
    for (int i = 0; i < line.length; i++) {
      b[i % 2] = Math.min(b[i % 2], line[i]);
      b[2 + i % 2] = Math.max(b[2 + i % 2], line[i]);
    }
    return b;
  }

  private void take() {
    triangles = chosen.isEmpty() ? null : trianglesOf(chosen);
    changed.run();
  }

  /** Chooses charts by their numbers, and no others. */
  public void choose(Mesh mesh, BitSet charts) {
    if (mesh == of && sheet != null) {
      chosen.clear();
      chosen.or(charts);
      take();
    }
  }

  /** Chooses what has something in common with the charts that are chosen. */
  public void chooseLike(Mesh mesh, LikeCharts like) {
    if (mesh == of && sheet != null) {
      Charts c = sheet.charts();
      choose(mesh, like.of(mesh, c.ofTriangle(), c.count(), chosen));
    }
  }

  /** Whether the chart of a triangle is chosen. */
  public boolean isChosen(Mesh mesh, int triangle) {
    return mesh == of
        && sheet != null
        && triangle >= 0
        && chosen.get(sheet.charts().ofTriangle()[triangle]);
  }

  /** The outlines of the charts that are chosen, or of the others: 6 doubles an edge. */
  public double[] outlines(Mesh mesh, boolean ofChosen) {
    if (mesh != of || sheet == null) {
      return new double[0];
    }
    double[] ends = sheet.outlines().ends();
    double[] out = new double[ends.length];
    int n = 0;
    for (int e = 0; e < ends.length / 6; e++) {
      if (chosen.get(sheet.outlines().chart()[e]) == ofChosen) {
        System.arraycopy(ends, 6 * e, out, n, 6);
        n += 6;
      }
    }
    return Arrays.copyOf(out, n);
  }

  /** The chart of each edge of those {@link #outlines}. */
  public int[] chartsOf(Mesh mesh, boolean ofChosen) {
    return mesh != of || sheet == null
        ? new int[0]
        : Arrays.stream(sheet.outlines().chart()).filter(c -> chosen.get(c) == ofChosen).toArray();
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
    int[] packed = picture.get();
    jobs.look(
        this,
        AppWords.of("common.finding-the-charts"),
        work -> ChartSheet.of(mesh, packed, work),
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
    take();
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
    int[] largest = mesh == of ? largest(mesh) : new int[0];
    double[] out = new double[3 * largest.length];
    for (int i = 0; i < largest.length; i++) {
      System.arraycopy(middle(mesh, largest[i], toWork), 0, out, 3 * i, 3);
    }
    return out;
  }

  /** The same of the Cast of a workpiece, which may be null or have none. */
  public double[] points(Workpiece w) {
    return w == null || w.cast() == null ? new double[0] : points(w.cast(), w.frame().toWork());
  }

  /** The middle of a triangle in working space. */
  public static double[] middle(Mesh mesh, int triangle, Similarity toWork) {
    double[] middle = new double[3];
    for (int k = 0; k < 3; k++) {
      double[] p = Vec.at(mesh.xyz(), mesh.triangles()[3 * triangle + k]);
      middle = Vec.add(middle, Vec.mul(p, 1.0 / 3));
    }
    return toWork.apply(middle);
  }

  /** The largest triangle of each chart that is chosen. */
  private int[] largest(Mesh mesh) {
    if (triangles == null) {
      return new int[0];
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
    return chosen.stream().map(c -> largest[c]).toArray();
  }

  /** Another object whenever others are chosen; null for none. */
  public Object chosen() {
    return triangles;
  }

  /** How many are chosen. */
  public int count() {
    return chosen.cardinality();
  }
}
