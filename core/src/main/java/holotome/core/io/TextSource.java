package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;

/** Tokens parted by white space, read from a stream; knows the line for error messages. */
final class TextSource {
  private final Path file;
  private final InputStream in;
  private final Work work;
  private final double perByte;
  private final byte[] buffer = new byte[1 << 20];
  private int at;
  private int end;
  private long line = 1;
  private int comment = -1;
  private byte[] token = new byte[64];
  private int length;

  TextSource(Path file, InputStream in, long size, Work work) {
    this.file = file;
    this.in = in;
    this.work = work;
    this.perByte = 1.0 / Math.max(1, size);
  }

  /** Counts on from so many lines that others have read of the file. */
  void skipped(long lines) {
    line += lines;
  }

  /** Everything from this character to the end of its line is skipped. */
  void setComment(char c) {
    comment = c;
  }

  long line() {
    return line;
  }

  private int read() {
    if (at == end) {
      try {
        end = in.read(buffer);
      } catch (IOException e) {
        throw new Failure(
            Failure.Kind.BAD_INPUT, CoreWords.of("common.cannot-be-read", file, e.getMessage()), e);
      }
      at = 0;
      if (end <= 0) {
        end = 0;
        return -1;
      }
      work.advance(end * perByte);
    }
    return buffer[at++];
  }

  /** Moves to the next token; false at the end of the file. */
  boolean next() {
    int c = read();
    while (true) {
      if (c == -1) {
        return false;
      }
      if (c == '\n') {
        line++;
      } else if (c == comment) {
        while (c != -1 && c != '\n') {
          c = read();
        }
        continue;
      } else if (c > ' ' || c < -1) {
        break;
      }
      c = read();
    }
    length = 0;
    while ((c > ' ' || c < -1) && (c != comment || comment == -1)) {
      if (length == token.length) {
        if (length > 4096) {
          throw bad(CoreWords.of("text-source.a-word-of-more-than"));
        }
        token = java.util.Arrays.copyOf(token, 2 * length);
      }
      token[length++] = (byte) c;
      c = read();
    }
    // The character after a token is left to be read again, so that line numbers stay right.
    if (c != -1) {
      at--;
    }
    return true;
  }

  /** Reads up to and including the end of this line. */
  String restOfLine() {
    StringBuilder s = new StringBuilder();
    int c = read();
    boolean said = true;
    while (c != -1 && c != '\n') {
      said &= c != comment;
      if (said && c != '\r') {
        s.append((char) c);
      }
      if (s.length() > 65536) {
        throw bad(CoreWords.of("text-source.a-line-of-more-than"));
      }
      c = read();
    }
    line++;
    return s.toString().strip();
  }

  void skipLine() {
    int c = read();
    while (c != -1 && c != '\n') {
      c = read();
    }
    line++;
  }

  String word() {
    return new String(token, 0, length, StandardCharsets.ISO_8859_1);
  }

  boolean is(String word) {
    if (word.length() != length) {
      return false;
    }
    for (int i = 0; i < length; i++) {
      if (token[i] != word.charAt(i)) {
        return false;
      }
    }
    return true;
  }

  /**
   * The next token as a finite number.
   *
   * @param what the key of what is read, for messages
   * @param about what goes into its words
   */
  double number(String what, Object... about) {
    if (!next()) {
      throw ended(CoreWords.of(what, about));
    }
    double d = AsciiNumber.parse(token, 0, length);
    if (!Double.isFinite(d)) {
      throw bad(
          CoreWords.of("text-source.is-not-a-finite-number", CoreWords.of(what, about), word()));
    }
    return d;
  }

  /** The next token as a whole number within bounds. */
  int whole(int min, int max, String what, Object... about) {
    double d = number(what, about);
    if (d != Math.rint(d) || d < min || d > max) {
      throw bad(
          CoreWords.of(
              "text-source.is-which-must-lie-between",
              CoreWords.of(what, about),
              word(),
              min,
              max));
    }
    return (int) d;
  }

  Failure ended(String what) {
    return bad(CoreWords.of("text-source.the-file-ends-where-should", what));
  }

  Failure bad(String what) {
    return Failure.badInput(CoreWords.of("common.line", file, line, what));
  }
}
