package holotome.view.shading;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;
import holotome.view.cluster.PackedNormal;
import holotome.view.cluster.Piece;
import holotome.view.raster.PieceRasteriser;
import holotome.view.raster.Projection;
import holotome.view.raster.TriangleFill;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
import java.util.BitSet;

/**
 * Draws pieces by colour: each vertex is lit once and the pixels take the mix. For pictures while
 * turning, whose triangles are about as small as pixels: it costs a fraction of colouring pixel by
 * pixel afterwards. Triangles turned away are lit from the other side.
 */
public final class ColourPainter implements PieceRasteriser.Target {
  /** Set in the cells of selected triangles. */
  public static final int SELECTED = 1 << 24;

  private final Mesh mesh;
  private final int[] normals;
  private final Look look;
  private final BitSet selected;
  private final Projection projection;
  private final Light light;
  private final TriangleFill fill;
  private final boolean coloured;
  private final int[] table;
  private final ThreadLocal<Scratch> scratch = ThreadLocal.withInitial(Scratch::new);

  private static final class Scratch {
    private long[] places = new long[1024];
    private float[] depths = new float[1024];
    private int[] front = new int[1024];
    private int[] own = new int[1024];
    private int[] normal = new int[1024];
    private final int[] found = new int[Piece.MOST + 1];
    private final float[] corner = new float[12];
    private final float[] n = new float[3];
  }

  public ColourPainter(
      Scene scene, int[] normals, Projection projection, Light light, TriangleFill fill) {
    this.mesh = scene.mesh();
    this.normals = normals;
    this.look = scene.look();
    this.selected = scene.selected();
    this.projection = projection;
    this.light = light;
    this.fill = fill;
    table = light.table();
    coloured = (look == Look.COLOUR || look == Look.FLAT_COLOUR) && mesh.hasColour();
  }

  /** Whether a look can be drawn so: it asks of a pixel nothing but its direction and colour. */
  public static boolean draws(Look look) {
    return switch (look) {
      case CLAY, COLOUR, FLAT_COLOUR, FACING, NORMALS -> true;
      default -> false;
    };
  }

  @Override
  public void draw(Piece p, int number) {
    Scratch s = scratch.get();
    int n = p.xyz().length / 3;
    if (s.places.length < n) {
      s.places = new long[2 * n];
      s.depths = new float[2 * n];
      s.front = new int[2 * n];
      s.own = new int[2 * n];
      s.normal = new int[2 * n];
    }
    projection.places(p.xyz(), 0, n, s.places, s.depths);
    attributes(p, n, s);
    light(n, s);
    char[] corners = p.corners();
    int[] ids = p.ids();
    long[] places = s.places;
    int found = reaching(corners, places, s);
    for (int i = 0; i < found; i++) {
      int t = s.found[i];
      int va = corners[3 * t];
      int vb = corners[3 * t + 1];
      int vc = corners[3 * t + 2];
      long a = places[va];
      long b = places[vb];
      long c = places[vc];
      if (a == TriangleFill.NOWHERE || b == TriangleFill.NOWHERE || c == TriangleFill.NOWHERE) {
        for (int k = 0; k < 3; k++) {
          projection.apply(p.xyz(), corners[3 * t + k], s.corner, 4 * k);
        }
        fill.reaching(s.corner, s.front[va] & 0xffffff | flags(ids[t]));
        continue;
      }
      boolean front = TriangleFill.isFront(a, b, c);
      fill.painted(
          a,
          b,
          c,
          s.depths[va],
          s.depths[vb],
          s.depths[vc],
          front ? s.front[va] : colour(s.own[va], s.normal[va], false, s.n),
          front ? s.front[vb] : colour(s.own[vb], s.normal[vb], false, s.n),
          front ? s.front[vc] : colour(s.own[vc], s.normal[vc], false, s.n),
          flags(ids[t]));
    }
  }

  /**
   * Lists the triangles that may hold the centre of a pixel: first all, so that what is hard to
   * foresee is not asked in the midst of drawing.
   */
  private int reaching(char[] corners, long[] places, Scratch s) {
    int[] found = s.found;
    int n = 0;
    for (int t = 0, i = 0; i < corners.length; t++, i += 3) {
      found[n] = t;
      n += fill.reaches(places[corners[i]], places[corners[i + 1]], places[corners[i + 2]]);
    }
    return n;
  }

  /** Lights the vertices of a piece for the front. */
  private void light(int n, Scratch s) {
    if (look == Look.FLAT_COLOUR && coloured) {
      System.arraycopy(s.own, 0, s.front, 0, n);
    } else if (look == Look.NORMALS || look == Look.FLAT_COLOUR) {
      for (int v = 0; v < n; v++) {
        s.front[v] = colour(0, s.normal[v], true, s.n);
      }
    } else {
      int plain = look == Look.FACING ? Shader.FRONT : Shader.CLAY;
      for (int v = 0; v < n; v++) {
        s.front[v] = Light.lit(coloured ? s.own[v] : plain, table[Light.tableIndex(s.normal[v])]);
      }
    }
  }

  private int flags(int triangle) {
    return selected != null && selected.get(triangle) ? SELECTED : 0;
  }

  /** Loads the colour and the normal of each vertex of a piece. */
  private void attributes(Piece p, int n, Scratch s) {
    if (!p.exact()) {
      System.arraycopy(p.normals(), 0, s.normal, 0, n);
      if (coloured) {
        System.arraycopy(p.colours(), 0, s.own, 0, n);
      }
      return;
    }
    int[] tri = mesh.triangles();
    char[] corners = p.corners();
    int[] own = mesh.hasTexture() ? null : mesh.colours();
    for (int c = 0; c < corners.length; c++) {
      int id = p.ids()[c / 3];
      int k = c % 3;
      int v = tri[3 * id + k];
      int l = corners[c];
      s.normal[l] = normals[v];
      if (coloured) {
        s.own[l] =
            own != null ? own[v] : VertexColours.at(mesh, id, k == 1 ? 1 : 0, k == 2 ? 1 : 0);
      }
    }
  }

  private int colour(int own, int normal, boolean front, float[] n) {
    int c =
        coloured
            ? own
            : look == Look.FACING
                ? front ? Shader.FRONT : Shader.BACK
                : front ? Shader.CLAY : Shader.INSIDE;
    if (look == Look.FLAT_COLOUR) {
      return c;
    }
    PackedNormal.unpack(normal, n, 0);
    float k = front ? 1 : -1;
    if (look == Look.NORMALS) {
      return light.direction(k * n[0], k * n[1], k * n[2]);
    }
    return Light.lit(c, light.on(k * n[0], k * n[1], k * n[2]));
  }
}
