package holotome.core.map;

import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;

/**
 * Which material or which island of the Scan a place belongs to, each in a colour of its own: by
 * the golden section the hues of any few lie far apart.
 */
final class NumberMap extends MapRule {
  private static final double GOLDEN = (Math.sqrt(5) - 1) / 2;
  private final boolean isMaterial;

  NumberMap(String of) {
    super(of, Values.NUMBER);
    isMaterial = of.equals("material");
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    Mesh scan = source.scan();
    int[] islands =
        isMaterial
            ? null
            : Islands.of(scan, work.part(1, CoreWords.of("work.finding-islands"))).ofTriangle();
    short[] materials = scan.material();
    return rays ->
        new Plain() {
          @Override
          float value(Hit hit) {
            if (islands != null) {
              return islands[hit.triangle];
            }
            return materials == null ? 0 : materials[hit.triangle];
          }

          @Override
          public void store(float[] mean, int at, double[] texel) {
            int rgb = colour((int) mean[at]);
            for (int k = 0; k < 3; k++) {
              texel[k] = (rgb >> 16 - 8 * k & 255) / 255.0;
            }
          }
        };
  }

  /** The colour of a number, 0xRRGGBB. */
  static int colour(int number) {
    double hue = GOLDEN * number - Math.floor(GOLDEN * number);
    double bright = 1 - 0.25 * (number / 3 % 3);
    int rgb = 0;
    for (int k = 0; k < 3; k++) {
      double turn = (5 - 2 * k + 6 * hue) % 6;
      double less = Math.max(0, Math.min(Math.min(turn, 4 - turn), 1));
      rgb = rgb << 8 | (int) (255 * bright * (1 - 0.85 * less) + 0.5);
    }
    return rgb;
  }
}
