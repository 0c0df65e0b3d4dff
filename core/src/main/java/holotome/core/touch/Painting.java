package holotome.core.touch;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.part.Maps;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;

/** Puts what comes to texels into the maps. */
final class Painting {
  private final Layout layout;
  private final Touch touch;

  /**
   * @param layout of the maps as they were before the touch
   */
  Painting(Layout layout, Touch touch) {
    this.layout = layout;
    this.touch = touch;
  }

  /**
   * Texels of a square that are to be made.
   *
   * @param at places in its arrays
   */
  record Part(Region.Tile tile, int[] at) {}

  /** How much a texel takes of what comes. */
  private double share(double far) {
    double soft = touch.soft() / 100;
    double t = soft > 0 ? Math.clamp((far - (1 - soft)) / soft, 0, 1) : far < 1 ? 0 : 1;
    return touch.strength() / 100 * (1 - t * t * (3 - 2 * t));
  }

  /**
   * Makes texels.
   *
   * @param onto the maps that are changed: those before, or what was made of them so far
   * @param coming one a thread
   * @param rings into the gutters
   */
  Maps paint(Maps onto, List<Part> parts, Supplier<Coming> coming, int rings, Work work) {
    List<Image.Editor> editors = new ArrayList<>();
    int[] channels = new int[layout.kinds().size()];
    for (MapKind k : layout.kinds()) {
      Image of = onto.pictures().get(k);
      channels[editors.size()] = of.channels();
      editors.add(of.edit());
    }
    int[][] made = new int[parts.size()][];
    Parallel.range(
        parts.size(),
        1,
        work,
        (from, to) -> {
          Coming comes = coming.get();
          CarriedMap[] maps = layout.carried(layout.maps());
          Spot spot = new Spot(layout.ground());
          for (int i = from; i < to; i++) {
            work.check();
            made[i] = paint(parts.get(i), comes, maps, spot, editors);
          }
        });
    Gutter gutter = new Gutter(layout.ground());
    for (int i = 0; i < parts.size(); i++) {
      for (int at : made[i]) {
        gutter.changed(parts.get(i).tile.x(at), parts.get(i).tile.y(at));
      }
    }
    gutter.fill(editors, channels, rings);
    Maps out = onto;
    for (int m = 0; m < editors.size(); m++) {
      out = out.with(layout.kinds().get(m), editors.get(m).done());
    }
    return out;
  }

  /** Makes texels of one square; those that were. */
  private int[] paint(
      Part part, Coming coming, CarriedMap[] maps, Spot spot, List<Image.Editor> editors) {
    Region.Tile tile = part.tile;
    double[][] own = layout.room();
    double[][] come = layout.room();
    double[] mixed = new double[4];
    int[] made = new int[part.at.length];
    int n = 0;
    for (int at : part.at) {
      double share = share(tile.far[at]);
      if (share <= 0) {
        continue;
      }
      spot.set(tile.triangle[at], tile.second[at], tile.third[at]);
      for (int m = 0; m < maps.length && (share < 1 || coming.needsOwn()); m++) {
        maps[m].own(tile.x(at), tile.y(at), spot, own[m]);
      }
      if (!coming.at(tile, at, spot, own, come)) {
        continue;
      }
      for (int m = 0; m < maps.length; m++) {
        maps[m].mix(own[m], come[m], share, mixed);
        maps[m].store(editors.get(m), tile.x(at), tile.y(at), spot, mixed);
      }
      made[n++] = at;
    }
    return Arrays.copyOf(made, n);
  }

  /** All texels of a region. */
  static List<Part> all(Region region) {
    List<Part> out = new ArrayList<>();
    for (Region.Tile t : region.tiles()) {
      out.add(new Part(t, t.takeFresh()));
    }
    return out;
  }
}
