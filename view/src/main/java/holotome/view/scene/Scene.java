package holotome.view.scene;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import java.util.BitSet;
import java.util.List;

/**
 * What is drawn: a mesh that is worked on, and what is shown with it.
 *
 * @param subject what is picked and selected
 * @param layers shown with it: meshes hide each other by depth; lines and dots are drawn in this
 *     order over all meshes, where none of them is in front
 * @param grid whether the ground grid at Z = 0 is drawn
 * @param setting how it is lit and what is left out
 */
public record Scene(MeshLayer subject, List<Layer> layers, boolean grid, Setting setting) {

  private static final double FAR = 10;

  public Scene {
    layers = List.copyOf(layers);
  }

  public Scene(Mesh mesh, Similarity place, Look look, BitSet selected, Maps maps, boolean grid) {
    this(
        new MeshLayer(mesh, place, look, selected, maps, null, null, 1),
        List.of(),
        grid,
        Setting.PLAIN);
  }

  public Mesh mesh() {
    return subject.mesh();
  }

  public Similarity place() {
    return subject.place();
  }

  public Look look() {
    return subject.look();
  }

  public BitSet selected() {
    return subject.selected();
  }

  public Maps maps() {
    return subject.maps();
  }

  public Scene with(Setting other) {
    return new Scene(subject, layers, grid, other);
  }

  public Scene with(List<? extends Layer> others) {
    return new Scene(subject, List.copyOf(others), grid, setting);
  }

  /** One of its meshes alone, on the same ground and in the same light. */
  public Scene alone(MeshLayer mesh) {
    return new Scene(mesh, List.of(), grid, setting);
  }

  /**
   * What holds all of it, in working space: depth is told apart within it. Lines and marks farther
   * off than ten times the size of the meshes do not stretch it.
   */
  public Box bounds() {
    Box b = subject.bounds();
    for (Layer l : layers) {
      b = l instanceof MeshLayer ? b.union(l.bounds()) : b;
    }
    Box all = b;
    for (Layer l : layers) {
      all = l instanceof MeshLayer ? all : all.union(within(l.bounds(), b));
    }
    return all;
  }

  private static Box within(Box far, Box meshes) {
    double reach = FAR * meshes.diagonal();
    double[] low = meshes.min();
    double[] high = meshes.max();
    double[] from = far.min();
    double[] to = far.max();
    if (far.isEmpty()) {
      return far;
    }
    for (int k = 0; k < 3; k++) {
      from[k] = Math.clamp(from[k], low[k] - reach, high[k] + reach);
      to[k] = Math.clamp(to[k], low[k] - reach, high[k] + reach);
    }
    return new Box(from[0], from[1], from[2], to[0], to[1], to[2]);
  }
}
