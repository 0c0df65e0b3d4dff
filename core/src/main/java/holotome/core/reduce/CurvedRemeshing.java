package holotome.core.reduce;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.Nearness;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.words.CoreWords;

/**
 * Triangles of even shape that are smaller where the surface is more curved ({@link
 * CurvatureLengths}): the mesh is made even once with small triangles to tell the curvature at that
 * scale, past its noise, then with the lengths that follow ({@link Remeshing}).
 */
final class CurvedRemeshing {
  /** The smallest edges are so much shorter than even ones of the same number would be. */
  private static final double FINER = 0.4;

  private static final double LONGER = 4;

  /** What is too far off is done anew with edges so much shorter there. */
  private static final float SHORTER = 0.6f;

  private static final float LITTLE_SHORTER = 0.94f;

  /** Where more than one in so many vertices is too far off all edges get shorter. */
  private static final int MANY = 20;

  /** From this try on places that are too far off stay as they are. */
  private static final int HELD_FROM = 3;

  private static final int RINGS = 3;

  private static final int MOST_TRIES = 24;

  private final Mesh mesh;
  private final Remeshing.Result small;
  private final CurvatureLengths curved;
  private final byte[] lines;

  private CurvedRemeshing(Mesh mesh, byte[] lines, double finest, double longest, Work work) {
    this.mesh = mesh;
    this.lines = lines;
    small = Remeshing.even(mesh, finest, lines, work.part(0.8, CoreWords.of("work.evening")));
    curved =
        new CurvatureLengths(
            small.mesh(),
            small.lines(),
            finest,
            longest,
            work.part(0.2, CoreWords.of("work.evening")));
  }

  /** About so many triangles, as near to the surface everywhere as they can be. */
  static Mesh byCount(Mesh mesh, int triangles, byte[] lines, Work work) {
    double even = Remeshing.lengthFor(mesh, triangles);
    CurvedRemeshing c =
        new CurvedRemeshing(
            mesh, lines, FINER * even, LONGER * even, work.part(0.5, CoreWords.of("work.evening")));
    return c.remeshed(
            c.curved.forCount(triangles),
            new boolean[mesh.vertexCount()],
            work.part(0.5, CoreWords.of("work.evening")))
        .mesh();
  }

  private Remeshing.Result remeshed(float[] lengths, boolean[] held, Work work) {
    float[] each = new float[mesh.vertexCount()];
    for (int v = 0; v < each.length; v++) {
      int u = small.root()[v];
      float l = lengths[Math.max(0, u)];
      each[v] = u < 0 || held[v] ? -l : l;
    }
    return Remeshing.run(mesh, Remeshing.untouched(mesh, lines), each, work);
  }

  /**
   * No point of either surface farther from the other than a tolerance, which is proved.
   *
   * <p>Places that stay too far off with shorter edges are left as they are in the end.
   */
  static Mesh within(Mesh mesh, double tolerance, byte[] lines, Work work) {
    double mean = Remeshing.lengthFor(mesh, mesh.triangleCount());
    double finest = Math.max(mean, 2 * tolerance);
    double longest = Math.max(finest, mesh.bounds().diagonal() / 20);
    CurvedRemeshing c =
        new CurvedRemeshing(
            mesh, lines, finest, longest, work.part(0.2, CoreWords.of("work.evening")));
    return c.proved(tolerance, mean, work.part(0.8, CoreWords.of("work.evening")));
  }

  private Mesh proved(double tolerance, double mean, Work work) {
    Bvh full = Bvh.of(mesh, work.part(0.05, CoreWords.of("work.indexing-the-surface")));
    double left = 0.95;
    float[] lengths = curved.within(tolerance);
    boolean[] held = new boolean[mesh.vertexCount()];
    float shortest = (float) mean;
    for (int i = 0; i < MOST_TRIES; i++) {
      Work part = work.part(left / 3, CoreWords.of("work.evening"));
      left -= left / 3;
      Remeshing.Result light =
          remeshed(lengths, held, part.part(0.5, CoreWords.of("work.evening")));
      boolean[] far =
          far(light, full, tolerance, part.part(0.5, CoreWords.of("work.proving-the-tolerance")));
      int many = 0;
      for (boolean f : far) {
        many += f ? 1 : 0;
      }
      if (many == 0) {
        work.advance(left);
        return light.mesh();
      }
      boolean isEverywhere = many > far.length / MANY + 1;
      // What is kept gets wider with each try, or it would wander.
      for (int ring = 0; ring <= (i - HELD_FROM) / RINGS && i >= HELD_FROM; ring++) {
        widen(far, light.mesh().triangles());
      }
      float[] next = lengths.clone();
      for (int v = 0; v < mesh.vertexCount(); v++) {
        int u = small.root()[v];
        int r = light.root()[v];
        if (u >= 0 && (isEverywhere || r >= 0 && far[r])) {
          next[u] = SHORTER * lengths[u];
        }
        held[v] |= i >= HELD_FROM && r >= 0 && far[r];
      }
      // A little less everywhere: what is done anew comes out differently elsewhere too.
      float all = i < HELD_FROM ? LITTLE_SHORTER : 1;
      for (int u = 0; u < next.length; u++) {
        next[u] = Math.max(shortest, Math.min(next[u], all * lengths[u]));
      }
      lengths = curved.graded(next);
    }
    return mesh;
  }

  private static void widen(boolean[] marked, int[] tri) {
    boolean[] before = marked.clone();
    for (int h = 0; h < tri.length; h++) {
      marked[tri[Adjacency.next(h)]] |= before[tri[h]];
      marked[tri[Adjacency.previous(h)]] |= before[tri[h]];
    }
  }

  /** The vertices where something is too far off, or not shown to be near. */
  private boolean[] far(Remeshing.Result light, Bvh full, double tolerance, Work work) {
    Mesh m = light.mesh();
    Bvh bvh = Bvh.of(m, work.part(0.1, CoreWords.of("work.indexing-the-surface")));
    String proving = CoreWords.of("work.proving-the-tolerance");
    boolean[] out = new boolean[m.vertexCount()];
    mark(light, Nearness.seenFar(mesh, m, bvh, tolerance, false, work.part(0.1, proving)), out);
    mark(m, Nearness.seenFar(m, mesh, full, tolerance, true, work.part(0.1, proving)), out);
    for (boolean o : out) {
      if (o) {
        return out;
      }
    }
    mark(light, Nearness.notShown(mesh, m, bvh, tolerance, work.part(0.4, proving)), out);
    mark(m, Nearness.notShown(m, mesh, full, tolerance, work.part(0.3, proving)), out);
    return out;
  }

  private void mark(Remeshing.Result light, boolean[] farFull, boolean[] out) {
    for (int h = 0; h < mesh.triangles().length; h++) {
      int v = farFull[h / 3] ? light.root()[mesh.triangles()[h]] : -1;
      if (v >= 0) {
        out[v] = true;
      }
    }
  }

  private static void mark(Mesh m, boolean[] far, boolean[] out) {
    for (int h = 0; h < m.triangles().length; h++) {
      if (far[h / 3]) {
        out[m.triangles()[h]] = true;
      }
    }
  }
}
