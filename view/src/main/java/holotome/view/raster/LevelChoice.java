package holotome.view.raster;

import holotome.view.cluster.Hierarchy;
import holotome.view.cluster.Node;
import java.util.ArrayList;
import java.util.List;

/**
 * Chooses the nodes of a hierarchy to be drawn for a view: in sight, and of each the lightest whose
 * error is as a rule seen under no more than so many pixels and whose vertices, which carry the
 * colour, are close enough together; the nearer ones first.
 */
public final class LevelChoice {
  private final float[] m;
  private final double[] origin;
  private final double[] region;
  private final double tolerance;
  private final double[] rows = new double[5];
  private final double intoX;
  private final double intoY;
  private final double intoZ;
  private final boolean perspective;
  private final List<Node> nodes = new ArrayList<>();
  private double worst;
  private double typical;

  /** Single vertices may be so many times as far off as is allowed as a rule... */
  private static final double WORST = 4;

  /** ... but never more than so many pixels. */
  private static final double MOST_ERROR = 3.9;

  /** Vertices may be so many times as far apart as the error allowed. */
  private static final double SPARSE = 4;

  /** Whatever error is allowed, these are drawn by their true triangles. */
  public static final double EXACT = -1;

  public LevelChoice(Projection p, int width, int height, double tolerance) {
    this(p, new double[] {0, 0, width, height}, tolerance);
  }

  /**
   * @param region only what is seen in it is chosen: least x, y and largest x, y in pixels
   */
  public LevelChoice(Projection p, double[] region, double tolerance) {
    this.m = p.m();
    this.origin = new double[] {p.originX(), p.originY(), p.originZ()};
    this.region = region;
    this.tolerance = tolerance;
    perspective = m[12] != 0 || m[13] != 0 || m[14] != 0;
    for (int i = 0; i < 4; i++) {
      int r = 4 * (i % 2);
      rows[i] =
          norm(
              m[r] - region[i] * m[12], m[r + 1] - region[i] * m[13], m[r + 2] - region[i] * m[14]);
    }
    rows[4] = norm(m[12], m[13], m[14]);
    // Into the scene: in parallel views depth grows along its row, in perspective w does.
    intoX = perspective ? m[12] : m[8];
    intoY = perspective ? m[13] : m[9];
    intoZ = perspective ? m[14] : m[10];
  }

  private static double norm(double x, double y, double z) {
    return Math.sqrt(x * x + y * y + z * z);
  }

  /** The nodes, nearer ones first among siblings. */
  public List<Node> of(Hierarchy h) {
    visit(h.root(), h);
    return nodes;
  }

  /** The largest error of a chosen node as seen, in pixels. */
  public double worst() {
    return worst;
  }

  /** The largest typical error of a chosen node as seen, in pixels. */
  public double typical() {
    return typical;
  }

  private double row(int r, Node n) {
    return m[4 * r] * (n.centreX() - origin[0])
        + m[4 * r + 1] * (n.centreY() - origin[1])
        + m[4 * r + 2] * (n.centreZ() - origin[2])
        + m[4 * r + 3];
  }

  private void visit(Node n, Hierarchy h) {
    double x = row(0, n);
    double y = row(1, n);
    double w = row(3, n);
    double r = n.radius();
    if (x - region[0] * w < -r * rows[0]
        || y - region[1] * w < -r * rows[1]
        || region[2] * w - x < -r * rows[2]
        || region[3] * w - y < -r * rows[3]
        || w < -r * rows[4]) {
      return;
    }
    if (n.isLeaf()) {
      nodes.add(n);
      return;
    }
    double near = w - r * rows[4];
    if (tolerance >= 0 && n.hasPieces() && near > 0) {
      // A pixel measured straight across the line of sight; towards the rim it is a little more.
      double scale = norm(m[0] - x / w * m[12], m[1] - x / w * m[13], m[2] - x / w * m[14]) / near;
      if (n.typical() * scale <= tolerance
          && n.error() * scale <= Math.min(MOST_ERROR, WORST * tolerance)
          && h.grain(n) * scale <= SPARSE * tolerance) {
        typical = Math.max(typical, n.typical() * scale);
        worst = Math.max(worst, n.error() * scale);
        nodes.add(n);
        return;
      }
    }
    Node[] children = n.children();
    // Few enough to be put in order by looking for the next nearest.
    int left = (1 << children.length) - 1;
    while (left != 0) {
      int best = -1;
      double least = Double.POSITIVE_INFINITY;
      for (int i = 0; i < children.length; i++) {
        if ((left >> i & 1) != 0) {
          Node c = children[i];
          double d = intoX * c.centreX() + intoY * c.centreY() + intoZ * c.centreZ();
          if (d < least || best < 0) {
            least = d;
            best = i;
          }
        }
      }
      left &= ~(1 << best);
      visit(children[best], h);
    }
  }

  /** Whether a node's triangles look towards the viewer, as a whole. */
  boolean faces(Node n) {
    double dx = intoX;
    double dy = intoY;
    double dz = intoZ;
    if (perspective) {
      // The line of sight through a point: where x and y over w stay as they are.
      double w = row(3, n);
      double sx = row(0, n) / w;
      double sy = row(1, n) / w;
      double ax = m[0] - sx * m[12];
      double ay = m[1] - sx * m[13];
      double az = m[2] - sx * m[14];
      double bx = m[4] - sy * m[12];
      double by = m[5] - sy * m[13];
      double bz = m[6] - sy * m[14];
      dx = ay * bz - az * by;
      dy = az * bx - ax * bz;
      dz = ax * by - ay * bx;
      if (dx * intoX + dy * intoY + dz * intoZ < 0) {
        dx = -dx;
        dy = -dy;
        dz = -dz;
      }
    }
    return n.normal(0) * dx + n.normal(1) * dy + n.normal(2) * dz <= 0;
  }

  /**
   * Whether all of a node lies behind what was drawn.
   *
   * @param slack by at least so many pixels' width
   */
  public boolean isHidden(Node n, DepthTiles tiles, double slack) {
    double w = row(3, n);
    double r = n.radius();
    double near = w - r * rows[4];
    if (near <= 0) {
      return false;
    }
    double x = row(0, n) / w;
    double y = row(1, n) / w;
    double z = row(2, n) / w;
    double k = r / near;
    double dx = k * norm(m[0] - x * m[12], m[1] - x * m[13], m[2] - x * m[14]) + 1;
    double dy = k * norm(m[4] - y * m[12], m[5] - y * m[13], m[6] - y * m[14]) + 1;
    double dz = k * norm(m[8] - z * m[12], m[9] - z * m[13], m[10] - z * m[14]);
    dz *= 1 + slack / Math.max(1e-9, dx - 1);
    // Depths are floats: a hair nearer, to be safe.
    return tiles.hides(x - dx, y - dy, x + dx, y + dy, z - dz - 1e-6);
  }
}
