package holotome.view.scene;

import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import java.util.BitSet;

/**
 * What is drawn.
 *
 * @param place from the mesh's base coordinates to working space
 * @param selected triangles drawn with the hatch; null for none
 * @param maps for the looks that show baked pictures; null for none
 * @param grid whether the ground grid at Z = 0 is drawn
 * @param setting how it is lit and what is left out
 */
public record Scene(
    Mesh mesh,
    Similarity place,
    Look look,
    BitSet selected,
    Maps maps,
    boolean grid,
    Setting setting) {

  public Scene(Mesh mesh, Similarity place, Look look, BitSet selected, Maps maps, boolean grid) {
    this(mesh, place, look, selected, maps, grid, Setting.PLAIN);
  }

  public Scene with(Setting other) {
    return new Scene(mesh, place, look, selected, maps, grid, other);
  }
}
