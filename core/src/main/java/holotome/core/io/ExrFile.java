package holotome.core.io;

import holotome.core.image.Image;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.FloatBuffer;
import java.nio.charset.StandardCharsets;
import org.lwjgl.PointerBuffer;
import org.lwjgl.system.MemoryStack;
import org.lwjgl.system.MemoryUtil;
import org.lwjgl.system.libc.LibCStdlib;
import org.lwjgl.util.tinyexr.EXRChannelInfo;
import org.lwjgl.util.tinyexr.EXRHeader;
import org.lwjgl.util.tinyexr.EXRImage;
import org.lwjgl.util.tinyexr.TinyEXR;

/**
 * OpenEXR by the library tinyexr: rows in groups, ZIP, floats or halves. Takes 4 bytes a channel of
 * each pixel beside the picture, and the packed file, outside of the heap; once packing has begun
 * it is not cancelled.
 */
final class ExrFile {

  /** The names that the format gives to channels, for one to four of ours. */
  private static final String[] NAMES = {"Y", "YA", "RGB", "RGBA"};

  private static final int ROWS_BETWEEN_CHECKS = 64;

  private ExrFile() {}

  /**
   * @param image floats, light
   */
  static void write(Image image, boolean half, OutputStream out, Work work) throws IOException {
    String names = NAMES[image.channels() - 1];
    FloatBuffer[] planes = new FloatBuffer[names.length()];
    try {
      for (int c = 0; c < planes.length; c++) {
        planes[c] = MemoryUtil.memAllocFloat(Math.multiplyExact(image.width(), image.height()));
        plane(image, c, planes[c], work);
      }
      pack(image, names, planes, half, out);
    } catch (OutOfMemoryError e) {
      throw new IOException(CoreWords.of("exr-file.there-is-no-memory-to"), e);
    } finally {
      for (FloatBuffer p : planes) {
        MemoryUtil.memFree(p);
      }
    }
  }

  private static void plane(Image image, int channel, FloatBuffer to, Work work) {
    for (int y = 0; y < image.height(); y++) {
      if (y % ROWS_BETWEEN_CHECKS == 0) {
        work.check();
      }
      for (int x = 0; x < image.width(); x++) {
        to.put(y * image.width() + x, (float) image.value(x, y, channel));
      }
    }
  }

  private static void pack(
      Image image, String names, FloatBuffer[] planes, boolean half, OutputStream out)
      throws IOException {
    try (MemoryStack stack = MemoryStack.stackPush()) {
      int n = names.length();
      EXRHeader header = EXRHeader.calloc(stack);
      TinyEXR.InitEXRHeader(header);
      EXRImage exr = EXRImage.calloc(stack);
      TinyEXR.InitEXRImage(exr);
      EXRChannelInfo.Buffer channels = EXRChannelInfo.calloc(n, stack);
      PointerBuffer images = stack.mallocPointer(n);
      // The format wants channels in the order of their names: which is the reverse of ours.
      for (int c = 0; c < n; c++) {
        ByteBuffer name = channels.get(c).name();
        name.put(0, (byte) names.charAt(n - 1 - c));
        name.put(1, (byte) 0);
        images.put(c, MemoryUtil.memAddress(planes[n - 1 - c]));
      }
      int stored = half ? TinyEXR.TINYEXR_PIXELTYPE_HALF : TinyEXR.TINYEXR_PIXELTYPE_FLOAT;
      int[] given = new int[n];
      int[] wanted = new int[n];
      java.util.Arrays.fill(given, TinyEXR.TINYEXR_PIXELTYPE_FLOAT);
      java.util.Arrays.fill(wanted, stored);
      header
          .num_channels(n)
          .channels(channels)
          .compression_type(TinyEXR.TINYEXR_COMPRESSIONTYPE_ZIP)
          .pixel_types(stack.ints(given))
          .requested_pixel_types(stack.ints(wanted));
      exr.num_channels(n).images(images).width(image.width()).height(image.height());
      PointerBuffer memory = stack.callocPointer(1);
      PointerBuffer error = stack.callocPointer(1);
      long size = TinyEXR.SaveEXRImageToMemory(exr, header, memory, error);
      if (size == 0) {
        throw new IOException(CoreWords.of("exr-file.it-could-not-be-packed", said(error)));
      }
      try {
        copy(memory.get(0), size, out);
      } finally {
        LibCStdlib.nfree(memory.get(0));
      }
    }
  }

  private static void copy(long address, long size, OutputStream out) throws IOException {
    byte[] some = new byte[1 << 16];
    for (long at = 0; at < size; at += some.length) {
      int n = (int) Math.min(some.length, size - at);
      MemoryUtil.memByteBuffer(address + at, n).get(some, 0, n);
      out.write(some, 0, n);
    }
  }

  private static String said(PointerBuffer error) {
    if (error.get(0) == 0) {
      return CoreWords.of("exr-file.no-reason-given");
    }
    ByteBuffer text = MemoryUtil.memByteBufferNT1(error.get(0));
    String words = StandardCharsets.UTF_8.decode(text.duplicate()).toString();
    TinyEXR.FreeEXRErrorMessage(text);
    return words;
  }
}
