package holotome.core.scans;

import holotome.core.Datasets;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;

/** Meshes that were scanned or made to be difficult, as far as a run takes them. */
final class RealMeshes {
  private RealMeshes() {}

  /** A dragon and some in brief; at length all of them, at every resolution. */
  static List<String> and(String... inBrief) throws IOException {
    List<String> out = new ArrayList<>(List.of("dragon-res4.ply"));
    if (Datasets.times(0, 1) > 0) {
      out.addAll(List.of("bunny.obj", "dragon-res3.ply", "dragon-res2.ply", "dragon.ply"));
    }
    out.addAll(Datasets.meshes(inBrief));
    return out;
  }
}
