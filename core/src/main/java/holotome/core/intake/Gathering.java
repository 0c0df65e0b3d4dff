package holotome.core.intake;

import holotome.core.attribute.Attribute;
import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import holotome.core.attribute.Attributes;
import holotome.core.frame.Frame;
import holotome.core.geometry.Placing;
import holotome.core.geometry.Similarity;
import holotome.core.io.Loaded;
import holotome.core.io.MeshReader;
import holotome.core.mesh.Material;
import holotome.core.mesh.Mesh;
import holotome.core.mesh.VertexColours;
import holotome.core.task.Failure;
import holotome.core.task.Work;
import holotome.core.words.CoreWords;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;

/**
 * Several files as one Scan: their meshes side by side, each where its own coordinates put it, in
 * the frame of the first. Nothing is welded. Texture is kept where all have it; else what has a
 * picture is coloured by vertex, and what has no colour is grey.
 */
public final class Gathering {
  private static final int GREY = 0xffb0aca4;

  private Gathering() {}

  /**
   * Reads files as one Scan.
   *
   * @throws Failure as {@link MeshReader} does, or where they are too many triangles together
   */
  public static Loaded read(List<Path> files, Work work) {
    if (files.size() == 1) {
      return MeshReader.read(files.getFirst(), work);
    }
    List<Loaded> all = new ArrayList<>();
    List<String> notes = new ArrayList<>();
    for (Path f : files) {
      Loaded l = MeshReader.read(f, work.part(0.9 / files.size(), CoreWords.of("work.reading")));
      for (String n : l.notes()) {
        notes.add(f.getFileName() + ": " + n);
      }
      all.add(l);
    }
    Loaded together = of(all);
    work.advance(0.1);
    return new Loaded(
        together.mesh(),
        together.frame(),
        CoreWords.of("gathering.files", files.size(), together.format()),
        notes);
  }

  /** Meshes as one, in the frame of the first. */
  static Loaded of(List<Loaded> all) {
    long triangles = all.stream().mapToLong(l -> l.mesh().triangleCount()).sum();
    long vertices = all.stream().mapToLong(l -> l.mesh().vertexCount()).sum();
    if (triangles > MeshReader.MOST_TRIANGLES || vertices > MeshReader.MOST_TRIANGLES) {
      throw Failure.badInput(
          CoreWords.of(
              "gathering.triangles-together-are-more-than", triangles, MeshReader.MOST_TRIANGLES));
    }
    Frame frame = all.getFirst().frame();
    Similarity back = frame.toFile().inverse();
    float[] xyz = new float[(int) (3 * vertices)];
    int[] tri = new int[(int) (3 * triangles)];
    int v = 0;
    int c = 0;
    for (Loaded l : all) {
      Similarity place = l.frame().toFile().then(back);
      float[] p = l == all.getFirst() ? l.mesh().xyz() : Placing.apply(l.mesh().xyz(), place);
      System.arraycopy(p, 0, xyz, 3 * v, p.length);
      for (int corner : l.mesh().triangles()) {
        tri[c++] = corner + v;
      }
      v += l.mesh().vertexCount();
    }
    List<Mesh> meshes = all.stream().map(Loaded::mesh).toList();
    boolean textured = meshes.stream().allMatch(Mesh::hasTexture);
    List<Material> materials = new ArrayList<>();
    Attributes carried = textured ? textured(meshes, materials) : coloured(meshes, (int) vertices);
    return new Loaded(
        new Mesh(xyz, tri, carried, materials), frame, all.getFirst().format(), List.of());
  }

  private static Attributes textured(List<Mesh> meshes, List<Material> materials) {
    Attribute uv = null;
    short[] of = new short[meshes.stream().mapToInt(Mesh::triangleCount).sum()];
    int t = 0;
    for (Mesh m : meshes) {
      Attribute own = m.uv().attribute(Attribute.UV);
      uv = uv == null ? own : uv.followedBy(own);
      for (int i = 0; i < m.triangleCount(); i++) {
        of[t++] = (short) (materials.size() + (m.material() == null ? 0 : m.material()[i]));
      }
      materials.addAll(m.materials());
    }
    return Attributes.of(uv, Attribute.materials(of));
  }

  private static Attributes coloured(List<Mesh> meshes, int vertices) {
    if (meshes.stream().noneMatch(Mesh::hasColour)) {
      return Attributes.NONE;
    }
    int[] colours = new int[vertices];
    int at = 0;
    for (Mesh m : meshes) {
      int[] own = VertexColours.of(m);
      if (own == null) {
        Arrays.fill(colours, at, at + m.vertexCount(), GREY);
      } else {
        System.arraycopy(own, 0, colours, at, own.length);
      }
      at += m.vertexCount();
    }
    return Attributes.of(Attribute.of(Attribute.COLOUR, Kind.COLOUR, Domain.VERTEX, colours, null));
  }
}
