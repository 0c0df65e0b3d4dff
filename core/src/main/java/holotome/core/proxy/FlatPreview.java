package holotome.core.proxy;

import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.HashMap;
import java.util.List;
import java.util.Map;

/**
 * The flat parts that places would be taken for, before anything is made of them. What was grown is
 * kept, so that a place more is seen soon. To be asked from one thread at a time; another may clear
 * it meanwhile.
 */
public final class FlatPreview {
  /** A scan, and what was grown on it within what tolerance. */
  private record Kept(Mesh of, double within, LocalScan scan, Map<List<Double>, BitSet> grown) {}

  private volatile Kept kept;

  /** Nothing yet. */
  public FlatPreview() {}

  /**
   * The triangles of the Scan that belong to each place; none where nothing is flat.
   *
   * @param step with places, in the scan file's coordinates
   */
  public List<BitSet> parts(Workpiece in, FromPlanes step, Work work) {
    Kept k = kept(in, step, work.part(0.3, work.label()));
    FlatGrowing grow = new FlatGrowing(k.scan, k.within / k.scan.size());
    Similarity toBase = in.frame().toFile().inverse();
    double[] places = step.places();
    List<BitSet> out = new ArrayList<>();
    Work rest = work.part(0.7, work.label());
    for (int i = 0; places != null && i < places.length; i += 3) {
      List<Double> at = List.of(places[i], places[i + 1], places[i + 2]);
      BitSet part = k.grown.get(at);
      if (part == null) {
        double[] seed = toBase.apply(places[i], places[i + 1], places[i + 2]);
        FlatPart own =
            k.scan.count() == 0
                ? null
                : grow.around(k.scan.toLocal(seed), rest.part(3.0 / places.length, rest.label()));
        part = own == null ? new BitSet() : own.triangles();
        k.grown.put(at, part);
      }
      out.add(part);
    }
    return out;
  }

  /** A place on each flat part that is found, in the scan file's coordinates. */
  public List<double[]> found(Workpiece in, FromPlanes step, Work work) {
    Kept k = kept(in, step, work.part(0.2, work.label()));
    List<double[]> out = new ArrayList<>();
    if (k.scan.count() > 0) {
      double within = k.within / k.scan.size();
      for (double[] p : FlatSearch.places(k.scan, within, work.part(0.8, work.label()))) {
        out.add(in.frame().toFile().apply(k.scan.toBase(p)));
      }
    }
    return out;
  }

  private Kept kept(Workpiece in, FromPlanes step, Work work) {
    Kept had = kept;
    double within = step.within(in);
    if (had == null || had.of != in.scan() || had.within != within) {
      boolean isScan = had != null && had.of == in.scan();
      LocalScan scan = isScan ? had.scan : LocalScan.of(in.scan(), work);
      had = new Kept(in.scan(), within, scan, new HashMap<>());
      kept = had;
    }
    return had;
  }

  /** Lets go of what was kept. */
  public void clear() {
    kept = null;
  }
}
