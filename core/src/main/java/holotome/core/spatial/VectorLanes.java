package holotome.core.spatial;

import jdk.incubator.vector.ByteVector;
import jdk.incubator.vector.FloatVector;
import jdk.incubator.vector.IntVector;
import jdk.incubator.vector.VectorMask;
import jdk.incubator.vector.VectorOperators;
import jdk.incubator.vector.VectorSpecies;

/**
 * All eight at once, in the processor's vectors. The module that this needs is there where the
 * program was started with it only.
 */
final class VectorLanes extends Lanes {
  private static final VectorSpecies<Float> EIGHT = FloatVector.SPECIES_256;
  private static final VectorSpecies<Byte> BYTES = ByteVector.SPECIES_64;

  private VectorLanes() {}

  /**
   * Null where the processor's vectors are shorter: taking them apart would be slower than none.
   */
  static Lanes made() {
    return FloatVector.SPECIES_PREFERRED.length() >= Bvh.WIDE ? new VectorLanes() : null;
  }

  private static FloatVector steps(byte[] q, int at) {
    return (FloatVector)
        ByteVector.fromArray(BYTES, q, at).convertShape(VectorOperators.B2F, EIGHT, 0);
  }

  /**
   * Floats as whole numbers, whose order is the same from 0 on, and all below 0 come before them:
   * the larger of two is found by one instruction, of floats by six.
   */
  private static IntVector bits(FloatVector v) {
    return v.reinterpretAsInts();
  }

  private static int bits(float f) {
    return Float.floatToRawIntBits(f);
  }

  @Override
  int boxes(BvhQuery ray, int node, float to) {
    float[] f = ray.bvh.frames;
    byte[] q = ray.bvh.planes;
    int at = 6 * node;
    float ax = f[at + 3] * ray.ix;
    float ay = f[at + 4] * ray.iy;
    float az = f[at + 5] * ray.iz;
    float bx = (f[at] - ray.ox) * ray.ix;
    float by = (f[at + 1] - ray.oy) * ray.iy;
    float bz = (f[at + 2] - ray.oz) * ray.iz;
    int p = 48 * node;
    FloatVector nx = steps(q, p + ray.nearX).mul(ax).add(bx);
    FloatVector ny = steps(q, p + ray.nearY).mul(ay).add(by);
    FloatVector nz = steps(q, p + ray.nearZ).mul(az).add(bz);
    FloatVector fx = steps(q, p + 24 - ray.nearX).mul(ax).add(bx);
    FloatVector fy = steps(q, p + 40 - ray.nearY).mul(ay).add(by);
    FloatVector fz = steps(q, p + 56 - ray.nearZ).mul(az).add(bz);
    FloatVector near =
        bits(nx).max(bits(ny)).max(bits(nz)).max(bits(ray.from)).reinterpretAsFloats();
    FloatVector far = bits(fx).min(bits(fy)).min(bits(fz)).min(bits(to)).reinterpretAsFloats();
    near.intoArray(ray.at, 0);
    return (int) near.compare(VectorOperators.LE, far.mul(BEYOND)).toLong();
  }

  @Override
  int triangles(BvhQuery ray, int first, int count, float to, BvhQuery.Facing facing) {
    float[] p = ray.bvh.corners;
    int x = 9 * first + ray.kx * count;
    int y = 9 * first + ray.ky * count;
    int z = 9 * first + ray.kz * count;
    int next = 3 * count;
    FloatVector az = FloatVector.fromArray(EIGHT, p, z).sub(ray.pz);
    FloatVector bz = FloatVector.fromArray(EIGHT, p, z + next).sub(ray.pz);
    FloatVector cz = FloatVector.fromArray(EIGHT, p, z + 2 * next).sub(ray.pz);
    FloatVector ax = FloatVector.fromArray(EIGHT, p, x).sub(ray.px).sub(az.mul(ray.sx));
    FloatVector ay = FloatVector.fromArray(EIGHT, p, y).sub(ray.py).sub(az.mul(ray.sy));
    FloatVector bx = FloatVector.fromArray(EIGHT, p, x + next).sub(ray.px).sub(bz.mul(ray.sx));
    FloatVector by = FloatVector.fromArray(EIGHT, p, y + next).sub(ray.py).sub(bz.mul(ray.sy));
    FloatVector cx = FloatVector.fromArray(EIGHT, p, x + 2 * next).sub(ray.px).sub(cz.mul(ray.sx));
    FloatVector cy = FloatVector.fromArray(EIGHT, p, y + 2 * next).sub(ray.py).sub(cz.mul(ray.sy));
    FloatVector u = cx.mul(by).sub(cy.mul(bx));
    FloatVector v = ax.mul(cy).sub(ay.mul(cx));
    FloatVector w = bx.mul(ay).sub(by.mul(ax));
    long in = 0;
    if (facing != BvhQuery.Facing.BACK) {
      VectorMask<Float> front = u.compare(VectorOperators.GE, 0f);
      front = front.and(v.compare(VectorOperators.GE, 0f));
      in = front.and(w.compare(VectorOperators.GE, 0f)).toLong();
    }
    if (facing != BvhQuery.Facing.FRONT) {
      VectorMask<Float> back = u.compare(VectorOperators.LE, 0f);
      back = back.and(v.compare(VectorOperators.LE, 0f));
      in |= back.and(w.compare(VectorOperators.LE, 0f)).toLong();
    }
    in &= (1L << count) - 1;
    if (in == 0) {
      return 0;
    }
    FloatVector det = u.add(v).add(w);
    FloatVector t = u.mul(az).add(v.mul(bz)).add(w.mul(cz)).mul(ray.sz).div(det);
    VectorMask<Float> within =
        t.compare(VectorOperators.GE, ray.from).and(t.compare(VectorOperators.LE, to));
    in &= within.toLong() & det.compare(VectorOperators.NE, 0f).toLong();
    if (in != 0) {
      t.intoArray(ray.at, 0);
      v.div(det).intoArray(ray.second, 0);
      w.div(det).intoArray(ray.third, 0);
    }
    return (int) in;
  }

  @Override
  int near(BvhQuery point, int node, float reach) {
    float[] f = point.bvh.frames;
    byte[] q = point.bvh.planes;
    int at = 6 * node;
    float sx = f[at + 3];
    float sy = f[at + 4];
    float sz = f[at + 5];
    float x = f[at] - point.ox;
    float y = f[at + 1] - point.oy;
    float z = f[at + 2] - point.oz;
    int p = 48 * node;
    FloatVector dx = beyond(steps(q, p), steps(q, p + 24), sx, x);
    FloatVector dy = beyond(steps(q, p + 8), steps(q, p + 32), sy, y);
    FloatVector dz = beyond(steps(q, p + 16), steps(q, p + 40), sz, z);
    FloatVector d = dx.mul(dx).add(dy.mul(dy)).add(dz.mul(dz));
    d.intoArray(point.at, 0);
    return (int) d.compare(VectorOperators.LE, reach).toLong();
  }

  @Override
  int nearTriangles(BvhQuery point, int first, int count, float reach) {
    float[] p = point.bvh.corners;
    FloatVector dx = outside(p, 9 * first, count, point.ox);
    FloatVector dy = outside(p, 9 * first + count, count, point.oy);
    FloatVector dz = outside(p, 9 * first + 2 * count, count, point.oz);
    FloatVector d = dx.mul(dx).add(dy.mul(dy)).add(dz.mul(dz));
    long in = d.compare(VectorOperators.LE, reach * BEYOND).toLong();
    return (int) in & (1 << count) - 1;
  }

  /** How far a place lies outside of what three corners reach over along an axis. */
  private static FloatVector outside(float[] p, int at, int count, float x) {
    FloatVector a = FloatVector.fromArray(EIGHT, p, at).sub(x);
    FloatVector b = FloatVector.fromArray(EIGHT, p, at + 3 * count).sub(x);
    FloatVector c = FloatVector.fromArray(EIGHT, p, at + 6 * count).sub(x);
    FloatVector low = a.blend(b, b.compare(VectorOperators.LT, a));
    low = low.blend(c, c.compare(VectorOperators.LT, low));
    FloatVector high = a.blend(b, b.compare(VectorOperators.GT, a));
    high = high.blend(c, c.compare(VectorOperators.GT, high));
    return bits(low).max(bits(high.neg())).max(0).reinterpretAsFloats();
  }

  /** How far a place lies outside of boxes along an axis. */
  private static FloatVector beyond(FloatVector low, FloatVector high, float step, float origin) {
    IntVector below = bits(low.mul(step).add(origin));
    IntVector above = bits(high.mul(step).add(origin).neg());
    return below.max(above).max(0).reinterpretAsFloats();
  }
}
