package holotome.core.intake;

import holotome.core.geometry.Box;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.SelfIntersections;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Islands;
import holotome.core.topology.Pinches;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.stream.IntStream;

/**
 * What is in a mesh, and what is wrong with it. Lengths are in the mesh's own base units.
 *
 * @param closed no border edge and no edge of more than two triangles
 * @param volume signed; NaN where the mesh is not closed and consistently oriented
 * @param boundaryLoops closed walks along border edges
 * @param duplicateVertices vertices that stand exactly where an earlier one does
 * @param tornEdges border edges that lie exactly on another border edge: doubled points tear the
 *     surface there, welding closes it
 * @param selfIntersections pairs of triangles that cut through each other; -1 where not counted
 */
public record Inspection(
    int triangles,
    int vertices,
    Box bounds,
    double area,
    double volume,
    boolean closed,
    int boundaryLoops,
    long boundaryEdges,
    long nonManifoldEdges,
    int nonManifoldVertices,
    int degenerateTriangles,
    int duplicateTriangles,
    int duplicateVertices,
    int tornEdges,
    int unreferencedVertices,
    int islands,
    long eulerCharacteristic,
    boolean consistentlyOriented,
    long selfIntersections,
    boolean hasColour,
    boolean hasUv) {

  /** Inspects a mesh; self-intersections are counted only when asked for, they cost the most. */
  public static Inspection of(Mesh mesh, boolean withIntersections, Work work) {
    Adjacency adjacency =
        Adjacency.of(mesh, work.part(0.25, CoreWords.of("work.finding-neighbours")));
    Islands islands = Islands.of(adjacency, work.part(0.15, CoreWords.of("work.finding-islands")));
    return of(
        adjacency, islands, withIntersections, work.part(0.6, CoreWords.of("work.inspecting")));
  }

  /** The same where neighbours and islands are known already. */
  public static Inspection of(
      Adjacency adjacency, Islands islands, boolean withIntersections, Work work) {
    Mesh mesh = adjacency.mesh();
    // Half of this is on one core each.
    int[] told = new int[4];
    Work welding = work.part(0.3, CoreWords.of("work.comparing-points"));
    Parallel.range(
        2,
        1,
        Work.unwatched(),
        (from, to) -> {
          for (int i = from; i < to; i++) {
            if (i == 0) {
              int[] first = PointWeld.representatives(mesh.xyz(), welding);
              told[0] = (int) IntStream.range(0, first.length).filter(v -> first[v] != v).count();
              told[1] = Borders.torn(adjacency, first);
            } else {
              told[2] = Borders.of(adjacency).loops().length;
              told[3] = nonManifoldVertices(adjacency);
            }
          }
        });
    int unused = mesh.unused() == null ? 0 : mesh.unused().cardinality();
    work.advance(0.1);
    int degenerate = degenerate(mesh);
    work.advance(0.1);
    boolean closed = adjacency.borderEdges() == 0 && adjacency.crowdedEdges() == 0;
    boolean oriented = adjacency.misfitEdges() == 0;
    long crossings =
        withIntersections
            ? SelfIntersections.count(
                mesh, work.part(0.5, CoreWords.of("common.looking-for-self-intersections")))
            : -1;
    return new Inspection(
        mesh.triangleCount(),
        mesh.vertexCount(),
        mesh.bounds(),
        Measures.area(mesh),
        closed && oriented ? Measures.volume(mesh) : Double.NaN,
        closed,
        told[2],
        adjacency.borderEdges(),
        adjacency.crowdedEdges(),
        told[3],
        degenerate,
        duplicates(adjacency),
        told[0],
        told[1],
        unused,
        islands.count(),
        mesh.vertexCount() - unused - adjacency.edgeCount() + mesh.triangleCount(),
        oriented,
        crossings,
        mesh.hasColour(),
        mesh.uv() != null);
  }

  private static int degenerate(Mesh mesh) {
    int n = 0;
    for (boolean flat : Measures.withoutArea(mesh)) {
      n += flat ? 1 : 0;
    }
    return n;
  }

  /**
   * Triangles with the same three corners as another; all but one of each set. Such a triangle's
   * sides each lie along its double's alone, or are crowded: only those few are compared.
   */
  private static int duplicates(Adjacency adjacency) {
    int[] tri = adjacency.mesh().triangles();
    int[] twin = adjacency.twin();
    long[] keys = new long[64];
    int n = 0;
    for (int t = 0; t < tri.length / 3; t++) {
      if (!mayBeDouble(twin, t)) {
        continue;
      }
      if (n == keys.length) {
        keys = Arrays.copyOf(keys, 2 * n);
      }
      int a = tri[3 * t];
      int b = tri[3 * t + 1];
      int c = tri[3 * t + 2];
      int lo = Math.min(a, Math.min(b, c));
      int hi = Math.max(a, Math.max(b, c));
      // A 64-bit mix of all three corners: equal triangles agree for certain; among ten million
      // others the odds that any two agree by chance are about 1 in 400,000.
      long mid = (long) a + b + c - lo - hi;
      keys[n++] = (lo * 0x9E3779B97F4A7C15L ^ mid) * 0xC2B2AE3D27D4EB4FL ^ hi * 0x165667B19E3779F9L;
    }
    Arrays.sort(keys, 0, n);
    int same = 0;
    for (int i = 1; i < n; i++) {
      same += keys[i] == keys[i - 1] ? 1 : 0;
    }
    return same;
  }

  private static boolean mayBeDouble(int[] twin, int t) {
    int other = -1;
    for (int h = 3 * t; h < 3 * t + 3; h++) {
      if (twin[h] == Adjacency.BORDER) {
        return false;
      }
      if (twin[h] == Adjacency.CROWDED) {
        continue;
      }
      int g = twin[h] >= 0 ? twin[h] : Adjacency.misfit(twin[h]);
      if (other >= 0 && g / 3 != other) {
        return false;
      }
      other = g / 3;
    }
    return true;
  }

  private static int nonManifoldVertices(Adjacency adjacency) {
    int[] n = new int[1];
    Pinches.find(adjacency, v -> n[0]++);
    return n[0];
  }
}
