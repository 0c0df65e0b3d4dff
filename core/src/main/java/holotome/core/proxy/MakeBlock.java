package holotome.core.proxy;

import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Places;
import holotome.core.mesh.Submesh;
import holotome.core.part.Workpiece;
import holotome.core.polygon.FaceLists;
import holotome.core.select.FenceOutline;
import holotome.core.select.Pick;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;

/** Makes a simple body that lies on the Scan, or on what is selected of it. */
@Describes(
    id = "proxy.block",
    title = "Block",
    help =
        "Fits a simple body to the Scan, or to what is selected of it, by least squares, or pulls a drawn outline up. It becomes the Cast.",
    reads = {"scan", "cast", "frame"},
    writes = {"cast", "maps"})
public record MakeBlock(
    @Parameter(help = "What is fitted", preset = "box") Form form,
    @Parameter(
            help = "Sides around a cylinder, at most so many of a prism, quads of a strip",
            min = 3,
            max = 256,
            preset = "12")
        int sides,
    @Parameter(
            help =
                "A prism's outline, seen from above: x y z each, in the scan file's coordinates; else around what it is fitted to",
            optional = true)
        double[] outline,
    @Parameter(
            help = "How far a drawn outline is pulled up; else as high as the Scan is within it",
            optional = true)
        Length height,
    @Parameter(help = "Put beside what the Cast is already, or instead of it", preset = "instead")
        Where where,
    @Parameter(help = "What is selected, one pick after the other", optional = true)
        List<Pick> picks)
    implements Step {

  /** What can be fitted. */
  public enum Form {
    BOX,
    PRISM,
    CYLINDER,
    PLANE,
    STRIP
  }

  /** What becomes of the Cast that there is. */
  public enum Where {
    INSTEAD,
    BESIDE
  }

  public MakeBlock {
    form = form == null ? Form.BOX : form;
    where = where == null ? Where.INSTEAD : where;
    outline = outline == null || outline.length == 0 ? null : outline.clone();
    picks = picks == null || picks.isEmpty() ? null : List.copyOf(picks);
    if (outline != null) {
      boolean isFinite = Arrays.stream(outline).allMatch(Double::isFinite);
      if (form != Form.PRISM || outline.length < 9 || outline.length % 3 != 0 || !isFinite) {
        throw Failure.usage(CoreWords.of("block.outline"));
      }
    }
    if (height != null && !(height.metres() > 0)) {
      throw Failure.usage(CoreWords.of("block.height"));
    }
  }

  @Override
  public long memory(Workpiece in) {
    return in.scan().triangleCount() / 2L + 80_000_000L;
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = in.scan();
    Places.check(scan);
    if (scan.isEmpty()) {
      throw Failure.cannot(CoreWords.of("patch.there-is-no-surface-to"));
    }
    Work work = run.work();
    if (picks != null) {
      BitSet set = Pick.all(picks, scan, in.frame(), work.part(0.3, CoreWords.of("block.fitting")));
      if (set.isEmpty()) {
        throw Failure.cannot(CoreWords.of("take-noise.nothing-is-selected"));
      }
      scan = Submesh.of(scan, set, work.part(0.2, CoreWords.of("block.fitting")));
    }
    LocalScan local = LocalScan.of(scan, work.part(0.5, CoreWords.of("block.fitting")));
    Region region = Region.of(local);
    if (region.count() < 6) {
      throw Failure.cannot(CoreWords.of("block.too-little"));
    }
    FittedBlock block = fitted(region, local, in.frame());
    FaceLists made = block == null ? null : placed(block.faces(), local);
    if (made == null || !made.isFinite()) {
      throw Failure.cannot(CoreWords.of("block.does-not-fit"));
    }
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("block.made", made.faces().length, made.vertexCount()));
    if (outline == null) {
      notes.add(CoreWords.of("block.off", Length.inBase(block.rms() * local.size())));
    }
    if (block.missing() > 0) {
      notes.add(CoreWords.count("block.missing", block.missing()));
    }
    boolean isBeside = where == Where.BESIDE && in.cast() != null;
    FaceLists all = isBeside ? FaceLists.of(in.cast()).and(made) : made;
    return new Outcome(in.withCast(all.mesh()), notes);
  }

  private static FaceLists placed(FaceLists faces, LocalScan local) {
    double[] xyz = new double[faces.xyz().length];
    for (int v = 0; v < faces.vertexCount(); v++) {
      System.arraycopy(local.toBase(faces.at(v)), 0, xyz, 3 * v, 3);
    }
    return new FaceLists(xyz, faces.faces());
  }

  private FittedBlock fitted(Region region, LocalScan local, Frame frame) {
    double[] upright = PlanesSolid.upright(frame);
    return switch (form) {
      case BOX -> FittedBlock.box(region, upright);
      case CYLINDER -> FittedBlock.cylinder(region, upright, sides);
      case PLANE -> FittedBlock.plane(region);
      case STRIP -> FittedBlock.strip(region, sides);
      case PRISM ->
          outline == null
              ? FittedBlock.prism(region, upright, sides)
              : drawn(region, local, frame, upright);
    };
  }

  /** The body over a drawn outline. */
  private FittedBlock drawn(Region region, LocalScan local, Frame frame, double[] upright) {
    double[] u = Vec.perpendicular(upright);
    double[][] e = {u, Vec.cross(upright, u), upright};
    Similarity toBase = frame.toFile().inverse();
    double[][] flat = new double[outline.length / 3][];
    double low = Double.POSITIVE_INFINITY;
    for (int i = 0; i < flat.length; i++) {
      double[] p =
          local.toLocal(toBase.apply(outline[3 * i], outline[3 * i + 1], outline[3 * i + 2]));
      flat[i] = new double[] {Vec.dot(p, e[0]), Vec.dot(p, e[1])};
      low = Math.min(low, Vec.dot(p, upright));
    }
    if (!Outline.isSimple(flat)) {
      throw Failure.cannot(CoreWords.of("block.outline-crosses"));
    }
    if (Outline.area(flat) < 0) {
      List<double[]> turned = new ArrayList<>(List.of(flat));
      flat = turned.reversed().toArray(double[][]::new);
    }
    double high =
        height == null
            ? top(region, flat, e)
            : low + frame.toBaseLength(height.metres()) / local.size();
    if (!(high > low)) {
      throw Failure.cannot(CoreWords.of("block.nothing-within"));
    }
    return new FittedBlock(FittedBlock.pulled(flat, e, low, high), 0, 0, 0);
  }

  /** The height of what lies within an outline, without strays. */
  private static double top(Region region, double[][] outline, double[][] e) {
    double[] heights = region.along(e[2]);
    double[][] flat = FittedBlock.flat(region, e);
    FenceOutline inside =
        new FenceOutline(Arrays.stream(outline).flatMapToDouble(Arrays::stream).toArray());
    double[] within = new double[heights.length];
    int n = 0;
    for (int i = 0; i < flat.length; i++) {
      if (inside.contains(flat[i][0], flat[i][1])) {
        within[n++] = heights[i];
      }
    }
    if (n == 0) {
      return Double.NaN;
    }
    double[] sorted = Arrays.copyOf(within, n);
    Arrays.sort(sorted);
    return sorted[n - 1 - n / 500];
  }

  /** The same over another outline; null for none. */
  public MakeBlock with(double[] other) {
    return new MakeBlock(form, sides, other, height, where, picks);
  }

  @Override
  public boolean equals(Object o) {
    return o instanceof MakeBlock b
        && form == b.form
        && sides == b.sides
        && Arrays.equals(outline, b.outline)
        && Objects.equals(height, b.height)
        && where == b.where
        && Objects.equals(picks, b.picks);
  }

  @Override
  public int hashCode() {
    return Arrays.hashCode(outline) * 31 + form.hashCode();
  }
}
