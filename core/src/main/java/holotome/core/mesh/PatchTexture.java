package holotome.core.mesh;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.HarmonicPatch;
import holotome.core.attribute.PatchRim;
import holotome.core.geometry.Vec;
import holotome.core.image.LinearLight;
import holotome.core.image.Raster;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.function.Supplier;

/**
 * A picture for the patches of a textured mesh: what is known to be seen at each place, as fine as
 * the mesh's own pictures; else colour runs evenly inwards from what these show along the rim. Two
 * triangles share a tile of {@link #SIDE} texels each way or more, each with all texels that
 * reading between them touches; the mesh's own pictures and texture coordinates stay as they are.
 *
 * <p>Where the mesh has several materials, those that patches border on have a material each for
 * their patches, all with the one new picture.
 */
final class PatchTexture {
  /** Texels a tile has each way; its triangles reach from one half-texel within to the other. */
  private static final int SIDE = 6;

  /** A tile has no more texels each way. */
  private static final int FINEST = 256;

  /** So many triangles of a mesh tell how fine its pictures are. */
  private static final int SAMPLES = 20_000;

  private static final int GRAIN = 1 << 6;

  /** The longest side of the picture; above it tiles are shared by more triangles each. */
  private static final int MOST = 16_384;

  private final Mesh mesh;
  private final Mesh patched;
  private final int[] patch;
  private final PatchRim rim;
  private final int first;
  private final int triangles;
  private final Supplier<Patching.Seen> seen;

  private PatchTexture(Mesh mesh, Mesh patched, Supplier<Patching.Seen> seen) {
    this.seen = seen;
    this.mesh = mesh;
    this.patched = patched;
    first = mesh.triangleCount();
    triangles = patched.triangleCount() - first;
    patch = Arrays.copyOfRange(patched.triangles(), 3 * first, 3 * patched.triangleCount());
    rim = PatchRim.of(mesh.triangles(), mesh.vertexCount(), patch);
  }

  /**
   * Paints the triangles that were added behind those of a mesh.
   *
   * @param patched the mesh with them
   * @param seen see {@link Patching}; may be null
   */
  static Mesh paint(Mesh mesh, Mesh patched, Supplier<Patching.Seen> seen, Work work) {
    return new PatchTexture(mesh, patched, seen).run(work);
  }

  private Mesh run(Work work) {
    double[] colour = colours(work);
    int tiles = (triangles + 1) / 2;
    int across = (int) Math.ceil(Math.sqrt(tiles));
    int side = Math.max(3, Math.min(wantedSide(), MOST / across - 1));
    int down = (tiles + across - 1) / across;
    int width = across * (side + 1);
    int height = down * side;
    int[] pixels = new int[width * height];
    Uv uv = patched.uv();
    int base = uv.coords().length / 2;
    float[] coords = Arrays.copyOf(uv.coords(), uv.coords().length + 6 * triangles);
    int[] corners = uv.corners().clone();
    for (int t = 0; t < triangles; t++) {
      int x = t / 2 % across * (side + 1);
      int y = t / 2 / across * side;
      for (int k = 0; k < 3; k++) {
        // The second triangle of a tile is the first one turned by half a turn.
        boolean turned = t % 2 == 1;
        double inX = k == 1 ? side - 1.5 : 0.5;
        double inY = k == 2 ? side - 1.5 : 0.5;
        double px = x + (turned ? side + 1 - inX : inX);
        double py = y + (turned ? side - inY : inY);
        coords[2 * (base + 3 * t + k)] = (float) (px / width);
        coords[2 * (base + 3 * t + k) + 1] = (float) (1 - py / height);
        corners[3 * (first + t) + k] = base + 3 * t + k;
      }
    }
    Parallel.range(
        triangles,
        GRAIN,
        work.part(0.3, ""),
        (from, to) -> {
          Patching.Seen look = seen == null ? null : seen.get();
          for (int t = from; t < to; t++) {
            int x = t / 2 % across * (side + 1);
            int y = t / 2 / across * side;
            paintTile(t, colour, look, pixels, width, x, y, side);
          }
        });
    List<Material> materials = new ArrayList<>(mesh.materials());
    short[] of = materials(materials, new Raster(width, height, pixels));
    Attribute set = patched.attributes().first(Attribute.Kind.UV, Attribute.Domain.CORNER);
    return patched
        .withMaterials(of, materials)
        .with(new Uv(coords, corners).attribute(set.name()))
        .of(patched.lineage());
  }

  /** Light of red, green, blue and alpha per vertex of the patches: rim vertices, then new ones. */
  private double[] colours(Work work) {
    int[] at = rim.vertices();
    int inner = patched.vertexCount() - mesh.vertexCount();
    double[] out = new double[4 * (at.length + inner)];
    for (int i = 0; i < at.length; i++) {
      int[] corners = rim.cornersAt(i);
      for (int c : corners) {
        int argb = VertexColours.at(mesh, c / 3, c % 3 == 1 ? 1 : 0, c % 3 == 2 ? 1 : 0);
        for (int k = 0; k < 4; k++) {
          out[4 * i + k] += LinearLight.channel(argb, k) / corners.length;
        }
      }
    }
    if (inner > 0) {
      double[] spread =
          new HarmonicPatch(patch, mesh.vertexCount(), inner)
              .spread(4, (v, k) -> out[4 * rim.place(v) + k], work.part(0.6, ""));
      System.arraycopy(spread, 0, out, 4 * at.length, spread.length);
    }
    return out;
  }

  private int place(int vertex) {
    return vertex < mesh.vertexCount()
        ? rim.place(vertex)
        : rim.vertices().length + vertex - mesh.vertexCount();
  }

  /** Fills half a tile: mixes of the corners' light, run on beyond the triangle's edges. */
  private void paintTile(
      int t, double[] colour, Patching.Seen look, int[] pixels, int width, int x, int y, int side) {
    double span = side - 2.0;
    double[] light = new double[4];
    for (int j = 0; j < side; j++) {
      for (int i = 0; i < side; i++) {
        // The tile is a texel wider than high: so far each of its two triangles has its own.
        if (i + j > side - 1) {
          continue;
        }
        double u = Math.clamp(i / span, 0.0, 1.0);
        double v = Math.clamp(j / span, 0.0, 1.0);
        double over = Math.max(0, u + v - 1) / 2;
        double[] w = {1 - (u - over) - (v - over), u - over, v - over};
        boolean turned = t % 2 == 1;
        int px = turned ? side - i : i;
        int py = turned ? side - 1 - j : j;
        int pixel = (y + py) * width + x + px;
        if (look != null) {
          pixels[pixel] = look.argb(mixed(t, w, 0), mixed(t, w, 1), mixed(t, w, 2));
          continue;
        }
        Arrays.fill(light, 0);
        for (int k = 0; k < 3; k++) {
          int at = 4 * place(patch[3 * t + k]);
          for (int c = 0; c < 4; c++) {
            light[c] += w[k] * colour[at + c];
          }
        }
        pixels[pixel] = LinearLight.colour(light, 0);
      }
    }
  }

  /** A coordinate of the place in a patch's triangle that weights of its corners mean. */
  private double mixed(int t, double[] w, int axis) {
    float[] p = patched.xyz();
    return w[0] * p[3 * patch[3 * t] + axis]
        + w[1] * p[3 * patch[3 * t + 1] + axis]
        + w[2] * p[3 * patch[3 * t + 2] + axis];
  }

  /** Texels a tile should have each way to be as fine as the mesh's own pictures. */
  private int wantedSide() {
    if (seen == null) {
      return SIDE;
    }
    double texels = 0;
    double area = 0;
    int step = Math.max(1, first / SAMPLES);
    for (int t = 0; t < first; t += step) {
      Raster picture = mesh.materialOf(t) == null ? null : mesh.materialOf(t).image();
      if (picture != null) {
        area += Vec.length(Measures.cross(mesh, t)) / 2;
        texels += uvArea(t) * picture.width() * picture.height();
      }
    }
    double own = 0;
    for (int t = first; t < first + triangles; t++) {
      own += Vec.length(Measures.cross(patched, t)) / 2;
    }
    if (!(area > 0) || triangles == 0) {
      return SIDE;
    }
    double each = texels / area * own / triangles;
    return (int) Math.clamp(Math.ceil(Math.sqrt(2 * each)) + 2, SIDE, FINEST);
  }

  /** What a triangle takes of the texture square. */
  private double uvArea(int t) {
    float[] c = mesh.uv().coords();
    int[] at = mesh.uv().corners();
    int i = 2 * at[3 * t];
    int j = 2 * at[3 * t + 1];
    int k = 2 * at[3 * t + 2];
    double twice =
        ((double) c[j] - c[i]) * ((double) c[k + 1] - c[i + 1])
            - ((double) c[k] - c[i]) * ((double) c[j + 1] - c[i + 1]);
    return Math.abs(twice) / 2;
  }

  /** A material for the patches beside each that they border on; returns all triangles' numbers. */
  private short[] materials(List<Material> list, Raster picture) {
    short[] of = new short[patched.triangleCount()];
    if (patched.material() != null) {
      System.arraycopy(patched.material(), 0, of, 0, of.length);
    }
    int[] number = new int[mesh.materials().size()];
    for (int t = 0; t < triangles; t++) {
      int own = Math.clamp(of[first + t], 0, number.length - 1);
      if (number[own] == 0) {
        Material beside = mesh.materials().get(own);
        list.add(new Material(beside.name() + " patch", beside.argb(), picture));
        number[own] = list.size() - 1;
      }
      of[first + t] = (short) number[own];
    }
    return of;
  }
}
