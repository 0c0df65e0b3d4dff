package holotome.core.mend;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Patching;
import holotome.core.mesh.Submesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.solve.PlaneFit;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.Collections;
import java.util.IdentityHashMap;
import java.util.List;
import java.util.Set;
import java.util.function.Predicate;
import java.util.function.Supplier;

/** Fills the holes of the Scan. */
@Describes(
    id = "mend.fill",
    title = "Fill holes",
    help =
        "Closes open borders: flat with few triangles, smooth, continuing the surface around the hole, each as its rim asks for, or two rims by a bridge.",
    reads = {"scan", "frame"},
    writes = {"scan"})
public record FillHoles(
    @Parameter(
            help =
                "Flat, smooth with triangles like those around it, continuing the surface, whichever each rim asks for (flat rims flat), or two rims joined by a bridge",
            preset = "smooth")
        How how,
    @Parameter(help = "Only holes whose border is no longer than this", min = 0, optional = true)
        Length upTo,
    @Parameter(
            help = "Leave the longest border open, such as where the ground was cut away",
            preset = "false")
        boolean keepLongest,
    @Parameter(
            help =
                "Only the holes whose rims pass nearest to these points, x y z in working space, one after the other; else all",
            optional = true)
        double[] at)
    implements Step {

  /** How a hole is filled. */
  public enum How {
    FLAT,
    SMOOTH,
    BY_RIM,
    /** Not each for itself: one rim is joined with another by a tube. */
    BRIDGE
  }

  /** A rim that lies so near its plane, of its length, is flat: a cut, a foot; 1 % of across. */
  private static final double EVEN = 0.003;

  /** Teeth behind teeth are taken away so often. */
  private static final int ROUNDS = 3;

  /** Rims of fewer edges say nothing of how they were meant. */
  private static final int MANY = 24;

  public FillHoles {
    if (at != null && (at.length == 0 || at.length % 3 != 0)) {
      throw Failure.usage(CoreWords.of("fill-holes.three-numbers-each"));
    }
  }

  /** All holes, or up to a length. */
  public FillHoles(How how, Length upTo, boolean keepLongest) {
    this(how, upTo, keepLongest, null);
  }

  @Override
  public Set<Part<?>> reads() {
    return upTo == null && at == null ? Set.of(Part.SCAN) : Set.of(Part.SCAN, Part.FRAME);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    List<String> notes = new ArrayList<>();
    Work work = run.work();
    Mesh mesh = in.scan();
    Adjacency adjacency = Adjacency.of(mesh, work.part(0.1, CoreWords.of("work.finding-holes")));
    if (adjacency.borderEdges() > 0) {
      Mesh whole =
          Rims.whole(mesh, adjacency, notes, work.part(0.05, CoreWords.of("work.finding-holes")));
      if (whole != mesh) {
        mesh = whole;
        adjacency = Adjacency.of(mesh, work.part(0.1, CoreWords.of("work.finding-holes")));
      }
    }
    int[][] loops = Borders.of(adjacency).loops();
    int teeth = 0;
    for (int round = 0; round < ROUNDS; round++) {
      BitSet away = Rims.teeth(mesh, adjacency, wanted(mesh, loops, in));
      if (away.isEmpty()) {
        break;
      }
      teeth += away.cardinality();
      mesh =
          Submesh.of(mesh, t -> !away.get(t), work.part(0.02, CoreWords.of("work.finding-holes")));
      adjacency = Adjacency.of(mesh, work.part(0.02, CoreWords.of("work.finding-holes")));
      loops = Borders.of(adjacency).loops();
    }
    if (teeth > 0) {
      notes.add(CoreWords.count("rims.teeth", teeth));
    }
    if (anyMeetsItself(mesh, List.of(loops))) {
      // A border that comes by a point twice goes round two fans that meet there: apart, it does
      // not.
      mesh = FanSplit.split(mesh, notes, work.part(0.1, CoreWords.of("work.parting-fans")));
      adjacency = Adjacency.of(mesh, work.part(0.1, CoreWords.of("work.finding-holes")));
      loops = Borders.of(adjacency).loops();
    }
    if (how == How.BRIDGE) {
      return bridged(in, mesh, loops, notes, work.part(0.6, CoreWords.of("work.filling-holes")));
    }
    Mesh torn = mesh;
    List<int[]> asked = wanted(mesh, loops, in);
    List<int[]> wanted = InnerRims.joined(mesh, loops, asked, work);
    int islands = wanted.stream().mapToInt(l -> InnerRims.borders(torn, l) - 1).sum();
    List<HoleFill> fills = new ArrayList<>();
    List<int[]> filled = new ArrayList<>();
    Predicate<int[]> smooth =
        loop ->
            how == How.SMOOTH
                || how == How.BY_RIM && !isFlat(torn, loop, Borders.perimeter(torn, loop));
    HoleFill[] made =
        HoleFill.all(
            torn, adjacency, wanted, smooth, 1, work.part(0.4, CoreWords.of("work.filling-holes")));
    for (int i = 0; i < made.length; i++) {
      if (made[i] != null) {
        fills.add(made[i]);
        filled.add(wanted.get(i));
      }
    }
    int failed = wanted.size() - fills.size();
    int left = at == null ? loops.length - asked.size() : 0;
    int crossing =
        fills.isEmpty()
            ? 0
            : reroute(
                mesh,
                adjacency,
                filled,
                fills,
                work.part(0.15, CoreWords.of("work.filling-holes")));
    Mesh now = mesh;
    int added = fills.stream().mapToInt(f -> f.triangles().length / 3).sum();
    Mesh result = joined(mesh, fills, work.part(0.1, CoreWords.of("work.filling-holes")));
    String note = CoreWords.count("fill-holes.holes-filled-with-triangles", fills.size(), added);
    if (left > 0) {
      note += "; " + CoreWords.count("fill-holes.longer-ones-left-open", left);
    }
    if (failed > 0) {
      note += "; " + CoreWords.count("fill-holes.could-not-be-filled-their", failed);
    }
    if (crossing > 0) {
      note += "; " + CoreWords.count("fill-holes.cut-through", crossing);
    }
    if (islands > 0) {
      note += "; " + CoreWords.count("fill-holes.islands", islands);
    }
    long unsettled = fills.stream().filter(f -> !f.settled()).count();
    if (unsettled > 0) {
      note += "; " + CoreWords.count("fill-holes.very-wide-ones-are-less", unsettled);
    }
    notes.addFirst(note);
    double out = fills.stream().mapToDouble(f -> f.standsOut(now)).max().orElse(0);
    if (how != How.FLAT && out > 0) {
      notes.add(1, CoreWords.of("fill-holes.stands-out", Length.inBase(out)));
    }
    return new Outcome(in.withScan(result), notes, null, fills.size());
  }

  /** The holes that are to be filled. */
  private List<int[]> wanted(Mesh mesh, int[][] loops, Workpiece in) {
    double limit = upTo == null ? Double.POSITIVE_INFINITY : in.frame().toBaseLength(upTo.metres());
    double longest = keepLongest ? longest(mesh, loops) : Double.NaN;
    boolean[] chosen = at == null ? null : chosen(mesh, loops, in);
    List<int[]> out = new ArrayList<>();
    for (int i = 0; i < loops.length; i++) {
      double length = Borders.perimeter(mesh, loops[i]);
      if ((chosen == null || chosen[i]) && length <= limit && length != longest) {
        out.add(loops[i]);
      }
    }
    return out;
  }

  /**
   * Closes holes the other way whose patches cut through something, where that cuts nothing.
   *
   * @return how many still do
   */
  private static int reroute(
      Mesh mesh, Adjacency adjacency, List<int[]> loops, List<HoleFill> fills, Work work) {
    int first = mesh.triangleCount();
    // Where it crosses is told by places alone.
    Mesh bare = new Mesh(mesh.xyz(), mesh.triangles());
    Mesh once = joined(bare, fills, Work.unwatched());
    BitSet crossing = PatchCheck.crossing(once, first, fills, work.part(0.5, work.label()));
    if (crossing.isEmpty()) {
      return 0;
    }
    List<HoleFill> others = new ArrayList<>(fills);
    Work again = work.part(0, work.label());
    List<int[]> some = crossing.stream().mapToObj(loops::get).toList();
    Set<int[]> flat = Collections.newSetFromMap(new IdentityHashMap<>());
    crossing.stream()
        .filter(i -> fills.get(i).xyz().length == 0)
        .mapToObj(loops::get)
        .forEach(flat::add);
    HoleFill[] otherWay = HoleFill.all(mesh, adjacency, some, flat::contains, 1, again);
    int n = 0;
    for (int i = crossing.nextSetBit(0); i >= 0; i = crossing.nextSetBit(i + 1)) {
      HoleFill other = otherWay[n++];
      others.set(i, other == null ? fills.get(i) : other);
    }
    Mesh then = joined(bare, others, Work.unwatched());
    BitSet still = PatchCheck.crossing(then, first, others, work.part(0.5, work.label()));
    int left = 0;
    for (int i = crossing.nextSetBit(0); i >= 0; i = crossing.nextSetBit(i + 1)) {
      if (still.get(i)) {
        left++;
      } else {
        fills.set(i, others.get(i));
      }
    }
    return left;
  }

  private Outcome bridged(Workpiece in, Mesh mesh, int[][] loops, List<String> notes, Work work) {
    boolean[] chosen = at == null ? null : chosen(mesh, loops, in);
    List<int[]> two = new ArrayList<>();
    for (int i = 0; i < loops.length; i++) {
      if (chosen == null || chosen[i]) {
        two.add(loops[i]);
      }
    }
    if (two.size() != 2) {
      throw Failure.cannot(CoreWords.of("fill-holes.two-rims", two.size()));
    }
    int[] triangles = Bridge.between(mesh, two.get(0), two.get(1));
    notes.addFirst(CoreWords.of("fill-holes.bridged", triangles.length / 3));
    return new Outcome(in.withScan(Patching.add(mesh, triangles, work)), notes, null, 1);
  }

  private static boolean isFlat(Mesh mesh, int[] loop, double length) {
    float[] points = new float[3 * loop.length];
    for (int i = 0; i < loop.length; i++) {
      System.arraycopy(mesh.xyz(), 3 * mesh.triangles()[loop[i]], points, 3 * i, 3);
    }
    return isFlat(points, length);
  }

  /**
   * Whether a rim lies in a plane, nearly, and is then closed flat where each rim is asked.
   *
   * @param points along it, 3 floats each
   * @param length around it
   */
  public static boolean isFlat(float[] points, double length) {
    if (points.length < 3 * MANY) {
      return false;
    }
    PlaneFit.Sum sum = new PlaneFit.Sum();
    for (int i = 0; i < points.length; i += 3) {
      sum.add(points[i], points[i + 1], points[i + 2], 1);
    }
    return sum.fit().rms() <= EVEN * length;
  }

  /** The loops that pass nearest to the points given. */
  private boolean[] chosen(Mesh mesh, int[][] loops, Workpiece in) {
    boolean[] out = new boolean[loops.length];
    for (int i = 0; i < at.length; i += 3) {
      double[] p = in.frame().toBase(Vec.of(at[i], at[i + 1], at[i + 2]));
      int best = -1;
      double least = Double.POSITIVE_INFINITY;
      for (int l = 0; l < loops.length; l++) {
        for (int v : Borders.vertices(mesh, loops[l])) {
          double d = Vec.distance(Vec.at(mesh.xyz(), v), p);
          if (d < least) {
            least = d;
            best = l;
          }
        }
      }
      if (best >= 0) {
        out[best] = true;
      }
    }
    return out;
  }

  /** Whether any border comes by one of its points twice. */
  static boolean anyMeetsItself(Mesh mesh, List<int[]> loops) {
    return loops.stream()
        .anyMatch(
            loop -> Arrays.stream(Borders.vertices(mesh, loop)).distinct().count() < loop.length);
  }

  /** Adds the patches, the new vertices of each numbered on from those before. */
  static Mesh joined(Mesh mesh, List<HoleFill> fills, Work work) {
    return joined(mesh, fills, null, work);
  }

  /**
   * @param seen see {@link Patching}
   */
  static Mesh joined(Mesh mesh, List<HoleFill> fills, Supplier<Patching.Seen> seen, Work work) {
    float[] xyz = new float[fills.stream().mapToInt(f -> f.xyz().length).sum()];
    int[] triangles = new int[fills.stream().mapToInt(f -> f.triangles().length).sum()];
    int old = mesh.vertexCount();
    int v = 0;
    int c = 0;
    for (HoleFill f : fills) {
      for (int corner : f.triangles()) {
        triangles[c++] = corner < old ? corner : corner + v / 3;
      }
      System.arraycopy(f.xyz(), 0, xyz, v, f.xyz().length);
      v += f.xyz().length;
    }
    return Patching.add(mesh, xyz, triangles, seen, work);
  }

  private static double longest(Mesh mesh, int[][] loops) {
    double most = -1;
    for (int[] l : loops) {
      most = Math.max(most, Borders.perimeter(mesh, l));
    }
    return most;
  }
}
