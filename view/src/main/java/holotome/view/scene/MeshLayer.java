package holotome.view.scene;

import holotome.core.geometry.Box;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.map.MapKind;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import java.util.BitSet;

/**
 * A mesh and how it is shown.
 *
 * @param place from the mesh's base coordinates to working space
 * @param selected triangles drawn with the hatch; null for none
 * @param maps for the looks that show baked pictures; null for none
 * @param alone the one map that {@link Look#BAKED} shows as it is, without light; null for all of
 *     them together
 * @param readings for looks that draw some ({@link Look#hasReadings}); null for none
 * @param strength 1 for a surface that hides what is behind it, less for one that lets it through
 */
public record MeshLayer(
    Mesh mesh,
    Similarity place,
    Look look,
    BitSet selected,
    Maps maps,
    MapKind alone,
    Readings readings,
    double strength)
    implements Layer {

  public MeshLayer {
    if (!(strength > 0 && strength <= 1)) {
      throw new IllegalArgumentException("a strength above 0 and up to 1 is wanted: " + strength);
    }
  }

  /** A mesh that hides what is behind it, nothing of it selected. */
  public MeshLayer(Mesh mesh, Similarity place, Look look) {
    this(mesh, place, look, null, null, null, null, 1);
  }

  /** The same, letting through what is behind it. */
  public MeshLayer faint(double by) {
    return new MeshLayer(mesh, place, look, selected, maps, alone, readings, by);
  }

  /**
   * A box that holds the mesh: its base box's corners, placed. A mesh without any has a small one.
   */
  @Override
  public Box bounds() {
    Box b = mesh.bounds();
    if (b.isEmpty()) {
      return new Box(-1, -1, -1, 1, 1, 1);
    }
    float[] corners = new float[24];
    for (int i = 0; i < 8; i++) {
      corners[3 * i] = (float) ((i & 1) == 0 ? b.minX() : b.maxX());
      corners[3 * i + 1] = (float) ((i & 2) == 0 ? b.minY() : b.maxY());
      corners[3 * i + 2] = (float) ((i & 4) == 0 ? b.minZ() : b.maxZ());
    }
    return Placing.bounds(corners, place);
  }
}
