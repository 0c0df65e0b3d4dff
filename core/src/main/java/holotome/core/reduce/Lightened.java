package holotome.core.reduce;

import holotome.core.attribute.Attribute;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.PointDistances;
import holotome.core.spatial.Reprojection;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;

/** What the steps that make a lighter mesh have in common. */
final class Lightened {
  private static final int MOST_SAMPLES = 100_000;

  private Lightened() {}

  /** The mesh with its pictures' colour at the vertices instead of the pictures. */
  static Mesh colouredByVertex(Mesh mesh) {
    if (!mesh.hasTexture()) {
      return mesh;
    }
    Attribute colour =
        Attribute.of(
            Attribute.COLOUR,
            Attribute.Kind.COLOUR,
            Attribute.Domain.VERTEX,
            VertexColours.of(mesh),
            null);
    return mesh.with(
        mesh.attributes().without(Attribute.Kind.UV).with(colour),
        mesh.materials().stream().map(m -> new Material(m.name(), m.argb(), null)).toList());
  }

  /**
   * What errors count for where so many times the triangles are wanted: where edges are h long a
   * collapse costs about h to the sixth, and triangles are as 1 / h squared.
   */
  static float weight(double times) {
    return (float) Math.pow(times, 3);
  }

  /** What they count for at each vertex by what matters; null for the same everywhere. */
  static float[] weights(Mesh mesh) {
    float[] out = Importance.ofVertices(mesh);
    for (int v = 0; out != null && v < out.length; v++) {
      out[v] = weight(out[v]);
    }
    return out;
  }

  /** A new surface with what the old one beside it carries. */
  static Mesh carrying(Mesh old, Mesh now, Work work) {
    if (old.attributes().isEmpty()) {
      work.advance(1);
      return now;
    }
    Bvh bvh = Bvh.of(old, work.part(0.4, CoreWords.of("work.indexing-the-surface")));
    return Reprojection.of(old, bvh, now, work.part(0.6, CoreWords.of("work.carrying-over")));
  }

  /** How far a light mesh is from what it was made of and that from it, by samples, in words. */
  static String deviation(Mesh light, Mesh full, Work work) {
    SurfaceDistance there = distance(light, full, work.part(0.5, label()));
    SurfaceDistance back = distance(full, light, work.part(0.5, label()));
    SurfaceDistance off = there.worse(back);
    return inWords(off.rms(), off.max());
  }

  private static SurfaceDistance distance(Mesh from, Mesh to, Work work) {
    float[] points = SurfaceDistance.sample(from, samples(from));
    return SurfaceDistance.of(PointDistances.to(to, points, work));
  }

  /** The same with indices at hand, in base units: the worse of both ways. */
  static SurfaceDistance distance(Mesh light, Bvh ofLight, Mesh full, Bvh ofFull, Work work) {
    return distance(light, ofFull, work.part(0.5, label()))
        .worse(distance(full, ofLight, work.part(0.5, label())));
  }

  /** How far a scan is from a light mesh; not the other way, where that goes on beyond the scan. */
  static SurfaceDistance ofScan(Mesh scan, Bvh ofLight, Work work) {
    return distance(scan, ofLight, work);
  }

  private static SurfaceDistance distance(Mesh from, Bvh to, Work work) {
    return SurfaceDistance.of(
        SurfaceDistance.distances(SurfaceDistance.sample(from, samples(from)), to, work));
  }

  static String inWords(double rms, double most) {
    return CoreWords.of("decimate.deviation", Length.inBase(rms), Length.inBase(most));
  }

  private static String label() {
    return CoreWords.of("work.measuring-deviation");
  }

  private static int samples(Mesh mesh) {
    return (int) Math.min(MOST_SAMPLES, 4L * mesh.triangleCount() + 1000);
  }
}
