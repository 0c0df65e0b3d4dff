package holotome.core.proxy;

import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.Arrays;

/**
 * One change of the Cast's points, edges and faces by hand. They are named by places: points by
 * where they are at that moment, edges by their middles, faces by the mean of their corners. So a
 * list of edits can be read, and fits a Cast that was made of another scan of the same thing.
 *
 * @param faces x, y, z in the scan file's coordinates, one after the other; null for none
 * @param by x, y, z: a way in the file's coordinates, or a direction
 * @param at a place in the file's coordinates
 * @param amount in the file's unit, degrees, or a share, as the change has it
 */
public record ProxyEdit(
    @Parameter(
            help =
                "What is done: moved, turned about an axis, scaled; faces pulled out, given a smaller one within, bridged; a border capped; edges split, a ring of edges put through, bevelled; points merged; parts deleted, or taken out of what is around; cut along a plane; mirrored about a plane; a strip of new quads")
        How how,
    @Parameter(
            help = "Faces, each by the mean of its corners, x y z in the scan file's coordinates",
            optional = true)
        double[] faces,
    @Parameter(
            help = "Edges, each by its middle, x y z in the scan file's coordinates",
            optional = true)
        double[] edges,
    @Parameter(
            help =
                "Points, x y z in the scan file's coordinates; of a strip left and right in turn, from its beginning",
            optional = true)
        double[] points,
    @Parameter(
            help =
                "Move: how far and whereto. Turn: the axis. Scale: the only direction, if there is one. Cut, mirror: the plane's normal. In the scan file's coordinates",
            optional = true)
        double[] by,
    @Parameter(
            help =
                "A place on the plane, or what is turned or scaled about; else the middle of what is chosen",
            optional = true)
        double[] at,
    @Parameter(
            help =
                "Pull, inset, bevel: how far, in the file's unit. Turn: degrees. Scale: how many times. Split, ring: the share of the edge",
            optional = true)
        Double amount) {

  /** What can be done. */
  public enum How {
    MOVE,
    TURN,
    SCALE,
    PULL,
    INSET,
    BRIDGE,
    CAP,
    SPLIT,
    RING,
    BEVEL,
    MERGE,
    DELETE,
    DISSOLVE,
    CUT,
    MIRROR,
    STRIP
  }

  public ProxyEdit {
    for (double[] a : new double[][] {faces, edges, points}) {
      if (a != null && (a.length % 3 != 0 || !isFinite(a))) {
        throw Failure.usage(CoreWords.of("proxy-edit.three-numbers"));
      }
    }
    for (double[] a : new double[][] {by, at}) {
      if (a != null && (a.length != 3 || !isFinite(a))) {
        throw Failure.usage(CoreWords.of("proxy-edit.three-numbers"));
      }
    }
    boolean needsBy = how == How.MOVE || how == How.TURN || how == How.CUT || how == How.MIRROR;
    boolean needsAt = how == How.CUT || how == How.MIRROR;
    boolean needsAmount =
        how == How.TURN
            || how == How.SCALE
            || how == How.PULL
            || how == How.INSET
            || how == How.BEVEL
            || how == How.SPLIT
            || how == How.RING;
    boolean isStrip = points != null && points.length >= 12 && points.length % 6 == 0;
    boolean isWhole =
        how != null
            && (how != How.STRIP || isStrip)
            && (by != null || !needsBy)
            && (at != null || !needsAt)
            && (amount != null && Double.isFinite(amount) || !needsAmount);
    if (!isWhole) {
      throw Failure.usage(CoreWords.of("proxy-edit.incomplete"));
    }
  }

  private static boolean isFinite(double[] a) {
    return Arrays.stream(a).allMatch(Double::isFinite);
  }
}
