package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.intake.Inspection;
import holotome.core.mesh.Mesh;
import holotome.core.spatial.PlaneFinder;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.topology.Borders;
import holotome.core.topology.Islands;
import holotome.core.trim.CutGround;
import holotome.core.trim.TrimReview;
import java.util.Arrays;
import java.util.BitSet;
import java.util.List;

/**
 * What was measured on a Scan, for the findings.
 *
 * @param flats the flat parts that may be the ground, the largest first
 * @param review what trimming may have left to do
 * @param looseAcross the diagonal of the largest island but the main one, in base units; 0 for none
 * @param holes border loops as positions in base coordinates, 3 floats per point; longest first
 */
public record Insight(
    Mesh mesh,
    Inspection inspection,
    Islands islands,
    List<PlaneFinder.Flat> flats,
    TrimReview review,
    double looseAcross,
    float[][] holes) {

  /** A forecast of what measuring takes, in bytes; measured at 10 million triangles. */
  static long memory(Mesh mesh) {
    return 28L * mesh.triangleCount();
  }

  public static Insight of(Mesh mesh, Work work) {
    Adjacency adjacency = Adjacency.of(mesh, work.part(0.25, AppWords.of("insight.inspecting")));
    Islands islands = Islands.of(adjacency, work.part(0.15, AppWords.of("insight.inspecting")));
    Inspection inspection =
        Inspection.of(adjacency, islands, false, work.part(0.4, AppWords.of("insight.inspecting")));
    List<PlaneFinder.Flat> flats =
        CutGround.candidates(mesh, work.part(0.1, AppWords.of("insight.inspecting")));
    int[][] loops = Borders.of(adjacency).loops();
    TrimReview review =
        TrimReview.of(mesh, islands, adjacency, work.part(0.1, AppWords.of("insight.inspecting")));
    float[][] holes = new float[Math.min(loops.length, 2000)][];
    for (int i = 0; i < holes.length; i++) {
      int[] v = Borders.vertices(mesh, loops[i]);
      holes[i] = new float[3 * v.length];
      for (int k = 0; k < v.length; k++) {
        System.arraycopy(mesh.xyz(), 3 * v[k], holes[i], 3 * k, 3);
      }
    }
    double looseAcross = 0;
    if (islands.count() > 1) {
      looseAcross = Arrays.stream(islands.diameters(mesh, work)).skip(1).max().orElse(0);
    }
    return new Insight(mesh, inspection, islands, flats, review, looseAcross, holes);
  }

  /** All triangles outside the largest island. */
  public BitSet loose() {
    BitSet set = new BitSet(mesh.triangleCount());
    int[] of = islands.ofTriangle();
    for (int t = 0; t < of.length; t++) {
      if (of[t] != 0) {
        set.set(t);
      }
    }
    return set;
  }

  /** The largest flat part, where it is large enough to be the ground; else null. */
  public PlaneFinder.Flat ground() {
    return CutGround.groundAmong(flats);
  }

  /** All triangles of some islands, given by rank. */
  public BitSet islandsOf(int[] ranks) {
    boolean[] chosen = new boolean[islands.count()];
    for (int r : ranks) {
      chosen[r] = true;
    }
    int[] of = islands.ofTriangle();
    BitSet set = new BitSet(of.length);
    for (int t = 0; t < of.length; t++) {
      if (chosen[of[t]]) {
        set.set(t);
      }
    }
    return set;
  }

  /** The triangles near a flat part's plane. */
  public BitSet near(PlaneFinder.Flat flat) {
    BitSet set = new BitSet(mesh.triangleCount());
    double tolerance = Math.max(3 * flat.rms(), 0.001 * mesh.bounds().diagonal());
    int[] tri = mesh.triangles();
    for (int t = 0; t < mesh.triangleCount(); t++) {
      double[] p = Vec.at(mesh.xyz(), tri[3 * t]);
      if (Math.abs(Vec.dot(Vec.sub(p, flat.point()), flat.normal())) <= tolerance) {
        set.set(t);
      }
    }
    return set;
  }
}
