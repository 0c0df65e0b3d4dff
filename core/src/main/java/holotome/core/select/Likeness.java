package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.step.Parameter;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.BitSet;
import java.util.Locale;

/**
 * Surface of a similar colour. Colours differ by the distance in CIE L*a*b* (CIE 15, the CIE 1976
 * difference), from sRGB (IEC 61966-2-1) with the white of D65; 2 is hardly to be seen, 100 is from
 * black to white.
 */
public record Likeness(
    @Parameter(help = "The colour, as #rrggbb") String colour,
    @Parameter(
            help = "How far a colour may differ (CIE 1976 difference)",
            min = 0,
            max = 200,
            preset = "12")
        double within)
    implements Rule {

  public Likeness {
    if (!colour.matches("#[0-9a-fA-F]{6}")) {
      throw Failure.usage(CoreWords.of("likeness.is-not-a-colour-write", colour));
    }
  }

  public static Likeness of(int rgb, double within) {
    return new Likeness(String.format(Locale.ROOT, "#%06x", rgb & 0xffffff), within);
  }

  @Override
  public BitSet select(Mesh mesh, Frame frame, Work work) {
    if (!mesh.hasColour()) {
      throw Failure.cannot(CoreWords.of("likeness.the-scan-has-no-colour"));
    }
    float[] want = lab(Integer.parseInt(colour.substring(1), 16));
    double limit = within * within;
    return TriangleTest.select(
        mesh,
        work,
        (t, x, y, z) -> {
          float[] have = lab(colourOf(mesh, t));
          double l = have[0] - want[0];
          double a = have[1] - want[1];
          double b = have[2] - want[2];
          return l * l + a * a + b * b <= limit;
        });
  }

  /** The colour at the middle of a triangle, 0xRRGGBB: of its vertices, else of its texture. */
  public static int colourOf(Mesh mesh, int t) {
    if (mesh.colours() != null) {
      int[] c = mesh.colours();
      int[] tri = mesh.triangles();
      int p = c[tri[3 * t]];
      int q = c[tri[3 * t + 1]];
      int r = c[tri[3 * t + 2]];
      int out = 0;
      for (int shift = 0; shift <= 16; shift += 8) {
        out |= ((p >> shift & 255) + (q >> shift & 255) + (r >> shift & 255) + 1) / 3 << shift;
      }
      return out;
    }
    Material m = mesh.materialOf(t);
    Raster image = m == null ? null : m.image();
    if (image == null) {
      return 0;
    }
    float[] uv = mesh.uv().coords();
    int[] corners = mesh.uv().corners();
    double u = 0;
    double v = 0;
    for (int k = 0; k < 3; k++) {
      u += uv[2 * corners[3 * t + k]] / 3.0;
      v += uv[2 * corners[3 * t + k] + 1] / 3.0;
    }
    return image.sample((float) u, (float) v) & 0xffffff;
  }

  /** sRGB as L*, a*, b*. */
  public static float[] lab(int rgb) {
    double r = LINEAR[rgb >> 16 & 255];
    double g = LINEAR[rgb >> 8 & 255];
    double b = LINEAR[rgb & 255];
    double x = f((0.4124 * r + 0.3576 * g + 0.1805 * b) / 0.9505);
    double y = f(0.2126 * r + 0.7152 * g + 0.0722 * b);
    double z = f((0.0193 * r + 0.1192 * g + 0.9505 * b) / 1.0890);
    return new float[] {(float) (116 * y - 16), (float) (500 * (x - y)), (float) (200 * (y - z))};
  }

  private static double f(double t) {
    return t > 216.0 / 24389 ? Math.cbrt(t) : (24389.0 / 27 * t + 16) / 116;
  }

  private static final double[] LINEAR = new double[256];

  static {
    for (int i = 0; i < 256; i++) {
      double c = i / 255.0;
      LINEAR[i] = c <= 0.04045 ? c / 12.92 : Math.pow((c + 0.055) / 1.055, 2.4);
    }
  }
}
