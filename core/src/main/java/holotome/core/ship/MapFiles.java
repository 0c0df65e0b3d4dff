package holotome.core.ship;

import com.fasterxml.jackson.core.JsonGenerator;
import com.fasterxml.jackson.databind.ObjectMapper;
import holotome.core.geometry.Similarity;
import holotome.core.image.Image;
import holotome.core.io.ImageFile;
import holotome.core.io.SafeFiles;
import holotome.core.map.MapKind;
import holotome.core.map.MapRule.Values;
import holotome.core.map.Range;
import holotome.core.mesh.TextureRectangle;
import holotome.core.part.Maps;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import holotome.core.words.Language;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * Writes maps as pictures of their own, beside the mesh, and a note of what they hold, as JSON:
 * whole numbers as PNG of 8 or 16 bits, measures as floats or as PNG or TIFF of 16 bits from the
 * low end of their range to the high one.
 */
final class MapFiles {
  private static final ObjectMapper JSON =
      new ObjectMapper().disable(JsonGenerator.Feature.AUTO_CLOSE_TARGET);

  private final Maps maps;
  private final WriteAsset.Measured measured;
  private final boolean isGreenDown;
  private final Similarity placing;
  private final double millimetres;

  /**
   * @param placing from base coordinates to those of the written file
   * @param millimetres to a base unit
   */
  MapFiles(
      Maps maps,
      WriteAsset.Measured measured,
      boolean isGreenDown,
      Similarity placing,
      double millimetres) {
    this.millimetres = millimetres;
    this.maps = maps;
    this.measured = measured;
    this.isGreenDown = isGreenDown;
    this.placing = placing;
  }

  /**
   * Adds all pictures but some, and the note of them as JSON; of a tile there always is one.
   *
   * @param sets of pictures, each into files of its own
   * @param mesh the file that they belong to
   * @param isTrueSize whether the size of the work is known
   * @param tile what is written, where that is one; else null
   */
  void add(
      SafeFiles files,
      List<SquarePictures.Set> sets,
      Path mesh,
      String name,
      Set<MapKind> but,
      boolean isTrueSize,
      TextureRectangle tile,
      Work work) {
    List<MapKind> kinds =
        maps.pictures().keySet().stream().filter(k -> !but.contains(k)).sorted().toList();
    if (kinds.isEmpty() && tile == null) {
      return;
    }
    List<Map<String, Object>> listed = new ArrayList<>();
    for (MapKind k : kinds) {
      ImageFile.Format format = format(k);
      for (SquarePictures.Set set : sets) {
        String file = name + "_" + k.fileName() + set.ending() + "." + format.ending();
        double part = 1.0 / (kinds.size() * sets.size());
        Work share = work.part(part, CoreWords.of("work.writing-the-picture"));
        Image picture = set.maps().pictures().get(k);
        files.add(
            mesh.resolveSibling(file),
            out -> ImageFile.write(made(k, picture), format, 1, out, share));
        listed.add(entry(k, file));
      }
    }
    Map<String, Object> note = new LinkedHashMap<>();
    note.put("of", mesh.getFileName().toString());
    note.put("pixels", maps.size());
    note.put("trueSize", isTrueSize);
    if (!isTrueSize) {
      note.put("size", noted("map-files.size-unknown"));
    }
    if (tile != null) {
      double metres = millimetres / 1000;
      note.put("tile", Map.of("metres", List.of(tile.width() * metres, tile.height() * metres)));
    }
    note.put("maps", listed);
    files.add(
        mesh.resolveSibling(name + "_maps.json"),
        out -> JSON.writerWithDefaultPrettyPrinter().writeValue(out, note));
  }

  /** What is said of one file; figures as they are written, at both ends of the range. */
  private Map<String, Object> entry(MapKind k, String file) {
    Map<String, Object> out = new LinkedHashMap<>();
    out.put("file", file);
    out.put("map", k.fileName());
    out.put("holds", said(k));
    if (k.rule().values().isMeasured()) {
      Range r = range(k);
      out.put("low", r.low());
      out.put("high", r.high());
    }
    return out;
  }

  private ImageFile.Format format(MapKind k) {
    return k.rule().values().isMeasured()
        ? measured.format()
        : maps.pictures().get(k).sample() == Image.Sample.SHORT
            ? ImageFile.Format.PNG_16
            : ImageFile.Format.PNG_8;
  }

  /** The picture as it is written. */
  private Image made(MapKind k, Image picture) {
    Values values = k.rule().values();
    if (values.isMeasured()) {
      return measured == WriteAsset.Measured.EXR
          ? scaled(picture, values)
          : overRange(picture, range(k), values);
    }
    return isGreenDown && values == Values.TANGENT_DIRECTION ? greenDown(picture) : picture;
  }

  private Image scaled(Image picture, Values values) {
    return Image.blank(
            picture.width(),
            picture.height(),
            picture.channels(),
            Image.Sample.FLOAT,
            Image.Space.LINEAR)
        .filled((x, y, v) -> read(picture, values, x, y, v), Work.unwatched());
  }

  private Image overRange(Image picture, Range r, Values values) {
    return Image.blank(
            picture.width(),
            picture.height(),
            picture.channels(),
            Image.Sample.SHORT,
            Image.Space.LINEAR)
        .filled(
            (x, y, v) -> {
              read(picture, values, x, y, v);
              for (int c = 0; c < picture.channels(); c++) {
                v[c] = 65535 * r.share(v[c]);
              }
            },
            Work.unwatched());
  }

  /** What a pixel holds, in the units written. */
  private void read(Image picture, Values values, int x, int y, double[] v) {
    picture.stored(x, y, v);
    switch (values) {
      case LENGTH -> v[0] *= millimetres;
      case BEND -> v[0] /= millimetres;
      default -> {
        double[] p = placing.apply(new double[] {v[0], v[1], v[2]});
        System.arraycopy(p, 0, v, 0, 3);
      }
    }
  }

  /** The range in the units written; of places over all three axes, as they are placed. */
  private Range range(MapKind k) {
    Range r = maps.ranges().get(k);
    double s = millimetres;
    return switch (k.rule().values()) {
      case LENGTH -> new Range((float) (r.low() * s), (float) (r.high() * s));
      case BEND -> new Range((float) (r.low() / s), (float) (r.high() / s));
      default -> placed(r);
    };
  }

  private Range placed(Range r) {
    double low = Double.POSITIVE_INFINITY;
    double high = Double.NEGATIVE_INFINITY;
    for (int corner = 0; corner < 8; corner++) {
      double[] at = {
        (corner & 1) == 0 ? r.low() : r.high(),
        (corner & 2) == 0 ? r.low() : r.high(),
        (corner & 4) == 0 ? r.low() : r.high()
      };
      for (double c : placing.apply(at)) {
        low = Math.min(low, c);
        high = Math.max(high, c);
      }
    }
    return new Range((float) low, (float) high);
  }

  private static Image greenDown(Image picture) {
    Image to =
        Image.blank(
            picture.width(),
            picture.height(),
            picture.channels(),
            picture.sample(),
            picture.space());
    return to.filled(
        (x, y, v) -> {
          picture.stored(x, y, v);
          v[1] = picture.sample().one() - v[1];
        },
        Work.unwatched());
  }

  private String said(MapKind k) {
    return switch (k.rule().values()) {
      case COLOUR, NUMBER -> noted("map-files.colour");
      case SHARE -> noted("map-files.share", maps.pictures().get(k).sample().bytes() * 8);
      case TANGENT_DIRECTION -> noted(isGreenDown ? "map-files.green-down" : "map-files.green-up");
      case DIRECTION -> noted("map-files.direction");
      case LENGTH -> ranged("map-files.length", k);
      case PLACE -> ranged("map-files.place", k);
      case BEND -> ranged("map-files.bend", k);
    };
  }

  private String ranged(String key, MapKind k) {
    Range r = range(k);
    String what = noted(key);
    return measured == WriteAsset.Measured.EXR
        ? noted("map-files.as-is", what, figure(r.low()), figure(r.high()))
        : noted("map-files.over", what, figure(r.low()), figure(r.high()));
  }

  /** Files are the same whatever language is spoken. */
  private static String noted(String key, Object... args) {
    String text = CoreWords.WORDING.bundle(Language.ENGLISH).getString(key);
    return String.format(Locale.ROOT, text, args);
  }

  private static String figure(float value) {
    return String.format(Locale.ROOT, "%.9g", value);
  }
}
