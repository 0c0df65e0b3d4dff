package holotome.core.mend;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.image.Raster;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.mesh.Uv;
import holotome.core.part.Workpiece;
import holotome.core.select.Heights;
import holotome.core.select.Pick;
import holotome.core.step.Run;
import holotome.core.step.Step;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Stream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.MethodSource;

/** Every step of Mend on meshes that are hardly any: it does what it can or says why not. */
class RoughMendTest {
  private static Mesh scaled(Mesh m, double by) {
    float[] xyz = m.xyz().clone();
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) (xyz[i] * by);
    }
    return m.withPositions(xyz);
  }

  /** With a picture of two colours, and texture coordinates that are none in part. */
  private static Mesh pictured(Mesh m) {
    float[] uv = new float[2 * m.vertexCount()];
    for (int i = 0; i < uv.length; i++) {
      uv[i] = i % 7 == 0 ? Float.NaN : i % 5 / 4f;
    }
    Raster picture = new Raster(2, 1, new int[] {0xff102030, 0xffd0c0b0});
    return new Mesh(
        m.xyz(),
        m.triangles(),
        null,
        new Uv(uv, m.triangles().clone()),
        null,
        List.of(new Material("one", 0xffffffff, picture)));
  }

  static Map<String, Mesh> meshes() {
    Map<String, Mesh> out = new LinkedHashMap<>();
    out.put("one triangle", new Mesh(new float[] {0, 0, 0, 1, 0, 0, 0, 1, 0}, new int[] {0, 1, 2}));
    int[] fan = new int[27];
    float[] spokes = new float[33];
    spokes[5] = 1;
    for (int i = 0; i < 9; i++) {
      spokes[6 + 3 * i] = (float) Math.cos(i);
      spokes[7 + 3 * i] = (float) Math.sin(i);
      fan[3 * i + 1] = 1;
      fan[3 * i + 2] = 2 + i;
    }
    out.put("nine on one edge", new Mesh(spokes, fan));
    out.put("vast", scaled(Shapes.sphere(1, 2), 1e30));
    out.put("tiny", scaled(Shapes.sphere(1, 2), 1e-30));
    out.put("vast, in colour", Shapes.coloured(scaled(Shapes.sphere(1, 2), 1e30)));
    out.put("vast, with a picture", pictured(scaled(Shapes.sphere(1, 2), 1e30)));
    out.put("tiny, with a picture", pictured(scaled(Shapes.sphere(1, 2), 1e-30)));
    out.put("open, with a picture", pictured(Shapes.mess(40, 4)));
    out.put("far off", Shapes.moved(Shapes.sphere(1, 2), 1e6, 1e6, 0));
    out.put(
        "on a line",
        new Mesh(new float[] {0, 0, 0, 1, 0, 0, 2, 0, 0}, new int[] {0, 1, 2, 2, 1, 0}));
    out.put("on one spot", new Mesh(new float[30], new int[] {0, 1, 2, 3, 4, 5, 6, 7, 8}));
    Mesh cube = Shapes.cube(1);
    out.put("twice", Shapes.together(cube, cube));
    int[] both = new int[72];
    for (int c = 0; c < 36; c++) {
      both[c] = cube.triangles()[c];
      both[36 + c] = cube.triangles()[35 - c];
    }
    out.put("both sides", new Mesh(cube.xyz(), both));
    out.put("open", new Mesh(cube.xyz(), Arrays.copyOf(cube.triangles(), 30)));
    out.put("mess", Shapes.mess(80, 3));
    return out;
  }

  static List<Step> steps() {
    List<Pick> upper =
        List.of(
            Pick.of(Pick.Join.REPLACE, new Heights(new Length(0.3), null, new double[] {0, 0, 1})));
    List<Step> out = new ArrayList<>();
    out.add(new Tidy());
    out.add(new OrientOut());
    out.add(new MakeManifold());
    out.add(new TakeSpikes(1.5));
    out.add(new CutCrossings());
    out.add(new DropShells(null));
    out.add(new CutHandles(null));
    for (FillHoles.How how : FillHoles.How.values()) {
      out.add(new FillHoles(how, null, false));
    }
    out.add(new FillHoles(FillHoles.How.FLAT, null, false, new double[] {0, 0, 0}));
    for (MakeSolid.How how : MakeSolid.How.values()) {
      out.add(new MakeSolid(how, null, null, null, MakeSolid.As.SCAN));
    }
    out.add(new HollowOut(new Length(0.1), null));
    out.add(new HollowOut(new Length(0.1), null, new Length(0.05), 2, null));
    out.add(
        new HollowOut(new Length(0.1), null, new Length(0.05), null, new double[] {0.1, 0.2, 1}));
    out.add(new PutOnBase(new Length(0.1)));
    out.add(new PutOnBase(new Length(0.1), 3, new Length(0.05)));
    double[] three = {0, 0, 0, 1, 0, 0, 0, 1, 0};
    double[] two = {0, 0, 0, 1, 0, 0};
    for (Edit.How how : Edit.How.values()) {
      double[] at =
          switch (how) {
            case TURN, COLLAPSE, STRIP, SNAP -> two;
            default -> three;
          };
      out.add(
          new EditMesh(
              List.of(new Edit(how, at, new double[] {0, 1, 0}, new double[] {0, 0, 0.3}))));
    }
    out.add(new PullSurface(new double[3], new double[] {0, 0, 0.1}, new Length(0.5), null));
    List<Pick> lower =
        List.of(
            Pick.of(Pick.Join.REPLACE, new Heights(null, new Length(0.3), new double[] {0, 0, 1})));
    List<Pick> all =
        List.of(
            Pick.of(
                Pick.Join.REPLACE, new Heights(new Length(-3e38), null, new double[] {0, 0, 1})));
    for (List<Pick> picks : List.of(upper, lower, all)) {
      out.add(new EaseOverhang(picks, 45));
    }
    for (PatchRegion.Shape shape : PatchRegion.Shape.values()) {
      for (PatchRegion.Meshing meshing : PatchRegion.Meshing.values()) {
        out.add(new PatchRegion(upper, shape, false, meshing));
      }
    }
    return out;
  }

  static Stream<String> names() {
    return meshes().keySet().stream();
  }

  @ParameterizedTest
  @MethodSource("names")
  @Timeout(120)
  void everyStepDoesWhatItCanOrSaysWhyNot(String name) {
    Mesh mesh = meshes().get(name);
    for (Step step : steps()) {
      Mesh now;
      try {
        now = step.apply(Workpiece.of(mesh, Frame.PLAIN), Run.unwatched()).work().scan();
      } catch (Failure f) {
        assertThat(f.kind()).as("%s: %s", step, f.getMessage()).isEqualTo(Failure.Kind.CANNOT);
        continue;
      }
      for (float x : now.xyz()) {
        assertThat(x).as(step.toString()).isFinite();
      }
      for (int v : now.triangles()) {
        assertThat(v).as(step.toString()).isBetween(0, now.vertexCount() - 1);
      }
    }
    assertThat(Survey.of(mesh, Work.unwatched()).mesh()).isSameAs(mesh);
  }

  /** A ball of any size becomes the same solid, but for its scale. */
  @Test
  void solidsDoNotDependOnScale() {
    MakeSolid made = new MakeSolid(MakeSolid.How.NEW, null, 4000, null, MakeSolid.As.SCAN);
    for (double by : new double[] {1e-30, 1e30}) {
      Mesh m =
          made.apply(Workpiece.of(scaled(Shapes.sphere(1, 4), by), Frame.PLAIN), Run.unwatched())
              .work()
              .scan();
      assertThat(m.triangleCount()).isBetween(3500, 4500);
      assertThat(m.bounds().height() / by).isBetween(1.99, 2.01);
    }
  }

  /** After a triangle went, was doubled or turned, the same is wrong as a look at all tells. */
  @Test
  void smallChangesOfThemAreSurveyed() {
    meshes()
        .forEach(
            (name, mesh) -> {
              Survey before = Survey.of(mesh, Work.unwatched());
              int n = mesh.triangleCount();
              int[] more = Arrays.copyOf(mesh.triangles(), 3 * n + 3);
              System.arraycopy(more, 0, more, 3 * n, Math.min(3, 3 * n));
              int[] turned = mesh.triangles().clone();
              if (n > 0) {
                turned[0] = mesh.triangles()[1];
                turned[1] = mesh.triangles()[0];
              }
              for (Mesh next :
                  List.of(
                      Submesh.of(mesh, t -> t > 0, Work.unwatched()),
                      n == 0 ? mesh : new Mesh(mesh.xyz(), more).of(mesh.lineage()),
                      new Mesh(mesh.xyz(), turned).of(mesh.lineage()))) {
                Survey after = Survey.after(before, next, Work.unwatched());
                Survey whole = Survey.of(next, Work.unwatched());
                assertThat(after.faults().stream().map(f -> f.kind() + " " + f.count()).toList())
                    .as(name)
                    .isEqualTo(
                        whole.faults().stream().map(f -> f.kind() + " " + f.count()).toList());
              }
            });
  }
}
