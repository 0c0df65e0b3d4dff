package holotome.core.intake;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attributes;
import holotome.core.frame.AxisPreset;
import holotome.core.frame.Mirrored;
import holotome.core.geometry.Placing;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.io.MeshWriter;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Describes;
import holotome.core.step.Outcome;
import holotome.core.step.Parameter;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Opens a light mesh that was modelled or changed elsewhere as the Cast, in its place on the Scan.
 *
 * <p>Where its coordinates stand is said by a side file or a parameter, or found: of all ways that
 * files come in (the capture's frame, working coordinates of every unit, up axis and handedness,
 * frames that are kept, and what is often mistaken) the first that puts it on the Scan is taken.
 * Points of it are measured to the Scan for that, at most one index and some thousand distances.
 */
@Describes(
    id = "intake.cast",
    title = "Cast from file",
    help =
        "Opens a light mesh that was modelled elsewhere over this Scan as the Cast, and checks that it lies on it.",
    reads = {"scan", "frame"},
    writes = {"cast", "maps"})
public record OpenCast(
    @Parameter(help = "The file: PLY, OBJ, STL or OFF") String file,
    @Parameter(
            help =
                "The frame that its coordinates are in, if that is not to be found: working, original, or one kept under a name",
            optional = true)
        String frame,
    @Parameter(
            help = "Unit, up axis and handedness of working coordinates, if not metres with Z up",
            optional = true)
        AxisPreset axes)
    implements Step {

  private static final int PROBES = 400;
  private static final int SAMPLES = 100_000;

  /** This share of the probes lie as near as is said of a place: the rest may stick out. */
  private static final double SHARE = 0.8;

  /** Of the Scan's diagonal: farther off a mesh does not lie on it. */
  private static final double OFF = 0.05;

  /** Of two places the earlier is taken unless the other is nearer by more than this factor... */
  private static final double MUCH = 0.7;

  /** ... and this share of the Scan's diagonal. */
  private static final double LITTLE = 1e-4;

  public OpenCast {
    if (file.isBlank()) {
      throw Failure.usage(CoreWords.of("open-cast.which-file"));
    }
    frame = frame == null && axes != null ? CastPlace.WORKING : frame;
  }

  /** A way to take the coordinates, and how far off it puts the mesh, in base units. */
  private record Fit(CastPlace place, double off) {}

  @Override
  public Outcome apply(Workpiece in, Run run) {
    Path path;
    try {
      path = Path.of(file);
    } catch (InvalidPathException e) {
      throw Failure.badInput(CoreWords.of("common.no-such-file", file));
    }
    Loaded loaded = MeshReader.modelled(path, run.work().part(0.3, CoreWords.of("work.reading")));
    Bvh bvh = Bvh.of(in.scan(), run.work().part(0.4, CoreWords.of("work.indexing-the-surface")));
    Work work = run.work().part(0.3, CoreWords.of("work.measuring-distances"));
    double diagonal = in.scan().bounds().diagonal();
    Fit best = best(loaded, in, bvh, diagonal);
    Fit fit = frame == null ? usual(loaded, in, bvh, best) : said(loaded, in, bvh);
    List<String> notes = new ArrayList<>(loaded.notes());
    if (frame == null && fit.off > OFF * diagonal) {
      throw Failure.badInput(
          CoreWords.of("open-cast.nowhere", path.getFileName(), Length.inBase(fit.off)));
    }
    Mesh cast = placed(loaded.mesh(), fit.place);
    work.check();
    notes.add(
        CoreWords.of(
            "open-cast.opened", path.getFileName(), cast.triangleCount(), fit.place.words()));
    int polygons = MeshWriter.polygons(cast);
    boolean hasNormals = cast.attributes().named(Attribute.NORMAL) != null;
    if (polygons > 0) {
      notes.add(CoreWords.count("open-cast.polygons", polygons));
    }
    if (hasNormals) {
      notes.add(CoreWords.of("open-cast.normals"));
    }
    if (!fit.place.isUsual()) {
      notes.add(CoreWords.of("open-cast.mistaken"));
    }
    SurfaceDistance off = SurfaceDistance.of(distances(cast, bvh));
    notes.add(
        CoreWords.of("decimate.deviation", Length.inBase(off.rms()), Length.inBase(off.max())));
    if (frame != null && isMuchNearer(best.off, fit.off, diagonal)) {
      notes.add(CoreWords.of("open-cast.better", best.place.words(), Length.inBase(best.off)));
    }
    work.advance(1);
    return new Outcome(in.withCast(cast), notes);
  }

  private static float[] distances(Mesh cast, Bvh bvh) {
    int n = (int) Math.min(SAMPLES, 4L * cast.triangleCount() + 1000);
    return SurfaceDistance.distances(SurfaceDistance.sample(cast, n), bvh, Work.unwatched());
  }

  private static boolean isMuchNearer(double a, double b, double diagonal) {
    return a < MUCH * b && a < b - LITTLE * diagonal;
  }

  private Fit said(Loaded loaded, Workpiece in, Bvh bvh) {
    CastPlace p = CastPlace.said(loaded, in.frame(), frame, axes);
    return new Fit(p, off(loaded.mesh(), p, bvh));
  }

  /** The side file's word where there is one that is true, else the best. */
  private static Fit usual(Loaded loaded, Workpiece in, Bvh bvh, Fit best) {
    CastPlace side = CastPlace.bySideFile(loaded, in.frame());
    if (side == null) {
      return best;
    }
    Fit said = new Fit(side, off(loaded.mesh(), side, bvh));
    return said.off <= OFF * in.scan().bounds().diagonal() ? said : best;
  }

  private static Fit best(Loaded loaded, Workpiece in, Bvh bvh, double diagonal) {
    Fit best = null;
    for (CastPlace p : CastPlace.all(loaded, in.frame())) {
      Fit f = new Fit(p, off(loaded.mesh(), p, bvh));
      if (best == null || isMuchNearer(f.off, best.off, diagonal)) {
        best = f;
      }
    }
    return best;
  }

  /**
   * How far off most of a mesh lies: both its points from the Scan, and how much larger or smaller
   * its box is, for a speck on the Scan would be near it too.
   */
  private static double off(Mesh mesh, CastPlace place, Bvh bvh) {
    float[] points = placed(SurfaceDistance.sample(mesh, PROBES), place.mirrored(), place);
    float[] box = bvh.bounds();
    double scan =
        Math.sqrt(
            Math.pow(box[3] - box[0], 2)
                + Math.pow(box[4] - box[1], 2)
                + Math.pow(box[5] - box[2], 2));
    // A Cast may be of a part of the Scan; less than a tenth across it is rather of another size.
    double speck = Math.max(0, scan / 10 - across(points));
    double least = most(outside(points, box));
    // What lies beside the Scan's box is that far off at least, which is all there is to know.
    return least + speck > OFF * scan
        ? least + speck
        : most(SurfaceDistance.distances(points, bvh, Work.unwatched())) + speck;
  }

  private static double most(float[] distances) {
    for (float x : distances) {
      if (!Float.isFinite(x)) {
        return Double.MAX_VALUE;
      }
    }
    Arrays.sort(distances);
    return distances[(int) (SHARE * (distances.length - 1))];
  }

  /** How far each point lies outside of a box. */
  private static float[] outside(float[] points, float[] box) {
    float[] out = new float[points.length / 3];
    for (int i = 0; i < out.length; i++) {
      double square = 0;
      for (int k = 0; k < 3; k++) {
        double x = points[3 * i + k];
        double off = Math.max(0, Math.max(box[k] - x, x - box[3 + k]));
        square += off * off;
      }
      out[i] = (float) Math.sqrt(square);
    }
    return out;
  }

  private static double across(float[] points) {
    double square = 0;
    for (int k = 0; k < 3; k++) {
      float low = Float.POSITIVE_INFINITY;
      float high = Float.NEGATIVE_INFINITY;
      for (int i = k; i < points.length; i += 3) {
        low = Math.min(low, points[i]);
        high = Math.max(high, points[i]);
      }
      square += ((double) high - low) * ((double) high - low);
    }
    return Math.sqrt(square);
  }

  private static float[] placed(float[] points, boolean mirrored, CastPlace place) {
    float[] p = points;
    if (mirrored) {
      p = points.clone();
      for (int i = 0; i < p.length; i += 3) {
        p[i] = 0 - p[i];
      }
    }
    return Placing.apply(p, place.toBase());
  }

  private static Mesh placed(Mesh mesh, CastPlace place) {
    Mesh m = place.mirrored() ? Mirrored.mesh(mesh) : mesh;
    Attributes turned = Attributes.NONE;
    for (Attribute a : m.attributes()) {
      turned = turned.with(a.turned(place.toBase().rotation()));
    }
    return m.with(turned, m.materials()).withPositions(Placing.apply(m.xyz(), place.toBase()));
  }

  @Override
  public long memory(Workpiece in) {
    return 120L * in.scan().triangleCount();
  }
}
