package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.PointWeld;
import holotome.core.words.CoreWords;
import java.io.BufferedInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.channels.FileChannel;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardOpenOption;
import java.util.List;

/**
 * Reads STL, text and binary (3D Systems, "StereoLithography Interface Specification", 1989).
 * Corners on exactly the same spot become one vertex.
 */
final class StlReader {
  private static final int GRAIN = 1 << 16;

  private StlReader() {}

  static Loaded read(Path file, Work work) throws IOException {
    long size = Files.size(file);
    byte[] head = new byte[84];
    int n;
    try (InputStream in = Files.newInputStream(file)) {
      n = in.readNBytes(head, 0, 84);
    }
    long count =
        n < 84
            ? -1
            : ByteBuffer.wrap(head, 80, 4).order(ByteOrder.LITTLE_ENDIAN).getInt() & 0xffffffffL;
    boolean text =
        new String(head, 0, Math.min(n, 5), java.nio.charset.StandardCharsets.US_ASCII)
            .equals("solid");
    if (count >= 0 && size == 84 + 50 * count) {
      return binary(file, (int) Math.min(count, Integer.MAX_VALUE), count, work);
    }
    if (text) {
      return text(file, size, work);
    }
    if (n < 84) {
      throw Failure.badInput(CoreWords.of("stl-reader.holds-bytes-too-few-for", file, size));
    }
    if (size > 84 + 50 * count) {
      // Some writers add a tail; what the count names is whole.
      return binary(file, (int) Math.min(count, Integer.MAX_VALUE), count, work);
    }
    throw Failure.badInput(
        CoreWords.of("stl-reader.holds-bytes-but-its-count", file, size, count, (84 + 50 * count)));
  }

  private static Loaded binary(Path file, int count, long claimed, Work work) throws IOException {
    if (claimed > 230_000_000) {
      throw Failure.badInput(
          CoreWords.of("stl-reader.holds-triangles-the-most-for", file, claimed));
    }
    float[] soup = new float[9 * count];
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.READ)) {
      Parallel.range(
          count,
          GRAIN,
          work.part(0.5, CoreWords.of("work.reading-triangles")),
          (from, to) -> {
            byte[] b = new byte[50 * (to - from)];
            ByteReader.fully(channel, file, 84 + 50L * from, b, b.length);
            ByteBuffer bb = ByteBuffer.wrap(b).order(ByteOrder.LITTLE_ENDIAN);
            for (int i = from; i < to; i++) {
              for (int k = 0; k < 9; k++) {
                float f = bb.getFloat(50 * (i - from) + 12 + 4 * k);
                if (!Float.isFinite(f)) {
                  throw Failure.badInput(
                      CoreWords.of("stl-reader.triangle-at-byte-has-a", file, i, (84 + 50L * i)));
                }
                soup[9 * i + k] = f;
              }
            }
          });
    }
    return Offset.settle(
        PointWeld.ofSoup(soup, work.part(0.5, CoreWords.of("work.joining-triangles"))),
        new double[3],
        CoreWords.of("stl-reader.stl-binary"),
        List.of());
  }

  private static Loaded text(Path file, long size, Work work) throws IOException {
    Floats soup = new Floats(1 << 12);
    double[] offset = null;
    try (InputStream in = new BufferedInputStream(Files.newInputStream(file), 1 << 16)) {
      TextSource t =
          new TextSource(file, in, size, work.part(0.6, CoreWords.of("work.reading-triangles")));
      t.next();
      t.restOfLine();
      boolean ended = false;
      int corner = 0;
      while (t.next()) {
        if (t.is("vertex")) {
          double x = t.number("stl-reader.x-of-a-vertex");
          double y = t.number("stl-reader.y-of-a-vertex");
          double z = t.number("stl-reader.z-of-a-vertex");
          if (offset == null) {
            offset = Offset.of(x, y, z);
          }
          if (!Offset.fits(x, y, z, offset)) {
            throw t.bad(CoreWords.of("common.a-coordinate-is-larger-than"));
          }
          soup.add((float) (x - offset[0]));
          soup.add((float) (y - offset[1]));
          soup.add((float) (z - offset[2]));
          corner++;
        } else if (t.is("endloop")) {
          if (corner != 3) {
            throw t.bad(CoreWords.of("stl-reader.a-facet-has-corners-not", corner));
          }
          corner = 0;
        } else if (t.is("endsolid") || t.is("solid")) {
          ended = t.is("endsolid");
          t.restOfLine();
        } else if (t.is("facet")) {
          t.restOfLine();
        } else if (!t.is("outer") && !t.is("loop") && !t.is("endfacet")) {
          throw t.bad(CoreWords.of("stl-reader.is-not-an-stl-word", t.word()));
        }
      }
      if (!ended || corner != 0) {
        throw t.ended("endsolid");
      }
    }
    return Offset.settle(
        PointWeld.ofSoup(soup.toArray(), work.part(0.4, CoreWords.of("work.joining-triangles"))),
        offset == null ? new double[3] : offset,
        CoreWords.of("stl-reader.stl-text"),
        List.of());
  }
}
