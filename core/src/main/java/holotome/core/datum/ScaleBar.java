package holotome.core.datum;

import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.select.Likeness;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Islands;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * A scale bar found on a scan by its colour: patches of light and dark grey in turn, alike in size
 * and evenly spaced along a line. O(T) for T triangles, and O(n³) in the few patches that qualify.
 *
 * @param from one end, in base coordinates
 * @param to the other end
 * @param fields how many fields were counted from end to end
 */
public record ScaleBar(double[] from, double[] to, int fields) {
  private static final int GRAIN = 1 << 15;

  /** CIE lightness above and below which a field counts as light and dark, and greatest chroma. */
  private static final double LIGHT = 74;

  private static final double DARK = 36;
  private static final double GREY = 16;

  private static final int MOST_PATCHES = 60;

  /** Fewer fields than this might be chance. */
  private static final int LEAST_FIELDS = 5;

  /** A field in one colour. */
  private record Field(double[] middle, double area, Mesh mesh) {}

  /** The bar with the most fields; null where there is none. */
  public static ScaleBar find(Mesh mesh, Work work) {
    if (!mesh.hasColour()) {
      return null;
    }
    byte[] tone = tones(mesh, work.part(0.5, CoreWords.of("work.looking-for-a-scale-bar")));
    List<Field> light =
        fields(mesh, tone, (byte) 1, work.part(0.25, CoreWords.of("work.looking-for-a-scale-bar")));
    List<Field> dark =
        fields(mesh, tone, (byte) 2, work.part(0.25, CoreWords.of("work.looking-for-a-scale-bar")));
    List<Field> best = List.of();
    for (Field a : light) {
      for (Field b : light) {
        if (a != b && alike(a, b)) {
          List<Field> row = row(a, b, light, dark);
          best = row.size() > best.size() ? row : best;
        }
      }
    }
    return best.size() < LEAST_FIELDS ? null : ends(best);
  }

  private static byte[] tones(Mesh mesh, Work work) {
    byte[] tone = new byte[mesh.triangleCount()];
    Parallel.range(
        tone.length,
        GRAIN,
        work,
        (from, to) -> {
          for (int t = from; t < to; t++) {
            float[] lab = Likeness.lab(Likeness.colourOf(mesh, t));
            boolean grey = Math.hypot(lab[1], lab[2]) < GREY;
            tone[t] = (byte) (!grey ? 0 : lab[0] > LIGHT ? 1 : lab[0] < DARK ? 2 : 0);
          }
        });
    return tone;
  }

  /** The largest patches of a tone. */
  private static List<Field> fields(Mesh mesh, byte[] tone, byte wanted, Work work) {
    Mesh part = Submesh.of(mesh, t -> tone[t] == wanted, work);
    List<Field> out = new ArrayList<>();
    if (part.isEmpty()) {
      return out;
    }
    Islands islands = Islands.of(part, work);
    for (int i = 0; i < Math.min(islands.count(), MOST_PATCHES); i++) {
      int rank = i;
      if (islands.sizes()[i] < 4) {
        break;
      }
      Mesh field = Submesh.of(part, t -> islands.ofTriangle()[t] == rank, Work.unwatched());
      double area = 0;
      double[] sum = new double[3];
      for (int t = 0; t < field.triangleCount(); t++) {
        double a = Vec.length(holotome.core.mesh.Measures.cross(field, t)) / 2;
        area += a;
        for (int k = 3 * t; k < 3 * t + 3; k++) {
          sum = Vec.add(sum, Vec.mul(Vec.at(field.xyz(), field.triangles()[k]), a / 3));
        }
      }
      if (area > 0) {
        out.add(new Field(Vec.mul(sum, 1 / area), area, field));
      }
    }
    return out;
  }

  private static boolean alike(Field a, Field b) {
    return a.area < 1.7 * b.area && b.area < 1.7 * a.area;
  }

  /** The fields in a row with two light neighbours: light at whole steps, dark half way between. */
  private static List<Field> row(Field a, Field b, List<Field> light, List<Field> dark) {
    double[] half = Vec.mul(Vec.sub(b.middle, a.middle), 0.5);
    List<Field> row = new ArrayList<>();
    row.add(a);
    for (int side = 1; side >= -1; side -= 2) {
      double[] at = a.middle;
      for (int i = 1; i < 200; i++) {
        Field next =
            nearest(Vec.add(at, Vec.mul(half, side)), i % 2 == 0 ? light : dark, Vec.length(half));
        // The dark fields' ends may be hidden in dirt: they may be less alike.
        if (next == null
            || (i % 2 == 0
                ? !alike(next, a)
                : next.area > 2.2 * a.area || 2.2 * next.area < a.area)) {
          break;
        }
        row.add(side > 0 ? row.size() : 0, next);
        at = next.middle;
      }
    }
    return row;
  }

  private static Field nearest(double[] place, List<Field> among, double step) {
    Field best = null;
    double least = 0.25 * step;
    for (Field f : among) {
      double d = Vec.distance(f.middle, place);
      if (d < least) {
        least = d;
        best = f;
      }
    }
    return best;
  }

  /** The ends along the line through the row's middles: where its first and last field end. */
  private static ScaleBar ends(List<Field> row) {
    double[] middle = new double[3];
    double[] along = new double[3];
    int n = row.size();
    for (int i = 0; i < n; i++) {
      middle = Vec.add(middle, Vec.mul(row.get(i).middle, 1.0 / n));
      along = Vec.add(along, Vec.mul(row.get(i).middle, i - (n - 1) / 2.0));
    }
    double[] d = Vec.unit(along);
    double first = end(row.getFirst().mesh, middle, Vec.mul(d, -1));
    double last = end(row.getLast().mesh, middle, d);
    return new ScaleBar(Vec.sub(middle, Vec.mul(d, first)), Vec.add(middle, Vec.mul(d, last)), n);
  }

  /**
   * How far a field reaches along a direction: the mean of the vertices at its very end, so that
   * noise does not lengthen it.
   */
  private static double end(Mesh field, double[] middle, double[] d) {
    double[] s = new double[field.vertexCount()];
    for (int v = 0; v < s.length; v++) {
      s[v] = Vec.dot(Vec.sub(Vec.at(field.xyz(), v), middle), d);
    }
    Arrays.sort(s);
    double most = s[s.length - 1];
    double reach = 0.006 * most;
    double sum = 0;
    int n = 0;
    for (int i = s.length - 1; i >= 0 && s[i] > most - reach; i--) {
      sum += s[i];
      n++;
    }
    return sum / n;
  }
}
