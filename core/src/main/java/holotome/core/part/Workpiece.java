package holotome.core.part;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.words.CoreWords;
import java.util.Collections;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;

/**
 * What the steps work on: named parts. Immutable; each step makes a new one that shares the parts
 * it left alone. There is always a Scan and a frame.
 */
public final class Workpiece {
  private final Map<Part<?>, Object> parts;

  /** Notes what is read; null where nobody wants to know. */
  private final Set<Part<?>> read;

  /** Written since the watch began: reading those again is no reading of what was there. */
  private final Set<Part<?>> written;

  private Workpiece(Map<Part<?>, Object> parts, Set<Part<?>> read, Set<Part<?>> written) {
    this.parts = parts;
    this.read = read;
    this.written = written;
  }

  /** A Scan alone. */
  public static Workpiece of(Mesh scan, Frame frame) {
    Map<Part<?>, Object> parts = new LinkedHashMap<>();
    parts.put(Part.SCAN, scan);
    parts.put(Part.FRAME, frame);
    return new Workpiece(parts, null, Set.of());
  }

  /**
   * Of parts as they were put aside.
   *
   * @throws IllegalArgumentException without a Scan or a frame
   */
  public static Workpiece of(Map<Part<?>, Object> parts) {
    if (parts.get(Part.SCAN) == null || parts.get(Part.FRAME) == null) {
      throw new IllegalArgumentException("a workpiece has a Scan and a frame");
    }
    return new Workpiece(new LinkedHashMap<>(parts), null, Set.of());
  }

  /** The same, noting every part that is read of it and of what is made from it. */
  public Workpiece watched(Set<Part<?>> into) {
    return new Workpiece(parts, into, Set.of());
  }

  /** A part; null where there is none. */
  public <T> T get(Part<T> part) {
    if (read != null && !written.contains(part)) {
      read.add(part);
    }
    return part.type().cast(parts.get(part));
  }

  /** A mesh that must be there. */
  public Mesh require(Part<Mesh> part) {
    Mesh m = get(part);
    if (m == null) {
      throw Failure.cannot(CoreWords.of("workpiece.there-is-no-mesh-called", part));
    }
    return m;
  }

  /** With a part, in place of one of its name; null takes it away. */
  public <T> Workpiece with(Part<T> part, T value) {
    Map<Part<?>, Object> next = new LinkedHashMap<>(parts);
    if (value == null) {
      next.remove(part);
    } else {
      next.put(part, value);
    }
    Set<Part<?>> known = written;
    if (read != null) {
      known = new HashSet<>(written);
      known.add(part);
    }
    return new Workpiece(next, read, known);
  }

  /** All parts by name, in the order they were added. */
  public Map<Part<?>, Object> parts() {
    return Collections.unmodifiableMap(parts);
  }

  /** The source mesh at full resolution. */
  public Mesh scan() {
    return get(Part.SCAN);
  }

  /** The light mesh being made from it, or null; in the same base coordinates. */
  public Mesh cast() {
    return get(Part.CAST);
  }

  /** The baked pictures of the Cast, or null. */
  public Maps maps() {
    return get(Part.MAPS);
  }

  /** Where the base coordinates stand. */
  public Frame frame() {
    return get(Part.FRAME);
  }

  public Workpiece withScan(Mesh mesh) {
    return with(Part.SCAN, mesh);
  }

  /** Maps belong to one Cast: a new Cast drops them. */
  public Workpiece withCast(Mesh mesh) {
    return with(Part.CAST, mesh).with(Part.MAPS, null);
  }

  public Workpiece withMaps(Maps baked) {
    return with(Part.MAPS, baked);
  }

  public Workpiece withFrame(Frame placed) {
    return with(Part.FRAME, placed);
  }

  /** With a mesh, by the rules of the part it is. */
  public Workpiece withMesh(Part<Mesh> part, Mesh mesh) {
    return part.equals(Part.CAST) ? withCast(mesh) : with(part, mesh);
  }

  /** The Cast where there is one, else the Scan. */
  public Mesh current() {
    Mesh cast = cast();
    return cast != null ? cast : scan();
  }

  /** Equal when all parts are the very same, and the frames equal. */
  @Override
  public boolean equals(Object o) {
    return o instanceof Workpiece w && w.parts.equals(parts);
  }

  @Override
  public int hashCode() {
    return parts.hashCode();
  }
}
