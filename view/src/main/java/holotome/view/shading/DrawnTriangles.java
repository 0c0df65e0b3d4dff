package holotome.view.shading;

import holotome.core.attribute.Attribute;
import holotome.core.geometry.Vec;
import holotome.core.image.Colours;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;
import holotome.view.cluster.PackedNormal;
import holotome.view.cluster.Piece;
import holotome.view.raster.PieceRasteriser;
import holotome.view.raster.Projection;
import java.util.function.Supplier;

/** What the numbers in a visibility buffer stand for. */
public sealed interface DrawnTriangles {

  /** Loads the corners of a numbered triangle. */
  void load(int number, Corners into);

  /** The triangle of the mesh that a number is, or one of those it stands for. */
  int triangle(int number);

  /** Whether a number is a triangle of the mesh itself. */
  boolean isOwn(int number);

  /** The colour inside a triangle, by the weights of its second and third corner. */
  int colour(int number, float u, float v);

  /** The corners of one triangle. */
  final class Corners {
    /** Homogeneous x, y and w of each corner. */
    final float[] clip = new float[9];

    /** The normal at each corner, in base coordinates. */
    final float[] normals = new float[9];
  }

  /**
   * Triangles numbered as in the mesh.
   *
   * @param normals packed, one per vertex; null to take those given, else those of the triangles
   * @param given those that the mesh carries at its corners; null for none
   */
  record Whole(Mesh mesh, int[] normals, Attribute given, Projection projection)
      implements DrawnTriangles {

    /** As a mesh is shown: by the normals at its corners where it carries some. */
    public static Whole of(Mesh mesh, Supplier<int[]> normals, Projection projection) {
      Attribute given = mesh.attributes().first(Attribute.Kind.NORMAL, Attribute.Domain.CORNER);
      return new Whole(mesh, given == null ? normals.get() : null, given, projection);
    }

    @Override
    public void load(int number, Corners into) {
      int[] tri = mesh.triangles();
      for (int k = 0; k < 3; k++) {
        int v = tri[3 * number + k];
        projection.seen(mesh.xyz(), v, into.clip, 3 * k);
        if (normals != null) {
          PackedNormal.unpackRoughly(normals[v], into.normals, 3 * k);
        } else if (given != null) {
          System.arraycopy(
              given.floats(), 3 * given.index()[3 * number + k], into.normals, 3 * k, 3);
        }
      }
      if (normals == null && given == null) {
        double[] n = facing(number);
        for (int i = 0; i < 9; i++) {
          into.normals[i] = (float) n[i % 3];
        }
      }
    }

    private double[] facing(int t) {
      double[] a = Vec.at(mesh.xyz(), mesh.triangles()[3 * t]);
      double[] b = Vec.at(mesh.xyz(), mesh.triangles()[3 * t + 1]);
      double[] c = Vec.at(mesh.xyz(), mesh.triangles()[3 * t + 2]);
      return Vec.unit(Vec.cross(Vec.sub(b, a), Vec.sub(c, a)));
    }

    @Override
    public int triangle(int number) {
      return number;
    }

    @Override
    public boolean isOwn(int number) {
      return true;
    }

    @Override
    public int colour(int number, float u, float v) {
      return VertexColours.at(mesh, number, u, v);
    }
  }

  /** Triangles of pieces, numbered as {@link PieceRasteriser} does. */
  record Pieces(Piece[] pieces, Whole whole) implements DrawnTriangles {
    private static final int WITHIN = Piece.MOST - 1;

    @Override
    public void load(int number, Corners into) {
      Piece p = pieces[number >>> Piece.BITS];
      int t = number & WITHIN;
      if (p.exact()) {
        whole.load(p.ids()[t], into);
        return;
      }
      for (int k = 0; k < 3; k++) {
        int v = p.corners()[3 * t + k];
        whole.projection.seen(p.xyz(), v, into.clip, 3 * k);
        PackedNormal.unpackRoughly(p.normals()[v], into.normals, 3 * k);
      }
    }

    @Override
    public int triangle(int number) {
      return pieces[number >>> Piece.BITS].ids()[number & WITHIN];
    }

    @Override
    public boolean isOwn(int number) {
      return pieces[number >>> Piece.BITS].exact();
    }

    @Override
    public int colour(int number, float u, float v) {
      Piece p = pieces[number >>> Piece.BITS];
      int t = number & WITHIN;
      if (p.exact() || p.colours() == null) {
        return VertexColours.at(whole.mesh, p.ids()[t], u, v);
      }
      int[] c = p.colours();
      return Colours.mix(
          c[p.corners()[3 * t]],
          c[p.corners()[3 * t + 1]],
          c[p.corners()[3 * t + 2]],
          1 - u - v,
          u,
          v);
    }
  }
}
