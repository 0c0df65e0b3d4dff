package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.nio.ByteBuffer;
import java.nio.channels.FileChannel;
import java.nio.file.Path;

/** Reads whole stretches of a file, from many threads at once. */
final class ByteReader {
  private ByteReader() {}

  /** Fills {@code into} from {@code position}; fails with a plain line if the file is shorter. */
  static void fully(FileChannel channel, Path file, long position, byte[] into, int length) {
    ByteBuffer b = ByteBuffer.wrap(into, 0, length);
    try {
      while (b.hasRemaining()) {
        int n = channel.read(b, position + b.position());
        if (n < 0) {
          throw Failure.badInput(
              CoreWords.of("common.ends-at-byte-inside-its", file, (position + b.position())));
        }
      }
    } catch (IOException e) {
      throw new Failure(
          Failure.Kind.BAD_INPUT, CoreWords.of("common.cannot-be-read", file, e.getMessage()), e);
    }
  }
}
