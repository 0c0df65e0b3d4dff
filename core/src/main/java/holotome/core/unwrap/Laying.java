package holotome.core.unwrap;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import java.util.List;

/** A way to lay charts flat whose seams were changed; asked for several charts side by side. */
interface Laying {
  /**
   * Lays a chart flat, in the mesh's units.
   *
   * @param chart its triangles joined where no seam runs, nowhere yet
   * @param lies the same where its parts lay before, upright; null where there were no charts
   * @return the pieces it lies flat in; none where it is to stay as it is
   * @throws Failure where it is not to be cut and does not lie flat as one
   */
  List<Piece> flat(Piece chart, Piece lies, Work work);

  /** Whether what was laid is turned to how it lay before, or stands as it was laid. */
  boolean isTurnedBack();
}
