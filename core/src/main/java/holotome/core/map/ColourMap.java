package holotome.core.map;

import holotome.core.image.Image;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;

/** The Scan's colour, from its pictures or its vertices. */
final class ColourMap extends MapRule {

  ColourMap() {
    super("colour", 3, Image.Sample.BYTE, Image.Space.SRGB, Shown.COLOUR);
  }

  @Override
  public Taker taker(Mesh scan) {
    return new Taker() {
      @Override
      public int sums() {
        return 3;
      }

      @Override
      public void take(Hit hit, float[] sum, int at) {
        int c = VertexColours.at(scan, hit.triangle, hit.u, hit.v);
        sum[at] += c >> 16 & 255;
        sum[at + 1] += c >> 8 & 255;
        sum[at + 2] += c & 255;
      }

      @Override
      public void store(float[] sum, int at, int samples, double[] stored) {
        for (int k = 0; k < 3; k++) {
          stored[k] = (double) sum[at + k] / samples;
        }
      }
    };
  }
}
