package holotome.core.reduce;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Work;

/**
 * How quads would run, before they are made. The even mesh that they would be laid on is kept, so
 * that a line more is seen soon. To be asked from one thread at a time; another may clear it
 * meanwhile.
 */
public final class QuadPreview {
  /** An even mesh, and what it was made of, where that was placed, and for what. */
  private record Kept(Mesh of, Frame in, MakeQuads by, QuadGround.Even even) {
    boolean is(Workpiece w, MakeQuads step) {
      return of == w.scan() && in.equals(w.frame()) && by.equals(step);
    }
  }

  private volatile Kept kept;

  /** Nothing yet. */
  public QuadPreview() {}

  /**
   * Short lines crossed on the surface.
   *
   * @return both ends of each, 6 numbers a line, in working space
   */
  public double[] lines(Workpiece in, MakeQuads step, Work work) {
    MakeQuads plain = step.with(null);
    Kept had = kept;
    boolean isKnown = had != null && had.is(in, plain);
    Kept now = isKnown ? had : new Kept(in.scan(), in.frame(), plain, even(in, step, work));
    kept = now;
    return QuadGround.of(in, now.even, step, work.part(0.3, work.label())).flow(in.frame());
  }

  private static QuadGround.Even even(Workpiece in, MakeQuads step, Work work) {
    return QuadGround.Even.of(in, in.scan(), step, work.part(0.7, work.label()));
  }

  /** Lets go of what was kept. */
  public void clear() {
    kept = null;
  }
}
