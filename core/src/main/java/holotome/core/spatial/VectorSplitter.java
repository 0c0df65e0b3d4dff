package holotome.core.spatial;

import jdk.incubator.vector.FloatVector;
import jdk.incubator.vector.VectorOperators;
import jdk.incubator.vector.VectorSpecies;

/** A box at once, in the processor's vectors; the same to the last bit as {@link PlainSplitter}. */
final class VectorSplitter extends BvhSplitter {
  private static final VectorSpecies<Float> WHOLE = FloatVector.SPECIES_256;
  private static final VectorSpecies<Float> HALF = FloatVector.SPECIES_128;

  VectorSplitter(int[] ids, float[] boxes, int[] weights) {
    super(ids, boxes, weights);
  }

  private static FloatVector lesser(FloatVector a, FloatVector b) {
    return a.blend(b, b.compare(VectorOperators.LT, a));
  }

  @Override
  void fill(int from, int to, int axis, float origin, float scale) {
    for (int i = from; i < to; i++) {
      int b = bin(centre(i, axis), origin, scale);
      count[b] += weight(i);
      int at = 2 * BOX * b;
      FloatVector one = FloatVector.fromArray(WHOLE, boxes, BOX * i);
      FloatVector all = FloatVector.fromArray(WHOLE, bins, at);
      lesser(all, one).intoArray(bins, at);
      FloatVector low = FloatVector.fromArray(HALF, boxes, BOX * i);
      FloatVector sum = low.sub(FloatVector.fromArray(HALF, boxes, BOX * i + HIGH));
      lesser(FloatVector.fromArray(HALF, bins, at + BOX), sum).intoArray(bins, at + BOX);
      FloatVector turned = FloatVector.fromArray(HALF, bins, at + BOX + HIGH);
      lesser(turned, sum.neg()).intoArray(bins, at + BOX + HIGH);
    }
  }

  @Override
  int part(int from, int to, int axis, float origin, float scale, int last) {
    int mid = from;
    for (int i = from; i < to; i++) {
      // Without a branch, for none could be foreseen: what lies beyond changes places with its
      // like.
      int isFirst = bin(centre(i, axis), origin, scale) <= last ? 1 : 0;
      int id = ids[i];
      ids[i] = ids[mid];
      ids[mid] = id;
      FloatVector one = FloatVector.fromArray(WHOLE, boxes, BOX * i);
      FloatVector.fromArray(WHOLE, boxes, BOX * mid).intoArray(boxes, BOX * i);
      one.intoArray(boxes, BOX * mid);
      mid += isFirst;
    }
    return mid;
  }

  @Override
  void unite(float[] into, int at, float[] other, int of) {
    FloatVector a = FloatVector.fromArray(WHOLE, into, at);
    lesser(a, FloatVector.fromArray(WHOLE, other, of)).intoArray(into, at);
  }
}
