package holotome.view.cluster;

import holotome.core.mesh.Lineage;
import holotome.core.mesh.Mesh;
import java.util.Arrays;

/**
 * The true triangles of a leaf. Only their numbers are kept for good; the pieces that are drawn are
 * copies from the mesh and are let go where memory is short, to be made again when next asked for:
 * that costs some ten microseconds, less than reading them back from a disk would.
 *
 * <p>Any thread.
 */
final class LeafPieces {
  private static final ThreadLocal<IntIndex> LOCAL = ThreadLocal.withInitial(IntIndex::new);

  private final Mesh mesh;

  /** Per piece: the numbers of its triangles. */
  private final int[][] ids;

  /** Null while it is let go. */
  private volatile Piece[] made;

  LeafPieces(Mesh mesh, int[][] ids) {
    this.mesh = mesh;
    this.ids = ids;
  }

  /** Of triangles {@code list[from] ... list[to - 1]}. */
  static LeafPieces of(Mesh mesh, int[] list, int from, int to) {
    int[][] ids = new int[(to - from + Piece.MOST - 1) / Piece.MOST][];
    for (int i = 0; i < ids.length; i++) {
      int at = from + i * Piece.MOST;
      ids[i] = Arrays.copyOfRange(list, at, Math.min(to, at + Piece.MOST));
    }
    return new LeafPieces(mesh, ids);
  }

  Piece[] get() {
    Piece[] p = made;
    return p != null ? p : make(LOCAL.get());
  }

  /** Makes the pieces; {@code local} then holds the mesh's vertices by the last piece's numbers. */
  Piece[] make(IntIndex local) {
    Piece[] p = new Piece[ids.length];
    for (int i = 0; i < p.length; i++) {
      p[i] = piece(ids[i], local);
    }
    made = p;
    return p;
  }

  void letGo() {
    made = null;
  }

  /** The numbers of the triangles, per piece. */
  int[][] ids() {
    return ids;
  }

  /** The same triangles under the numbers they have in another mesh. */
  LeafPieces renumbered(Mesh other, Lineage.Common match) {
    int[][] now = new int[ids.length][];
    for (int i = 0; i < now.length; i++) {
      now[i] = new int[ids[i].length];
      for (int k = 0; k < now[i].length; k++) {
        now[i][k] = match.to(ids[i][k]);
      }
    }
    LeafPieces out = new LeafPieces(other, now);
    Piece[] have = made;
    if (have != null) {
      Piece[] p = new Piece[now.length];
      for (int i = 0; i < p.length; i++) {
        p[i] = have[i].withIds(now[i]);
      }
      out.made = p;
    }
    return out;
  }

  private Piece piece(int[] of, IntIndex local) {
    int[] tri = mesh.triangles();
    char[] corners = new char[3 * of.length];
    local.clear();
    for (int i = 0; i < of.length; i++) {
      for (int k = 0; k < 3; k++) {
        corners[3 * i + k] = (char) local.of(tri[3 * of[i] + k]);
      }
    }
    float[] xyz = new float[3 * local.size()];
    for (int l = 0; l < local.size(); l++) {
      System.arraycopy(mesh.xyz(), 3 * local.key(l), xyz, 3 * l, 3);
    }
    return new Piece(xyz, corners, of, null, null, true);
  }
}
