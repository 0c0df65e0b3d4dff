package holotome.core.spatial;

import holotome.core.attribute.Provenance;
import holotome.core.geometry.Vec;
import holotome.core.mesh.InRange;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * Turns islands inside out whose insides look outwards: rays leave samples of each island to both
 * sides, and the side from which more of them meet nothing is the outside (after Takayama,
 * Jacobson, Kavan and Sorkine-Hornung, "A simple method for correcting facet orientations in
 * polygon meshes based on ray-casting", 2014). Islands that are shut in on both sides, such as the
 * wall of a hollow, stay as they are.
 *
 * <p>Triangles of an island must agree with each other already. O(T log T), 90 bytes a triangle.
 */
public final class Outward {
  /** Places of an island that are asked. */
  private static final int SAMPLES = 24;

  /** Directions from each place to each side. */
  private static final int RAYS = 3;

  private final Mesh mesh;
  private final Bvh bvh;

  private Outward(Mesh mesh, Bvh bvh) {
    this.mesh = mesh;
    this.bvh = bvh;
  }

  /** Turns what looks inwards, and adds how much that was to the notes. */
  public static Mesh turn(Mesh mesh, List<String> notes, Work work) {
    Mesh near = InRange.of(mesh).mesh();
    Bvh bvh = Bvh.of(near, work.part(0.5, CoreWords.of("work.indexing-the-surface")));
    return turn(mesh, near, bvh, notes, work.part(0.5, CoreWords.of("work.turning-over")));
  }

  /**
   * The same with an index at hand.
   *
   * @param bvh of the mesh's triangles, whichever way they are turned; squares and cubes of its
   *     lengths are within the range of floats
   */
  public static Mesh turn(Mesh mesh, Bvh bvh, List<String> notes, Work work) {
    return turn(mesh, mesh, bvh, notes, work);
  }

  private static Mesh turn(Mesh mesh, Mesh near, Bvh bvh, List<String> notes, Work work) {
    Islands islands = Islands.of(mesh, work.part(0.4, CoreWords.of("work.finding-islands")));
    boolean[] wrong = new Outward(near, bvh).wrong(islands);
    work.advance(0.4);
    int turned = 0;
    for (boolean w : wrong) {
      turned += w ? 1 : 0;
    }
    if (turned == 0) {
      return mesh;
    }
    notes.add(CoreWords.count("outward.turned", turned));
    BitSet over = new BitSet(mesh.triangleCount());
    for (int t = 0; t < mesh.triangleCount(); t++) {
      over.set(t, wrong[islands.ofTriangle()[t]]);
    }
    return turned(mesh, over, work.part(0.2, CoreWords.of("work.turning-over")));
  }

  /** Turns triangles over. */
  public static Mesh turned(Mesh mesh, BitSet over, Work work) {
    int[] tri = mesh.triangles().clone();
    for (int t = over.nextSetBit(0); t >= 0; t = over.nextSetBit(t + 1)) {
      int s = tri[3 * t + 1];
      tri[3 * t + 1] = tri[3 * t + 2];
      tri[3 * t + 2] = s;
    }
    Provenance p = Provenance.of(mesh.vertexCount(), tri.length / 3).turned(over).build();
    return mesh.derive(p, new float[0], tri, work);
  }

  private boolean[] wrong(Islands islands) {
    int[][] samples = samples(islands);
    boolean[] wrong = new boolean[islands.count()];
    Parallel.range(
        islands.count(),
        16,
        Work.unwatched(),
        (from, to) -> {
          BvhQuery query = new BvhQuery(bvh);
          for (int i = from; i < to; i++) {
            int free = 0;
            for (int t : samples[i]) {
              free += free(query, t, 1) - free(query, t, -1);
            }
            wrong[i] = free < 0;
          }
        });
    return wrong;
  }

  /** For each island triangles spread evenly over its area. */
  private int[][] samples(Islands islands) {
    double[] area = new double[islands.count()];
    double[] n = new double[3];
    int[] of = islands.ofTriangle();
    for (int t = 0; t < of.length; t++) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
      area[of[t]] += Vec.length(n);
    }
    int[][] out = new int[islands.count()][];
    for (int i = 0; i < out.length; i++) {
      out[i] = new int[Math.min(SAMPLES, islands.sizes()[i])];
    }
    double[] passed = new double[islands.count()];
    int[] taken = new int[islands.count()];
    int[] left = islands.sizes().clone();
    for (int t = 0; t < of.length; t++) {
      int i = of[t];
      Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
      passed[i] += Vec.length(n);
      int wanted = out[i].length - taken[i];
      boolean isDue = passed[i] >= area[i] * (taken[i] + 0.5) / out[i].length;
      if (wanted > 0 && (isDue || left[i] <= wanted)) {
        out[i][taken[i]++] = t;
      }
      left[i]--;
    }
    for (int i = 0; i < out.length; i++) {
      out[i] = Arrays.copyOf(out[i], taken[i]);
    }
    return out;
  }

  /** How many rays to one side of a triangle meet nothing. */
  private int free(BvhQuery query, int t, int side) {
    double[] n = new double[3];
    Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
    double twice = Vec.length(n);
    if (!(twice > 0)) {
      return 0;
    }
    double[] up = Vec.mul(n, side / twice);
    double[] u = Vec.perpendicular(up);
    double[] v = Vec.cross(up, u);
    double[] p = new double[3];
    for (int c = 3 * t; c < 3 * t + 3; c++) {
      for (int k = 0; k < 3; k++) {
        p[k] += mesh.xyz()[3 * mesh.triangles()[c] + k] / 3.0;
      }
    }
    float start = (float) (1e-3 * Math.sqrt(twice));
    int free = 0;
    for (int r = 0; r < RAYS; r++) {
      // The first straight up, the others leaning, each island's samples another way.
      double lean = r == 0 ? 0 : 0.6;
      double turn = 2.399963 * (t % 1024 + r);
      double[] d =
          Vec.unit(
              Vec.add(
                  up,
                  Vec.add(Vec.mul(u, lean * Math.cos(turn)), Vec.mul(v, lean * Math.sin(turn)))));
      boolean hit =
          query.isBlocked(
              (float) p[0],
              (float) p[1],
              (float) p[2],
              (float) d[0],
              (float) d[1],
              (float) d[2],
              start,
              Float.MAX_VALUE,
              BvhQuery.Facing.ANY);
      free += hit ? 0 : 1;
    }
    return free;
  }
}
