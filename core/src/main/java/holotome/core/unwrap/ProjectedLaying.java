package holotome.core.unwrap;

import holotome.core.task.Work;
import java.util.List;

/**
 * Lays charts flat as a side sees them. Triangles turned away are brought round in place where that
 * goes; where the chart would lie over itself it is cut further.
 */
final class ProjectedLaying implements Laying {
  private static final int SWEEPS = 40;

  /** Of more triangles than this share that lie on their back none is brought round. */
  private static final double FEW = 0.05;

  private final Projection projection;
  private final int[] side;
  private final PieceFlattening parting;

  /**
   * @param side of each triangle
   * @param parting for what no side sees, and what would lie over itself
   */
  ProjectedLaying(Projection projection, int[] side, PieceFlattening parting) {
    this.projection = projection;
    this.side = side;
    this.parting = parting;
  }

  @Override
  public boolean isTurnedBack() {
    return false;
  }

  @Override
  public List<Piece> flat(Piece chart, Piece lies, Work work) {
    int k = side[chart.triangles()[0]];
    if (!projection.isLaying(k)) {
      return parting.flat(chart.triangles(), work);
    }
    Piece p = projection.placed(chart, k);
    int turned = 0;
    for (int t = 0; t < p.triangles().length; t++) {
      turned += p.flatArea(t) > Settling.UPRIGHT * p.restArea(t) ? 0 : 1;
    }
    if (turned > 0 && turned <= FEW * p.triangles().length) {
      p = p.at(new Unfolding(p, null).uprighted(Settling.UPRIGHT, SWEEPS, work));
    }
    boolean isSound =
        p.isUpright(Settling.UPRIGHT) && Settling.checked(p, Double.MAX_VALUE) != null;
    return isSound ? List.of(p) : Trimmed.of(p, parting, Double.MAX_VALUE, work);
  }
}
