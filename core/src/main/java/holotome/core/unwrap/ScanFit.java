package holotome.core.unwrap;

import holotome.core.geometry.Vec;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;

/**
 * How fine the detail of a scan is that a texture could hold: so many points of colour along a
 * line. Of a scan with pictures the pixels that its surface has, else its vertices.
 *
 * @param perLength points to a unit of the mesh's length; 0 for a scan without any
 */
public record ScanFit(double perLength) {

  /** O(T). */
  public static ScanFit of(Mesh scan) {
    double area = Measures.area(scan);
    double points = scan.hasTexture() ? pixels(scan) : scan.vertexCount();
    return new ScanFit(area > 0 ? Math.sqrt(points / area) : 0);
  }

  /**
   * How fine texels are beside the scan's detail: 1 for as fine, 2 for twice as fine.
   *
   * @param texels to a unit of the mesh's length
   */
  public double share(double texels) {
    return perLength > 0 ? texels / perLength : 0;
  }

  private static double pixels(Mesh scan) {
    double sum = 0;
    float[] p = scan.uv().coords();
    int[] k = scan.uv().corners();
    for (int t = 0; t < scan.triangleCount(); t++) {
      Material m = scan.materialOf(t);
      Raster picture = m == null ? null : m.image();
      if (picture != null && Vec.length(Measures.cross(scan, t)) > 0) {
        int a = 2 * k[3 * t];
        int b = 2 * k[3 * t + 1];
        int c = 2 * k[3 * t + 2];
        double twice =
            ((double) p[b] - p[a]) * ((double) p[c + 1] - p[a + 1])
                - ((double) p[c] - p[a]) * ((double) p[b + 1] - p[a + 1]);
        sum += Math.abs(twice) / 2 * picture.width() * picture.height();
      }
    }
    return sum;
  }
}
