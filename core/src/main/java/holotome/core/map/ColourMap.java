package holotome.core.map;

import holotome.core.geometry.Vec;
import holotome.core.image.LinearLight;
import holotome.core.mesh.Material;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;

/**
 * The Scan's colour, from its pictures, over what a sample covers of them, or from its vertices;
 * mixed as light.
 */
final class ColourMap extends MapRule {

  ColourMap() {
    super("colour", Values.COLOUR);
  }

  @Override
  public Asking asking(MapSource source, Work work) {
    Mesh scan = source.scan();
    PictureLevels pictures = new PictureLevels(scan.materials());
    return rays -> new ColourTaker(scan, pictures);
  }

  private static final class ColourTaker implements Taker {
    private final Mesh scan;
    private final int[] colours;
    private final PictureLevels pictures;
    private final float[] light = new float[3];
    private final double[] cross = new double[3];

    ColourTaker(Mesh scan, PictureLevels pictures) {
      this.scan = scan;
      this.pictures = pictures;
      colours = scan.colours();
    }

    @Override
    public int numbers() {
      return 3;
    }

    @Override
    public void take(Hit hit, float[] out, int at) {
      Material m = scan.materialOf(hit.triangle);
      if (m != null && m.image() != null && scan.uv() != null) {
        fromPicture(hit);
        System.arraycopy(light, 0, out, at, 3);
        return;
      }
      int[] tri = scan.triangles();
      int plain = m != null ? m.argb() : 0xffb0aca4;
      int a = colours == null ? plain : colours[tri[3 * hit.triangle]];
      int b = colours == null ? plain : colours[tri[3 * hit.triangle + 1]];
      int c = colours == null ? plain : colours[tri[3 * hit.triangle + 2]];
      float w = 1 - hit.u - hit.v;
      for (int k = 0; k < 3; k++) {
        int shift = 16 - 8 * k;
        out[at + k] =
            LinearLight.ofByte(a >> shift & 255) * w
                + LinearLight.ofByte(b >> shift & 255) * hit.u
                + LinearLight.ofByte(c >> shift & 255) * hit.v;
      }
    }

    private void fromPicture(Hit hit) {
      float[] uv = scan.uv().coords();
      int[] c = scan.uv().corners();
      int a = 2 * c[3 * hit.triangle];
      int b = 2 * c[3 * hit.triangle + 1];
      int d = 2 * c[3 * hit.triangle + 2];
      float w = 1 - hit.u - hit.v;
      float u = uv[a] * w + uv[b] * hit.u + uv[d] * hit.v;
      float v = uv[a + 1] * w + uv[b + 1] * hit.u + uv[d + 1] * hit.v;
      float square =
          Math.abs(
              (uv[b] - uv[a]) * (uv[d + 1] - uv[a + 1])
                  - (uv[d] - uv[a]) * (uv[b + 1] - uv[a + 1]));
      double per = Math.sqrt(square / doubleArea(hit.triangle));
      pictures.light(material(hit.triangle), u, v, hit.footprint * per, light);
    }

    private int material(int triangle) {
      short[] of = scan.material();
      return of == null ? 0 : of[triangle];
    }

    /** Above 0, for what has none as well. */
    private double doubleArea(int triangle) {
      Measures.cross(scan.xyz(), scan.triangles(), triangle, cross);
      return Math.max(1e-300, Vec.length(cross));
    }

    @Override
    public void store(float[] mean, int at, double[] texel) {
      for (int k = 0; k < 3; k++) {
        texel[k] = LinearLight.stored(Math.clamp(mean[at + k], 0f, 1f));
      }
    }
  }
}
