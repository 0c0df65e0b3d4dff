package holotome.core.image;

/**
 * Between the values that pictures store and the light they stand for, channel by channel (IEC
 * 61966-2-1:1999, sRGB): what is averaged is light.
 */
public final class LinearLight {
  private static final float[] LIGHT = new float[256];

  /** Steps of the tables that {@link #nearlyOf} and {@link #nearlyStored} read between. */
  private static final int STEPS = 1 << 13;

  private static final float[] OF = new float[STEPS + 2];
  private static final float[] STORED = new float[STEPS + 2];

  static {
    for (int i = 0; i < OF.length; i++) {
      OF[i] = (float) of((double) i / STEPS);
      STORED[i] = (float) stored((double) i / STEPS);
    }
    for (int i = 0; i < 256; i++) {
      LIGHT[i] = (float) of(i / 255.0);
    }
  }

  private LinearLight() {}

  /** The light, 0 to 1, of a stored value from 0 to 1. */
  public static double of(double stored) {
    return stored <= 0.04045 ? stored / 12.92 : Math.pow((stored + 0.055) / 1.055, 2.4);
  }

  /** The light of a stored byte. */
  public static float ofByte(int stored) {
    return LIGHT[stored];
  }

  /** The stored value, 0 to 1, of a light from 0 to 1. */
  public static double stored(double light) {
    return light <= 0.0031308 ? 12.92 * light : 1.055 * Math.pow(light, 1 / 2.4) - 0.055;
  }

  /** {@link #of} by a table, from 0 to 1 to 1e-6. */
  public static double nearlyOf(double stored) {
    return between(OF, stored);
  }

  /** {@link #stored} by a table, from 0 to 1 to 1e-5. */
  public static double nearlyStored(double light) {
    return between(STORED, light);
  }

  private static double between(float[] table, double at) {
    double x = Math.clamp(at, 0, 1) * STEPS;
    int i = (int) x;
    return table[i] + (x - i) * (table[i + 1] - table[i]);
  }

  /** The stored byte nearest to a light; what is out of range is clamped. */
  public static int storedByte(double light) {
    return (int) (255 * stored(Math.clamp(light, 0.0, 1.0)) + 0.5);
  }

  /** One of four channels of a colour 0xAARRGGBB: red, green, blue as light, alpha as it is. */
  public static double channel(int argb, int k) {
    return k == 3 ? (argb >>> 24) / 255.0 : LIGHT[argb >>> (16 - 8 * k) & 255];
  }

  /** The colour 0xAARRGGBB of four channels, from {@code light[at]} on. */
  public static int colour(double[] light, int at) {
    int alpha = (int) (255 * Math.clamp(light[at + 3], 0.0, 1.0) + 0.5);
    return alpha << 24
        | storedByte(light[at]) << 16
        | storedByte(light[at + 1]) << 8
        | storedByte(light[at + 2]);
  }
}
