package holotome.core.io;

import java.io.IOException;
import java.io.OutputStream;
import java.nio.ByteBuffer;
import java.nio.ByteOrder;
import java.nio.charset.StandardCharsets;

/** Little-endian numbers and text into a stream, through one large buffer. */
final class ByteSink {
  private final OutputStream out;
  private final byte[] array = new byte[1 << 20];
  private final ByteBuffer buffer = ByteBuffer.wrap(array).order(ByteOrder.LITTLE_ENDIAN);

  ByteSink(OutputStream out) {
    this.out = out;
  }

  private void need(int bytes) throws IOException {
    if (buffer.remaining() < bytes) {
      flush();
    }
  }

  void flush() throws IOException {
    out.write(array, 0, buffer.position());
    buffer.clear();
  }

  void putFloat(float f) throws IOException {
    need(4);
    buffer.putFloat(f);
  }

  void putDouble(double d) throws IOException {
    need(8);
    buffer.putDouble(d);
  }

  void putInt(int i) throws IOException {
    need(4);
    buffer.putInt(i);
  }

  void putShort(int i) throws IOException {
    need(2);
    buffer.putShort((short) i);
  }

  void putByte(int i) throws IOException {
    need(1);
    buffer.put((byte) i);
  }

  /** ASCII text. */
  void putText(String s) throws IOException {
    byte[] b = s.getBytes(StandardCharsets.UTF_8);
    if (b.length > array.length) {
      flush();
      out.write(b);
      return;
    }
    need(b.length);
    buffer.put(b);
  }
}
