package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Mesh;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import holotome.core.quad.QuadFigures;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;

/** Makes the Cast of quads that follow the form. */
@Describes(
    id = "reduce.quads",
    title = "Quads",
    help = "Makes a mesh of the same shape from quads whose rows follow the form.",
    reads = {"scan", "frame"},
    writes = {"scan", "cast", "maps", "stand-in"})
public record MakeQuads(
    @Parameter(help = "About how many quads", min = 24, max = 5e6, preset = "5000") int quads,
    @Parameter(
            help = "Quads alone, or other faces among them where that spares irregular points",
            preset = "quads")
        Only faces,
    @Parameter(
            help = "Whether all are the same size, or smaller where the surface is more curved",
            preset = "even")
        Remesh.Sizes sizes,
    @Parameter(
            help = "Edges that turn by more than this are lines that quads lie along",
            unit = "°",
            min = 5,
            max = 180,
            preset = "45")
        double sharp,
    @Parameter(
            help =
                "Whether quads are made of one half and mirrored onto the other, across the working origin's plane; seen from the front",
            preset = "no")
        Decimate.Symmetric symmetric,
    @Parameter(help = "Lines drawn on the Scan that quads follow", optional = true)
        List<Guide> guides,
    @Parameter(
            help = "What becomes of the result: the Cast, a lighter Scan, or a stand-in beside it",
            preset = "cast")
        Role as)
    implements Step {
  /** What faces there are. */
  public enum Only {
    QUADS,
    MOSTLY_QUADS
  }

  public MakeQuads {
    faces = faces == null ? Only.QUADS : faces;
    sizes = sizes == null ? Remesh.Sizes.EVEN : sizes;
    symmetric = symmetric == null ? Decimate.Symmetric.NO : symmetric;
    guides = guides == null || guides.isEmpty() ? null : List.copyOf(guides);
  }

  @Override
  public Set<Part<?>> reads() {
    boolean isPlaced = symmetric != Decimate.Symmetric.NO || guides != null;
    return isPlaced ? Set.of(Part.SCAN, Part.FRAME) : Set.of(Part.SCAN);
  }

  @Override
  public Set<Part<?>> writes() {
    return as.writes();
  }

  @Override
  public long memory(Workpiece in) {
    return 130L * in.scan().triangleCount() + 400L * QuadGround.triangles(this);
  }

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Mesh scan = in.scan();
    Mesh plain = Lightened.colouredByVertex(scan);
    QuadGround.Even even =
        QuadGround.Even.of(in, plain, this, run.work().part(0.25, CoreWords.of("work.evening")));
    QuadGround ground =
        QuadGround.of(in, even, this, run.work().part(0.1, CoreWords.of("quads.field")));
    QuadGround.Made made = ground.quads(this, run.work().part(0.35, CoreWords.of("quads.lattice")));
    Mesh bare = new Mesh(made.mesh().xyz(), made.mesh().triangles());
    Mesh carried =
        Lightened.carrying(
            plain.with(plain.attributes().without(Attribute.Kind.UV), plain.materials()),
            bare,
            run.work().part(0.2, CoreWords.of("work.carrying-over")));
    Mesh light = carried.with(made.mesh().attributes().named(Attribute.FACE));
    List<String> notes = notes(made.figures(), scan);
    notes.add(
        Lightened.deviation(
            light, scan, run.work().part(0.1, CoreWords.of("work.measuring-deviation"))));
    notes.addAll(ground.notes());
    return new Outcome(as.into(in, light), notes);
  }

  private List<String> notes(QuadFigures f, Mesh scan) {
    List<String> notes = new ArrayList<>();
    notes.add(CoreWords.of("quads.made", f.faces(), scan.triangleCount()));
    if (f.quads() < f.faces()) {
      notes.add(CoreWords.of("quads.others", f.faces() - f.quads()));
    }
    double share = 100.0 * f.irregular() / Math.max(1, f.inner());
    notes.add(CoreWords.of("quads.irregular", f.irregular(), share));
    notes.add(CoreWords.of("quads.angles", f.angle(), 100 * f.bend()));
    if (f.turned() > 0) {
      notes.add(CoreWords.count("quads.turned", f.turned()));
    }
    if (2L * f.faces() < quads || f.faces() > 2L * quads) {
      notes.add(CoreWords.of("quads.other-count", quads));
    }
    return notes;
  }

  /** The same along other lines; null for none. */
  public MakeQuads with(List<Guide> others) {
    return new MakeQuads(quads, faces, sizes, sharp, symmetric, others, as);
  }
}
