package holotome.core.spatial;

import java.util.Arrays;

/** A growing list of nodes in the layout of {@link Bvh}. */
final class BvhNodes {
  /** Steps that a node's box is divided into; the rest is to spare on both sides. */
  private static final double STEPS = 252;

  /** What boxes are larger than what they hold, in steps: more than rounding takes away. */
  private static final double SPARE = 1e-3;

  float[] frames;
  byte[] planes;
  int[] children;
  int count;

  BvhNodes(int room) {
    frames = new float[6 * room];
    planes = new byte[48 * room];
    children = new int[Bvh.WIDE * room];
  }

  int add() {
    if (6 * count == frames.length) {
      grow(Math.max(16, 2 * count));
    }
    return count++;
  }

  private void grow(int room) {
    frames = Arrays.copyOf(frames, 6 * room);
    planes = Arrays.copyOf(planes, 48 * room);
    children = Arrays.copyOf(children, Bvh.WIDE * room);
  }

  /**
   * Gives a node its boxes.
   *
   * @param boxes of its children, as {@link BvhSplitter} has them, with as much again after each
   * @param used how many children it has
   */
  void put(int node, float[] boxes, int used) {
    for (int axis = 0; axis < 3; axis++) {
      float low = boxes[axis];
      float high = -boxes[BvhSplitter.HIGH + axis];
      for (int i = 1; i < used; i++) {
        low = Math.min(low, boxes[2 * BvhSplitter.BOX * i + axis]);
        high = Math.max(high, -boxes[2 * BvhSplitter.BOX * i + BvhSplitter.HIGH + axis]);
      }
      float least = Math.ulp(Math.max(Math.abs(low), Math.abs(high)));
      float step = (float) Math.max(((double) high - low) / STEPS, least);
      float origin = (float) (((double) low + high) / 2 + 0.5 * step);
      frames[6 * node + axis] = origin;
      frames[6 * node + 3 + axis] = step;
      int at = 48 * node + Bvh.WIDE * axis;
      for (int i = 0; i < Bvh.WIDE; i++) {
        // No child: a box that no ray is ever within.
        double lo = 127;
        double hi = -128;
        if (i < used) {
          int box = 2 * BvhSplitter.BOX * i + axis;
          lo = Math.floor(((double) boxes[box] - origin) / step - SPARE);
          hi = Math.ceil((-(double) boxes[box + BvhSplitter.HIGH] - origin) / step + SPARE);
        }
        planes[at + i] = (byte) lo;
        planes[at + 24 + i] = (byte) hi;
      }
    }
  }
}
