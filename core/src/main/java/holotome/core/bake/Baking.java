package holotome.core.bake;

import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule;
import holotome.core.map.MapSettings;
import holotome.core.map.MapSource;
import holotome.core.map.Range;
import holotome.core.map.SkyRays;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Places;
import holotome.core.mesh.UvSquares;
import holotome.core.part.GrowingMaps;
import holotome.core.part.Maps;
import holotome.core.spatial.Bvh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Charts;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Queue;
import java.util.concurrent.ConcurrentLinkedQueue;
import java.util.function.Supplier;

/**
 * Ray baking: from each sample of a texel, a ray starts on the cage, a little outside the Cast, and
 * runs inwards to as far behind it ({@link Aim}); what it finds of the Scan ({@link ScanRay}) is
 * what the maps ask ({@link MapRule}), and the samples around each texel make it ({@link
 * TexelBlock}).
 *
 * <p>The tiles of the pictures are done in parallel, in blocks; each texel is written by one block
 * only, and what it comes to does not depend on which.
 */
final class Baking {
  /** Texels of a block's side, for up to 9 samples a texel, and for more. */
  private static final int BLOCK = 64;

  private static final int SMALL_BLOCK = 32;

  private static final int FEW_SAMPLES = 3;
  private static final long MOST_TEXELS = 1L << 30;

  /** Holes are no wider than twice this share of the Cast's diagonal. */
  private static final double GAP = 0.5;

  private final Settings settings;
  private final Mesh scan;
  private final Mesh cast;
  private final List<MapKind> kinds;
  private final int columns;
  private final int rows;

  /**
   * How it is baked.
   *
   * @param size texels of the side of a square of the texture
   * @param side samples a texel, across and down
   * @param reach how far out rays start, in base units; null for an automatic cage
   * @param axis that rays run back along, in base coordinates; null for none
   */
  record Settings(
      List<MapKind> kinds,
      int size,
      int side,
      int padding,
      boolean fillsWhole,
      boolean fillsAround,
      Filter filter,
      Along along,
      double[] axis,
      Double reach,
      MapSettings rules) {}

  private Baking(Mesh scan, Mesh cast, Settings settings) {
    this.scan = scan;
    this.cast = cast;
    this.settings = settings;
    Places.check(scan, cast);
    // Each once, in the order of the kinds, whatever the order asked for.
    kinds = settings.kinds.stream().distinct().sorted().toList();
    UvSquares squares = UvSquares.of(cast.uv());
    columns = squares.columns();
    rows = squares.rows();
    if ((long) settings.size * columns * settings.size * rows > MOST_TEXELS) {
      throw Failure.cannot(CoreWords.of("baking.too-many-texels", columns, rows, settings.size));
    }
  }

  static Maps run(Mesh scan, Mesh cast, Settings settings, Work work) {
    return new Baking(scan, cast, settings).bake(work);
  }

  private Maps bake(Work work) {
    int size = settings.size;
    int width = size * columns;
    int height = size * rows;
    Bvh index = Bvh.of(scan, work.part(0.1, CoreWords.of("baking.indexing-the-scan")));
    float[] out = cage(index, work.part(0.06, CoreWords.of("work.making-the-cage")));
    MapSource source = new MapSource(scan, index, settings.rules);
    Work readying = work.part(0.04, CoreWords.of("baking.getting-ready"));
    List<MapRule> rules = kinds.stream().map(MapKind::rule).toList();
    List<MapRule.Asking> asking = new ArrayList<>();
    List<Image.Editor> pictures = new ArrayList<>();
    double[] full = new double[rules.size()];
    for (MapRule r : rules) {
      asking.add(r.asking(source, readying));
      Image.Sample sample = r.sample(settings.rules.isFine());
      full[pictures.size()] = sample.one();
      pictures.add(Image.begun(width, height, r.channels(), sample, r.space()));
    }
    Image.Editor missed =
        Image.blank(width, height, 1, Image.Sample.BYTE, Image.Space.LINEAR).edit();
    byte[] covered = new byte[Math.multiplyExact(width, height)];
    int block = settings.side <= FEW_SAMPLES ? BLOCK : SMALL_BLOCK;
    int[] chart = settings.filter == Filter.BOX ? null : Charts.of(cast, readying).ofTriangle();
    TexelBlock.Sheet sheet =
        new TexelBlock.Sheet(
            cast,
            size,
            rows,
            block,
            settings.side,
            settings.filter,
            settings.fillsAround,
            chart,
            rules,
            pictures,
            full,
            missed,
            covered,
            width,
            height);
    CastBlocks blocks = CastBlocks.of(cast, size, columns, rows, block, settings.filter.reach());
    Aim.Ground ground = Aim.Ground.of(cast, out, settings.along, settings.axis);
    Bvh castIndex = Bvh.of(cast, Work.unwatched());
    Supplier<RimVertices> rims = new Once<>(() -> new RimVertices(scan));
    double gap = GAP * cast.bounds().diagonal();
    Queue<TexelBlock> idle = new ConcurrentLinkedQueue<>();
    work.offer(new GrowingMaps(cast, growing(pictures, missed)));
    int per = Image.TILE / block;
    int across = (blocks.across() + per - 1) / per;
    int down = (blocks.down() + per - 1) / per;
    Parallel.range(
        across * down,
        1,
        work.part(0.7, CoreWords.of("work.baking")),
        (from, to) -> {
          TexelBlock baker = idle.poll();
          if (baker == null) {
            SkyRays rays = new SkyRays(source);
            baker =
                new TexelBlock(
                    sheet,
                    asking.stream().map(a -> a.taker(rays)).toList(),
                    new Aim(ground),
                    new ScanRay(scan, index, cast, castIndex, rims, gap));
          }
          for (int tile = from; tile < to; tile++) {
            for (int k = 0; k < per * per; k++) {
              int column = tile % across * per + k % per;
              int row = tile / across * per + k / per;
              if (column < blocks.across() && row < blocks.down()) {
                int b = row * blocks.across() + column;
                baker.bake(
                    column,
                    row,
                    blocks.triangles(),
                    blocks.start()[b],
                    blocks.start()[b + 1],
                    work);
              }
            }
          }
          idle.add(baker);
        });
    Map<MapKind, Image> done = new EnumMap<>(MapKind.class);
    Map<MapKind, Range> ranges = new EnumMap<>(MapKind.class);
    for (int k = 0; k < kinds.size(); k++) {
      Work share = work.part(0.1 / kinds.size(), CoreWords.of("work.padding"));
      Image picture = pictures.get(k).done();
      if (rules.get(k).values().isMeasured()) {
        ranges.put(kinds.get(k), Ranges.of(picture, rules.get(k).values(), covered));
      }
      Padding.fill(pictures.get(k), picture, covered, settings.padding, settings.fillsWhole, share);
      done.put(kinds.get(k), picture);
    }
    return new Maps(
        size,
        done,
        ranges,
        missed.done(),
        idle.stream().mapToInt(b -> b.coveredCount).sum(),
        idle.stream().mapToInt(b -> b.missedCount).sum(),
        new MissedPatches(missed.done())
            .found(size, rows, (u, v) -> blocks.triangleAt(cast, size, rows, block, u, v)));
  }

  /** The pictures as they are, to be looked at while texels are still to come. */
  private Maps growing(List<Image.Editor> pictures, Image.Editor missed) {
    Map<MapKind, Image> now = new EnumMap<>(MapKind.class);
    for (int k = 0; k < kinds.size(); k++) {
      now.put(kinds.get(k), pictures.get(k).done());
    }
    return new Maps(settings.size, now, Map.of(), missed.done(), 0, 0, List.of());
  }

  private float[] cage(Bvh index, Work work) {
    if (settings.reach == null) {
      return Cage.of(cast, scan, index, work);
    }
    float[] out = new float[cast.vertexCount()];
    java.util.Arrays.fill(out, settings.reach.floatValue());
    return Cage.painted(cast, out);
  }

  /** What is made when it is first asked for, and then kept. */
  private static final class Once<T> implements Supplier<T> {
    private final Supplier<T> maker;
    private T made;

    Once(Supplier<T> maker) {
      this.maker = maker;
    }

    @Override
    public synchronized T get() {
      if (made == null) {
        made = maker.get();
      }
      return made;
    }
  }
}
