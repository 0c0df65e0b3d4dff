package holotome.view;

import holotome.core.mesh.Box;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Placing;
import holotome.core.mesh.Similarity;
import holotome.core.task.Work;
import java.util.LinkedHashMap;
import java.util.Map;

/**
 * Makes pictures of a scene: a visibility buffer on all cores, then a colour per pixel.
 *
 * <p>Keeps its working arrays and what it prepared of the last few meshes; one thread at a time.
 */
public final class Renderer {
  private static final int KEPT = 3;

  private final Rasteriser rasteriser = new Rasteriser();
  private final Map<Mesh, Prepared> prepared = new LinkedHashMap<>();
  private VisibilityBuffer spare;

  public Renderer() {}

  /**
   * A picture and what is seen in it.
   *
   * @param pixels 0xAARRGGBB by rows, opaque
   * @param buffer at the same size; good until the renderer's next picture
   * @param toPixels from working space to pixels, as {@link Camera#toPixels}
   */
  public record Picture(
      int width, int height, int[] pixels, VisibilityBuffer buffer, double[] toPixels) {}

  /** Draws a scene at a size. */
  public Picture draw(Scene scene, Camera camera, int width, int height) {
    return draw(scene, camera, width, height, Work.unwatched());
  }

  /** Draws a scene at a size; may be cancelled, and then throws a Failure that says so. */
  public Picture draw(Scene scene, Camera camera, int width, int height, Work work) {
    Box box = bounds(scene.mesh(), scene.place());
    double[] toPixels = camera.toPixels(width, height, box);
    if (spare == null || spare.width() != width || spare.height() != height) {
      spare = new VisibilityBuffer(width, height);
    }
    VisibilityBuffer buffer = spare;
    Projection projection = Projection.of(scene.mesh(), scene.place(), toPixels);
    rasteriser.draw(scene.mesh(), projection, buffer, work);
    int[] pixels = new int[width * height];
    new Shader(scene, prepare(scene.mesh()), camera, projection, buffer, box).shade(pixels, work);
    return new Picture(width, height, pixels, buffer, toPixels);
  }

  /** Draws at twice the size and averages: edges without steps. The buffer is the large one's. */
  public Picture drawSmooth(Scene scene, Camera camera, int width, int height) {
    return drawSmooth(scene, camera, width, height, Work.unwatched());
  }

  /** As {@link #drawSmooth(Scene, Camera, int, int)}; may be cancelled. */
  public Picture drawSmooth(Scene scene, Camera camera, int width, int height, Work work) {
    Picture large = draw(scene, camera, 2 * width, 2 * height, work);
    int[] out = new int[width * height];
    int[] in = large.pixels;
    for (int y = 0; y < height; y++) {
      for (int x = 0; x < width; x++) {
        int i = 2 * y * 2 * width + 2 * x;
        int a = in[i];
        int b = in[i + 1];
        int c = in[i + 2 * width];
        int d = in[i + 2 * width + 1];
        int even =
            ((a & 0xff00ff) + (b & 0xff00ff) + (c & 0xff00ff) + (d & 0xff00ff) + 0x20002) >>> 2
                & 0xff00ff;
        int odd =
            ((a & 0xff00) + (b & 0xff00) + (c & 0xff00) + (d & 0xff00) + 0x200) >>> 2 & 0xff00;
        out[y * width + x] = 0xff000000 | even | odd;
      }
    }
    return new Picture(width, height, out, large.buffer, large.toPixels);
  }

  private Prepared prepare(Mesh mesh) {
    Prepared p = prepared.remove(mesh);
    if (p == null) {
      p = new Prepared(mesh);
    }
    prepared.put(mesh, p);
    if (prepared.size() > KEPT) {
      prepared.remove(prepared.keySet().iterator().next());
    }
    return p;
  }

  /** A box in working space that holds the mesh: its base box's corners, placed. */
  public static Box bounds(Mesh mesh, Similarity place) {
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
