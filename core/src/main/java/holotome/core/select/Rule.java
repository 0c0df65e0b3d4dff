package holotome.core.select;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import java.util.BitSet;

/**
 * What is to be selected, described by geometry or colour, so that it means the same place on
 * another scan of it. Lengths and points are in working space.
 */
public sealed interface Rule
    permits Fence, Region, Heights, Likeness, Facing, IslandSizes, Rim, Linked, BrushStroke {

  /**
   * The triangles that the rule names, in the order of the mesh; the same on any number of threads.
   */
  BitSet select(Mesh mesh, Frame frame, Work work);
}
