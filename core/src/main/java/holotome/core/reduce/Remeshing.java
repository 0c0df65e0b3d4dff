package holotome.core.reduce;

import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.BvhQuery;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.LongLines;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * Even triangles: regions side by side, which lie elsewhere each round, are made even ({@link
 * RegionRemesh}, {@link Regions}), then the vertices are fitted to the mesh there was ({@link
 * SurfaceFit}).
 *
 * <p>Borders and lines stay lines; where the mesh is not manifold it stays as it is. What it
 * carries is left out. Not guaranteed: that nothing new cuts through anything else, how far the
 * surface moves at most, and that what is thinner than an edge is still there.
 *
 * <p>O(T) time on all cores; about 60 bytes per triangle of the larger of both meshes. No result
 * depends on the number of threads.
 */
public final class Remeshing {
  /** Lines that are no wider than so many sides are not held. */
  static final double SEEN = 3;

  private static final int REGION = 1 << 12;
  private static final int GRAIN = 1 << 10;

  /** Rounds, each with regions of its own. */
  private static final int ROUNDS = 4;

  /** More rounds where triangles become many times as many: each can double them. */
  private static final int MOST_ROUNDS = 24;

  /** So near to the number asked for is near enough; else the length is corrected so often. */
  private static final double CLOSE = 0.04;

  private static final int CORRECTIONS = 4;

  /** No edge is to be shorter than so many steps of the coordinates' floats. */
  private static final float FLOATS = 4;

  private final double unit;

  /** What is made anew with a little changed has the same regions elsewhere. */
  private final double[] extent;

  private float[] xyz;
  private int[] tri;
  private byte[] lines;

  /** How long the edges at each vertex are to be. */
  private float[] length;

  /** The vertex that each was merged into; itself as long as it is there. */
  private int[] into;

  private Remeshing(Mesh start, byte[] lines, float[] length) {
    this.lines = lines;
    xyz = start.xyz().clone();
    // Shorter than floats tell apart at these coordinates edges would be cut for ever.
    float reach = 0;
    for (float x : xyz) {
      reach = Math.max(reach, Math.abs(x));
    }
    float shortest = FLOATS * Math.ulp(reach);
    this.length = new float[length.length];
    for (int v = 0; v < length.length; v++) {
      this.length[v] = length[v] > 0 ? Math.max(length[v], shortest) : length[v];
    }
    tri = start.triangles();
    extent = Regions.extent(xyz, tri);
    into = new int[start.vertexCount()];
    Arrays.setAll(into, i -> i);
    unit =
        Math.scalb(1.0, -Math.getExponent(Math.max(Double.MIN_NORMAL, start.bounds().diagonal())));
  }

  /**
   * A mesh with even triangles.
   *
   * @param root per vertex of the mesh it was made from: the vertex it was merged into, -1 for none
   * @param lines three bits a triangle, bit k for its half-edge k; null where there are none
   */
  record Result(Mesh mesh, int[] root, byte[] lines) {
    /** What was made before this, and this. */
    Result after(Result before) {
      int[] whole = new int[before.root.length];
      for (int v = 0; v < whole.length; v++) {
        whole[v] = before.root[v] < 0 ? -1 : root[before.root[v]];
      }
      return new Result(mesh, whole, lines);
    }
  }

  /**
   * A mesh of about so many even triangles, without what it carries.
   *
   * @param sharp edges that turn by more than this stay lines, in degrees
   */
  public static Mesh even(Mesh mesh, int triangles, double sharp, Work work) {
    double turn = Math.cos(Math.toRadians(sharp));
    byte[] lines = Wedges.of(mesh, false, true, turn, work.part(0.1, work.label())).lines();
    byte[] seen = LongLines.of(mesh, lines, SEEN * lengthFor(mesh, triangles));
    return toCount(mesh, untouched(mesh, seen), triangles, null, work.part(0.9, work.label()))
        .mesh();
  }

  /**
   * The length of the edges of so many even triangles that cover a mesh's surface. Along a needle,
   * whose area is next to nothing, there are no more than so many either.
   */
  static double lengthFor(Mesh mesh, double triangles) {
    double n = Math.max(1, triangles);
    double even = Math.sqrt(Measures.area(mesh) / n * 4 / Math.sqrt(3));
    return Math.max(even, mesh.bounds().diagonal() / n);
  }

  /** Makes a mesh's triangles even, with edges of a length in its units. */
  static Result even(Mesh mesh, double length, byte[] lines, Work work) {
    float[] all = new float[mesh.vertexCount()];
    Arrays.fill(all, (float) length);
    return run(mesh, untouched(mesh, lines), all, work);
  }

  /**
   * About so many even triangles, made of a mesh or of what was made of it: where the length that
   * should lead to them leads to more or fewer, it is corrected. What has no area stays as it is.
   *
   * @param bvh of the full mesh, whose nearest points vertices are put to before they are fitted,
   *     which few large triangles need; null to leave that out
   */
  static Result toCount(Mesh full, Result start, double triangles, Bvh bvh, Work work) {
    if (!(Measures.area(start.mesh) > 0)) {
      work.advance(1);
      return start;
    }
    double length = lengthFor(start.mesh, triangles);
    double shortest = start.mesh.bounds().diagonal() / triangles;
    Result made = start;
    for (int i = 0; i < CORRECTIONS; i++) {
      Work part = work.part(i == 0 ? 0.7 : 0.1, CoreWords.of("work.evening"));
      float[] all = new float[made.mesh.vertexCount()];
      Arrays.fill(all, (float) length);
      made = run(full, made, all, bvh, part);
      double off = made.mesh.triangleCount() / triangles;
      if (Math.abs(off - 1) < CLOSE) {
        break;
      }
      length = Math.max(length * Math.sqrt(off), shortest);
    }
    return made;
  }

  /** A mesh of which nothing was made yet. */
  static Result untouched(Mesh mesh, byte[] lines) {
    return new Result(mesh, identity(mesh.vertexCount()), lines);
  }

  /**
   * Goes on with what was made of a mesh.
   *
   * @param full what it is fitted to
   * @param start what was made of it so far
   * @param length how long the edges at each of its vertices are to be; below nought where it stays
   *     as it is
   */
  static Result run(Mesh full, Result start, float[] length, Work work) {
    return run(full, start, length, null, work);
  }

  private static Result run(Mesh full, Result start, float[] length, Bvh bvh, Work work) {
    Remeshing r = new Remeshing(start.mesh, start.lines, length);
    boolean hadRoom = true;
    for (int i = 0; i < ROUNDS || !hadRoom && i < MOST_ROUNDS; i++) {
      double share = i < ROUNDS ? 0.75 / ROUNDS : 0;
      hadRoom = r.round(i, work.part(share, CoreWords.of("work.evening")));
    }
    Result last = r.result();
    Result made = last.after(start);
    float[] fitted = made.mesh.xyz().clone();
    boolean[] fixed = new boolean[fitted.length / 3];
    for (int v = 0; v < length.length; v++) {
      if (!(length[v] > 0) && last.root[v] >= 0) {
        fixed[last.root[v]] = true;
      }
    }
    if (bvh != null) {
      project(fitted, full, bvh);
    }
    SurfaceFit.fit(
        full,
        made.root,
        fitted,
        made.mesh.triangles(),
        fixed,
        work.part(0.25, CoreWords.of("work.fitting")));
    return new Result(new Mesh(fitted, made.mesh.triangles()), made.root, made.lines);
  }

  private static void project(float[] xyz, Mesh full, Bvh bvh) {
    Parallel.range(
        xyz.length / 3,
        GRAIN,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery near = new BvhQuery(bvh);
          for (int v = from; v < to; v++) {
            near.closest(xyz[3 * v], xyz[3 * v + 1], xyz[3 * v + 2], Float.POSITIVE_INFINITY);
            for (int k = 0; k < 3 && near.triangle >= 0; k++) {
              int t = 3 * near.triangle;
              double a = full.xyz()[3 * full.triangles()[t] + k];
              double b = full.xyz()[3 * full.triangles()[t + 1] + k];
              double c = full.xyz()[3 * full.triangles()[t + 2] + k];
              xyz[3 * v + k] = (float) (a + near.u * (b - a) + near.v * (c - a));
            }
          }
        });
  }

  private static int[] identity(int n) {
    int[] out = new int[n];
    Arrays.setAll(out, i -> i);
    return out;
  }

  /** Whether there was room for all that was to be cut. */
  private boolean round(int number, Work work) {
    Regions regions =
        new Regions(
            xyz, tri, REGION, number + 1, extent, work.part(0.2, CoreWords.of("work.ordering")));
    RegionTask[] done = new RegionTask[regions.count];
    Parallel.range(
        regions.count,
        1,
        work.part(0.8, CoreWords.of("work.evening")),
        (a, b) -> {
          for (int r = a; r < b; r++) {
            done[r] = new RegionTask(regions, r);
            done[r].run();
          }
        });
    putTogether(regions, done);
    boolean hadRoom = true;
    for (RegionTask t : done) {
      hadRoom &= t.hadRoom;
    }
    return hadRoom;
  }

  private void putTogether(Regions regions, RegionTask[] done) {
    int old = xyz.length / 3;
    int vertices = old;
    int rim = regions.triangles(regions.count);
    int triangles = rim;
    for (RegionTask t : done) {
      t.newVertex = vertices;
      t.newTriangle = triangles;
      vertices += t.added.length / 3;
      triangles += t.left.length / 3;
    }
    xyz = Arrays.copyOf(xyz, 3 * vertices);
    length = Arrays.copyOf(length, vertices);
    into = Arrays.copyOf(into, vertices);
    for (int v = old; v < vertices; v++) {
      into[v] = v;
    }
    int[] next = new int[3 * triangles];
    byte[] nextLines = lines == null ? null : new byte[triangles];
    for (int i = 0; i < rim; i++) {
      int t = regions.triangles.order()[regions.firstTriangle(regions.count) + i];
      System.arraycopy(tri, 3 * t, next, 3 * i, 3);
      if (lines != null) {
        nextLines[i] = lines[t];
      }
    }
    Parallel.range(
        done.length,
        1,
        Work.unwatched(),
        (a, b) -> {
          for (int r = a; r < b; r++) {
            done[r].keep(next, nextLines);
          }
        });
    tri = next;
    lines = nextLines;
  }

  private Result result() {
    // Numbered as the triangles come: what lies together stands together.
    int[] corners = new int[tri.length];
    int[] map = new int[into.length];
    Arrays.fill(map, -1);
    int n = 0;
    for (int h = 0; h < tri.length; h++) {
      int v = tri[h];
      if (map[v] < 0) {
        map[v] = n++;
      }
      corners[h] = map[v];
    }
    float[] left = new float[3 * n];
    for (int v = 0; v < into.length; v++) {
      if (map[v] >= 0) {
        System.arraycopy(xyz, 3 * v, left, 3 * map[v], 3);
      }
    }
    int[] now = new int[into.length];
    for (int v = 0; v < now.length; v++) {
      int u = v;
      while (into[u] != u) {
        u = into[u];
      }
      now[v] = map[u];
    }
    return new Result(new Mesh(left, corners), now, lines);
  }

  /** One region: taken out of the whole, made even, put back. */
  private final class RegionTask implements RegionRemesh.Trail {
    private final Regions regions;
    private final int first;
    private final int there;
    private final LocalMesh local;
    private final double[] wanted;
    private final double[] origin = new double[3];

    /** Merges in order: what went, and into what, by their numbers here. */
    private int[] merges = new int[1024];

    private int merged;
    private boolean hadRoom;

    /** Places and lengths of what is new, and the triangles that are left, by numbers here. */
    private float[] added = {};

    private float[] addedLength = {};
    private int[] left = {};
    private byte[] leftLines;
    private int newVertex;
    private int newTriangle;

    RegionTask(Regions regions, int region) {
      this.regions = regions;
      first = regions.firstVertex(region);
      there = regions.vertices(region);
      int room = 2 * there + 64;
      double[] p = new double[3 * room];
      wanted = new double[room];
      boolean[] locked = new boolean[room];
      for (int i = 0; i < there; i++) {
        int v = regions.order[first + i];
        for (int k = 0; k < 3; k++) {
          origin[k] = i == 0 ? xyz[3 * v + k] : origin[k];
          p[3 * i + k] = (xyz[3 * v + k] - origin[k]) * unit;
        }
        wanted[i] = Math.abs(length[v]) * unit;
        locked[i] = regions.isLocked(v) || !(length[v] > 0);
      }
      int m = regions.triangles(region);
      int[] org = new int[3 * (2 * m + 128)];
      Arrays.fill(org, 3 * m, org.length, -1);
      boolean[] line = lines == null ? null : new boolean[org.length];
      for (int i = 0; i < m; i++) {
        int t = regions.triangles.order()[regions.firstTriangle(region) + i];
        for (int k = 0; k < 3; k++) {
          org[3 * i + k] = regions.place[tri[3 * t + k]] - first;
          if (line != null) {
            line[3 * i + k] = (lines[t] >> k & 1) != 0;
          }
        }
      }
      local = new LocalMesh(p, org, line, null, locked);
    }

    void run() {
      local.reserve(there);
      hadRoom = new RegionRemesh(local, wanted).run(this);
      for (int i = 0; i < there; i++) {
        if (local.out[i] >= 0 && local.state[i] != LocalMesh.LOCKED) {
          place(i, xyz, 3 * regions.order[first + i]);
          length[regions.order[first + i]] = (float) (wanted[i] / unit);
        }
      }
      int fresh = local.usedVertices() - there;
      added = new float[3 * fresh];
      addedLength = new float[fresh];
      for (int i = 0; i < fresh; i++) {
        place(there + i, added, 3 * i);
        addedLength[i] = (float) (wanted[there + i] / unit);
      }
      left = new int[3 * local.alive()];
      leftLines = lines == null ? null : new byte[local.alive()];
      int n = 0;
      for (int t = 0; t < local.usedTriangles(); t++) {
        if (local.org[3 * t] >= 0) {
          for (int k = 0; k < 3; k++) {
            left[3 * n + k] = local.org[3 * t + k];
            if (lines != null && local.isDrawn(3 * t + k)) {
              leftLines[n] |= (byte) (1 << k);
            }
          }
          n++;
        }
      }
    }

    private void place(int i, float[] to, int at) {
      for (int k = 0; k < 3; k++) {
        to[at + k] = (float) (local.p[3 * i + k] / unit + origin[k]);
      }
    }

    @Override
    public void merging(int v, int w) {
      if (merged + 2 > merges.length) {
        merges = Arrays.copyOf(merges, 2 * merges.length);
      }
      merges[merged++] = w;
      merges[merged++] = v;
    }

    private int global(int i) {
      return i < there ? regions.order[first + i] : newVertex + i - there;
    }

    void keep(int[] next, byte[] nextLines) {
      System.arraycopy(added, 0, xyz, 3 * newVertex, added.length);
      System.arraycopy(addedLength, 0, length, newVertex, addedLength.length);
      for (int i = 0; i < merged; i += 2) {
        into[global(merges[i])] = global(merges[i + 1]);
      }
      for (int c = 0; c < left.length; c++) {
        next[3 * newTriangle + c] = global(left[c]);
      }
      if (nextLines != null) {
        System.arraycopy(leftLines, 0, nextLines, newTriangle, leftLines.length);
      }
    }
  }
}
