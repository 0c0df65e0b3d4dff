package holotome.view.prepare;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import holotome.core.geometry.Similarity;
import holotome.core.memory.Claim;
import holotome.core.memory.Spare;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.view.Meshes;
import holotome.view.Renderer;
import holotome.view.camera.Camera;
import holotome.view.scene.Look;
import holotome.view.scene.Scene;
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

  /** A scene of more meshes than are held as a rule does not make them anew for each picture. */
  @Test
  void asManyAreHeldAsASceneShows() {
    Preparations all = new Preparations(0);
    all.keepAtLeast(6);
    List<Mesh> meshes = new ArrayList<>();
    List<Prepared> made = new ArrayList<>();
    for (int round = 0; round < 3; round++) {
      for (int i = 0; i < 6; i++) {
        if (round == 0) {
          meshes.add(Meshes.ball(8 + i));
          made.add(all.of(meshes.get(i)));
        }
        assertThat(all.of(meshes.get(i))).isSameAs(made.get(i));
      }
      all.letGo();
      all.keepAtLeast(6);
      made.clear();
      meshes.forEach(m -> made.add(all.of(m)));
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

  @Test
  void whatIsForgottenIsGoneAndComesBackOnlyWhenAskedFor() {
    Preparations all = new Preparations(0);
    Mesh m = Meshes.ball(20);
    all.prepare(m, Work.unwatched());
    all.forget();
    assertThat(all.isPrepared(m)).isFalse();
    all.prepare(m, Work.unwatched());
    assertThat(all.isPrepared(m)).isTrue();
  }

  /** A picture that was begun before is still drawn, but nothing is held for it. */
  @Test
  void whatIsForgottenIsNotHeldForAPictureOnItsWay() {
    Preparations all = new Preparations(1_000_000);
    Mesh m = Meshes.ball(20);
    Prepared before = all.of(m);
    assertThat(all.of(m)).isSameAs(before);
    all.forget();
    Prepared late = all.of(m);
    assertThat(late.mesh()).isSameAs(m);
    assertThat(all.of(m)).isNotSameAs(late);
  }

  @Test
  void whatIsPreparedWhileAllIsForgottenIsNotKept() {
    Preparations all = new Preparations(0);
    Mesh m = Meshes.ball(20);
    Mesh other = Meshes.ball(21);
    all.prepare(other, Work.unwatched());
    Prepared before = all.of(m);
    // Memory for it is only had once another computation is over: by then all is forgotten.
    Claim first = Claim.of(Long.MAX_VALUE / 2);
    first.await(0, Work.unwatched());
    Claim claim = Claim.of(Long.MAX_VALUE / 2);
    Thread t = new Thread(() -> all.prepare(m, claim, Work.unwatched()));
    t.start();
    try {
      Thread.sleep(200);
      all.forget();
      first.close();
      t.join(20_000);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
    assertThat(t.isAlive()).isFalse();
    assertThat(before.hierarchy()).isNull();
    assertThat(all.isPrepared(m)).isFalse();
  }

  @Test
  void preparingIsCancelled() {
    Preparations all = new Preparations(0);
    Mesh m = Meshes.ball(60);
    Work work = new Work();
    work.cancel();
    assertThatThrownBy(() -> all.prepare(m, work))
        .isInstanceOfSatisfying(
            Failure.class, f -> assertThat(f.kind()).isEqualTo(Failure.Kind.CANCELLED));
    assertThat(all.isPrepared(m)).isFalse();
    // The claim was given up: another one does not wait.
    all.prepare(m, Work.unwatched());
    assertThat(all.isPrepared(m)).isTrue();
  }
}
