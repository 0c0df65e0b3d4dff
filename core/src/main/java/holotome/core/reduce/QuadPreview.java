package holotome.core.reduce;

import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Work;

/**
 * How quads would run, before they are made. The even mesh that they would be laid on is kept, so
 * that a line more is seen soon. To be asked from one thread at a time.
 */
public final class QuadPreview {
  private Mesh of;
  private MakeQuads by;
  private QuadGround.Even even;

  /** Nothing yet. */
  public QuadPreview() {}

  /**
   * Short lines crossed on the surface.
   *
   * @return both ends of each, 6 numbers a line, in working space
   */
  public double[] lines(Workpiece in, MakeQuads step, Work work) {
    MakeQuads plain = step.with(null);
    boolean isKnown = of == in.scan() && plain.equals(by);
    if (!isKnown) {
      even = null;
      of = in.scan();
      by = plain;
      even = QuadGround.Even.of(in, of, step, work.part(0.7, work.label()));
    }
    return QuadGround.of(in, even, step, work.part(0.3, work.label())).flow(in.frame());
  }

  /** Lets go of what was kept. */
  public void clear() {
    of = null;
    by = null;
    even = null;
  }
}
