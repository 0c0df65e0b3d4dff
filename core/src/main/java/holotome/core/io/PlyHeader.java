package holotome.core.io;

import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;

/**
 * The header of a PLY file (Turk, "The PLY polygon file format", 1994).
 *
 * @param bytes where the data begins
 * @param lines lines in the header
 */
record PlyHeader(Encoding encoding, List<Element> elements, long bytes, int lines) {
  enum Encoding {
    TEXT,
    LITTLE_ENDIAN,
    BIG_ENDIAN
  }

  /** Scalar types with their size in bytes. */
  enum Type {
    INT8(1),
    UINT8(1),
    INT16(2),
    UINT16(2),
    INT32(4),
    UINT32(4),
    FLOAT32(4),
    FLOAT64(8);

    final int size;

    Type(int size) {
      this.size = size;
    }

    boolean whole() {
      return this != FLOAT32 && this != FLOAT64;
    }

    static Type of(String word) {
      return switch (word) {
        case "char", "int8" -> INT8;
        case "uchar", "uint8" -> UINT8;
        case "short", "int16" -> INT16;
        case "ushort", "uint16" -> UINT16;
        case "int", "int32" -> INT32;
        case "uint", "uint32" -> UINT32;
        case "float", "float32" -> FLOAT32;
        case "double", "float64" -> FLOAT64;
        default -> null;
      };
    }
  }

  /** A property; {@code countType} is null for a scalar. */
  record Property(String name, Type countType, Type type) {}

  record Element(String name, long count, List<Property> properties) {
    int indexOf(String... names) {
      for (int i = 0; i < properties.size(); i++) {
        for (String n : names) {
          if (properties.get(i).name.equals(n)) {
            return i;
          }
        }
      }
      return -1;
    }

    /** Bytes per entry where no property is a list; -1 else. */
    int stride() {
      int s = 0;
      for (Property p : properties) {
        if (p.countType != null) {
          return -1;
        }
        s += p.type.size;
      }
      return s;
    }

    int offsetOf(int property) {
      int s = 0;
      for (int i = 0; i < property; i++) {
        s += properties.get(i).type.size;
      }
      return s;
    }
  }

  static PlyHeader read(Path file, InputStream in) throws IOException {
    long[] bytes = {0};
    int lines = 0;
    Encoding encoding = null;
    List<Element> elements = new ArrayList<>();
    List<Property> properties = null;
    while (true) {
      String line = line(file, in, bytes);
      lines++;
      String[] w = line.strip().split("\\s+");
      if (lines == 1) {
        if (!w[0].equals("ply")) {
          throw bad(file, lines, CoreWords.of("ply-header.the-file-does-not-begin"));
        }
        continue;
      }
      switch (w[0]) {
        case "comment", "obj_info", "" -> {}
        case "format" -> encoding = encoding(file, lines, w);
        case "element" -> {
          if (w.length != 3) {
            throw bad(file, lines, CoreWords.of("ply-header.an-element-needs-a-name"));
          }
          properties = new ArrayList<>();
          elements.add(new Element(w[1], count(file, lines, w[2]), properties));
        }
        case "property" -> {
          if (properties == null) {
            throw bad(file, lines, CoreWords.of("ply-header.a-property-stands-before-any"));
          }
          properties.add(property(file, lines, w));
        }
        case "end_header" -> {
          if (encoding == null) {
            throw bad(file, lines, CoreWords.of("ply-header.the-header-names-no-format"));
          }
          return new PlyHeader(encoding, elements, bytes[0], lines);
        }
        default -> throw bad(file, lines, CoreWords.of("ply-header.is-not-a-ply-header", w[0]));
      }
    }
  }

  private static Encoding encoding(Path file, int line, String[] w) {
    return switch (w.length > 1 ? w[1] : "") {
      case "ascii" -> Encoding.TEXT;
      case "binary_little_endian" -> Encoding.LITTLE_ENDIAN;
      case "binary_big_endian" -> Encoding.BIG_ENDIAN;
      default -> throw bad(file, line, CoreWords.of("ply-header.the-format-is-none-of"));
    };
  }

  private static Property property(Path file, int line, String[] w) {
    boolean list = w.length == 5 && w[1].equals("list");
    if (!list && w.length != 3) {
      throw bad(file, line, CoreWords.of("ply-header.a-property-needs-a-type"));
    }
    Type type = Type.of(list ? w[3] : w[1]);
    Type count = list ? Type.of(w[2]) : null;
    if (type == null || list && count == null) {
      throw bad(file, line, CoreWords.of("ply-header.unknown-type-in", String.join(" ", w)));
    }
    return new Property(w[w.length - 1], count, type);
  }

  private static long count(Path file, int line, String word) {
    try {
      long n = Long.parseLong(word);
      if (n >= 0) {
        return n;
      }
    } catch (NumberFormatException e) {
      // Said below together with negative counts.
    }
    throw bad(file, line, CoreWords.of("ply-header.is-not-a-count", word));
  }

  private static String line(Path file, InputStream in, long[] bytes) throws IOException {
    StringBuilder s = new StringBuilder();
    while (true) {
      int c = in.read();
      if (c < 0) {
        throw Failure.badInput(CoreWords.of("ply-header.the-file-ends-inside-its", file));
      }
      bytes[0]++;
      if (c == '\n') {
        return s.toString();
      }
      s.append((char) c);
      if (s.length() > 4096 || bytes[0] > 1 << 20) {
        throw Failure.badInput(CoreWords.of("ply-header.the-header-has-no-end", file));
      }
    }
  }

  private static Failure bad(Path file, int line, String what) {
    return Failure.badInput(CoreWords.of("common.line", file, line, what));
  }
}
