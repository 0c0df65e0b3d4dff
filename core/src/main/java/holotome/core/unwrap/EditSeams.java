package holotome.core.unwrap;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;

/**
 * Cuts and sews seams by hand, one edit after the other, and lays the charts flat that they touch.
 * A Cast without charts begins with one for all that hangs together.
 */
@Describes(
    id = "unwrap.seams",
    title = "Seams",
    help =
        "Cuts charts by hand along edges, and sews them together again; what is touched is laid flat anew where it lay, all else stays.",
    reads = {"cast", "frame"},
    writes = {"cast", "maps"})
public record EditSeams(
    @Parameter(help = "What is done, one edit after the other") List<SeamEdit> edits)
    implements Step {
  /** What must be cut further is, to this stretch. */
  private static final double MOST = 1.5;

  public EditSeams {
    if (edits == null || edits.isEmpty()) {
      throw Failure.usage(CoreWords.of("edit-mesh.no-edits"));
    }
    edits = List.copyOf(edits);
  }

  /** The same and one more. */
  public EditSeams with(SeamEdit more) {
    List<SeamEdit> all = new ArrayList<>(edits);
    all.add(more);
    return new EditSeams(all);
  }

  /**
   * The edges that an edit would cut or sew.
   *
   * @param ends two each, x, y, z in the mesh's own coordinates
   * @param flat where they lie in the texture, two ends each, u, v: on either side, those of an
   *     edge one after the other; none without texture coordinates
   */
  public record Meant(double[] ends, double[] flat) {}

  /**
   * What an edit would cut or sew, to be looked at before.
   *
   * @throws Failure where it means none
   */
  public static Meant meant(Workpiece in, SeamEdit edit, Work work) {
    Mesh cast = in.cast();
    SeamMaker maker = new SeamMaker(cast, in.frame(), work);
    int[] edges = maker.edges(edit);
    double[] flat = new double[cast.uv() == null ? 0 : 8 * edges.length];
    double[] out = new double[6 * edges.length];
    for (int i = 0; i < edges.length; i++) {
      int h = edges[i];
      int[] ends = {cast.triangles()[h], cast.triangles()[h % 3 == 2 ? h - 2 : h + 1]};
      for (int k = 0; k < 6; k++) {
        out[6 * i + k] = cast.xyz()[3 * ends[k / 3] + k % 3];
      }
      for (int side = 0; side < 2 && flat.length > 0; side++) {
        int g = side == 0 ? h : maker.ground().twin()[h];
        put(cast, g, flat, 8 * i + 4 * side);
        put(cast, g % 3 == 2 ? g - 2 : g + 1, flat, 8 * i + 4 * side + 2);
      }
    }
    return new Meant(out, flat);
  }

  private static void put(Mesh mesh, int corner, double[] into, int at) {
    into[at] = mesh.uv().coords()[2 * mesh.uv().corners()[corner]];
    into[at + 1] = mesh.uv().coords()[2 * mesh.uv().corners()[corner] + 1];
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh cast = CastAtHand.of(in);
    Work work = run.work();
    SeamMaker maker =
        new SeamMaker(cast, in.frame(), work.part(0.2, CoreWords.of("work.finding-charts")));
    int[] before = cast.uv() == null ? null : maker.map().charts();
    List<String> notes = new ArrayList<>();
    int cut = 0;
    int sewn = 0;
    int done = 0;
    for (int i = 0; i < edits.size(); i++) {
      work.check();
      int n = maker.make(edits.get(i));
      cut += edits.get(i).isCut() ? n : 0;
      sewn += edits.get(i).isCut() ? 0 : n;
      done += n > 0 ? 1 : 0;
      if (n == 0) {
        notes.add(CoreWords.of("seams.left-out", i + 1));
      }
    }
    if (done == 0) {
      throw Failure.cannot(notes.getFirst());
    }
    SeamCharts charts = new SeamCharts(maker.ground(), maker.map());
    PieceFlattening parting =
        sewn > 0 ? null : new PieceFlattening(maker.ground(), maker.map().charts(), MOST);
    Laying laying = new SettledLaying(maker.map().touched(), parting);
    Uv uv = charts.laid(before, laying, work.part(0.6, CoreWords.of("work.flattening-charts")));
    Mesh out = charts.apart().withUv(uv);
    if (before == null) {
      out = PackCharts.first(out, work);
    }
    List<String> all = new ArrayList<>();
    if (cut > 0) {
      all.add(CoreWords.count("seams.cut", cut));
    }
    if (sewn > 0) {
      all.add(CoreWords.count("seams.sewn", sewn));
    }
    all.add(CoreWords.count("seams.laid", charts.laid(), Stretch.of(out).mean()));
    if (charts.parted() > 0) {
      all.add(CoreWords.count("seams.parted", charts.parted()));
    }
    all.addAll(notes);
    return new Outcome(in.withCast(out), all, null, done);
  }

  @Override
  public long memory(Workpiece in) {
    return in.cast() == null ? 0 : 350L * in.cast().triangleCount();
  }
}
