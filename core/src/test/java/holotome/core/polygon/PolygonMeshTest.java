package holotome.core.polygon;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.within;

import holotome.core.Naive;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.Set;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;

/**
 * Euler operators keep a valid surface and its Euler characteristic, and are taken back exactly.
 */
class PolygonMeshTest {
  static PolygonMesh cube() {
    double[] p = new double[24];
    for (int i = 0; i < 8; i++) {
      p[3 * i] = i & 1;
      p[3 * i + 1] = i >> 1 & 1;
      p[3 * i + 2] = i >> 2 & 1;
    }
    return PolygonMesh.of(
        p,
        new int[][] {
          {0, 2, 3, 1}, {4, 5, 7, 6}, {0, 1, 5, 4}, {2, 6, 7, 3}, {0, 4, 6, 2}, {1, 3, 7, 5}
        });
  }

  /** A sheet of n by n quadrangles, with a hole of one of them. */
  static PolygonMesh sheet(int n) {
    double[] p = new double[3 * (n + 1) * (n + 1)];
    List<int[]> faces = new ArrayList<>();
    for (int j = 0; j <= n; j++) {
      for (int i = 0; i <= n; i++) {
        int v = j * (n + 1) + i;
        p[3 * v] = i;
        p[3 * v + 1] = j;
        boolean hole = i == n / 2 && j == n / 2;
        if (i < n && j < n && !hole) {
          faces.add(new int[] {v, v + 1, v + n + 2, v + n + 1});
        }
      }
    }
    return PolygonMesh.of(p, faces.toArray(int[][]::new));
  }

  static PolygonMesh torus(int n, int m) {
    double[] p = new double[3 * n * m];
    List<int[]> faces = new ArrayList<>();
    for (int i = 0; i < n; i++) {
      for (int j = 0; j < m; j++) {
        double a = 2 * Math.PI * i / n;
        double b = 2 * Math.PI * j / m;
        int v = i * m + j;
        p[3 * v] = (3 + Math.cos(b)) * Math.cos(a);
        p[3 * v + 1] = (3 + Math.cos(b)) * Math.sin(a);
        p[3 * v + 2] = Math.sin(b);
        int ni = (i + 1) % n;
        int nj = (j + 1) % m;
        faces.add(new int[] {v, ni * m + j, ni * m + nj, i * m + nj});
      }
    }
    return PolygonMesh.of(p, faces.toArray(int[][]::new));
  }

  /** All that must hold, told from the outside. */
  static void check(PolygonMesh m) {
    Map<Integer, Integer> started = new HashMap<>();
    Set<Integer> inFaces = new HashSet<>();
    int faces = 0;
    for (int f = 0; f < m.faceLimit(); f++) {
      if (!m.hasFace(f)) {
        continue;
      }
      faces++;
      int[] h = m.halfEdges(f);
      assertThat(h.length).isGreaterThanOrEqualTo(3);
      for (int k : h) {
        assertThat(m.face(k)).isEqualTo(f);
        assertThat(inFaces.add(k)).isTrue();
      }
      assertThat(java.util.Arrays.stream(m.corners(f)).distinct().count()).isEqualTo(h.length);
    }
    int halves = 0;
    Set<Long> pairs = new HashSet<>();
    for (int h = 0; h < m.halfEdgeLimit(); h++) {
      if (!m.hasHalfEdge(h)) {
        continue;
      }
      halves++;
      assertThat(m.previous(m.next(h))).isEqualTo(h);
      assertThat(m.origin(m.next(h))).isEqualTo(m.target(h));
      assertThat(m.hasVertex(m.origin(h))).isTrue();
      assertThat(m.face(h) == PolygonMesh.NONE).isEqualTo(!inFaces.contains(h));
      assertThat(m.face(h) != PolygonMesh.NONE || m.face(h ^ 1) != PolygonMesh.NONE).isTrue();
      assertThat(pairs.add((long) m.origin(h) << 32 | m.target(h)))
          .as("one edge between two")
          .isTrue();
      started.merge(m.origin(h), 1, Integer::sum);
    }
    int vertices = 0;
    for (int v = 0; v < m.vertexLimit(); v++) {
      if (m.hasVertex(v)) {
        vertices++;
        assertThat(m.around(v)).hasSize(started.getOrDefault(v, 0));
        if (m.isBorder(v)) {
          assertThat(m.face(m.edgeOf(v))).isEqualTo(PolygonMesh.NONE);
        }
      }
    }
    assertThat(vertices).isEqualTo(m.vertexCount());
    assertThat(halves).isEqualTo(2 * m.edgeCount());
    assertThat(faces).isEqualTo(m.faceCount());
  }

  private static int euler(PolygonMesh m) {
    return m.vertexCount() - m.edgeCount() + m.faceCount();
  }

  private static int some(PolygonMesh m, Random r) {
    int h;
    do {
      h = r.nextInt(m.halfEdgeLimit());
    } while (!m.hasHalfEdge(h));
    return h;
  }

  /** One random change, if it may be made; whether it was. */
  private static boolean change(PolygonMesh m, Random r) {
    int h = some(m, r);
    switch (r.nextInt(5)) {
      case 0 -> m.splitEdge(h, 0.2 + 0.6 * r.nextDouble());
      case 1 -> {
        int v = m.origin(h);
        if (!m.canJoinEdges(v)) {
          return false;
        }
        m.joinEdges(v);
      }
      case 2 -> {
        if (m.face(h) == PolygonMesh.NONE) {
          return false;
        }
        int[] around = m.halfEdges(m.face(h));
        int g = around[r.nextInt(around.length)];
        boolean may =
            g != h
                && m.next(h) != g
                && m.next(g) != h
                && m.between(m.origin(h), m.origin(g)) == PolygonMesh.NONE;
        if (!may) {
          return false;
        }
        m.splitFace(h, g);
      }
      case 3 -> {
        if (!m.canJoinFaces(h)) {
          return false;
        }
        m.joinFaces(h);
      }
      default -> {
        if (!m.canCollapse(h)) {
          return false;
        }
        m.collapse(h, r.nextDouble());
      }
    }
    return true;
  }

  @ParameterizedTest
  @ValueSource(longs = {1, 2, 3, 4, 5, 6})
  void thousandsOfRandomEditsKeepAValidSurfaceAndAreTakenBack(long seed) {
    Random r = new Random(seed);
    for (PolygonMesh m : List.of(cube(), sheet(7), torus(9, 7))) {
      m.add("uv", Kind.UV, Domain.CORNER);
      m.add("weight", Kind.WEIGHT, Domain.VERTEX);
      m.settle();
      int euler = euler(m);
      List<Object> before = m.state();
      List<Integer> marks = new ArrayList<>();
      List<List<Object>> states = new ArrayList<>();
      int made = 0;
      for (int i = 0; i < 700; i++) {
        if (i % 50 == 0) {
          marks.add(m.mark());
          states.add(m.state());
        }
        if (change(m, r)) {
          made++;
          assertThat(euler(m)).isEqualTo(euler);
          if (i % 7 == 0) {
            check(m);
          }
        }
      }
      assertThat(made).isGreaterThan(200);
      check(m);
      for (int i = marks.size() - 1; i >= 0; i--) {
        m.undoTo(marks.get(i));
        assertThat(m.state()).isEqualTo(states.get(i));
      }
      assertThat(m.state()).isEqualTo(before);
    }
  }

  @Test
  void eulersFormulaHolds() {
    assertThat(euler(cube())).isEqualTo(2);
    assertThat(euler(torus(9, 7))).isZero();
    // A disc with a hole.
    assertThat(euler(sheet(7))).isZero();
    check(cube());
    check(sheet(7));
    check(torus(9, 7));
  }

  @Test
  void whatIsSplitIsJoinedAgain() {
    PolygonMesh m = cube();
    int h = m.between(0, 1);
    int v = m.splitEdge(h, 0.25);
    assertThat(m.position(v)).containsExactly(0.25, 0, 0);
    assertThat(m.vertexCount()).isEqualTo(9);
    assertThat(m.canJoinEdges(v)).isTrue();
    m.joinEdges(v);
    assertThat(m.vertexCount()).isEqualTo(8);
    check(m);
    int f = m.face(m.between(0, 2));
    int[] around = m.halfEdges(f);
    int e = m.splitFace(around[0], around[2]);
    assertThat(m.faceCount()).isEqualTo(7);
    m.joinFaces(e);
    assertThat(m.faceCount()).isEqualTo(6);
    check(m);
    assertThatThrownBy(() -> m.splitFace(around[0], around[1])).isInstanceOf(Failure.class);
    assertThatThrownBy(() -> m.joinEdges(0)).isInstanceOf(Failure.class);
  }

  /** A weight and texture coordinates that run evenly through space still do on new vertices. */
  @Test
  void whatIsCarriedIsMixedWhereItLies() {
    PolygonMesh m = torus(12, 8);
    m.add("weight", Kind.WEIGHT, Domain.VERTEX);
    m.add("uv", Kind.UV, Domain.CORNER);
    m.add("part", Kind.LABEL, Domain.TRIANGLE);
    for (int v = 0; v < m.vertexLimit(); v++) {
      m.set("weight", v, place(m.position(v)));
    }
    for (int h = 0; h < m.halfEdgeLimit(); h++) {
      double[] p = m.position(m.origin(h));
      m.set("uv", h, p[0], p[2]);
    }
    for (int f = 0; f < m.faceLimit(); f++) {
      m.set("part", f, f % 5);
    }
    Random r = new Random(3);
    for (int i = 0; i < 400; i++) {
      int h = some(m, r);
      if (i % 3 != 0) {
        m.splitEdge(h, r.nextDouble());
      } else if (m.canJoinEdges(m.origin(h))) {
        m.joinEdges(m.origin(h));
      }
    }
    check(m);
    for (int h = 0; h < m.halfEdgeLimit(); h++) {
      if (m.hasHalfEdge(h)) {
        double[] p = m.position(m.origin(h));
        assertThat(m.value("weight", m.origin(h))[0]).isCloseTo(place(p), within(1e-9));
        assertThat(m.value("uv", h)[0]).isCloseTo(p[0], within(1e-9));
        assertThat(m.value("uv", h)[1]).isCloseTo(p[2], within(1e-9));
      }
    }
    Triangulated t = Triangulated.of(m);
    for (int c = 0; c < t.mesh().triangles().length; c++) {
      int v = t.mesh().triangles()[c];
      float u = t.mesh().uv().coords()[2 * t.mesh().uv().corners()[c]];
      assertThat(u).isCloseTo(t.mesh().xyz()[3 * v], within(1e-5f));
      int part = t.mesh().attributes().named("part").ints()[c / 3];
      assertThat(part).isEqualTo(t.faceOf()[c / 3] % 5);
    }
  }

  private static double place(double[] p) {
    return p[0] + 2 * p[1] - 3 * p[2];
  }

  @Test
  void trianglesFillTheFacesExactly() {
    Mesh cube = Triangulated.of(cube()).mesh();
    assertThat(Naive.closedAndOriented(cube)).isTrue();
    assertThat(Measures.volume(cube)).isCloseTo(1, within(1e-6));
    assertThat(cube.triangleCount()).isEqualTo(12);
    // A face like the letter L, and an arrow whose one diagonal lies outside.
    double[] p = {0, 0, 0, 2, 0, 0, 2, 1, 0, 1, 1, 0, 1, 2, 0, 0, 2, 0};
    Mesh bent = Triangulated.of(PolygonMesh.of(p, new int[][] {{0, 1, 2, 3, 4, 5}})).mesh();
    assertThat(Measures.area(bent)).isCloseTo(3, within(1e-6));
    assertThat(bent.triangleCount()).isEqualTo(4);
    double[] q = {0, 0, 0, 2, 1, 0, 0, 2, 0, 0.5, 1, 0};
    Mesh arrow = Triangulated.of(PolygonMesh.of(q, new int[][] {{0, 1, 2, 3}})).mesh();
    assertThat(Measures.area(arrow)).isCloseTo(1.5, within(1e-6));
    for (int t = 0; t < arrow.triangleCount(); t++) {
      assertThat(Measures.cross(arrow, t)[2]).isPositive();
    }
  }

  @Test
  void whatIsNoManifoldSurfaceIsRefusedInWords() {
    double[] p = {0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 1, 1, 1};
    assertThatThrownBy(() -> PolygonMesh.of(p, new int[][] {{0, 1, 2}, {1, 0, 3}, {0, 1, 4}}))
        .hasMessageContaining("from point 0 to 1");
    assertThatThrownBy(() -> PolygonMesh.of(p, new int[][] {{0, 1, 2}, {0, 3, 4}}))
        .hasMessageContaining("at point 0 several fans");
    assertThatThrownBy(() -> PolygonMesh.of(p, new int[][] {{0, 1, 1}}))
        .hasMessageContaining("fewer than three");
    assertThatThrownBy(() -> PolygonMesh.of(p, new int[][] {{0, 1, 9}}))
        .hasMessageContaining("not there");
  }
}
