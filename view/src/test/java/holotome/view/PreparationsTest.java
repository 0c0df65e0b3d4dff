package holotome.view;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Similarity;
import holotome.core.task.Spare;
import holotome.core.task.Work;
import java.util.ArrayList;
import java.util.List;
import org.junit.jupiter.api.Test;

class PreparationsTest {
  @Test
  void whatIsNoLongerAmongTheLastIsStillThereWhileThereIsMemory() {
    Preparations all = new Preparations(0);
    List<Mesh> meshes = new ArrayList<>();
    List<Prepared> made = new ArrayList<>();
    for (int i = 0; i < 6; i++) {
      Mesh m = Meshes.ball(20 + i);
      meshes.add(m);
      all.prepare(m, Work.unwatched());
      made.add(all.of(m));
    }
    for (int i = 5; i >= 0; i--) {
      assertThat(all.of(meshes.get(i))).isSameAs(made.get(i));
      assertThat(all.isPrepared(meshes.get(i))).isTrue();
    }
  }

  @Test
  void onlySoManyAreHeld() {
    Preparations all = new Preparations(0);
    Mesh first = Meshes.ball(12);
    all.prepare(first, Work.unwatched());
    for (int i = 0; i < 12; i++) {
      all.prepare(Meshes.ball(12), Work.unwatched());
    }
    assertThat(all.isPrepared(first)).isFalse();
  }

  @Test
  void whatIsLetGoIsDrawnAsBefore() {
    Mesh m = Meshes.stone(120);
    Preparations all = new Preparations(0);
    all.prepare(m, Work.unwatched());
    Mesh other = Meshes.ball(9);
    for (int i = 0; i < 4; i++) {
      all.of(i == 0 ? other : Meshes.ball(10 + i));
    }
    all.of(m);
    all.letGo();
    // What was spare only is gone, what is in use is not.
    assertThat(all.isPrepared(m)).isTrue();
    Renderer r = new Renderer(0);
    r.prepare(m, Work.unwatched());
    Scene scene = new Scene(m, Similarity.IDENTITY, Look.COLOUR, null, null, false);
    Camera c = Camera.showing(m.bounds(), Camera.Direction.ASKEW, 1.3);
    int[] before = r.draw(scene, c, 200, 150).pixels().clone();
    Spare.makeRoom(2 * Runtime.getRuntime().maxMemory());
    assertThat(r.draw(scene, c, 200, 150).pixels()).isEqualTo(before);
  }
}
