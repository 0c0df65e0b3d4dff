package holotome.view.raster;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.buffer.VisibilityBuffer;
import holotome.view.cluster.Node;
import holotome.view.cluster.Piece;
import java.util.ArrayList;
import java.util.List;

/**
 * Draws pieces of a hierarchy into a visibility buffer, on all cores: first those that look towards
 * the viewer, nearest first, then all that are not hidden by them. Which are passed over as hidden
 * depends on the view alone, and none that is seen is: the picture does not depend on it.
 */
public final class PieceRasteriser {
  private static final int GRAIN = 16;

  /** Each round draws so many times as many as the one before; then hidden ones are told anew. */
  private static final int GROWTH = 3;

  private static final int FIRST_ROUND = 384;

  private final VisibilityBuffer out;
  private final LevelChoice front;
  private final Target target;
  private final List<Piece> drawn = new ArrayList<>();
  private int hidden;

  /** What is done with a piece that is to be drawn; called by several threads at a time. */
  @FunctionalInterface
  public interface Target {
    public void draw(Piece piece, int number);
  }

  public PieceRasteriser(VisibilityBuffer out, LevelChoice front, Target target) {
    this.out = out;
    this.front = front;
    this.target = target;
  }

  /** The pieces drawn, by their numbers. */
  public List<Piece> drawn() {
    return drawn;
  }

  /** How many nodes were passed over as hidden. */
  public int hidden() {
    return hidden;
  }

  public void draw(List<Node> nodes, Work work) {
    out.clear();
    DepthTiles tiles = new DepthTiles(out);
    List<Node> order = new ArrayList<>(nodes.size());
    for (Node n : nodes) {
      if (front.faces(n)) {
        order.add(n);
      }
    }
    for (Node n : nodes) {
      if (!front.faces(n)) {
        order.add(n);
      }
    }
    int round = FIRST_ROUND;
    for (int at = 0; at < order.size(); ) {
      int end = Math.min(order.size(), at + round);
      List<Piece> now = new ArrayList<>();
      for (Node n : order.subList(at, end)) {
        if (at > 0 && front.isHidden(n, tiles, 0)) {
          hidden++;
        } else {
          now.addAll(List.of(n.pieces()));
        }
      }
      int first = drawn.size();
      drawn.addAll(now);
      Parallel.range(
          now.size(),
          GRAIN,
          work,
          (from, to) -> {
            for (int i = from; i < to; i++) {
              target.draw(now.get(i), first + i);
            }
          });
      at = end;
      round *= GROWTH;
      if (at < order.size()) {
        tiles.update();
      }
    }
  }
}
