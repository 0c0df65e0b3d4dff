package holotome.core.select;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Datasets;
import holotome.core.Shapes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.Submesh;
import holotome.core.task.Failure;
import holotome.core.task.Parallel;
import holotome.core.task.Work;
import holotome.core.topology.Adjacency;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Random;
import org.junit.jupiter.api.Test;

class SelectTest {
  private static final double[] UP = {0, 0, 1};

  private static BitSet select(Rule rule, Mesh m) {
    return rule.select(m, Frame.PLAIN, Work.unwatched());
  }

  private static double area(Rule rule, Mesh m) {
    return Measures.area(m, select(rule, m));
  }

  private static Mesh ball() {
    return Shapes.sphere(1, 6);
  }

  /** Archimedes: a zone of the unit sphere between two heights has the area 2 pi (b - a). */
  @Test
  void heightsTakeTheZoneOfASphere() {
    for (double[] z : new double[][] {{-0.5, 0.25}, {0, 1}, {0.9, 2}}) {
      double a = area(new Heights(new Length(z[0]), new Length(z[1]), UP), ball());
      assertThat(a).isCloseTo(2 * Math.PI * (Math.min(z[1], 1) - z[0]), within(0.06));
    }
  }

  /** Surface that faces within an angle of a direction is a cap of height 1 - cos. */
  @Test
  void facingTakesACapOfASphere() {
    double a = area(new Facing(new double[] {1, 2, -1}, 40), ball());
    assertThat(a).isCloseTo(2 * Math.PI * (1 - Math.cos(Math.toRadians(40))), within(0.05));
  }

  /** Points of the unit sphere within d of a point on it: a cap of area pi d^2. */
  @Test
  void aDabTakesACapOfASphere() {
    double[] at = Vec.unit(Vec.of(1, 1, 1));
    double a = area(new BrushStroke(at, new Length(0.5)), ball());
    assertThat(a).isCloseTo(Math.PI * 0.25, within(0.03));
  }

  @Test
  void manyDabsAreTheUnionOfEach() {
    Mesh m = Shapes.sphere(1, 4);
    Random r = new Random(4);
    double[] points = new double[60];
    BitSet each = new BitSet();
    for (int i = 0; i < 60; i += 3) {
      double[] p = Vec.unit(Vec.of(r.nextGaussian(), r.nextGaussian(), r.nextGaussian()));
      System.arraycopy(p, 0, points, i, 3);
      each.or(select(new BrushStroke(p, new Length(0.2)), m));
    }
    assertThat(select(new BrushStroke(points, new Length(0.2)), m)).isEqualTo(each);
  }

  /** A turned cube of edge a about the centre of a sphere: its corners stick out or do not. */
  @Test
  void aTurnedBoxTakesWhatItHolds() {
    Mesh m = ball();
    double[] turn = {30, -40, 75};
    Region all = new Region(new double[3], new double[] {2.01, 2.01, 2.01}, turn);
    assertThat(select(all, m).cardinality()).isEqualTo(m.triangleCount());
    // Half the box: a plane through the centre across its first edge.
    double[] axes = all.axes();
    double[] e = {axes[0], axes[1], axes[2]};
    Region half = new Region(Vec.mul(e, 1), new double[] {2, 4, 4}, turn);
    BitSet s = select(half, m);
    for (int t = 0; t < m.triangleCount(); t++) {
      double d = Vec.dot(centre(m, t), e);
      if (Math.abs(d) > 1e-6) {
        assertThat(s.get(t)).isEqualTo(d > 0);
      }
    }
  }

  /** The turn about X, then Y, then Z agrees with turning by one axis after the other. */
  @Test
  void aBoxTurnsAboutXThenYThenZ() {
    double[] axes =
        new Region(new double[3], new double[] {1, 1, 1}, new double[] {20, 30, 40}).axes();
    Similarity s =
        Similarity.turning(Vec.of(1, 0, 0), Math.toRadians(20))
            .then(Similarity.turning(Vec.of(0, 1, 0), Math.toRadians(30)))
            .then(Similarity.turning(Vec.of(0, 0, 1), Math.toRadians(40)));
    for (int k = 0; k < 3; k++) {
      double[] e = new double[3];
      e[k] = 1;
      double[] want = s.direction(e);
      for (int i = 0; i < 3; i++) {
        assertThat(axes[3 * k + i]).isCloseTo(want[i], within(1e-12));
      }
    }
  }

  private static double[] centre(Mesh m, int t) {
    double[] c = new double[3];
    for (int k = 0; k < 3; k++) {
      c = Vec.add(c, Vec.mul(Vec.at(m.xyz(), m.triangles()[3 * t + k]), 1.0 / 3));
    }
    return c;
  }

  /** A stroke's neighbourhood, seen straight on, against the distance worked out directly. */
  @Test
  void aStrokeTakesAllWithinItsReach() {
    Mesh m = Shapes.sheet(10, 120);
    double[] view = {1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1};
    Random r = new Random(8);
    double[] stroke = new double[40];
    for (int i = 0; i < 40; i++) {
      stroke[i] = 10 * r.nextDouble();
    }
    BitSet s = select(new Fence(view, stroke, 0.3), m);
    for (int t = 0; t < m.triangleCount(); t++) {
      double[] c = centre(m, t);
      double d = Double.MAX_VALUE;
      for (int i = 0; i + 3 < 40; i += 2) {
        d =
            Math.min(
                d,
                java.awt.geom.Line2D.ptSegDist(
                    stroke[i], stroke[i + 1], stroke[i + 2], stroke[i + 3], c[0], c[1]));
      }
      assertThat(s.get(t)).as("at %s", d).isEqualTo(d <= 0.3);
    }
  }

  /**
   * Values of L*a*b* for the primaries of sRGB under D65, as published with many colour libraries;
   * the figures here are from memory.
   */
  @Test
  void labOfThePrimaries() {
    float[] red = Likeness.lab(0xff0000);
    assertThat(red[0]).isCloseTo(53.24f, within(0.05f));
    assertThat(red[1]).isCloseTo(80.09f, within(0.1f));
    assertThat(red[2]).isCloseTo(67.20f, within(0.1f));
    float[] white = Likeness.lab(0xffffff);
    assertThat(white[0]).isCloseTo(100, within(0.01f));
    assertThat(Math.abs(white[1]) + Math.abs(white[2])).isLessThan(0.05f);
    assertThat(Likeness.lab(0)[0]).isZero();
  }

  @Test
  void likenessTakesItsColourOnly() {
    Mesh plain = Shapes.sheet(1, 10);
    int[] colours = new int[plain.vertexCount()];
    for (int v = 0; v < colours.length; v++) {
      colours[v] = plain.xyz()[3 * v] < 0.45 ? 0xffc03020 : 0xff2030c0;
    }
    Mesh m = new Mesh(plain.xyz(), plain.triangles(), colours);
    double a = area(Likeness.of(0xc23222, 10), m);
    assertThat(a).isCloseTo(0.4, within(0.06));
    assertThatThrownBy(() -> select(Likeness.of(0, 1), plain))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("no colour");
  }

  @Test
  void linkedStopsAtSharpEdges() {
    Mesh cube = Shapes.cube(2);
    double[] onTop = {0.3, 0.1, 2};
    assertThat(area(new Linked(onTop, 30), cube)).isCloseTo(4, within(1e-9));
    assertThat(area(new Linked(onTop, 91), cube)).isCloseTo(24, within(1e-9));
    Mesh two = Shapes.together(cube, Shapes.moved(Shapes.sphere(1, 3), 5, 0, 0));
    BitSet ball = select(new Linked(new double[] {6, 0, 0}, 180), two);
    assertThat(ball.cardinality()).isEqualTo(1280);
    assertThat(ball.nextSetBit(0)).isEqualTo(cube.triangleCount());
  }

  @Test
  void islandsByTheirSizeAndDistance() {
    Mesh m =
        Shapes.together(
            Shapes.sphere(1, 4),
            Shapes.moved(Shapes.sphere(0.2, 2), 1.5, 0, 0),
            Shapes.moved(Shapes.sphere(0.2, 1), 4, 0, 0));
    assertThat(select(new IslandSizes(null, 400, null, null, null), m).cardinality())
        .isEqualTo(320 + 80);
    assertThat(select(new IslandSizes(100, 400, null, null, null), m).cardinality()).isEqualTo(320);
    assertThat(select(new IslandSizes(null, null, new Length(1), null, null), m).cardinality())
        .isEqualTo(5120);
    assertThat(select(new IslandSizes(null, null, null, new Length(1), null), m).cardinality())
        .isEqualTo(400);
    // The gaps are 0.3 and 2.8.
    assertThat(select(new IslandSizes(null, null, null, null, new Length(1)), m).cardinality())
        .isEqualTo(80);
    assertThat(select(new IslandSizes(null, null, null, null, new Length(0.2)), m).cardinality())
        .isEqualTo(400);
  }

  /** A square sheet of n by n cells: one ring along its border is all but (n - 2)^2 cells. */
  @Test
  void theRimOfASheet() {
    Mesh m = Shapes.sheet(10, 10);
    double one = area(new Rim(1), m);
    assertThat(one).isCloseTo(36, within(3.0));
    assertThat(select(new Rim(1), Shapes.cube(1)).isEmpty()).isTrue();
  }

  @Test
  void shrinkingUndoesGrowingOnAConvexPatch() {
    Mesh m = Shapes.sheet(10, 40);
    BitSet s = select(new Region(new double[] {5, 5, 0}, new double[] {3, 3, 1}, new double[3]), m);
    Work w = Work.unwatched();
    BitSet grown = new Reshape(Reshape.How.GROW, 3).apply(s, m, w);
    assertThat(grown.cardinality()).isGreaterThan(s.cardinality());
    BitSet back = new Reshape(Reshape.How.SHRINK, 3).apply(grown, m, w);
    assertThat(back).isEqualTo(s);
    BitSet twice = Reshape.of(Reshape.How.INVERT).apply(s, m, w);
    assertThat(twice.cardinality()).isEqualTo(m.triangleCount() - s.cardinality());
    assertThat(Reshape.of(Reshape.How.INVERT).apply(twice, m, w)).isEqualTo(s);
  }

  @Test
  void smoothingTakesTeethAndSpecks() {
    Mesh m = Shapes.sheet(10, 60);
    BitSet clean = select(new Heights(null, new Length(5), new double[] {1, 0, 0}), m);
    BitSet rough = (BitSet) clean.clone();
    Random r = new Random(3);
    for (int i = 0; i < 40; i++) {
      rough.flip(r.nextInt(m.triangleCount()));
    }
    BitSet smooth = new Reshape(Reshape.How.SMOOTH, 2).apply(rough, m, Work.unwatched());
    smooth.xor(clean);
    rough.xor(clean);
    assertThat(smooth.cardinality()).isLessThan(rough.cardinality() / 5);
  }

  @Test
  void fillingTakesEnclosedGapsOnly() {
    Mesh m = Shapes.together(Shapes.sheet(10, 50), Shapes.moved(Shapes.sheet(1, 3), 0, 0, 5));
    BitSet ring =
        select(new Region(new double[] {5, 5, 0}, new double[] {6, 6, 1}, new double[3]), m);
    BitSet whole = (BitSet) ring.clone();
    ring.andNot(
        select(new Region(new double[] {5, 5, 0}, new double[] {2, 2, 1}, new double[3]), m));
    assertThat(Reshape.of(Reshape.How.FILL).apply(ring, m, Work.unwatched())).isEqualTo(whole);
    assertThat(Reshape.of(Reshape.How.ISLANDS).apply(ring, m, Work.unwatched()).cardinality())
        .isEqualTo(5000);
  }

  @Test
  void picksJoinAsSaid() {
    Mesh m = Shapes.sheet(4, 8);
    Pick left =
        Pick.of(Pick.Join.REPLACE, new Heights(null, new Length(2), new double[] {1, 0, 0}));
    Rule low = new Heights(null, new Length(2), new double[] {0, 1, 0});
    double[] want = {8, 12, 4, 4};
    for (Pick.Join join : Pick.Join.values()) {
      BitSet s = Pick.all(List.of(left, Pick.of(join, low)), m, Frame.PLAIN, Work.unwatched());
      assertThat(Measures.area(m, s)).as("%s", join).isCloseTo(want[join.ordinal()], within(1e-6));
    }
  }

  @Test
  void aShortenedListSelectsTheSame() {
    Mesh m = Shapes.sphere(1, 3);
    Random r = new Random(12);
    for (int round = 0; round < 60; round++) {
      List<Pick> picks = new ArrayList<>();
      for (int i = 0; i < 12; i++) {
        picks.add(randomPick(r, m));
      }
      List<Pick> brief = Pick.shortened(picks);
      assertThat(brief.size()).isLessThanOrEqualTo(picks.size());
      assertThat(Pick.all(brief, m, Frame.PLAIN, Work.unwatched()))
          .isEqualTo(Pick.all(picks, m, Frame.PLAIN, Work.unwatched()));
    }
  }

  private static Pick randomPick(Random r, Mesh m) {
    Pick.Join join = Pick.Join.values()[r.nextInt(4)];
    return switch (r.nextInt(4)) {
      case 0 -> Pick.of(Reshape.of(Reshape.How.values()[r.nextInt(6)]));
      case 1 -> {
        BitSet s = new BitSet();
        s.set(0, 1 + r.nextInt(m.triangleCount()));
        yield Pick.of(join, s, m.triangleCount());
      }
      case 2 -> Pick.of(join, new Facing(new double[] {r.nextGaussian(), r.nextGaussian(), 1}, 50));
      default -> Pick.of(join, new Heights(new Length(r.nextGaussian()), null, UP));
    };
  }

  /** The same rules in a frame turned, scaled and shifted select the same triangles. */
  @Test
  void rulesSpeakOfWorkingSpace() {
    Mesh m = Shapes.coloured(Shapes.sphere(1, 4));
    Similarity place =
        Similarity.scaling(0.01)
            .then(Similarity.turning(Vec.unit(Vec.of(1, 2, 3)), 1.1))
            .then(Similarity.translation(new double[] {3, -2, 1}));
    Frame turned = new Frame(Similarity.IDENTITY, place, true);
    Mesh there = m.withPositions(holotome.core.geometry.Placing.apply(m.xyz(), place));
    List<Rule> rules =
        List.of(
            new Heights(new Length(1.003), null, UP),
            new Facing(new double[] {1, 0, 1}, 35),
            new BrushStroke(place.apply(0, 0, 1), new Length(0.004)),
            new Region(
                place.apply(0, 1, 0), new double[] {0.01, 0.008, 0.006}, new double[] {5, 50, 9}),
            new Linked(place.apply(1, 0, 0), 180));
    for (Rule rule : rules) {
      BitSet a = rule.select(m, turned, Work.unwatched());
      BitSet b = rule.select(there, Frame.PLAIN, Work.unwatched());
      assertThat(a.isEmpty()).as("%s", rule).isFalse();
      BitSet differ = (BitSet) a.clone();
      differ.xor(b);
      // Rounding to floats in another place may turn a triangle right on the edge.
      assertThat(differ.cardinality()).as("%s", rule).isLessThanOrEqualTo(2);
    }
  }

  @Test
  void sameOnOneThreadAndMany() {
    Mesh m = Shapes.coloured(Shapes.mess(40_000, 6));
    Random r = new Random(5);
    for (int round = 0; round < 30; round++) {
      List<Pick> picks = new ArrayList<>();
      for (int i = 0; i < 4; i++) {
        picks.add(randomPick(r, m));
      }
      picks.add(Pick.of(Pick.Join.ADD, new Rim(2)));
      BitSet many = Pick.all(picks, m, Frame.PLAIN, Work.unwatched());
      Parallel.limitThreads(1);
      try {
        assertThat(Pick.all(picks, m, Frame.PLAIN, Work.unwatched())).isEqualTo(many);
      } finally {
        Parallel.limitThreads(64);
      }
    }
  }

  /** On the scanned dragon: a region linked up to sharp edges is one island of itself. */
  @Test
  void linkedOnTheDragonIsOnePiece() {
    Mesh m = MeshReader.read(Datasets.file("dragon.ply"), Work.unwatched()).mesh();
    double[] p = Vec.at(m.xyz(), m.triangles()[0]);
    BitSet s = select(new Linked(p, 25), m);
    assertThat(s.cardinality()).isGreaterThan(1);
    Mesh part = Submesh.of(m, s::get, Work.unwatched());
    Adjacency a = Adjacency.of(part);
    assertThat(a.crowdedEdges()).isZero();
    assertThat(holotome.core.topology.Islands.of(part).count()).isEqualTo(1);
  }

  @Test
  void whatMakesNoSenseIsRefused() {
    assertThatThrownBy(() -> new Heights(null, null, UP)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new Region(new double[3], new double[] {1, 0, 1}, new double[3]))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new Likeness("red", 3)).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> new IslandSizes(null, null, null, null, null))
        .isInstanceOf(Failure.class);
    assertThatThrownBy(
            () ->
                new Pick(
                    Pick.Join.ADD,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null,
                    null))
        .isInstanceOf(Failure.class)
        .hasMessageContaining("just one");
  }
}
