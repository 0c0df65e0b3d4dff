package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.image.Image;
import holotome.core.image.LinearLight;
import holotome.core.map.Directions;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule.Values;

/**
 * A map whose values can be taken from one place of the surface to another: directions as they are
 * in base coordinates, places as what leads to them from the surface, colours as they look, all
 * else as it is. One per thread.
 */
final class CarriedMap {
  private final TouchGround ground;
  private final MapKind kind;
  private final Values values;
  private final Image image;
  private final int channels;
  private final double[] texel = new double[4];
  private final float[] weights = new float[3];

  CarriedMap(TouchGround ground, MapKind kind, Image image) {
    this.ground = ground;
    this.kind = kind;
    this.image = image;
    values = kind.rule().values();
    channels = image.channels();
  }

  /** How many numbers are carried. */
  int numbers() {
    return channels;
  }

  /** Whether its values may be shifted to fit what is around them. */
  boolean isFitted() {
    return switch (values) {
      case COLOUR, SHARE, LENGTH, BEND -> true;
      default -> false;
    };
  }

  /** Whether copies always come to the level of where they go: relief is counted from there. */
  boolean isLevelled() {
    return kind == MapKind.HEIGHT;
  }

  boolean isDirection() {
    return values == Values.DIRECTION || values == Values.TANGENT_DIRECTION;
  }

  boolean isPlace() {
    return values == Values.PLACE;
  }

  boolean isNumber() {
    return values == Values.NUMBER;
  }

  /** How much it counts when pieces of surface are compared: colours and forms tell most. */
  double telling() {
    return switch (values) {
      case COLOUR -> 1;
      case TANGENT_DIRECTION, DIRECTION -> 0.3;
      case SHARE -> 0.2;
      case LENGTH, BEND -> 0.05;
      default -> 0;
    };
  }

  /** Whether its values are measures, that can be large or small. */
  boolean isMeasured() {
    return values.isMeasured();
  }

  /** What a texel holds, at its place. */
  void own(int x, int y, Spot spot, double[] out) {
    for (int c = 0; c < channels; c++) {
      out[c] = values == Values.COLOUR ? image.value(x, y, c) : plain(x, y, c);
    }
    carry(spot, out);
  }

  private double plain(int x, int y, int c) {
    return values.isMeasured() ? image.stored(x, y, c) : image.value(x, y, c);
  }

  /** What lies at a place, between texels: mixed as light, numbers of the nearest. */
  void sample(Spot spot, double[] out) {
    double x = spot.textureX() * ground.size() - 0.5;
    double y = (ground.rows() - spot.textureY()) * ground.size() - 0.5;
    if (values == Values.NUMBER) {
      int nearX = Math.clamp(Math.round(x), 0, image.width() - 1);
      int nearY = Math.clamp(Math.round(y), 0, image.height() - 1);
      for (int c = 0; c < channels; c++) {
        out[c] = image.value(nearX, nearY, c);
      }
      return;
    }
    int x0 = (int) Math.floor(x);
    int y0 = (int) Math.floor(y);
    for (int c = 0; c < channels; c++) {
      out[c] = 0;
    }
    for (int k = 0; k < 4; k++) {
      int px = Math.clamp(x0 + (k & 1), 0, image.width() - 1);
      int py = Math.clamp(y0 + (k >> 1), 0, image.height() - 1);
      double share = ((k & 1) == 0 ? 1 - (x - x0) : x - x0) * (k >> 1 == 0 ? 1 - (y - y0) : y - y0);
      for (int c = 0; c < channels; c++) {
        out[c] += share * (values == Values.COLOUR ? image.light(px, py, c) : plain(px, py, c));
      }
    }
    if (values == Values.COLOUR) {
      for (int c = 0; c < channels; c++) {
        out[c] = LinearLight.nearlyStored(out[c]);
      }
    }
    carry(spot, out);
  }

  /** From what is stored to what is carried. */
  private void carry(Spot spot, double[] v) {
    if (values == Values.PLACE) {
      v[0] -= spot.x;
      v[1] -= spot.y;
      v[2] -= spot.z;
    } else if (isDirection()) {
      double a = 2 * v[0] - 1;
      double b = 2 * v[1] - 1;
      double c = 2 * v[2] - 1;
      if (values == Values.TANGENT_DIRECTION) {
        double[] frame = spot.frame();
        for (int k = 0; k < 3; k++) {
          v[k] = a * frame[k] + b * frame[3 + k] + c * frame[6 + k];
        }
      } else {
        v[0] = a;
        v[1] = b;
        v[2] = c;
      }
      double l = Vec.length(v);
      for (int k = 0; l > 0 && k < 3; k++) {
        v[k] /= l;
      }
    }
  }

  /** Mixes what comes into what is there: colours as light, numbers one or the other. */
  void mix(double[] own, double[] come, double share, double[] out) {
    for (int c = 0; c < channels; c++) {
      out[c] =
          share >= 1
              ? come[c]
              : switch (values) {
                case NUMBER -> share >= 0.5 ? come[c] : own[c];
                case COLOUR ->
                    LinearLight.nearlyStored(
                        (1 - share) * LinearLight.nearlyOf(own[c])
                            + share * LinearLight.nearlyOf(come[c]));
                default -> (1 - share) * own[c] + share * come[c];
              };
    }
  }

  /** Sets a texel to what came to its place. */
  void store(Image.Editor to, int x, int y, Spot spot, double[] v) {
    switch (values) {
      case TANGENT_DIRECTION -> {
        Directions.solve(spot.frame(), v[0], v[1], v[2], weights, 0);
        Directions.store(weights[0], weights[1], weights[2], texel);
      }
      case DIRECTION -> Directions.store(v[0], v[1], v[2], texel);
      case PLACE -> {
        texel[0] = v[0] + spot.x;
        texel[1] = v[1] + spot.y;
        texel[2] = v[2] + spot.z;
      }
      default -> System.arraycopy(v, 0, texel, 0, channels);
    }
    int one = values.isMeasured() ? 1 : image.sample().one();
    for (int c = 0; c < channels; c++) {
      texel[c] *= one;
    }
    to.set(x, y, texel);
  }
}
