package holotome.core.proxy;

import holotome.core.frame.Frame;
import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.polygon.FaceLists;
import holotome.core.polygon.PolygonMesh;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.HashSet;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.function.IntFunction;
import java.util.function.UnaryOperator;

/**
 * A small polygon mesh while it is edited. An edit is made whole or not at all: after each the
 * faces are joined anew, which says whether they are a manifold surface. O(n) an edit.
 */
public final class EditedProxy {
  /** What is farther from where it should be than this share of the size is not found. */
  private static final double NEAR = 0.05;

  private final Similarity toBase;
  private FaceLists now;

  /**
   * Begins.
   *
   * @throws Failure where it is no manifold surface; points in which several fans meet are parted
   */
  public EditedProxy(FaceLists of, Frame frame) {
    now = of.parted();
    try {
      now.polygons();
    } catch (Failure f) {
      throw Failure.cannot(CoreWords.of("proxy-edit.not-manifold"));
    }
    toBase = frame.toFile().inverse();
  }

  /** As it is now, in base coordinates. */
  public FaceLists now() {
    return now;
  }

  /**
   * Makes an edit.
   *
   * @throws Failure in plain words, where it cannot be made; then all is as it was
   */
  public void make(ProxyEdit e) {
    FaceLists next = made(e).used();
    if (next.faces().length == 0) {
      throw Failure.cannot(CoreWords.of("proxy-edit.nothing-left"));
    }
    if (!next.isFinite()) {
      throw Failure.cannot(CoreWords.of("proxy-edit.too-far"));
    }
    try {
      next.polygons();
    } catch (Failure f) {
      throw Failure.cannot(CoreWords.of("proxy-edit.not-sound"));
    }
    now = next;
  }

  private FaceLists made(ProxyEdit e) {
    return switch (e.how()) {
      case MOVE -> moved(e, p -> Vec.add(p, way(e.by())));
      case TURN -> turned(e);
      case SCALE -> scaled(e);
      case PULL -> ProxyForms.pulled(now, some(faces(e)), length(e.amount()));
      case INSET -> ProxyForms.inset(now, some(faces(e)), length(e.amount()));
      case BRIDGE -> bridged(e);
      case CAP -> ProxyForms.capped(now, edges(e, true));
      case MERGE -> ProxyForms.merged(now, vertices(e));
      case DELETE -> deleted(e);
      case STRIP -> strip(e);
      case CUT -> {
        PolygonMesh p = now.polygons();
        boolean[] only = e.faces() == null ? null : some(faces(e));
        if (ProxyCuts.cut(p, only, place(e.at()), direction(e.by()), size()) == 0) {
          throw Failure.cannot(CoreWords.of("proxy-edit.nothing-cut"));
        }
        yield FaceLists.of(p);
      }
      case MIRROR -> {
        PolygonMesh p = now.polygons();
        ProxyCuts.cut(p, null, place(e.at()), direction(e.by()), size());
        yield ProxyForms.mirrored(FaceLists.of(p), place(e.at()), direction(e.by()), size());
      }
      case SPLIT, RING, BEVEL, DISSOLVE -> divided(e);
    };
  }

  /** New quads beside what there is. */
  private FaceLists strip(ProxyEdit e) {
    double[] xyz = new double[e.points().length];
    for (int i = 0; i < xyz.length; i += 3) {
      System.arraycopy(place(Arrays.copyOfRange(e.points(), i, i + 3)), 0, xyz, i, 3);
    }
    int[][] quads = new int[xyz.length / 6 - 1][];
    for (int i = 0; i < quads.length; i++) {
      quads[i] = new int[] {2 * i, 2 * i + 1, 2 * i + 3, 2 * i + 2};
    }
    return now.and(new FaceLists(xyz, quads));
  }

  private FaceLists divided(ProxyEdit e) {
    PolygonMesh p = now.polygons();
    if (e.how() == ProxyEdit.How.DISSOLVE) {
      for (int[] ab : edges(e, false)) {
        ProxyCuts.dissolveEdge(p, ab[0], ab[1]);
      }
      for (int v : all(points(e))) {
        ProxyCuts.dissolvePoint(p, v);
      }
      return FaceLists.of(p);
    }
    for (int[] ab : edges(e, true)) {
      int h = p.between(ab[0], ab[1]);
      if (h < 0) {
        throw Failure.cannot(CoreWords.of("proxy-edit.nothing-there"));
      }
      switch (e.how()) {
        case SPLIT -> ProxyCuts.split(p, h, e.amount());
        case RING -> ProxyCuts.ring(p, h, e.amount());
        default -> ProxyCuts.bevel(p, h, length(e.amount()));
      }
    }
    return FaceLists.of(p);
  }

  private FaceLists deleted(ProxyEdit e) {
    Set<Integer> gone = new HashSet<>(faces(e));
    Set<Integer> at = new HashSet<>(points(e));
    List<int[]> edges = edges(e, false);
    List<int[]> left = new ArrayList<>();
    for (int f = 0; f < now.faces().length; f++) {
      int[] c = now.faces()[f];
      boolean isGone = gone.contains(f) || Arrays.stream(c).anyMatch(at::contains);
      for (int[] ab : edges) {
        isGone |= ProxyForms.hasEdge(c, ab[0], ab[1]);
      }
      if (!isGone) {
        left.add(c);
      }
    }
    if (left.size() == now.faces().length) {
      throw Failure.cannot(CoreWords.of("proxy-edit.choose"));
    }
    return new FaceLists(now.xyz(), left.toArray(int[][]::new));
  }

  private FaceLists bridged(ProxyEdit e) {
    List<Integer> faces = faces(e);
    if (faces.size() == 2) {
      return ProxyForms.bridgedFaces(now, faces.get(0), faces.get(1));
    }
    List<int[]> edges = edges(e, false);
    if (edges.size() == 2) {
      return ProxyForms.bridgedEdges(now, edges.get(0), edges.get(1));
    }
    throw Failure.cannot(CoreWords.of("proxy-edit.two"));
  }

  private FaceLists moved(ProxyEdit e, UnaryOperator<double[]> to) {
    double[] xyz = now.xyz().clone();
    for (int v : vertices(e)) {
      System.arraycopy(to.apply(now.at(v)), 0, xyz, 3 * v, 3);
    }
    return new FaceLists(xyz, now.faces());
  }

  private FaceLists turned(ProxyEdit e) {
    double[] middle = e.at() == null ? middle(vertices(e)) : place(e.at());
    Similarity turn = Similarity.turning(direction(e.by()), Math.toRadians(e.amount()));
    return moved(e, p -> Vec.add(middle, turn.apply(Vec.sub(p, middle))));
  }

  private FaceLists scaled(ProxyEdit e) {
    double[] middle = e.at() == null ? middle(vertices(e)) : place(e.at());
    double[] only = e.by() == null ? null : direction(e.by());
    return moved(
        e,
        p -> {
          double[] d = Vec.sub(p, middle);
          double[] more =
              only == null
                  ? Vec.mul(d, e.amount() - 1)
                  : Vec.mul(only, (e.amount() - 1) * Vec.dot(d, only));
          return Vec.add(p, more);
        });
  }

  private double[] middle(Set<Integer> vertices) {
    double[] sum = new double[3];
    for (int v : vertices) {
      sum = Vec.add(sum, now.at(v));
    }
    return Vec.mul(sum, 1.0 / vertices.size());
  }

  // --- from the file's coordinates ---------------------------------------------------------------

  private double[] place(double[] file) {
    return toBase.apply(file);
  }

  private double[] way(double[] file) {
    return Vec.mul(toBase.direction(file), toBase.scale());
  }

  private double[] direction(double[] file) {
    if (!(Vec.length(file) > 0)) {
      throw Failure.cannot(CoreWords.of("proxy-edit.no-direction"));
    }
    return Vec.unit(toBase.direction(file));
  }

  private double length(double file) {
    return file * toBase.scale();
  }

  private double size() {
    float[] xyz = new float[now.xyz().length];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = (float) now.xyz()[i];
    }
    return Math.max(Box.of(xyz).diagonal(), 1e-30);
  }

  // --- what is named -----------------------------------------------------------------------------

  /** For each place the nearest of several things. */
  private List<Integer> nearest(double[] places, int things, IntFunction<double[]> at) {
    List<Integer> out = new ArrayList<>();
    double far = NEAR * size();
    for (int i = 0; places != null && i < places.length; i += 3) {
      double[] p = place(Arrays.copyOfRange(places, i, i + 3));
      int best = -1;
      double least = far;
      for (int t = 0; t < things; t++) {
        double d = Vec.distance(at.apply(t), p);
        if (d < least) {
          least = d;
          best = t;
        }
      }
      if (best < 0) {
        throw Failure.cannot(CoreWords.of("proxy-edit.nothing-there"));
      }
      out.add(best);
    }
    return out;
  }

  private List<Integer> points(ProxyEdit e) {
    return nearest(e.points(), now.vertexCount(), now::at);
  }

  private List<Integer> faces(ProxyEdit e) {
    return nearest(e.faces(), now.faces().length, now::middle);
  }

  /** Edges by their ends, in the order that a face has them. */
  private List<int[]> edges(ProxyEdit e, boolean needed) {
    List<int[]> all = e.edges() == null ? List.of() : now.edges();
    List<int[]> out = new ArrayList<>();
    for (int i :
        nearest(
            e.edges(),
            all.size(),
            j -> Vec.mul(Vec.add(now.at(all.get(j)[0]), now.at(all.get(j)[1])), 0.5))) {
      out.add(all.get(i));
    }
    if (needed && out.isEmpty()) {
      throw Failure.cannot(CoreWords.of("proxy-edit.choose-edges"));
    }
    return out;
  }

  private static Set<Integer> all(List<Integer> of) {
    return new LinkedHashSet<>(of);
  }

  private boolean[] some(List<Integer> faces) {
    if (faces.isEmpty()) {
      throw Failure.cannot(CoreWords.of("proxy-edit.choose-faces"));
    }
    boolean[] out = new boolean[now.faces().length];
    faces.forEach(f -> out[f] = true);
    return out;
  }

  /** The vertices of all that is named. */
  private Set<Integer> vertices(ProxyEdit e) {
    Set<Integer> out = new TreeSet<>(points(e));
    for (int[] ab : edges(e, false)) {
      out.add(ab[0]);
      out.add(ab[1]);
    }
    for (int f : faces(e)) {
      Arrays.stream(now.faces()[f]).forEach(out::add);
    }
    if (out.isEmpty()) {
      throw Failure.cannot(CoreWords.of("proxy-edit.choose"));
    }
    return out;
  }
}
