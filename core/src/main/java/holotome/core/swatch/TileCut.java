package holotome.core.swatch;

import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;

/** Cuts pictures of one Swatch over into themselves, all along the same ways. */
final class TileCut {
  /**
   * A picture and what its values go over.
   *
   * @param range 0 where it has no say in where the cut goes
   */
  private record Weighed(TilePicture picture, double range) {}

  private final int size;
  private final int over;
  private final boolean isLevelled;
  private final double soft;
  private final List<Weighed> pictures = new ArrayList<>();

  /**
   * @param size pixels to a side of the pictures
   * @param tile pixels to a side of what they become
   * @param isLevelled whether what sides differ by is taken out first
   * @param soft over how many pixels sides are mixed
   */
  TileCut(int size, int tile, boolean isLevelled, double soft) {
    this.size = size;
    over = size - tile;
    this.isLevelled = isLevelled;
    this.soft = soft;
  }

  void add(TilePicture picture, double range) {
    pictures.add(new Weighed(picture, range));
  }

  /** From side to side, then from the lower side to the upper one. */
  void make(Work work) {
    make(false, work.part(0.5, work.label()));
    make(true, work.part(0.5, work.label()));
  }

  private void make(boolean isUp, Work work) {
    int lines = isUp ? size - over : size;
    float[] cost = new float[Math.multiplyExact(lines, over)];
    for (Weighed w : pictures) {
      work.check();
      if (isLevelled) {
        w.picture.level(isUp);
      }
      if (w.range > 0) {
        Work part = work.part(1.0 / pictures.size(), work.label());
        w.picture.differing(isUp, w.range, cost, part);
      }
    }
    SeamPath path = new SeamPath(cost, over);
    int[] seam = isUp ? path.closed() : path.open();
    pictures.forEach(w -> w.picture.cut(isUp, seam, soft));
  }
}
