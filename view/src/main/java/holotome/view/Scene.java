package holotome.view;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Similarity;
import holotome.core.step.Maps;
import java.util.BitSet;

/**
 * What is drawn.
 *
 * @param place from the mesh's base coordinates to working space
 * @param selected triangles drawn with the hatch; null for none
 * @param maps for the looks that show baked pictures; null for none
 * @param grid whether the ground grid at Z = 0 is drawn
 */
public record Scene(
    Mesh mesh, Similarity place, Look look, BitSet selected, Maps maps, boolean grid) {

  public Scene withMesh(Mesh other) {
    return new Scene(other, place, look, null, maps, grid);
  }
}
