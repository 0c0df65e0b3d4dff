package holotome.view.cluster;

import static org.assertj.core.api.Assertions.assertThat;

import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Work;
import holotome.view.Meshes;
import org.junit.jupiter.api.Test;

/** What was let go comes back as it was. */
class LeafPiecesTest {
  @Test
  void madeAgainTheyAreTheSame() {
    Mesh m = Meshes.stone(160);
    Hierarchy h = Hierarchy.of(m, Work.unwatched());
    assertThat(check(h, h.root())).isGreaterThan(20);
  }

  @Test
  void madeAgainAfterAnEditTheyAreThoseOfTheEditedMesh() {
    Mesh m = Meshes.stone(160);
    Mesh bitten = Submesh.of(m, t -> t % 4_000 > 300, Work.unwatched());
    Hierarchy h = Hierarchy.of(m, Work.unwatched()).updated(bitten, Work.unwatched());
    assertThat(h.mesh()).isSameAs(bitten);
    assertThat(check(h, h.root())).isGreaterThan(20);
  }

  @Test
  void manyTrianglesAreSeveralPieces() {
    Mesh m = Meshes.ball(60);
    int[] all = new int[m.triangleCount()];
    for (int t = 0; t < all.length; t++) {
      all[t] = t;
    }
    LeafPieces leaf = LeafPieces.of(m, all, 0, all.length);
    assertThat(leaf.get()).hasSize((all.length + Piece.MOST - 1) / Piece.MOST);
    int n = 0;
    for (Piece p : leaf.get()) {
      n += p.triangleCount();
    }
    assertThat(n).isEqualTo(m.triangleCount());
  }

  /** How many leaves were looked at. */
  private static int check(Hierarchy h, Node n) {
    if (!n.isLeaf()) {
      int checked = 0;
      for (Node c : n.children()) {
        checked += check(h, c);
      }
      return checked;
    }
    Piece[] have = n.pieces();
    Piece[] again = new LeafPieces(h.mesh(), n.leaf.ids()).get();
    assertThat(again).hasSameSizeAs(have);
    for (int i = 0; i < have.length; i++) {
      assertThat(again[i].xyz()).isEqualTo(have[i].xyz());
      assertThat(again[i].corners()).isEqualTo(have[i].corners());
      assertThat(again[i].ids()).isEqualTo(have[i].ids());
      assertThat(again[i].exact()).isTrue();
    }
    return 1;
  }
}
