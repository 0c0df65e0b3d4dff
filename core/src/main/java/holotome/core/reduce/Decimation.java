package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attributes;
import holotome.core.attribute.Compaction;
import holotome.core.attribute.VertexMix;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Fewer triangles, the same shape: edges are collapsed, the cheapest first ({@link LocalQuadrics}),
 * in regions side by side whose rims lie elsewhere in each round ({@link Regions}); at the end the
 * vertices are fitted to the mesh there was ({@link SurfaceFit}).
 *
 * <p>A round goes up to a cost that is the same everywhere, so that all together it is nearly what
 * one queue for the whole would do; what it should be is told by a few regions that are tried
 * first. The last round tries all of them, so that the number asked for is reached.
 *
 * <p>A collapse is made only if it keeps the topology, turns no triangle over and makes no sliver;
 * borders and lines stay lines, and vertices where the mesh is not manifold stay. What vertices
 * carry is mixed along the collapsed edge, what triangles carry goes with them ({@link VertexMix}).
 * Not guaranteed: that nothing new cuts through anything else, and how far the surface moves at
 * most.
 *
 * <p>O(T) time on all cores; about 45 bytes per triangle beside what is carried. No result depends
 * on the number of threads.
 */
public final class Decimation {
  /** Vertices of a region: what it works with stays in a core's own cache. */
  private static final int REGION = 1 << 12;

  /** So many vertices are one region. */
  private static final int WHOLE = 1 << 14;

  /** A round leaves no fewer than one in so many: the rims of regions stay as dense as before. */
  private static final double DEEPEST = 4;

  /** From so near on the last round is tried in all regions. */
  private static final double LAST = 1.25;

  /** Before that a round stops at so many times what is wanted. */
  private static final double SHORT = 1.1;

  /** One region in so many is tried before a round. */
  private static final int TRIED = 24;

  /**
   * The last rounds that can be run again begin with so many times what is wanted: the least, and
   * what is better where it can be had. Later, what comes to cut has no room to do otherwise.
   */
  private static final int NEAR = 2;

  private static final int FAR = 3;

  private static final int GRAIN = 1 << 15;

  private final Mesh given;
  private final float[] xyz;
  private final float[] weight;
  private final VertexMix carried;

  /** The vertex that each was merged into; itself as long as it is there. */
  private final int[] into;

  private final boolean isTraced;
  private final double unit;
  private final Course course;

  /** The round that it begins with. */
  private final int first;

  private int[] tri;
  private int begun;
  private int end;

  /** The wedge of each corner, and which half-edges are lines: null where there are none. */
  private int[] wedge;

  private byte[] lines;

  /** The given triangle that each comes from; null where nobody asks. */
  private int[] from;

  /**
   * Decimates a mesh; texture coordinates are not carried over.
   *
   * @param target stop at so many triangles
   * @param limit stop before the root of the mean square distance that a collapse adds to the
   *     planes it merges exceeds this; in the mesh's units
   */
  public static Mesh run(Mesh mesh, int target, double limit, Work work) {
    if (mesh.triangleCount() <= target) {
      work.advance(1);
      return mesh;
    }
    return of(mesh, target, limit, null, Wedges.NONE, work).mesh();
  }

  /**
   * Decimates to a number of triangles; what wedges and lines say stays together.
   *
   * @param weight as in {@link #of(Mesh, int, double, float[], Wedges, Work)}, but left as it is
   */
  static Mesh run(Mesh mesh, int target, float[] weight, Wedges wedges, Work work) {
    if (mesh.triangleCount() <= target) {
      work.advance(1);
      return mesh;
    }
    float[] own = weight == null ? null : weight.clone();
    return of(mesh, target, Double.POSITIVE_INFINITY, own, wedges, work).mesh();
  }

  /**
   * A light mesh, and what became of the vertices.
   *
   * @param root per vertex of the mesh it was made from: the light one it was merged into, -1 for
   *     none
   */
  record Result(Mesh mesh, int[] root) {}

  /**
   * Decimates a mesh with some of it more important.
   *
   * @param weight per vertex what a collapse's error counts for, infinite for what stays as it is;
   *     changed; null for 1
   * @param wedges what is kept together; lines stay lines
   */
  static Result of(Mesh mesh, int target, double limit, float[] weight, Wedges wedges, Work work) {
    return of(mesh, target, limit, weight, wedges, new Course(), work);
  }

  /** The same along a course, which is set by the first run that takes it. */
  static Result of(
      Mesh mesh,
      int target,
      double limit,
      float[] weight,
      Wedges wedges,
      Course course,
      Work work) {
    Decimation d = new Decimation(mesh, weight, wedges, course);
    d.rounds(target, limit, work.part(0.9, CoreWords.of("work.decimating")));
    if (d.count() == mesh.triangleCount()) {
      // Nothing could go: then nothing is moved either.
      work.advance(0.1);
      return new Result(mesh, d.into);
    }
    return d.result(work.part(0.1, CoreWords.of("work.decimating")));
  }

  /** The last rounds again, from where the course kept a state. */
  static Result again(Mesh mesh, int target, Course course, Work work) {
    Decimation d = new Decimation(mesh, course.halfway, course);
    d.rounds(target, Double.POSITIVE_INFINITY, work.part(0.9, CoreWords.of("work.decimating")));
    return d.result(work.part(0.1, CoreWords.of("work.decimating")));
  }

  private Decimation(Mesh mesh, Course.Halfway h, Course course) {
    given = mesh;
    this.course = course;
    wedge = h.wedge();
    lines = h.lines();
    weight = h.weight().clone();
    xyz = h.xyz().clone();
    tri = h.tri();
    from = h.from();
    into = h.into().clone();
    carried = h.carried().copy();
    isTraced = carriesTriangles(mesh.attributes());
    unit = unit(mesh);
    first = h.round();
  }

  private Decimation(Mesh mesh, float[] weight, Wedges wedges, Course course) {
    given = mesh;
    first = 0;
    this.course = course;
    wedge = wedges.ofCorner();
    lines = wedges.lines();
    this.weight = weight;
    xyz = mesh.xyz().clone();
    tri = mesh.triangles();
    if (course.extent == null) {
      course.extent = Regions.extent(xyz, tri);
    }
    into = new int[mesh.vertexCount()];
    for (int v = 0; v < into.length; v++) {
      into[v] = v;
    }
    carried =
        wedge == null
            ? new VertexMix(mesh.attributes(), mesh.triangles(), mesh.vertexCount())
            : new VertexMix(mesh.attributes(), wedge, wedges.vertex());
    isTraced = carriesTriangles(mesh.attributes());
    unit = unit(mesh);
  }

  /** A power of two: nothing is lost to it, and costs neither overflow nor vanish. */
  private static double unit(Mesh mesh) {
    return Math.scalb(
        1.0, -Math.getExponent(Math.max(Double.MIN_NORMAL, mesh.bounds().diagonal())));
  }

  private void keep(int round) {
    float[] counts = weight == null ? new float[into.length] : weight.clone();
    if (weight == null) {
      Arrays.fill(counts, 1);
    }
    course.halfway =
        new Course.Halfway(
            round, xyz.clone(), into.clone(), counts, carried.copy(), tri, wedge, lines, from);
  }

  private static boolean carriesTriangles(Attributes all) {
    for (Attribute a : all) {
      if (a.domain() == Attribute.Domain.TRIANGLE) {
        return true;
      }
    }
    return false;
  }

  private int count() {
    return tri.length / 3;
  }

  private void rounds(int target, double limit, Work work) {
    begun = count();
    end = target;
    int idle = 0;
    boolean isGiven = course.isWhole;
    for (int round = first;
        isGiven ? round < course.rounds : count() > target && idle < 2;
        round++) {
      int before = count();
      boolean isHalfway =
          isGiven && course.halfway != null
              ? round == course.halfway.round()
              : before <= given.triangleCount() / 2
                  && before >= (course.halfway == null ? NEAR : FAR) * (double) target;
      if (course.keepsHalfway && isHalfway && round > first) {
        keep(round);
      }
      course.rounds = Math.max(course.rounds, round + 1);
      // Where there is only a limit, it is come up to by and by: rims take part from round to
      // round.
      double most = limit * Math.min(1, Math.scalb(1.0, round - 3));
      round(round, target, most, work);
      idle = before - count() < before / 200 + 1 && most == limit ? idle + 1 : 0;
      if (count() <= WHOLE && before == count() && most == limit) {
        break;
      }
    }
    course.isWhole = true;
  }

  private void round(int number, int target, double limit, Work work) {
    int size = count() / 2 <= WHOLE ? 2 * WHOLE : REGION;
    Regions regions =
        new Regions(
            xyz, tri, size, number, course.extent, work.part(0, CoreWords.of("work.ordering")));
    Work trying = work.part(0, CoreWords.of("work.trying-regions"));
    int[] fewest = new int[regions.count];
    float[] most = new float[regions.count];
    Arrays.fill(most, Float.MAX_VALUE);
    if (regions.count == 1) {
      fewest[0] = target;
    } else if (target * LAST >= count()) {
      share(regions, count() - target, limit, fewest, trying);
    } else {
      // A little less far than to the end: what was tried tells it roughly.
      double share = Math.max(SHORT * target / count(), 1 / DEEPEST);
      boolean isKnown = number < course.costs.size();
      float cost = isKnown ? course.costs.get(number) : costFor(regions, share, limit, trying);
      if (!isKnown) {
        course.costs.add(cost);
      }
      Arrays.fill(most, cost);
      for (int r = 0; r < fewest.length && cost == Float.MAX_VALUE; r++) {
        // Not even all that can go is enough: each gives no more than its share.
        fewest[r] = (int) Math.ceil(share * regions.triangles(r));
      }
    }
    work.setLabel(CoreWords.of("work.decimating"));
    collapse(regions, most, fewest, limit, work);
  }

  /** The cost up to which to go for a share of the triangles, by trying some regions. */
  private float costFor(Regions regions, double share, double limit, Work work) {
    int tried = Math.max(4, regions.count / TRIED);
    int step = Math.max(1, regions.count / tried);
    int n = (regions.count + step - 1) / step;
    CostCount[] counts = new CostCount[n];
    Parallel.range(
        n,
        1,
        work,
        (a, b) -> {
          for (int i = a; i < b; i++) {
            int r = i * step;
            counts[i] = new CostCount();
            RegionTask task = new RegionTask(regions, r);
            task.collapse.run(
                Float.MAX_VALUE,
                limit,
                (int) (0.7 * share * regions.triangles(r)),
                counts[i],
                (v, w, h, f) -> {});
          }
        });
    CostCount all = new CostCount();
    long triangles = 0;
    for (int i = 0; i < n; i++) {
      all.add(counts[i]);
      triangles += regions.triangles(i * step);
    }
    return all.upTo((1 - share) * triangles);
  }

  /** How many triangles each region is to keep for so many to go in all, the cheapest first. */
  private void share(Regions regions, int toGo, double limit, int[] fewest, Work work) {
    CostCount[] counts = new CostCount[regions.count];
    CostCount all = new CostCount();
    // Some regions give more than others.
    double left = Math.max(0.4, 1 - 3.0 * toGo / count());
    Parallel.range(
        regions.count,
        1,
        work,
        (a, b) -> {
          for (int r = a; r < b; r++) {
            counts[r] = new CostCount();
            new RegionTask(regions, r)
                .collapse.run(
                    Float.MAX_VALUE,
                    limit,
                    (int) (left * regions.triangles(r)),
                    counts[r],
                    (v, w, h, f) -> {});
          }
        });
    for (CostCount c : counts) {
      all.add(c);
    }
    int[] quota = all.shares(counts, toGo);
    for (int r = 0; r < fewest.length; r++) {
      fewest[r] = regions.triangles(r) - quota[r];
    }
  }

  private void collapse(Regions regions, float[] most, int[] fewest, double limit, Work work) {
    double each = 1.0 / Math.max(1, begun - end);
    Kept[] kept = new Kept[regions.count + 1];
    Parallel.range(
        regions.count,
        1,
        work.part(0, CoreWords.of("work.decimating")),
        (a, b) -> {
          for (int r = a; r < b; r++) {
            RegionTask task = new RegionTask(regions, r);
            task.collapse.run(most[r], limit, fewest[r], new CostCount(), task);
            kept[r] = task.kept();
            work.advance(each * (regions.triangles(r) - kept[r].count()));
          }
        });
    kept[regions.count] = rim(regions);
    int[] at = new int[kept.length + 1];
    for (int i = 0; i < kept.length; i++) {
      at[i + 1] = at[i] + kept[i].count();
    }
    Kept all = new Kept(at[kept.length], wedge != null, lines != null, isTraced);
    Parallel.range(
        kept.length,
        64,
        Work.unwatched(),
        (a, b) -> {
          for (int i = a; i < b; i++) {
            kept[i].into(all, at[i]);
            kept[i] = null;
          }
        });
    tri = all.tri;
    wedge = all.wedge;
    lines = all.lines;
    from = all.from;
  }

  /** The triangles that belong to no region, as they are. */
  private Kept rim(Regions regions) {
    int rim = regions.count;
    int n = regions.triangles(rim);
    Kept out = new Kept(n, wedge != null, lines != null, isTraced);
    for (int i = 0; i < n; i++) {
      int t = regions.triangles.order()[regions.firstTriangle(rim) + i];
      System.arraycopy(tri, 3 * t, out.tri, 3 * i, 3);
      if (wedge != null) {
        System.arraycopy(wedge, 3 * t, out.wedge, 3 * i, 3);
      }
      if (lines != null) {
        out.lines[i] = lines[t];
      }
      if (isTraced) {
        out.from[i] = from == null ? t : from[t];
      }
    }
    return out;
  }

  private Result result(Work work) {
    int[] corners = tri.clone();
    int[] map = Compaction.of(corners, into.length);
    int n = map[into.length];
    float[] left = new float[3 * n];
    Parallel.range(
        into.length,
        GRAIN,
        Work.unwatched(),
        (a, b) -> {
          for (int v = a; v < b; v++) {
            if (map[v] >= 0) {
              System.arraycopy(xyz, 3 * v, left, 3 * map[v], 3);
            }
          }
        });
    int[] root = roots(map);
    SurfaceFit.fit(given, root, left, corners, fixed(map, corners, n), work);
    Attributes all = wedge == null ? carried.left(map, n) : carried.left(wedge, corners, n);
    if (isTraced) {
      int[] old = from;
      if (old == null) {
        old = new int[count()];
        Arrays.setAll(old, i -> i);
      }
      all = VertexMix.withTriangles(all, given.attributes(), old);
    }
    return new Result(new Mesh(left, corners, all, given.materials()), root);
  }

  /** What was not to move does not for a better fit either: lines, and what stays as it is. */
  private boolean[] fixed(int[] map, int[] corners, int n) {
    boolean[] out = new boolean[n];
    for (int v = 0; weight != null && v < into.length; v++) {
      if (map[v] >= 0 && Float.isInfinite(weight[v])) {
        out[map[v]] = true;
      }
    }
    for (int h = 0; lines != null && h < corners.length; h++) {
      if ((lines[h / 3] >> h % 3 & 1) != 0) {
        out[corners[h]] = true;
        out[corners[h % 3 == 2 ? h - 2 : h + 1]] = true;
      }
    }
    return out;
  }

  /** The new number of the vertex that each came into. */
  private int[] roots(int[] map) {
    int[] root = new int[into.length];
    Parallel.range(
        into.length,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          for (int v = from; v < to; v++) {
            int u = v;
            while (into[u] != u) {
              u = into[u];
            }
            root[v] = map[u];
          }
        });
    return root;
  }

  /** One region: taken out of the whole, collapsed, put back. */
  private final class RegionTask implements RegionCollapse.Trail {
    final RegionCollapse collapse;
    private final LocalMesh local;
    private final Regions regions;
    private final int region;
    private final int first;
    private final double[] origin = new double[3];
    private final boolean[] moved;
    private final int[] four = new int[4];

    RegionTask(Regions regions, int region) {
      this.regions = regions;
      this.region = region;
      first = regions.firstVertex(region);
      int n = regions.vertices(region);
      moved = new boolean[n];
      double[] p = new double[3 * n];
      boolean[] locked = new boolean[n];
      float[] w = weight == null ? null : new float[n];
      for (int i = 0; i < n; i++) {
        int v = regions.order[first + i];
        for (int k = 0; k < 3; k++) {
          origin[k] = i == 0 ? xyz[3 * v + k] : origin[k];
          p[3 * i + k] = (xyz[3 * v + k] - origin[k]) * unit;
        }
        locked[i] = regions.isLocked(v);
        if (w != null) {
          w[i] = weight[v];
          locked[i] |= Float.isInfinite(w[i]);
        }
      }
      int m = regions.triangles(region);
      int[] org = new int[3 * m];
      int[] wedges = wedge == null ? null : new int[3 * m];
      boolean[] line = lines == null ? null : new boolean[3 * m];
      for (int i = 0; i < m; i++) {
        int t = regions.triangles.order()[regions.firstTriangle(region) + i];
        for (int k = 0; k < 3; k++) {
          org[3 * i + k] = regions.place[tri[3 * t + k]] - first;
          if (wedges != null) {
            wedges[3 * i + k] = wedge[3 * t + k];
          }
          if (line != null) {
            line[3 * i + k] = (lines[t] >> k & 1) != 0;
          }
        }
      }
      local = new LocalMesh(p, org, line, wedges, locked);
      collapse = new RegionCollapse(local, w);
    }

    @Override
    public void merging(int v, int w, int h, float f) {
      int a = regions.order[first + v];
      int b = regions.order[first + w];
      into[b] = a;
      moved[v] = true;
      if (wedge == null) {
        carried.merge(a, b, f);
        return;
      }
      local.sides(v, w, h, four);
      carried.merge(four[0], four[1], f);
      if (four[2] >= 0 && four[2] != four[0]) {
        carried.merge(four[2], four[3], f);
      }
    }

    /** Puts the places back and lists the triangles that are left. */
    Kept kept() {
      for (int i = 0; i < moved.length; i++) {
        if (moved[i] && local.out[i] >= 0) {
          int v = regions.order[first + i];
          for (int k = 0; k < 3; k++) {
            xyz[3 * v + k] = (float) (local.p[3 * i + k] / unit + origin[k]);
          }
          if (weight != null) {
            weight[v] = collapse.weight(i);
          }
        }
      }
      Kept out = new Kept(local.alive(), wedge != null, lines != null, isTraced);
      int n = 0;
      for (int t = 0; 3 * t < local.org.length; t++) {
        if (local.org[3 * t] < 0) {
          continue;
        }
        for (int k = 0; k < 3; k++) {
          int h = 3 * t + k;
          out.tri[3 * n + k] = regions.order[first + local.org[h]];
          if (wedge != null) {
            out.wedge[3 * n + k] = local.wedge(h);
          }
          if (lines != null && local.isDrawn(h)) {
            out.lines[n] |= (byte) (1 << k);
          }
        }
        if (isTraced) {
          int old = regions.triangles.order()[regions.firstTriangle(region) + t];
          out.from[n] = from == null ? old : from[old];
        }
        n++;
      }
      return out;
    }
  }
}
