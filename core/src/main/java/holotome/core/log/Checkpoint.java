package holotome.core.log;

import holotome.core.frame.Frame;
import holotome.core.part.Part;
import holotome.core.part.Workpiece;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;

/**
 * A workpiece kept for going back to; its large parts are in memory or on disk.
 *
 * @param kept per part what keeps it ({@link StoredPart}), or the part itself where it is small
 */
record Checkpoint(Checkpoints owner, Map<Part<?>, Object> kept) {

  /** The workpiece, read back from disk if need be. */
  Workpiece get() {
    owner.used(this);
    Map<Part<?>, Object> parts = new LinkedHashMap<>();
    kept.forEach((name, k) -> parts.put(name, k instanceof StoredPart<?> s ? s.get() : k));
    return Workpiece.of(parts);
  }

  /** The workpiece where {@link #get} need read no file, else null. */
  Workpiece atHand() {
    Map<Part<?>, Object> parts = new LinkedHashMap<>();
    for (Map.Entry<Part<?>, Object> e : kept.entrySet()) {
      Object part = e.getValue() instanceof StoredPart<?> s ? s.atHand() : e.getValue();
      if (part == null) {
        return null;
      }
      parts.put(e.getKey(), part);
    }
    owner.used(this);
    return Workpiece.of(parts);
  }

  /** Where the work stands. */
  Frame frame() {
    return (Frame) kept.get(Part.FRAME);
  }

  /** Whether some parts are the very same in another. */
  boolean hasSame(Set<Part<?>> parts, Checkpoint other) {
    for (Part<?> p : parts) {
      Object a = kept.get(p);
      Object b = other.kept.get(p);
      boolean same = a instanceof StoredPart<?> || a == null ? a == b : a.equals(b);
      if (!same) {
        return false;
      }
    }
    return true;
  }

  /** This with some parts as they are in another. */
  Checkpoint with(Set<Part<?>> parts, Checkpoint other) {
    Map<Part<?>, Object> next = new LinkedHashMap<>(kept);
    for (Part<?> p : parts) {
      next.remove(p);
      if (other.kept.containsKey(p)) {
        next.put(p, other.kept.get(p));
      }
    }
    return new Checkpoint(owner, next);
  }

  List<StoredPart<?>> parts() {
    List<StoredPart<?>> out = new ArrayList<>();
    for (Object k : kept.values()) {
      if (k instanceof StoredPart<?> s) {
        out.add(s);
      }
    }
    return out;
  }
}
