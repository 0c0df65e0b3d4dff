package holotome.core.unwrap;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.List;

/**
 * Lays charts flat as rigidly as possible, from where their parts lay, else from Tutte's embedding.
 * What cannot lie flat as one is cut further, but for what was sewn: that is refused.
 */
final class SettledLaying implements Laying {
  private static final int ROUNDS = 12;

  /** Above so many vertices a chart is moved block by block. */
  private static final int LARGE = 10_000;

  /** Of a large chart so many vertices are moved for each at an edge that was cut or sewn. */
  private static final int REACH = 40;

  private final BitSet touched;
  private final PieceFlattening parting;

  /**
   * @param touched triangles at edges that were cut or sewn
   * @param parting cuts further; null where that is refused
   */
  SettledLaying(BitSet touched, PieceFlattening parting) {
    this.touched = touched;
    this.parting = parting;
  }

  @Override
  public boolean isTurnedBack() {
    return true;
  }

  @Override
  public List<Piece> flat(Piece chart, Piece lies, Work work) {
    Piece out = lies == null ? null : settledNear(lies);
    out = out == null && lies != null ? settled(lies, work) : out;
    if (out == null && lies != null) {
      // As it lay it did lie flat: so it stays.
      out = Settling.checked(lies, Double.MAX_VALUE);
      out = out != null && out.isUpright(0) ? out : null;
    }
    if (out == null) {
      double[] tutte = Tutte.places(chart);
      out = tutte == null ? null : settled(chart.at(unfolded(chart, tutte)), work);
      out = out == null && tutte != null ? settled(chart.at(tutte), work) : out;
    }
    if (out != null) {
      return List.of(out);
    }
    if (parting == null) {
      throw Failure.cannot(CoreWords.of("seams.not-flat"));
    }
    return parting.flat(chart.triangles(), work);
  }

  /** Of a large chart only what lies near the edges that were cut or sewn; null for a small one. */
  private Piece settledNear(Piece p) {
    if (p.vertices() <= LARGE) {
      return null;
    }
    BitSet near = new BitSet();
    for (int i = 0; i < p.corners().length; i++) {
      if (touched.get(p.triangles()[i / 3])) {
        near.set(p.corners()[i]);
      }
    }
    int reach = Math.min(LARGE, REACH * near.cardinality());
    return Settling.settledNear(p, near.stream().toArray(), reach, ROUNDS, Double.MAX_VALUE);
  }

  private static Piece settled(Piece p, Work work) {
    return p.vertices() > LARGE
        ? Settling.checked(Settling.movedByBlocks(p, work), Double.MAX_VALUE)
        : Settling.settled(p, ROUNDS, Double.MAX_VALUE);
  }

  /** Laid triangle beside triangle from one on: exact where the chart can be unrolled. */
  private static double[] unfolded(Piece p, double[] start) {
    Piece out = p.at(start.clone());
    boolean[] isKnown = new boolean[p.vertices()];
    int[] k = p.corners();
    isKnown[k[0]] = true;
    isKnown[k[1]] = true;
    out.uv()[2 * k[0]] = 0;
    out.uv()[2 * k[0] + 1] = 0;
    out.uv()[2 * k[1]] = p.rest()[0];
    out.uv()[2 * k[1] + 1] = 0;
    Unfold.all(out, isKnown);
    return out.uv();
  }
}
