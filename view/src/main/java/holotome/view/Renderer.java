package holotome.view;

import holotome.core.geometry.Box;
import holotome.core.memory.Claim;
import holotome.core.mesh.Mesh;
import holotome.core.select.FenceOutline;
import holotome.core.task.Work;
import holotome.view.buffer.VisibilityBuffer;
import holotome.view.camera.Camera;
import holotome.view.cluster.Hierarchy;
import holotome.view.cluster.Node;
import holotome.view.cluster.Piece;
import holotome.view.cluster.RayProbe;
import holotome.view.layering.DotPainter;
import holotome.view.layering.Ground;
import holotome.view.layering.LinePainter;
import holotome.view.layering.Stack;
import holotome.view.picking.Picking;
import holotome.view.prepare.Preparations;
import holotome.view.prepare.Prepared;
import holotome.view.raster.DepthTiles;
import holotome.view.raster.LevelChoice;
import holotome.view.raster.NumberPainter;
import holotome.view.raster.PieceRasteriser;
import holotome.view.raster.Projection;
import holotome.view.raster.Rasteriser;
import holotome.view.raster.TriangleFill;
import holotome.view.scene.DotLayer;
import holotome.view.scene.Layer;
import holotome.view.scene.LineLayer;
import holotome.view.scene.MeshLayer;
import holotome.view.scene.Scene;
import holotome.view.shading.ColourPainter;
import holotome.view.shading.DrawnTriangles;
import holotome.view.shading.Light;
import holotome.view.shading.Shader;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import org.joml.Matrix4d;

/**
 * Makes pictures of a scene: a visibility buffer on all cores, then a colour per pixel.
 *
 * <p>Keeps its working arrays and what it prepared of the last few meshes; pictures are drawn by
 * one thread at a time.
 */
public final class Renderer {

  /** Meshes with fewer triangles are drawn as they are, and need no hierarchy. */
  private static final int SMALL = 400_000;

  /** While turning, errors are as a rule seen under so many pixels where there is time... */
  private static final double LEAST_TOLERANCE = 0.5;

  /** ... and where there is not. */
  private static final double MOST_TOLERANCE = 2;

  /** What a picture is to take while turning, in seconds; the next is coarser or finer to that. */
  private static final double AIM = 0.03;

  /** The tolerance of one picture is at most so many times that of the one before, or one in so. */
  private static final double LARGEST_CHANGE = 1.15;

  /** Of a large mesh that is not prepared so many triangles are drawn while turning, as dots. */
  private static final int FIRST_SIGHT = 2_000_000;

  /** Larger meshes are drawn by lighter ones when still too, where no pixel could tell. */
  private static final int HUGE = 24_000_000;

  /** The error allowed then: no vertex and no gap between vertices over half a pixel. */
  private static final double UNSEEN = 0.25;

  private final Rasteriser rasteriser = new Rasteriser();
  private final Preparations preparations;
  private final List<VisibilityBuffer> buffers = new ArrayList<>();
  private double tolerance = LEAST_TOLERANCE;

  public Renderer() {
    this(SMALL);
  }

  /** With another bound below which meshes are drawn as they are. */
  public Renderer(int small) {
    this(new Preparations(small));
  }

  private Renderer(Preparations preparations) {
    this.preparations = preparations;
  }

  /** Another renderer, for another thread or size, that shares what was prepared with this one. */
  public Renderer sibling() {
    return new Renderer(preparations);
  }

  /**
   * A picture and what is seen in it.
   *
   * @param pixels 0xAARRGGBB by rows, opaque
   * @param buffer at the same size; good until the renderer's next picture. Its numbers are those
   *     of the mesh's triangles, unless the picture is light
   * @param fronts by rows of the buffer, the number of the mesh in front: 0 for the scene's
   *     subject, then its layers' meshes in their order; -1 for none. Null where the subject is
   *     shown alone
   * @param toPixels from working space to pixels, as {@link Camera#toPixels}
   * @param effort what it took
   */
  public record Picture(
      int width,
      int height,
      int[] pixels,
      VisibilityBuffer buffer,
      byte[] fronts,
      double[] toPixels,
      Effort effort) {

    /** Whether lighter meshes were drawn in places; then the buffer tells nothing of the mesh. */
    public boolean isLight() {
      return effort.light;
    }
  }

  /**
   * What a picture took.
   *
   * @param triangles drawn
   * @param hidden nodes of the hierarchy passed over as hidden
   * @param light whether lighter meshes were drawn in places
   * @param typical the largest error of a part of the picture, taken as a rule (root mean square
   *     over its vertices), in pixels; 0 for the true triangles
   * @param error the largest error of any vertex, in pixels; 0 for the true triangles
   */
  public record Effort(long triangles, int hidden, boolean light, double typical, double error) {}

  /** Draws a scene at a size, by the true triangles. */
  public Picture draw(Scene scene, Camera camera, int width, int height) {
    return draw(scene, camera, width, height, Work.unwatched());
  }

  /** Draws a scene at a size; may be cancelled, and then throws a Failure that says so. */
  public Picture draw(Scene scene, Camera camera, int width, int height, Work work) {
    return draw(scene, camera, width, height, 1, null, LevelChoice.EXACT, work);
  }

  /**
   * Draws by the true triangles what is seen within an outline (x, y in turn, in pixels); of large
   * meshes the rest of the picture may be missing. For {@link #visible}. May be cancelled.
   */
  public Picture drawWithin(
      Scene scene, Camera camera, int width, int height, double[] outline, Work work) {
    FenceOutline o = new FenceOutline(outline);
    double[] region = {o.minX() - 2, o.minY() - 2, o.maxX() + 2, o.maxY() + 2};
    return draw(
        scene.alone(scene.subject()), camera, width, height, 1, region, LevelChoice.EXACT, work);
  }

  /**
   * Draws a scene quickly: what is small in the picture by lighter meshes, once the hierarchy is
   * {@linkplain #prepare prepared}, so that the time follows the pixels. Gives way to slow machines
   * by allowing up to two pixels of error as a rule and four at worst.
   */
  public Picture drawMoving(Scene scene, Camera camera, int width, int height) {
    long start = System.nanoTime();
    Picture p = draw(scene, camera, width, height, 1, null, tolerance, Work.unwatched());
    double seconds = (System.nanoTime() - start) * 1e-9;
    double change = Math.clamp(Math.sqrt(seconds / AIM), 1 / LARGEST_CHANGE, LARGEST_CHANGE);
    tolerance = Math.clamp(tolerance * change, LEAST_TOLERANCE, MOST_TOLERANCE);
    return p;
  }

  /**
   * @param scale pixels to one of those that the widths of lines and dots count in
   */
  private Picture draw(
      Scene scene,
      Camera camera,
      int width,
      int height,
      double scale,
      double[] region,
      double most,
      Work work) {
    Box box = scene.bounds();
    double[] toPixels = camera.toPixels(width, height, box);
    double[] clip = clip(scene.setting().clip(), toPixels);
    Frame whole = new Frame(scene, camera, box, toPixels, clip, region, work);
    Picture subject = draw(whole.of(scene.subject(), buffer(0, width, height)), most);
    if (scene.layers().isEmpty() && scene.subject().strength() == 1) {
      return subject;
    }
    long meshes = scene.layers().stream().filter(MeshLayer.class::isInstance).count() + 1;
    preparations.keepAtLeast((int) meshes);
    Stack stack = new Stack(width, height, backdrop(whole, subject));
    stack.add(subject.buffer, subject.pixels, scene.subject().strength());
    int number = 1;
    for (Layer l : scene.layers()) {
      if (l instanceof MeshLayer m) {
        VisibilityBuffer b = buffer(number++, width, height);
        stack.add(b, draw(whole.of(m, b), most).pixels, m.strength());
      }
    }
    int[] pixels = stack.compose(work);
    Ground ground =
        new Ground(pixels, stack.depths(), width, toPixels, scene.setting().clip(), scale);
    for (Layer l : scene.layers()) {
      switch (l) {
        case LineLayer lines -> LinePainter.draw(lines, ground, work);
        case DotLayer dots -> DotPainter.draw(dots, ground, work);
        case MeshLayer m -> {
          // Already in the stack.
        }
      }
    }
    return new Picture(
        width, height, pixels, subject.buffer, stack.fronts(), toPixels, subject.effort);
  }

  /** What is behind all meshes; the subject's own picture does where nothing shows through it. */
  private int[] backdrop(Frame f, Picture subject) {
    if (f.scene.subject().strength() == 1) {
      return subject.pixels;
    }
    VisibilityBuffer empty = new VisibilityBuffer(subject.width, subject.height);
    empty.clear();
    int[] pixels = new int[subject.pixels.length];
    Frame bare = f.of(f.scene.subject(), empty);
    shader(bare, new DrawnTriangles.Whole(f.scene.mesh(), null, null, bare.projection))
        .finish(pixels, f.work);
    return pixels;
  }

  private VisibilityBuffer buffer(int number, int width, int height) {
    while (buffers.size() <= number) {
      buffers.add(null);
    }
    VisibilityBuffer b = buffers.get(number);
    if (b == null || b.width() != width || b.height() != height) {
      b = new VisibilityBuffer(width, height);
      buffers.set(number, b);
    }
    return b;
  }

  /** Draws the one mesh of a frame. */
  private Picture draw(Frame f, double most) {
    Scene scene = f.scene;
    Mesh mesh = scene.mesh();
    Projection projection = f.projection;
    double[] clip = f.clip;
    Work work = f.work;
    boolean plain = !scene.look().needsUv();
    Hierarchy h = plain ? prepared(mesh).hierarchy() : null;
    if (h != null) {
      return through(h, f, most);
    }
    if (plain && most != LevelChoice.EXACT && mesh.triangleCount() > FIRST_SIGHT) {
      Rasteriser.dots(mesh, projection, f.buffer, clip, FIRST_SIGHT, work);
      return shaded(
          f,
          new DrawnTriangles.Whole(mesh, null, null, projection),
          new Effort(FIRST_SIGHT, 0, true, 0, 0));
    }
    rasteriser.draw(mesh, projection, f.buffer, clip, work);
    return shaded(
        f,
        DrawnTriangles.Whole.of(mesh, () -> prepared(mesh).normals(), projection),
        new Effort(mesh.triangleCount(), 0, false, 0, 0));
  }

  /**
   * One picture in the making; projection and buffer are those of the mesh that is drawn now.
   *
   * @param box of all that is shown
   */
  private record Frame(
      Scene scene,
      Camera camera,
      Box box,
      double[] toPixels,
      Projection projection,
      double[] clip,
      VisibilityBuffer buffer,
      double[] region,
      Work work) {

    Frame(
        Scene scene,
        Camera camera,
        Box box,
        double[] toPixels,
        double[] clip,
        double[] region,
        Work work) {
      this(scene, camera, box, toPixels, null, clip, null, region, work);
    }

    /** The same for one of the scene's meshes. */
    Frame of(MeshLayer m, VisibilityBuffer into) {
      Projection p = Projection.of(m.mesh(), m.place(), toPixels);
      return new Frame(scene.alone(m), camera, box, toPixels, p, clip, into, region, work);
    }
  }

  private Picture through(Hierarchy h, Frame f, double most) {
    Scene scene = f.scene;
    Rasteriser.bound(scene.mesh().bounds(), f.projection, f.buffer);
    LevelChoice front =
        f.region != null
            ? new LevelChoice(f.projection, f.region, most)
            : new LevelChoice(f.projection, f.buffer.width(), f.buffer.height(), most);
    List<Node> nodes = front.of(h);
    boolean exact = nodes.stream().allMatch(Node::isLeaf);
    boolean painted = !exact && ColourPainter.draws(scene.look());
    TriangleFill fill = new TriangleFill(f.buffer, f.clip);
    Light light = new Light(f.camera, scene.place(), scene.setting().brightness());
    PieceRasteriser r =
        new PieceRasteriser(
            f.buffer,
            front,
            painted
                ? new ColourPainter(scene, h.normals(), f.projection, light, fill)
                : new NumberPainter(f.projection, fill, exact));
    r.draw(nodes, f.work);
    long triangles = r.drawn().stream().mapToLong(Piece::triangleCount).sum();
    Effort effort = new Effort(triangles, r.hidden(), !exact, front.typical(), front.worst());
    DrawnTriangles.Whole whole = DrawnTriangles.Whole.of(scene.mesh(), h::normals, f.projection);
    if (painted) {
      int[] pixels = new int[f.buffer.width() * f.buffer.height()];
      shader(f, whole).finish(pixels, f.work);
      return new Picture(
          f.buffer.width(), f.buffer.height(), pixels, f.buffer, null, f.toPixels, effort);
    }
    return shaded(
        f,
        exact ? whole : new DrawnTriangles.Pieces(r.drawn().toArray(Piece[]::new), whole),
        effort);
  }

  private Shader shader(Frame f, DrawnTriangles drawn) {
    return new Shader(f.scene, prepared(f.scene.mesh()), f.camera, drawn, f.buffer, f.box);
  }

  private Picture shaded(Frame f, DrawnTriangles drawn, Effort effort) {
    int[] pixels = new int[f.buffer.width() * f.buffer.height()];
    shader(f, drawn).shade(pixels, f.work);
    return new Picture(
        f.buffer.width(), f.buffer.height(), pixels, f.buffer, null, f.toPixels, effort);
  }

  /** A plane of working space as one of pixels and depth. */
  private static double[] clip(double[] plane, double[] toPixels) {
    if (plane == null) {
      return null;
    }
    // Rows of the one are columns of the other: JOML keeps matrices by columns.
    Matrix4d back = new Matrix4d().set(toPixels).transpose().invert();
    double[] out = new double[4];
    for (int c = 0; c < 4; c++) {
      for (int r = 0; r < 4; r++) {
        out[c] += plane[r] * back.get(c, r);
      }
    }
    return out;
  }

  /**
   * The triangle of the mesh under a point in pixels, without drawing; -1 for none, and null where
   * the hierarchy for it is not there. Any thread.
   */
  public Integer probe(Scene scene, Camera camera, double x, double y, int width, int height) {
    Hierarchy h = prepared(scene.mesh()).hierarchy();
    return h == null
        ? null
        : (Integer)
            RayProbe.of(
                h,
                camera.ray(x, y, width, height),
                !camera.perspective(),
                scene.place(),
                scene.setting().clip());
  }

  /**
   * The triangles of an exact picture's mesh that are seen within an outline; see {@link
   * Picking#visible}. May be cancelled.
   */
  public BitSet visible(Scene scene, Picture picture, double[] outline, double slack, Work work) {
    VisibilityBuffer buffer = picture.buffer;
    Hierarchy h = prepared(scene.mesh()).hierarchy();
    List<int[]> among = null;
    if (h != null) {
      Projection p = Projection.of(scene.mesh(), scene.place(), picture.toPixels);
      FenceOutline o = new FenceOutline(outline);
      double[] region = {o.minX() - 1, o.minY() - 1, o.maxX() + 1, o.maxY() + 1};
      LevelChoice front = new LevelChoice(p, region, LevelChoice.EXACT);
      DepthTiles tiles = new DepthTiles(buffer);
      tiles.update();
      among = new ArrayList<>();
      for (Node n : front.of(h)) {
        work.check();
        if (!front.isHidden(n, tiles, slack + 1)) {
          for (Piece piece : n.pieces()) {
            among.add(piece.ids());
          }
        }
      }
    }
    return Picking.visible(
        scene.mesh(), scene.place(), buffer, picture.toPixels, outline, slack, among, work);
  }

  /**
   * Makes what a large mesh needs to be drawn in little time; may run on any thread, while pictures
   * are drawn. Does nothing for a small one.
   */
  public void prepare(Mesh mesh, Work work) {
    preparations.prepare(mesh, work);
  }

  /** The same, with a claim taken before; gives it up. */
  public void prepare(Mesh mesh, Claim claim, Work work) {
    preparations.prepare(mesh, claim, work);
  }

  /** Takes a place in the queue for the memory that {@link #prepare} needs. */
  public Claim claim(Mesh mesh) {
    return preparations.claim(mesh);
  }

  /** Lets go of all that was prepared: other meshes are to be drawn. */
  public void forget() {
    preparations.forget();
  }

  /** Whether a mesh will be drawn in little time. */
  public boolean isPrepared(Mesh mesh) {
    return preparations.isPrepared(mesh);
  }

  /**
   * Draws at twice the size and averages: edges without steps. The buffer is the large one's. Of
   * very large meshes it draws lighter ones where they are right within half a pixel; the picture
   * is then light.
   */
  public Picture drawSmooth(Scene scene, Camera camera, int width, int height) {
    return drawSmooth(scene, camera, width, height, Work.unwatched());
  }

  /** As {@link #drawSmooth(Scene, Camera, int, int)}; may be cancelled. */
  public Picture drawSmooth(Scene scene, Camera camera, int width, int height, Work work) {
    double most = scene.mesh().triangleCount() > HUGE ? UNSEEN : LevelChoice.EXACT;
    Picture large = draw(scene, camera, 2 * width, 2 * height, 2, null, most, work);
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
    return new Picture(
        width, height, out, large.buffer, large.fronts, large.toPixels, large.effort);
  }

  private Prepared prepared(Mesh mesh) {
    return preparations.of(mesh);
  }
}
