package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.function.Consumer;

/**
 * Closed islands inside out, and islands that are shut in; with what it takes to tell the same
 * after a small change from what changed alone.
 *
 * @param islands of the mesh
 * @param open per island how many half-edges have no regular neighbour
 * @param volume per island about {@code origin}; true only where it is closed
 * @param seen per island its first triangle
 * @param shut which islands are shut in
 */
record IslandFaults(
    Islands islands, int[] open, double[] volume, double[] origin, int[] seen, ShutIn shut) {

  static IslandFaults of(Mesh mesh, Adjacency adjacency, Islands islands, Work work) {
    ShutIn shut = ShutIn.of(mesh, islands, work);
    int[] of = islands.ofTriangle();
    int[] seen = new int[islands.count()];
    Arrays.fill(seen, -1);
    for (int t = 0; t < of.length; t++) {
      seen[of[t]] = seen[of[t]] < 0 ? t : seen[of[t]];
    }
    double[] origin = mesh.isEmpty() ? new double[3] : Vec.at(mesh.xyz(), mesh.triangles()[0]);
    IslandFaults f =
        new IslandFaults(
            islands, new int[islands.count()], new double[islands.count()], origin, seen, shut);
    f.add(mesh, adjacency, of, 1);
    return f;
  }

  /**
   * Adds open half-edges and volumes of triangles.
   *
   * @param of the island of each; -1 to leave it out
   * @param times how often each counts
   */
  private void add(Mesh mesh, Adjacency adjacency, int[] of, int times) {
    int[] tri = mesh.triangles();
    float[] p = mesh.xyz();
    double x = origin[0];
    double y = origin[1];
    double z = origin[2];
    for (int t = 0; t < of.length; t++) {
      int i = of[t];
      if (i < 0) {
        continue;
      }
      for (int h = 3 * t; h < 3 * t + 3; h++) {
        open[i] += adjacency.twin()[h] < 0 ? times : 0;
      }
      int a = 3 * tri[3 * t];
      int b = 3 * tri[3 * t + 1];
      int c = 3 * tri[3 * t + 2];
      double ax = p[a] - x;
      double ay = p[a + 1] - y;
      double az = p[a + 2] - z;
      double bx = p[b] - x;
      double by = p[b + 1] - y;
      double bz = p[b + 2] - z;
      double cx = p[c] - x;
      double cy = p[c + 1] - y;
      double cz = p[c + 2] - z;
      volume[i] +=
          times
              * (ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx))
              / 6;
    }
  }

  void tell(Mesh mesh, Consumer<Fault> found) {
    boolean[] inside = shut.islands();
    Fault.Gathered turned = new Fault.Gathered();
    Fault.Gathered shells = new Fault.Gathered();
    for (int i = 0; i < islands.count(); i++) {
      if (inside[i]) {
        shells.addTriangle(mesh, seen[i], islands.sizes()[i]);
      } else if (open[i] == 0 && volume[i] < 0) {
        turned.addTriangle(mesh, seen[i], islands.sizes()[i]);
      }
    }
    found.accept(turned.done(Fault.Kind.INSIDE_OUT));
    found.accept(shells.done(Fault.Kind.SHELLS));
  }

  /**
   * After a small change.
   *
   * @param was neighbours in the region before
   * @param now neighbours in the region after
   * @return null where islands may have come apart or together: then all is to be looked at
   */
  IslandFaults after(Mesh mesh, ChangedRegion region, Adjacency was, Adjacency now, Work work) {
    IslandChange change = IslandChange.of(islands, seen, mesh, region);
    if (change == null) {
      return null;
    }
    ShutIn lines =
        shut.after(
            mesh,
            region,
            change.before(),
            change.after(),
            change.rank(),
            change.islands().count(),
            work.part(0.2, CoreWords.of("work.finding-shells")));
    if (lines == null) {
      lines = ShutIn.of(mesh, change.islands(), work.part(0.8, work.label()));
    }
    int n = change.islands().count();
    int[] edges = new int[n];
    double[] volumes = new double[n];
    for (int i = 0; i < islands.count(); i++) {
      if (change.rank()[i] >= 0) {
        edges[change.rank()[i]] = open[i];
        volumes[change.rank()[i]] = volume[i];
      }
    }
    IslandFaults f =
        new IslandFaults(change.islands(), edges, volumes, origin, change.seen(), lines);
    int[] ranked = Arrays.stream(change.before()).map(i -> change.rank()[i]).toArray();
    f.add(region.before().mesh(), was, ranked, -1);
    f.add(region.after().mesh(), now, change.after(), 1);
    return f;
  }
}
