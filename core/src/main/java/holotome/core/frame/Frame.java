package holotome.core.frame;

import holotome.core.geometry.Box;
import holotome.core.geometry.Similarity;
import holotome.core.mesh.Mesh;
import java.util.ArrayList;
import java.util.List;

/**
 * Where the floats of a mesh stand.
 *
 * <p>Positions are kept in <em>base</em> coordinates: those of the file, less an offset, never
 * changed by placing the mesh. Two similarities in double precision lead out of them: to the file's
 * own coordinates, and to the working space (metres, right-handed, Z up). Scaling, levelling and
 * moving change {@code toWork} alone, so a mesh is never degraded by being placed many times, and a
 * result can always be written back into the capture's own frame.
 *
 * @param toFile base to the file's own coordinates
 * @param toWork base to working space
 * @param trueSize whether the size of the working space is known; if not, its lengths are the
 *     file's own units, taken as metres
 * @param named further frames that are kept, each under its own name
 * @param leftHandedFile whether the file's own coordinates are those of {@code toFile} with x of
 *     the other sign: a left-handed file is turned on reading
 */
public record Frame(
    Similarity toFile,
    Similarity toWork,
    boolean trueSize,
    List<NamedFrame> named,
    boolean leftHandedFile) {
  public static final Frame PLAIN = new Frame(Similarity.IDENTITY, Similarity.IDENTITY, false);

  public Frame {
    named = List.copyOf(named);
  }

  public Frame(Similarity toFile, Similarity toWork, boolean trueSize) {
    this(toFile, toWork, trueSize, List.of(), false);
  }

  /** The frame of a file whose coordinates had this offset taken away on reading. */
  public static Frame ofOffset(double[] offset) {
    return new Frame(Similarity.translation(offset), Similarity.IDENTITY, false);
  }

  /** Places the work anew: a further similarity in working space. */
  public Frame placed(Similarity further) {
    return new Frame(toFile, toWork.then(further), trueSize, named, leftHandedFile);
  }

  public Frame withTrueSize() {
    return new Frame(toFile, toWork, true, named, leftHandedFile);
  }

  /** The same with another placing of the work. */
  public Frame working(Similarity work, boolean sizeIsTrue) {
    return new Frame(toFile, work, sizeIsTrue, named, leftHandedFile);
  }

  /** Of a left-handed file. */
  public Frame ofLeftHandedFile() {
    return new Frame(toFile, toWork, trueSize, named, true);
  }

  /** With a further frame kept, or the one of that name replaced. */
  public Frame keeping(NamedFrame frame) {
    List<NamedFrame> all = new ArrayList<>(named);
    all.removeIf(f -> f.name().equals(frame.name()));
    all.add(frame);
    return new Frame(toFile, toWork, trueSize, all, leftHandedFile);
  }

  /** The frame kept under a name; null for none. */
  public NamedFrame named(String name) {
    return named.stream().filter(f -> f.name().equals(name)).findFirst().orElse(null);
  }

  public double[] toBase(double[] workPoint) {
    return toWork.inverse().apply(workPoint);
  }

  /** A length in working space as a length in base coordinates. */
  public double toBaseLength(double workLength) {
    return workLength / toWork.scale();
  }

  /**
   * The box in working space around a mesh given in base coordinates; one parallel pass, the last
   * answer is kept.
   */
  public Box workBounds(Mesh mesh) {
    return mesh.boundsPlaced(toWork);
  }
}
