package holotome.core.section;

import holotome.core.io.SafeFiles;
import java.nio.charset.StandardCharsets;
import java.nio.file.Path;
import java.util.List;
import java.util.Locale;

/** Writes sections as DXF, SVG or a table of figures; all lengths in millimetres. */
public final class DrawingFile {
  private static final double MM = 1000;

  private DrawingFile() {}

  /** How a file is written. */
  public enum Format {
    DXF,
    SVG,
    CSV
  }

  /**
   * Writes a stack of sections.
   *
   * @param tolerance lines and arcs are fitted within this many metres; 0 writes the exact points
   */
  public static void add(
      SafeFiles files, Path file, List<Section> sections, double tolerance, Format format) {
    String text =
        switch (format) {
          case DXF -> dxf(sections, tolerance);
          case SVG -> svg(sections, tolerance, file.getFileName().toString());
          case CSV -> csv(sections);
        };
    files.add(file, out -> out.write(text.getBytes(StandardCharsets.UTF_8)));
  }

  private static String number(double v) {
    // Picometres are plenty; a minus before nought would be noise.
    String s = String.format(Locale.ROOT, "%.9f", v);
    return s.equals("-0.000000000") ? "0.000000000" : s;
  }

  /**
   * The sections as DXF of release 12 (AC1009), which every reader knows: closed and open
   * POLYLINEs, arcs as bulges (group 42), full circles as CIRCLE; a layer per section, standing at
   * its height along the stack. Group codes by the published DXF reference.
   */
  public static String dxf(List<Section> sections, double tolerance) {
    StringBuilder s = new StringBuilder();
    pair(s, 0, "SECTION", 2, "HEADER", 9, "$ACADVER", 1, "AC1009", 9, "$INSUNITS", 70, "4");
    pair(s, 9, "$MEASUREMENT", 70, "1", 0, "ENDSEC");
    pair(s, 0, "SECTION", 2, "TABLES", 0, "TABLE", 2, "LAYER", 70, sections.size());
    for (int i = 0; i < sections.size(); i++) {
      pair(s, 0, "LAYER", 2, layer(i), 70, "0", 62, "7", 6, "CONTINUOUS");
    }
    pair(s, 0, "ENDTAB", 0, "ENDSEC", 0, "SECTION", 2, "ENTITIES");
    for (int i = 0; i < sections.size(); i++) {
      double z = (sections.get(i).plane().offset() - sections.getFirst().plane().offset()) * MM;
      for (Curve c : sections.get(i).curves()) {
        curve(s, layer(i), z, c, tolerance);
      }
    }
    pair(s, 0, "ENDSEC", 0, "EOF");
    return s.toString();
  }

  private static String layer(int i) {
    return "SECTION_" + (i + 1);
  }

  private static void curve(StringBuilder s, String layer, double z, Curve c, double tolerance) {
    CurveFit fit = tolerance > 0 ? CurveFit.of(c, tolerance) : null;
    if (fit != null && fit.circle() != null) {
      CurveFit.Circle o = fit.circle();
      pair(s, 0, "CIRCLE", 8, layer, 10, mm(o.x()), 20, mm(o.y()), 30, number(z));
      pair(s, 40, mm(o.radius()));
      return;
    }
    pair(s, 0, "POLYLINE", 8, layer, 66, "1", 10, "0.0", 20, "0.0", 30, number(z));
    pair(s, 70, c.closed() ? "1" : "0");
    if (fit == null) {
      for (int i = 0; i < c.size(); i++) {
        vertex(s, layer, z, c.xy()[2 * i], c.xy()[2 * i + 1], 0);
      }
    } else {
      double[] at = fit.start();
      List<CurveFit.Piece> pieces = fit.pieces();
      for (CurveFit.Piece p : pieces) {
        vertex(s, layer, z, at[0], at[1], p.bulge());
        at = new double[] {p.x(), p.y()};
      }
      if (!c.closed()) {
        vertex(s, layer, z, at[0], at[1], 0);
      }
    }
    pair(s, 0, "SEQEND", 8, layer);
  }

  private static void vertex(
      StringBuilder s, String layer, double z, double x, double y, double bulge) {
    pair(s, 0, "VERTEX", 8, layer, 10, mm(x), 20, mm(y), 30, number(z));
    if (bulge != 0) {
      pair(s, 42, number(bulge));
    }
  }

  private static String mm(double metres) {
    return number(MM * metres);
  }

  private static void pair(StringBuilder s, Object... codesAndValues) {
    for (Object o : codesAndValues) {
      s.append(o).append('\n');
    }
  }

  /**
   * The sections as SVG 1.1, one unit a millimetre: a path per section, arcs where they were
   * fitted, up as in the plane.
   */
  public static String svg(List<Section> sections, double tolerance, String title) {
    double[] b = {0, 0, 0.001, 0.001};
    boolean any = false;
    for (Section x : sections) {
      double[] c = x.bounds();
      if (c != null) {
        b =
            !any
                ? c
                : new double[] {
                  Math.min(b[0], c[0]),
                  Math.min(b[1], c[1]),
                  Math.max(b[2], c[2]),
                  Math.max(b[3], c[3])
                };
        any = true;
      }
    }
    double w = (b[2] - b[0]) * MM;
    double h = (b[3] - b[1]) * MM;
    double room = 0.02 * Math.max(w, h);
    StringBuilder s = new StringBuilder();
    s.append("<?xml version=\"1.0\" encoding=\"UTF-8\"?>\n");
    s.append(
        String.format(
            Locale.ROOT,
            "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"%smm\" height=\"%smm\" viewBox=\"%s %s %s %s\">\n",
            number(w + 2 * room),
            number(h + 2 * room),
            number(b[0] * MM - room),
            number(-b[3] * MM - room),
            number(w + 2 * room),
            number(h + 2 * room)));
    s.append("<title>").append(escaped(title)).append("</title>\n");
    for (int i = 0; i < sections.size(); i++) {
      s.append(
          String.format(
              Locale.ROOT,
              "<path id=\"section-%d\" fill=\"none\" stroke=\"#1d2b33\" stroke-width=\"%s\" d=\"",
              i + 1,
              number(0.001 * Math.max(w, h))));
      for (Curve c : sections.get(i).curves()) {
        path(s, c, tolerance);
      }
      s.append("\"/>\n");
    }
    return s.append("</svg>\n").toString();
  }

  private static void path(StringBuilder s, Curve c, double tolerance) {
    CurveFit fit = tolerance > 0 ? CurveFit.of(c, tolerance) : null;
    if (fit == null) {
      for (int i = 0; i < c.size(); i++) {
        s.append(i == 0 ? "M" : "L").append(place(c.xy()[2 * i], c.xy()[2 * i + 1]));
      }
    } else if (fit.circle() != null) {
      CurveFit.Circle o = fit.circle();
      String r = mm(o.radius());
      s.append("M").append(place(o.x() + o.radius(), o.y()));
      for (int half = 0; half < 2; half++) {
        double x = half == 0 ? o.x() - o.radius() : o.x() + o.radius();
        s.append("A").append(r).append(' ').append(r).append(" 0 1 0 ").append(place(x, o.y()));
      }
    } else {
      double[] at = fit.start();
      s.append("M").append(place(at[0], at[1]));
      for (CurveFit.Piece p : fit.pieces()) {
        if (p.isArc()) {
          String r = mm(p.radius(at[0], at[1]));
          // Up is down in SVG: what turns counter-clockwise in the plane has the sweep flag 0.
          s.append("A").append(r).append(' ').append(r).append(" 0 ");
          s.append(Math.abs(p.bulge()) > 1 ? "1 " : "0 ").append(p.bulge() > 0 ? "0 " : "1 ");
        } else {
          s.append("L");
        }
        s.append(place(p.x(), p.y()));
        at = new double[] {p.x(), p.y()};
      }
    }
    s.append(c.closed() ? "Z " : " ");
  }

  private static String place(double x, double y) {
    return mm(x) + " " + mm(-y) + " ";
  }

  private static String escaped(String text) {
    return text.replace("&", "&amp;").replace("<", "&lt;").replace(">", "&gt;");
  }

  /** A line of figures per section. */
  public static String csv(List<Section> sections) {
    StringBuilder s =
        new StringBuilder(
            "section,offset mm,curves,open curves,length mm,area mm2,centroid x mm,centroid y mm\n");
    for (int i = 0; i < sections.size(); i++) {
      Section x = sections.get(i);
      double[] c = x.centroid();
      s.append(
          String.format(
              Locale.ROOT,
              "%d,%.6f,%d,%d,%.6f,%.6f,%.6f,%.6f%n",
              i + 1,
              MM * x.plane().offset(),
              x.curves().size(),
              x.openCurves(),
              MM * x.length(),
              MM * MM * x.area(),
              MM * c[0],
              MM * c[1]));
    }
    return s.toString();
  }
}
