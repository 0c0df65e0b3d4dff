package holotome.core.polygon;

import holotome.core.array.DisjointSets;
import holotome.core.array.LongIndex;
import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.geometry.Similarity;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Faces over vertices as plain lists, for what changes a small mesh as a whole. Nothing is promised
 * of them: they may be of any shape, and meet as they like. An array a face; for some 100,000.
 *
 * @param xyz 3 doubles a vertex
 * @param faces the vertices of each, counter-clockwise seen from outside
 */
public record FaceLists(double[] xyz, int[][] faces) {

  /** Of a mesh: its faces where its triangles say which they are parts of, else its triangles. */
  public static FaceLists of(Mesh mesh) {
    Attribute face = mesh.attributes().named(Attribute.FACE);
    Mesh bare = new Mesh(mesh.xyz(), mesh.triangles());
    FaceRings rings = face == null ? null : FaceRings.of(bare.with(face));
    int[] tri = mesh.triangles();
    int[][] faces = new int[rings == null ? mesh.triangleCount() : rings.count()][];
    for (int f = 0; f < faces.length; f++) {
      if (rings == null) {
        faces[f] = Arrays.copyOfRange(tri, 3 * f, 3 * f + 3);
      } else {
        faces[f] = Arrays.copyOfRange(rings.corners(), rings.start()[f], rings.start()[f + 1]);
        for (int i = 0; i < faces[f].length; i++) {
          faces[f][i] = tri[faces[f][i]];
        }
      }
    }
    double[] xyz = new double[mesh.xyz().length];
    for (int i = 0; i < xyz.length; i++) {
      xyz[i] = mesh.xyz()[i];
    }
    return new FaceLists(xyz, faces).used();
  }

  /** Of half-edges; what was removed is not there, the rest keeps its order. */
  public static FaceLists of(PolygonMesh p) {
    double[] xyz = new double[3 * p.vertexLimit()];
    for (int v = 0; v < p.vertexLimit(); v++) {
      if (p.hasVertex(v)) {
        System.arraycopy(p.position(v), 0, xyz, 3 * v, 3);
      }
    }
    List<int[]> faces = new ArrayList<>();
    for (int f = 0; f < p.faceLimit(); f++) {
      if (p.hasFace(f)) {
        faces.add(p.corners(f));
      }
    }
    return new FaceLists(xyz, faces.toArray(int[][]::new)).used();
  }

  public int vertexCount() {
    return xyz.length / 3;
  }

  public double[] at(int v) {
    return Arrays.copyOfRange(xyz, 3 * v, 3 * v + 3);
  }

  /** The corners of a face, 3 doubles each. */
  public double[][] corners(int f) {
    return Arrays.stream(faces[f]).mapToObj(this::at).toArray(double[][]::new);
  }

  /** Each edge once, by its two vertices, as the first face that has it has them in turn. */
  public List<int[]> edges() {
    List<int[]> out = new ArrayList<>();
    LongIndex had = new LongIndex();
    for (int[] face : faces) {
      for (int i = 0; i < face.length; i++) {
        int a = face[i];
        int b = face[(i + 1) % face.length];
        int before = had.size();
        if (had.add((long) Math.min(a, b) << 32 | Math.max(a, b)) == before) {
          out.add(new int[] {a, b});
        }
      }
    }
    return out;
  }

  /** The same elsewhere. */
  public FaceLists placed(Similarity place) {
    double[] to = new double[xyz.length];
    for (int v = 0; v < vertexCount(); v++) {
      System.arraycopy(place.apply(at(v)), 0, to, 3 * v, 3);
    }
    return new FaceLists(to, faces);
  }

  /** Whether all places are numbers that a mesh can hold. */
  public boolean isFinite() {
    return Arrays.stream(xyz).allMatch(x -> Float.isFinite((float) x));
  }

  /** The mean direction of a face, unit (Newell's method, Sutherland and others 1974). */
  public double[] normal(int f) {
    return Triangulated.normal(corners(f));
  }

  /** The mean of a face's corners. */
  public double[] middle(int f) {
    double[] sum = new double[3];
    for (int v : faces[f]) {
      sum = Vec.add(sum, at(v));
    }
    return Vec.mul(sum, 1.0 / faces[f].length);
  }

  /** The same without vertices that no face has; the others keep their order. */
  public FaceLists used() {
    int[] to = new int[vertexCount()];
    for (int[] face : faces) {
      for (int v : face) {
        to[v] = 1;
      }
    }
    int n = 0;
    double[] out = new double[xyz.length];
    for (int v = 0; v < to.length; v++) {
      if (to[v] > 0) {
        System.arraycopy(xyz, 3 * v, out, 3 * n, 3);
        to[v] = n++;
      }
    }
    if (n == to.length) {
      return this;
    }
    int[][] next = new int[faces.length][];
    for (int f = 0; f < next.length; f++) {
      next[f] = Arrays.stream(faces[f]).map(v -> to[v]).toArray();
    }
    return new FaceLists(Arrays.copyOf(out, 3 * n), next);
  }

  /**
   * The same with a vertex of its own, in the same place, for each of several fans of faces that
   * meet in one. O(n).
   */
  public FaceLists parted() {
    int[] first = new int[faces.length + 1];
    for (int f = 0; f < faces.length; f++) {
      first[f + 1] = first[f] + faces[f].length;
    }
    // Corners are of one fan where their faces share an edge there.
    DisjointSets fans = new DisjointSets(first[faces.length]);
    LongIndex edges = new LongIndex();
    int[] lower = new int[first[faces.length]];
    int[] upper = new int[first[faces.length]];
    for (int f = 0; f < faces.length; f++) {
      int n = faces[f].length;
      for (int i = 0; i < n; i++) {
        int a = faces[f][i];
        int b = faces[f][(i + 1) % n];
        int here = first[f] + i;
        int next = first[f] + (i + 1) % n;
        int had = edges.size();
        int e = edges.add((long) Math.min(a, b) << 32 | Math.max(a, b));
        if (e == had) {
          lower[e] = a < b ? here : next;
          upper[e] = a < b ? next : here;
        } else {
          fans.join(a < b ? here : next, lower[e]);
          fans.join(a < b ? next : here, upper[e]);
        }
      }
    }
    int[] vertex = new int[first[faces.length]];
    Arrays.fill(vertex, -1);
    boolean[] isTaken = new boolean[vertexCount()];
    double[] all = Arrays.copyOf(xyz, xyz.length + 3 * vertex.length);
    int count = vertexCount();
    int[][] out = new int[faces.length][];
    for (int f = 0; f < faces.length; f++) {
      out[f] = faces[f].clone();
      for (int i = 0; i < out[f].length; i++) {
        int fan = fans.find(first[f] + i);
        int v = faces[f][i];
        if (vertex[fan] < 0 && !isTaken[v]) {
          isTaken[v] = true;
          vertex[fan] = v;
        } else if (vertex[fan] < 0) {
          System.arraycopy(xyz, 3 * v, all, 3 * count, 3);
          vertex[fan] = count++;
        }
        out[f][i] = vertex[fan];
      }
    }
    return new FaceLists(Arrays.copyOf(all, 3 * count), out);
  }

  /** These and others, which touch them nowhere. */
  public FaceLists and(FaceLists others) {
    double[] all = Arrays.copyOf(xyz, xyz.length + others.xyz.length);
    System.arraycopy(others.xyz, 0, all, xyz.length, others.xyz.length);
    int[][] both = Arrays.copyOf(faces, faces.length + others.faces.length);
    for (int f = 0; f < others.faces.length; f++) {
      both[faces.length + f] = Arrays.stream(others.faces[f]).map(v -> v + vertexCount()).toArray();
    }
    return new FaceLists(all, both);
  }

  /**
   * As half-edges.
   *
   * @throws holotome.core.task.Failure where they are no manifold surface
   */
  public PolygonMesh polygons() {
    return PolygonMesh.of(xyz, faces);
  }

  /** As triangles that say which face each is part of ({@link Attribute#FACE}). */
  public Mesh mesh() {
    float[] points = new float[xyz.length];
    for (int i = 0; i < points.length; i++) {
      points[i] = (float) xyz[i];
    }
    int count = 0;
    for (int[] face : faces) {
      count += face.length - 2;
    }
    int[] tri = new int[3 * count];
    int[] faceOf = new int[count];
    int n = 0;
    for (int f = 0; f < faces.length; f++) {
      int[] cut = Triangulated.triangles(corners(f));
      for (int i = 0; i < cut.length; i++) {
        tri[3 * n + i] = faces[f][cut[i]];
      }
      Arrays.fill(faceOf, n, n + cut.length / 3, f);
      n += cut.length / 3;
    }
    Attribute face = Attribute.of(Attribute.FACE, Kind.LABEL, Domain.TRIANGLE, faceOf, null);
    return new Mesh(points, tri).with(face);
  }
}
