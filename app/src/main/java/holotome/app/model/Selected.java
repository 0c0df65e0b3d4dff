package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.frame.Frame;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Pick;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.BitSet;
import java.util.List;

/**
 * What is selected on the current Scan.
 *
 * @param picks how it came about, for the Log
 * @param set the triangles
 * @param count how many
 * @param area theirs, in square working units
 */
public record Selected(List<Pick> picks, BitSet set, int count, double area) {

  /** What one more pick makes of a selection (null for none); null where nothing is left of it. */
  static Selected after(Selected before, Pick pick, Workpiece on, Work work) {
    Mesh mesh = on.scan();
    BitSet was = before == null ? new BitSet(mesh.triangleCount()) : before.set;
    BitSet set = pick.apply(was, mesh, on.frame(), work.part(0.8, AppWords.of("common.selecting")));
    List<Pick> picks = before == null ? List.of(pick) : new java.util.ArrayList<>(before.picks);
    if (before != null) {
      picks.add(pick);
    }
    return of(Pick.shortened(picks), set, mesh, on.frame());
  }

  static Selected of(List<Pick> picks, BitSet set, Mesh mesh, Frame frame) {
    int count = set.cardinality();
    if (count == 0) {
      return null;
    }
    List<Pick> told = picks;
    if (picks.size() > 1 && !picks.stream().allMatch(Pick::isGeometric)) {
      // One set says the same as several in turn, in less room.
      told = List.of(Pick.of(Pick.Join.REPLACE, set, mesh.triangleCount()));
    }
    double scale = frame.toWork().scale();
    return new Selected(told, set, count, Measures.area(mesh, set) * scale * scale);
  }

  /** Whether it means the same on another scan of the same place. */
  public boolean isGeometric() {
    return picks.stream().allMatch(Pick::isGeometric);
  }

  /** Count and area, to be read. */
  public String text(boolean trueSize) {
    return AppWords.of("selected.triangles", count, Length.formatArea(area, trueSize));
  }
}
