package holotome.view.shading;

import holotome.core.geometry.Box;
import holotome.core.geometry.Vec;
import holotome.core.image.Colours;
import holotome.core.image.Image;
import holotome.core.map.MapKind;
import holotome.core.map.Missed;
import holotome.core.map.Range;
import holotome.core.mesh.Mesh;
import holotome.core.tangent.SplitMesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.view.buffer.VisibilityBuffer;
import holotome.view.camera.Camera;
import holotome.view.prepare.Prepared;
import holotome.view.scene.Look;
import holotome.view.scene.Readings;
import holotome.view.scene.Scene;
import java.util.Arrays;
import java.util.BitSet;

/**
 * Colours the pixels of a visibility buffer. Weights within a triangle are corrected for
 * perspective.
 */
public final class Shader {
  private static final int GRAIN = 8;
  static final int CLAY = 0xffc9c2b6;

  /** Where rays missed, and where they passed another part by. */
  private static final int LOST = 0xffa63d2f;

  private static final int PASSED_BY = 0xffb7791f;
  static final int INSIDE = 0xff8a6f5c;
  static final int FRONT = 0xff7fb3a6;
  static final int BACK = 0xffd0795f;
  private static final int VIOLET = 0xff6c4ab6;
  private static final int INK = 0xff1d2b33;

  /** The golden section. */
  private static final double GOLDEN = (Math.sqrt(5) - 1) / 2;

  private final Scene scene;
  private final Mesh mesh;
  private final VisibilityBuffer buffer;
  private final DrawnTriangles drawn;
  private final int[] charts;
  private final byte[] inner;
  private final SplitMesh split;
  private final float[] toView;
  private final BitSet selected;
  private final GroundGrid grid;
  private final Image colourMap;
  private final Image normalMap;
  private final Image mapAlone;
  private final Range mapRange;
  private final Light light;
  private final boolean hasUv;
  private final Readings readings;
  private float[] slopes;

  public Shader(
      Scene scene,
      Prepared prepared,
      Camera camera,
      DrawnTriangles drawn,
      VisibilityBuffer buffer,
      Box box) {
    this.scene = scene;
    this.mesh = scene.mesh();
    this.drawn = drawn;
    this.buffer = buffer;
    this.selected = scene.selected();
    hasUv = mesh.uv() != null;
    readings = scene.look().hasReadings() ? scene.subject().readings() : null;
    boolean hasLines =
        scene.look() == Look.WIRE || scene.look() == Look.BARE_WIRE || scene.setting().edges();
    inner = hasLines ? prepared.inner() : null;
    charts = scene.look() == Look.CHARTS && hasUv ? prepared.charts() : null;
    colourMap = scene.maps() == null ? null : scene.maps().pictures().get(MapKind.COLOUR);
    normalMap = scene.maps() == null ? null : scene.maps().pictures().get(MapKind.NORMAL);
    MapKind alone = scene.subject().alone();
    mapAlone = scene.maps() == null || alone == null ? null : scene.maps().pictures().get(alone);
    mapRange = mapAlone == null ? null : scene.maps().ranges().get(alone);
    split = scene.look() == Look.BAKED && hasUv && normalMap != null ? prepared.split() : null;
    grid = scene.grid() ? new GroundGrid(camera, buffer.width(), buffer.height(), box) : null;
    light = new Light(camera, scene.place(), scene.setting().brightness());
    toView = light.toView;
  }

  public void shade(int[] pixels, Work work) {
    int w = buffer.width();
    if (scene.look() == Look.RELIEF) {
      slopes = slopes(work);
    }
    Parallel.range(
        buffer.height(),
        GRAIN,
        work,
        (from, to) -> {
          Pixel p = new Pixel();
          for (int y = from; y < to; y++) {
            int background = scene.setting().background().argb(y, buffer.height());
            boolean reached = y >= buffer.y0 && y < buffer.y1;
            int x0 = grid != null ? 0 : reached ? buffer.x0 : w;
            int x1 = grid != null ? w : reached ? buffer.x1 : w;
            Arrays.fill(pixels, y * w, y * w + x0, background);
            Arrays.fill(pixels, y * w + x1, y * w + w, background);
            for (int x = x0; x < x1; x++) {
              long cell = buffer.cells[y * w + x];
              boolean bare = cell == VisibilityBuffer.EMPTY && grid == null;
              pixels[y * w + x] = bare ? background : p.colour(cell, background, x, y);
            }
          }
        });
  }

  /** How far each pixel's surface leans to the right and up: 2 floats each; NaN for none. */
  private float[] slopes(Work work) {
    int w = buffer.width();
    float[] out = new float[2 * buffer.cells.length];
    Parallel.range(
        buffer.height(),
        GRAIN,
        work,
        (from, to) -> {
          Pixel p = new Pixel();
          for (int i = from * w; i < to * w; i++) {
            long cell = buffer.cells[i];
            if (cell == VisibilityBuffer.EMPTY) {
              out[2 * i] = Float.NaN;
            } else {
              p.locate((int) cell, i % w + 0.5f, i / w + 0.5f);
              out[2 * i] = p.nx;
              out[2 * i + 1] = p.ny;
            }
          }
        });
    return out;
  }

  /**
   * How the surface bends at a pixel, from how the directions around it part: above zero on a
   * ridge, below in a hollow. Told from the picture alone, as in Vergne and others, "Light warping
   * for enhanced surface depiction" (2009); the mean over two widths.
   */
  private float bend(int x, int y) {
    return 0.6f * parting(x, y, 1) + 0.4f * parting(x, y, 3);
  }

  private float parting(int x, int y, int d) {
    int w = buffer.width();
    if (x < d || y < d || x >= w - d || y >= buffer.height() - d) {
      return 0;
    }
    int i = y * w + x;
    float c =
        slopes[2 * (i + d)]
            - slopes[2 * (i - d)]
            + slopes[2 * (i - d * w) + 1]
            - slopes[2 * (i + d * w) + 1];
    return c == c ? c : 0;
  }

  /** Triangles whose inner circle is wider than this, in pixels, show each of their lines. */
  private static final float SPARSE = 2.2f;

  /** Those below this show none of their own. */
  private static final float DENSE = 0.7f;

  /** How dark a surface of such small triangles is: a third of what lines are. */
  private static final float EVEN_TONE = 0.3f;

  private static int hatched(int colour, int x, int y) {
    return Colours.mix(colour, VIOLET, (x + y) % 7 < 2 ? 0.85f : 0.38f);
  }

  /**
   * Finishes a picture whose cells hold colours in place of numbers, as {@link ColourPainter}
   * leaves them.
   */
  public void finish(int[] pixels, Work work) {
    int w = buffer.width();
    Parallel.range(
        buffer.height(),
        GRAIN,
        work,
        (from, to) -> {
          for (int y = from; y < to; y++) {
            int background = scene.setting().background().argb(y, buffer.height());
            for (int x = 0; x < w; x++) {
              long cell = buffer.cells[y * w + x];
              boolean empty = cell == VisibilityBuffer.EMPTY;
              int colour = empty ? background : (int) cell | 0xff000000;
              if (!empty && ((int) cell & ColourPainter.SELECTED) != 0) {
                colour = hatched(colour, x, y);
              }
              pixels[y * w + x] =
                  grid == null
                      ? colour
                      : grid.over(colour, x, y, empty, empty ? 1 : VisibilityBuffer.depth(cell));
            }
          }
        });
  }

  /** One pixel at a time; one per thread. */
  private final class Pixel {
    private final DrawnTriangles.Corners loaded = new DrawnTriangles.Corners();

    /** The loaded corners about the point. */
    private final float[] corners = new float[9];

    /** What is loaded; most pixels show the triangle of the one before. */
    private int number = -1;

    private int t;
    private int column;
    private int row;
    private float wa;
    private float wb;
    private float wc;
    private boolean front;
    private float nx;
    private float ny;
    private float nz;

    int colour(long cell, int background, int x, int y) {
      int colour = background;
      float depth = 1;
      if (cell != VisibilityBuffer.EMPTY) {
        depth = VisibilityBuffer.depth(cell);
        column = x;
        row = y;
        locate((int) cell, x + 0.5f, y + 0.5f);
        colour = surface(background);
        if (scene.setting().edges()) {
          colour = Colours.mix(colour, INK, 0.6f * outline());
        }
        if (selected != null && selected.get(t)) {
          colour = hatched(colour, x, y);
        }
      }
      return grid == null ? colour : grid.over(colour, x, y, cell == VisibilityBuffer.EMPTY, depth);
    }

    /**
     * Finds the weights of the corners at a point, right in perspective: by the edges in
     * homogeneous coordinates about the point.
     */
    private void locate(int triangle, float px, float py) {
      t =
          selected != null || charts != null || hasUv || readings != null || inner != null
              ? drawn.triangle(triangle)
              : 0;
      if (triangle != number) {
        drawn.load(triangle, loaded);
        number = triangle;
      }
      float[] c = corners;
      for (int k = 0; k < 9; k += 3) {
        float w = loaded.clip[k + 2];
        c[k] = loaded.clip[k] - px * w;
        c[k + 1] = loaded.clip[k + 1] - py * w;
        c[k + 2] = w;
      }
      wa = c[3] * c[7] - c[6] * c[4];
      wb = c[6] * c[1] - c[0] * c[7];
      wc = c[0] * c[4] - c[3] * c[1];
      // y runs down: counter-clockwise triangles have a negative determinant.
      front = wa * c[2] + wb * c[5] + wc * c[8] < 0;
      float sum = wa + wb + wc;
      if (sum < 0) {
        wa = -wa;
        wb = -wb;
        wc = -wc;
      }
      // Corners are rounded when drawn: a point may lie a hair outside.
      wa = wa > 0 ? wa : 0;
      wb = wb > 0 ? wb : 0;
      wc = wc > 0 ? wc : 0;
      sum = wa + wb + wc;
      float inv = 1 / sum;
      wa = sum > 0 ? wa * inv : 1;
      wb = sum > 0 ? wb * inv : 0;
      wc = sum > 0 ? wc * inv : 0;
      smoothNormal();
    }

    /**
     * How much of a pixel is line, 0 to 1. Where triangles are so small that lines would share
     * pixels, single ones give way to an even tone: their share of the surface, on the average.
     */
    private float wire() {
      float line = Math.max(0, 1 - edge());
      float r = inradius();
      if (r >= SPARSE) {
        return line;
      }
      float single = Math.clamp((r - DENSE) / (SPARSE - DENSE), 0f, 1f);
      return single * line + (1 - single) * EVEN_TONE;
    }

    /** How much of a pixel is a line between triangles that are wide enough apart, 0 to 1. */
    private float outline() {
      float line = Math.max(0, 1 - edge());
      return line > 0 ? line * Math.clamp((inradius() - SPARSE) / SPARSE, 0f, 1f) : 0;
    }

    /** In pixels, so that nothing overflows: many times faster than {@code Math.hypot}. */
    private static double length(double x, double y) {
      return Math.sqrt(x * x + y * y);
    }

    /** The radius of the circle within the triangle, in pixels; infinite for one behind the eye. */
    private float inradius() {
      float[] c = corners;
      if (c[2] <= 0 || c[5] <= 0 || c[8] <= 0) {
        return Float.POSITIVE_INFINITY;
      }
      float ax = c[0] / c[2];
      float ay = c[1] / c[2];
      float bx = c[3] / c[5];
      float by = c[4] / c[5];
      float dx = c[6] / c[8];
      float dy = c[7] / c[8];
      double around =
          length(bx - ax, by - ay) + length(dx - bx, dy - by) + length(ax - dx, ay - dy);
      double twice = Math.abs((bx - ax) * (dy - ay) - (dx - ax) * (by - ay));
      return around > 0 ? (float) (twice / around) : 0;
    }

    /** How far the point is from the nearest edge, in pixels. */
    private float edge() {
      float[] c = corners;
      float nearest = Float.POSITIVE_INFINITY;
      for (int i = 0; i < 3; i++) {
        int a = 3 * i;
        int b = 3 * ((i + 1) % 3);
        boolean isInner = inner != null && (inner[t] >> i & 1) != 0 && drawn.isOwn(number);
        if (isInner || c[a + 2] <= 0 || c[b + 2] <= 0) {
          continue;
        }
        float ax = c[a] / c[a + 2];
        float ay = c[a + 1] / c[a + 2];
        float bx = c[b] / c[b + 2];
        float by = c[b + 1] / c[b + 2];
        float l = (float) length(bx - ax, by - ay);
        nearest = Math.min(nearest, Math.abs(ax * by - bx * ay) / l);
      }
      return nearest;
    }

    private void smoothNormal() {
      float[] n = loaded.normals;
      setNormal(
          n[0] * wa + n[3] * wb + n[6] * wc,
          n[1] * wa + n[4] * wb + n[7] * wc,
          n[2] * wa + n[5] * wb + n[8] * wc);
    }

    /** How far the point is from the nearest corner, in pixels. */
    private float corner() {
      float[] c = corners;
      float nearest = Float.POSITIVE_INFINITY;
      for (int i = 0; i < 9; i += 3) {
        if (c[i + 2] > 0) {
          nearest = Math.min(nearest, (float) length(c[i] / c[i + 2], c[i + 1] / c[i + 2]));
        }
      }
      return nearest;
    }

    private void setNormal(float x, float y, float z) {
      float[] m = toView;
      float vx = m[0] * x + m[1] * y + m[2] * z;
      float vy = m[3] * x + m[4] * y + m[5] * z;
      float vz = m[6] * x + m[7] * y + m[8] * z;
      float l = (float) Math.sqrt(vx * vx + vy * vy + vz * vz);
      float s = l > 0 ? (front ? 1 / l : -1 / l) : 0;
      nx = vx * s;
      ny = vy * s;
      nz = vz * s;
    }

    private int surface(int background) {
      return switch (scene.look()) {
        case CLAY -> lit(front ? CLAY : INSIDE);
        case COLOUR -> lit(own());
        case FLAT_COLOUR -> own();
        case WIRE -> {
          int clay = lit(front ? CLAY : INSIDE);
          yield Colours.mix(clay, INK, 0.7f * wire());
        }
        case BARE_WIRE -> {
          yield Colours.mix(background, INK, 0.9f * wire());
        }
        case POINTS -> {
          float away = corner();
          int own = lit(own());
          yield away < 1.5f ? Colours.mix(background, own, Math.min(1, 1.5f - away)) : background;
        }
        case NORMALS -> Light.direction(nx, ny, nz, 1);
        case RELIEF -> relief();
        case FACING -> lit(front ? FRONT : BACK);
        case DEVIATION, STRETCH, DENSITY, IMPORTANCE -> lit(readings == null ? CLAY : reading());
        case CHARTS -> charts == null ? lit(CLAY) : lit(chartColour(charts[t]));
        case CHECKER -> checker();
        case BAKED -> baked();
        case MISSED -> missed();
      };
    }

    private int own() {
      return front || mesh.hasColour() ? drawn.colour(number, wb, wc) : INSIDE;
    }

    private int reading() {
      // Of a lighter mesh one of the triangles that each stands for is as large as a pixel or so.
      boolean own = drawn.isOwn(number);
      return readings.colour(mesh.triangles(), t, own ? wb : 1.0 / 3, own ? wc : 1.0 / 3);
    }

    private int relief() {
      float b = bend(column, row) * (front ? 3f : -3f);
      int clay = lit(front ? CLAY : INSIDE);
      return b < 0
          ? Colours.mix(clay, 0xff2a2521, Math.min(0.8f, -b))
          : Colours.mix(clay, 0xfffffaf0, Math.min(0.7f, b));
    }

    private int lit(int colour) {
      return Light.lit(colour, light.seen(nx, ny, nz));
    }

    private int chartColour(int chart) {
      // Muted tones; by the golden section those of any few charts lie far apart.
      float hue = (float) (GOLDEN * chart - Math.floor(GOLDEN * chart));
      return java.awt.Color.HSBtoRGB(hue, 0.32f + 0.06f * (chart % 3), 0.84f - 0.06f * (chart % 2));
    }

    private float texU() {
      int[] c = mesh.uv().corners();
      float[] uv = mesh.uv().coords();
      return uv[2 * c[3 * t]] * wa + uv[2 * c[3 * t + 1]] * wb + uv[2 * c[3 * t + 2]] * wc;
    }

    private float texV() {
      int[] c = mesh.uv().corners();
      float[] uv = mesh.uv().coords();
      return uv[2 * c[3 * t] + 1] * wa
          + uv[2 * c[3 * t + 1] + 1] * wb
          + uv[2 * c[3 * t + 2] + 1] * wc;
    }

    /** Where the maps, of one square or of several, have this place. */
    private float mapU() {
      return texU() / scene.maps().columns();
    }

    private float mapV() {
      return texV() / scene.maps().rows();
    }

    private int checker() {
      if (mesh.uv() == null) {
        return lit(CLAY);
      }
      int i = (int) Math.floor(texU() * 64);
      int j = (int) Math.floor(texV() * 64);
      boolean major = ((i >> 3) + (j >> 3) & 1) == 0;
      int base = (i + j & 1) == 0 ? 0xffe9e4da : 0xff8e9aa0;
      return lit(major ? Colours.mix(base, 0xff1f7a6d, 0.18f) : base);
    }

    private int baked() {
      if (mesh.uv() == null || scene.maps() == null) {
        return lit(CLAY);
      }
      float u = mapU();
      float v = mapV();
      if (mapAlone != null) {
        return mapRange == null
            ? mapAlone.shown(u, v)
            : mapAlone.shown(u, v, mapRange.low(), mapRange.high());
      }
      if (split != null) {
        mappedNormal(normalMap.shown(u, v));
      }
      return lit(colourMap == null ? CLAY : colourMap.shown(u, v));
    }

    /** Puts the normal together from the map and the interpolated frame it was baked in. */
    private void mappedNormal(int rgb) {
      double x = (rgb >> 16 & 255) / 127.5 - 1;
      double y = (rgb >> 8 & 255) / 127.5 - 1;
      double z = (rgb & 255) / 127.5 - 1;
      int a = split.corners()[3 * t];
      int b = split.corners()[3 * t + 1];
      int c = split.corners()[3 * t + 2];
      float[] g = split.tangents();
      float[] n = split.normals();
      double[] tangent = new double[3];
      double[] normal = new double[3];
      for (int k = 0; k < 3; k++) {
        tangent[k] = g[4 * a + k] * wa + g[4 * b + k] * wb + g[4 * c + k] * wc;
        normal[k] = n[3 * a + k] * wa + n[3 * b + k] * wb + n[3 * c + k] * wc;
      }
      // As long as they come out: the standard of tangent spaces has it so.
      double[] bitangent = Vec.mul(Vec.cross(normal, tangent), g[4 * a + 3]);
      setNormal(
          (float) (tangent[0] * x + bitangent[0] * y + normal[0] * z),
          (float) (tangent[1] * x + bitangent[1] * y + normal[1] * z),
          (float) (tangent[2] * x + bitangent[2] * y + normal[2] * z));
    }

    private int missed() {
      if (mesh.uv() == null || scene.maps() == null) {
        return lit(CLAY);
      }
      Image missed = scene.maps().missed();
      int x = Math.clamp((int) (mapU() * missed.width()), 0, missed.width() - 1);
      int y = Math.clamp((int) ((1 - mapV()) * missed.height()), 0, missed.height() - 1);
      Missed why = Missed.of((int) missed.stored(x, y, 0));
      return why == null ? lit(CLAY) : why.isLost() ? LOST : PASSED_BY;
    }
  }
}
