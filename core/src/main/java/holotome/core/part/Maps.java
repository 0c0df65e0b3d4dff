package holotome.core.part;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import java.util.Map;

/**
 * The baked pictures of a Cast.
 *
 * @param pictures one per kind, all of one size
 * @param missed 1 per texel (row 0 at the top) that has surface but found no Scan, 0 else
 * @param covered texels that have surface
 * @param missedCount of them, those whose rays missed
 */
public record Maps(Map<MapKind, Image> pictures, byte[] missed, int covered, int missedCount) {
  public Maps {
    pictures = Map.copyOf(pictures);
  }

  public long bytes() {
    return missed.length + pictures.values().stream().mapToLong(Image::bytes).sum();
  }

  public double missedShare() {
    return covered == 0 ? 0 : (double) missedCount / covered;
  }
}
