package holotome.core.reduce;

import holotome.core.mesh.Mesh;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.Nearness;
import holotome.core.spatial.UsualSize;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.util.Arrays;
import java.util.BitSet;

/**
 * As few triangles as a tolerance allows: no point of either surface is farther than it from the
 * other, and that is proved ({@link Nearness}), both ways.
 *
 * <p>What single collapses add is bounded first, by a part of the tolerance. What then proves to be
 * too far off somewhere is done again with less allowed there, until all is shown to be near;
 * places that stay too far off are kept as they are in the end. So it always ends, with the mesh
 * itself if need be.
 *
 * <p>Two to six decimations and one or two proofs; a proof takes some 10 µs a triangle where the
 * tolerance is a tenth of an edge, 2 µs where it is half of one.
 */
final class Tolerance {
  /** Of the tolerance, what single collapses may add at first, in the mean. */
  private static final double FIRST = 0.9;

  /** Where more than one in so many vertices is too far off, less is allowed everywhere. */
  private static final int MANY = 40;

  private static final double LESS = 0.6;

  /** What is looked at quickly is to be nearer by a little than what is to be proved. */
  private static final double MARGIN = 0.97;

  private static final int MOST_TRIES = 30;

  private final Mesh mesh;
  private final Bvh full;
  private final double tolerance;
  private final Wedges wedges;
  private final boolean avoidsCrossings;

  private Tolerance(
      Mesh mesh, double tolerance, Wedges wedges, boolean avoidsCrossings, Work work) {
    this.avoidsCrossings = avoidsCrossings;
    this.wedges = wedges;
    this.mesh = mesh;
    this.tolerance = tolerance;
    full = Bvh.of(mesh, work);
  }

  /** Decimates; the mesh itself where nothing can go. */
  static Mesh within(Mesh mesh, double tolerance, Wedges wedges, Work work) {
    return within(mesh, tolerance, null, wedges, false, work);
  }

  /**
   * Decimates.
   *
   * @param weight per vertex what a collapse's error counts for; null for 1
   * @param avoidsCrossings whether the light mesh may cut through itself only where the mesh does
   */
  static Mesh within(
      Mesh mesh,
      double tolerance,
      float[] weight,
      Wedges wedges,
      boolean avoidsCrossings,
      Work work) {
    UsualSize size = UsualSize.of(mesh);
    Mesh near = size.to(mesh);
    Work indexing = work.part(0.05, CoreWords.of("work.indexing-the-surface"));
    Mesh light =
        new Tolerance(near, size.to(tolerance), wedges, avoidsCrossings, indexing)
            .run(weight, work.part(0.95, CoreWords.of("work.decimating")));
    return light == near ? mesh : size.back(light);
  }

  private Mesh run(float[] given, Work work) {
    float[] weight = given == null ? new float[mesh.vertexCount()] : given.clone();
    if (given == null) {
      Arrays.fill(weight, 1);
    }
    double limit = FIRST * tolerance;
    double left = 1;
    Course course = new Course();
    for (int i = 0; i < MOST_TRIES; i++) {
      // Each try is given a third of what is left: how many there will be nobody knows.
      Work part = work.part(left / 3, CoreWords.of("work.decimating"));
      left -= left / 3;
      Decimation.Result light =
          Decimation.of(
              mesh,
              0,
              limit,
              weight.clone(),
              wedges,
              course,
              part.part(0.4, CoreWords.of("work.decimating")));
      if (light.mesh() == mesh) {
        break;
      }
      boolean[] far = far(light, part.part(0.6, CoreWords.of("work.proving-the-tolerance")));
      int many = 0;
      for (boolean f : far) {
        many += f ? 1 : 0;
      }
      if (many == 0) {
        work.advance(left);
        return light.mesh();
      }
      if (many > far.length / MANY + 1) {
        limit *= LESS;
        course = new Course();
        continue;
      }
      for (int v = 0; v < weight.length; v++) {
        if (light.root()[v] >= 0 && far[light.root()[v]]) {
          weight[v] = Float.POSITIVE_INFINITY;
        }
      }
    }
    return mesh;
  }

  /** The light vertices where something is too far off, or at last not shown to be near. */
  private boolean[] far(Decimation.Result light, Work work) {
    Mesh m = light.mesh();
    Bvh bvh = Bvh.of(m, work.part(0.1, CoreWords.of("work.indexing-the-surface")));
    boolean[] out = new boolean[m.vertexCount()];
    String proving = CoreWords.of("work.proving-the-tolerance");
    double nearly = MARGIN * tolerance;
    mark(light, Nearness.seenFar(mesh, m, bvh, nearly, false, work.part(0.05, proving)), true, out);
    mark(
        light, Nearness.seenFar(m, mesh, full, nearly, true, work.part(0.05, proving)), false, out);
    for (boolean o : out) {
      if (o) {
        return out;
      }
    }
    if (avoidsCrossings) {
      BitSet crossing = Uncrossed.fresh(mesh, light, work.part(0, proving));
      Uncrossed.corners(m, crossing).stream().forEach(v -> out[v] = true);
      if (!crossing.isEmpty()) {
        return out;
      }
    }
    mark(light, Nearness.notShown(mesh, m, bvh, tolerance, work.part(0.4, proving)), true, out);
    mark(light, Nearness.notShown(m, mesh, full, tolerance, work.part(0.4, proving)), false, out);
    return out;
  }

  /** Marks the light vertices of triangles of the full mesh, or of the light one. */
  private void mark(Decimation.Result light, boolean[] far, boolean isFull, boolean[] out) {
    int[] corners = isFull ? mesh.triangles() : light.mesh().triangles();
    for (int h = 0; h < corners.length; h++) {
      int v = far[h / 3] ? isFull ? light.root()[corners[h]] : corners[h] : -1;
      if (v >= 0) {
        out[v] = true;
      }
    }
  }
}
