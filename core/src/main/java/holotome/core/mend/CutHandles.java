package holotome.core.mend;

import holotome.core.attribute.Blends;
import holotome.core.attribute.Provenance;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Handles;
import holotome.core.topology.VertexFans;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Set;

/**
 * Takes small handles and tunnels away, which reconstruction leaves where surfaces come near each
 * other: cut along a shortest loop and closed on both sides (after Guskov and Wood, "Topological
 * noise removal", 2001).
 */
@Describes(
    id = "mend.handles",
    title = "Handles",
    help =
        "Cuts small handles and tunnels and closes the cuts, as reconstruction leaves them where surfaces come near each other.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record CutHandles(
    @Parameter(
            help =
                "Those with a loop around them no longer than this; where left out, a twentieth of the diagonal",
            min = 0,
            optional = true)
        Length girth)
    implements Step {
  /** The longest loop, of the diagonal. */
  static final double SHARE = 0.05;

  private static final int ROUNDS = 12;

  @Override
  public Set<Part<?>> reads() {
    return girth == null ? Set.of(Part.SCAN) : Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public long memory(Workpiece in) {
    return 130L * in.scan().triangleCount();
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh mesh = in.scan();
    Work work = run.work();
    double longest =
        girth == null ? SHARE * mesh.bounds().diagonal() : in.frame().toBaseLength(girth.metres());
    int first = -1;
    int left = 0;
    for (int round = 0; round < ROUNDS; round++) {
      Work part = work.part(round == 0 ? 0.45 : 0.05, CoreWords.of("work.finding-handles"));
      Adjacency adjacency = Adjacency.of(mesh, part.part(0.4, part.label()));
      Handles handles = Handles.of(adjacency, longest, part.part(0.5, part.label()));
      first = first < 0 ? handles.genus() : first;
      left = handles.genus();
      int[][] apart = apart(mesh, adjacency, handles, part);
      if (apart.length == 0) {
        break;
      }
      BitSet rim = new BitSet();
      Arrays.stream(apart).flatMapToInt(Arrays::stream).forEach(rim::set);
      Mesh cut = cut(mesh, adjacency, apart);
      rim.set(mesh.vertexCount(), cut.vertexCount());
      mesh = new Opening(cut, rim).closed(1, part.part(0.1, CoreWords.of("work.filling-holes")));
    }
    if (first == left) {
      return Outcome.of(in, CoreWords.of("cut-handles.none", first));
    }
    return new Outcome(
        in.withScan(mesh),
        List.of(CoreWords.of("cut-handles.cut", first - left, left)),
        null,
        first - left);
  }

  /** Loops that have nothing to do with each other, clear of borders. */
  private static int[][] apart(Mesh mesh, Adjacency adjacency, Handles handles, Work work) {
    BitSet taken = new BitSet(mesh.vertexCount());
    int[] tri = mesh.triangles();
    for (int h = 0; h < tri.length; h++) {
      if (adjacency.twin()[h] < 0) {
        taken.set(tri[h]);
        taken.set(tri[Adjacency.next(h)]);
      }
    }
    List<int[]> out = new ArrayList<>();
    if (handles.loops().length == 0) {
      return new int[0][];
    }
    VertexFans fans = VertexFans.of(mesh, work);
    for (int[] loop : handles.loops()) {
      if (Arrays.stream(loop).noneMatch(taken::get)) {
        out.add(loop);
        // The next loop stays a triangle away.
        taken.or(fans.near(loop, 1, tri));
      }
    }
    return out.toArray(int[][]::new);
  }

  /** Parts the mesh along loops: what lies to the left has vertices of its own. */
  private static Mesh cut(Mesh mesh, Adjacency adjacency, int[][] loops) {
    int[] tri = mesh.triangles().clone();
    int[] twin = adjacency.twin();
    int extra = Arrays.stream(loops).mapToInt(l -> l.length).sum();
    int[] copies = new int[extra];
    int n = 0;
    int[] outOf = new int[mesh.vertexCount()];
    BitSet on = new BitSet();
    for (int[] loop : loops) {
      Arrays.stream(loop).forEach(on::set);
    }
    for (int h = 0; h < tri.length; h++) {
      if (on.get(mesh.triangles()[h])) {
        outOf[mesh.triangles()[h]] = h;
      }
    }
    for (int[] loop : loops) {
      for (int i = 0; i < loop.length; i++) {
        int v = loop[i];
        int next = loop[(i + 1) % loop.length];
        int previous = loop[(i + loop.length - 1) % loop.length];
        int h = outOf[v];
        while (mesh.triangles()[Adjacency.next(h)] != next) {
          h = twin[Adjacency.previous(h)];
        }
        // Round from the edge ahead to the edge behind: what is met lies to the left.
        do {
          tri[h] = mesh.vertexCount() + n;
          h = twin[Adjacency.previous(h)];
        } while (mesh.triangles()[Adjacency.next(h)] != previous);
        copies[n++] = v;
      }
    }
    Provenance p =
        Provenance.of(mesh.vertexCount(), mesh.triangleCount())
            .added(Blends.copies(mesh.vertexCount(), copies, extra))
            .build();
    return mesh.derive(p, null, tri, Work.unwatched());
  }
}
