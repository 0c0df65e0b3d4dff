package holotome.core.part;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule.Values;
import holotome.core.map.MissedPatch;
import holotome.core.map.Range;
import holotome.core.map.Smaller;
import holotome.core.task.Work;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;

/**
 * The baked pictures of a Cast. Where its charts lie in several squares of the texture, one picture
 * covers all of them, from the origin to the right and up.
 *
 * @param size width and height of one square, in pixels
 * @param pictures one per kind, all of one size
 * @param ranges of those pictures that hold measures as they are
 * @param missed why the rays of a texel did not find the Scan ({@link holotome.core.map.Missed}),
 *     one channel
 * @param covered texels that have surface
 * @param missedCount of them, those without a true value
 * @param patches where, and why, those of most texels first
 */
public record Maps(
    int size,
    Map<MapKind, Image> pictures,
    Map<MapKind, Range> ranges,
    Image missed,
    int covered,
    int missedCount,
    List<MissedPatch> patches) {
  public Maps {
    pictures = Map.copyOf(pictures);
    ranges = Map.copyOf(ranges);
    patches = List.copyOf(patches);
  }

  /** The same with another picture of a kind. */
  public Maps with(MapKind kind, Image picture) {
    Map<MapKind, Image> all = new EnumMap<>(MapKind.class);
    all.putAll(pictures);
    all.put(kind, picture);
    return new Maps(size, all, ranges, missed, covered, missedCount, patches);
  }

  /** Another one with the same pictures. */
  public Maps alike() {
    return new Maps(size, pictures, ranges, missed, covered, missedCount, patches);
  }

  /** All pictures halved, each by its own rule, until a square has no more pixels to its side. */
  public Maps upTo(int pixels, Work work) {
    if (size <= pixels) {
      return this;
    }
    Map<MapKind, Image> all = new EnumMap<>(MapKind.class);
    int most = pixels * Math.max(columns(), rows());
    for (Map.Entry<MapKind, Image> e : pictures.entrySet()) {
      all.put(e.getKey(), Smaller.upTo(e.getValue(), e.getKey().rule().values(), most, work));
    }
    Image less = Smaller.upTo(missed, Values.NUMBER, most, work);
    int side = less.width() / columns();
    return new Maps(side, all, ranges, less, covered, missedCount, patches);
  }

  /** Those of one square of the texture alone; what they say of texels is of all squares. */
  public Maps square(int column, int row) {
    int left = column * size;
    int top = (rows() - 1 - row) * size;
    Map<MapKind, Image> all = new EnumMap<>(MapKind.class);
    pictures.forEach((kind, p) -> all.put(kind, p.cut(left, top, size, size)));
    Image own = missed.cut(left, top, size, size);
    return new Maps(size, all, ranges, own, covered, missedCount, patches);
  }

  /** How many squares of the texture they cover side by side. */
  public int columns() {
    return missed.width() / size;
  }

  /** How many above one another. */
  public int rows() {
    return missed.height() / size;
  }

  public long bytes() {
    return missed.bytes() + pictures.values().stream().mapToLong(Image::bytes).sum();
  }

  /**
   * The same without what another shares: touched-up maps hold few squares of their own.
   *
   * @param other null for none
   */
  public long bytesBeside(Maps other) {
    if (other == null) {
      return bytes();
    }
    long sum = missed.bytesBeside(other.missed);
    for (Map.Entry<MapKind, Image> e : pictures.entrySet()) {
      sum += e.getValue().bytesBeside(other.pictures.get(e.getKey()));
    }
    return sum;
  }

  public double missedShare() {
    return covered == 0 ? 0 : (double) missedCount / covered;
  }
}
