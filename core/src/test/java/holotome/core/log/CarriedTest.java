package holotome.core.log;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Shapes;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.mesh.Lineage;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.spatial.Bvh;
import holotome.core.spatial.SurfaceDistance;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.step.StepKind;
import holotome.core.task.Work;
import java.nio.file.Path;
import java.util.HashSet;
import java.util.Set;
import java.util.stream.Stream;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/**
 * Every step on a mesh with an attribute of every kind on every domain, each of which tells where
 * it belongs: what comes out still belongs where it is.
 */
class CarriedTest {
  private static final Set<String> MOVING =
      Set.of("mend.noise", "mend.spikes", "mend.pull", "mend.overhang");

  private static final Set<String> SOLID = Set.of("mend.solid", "mend.hollow");

  private static final Set<String> FILLING =
      Set.of("mend.fill", "mend.intersections", "mend.handles", "mend.patch", "mend.base");

  @TempDir private Path dir;

  /** All but what carries one side's to the other: SymmetricTest holds that. */
  static Stream<GivenSteps.Given> steps() {
    return GivenSteps.steps().filter(g -> !g.entry().containsKey("symmetric"));
  }

  @ParameterizedTest
  @MethodSource("steps")
  void everyAttributeBelongsWhereItIs(GivenSteps.Given given) {
    Workpiece start = GivenSteps.start(4, 60);
    Workpiece w = GivenSteps.before(given, start.withScan(Shapes.laden(start.scan())));
    Mesh old = w.scan();
    Workpiece out =
        Catalogue.create(given.entry())
            .apply(w, new Run(Run.unwatched().work(), dir.resolve("out")))
            .work();
    String id = given.entry().get("do").toString();
    boolean goesOn = id.equals("reduce.resurface");
    if (out.scan() != old) {
      // Merged vertices stand beside the line between what was merged.
      boolean merged = id.startsWith("reduce") || SOLID.contains(id);
      // What moves vertices leaves what they carry: it is held against where they were.
      Mesh now = out.scan();
      if (MOVING.contains(id)) {
        assertThat(now.triangles()).isEqualTo(old.triangles());
        now = now.withPositions(old.xyz()).of(old.lineage());
      }
      check(old, now, off(id, merged), merged, FILLING.contains(id) || isCap(given), goesOn);
    }
    boolean makesCast = id.startsWith("reduce") || id.equals("mend.solid");
    if (out.cast() != null && out.cast() != w.cast() && makesCast) {
      check(old, out.cast(), off(id, true), true, false, goesOn);
    }
  }

  /**
   * What is made anew carries what the nearest place did, as far off as its triangles are coarse.
   */
  private static final Set<String> REMADE =
      Set.of("reduce.remesh", "reduce.facets", "reduce.resurface");

  /** How far from what was there a new surface counts as a patch. */
  private static final double BESIDE = 0.02;

  /** Where a solid bridges an opening it carries what its rim does, some way off. */
  private static double off(String id, boolean merged) {
    return SOLID.contains(id) ? 0.6 : REMADE.contains(id) ? 0.3 : merged ? 0.12 : 1e-4;
  }

  private static boolean isCap(GivenSteps.Given given) {
    Step step = Catalogue.create(given.entry());
    Object close = StepKind.of(step).values(step).get("close");
    return close != null && !close.equals("open");
  }

  /**
   * @param off how far a number may be from what its place says
   * @param merged whether vertices were merged: texture coordinates are then gone
   * @param patched whether there may be patches, in which values come from the rim
   * @param goesOn whether the surface may go on where there was none: a patch too
   */
  private static void check(
      Mesh old, Mesh now, double off, boolean merged, boolean patched, boolean goesOn) {
    for (Attribute a : old.attributes()) {
      Attribute b = now.attributes().named(a.name());
      if (a.kind() == Kind.UV && merged) {
        continue;
      }
      assertThat(b).as(a.name()).isNotNull();
      assertThat(b.kind()).isEqualTo(a.kind());
    }
    assertThat(now.materials()).hasSameSizeAs(old.materials());
    Lineage.Common common = Lineage.common(old.lineage(), now.lineage());
    boolean[] inPatch = new boolean[now.vertexCount()];
    if (patched) {
      markPatches(old, now, common, inPatch);
    }
    if (goesOn) {
      float[] beside = SurfaceDistance.distances(now.xyz(), Bvh.of(old), Work.unwatched());
      for (int v = 0; v < inPatch.length; v++) {
        inPatch[v] |= beside[v] > BESIDE;
      }
    }
    vertices(now, off, merged, inPatch);
    if (!merged) {
      corners(now, off, inPatch);
    }
    triangles(old, now, merged, patched);
  }

  /** Vertices whose values come from a rim: those the old mesh had no triangle at. */
  private static void markPatches(Mesh old, Mesh now, Lineage.Common common, boolean[] inPatch) {
    java.util.Arrays.fill(inPatch, true);
    for (int t = 0; t < now.triangleCount(); t++) {
      if (common.from(t) >= 0) {
        for (int k = 0; k < 3; k++) {
          inPatch[now.triangles()[3 * t + k]] = false;
        }
      }
    }
  }

  private static double[] place(Mesh m, int v) {
    return new double[] {m.xyz()[3 * v], m.xyz()[3 * v + 1], m.xyz()[3 * v + 2]};
  }

  private static void vertices(Mesh now, double off, boolean merged, boolean[] inPatch) {
    float[] weight = now.attributes().named("weight").floats();
    float[] mask = now.attributes().named("mask").floats();
    float[] normal = now.attributes().named("normal").floats();
    int[] label = now.attributes().named("label").ints();
    for (int v = 0; v < now.vertexCount(); v++) {
      double l = Math.hypot(Math.hypot(normal[3 * v], normal[3 * v + 1]), normal[3 * v + 2]);
      assertThat(l).isCloseTo(1, within(1e-5));
      assertThat(mask[v]).isBetween(0f, 1f);
      if (inPatch[v]) {
        assertThat(weight[v]).isBetween(-12f, 12f);
        continue;
      }
      double[] p = place(now, v);
      assertThat(weight[v])
          .as("weight of vertex %d", v)
          .isCloseTo((float) Shapes.placeWeight(p[0], p[1], p[2]), within((float) off));
      // The label is that of a vertex no more than a triangle away: of a cell beside.
      if (!merged) {
        assertNear(label[v], p);
      }
    }
  }

  private static void assertNear(int label, double[] p) {
    Set<Integer> around = new HashSet<>();
    for (int i = -1; i <= 1; i++) {
      for (int j = -1; j <= 1; j++) {
        for (int k = -1; k <= 1; k++) {
          around.add(Shapes.placeLabel(p[0] + 0.25 * i, p[1] + 0.25 * j, p[2] + 0.25 * k));
        }
      }
    }
    assertThat(around).contains(label);
  }

  private static void corners(Mesh now, double off, boolean[] inPatch) {
    Attribute uv = now.attributes().named("uv");
    Attribute second = now.attributes().named("uv2");
    Attribute weight = now.attributes().named("corner weight");
    Attribute colour = now.attributes().named("corner colour");
    for (int c = 0; c < now.triangles().length; c++) {
      int v = now.triangles()[c];
      assertThat(colour.ints()[colour.index()[c]] >>> 24).isEqualTo(255);
      if (inPatch[v]) {
        continue;
      }
      double[] p = place(now, v);
      for (Attribute a : new Attribute[] {uv, second}) {
        for (int k = 0; k < 2; k++) {
          assertThat(a.floats()[2 * a.index()[c] + k])
              .as("%s at corner %d", a.name(), c)
              .isCloseTo((float) p[k], within((float) off));
        }
      }
      assertThat(weight.floats()[weight.index()[c]])
          .isCloseTo((float) Shapes.placeWeight(p[0], p[1], p[2]), within((float) off));
    }
    for (Attribute a : new Attribute[] {uv, second, weight, colour}) {
      int[] used = a.index().clone();
      assertThat(java.util.Arrays.stream(used).distinct().count())
          .as("no value of %s is left over", a.name())
          .isEqualTo(a.count());
    }
  }

  private static void triangles(Mesh old, Mesh now, boolean merged, boolean patched) {
    int[] part = now.attributes().named("part").ints();
    float[] share = now.attributes().named("share").floats();
    Set<Integer> known = new HashSet<>();
    for (int l : old.attributes().named("part").ints()) {
      known.add(l);
    }
    for (int t = 0; t < now.triangleCount(); t++) {
      assertThat(known).contains(part[t]);
      assertThat((int) now.material()[t]).isEqualTo(part[t] % 3);
      if (!merged && !patched) {
        double[] c = new double[3];
        for (int k = 0; k < 9; k++) {
          c[k % 3] += now.xyz()[3 * now.triangles()[3 * t + k / 3] + k % 3] / 3;
        }
        assertNear(part[t], c);
        assertThat(share[t]).isCloseTo((float) Shapes.placeWeight(c[0], c[1], c[2]), within(0.5f));
      }
    }
    assertThat(now.attributes().named("part").domain()).isEqualTo(Domain.TRIANGLE);
  }
}
