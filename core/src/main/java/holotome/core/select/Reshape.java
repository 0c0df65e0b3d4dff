package holotome.core.select;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.step.Parameter;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.BitSet;

/** A change of what is selected so far. */
public record Reshape(
    @Parameter(help = "What is done to the selection") How how,
    @Parameter(help = "So many times, or rings", min = 1, max = 1000, preset = "1") int times) {

  /** What is done to the selection. */
  public enum How {
    GROW,
    SHRINK,
    SMOOTH,
    INVERT,
    /** Takes whole islands where a part was selected. */
    ISLANDS,
    /** Takes in what is not selected but enclosed by what is, and smaller. */
    FILL
  }

  public static Reshape of(How how) {
    return new Reshape(how, 1);
  }

  /** Makes the new selection; the old one is left alone. */
  public BitSet apply(BitSet set, Mesh mesh, Work work) {
    return switch (how) {
      case GROW -> Rings.grown(mesh, set, times, work);
      case SHRINK -> shrunk(mesh, set, work);
      case SMOOTH -> smooth(mesh, set, work);
      case INVERT -> {
        BitSet out = (BitSet) set.clone();
        out.flip(0, mesh.triangleCount());
        yield out;
      }
      case ISLANDS -> islands(mesh, set, work);
      case FILL -> filled(mesh, set, work);
    };
  }

  private BitSet shrunk(Mesh mesh, BitSet from, Work work) {
    BitSet set = from;
    int[] tri = mesh.triangles();
    for (int i = 0; i < times; i++) {
      byte[] out =
          Rings.vertices(mesh, set, false, work.part(0.5 / times, CoreWords.of("work.selecting")));
      BitSet was = set;
      set =
          TriangleTest.select(
              mesh,
              work.part(0.5 / times, CoreWords.of("work.selecting")),
              (t, x, y, z) ->
                  was.get(t) && (out[tri[3 * t]] | out[tri[3 * t + 1]] | out[tri[3 * t + 2]]) == 0);
    }
    return set;
  }

  /**
   * Evens the outline out: a triangle is selected where most of the surface around its corners is,
   * counted in triangles. Teeth and specks go, straight runs stay where they are.
   */
  private BitSet smooth(Mesh mesh, BitSet from, Work work) {
    BitSet set = from;
    int[] tri = mesh.triangles();
    int n = mesh.triangleCount();
    int[] all = new int[mesh.vertexCount()];
    for (int c : tri) {
      all[c]++;
    }
    int[] in = new int[all.length];
    for (int i = 0; i < times; i++) {
      java.util.Arrays.fill(in, 0);
      for (int t = set.nextSetBit(0); t >= 0 && t < n; t = set.nextSetBit(t + 1)) {
        in[tri[3 * t]]++;
        in[tri[3 * t + 1]]++;
        in[tri[3 * t + 2]]++;
      }
      BitSet was = set;
      set =
          TriangleTest.select(
              mesh,
              work.part(1.0 / times, CoreWords.of("work.selecting")),
              (t, x, y, z) -> {
                double share = 0;
                for (int k = 0; k < 3; k++) {
                  int v = tri[3 * t + k];
                  share += (double) in[v] / all[v];
                }
                // Just half is no reason to change sides.
                return share > 1.5 + 1e-9 || share > 1.5 - 1e-9 && was.get(t);
              });
    }
    return set;
  }

  private static BitSet islands(Mesh mesh, BitSet set, Work work) {
    Islands islands = Islands.of(mesh, work.part(0.7, CoreWords.of("work.finding-islands")));
    int[] of = islands.ofTriangle();
    boolean[] touched = new boolean[islands.count()];
    for (int t = set.nextSetBit(0); t >= 0; t = set.nextSetBit(t + 1)) {
      touched[of[t]] = true;
    }
    return TriangleTest.select(
        mesh, work.part(0.3, CoreWords.of("work.selecting")), (t, x, y, z) -> touched[of[t]]);
  }

  /**
   * What is not selected falls into parts. A part that touches the selection and is smaller than
   * what is selected on its island is a gap, unless it is that island's largest such part.
   */
  private static BitSet filled(Mesh mesh, BitSet set, Work work) {
    Mesh rest =
        Submesh.of(mesh, t -> !set.get(t), work.part(0.2, CoreWords.of("work.finding-gaps")));
    Islands parts = Islands.of(rest, work.part(0.3, CoreWords.of("work.finding-gaps")));
    Islands whole = Islands.of(mesh, work.part(0.3, CoreWords.of("work.finding-gaps")));
    byte[] selected =
        Rings.vertices(mesh, set, true, work.part(0.1, CoreWords.of("work.finding-gaps")));
    int[] tri = mesh.triangles();
    int n = mesh.triangleCount();
    int[] islandOf = new int[parts.count()];
    boolean[] touches = new boolean[parts.count()];
    int[] chosen = new int[whole.count()];
    int at = 0;
    for (int t = 0; t < n; t++) {
      if (set.get(t)) {
        chosen[whole.ofTriangle()[t]]++;
        continue;
      }
      int part = parts.ofTriangle()[at++];
      islandOf[part] = whole.ofTriangle()[t];
      touches[part] |=
          (selected[tri[3 * t]] | selected[tri[3 * t + 1]] | selected[tri[3 * t + 2]]) != 0;
    }
    boolean[] met = new boolean[whole.count()];
    boolean[] gap = new boolean[parts.count()];
    // Parts come largest first: the first of each island is the surroundings, no gap.
    for (int i = 0; i < gap.length; i++) {
      int island = islandOf[i];
      gap[i] = met[island] && touches[i] && parts.sizes()[i] < chosen[island];
      met[island] = true;
    }
    BitSet out = (BitSet) set.clone();
    at = 0;
    for (int t = set.nextClearBit(0); t < n; t = set.nextClearBit(t + 1)) {
      if (gap[parts.ofTriangle()[at++]]) {
        out.set(t);
      }
    }
    work.advance(0.1);
    return out;
  }
}
