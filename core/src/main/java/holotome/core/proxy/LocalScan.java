package holotome.core.proxy;

import holotome.core.geometry.Box;
import holotome.core.geometry.TrianglePlaces;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.util.Arrays;

/**
 * A Scan seen about its middle and as if its diagonal were 1, so that sums of squares lose nothing
 * and tolerances are shares of its size; and places spread evenly over its surface, however large
 * its triangles are: every so much of the area, one triangle after the other, within each by {@link
 * TrianglePlaces}. 36 bytes a place, at most {@link #MOST}.
 */
final class LocalScan {
  static final int GRAIN = 1 << 15;

  /**
   * Triangles in a row that a box is kept around; a whole number of them makes a {@link #GRAIN}.
   */
  static final int BLOCK = 1 << 9;

  /** So many places are enough to see how far a flat part goes. */
  private static final int MOST = 400_000;

  private final Mesh mesh;
  private final double[] middle;
  private final double size;

  /** Cells along a side of the grids that its planes are seen in. */
  private final int side;

  /** Places, 3 doubles each. */
  private final double[] some;

  /** The normals there, unit, 3 floats each. */
  private final float[] facing;

  /** How far they lie apart. */
  private final double spacing;

  /** Around each block of triangles: least, then largest along x, y, z. */
  private final float[] boxes;

  private LocalScan(Mesh mesh, double[] middle, double size, int most, Work work) {
    this.mesh = mesh;
    this.middle = middle;
    this.size = size;
    int n = mesh.triangleCount();
    boxes = new float[6 * Parallel.chunks(n, BLOCK)];
    double[] before = new double[Parallel.chunks(n, GRAIN) + 1];
    Parallel.chunked(
        n,
        GRAIN,
        work.part(0.5, ""),
        (c, from, to) -> {
          for (int block = from; block < to; block += BLOCK) {
            before[c + 1] += box(block, Math.min(to, block + BLOCK));
          }
        });
    for (int c = 1; c < before.length; c++) {
      before[c] += before[c - 1];
    }
    double all = before[before.length - 1];
    int count = all > 0 ? (int) Math.min(most, 40L * n + 200) : 0;
    some = new double[3 * count];
    facing = new float[3 * count];
    spacing = count > 0 ? Math.sqrt(all / count) : 1;
    side = Math.clamp((int) (2 / Math.max(meshSpacing(), 1e-9)), PlaneGrid.COARSE, PlaneGrid.FINE);
    Parallel.chunked(
        n, GRAIN, work.part(0.5, ""), (c, from, to) -> place(from, to, before[c], all / count));
  }

  /** Puts a box around a block of triangles, and says how large they are. */
  private double box(int from, int to) {
    double[] p = new double[9];
    double[] low = {9, 9, 9};
    double[] high = {-9, -9, -9};
    double area = 0;
    for (int t = from; t < to; t++) {
      corners(t, p);
      for (int k = 0; k < 3; k++) {
        low[k] = Math.min(low[k], Math.min(p[k], Math.min(p[3 + k], p[6 + k])));
        high[k] = Math.max(high[k], Math.max(p[k], Math.max(p[3 + k], p[6 + k])));
      }
      area += Vec.length(cross(p)) / 2;
    }
    int at = from / BLOCK * 6;
    for (int k = 0; k < 3; k++) {
      boxes[at + k] = Math.nextDown((float) low[k]);
      boxes[at + 3 + k] = Math.nextUp((float) high[k]);
    }
    return area;
  }

  /** Whether a block may have triangles that reach within a distance of a plane. */
  boolean reaches(int block, double[] point, double[] normal, double within) {
    double middleOver = 0;
    double half = 0;
    for (int k = 0; k < 3; k++) {
      double low = boxes[6 * block + k];
      double high = boxes[6 * block + 3 + k];
      middleOver += ((low + high) / 2 - point[k]) * normal[k];
      half += (high - low) / 2 * Math.abs(normal[k]);
    }
    return Math.abs(middleOver) <= half + within;
  }

  /** Places on some triangles: at every half step of the area. */
  private void place(int from, int to, double before, double step) {
    double[] p = new double[9];
    double sum = before;
    for (int t = from; t < to; t++) {
      corners(t, p);
      double[] n = cross(p);
      double twice = Vec.length(n);
      double next = sum + twice / 2;
      int count = facing.length / 3;
      for (int i = at(sum, step); i < Math.min(count, at(next, step)); i++) {
        double[] ab = TrianglePlaces.weights(i, 0);
        for (int k = 0; k < 3; k++) {
          some[3 * i + k] = p[k] + ab[0] * (p[3 + k] - p[k]) + ab[1] * (p[6 + k] - p[k]);
          facing[3 * i + k] = (float) (n[k] / twice);
        }
      }
      sum = next;
    }
  }

  /** How many places lie before so much of the area. */
  private static int at(double area, double step) {
    return (int) Math.ceil(area / step - 0.5);
  }

  /** A Scan with at least one triangle. */
  static LocalScan of(Mesh mesh, Work work) {
    Box box = mesh.bounds();
    double[] middle = {
      (box.minX() + box.maxX()) / 2, (box.minY() + box.maxY()) / 2, (box.minZ() + box.maxZ()) / 2
    };
    double size =
        Vec.distance(
            Vec.of(box.minX(), box.minY(), box.minZ()), Vec.of(box.maxX(), box.maxY(), box.maxZ()));
    return new LocalScan(mesh, middle, size > 0 ? size : 1, MOST, work);
  }

  /** Small triangles around so many of its places at most, and nothing else. */
  LocalScan thinned(int most) {
    int n = Math.min(count(), most);
    float[] xyz = new float[9 * n];
    int[] triangles = new int[3 * n];
    // As large as what each place stands for, so that they leave little between them.
    double radius = 0.8 * spacing * Math.sqrt((double) count() / n);
    for (int i = 0; i < n; i++) {
      int place = (int) ((long) i * count() / n);
      double[] at = Arrays.copyOfRange(some, 3 * place, 3 * place + 3);
      double[] normal = Vec.unit(Vec.at(facing, place));
      double[] u = Vec.perpendicular(normal);
      double[] v = Vec.cross(normal, u);
      for (int k = 0; k < 3; k++) {
        double turn = 2 * Math.PI * k / 3;
        double[] d =
            Vec.add(Vec.mul(u, radius * Math.cos(turn)), Vec.mul(v, radius * Math.sin(turn)));
        double[] corner = toBase(Vec.add(at, d));
        for (int j = 0; j < 3; j++) {
          xyz[9 * i + 3 * k + j] = (float) corner[j];
        }
        triangles[3 * i + k] = 3 * i + k;
      }
    }
    return new LocalScan(new Mesh(xyz, triangles), middle, size, n, Work.unwatched());
  }

  Mesh mesh() {
    return mesh;
  }

  /** How long 1 is in base units. */
  double size() {
    return size;
  }

  int side() {
    return side;
  }

  /** About how far the places are from each other. */
  double spacing() {
    return spacing;
  }

  /** About how far triangles of the mesh are from each other, if they are all as large. */
  double meshSpacing() {
    return spacing * Math.sqrt((double) count() / mesh.triangleCount());
  }

  int count() {
    return facing.length / 3;
  }

  double[] some() {
    return some;
  }

  float[] facing() {
    return facing;
  }

  /** The corners of a triangle of the mesh, 9 numbers. */
  void corners(int t, double[] out) {
    float[] xyz = mesh.xyz();
    int[] tri = mesh.triangles();
    for (int i = 0; i < 3; i++) {
      int v = 3 * tri[3 * t + i];
      for (int k = 0; k < 3; k++) {
        out[3 * i + k] = (xyz[v + k] - middle[k]) / size;
      }
    }
  }

  /** The normal of a triangle, as long as twice its area. */
  static double[] cross(double[] p) {
    double ax = p[3] - p[0];
    double ay = p[4] - p[1];
    double az = p[5] - p[2];
    double bx = p[6] - p[0];
    double by = p[7] - p[1];
    double bz = p[8] - p[2];
    return new double[] {ay * bz - az * by, az * bx - ax * bz, ax * by - ay * bx};
  }

  double[] toLocal(double[] base) {
    return Vec.mul(Vec.sub(base, middle), 1 / size);
  }

  double[] toBase(double[] local) {
    return Vec.add(Vec.mul(local, size), middle);
  }
}
