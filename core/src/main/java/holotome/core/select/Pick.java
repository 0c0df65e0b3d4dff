package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.step.Blob;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/** One act of selecting: a rule, or a set of triangles, and how it joins what was selected. */
public record Pick(
    @Parameter(help = "How it joins what is selected so far", preset = "add") Join join,
    @Parameter(help = "An outline or a stroke on a view, along the line of sight", optional = true)
        Fence fence,
    @Parameter(help = "A box", optional = true) Region box,
    @Parameter(help = "Between two heights", optional = true) Heights height,
    @Parameter(help = "Surface of a similar colour", optional = true) Likeness colour,
    @Parameter(help = "Surface that faces a direction", optional = true) Facing facing,
    @Parameter(help = "Islands by their size", optional = true) IslandSizes islands,
    @Parameter(help = "Along the open borders", optional = true) Rim border,
    @Parameter(help = "What hangs together with a point", optional = true) Linked linked,
    @Parameter(help = "A stroke over the surface", optional = true) BrushStroke brush,
    @Parameter(help = "A set of triangles of this very mesh", optional = true) Blob stored,
    @Parameter(help = "A change of what is selected so far", optional = true) Reshape change) {

  /** How a pick joins what was selected before. */
  public enum Join {
    REPLACE,
    ADD,
    TAKE,
    INTERSECT
  }

  public Pick {
    long given =
        Stream.of(
                fence, box, height, colour, facing, islands, border, linked, brush, stored, change)
            .filter(Objects::nonNull)
            .count();
    if (given != 1) {
      throw Failure.usage(CoreWords.of("pick.each-pick-needs-just-one"));
    }
  }

  public static Pick of(Join join, Rule rule) {
    return new Pick(
        join,
        rule instanceof Fence f ? f : null,
        rule instanceof Region r ? r : null,
        rule instanceof Heights h ? h : null,
        rule instanceof Likeness c ? c : null,
        rule instanceof Facing f ? f : null,
        rule instanceof IslandSizes i ? i : null,
        rule instanceof Rim b ? b : null,
        rule instanceof Linked l ? l : null,
        rule instanceof BrushStroke d ? d : null,
        null,
        null);
  }

  /** A set of triangles as it is; fits this mesh only. */
  public static Pick of(Join join, BitSet set, int triangles) {
    return new Pick(
        join,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        null,
        StoredSelection.encode(set, triangles),
        null);
  }

  public static Pick of(Reshape change) {
    return new Pick(Join.ADD, null, null, null, null, null, null, null, null, null, null, change);
  }

  private Rule rule() {
    return Stream.<Rule>of(fence, box, height, colour, facing, islands, border, linked, brush)
        .filter(Objects::nonNull)
        .findFirst()
        .orElse(null);
  }

  /** Whether it means the same on another scan of the same place. */
  public boolean isGeometric() {
    return stored == null;
  }

  /** What is selected after it; {@code before} is left alone. */
  public BitSet apply(BitSet before, Mesh mesh, Frame frame, Work work) {
    if (change != null) {
      return change.apply(before, mesh, work);
    }
    Rule rule = rule();
    return joined(
        before,
        rule != null
            ? rule.select(mesh, frame, work)
            : StoredSelection.decode(stored, mesh.triangleCount()));
  }

  /** Joins a set to what was selected; both are left alone. */
  public BitSet joined(BitSet before, BitSet set) {
    if (join == Join.REPLACE) {
      return (BitSet) set.clone();
    }
    BitSet out = (BitSet) before.clone();
    switch (join) {
      case ADD -> out.or(set);
      case TAKE -> out.andNot(set);
      default -> out.and(set);
    }
    return out;
  }

  /** What a list of picks selects, one after the other, from nothing. */
  public static BitSet all(List<Pick> picks, Mesh mesh, Frame frame, Work work) {
    BitSet set = new BitSet(mesh.triangleCount());
    for (Pick p : picks) {
      set =
          p.apply(set, mesh, frame, work.part(1.0 / picks.size(), CoreWords.of("work.selecting")));
    }
    return set;
  }

  /**
   * A shorter list that selects the same: what a replacing pick throws away is left out, and so are
   * two inversions in turn.
   */
  public static List<Pick> shortened(List<Pick> picks) {
    int first = 0;
    for (int i = 0; i < picks.size(); i++) {
      Pick p = picks.get(i);
      if (p.change == null && p.join == Join.REPLACE) {
        first = i;
      }
    }
    List<Pick> out = new java.util.ArrayList<>();
    for (Pick p : picks.subList(first, picks.size())) {
      if (inverts(p) && !out.isEmpty() && inverts(out.getLast())) {
        out.removeLast();
      } else {
        out.add(p);
      }
    }
    return List.copyOf(out);
  }

  private static boolean inverts(Pick p) {
    return p.change != null && p.change.how() == Reshape.How.INVERT;
  }
}
