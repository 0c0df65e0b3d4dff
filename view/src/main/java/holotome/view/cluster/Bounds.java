package holotome.view.cluster;

/** The sphere around some points and spheres, by their box. */
final class Bounds {
  private double minX = Double.POSITIVE_INFINITY;
  private double minY = Double.POSITIVE_INFINITY;
  private double minZ = Double.POSITIVE_INFINITY;
  private double maxX = Double.NEGATIVE_INFINITY;
  private double maxY = Double.NEGATIVE_INFINITY;
  private double maxZ = Double.NEGATIVE_INFINITY;

  /** Adds points of 3 floats each. */
  void add(float[] xyz) {
    for (int i = 0; i < xyz.length; i += 3) {
      add(xyz[i], xyz[i + 1], xyz[i + 2], 0);
    }
  }

  void add(double x, double y, double z, double radius) {
    minX = Math.min(minX, x - radius);
    minY = Math.min(minY, y - radius);
    minZ = Math.min(minZ, z - radius);
    maxX = Math.max(maxX, x + radius);
    maxY = Math.max(maxY, y + radius);
    maxZ = Math.max(maxZ, z + radius);
  }

  /** Sets a node's sphere. */
  void give(Node node) {
    if (minX > maxX) {
      return;
    }
    node.cx = (float) ((minX + maxX) / 2);
    node.cy = (float) ((minY + maxY) / 2);
    node.cz = (float) ((minZ + maxZ) / 2);
    double dx = maxX - minX;
    double dy = maxY - minY;
    double dz = maxZ - minZ;
    // A hair more for the rounding of the middle.
    node.radius =
        (float)
            (Math.sqrt(dx * dx + dy * dy + dz * dz) / 2 * 1.00001
                + 1e-6 * (Math.abs(node.cx) + Math.abs(node.cy) + Math.abs(node.cz)));
  }
}
