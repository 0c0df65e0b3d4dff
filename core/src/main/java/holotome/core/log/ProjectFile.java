package holotome.core.log;

import holotome.core.io.SafeFiles;
import holotome.core.step.Blob;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.zip.ZipEntry;
import java.util.zip.ZipFile;
import java.util.zip.ZipOutputStream;

/**
 * A project as one file that any archive tool opens (ZIP, ISO/IEC 21320-1): the Log as {@code
 * project.json}, first in it, and what its entries carry as files below {@code blobs}. Written
 * whole or not at all; the same project gives the same bytes.
 */
final class ProjectFile {
  static final String LOG = "project.json";
  private static final String BLOBS = "blobs/";

  /** No Log is longer, and all that a project holds together, unpacked. */
  private static final long MOST_LOG = 1L << 30;

  private static final long MOST = 4L << 30;

  private ProjectFile() {}

  /** A Log's text and what it refers to by name. */
  record Content(String text, Map<String, Blob> blobs) {}

  static void write(Path file, Content content) {
    SafeFiles.write(file, out -> write(out, content));
  }

  private static void write(OutputStream out, Content content) throws IOException {
    ZipOutputStream zip = new ZipOutputStream(out);
    put(zip, LOG, content.text.getBytes(StandardCharsets.UTF_8));
    for (Map.Entry<String, Blob> b : content.blobs.entrySet()) {
      put(zip, BLOBS + b.getKey(), b.getValue().bytes());
    }
    zip.finish();
  }

  private static void put(ZipOutputStream zip, String name, byte[] bytes) throws IOException {
    ZipEntry e = new ZipEntry(name);
    // When it was written is no part of what it is.
    e.setTimeLocal(java.time.LocalDateTime.of(1980, 1, 1, 0, 0));
    zip.putNextEntry(e);
    zip.write(bytes);
    zip.closeEntry();
  }

  /**
   * Reads a project. Only what stands at its own place is taken: whatever else is in the archive is
   * passed over, and nothing is unpacked beyond what a project can hold.
   */
  static Content read(Path file) throws IOException {
    try (ZipFile zip = new ZipFile(file.toFile())) {
      ZipEntry log = zip.getEntry(LOG);
      if (log == null) {
        throw Failure.badInput(CoreWords.of("project-file.is-an-archive-without-a", file, LOG));
      }
      long[] left = {MOST};
      String text = new String(unpacked(file, zip, log, MOST_LOG, left), StandardCharsets.UTF_8);
      Map<String, Blob> blobs = new LinkedHashMap<>();
      for (var all = zip.entries(); all.hasMoreElements(); ) {
        ZipEntry e = all.nextElement();
        if (e.getName().matches(BLOBS + "[0-9a-z-]{1,60}")) {
          blobs.put(
              e.getName().substring(BLOBS.length()),
              Blob.of(unpacked(file, zip, e, Integer.MAX_VALUE - 16, left)));
        }
      }
      return new Content(text, blobs);
    } catch (java.util.zip.ZipException e) {
      throw new Failure(
          Failure.Kind.BAD_INPUT,
          CoreWords.of("project-file.is-a-damaged-archive", file, e.getMessage()),
          e);
    }
  }

  private static byte[] unpacked(Path file, ZipFile zip, ZipEntry e, long most, long[] left)
      throws IOException {
    // What an archive says of its sizes may be wrong: what comes out is counted.
    int room = (int) Math.min(Math.min(most, left[0]), Integer.MAX_VALUE - 16);
    try (InputStream in = zip.getInputStream(e)) {
      byte[] bytes = in.readNBytes(room);
      if (bytes.length == room && in.read() >= 0) {
        throw Failure.badInput(
            CoreWords.of("project-file.unpacks-to-more-than-a", file, e.getName()));
      }
      left[0] -= bytes.length;
      return bytes;
    }
  }
}
