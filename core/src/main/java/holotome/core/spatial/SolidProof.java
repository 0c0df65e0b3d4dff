package holotome.core.spatial;

import holotome.core.geometry.Vec;
import holotome.core.mesh.InRange;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Islands;
import holotome.core.topology.VertexFans;
import holotome.core.words.CoreWords;

/**
 * Whether a mesh bounds a solid, asked independently of how it was made: every edge between exactly
 * two triangles that run it in opposite directions, one fan of triangles at every vertex, no
 * triangle without area, no two triangles that meet elsewhere than in what they share, and material
 * behind every triangle and none before it.
 *
 * <p>The last is asked of the winding number just before and behind the largest triangle of each
 * island; where all else holds it is the same for the island's others. O(T log T), some 180 bytes a
 * triangle.
 *
 * @param islands pieces that the surface is in, hollows' inner surfaces among them
 * @param turned of these, how many have their material on the wrong side
 * @param volume in base units, where all holds
 */
public record SolidProof(
    long openEdges,
    long crowdedEdges,
    long disagreeingEdges,
    int pinchedPoints,
    int flatTriangles,
    long crossings,
    int islands,
    int turned,
    double volume) {

  public static SolidProof of(Mesh mesh, Work work) {
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.2, CoreWords.of("work.finding-neighbours")));
    int pinched = pinched(mesh, adjacency, work.part(0.1, CoreWords.of("work.proving")));
    int flat = flat(mesh);
    long crossings =
        SelfIntersections.count(
            mesh, work.part(0.4, CoreWords.of("common.looking-for-self-intersections")));
    Islands islands = Islands.of(mesh, work.part(0.1, CoreWords.of("work.finding-islands")));
    boolean whole =
        adjacency.borderEdges() == 0
            && adjacency.crowdedEdges() == 0
            && adjacency.misfitEdges() == 0
            && pinched == 0
            && flat == 0
            && crossings == 0;
    int turned = whole ? turned(mesh, islands, work.part(0.2, CoreWords.of("work.proving"))) : 0;
    return new SolidProof(
        adjacency.borderEdges(),
        adjacency.crowdedEdges(),
        adjacency.misfitEdges(),
        pinched,
        flat,
        crossings,
        islands.count(),
        turned,
        whole ? Measures.volume(mesh) : Double.NaN);
  }

  public boolean holds() {
    return openEdges == 0
        && crowdedEdges == 0
        && disagreeingEdges == 0
        && pinchedPoints == 0
        && flatTriangles == 0
        && crossings == 0
        && islands > 0
        && turned == 0;
  }

  /** What is against it, in words; what the first of them is. */
  public String problem() {
    if (openEdges > 0) {
      return CoreWords.count("solid-proof.open", openEdges);
    }
    if (crowdedEdges > 0 || pinchedPoints > 0) {
      return CoreWords.of("solid-proof.crowded", crowdedEdges, pinchedPoints);
    }
    if (disagreeingEdges > 0 || turned > 0) {
      return CoreWords.of("solid-proof.turned", disagreeingEdges, turned);
    }
    if (flatTriangles > 0) {
      return CoreWords.count("solid-proof.flat", flatTriangles);
    }
    return crossings > 0
        ? CoreWords.count("solid-proof.crossings", crossings)
        : CoreWords.of("solid-proof.empty");
  }

  /** Vertices whose triangles are not one closed or open fan: walked by edges, fan by fan. */
  private static int pinched(Mesh mesh, Adjacency adjacency, Work work) {
    int[] tri = mesh.triangles();
    VertexFans fans = VertexFans.of(mesh.vertexCount(), tri, work);
    int[] twin = adjacency.twin();
    int n = 0;
    for (int v = 0; v < mesh.vertexCount(); v++) {
      int count = fans.count(v);
      if (count > 0 && walked(tri, twin, v, fans.triangles()[fans.start()[v]]) < count) {
        n++;
      }
    }
    return n;
  }

  /** How many triangles are met going round a vertex from one of its triangles, both ways. */
  private static int walked(int[] tri, int[] twin, int v, int triangle) {
    int out = 3 * triangle;
    while (tri[out] != v) {
      out++;
    }
    int met = 1;
    int h = out;
    // Over the edge that comes in, round against the clock, until back or at a border.
    while (true) {
      int g = twin[Adjacency.previous(h)];
      if (g < 0) {
        break;
      }
      h = g;
      if (h == out) {
        return met;
      }
      met++;
    }
    h = out;
    while (true) {
      int g = twin[h];
      if (g < 0) {
        return met;
      }
      h = Adjacency.next(g);
      met++;
    }
  }

  private static int flat(Mesh mesh) {
    TriangleOverlap overlap = new TriangleOverlap(mesh.xyz(), mesh.triangles());
    int n = 0;
    for (int t = 0; t < mesh.triangleCount(); t++) {
      n += overlap.isFlat(t) ? 1 : 0;
    }
    return n;
  }

  private static int turned(Mesh any, Islands islands, Work work) {
    Mesh mesh = InRange.of(any).mesh();
    int[] largest = new int[islands.count()];
    double[] most = new double[islands.count()];
    double[] n = new double[3];
    for (int t = 0; t < mesh.triangleCount(); t++) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
      double area = Vec.length(n);
      int i = islands.ofTriangle()[t];
      if (area > most[i]) {
        most[i] = area;
        largest[i] = t;
      }
    }
    WindingNumber.Query winding =
        WindingNumber.of(Bvh.of(mesh, work.part(1, CoreWords.of("work.proving")))).query();
    int turned = 0;
    for (int t : largest) {
      Measures.cross(mesh.xyz(), mesh.triangles(), t, n);
      double[] middle = new double[3];
      for (int c = 3 * t; c < 3 * t + 3; c++) {
        for (int k = 0; k < 3; k++) {
          middle[k] += mesh.xyz()[3 * mesh.triangles()[c] + k] / 3.0;
        }
      }
      // A hair off the triangle: what is nearer than that to another would cross it elsewhere.
      double off = 1e-4 / Math.sqrt(Vec.length(n));
      double before = at(winding, middle, n, off);
      double behind = at(winding, middle, n, -off);
      turned += Math.abs(before) < 0.25 && Math.abs(behind - 1) < 0.25 ? 0 : 1;
    }
    return turned;
  }

  private static double at(WindingNumber.Query w, double[] p, double[] n, double by) {
    return w.at(p[0] + by * n[0], p[1] + by * n[1], p[2] + by * n[2]);
  }
}
