package holotome.app.model;

import holotome.core.intake.Inspection;
import holotome.core.mesh.Adjacency;
import holotome.core.mesh.Borders;
import holotome.core.mesh.Islands;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Vec;
import holotome.core.spatial.PlaneFinder;
import holotome.core.task.Work;
import holotome.core.trim.CutGround;
import java.util.Arrays;
import java.util.BitSet;

/**
 * What was measured on a Scan, for the findings.
 *
 * @param ground null where none is found
 * @param looseAcross the diagonal of the largest island but the main one, in base units; 0 for none
 * @param holes border loops as positions in base coordinates, 3 floats per point; longest first
 */
public record Insight(
    Mesh mesh,
    Inspection inspection,
    Islands islands,
    PlaneFinder.Flat ground,
    double looseAcross,
    float[][] holes) {

  public static Insight of(Mesh mesh, Work work) {
    Inspection inspection = Inspection.of(mesh, false, work.part(0.6, "Inspecting"));
    Islands islands = Islands.of(mesh, work.part(0.1, "Inspecting"));
    PlaneFinder.Flat ground = CutGround.find(mesh, work.part(0.1, "Inspecting"));
    int[][] loops = Borders.of(Adjacency.of(mesh, work.part(0.2, "Inspecting"))).loops();
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
    return new Insight(mesh, inspection, islands, ground, looseAcross, holes);
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

  /** The triangles near the ground's plane. */
  public BitSet groundTriangles() {
    BitSet set = new BitSet(mesh.triangleCount());
    double tolerance = Math.max(3 * ground.rms(), 0.001 * mesh.bounds().diagonal());
    int[] tri = mesh.triangles();
    for (int t = 0; t < mesh.triangleCount(); t++) {
      double[] p = Vec.at(mesh.xyz(), tri[3 * t]);
      if (Math.abs(Vec.dot(Vec.sub(p, ground.point()), ground.normal())) <= tolerance) {
        set.set(t);
      }
    }
    return set;
  }
}
