package holotome.demo;

import holotome.core.task.Parallel;
import holotome.core.task.Work;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;
import java.util.BitSet;

/**
 * Writes a scan of any size as binary PLY, holding a few rings at a time and one bit per point.
 * Rings are computed in parallel, some hundred at once, and written in order.
 */
final class ScanStream {
  private static final int TOGETHER = 64;

  private final BollardScan scan;
  private final RingGrid grid;
  private final Work work;
  private final long[] firstPoint;
  private final BitSet kept;
  private final int[] firstVertex;
  private final int[] ends = new int[4];
  private final int mainVertices;

  ScanStream(BollardScan scan, Work work) {
    this.scan = scan;
    this.work = work;
    grid = scan.grid();
    int rings = grid.rings();
    firstPoint = new long[rings + 1];
    for (int r = 0; r < rings; r++) {
      firstPoint[r + 1] = firstPoint[r] + grid.points()[r];
    }
    kept = new BitSet((int) firstPoint[rings]);
    markKept();
    firstVertex = new int[rings + 1];
    firstVertex[0] = 1;
    for (int r = 0; r < rings; r++) {
      int n = kept.get((int) firstPoint[r], (int) firstPoint[r + 1]).cardinality();
      firstVertex[r + 1] = firstVertex[r] + n;
    }
    mainVertices = firstVertex[rings];
    count();
  }

  private void markKept() {
    boolean[][] rows = new boolean[TOGETHER][];
    for (int start = 0; start < grid.rings(); start += TOGETHER) {
      int from = start;
      int n = Math.min(TOGETHER, grid.rings() - start);
      Parallel.range(
          n,
          1,
          Work.unwatched(),
          (a, b) -> {
            for (int i = a; i < b; i++) {
              boolean[] row = new boolean[grid.points()[from + i]];
              for (int j = 0; j < row.length; j++) {
                row[j] = scan.kept(from + i, j);
              }
              rows[i] = row;
            }
          });
      for (int i = 0; i < n; i++) {
        for (int j = 0; j < rows[i].length; j++) {
          if (rows[i][j]) {
            kept.set((int) firstPoint[from + i] + j);
          }
        }
      }
      work.advance(0.15 * n / grid.rings());
    }
  }

  private boolean isKept(int ring, int j) {
    return kept.get((int) firstPoint[ring] + j);
  }

  private void count() {
    int[] n = {0};
    for (int j = 0; j < grid.points()[0]; j++) {
      if (isKept(0, j) && isKept(0, (j + 1) % grid.points()[0])) {
        n[0]++;
      }
    }
    for (int r = 0; r + 1 < grid.rings(); r++) {
      if (r == grid.foot()) {
        ends[0] = n[0];
      }
      scan.weave(
          r,
          (ra, a, rb, b, rc, c) -> {
            if (isKept(ra, a) && isKept(rb, b) && isKept(rc, c)) {
              n[0]++;
            }
          });
    }
    ends[1] = n[0];
    ends[2] = ends[1] + scan.extras().barTriangles();
    ends[3] = ends[1] + scan.extras().triangles();
  }

  int[] ends() {
    return ends;
  }

  void write(OutputStream out) throws IOException {
    String header =
        "ply\nformat binary_little_endian 1.0\n"
            + "comment Sandmouth harbour, mooring bollard; a made-up scan\n"
            + "element vertex "
            + (mainVertices + scan.extras().vertices())
            + "\n"
            + "property float x\nproperty float y\nproperty float z\n"
            + "property uchar red\nproperty uchar green\nproperty uchar blue\n"
            + "element face "
            + ends[3]
            + "\n"
            + "property list uchar int vertex_indices\nend_header\n";
    out.write(header.getBytes(StandardCharsets.US_ASCII));
    int extraVertices = scan.extras().vertices();
    float[] xyz = new float[3 * extraVertices];
    int[] colours = new int[extraVertices];
    IntList extraTriangles = new IntList();
    scan.extras().append(BollardScan.CAPTURE, xyz, colours, 0, extraTriangles, new int[4]);
    writeMainVertices(out);
    Buffer b = new Buffer(15 * extraVertices);
    for (int v = 0; v < extraVertices; v++) {
      b.vertex(xyz[3 * v], xyz[3 * v + 1], xyz[3 * v + 2], colours[v]);
    }
    b.to(out);
    writeMainTriangles(out);
    Buffer t = new Buffer(13 * (extraTriangles.size() / 3));
    for (int i = 0; i < extraTriangles.size(); i += 3) {
      t.triangle(
          mainVertices + extraTriangles.get(i),
          mainVertices + extraTriangles.get(i + 1),
          mainVertices + extraTriangles.get(i + 2));
    }
    t.to(out);
  }

  private void writeMainVertices(OutputStream out) throws IOException {
    double[] top = new double[6];
    Bollard.point(0, 0, top);
    double[] q = BollardScan.CAPTURE.apply(top[0], top[1], top[2]);
    Buffer first = new Buffer(15);
    first.vertex((float) q[0], (float) q[1], (float) q[2], Paint.bollard(top[0], top[1], top[2]));
    first.to(out);
    Buffer[] ready = new Buffer[TOGETHER];
    for (int start = 0; start < grid.rings(); start += TOGETHER) {
      int from = start;
      int n = Math.min(TOGETHER, grid.rings() - start);
      Parallel.range(
          n,
          1,
          Work.unwatched(),
          (a, z) -> {
            for (int i = a; i < z; i++) {
              ready[i] = ring(from + i);
            }
          });
      for (int i = 0; i < n; i++) {
        ready[i].to(out);
      }
      work.advance(0.55 * n / grid.rings());
    }
  }

  private Buffer ring(int r) {
    int n = grid.points()[r];
    double[] p = new double[3 * n];
    int[] c = new int[n];
    scan.ring(r, p, c);
    Buffer b = new Buffer(15 * (firstVertex[r + 1] - firstVertex[r]));
    for (int j = 0; j < n; j++) {
      if (isKept(r, j)) {
        double[] q = BollardScan.CAPTURE.apply(p[3 * j], p[3 * j + 1], p[3 * j + 2]);
        b.vertex((float) q[0], (float) q[1], (float) q[2], c[j]);
      }
    }
    return b;
  }

  private int[] numbers(int r) {
    int[] number = new int[grid.points()[r]];
    int next = firstVertex[r];
    for (int j = 0; j < number.length; j++) {
      number[j] = isKept(r, j) ? next++ : -1;
    }
    return number;
  }

  private void writeMainTriangles(OutputStream out) throws IOException {
    int[] here = numbers(0);
    Buffer fan = new Buffer(13 * here.length);
    for (int j = 0; j < here.length; j++) {
      fan.keptTriangle(0, here[j], here[(j + 1) % here.length]);
    }
    fan.to(out);
    for (int r = 0; r + 1 < grid.rings(); r++) {
      int[] a = here;
      int[] b = numbers(r + 1);
      int ring = r;
      Buffer strip = new Buffer(13 * grid.strip(r));
      scan.weave(
          r,
          (ra, i, rb, j, rc, k) ->
              strip.keptTriangle(
                  (ra == ring ? a : b)[i], (rb == ring ? a : b)[j], (rc == ring ? a : b)[k]));
      strip.to(out);
      here = b;
      work.advance(0.3 / grid.rings());
    }
  }

  /** Bytes of a stretch of the file. */
  private static final class Buffer {
    private final ByteBuffer b;

    Buffer(int capacity) {
      b = ByteBuffer.allocate(capacity).order(ByteOrder.LITTLE_ENDIAN);
    }

    void vertex(float x, float y, float z, int c) {
      b.putFloat(x).putFloat(y).putFloat(z);
      b.put((byte) (c >> 16)).put((byte) (c >> 8)).put((byte) c);
    }

    void triangle(int i, int j, int k) {
      b.put((byte) 3).putInt(i).putInt(j).putInt(k);
    }

    void keptTriangle(int i, int j, int k) {
      if (i >= 0 && j >= 0 && k >= 0) {
        triangle(i, j, k);
      }
    }

    void to(OutputStream out) throws IOException {
      out.write(b.array(), 0, b.position());
    }
  }
}
