package holotome.core.log;

import holotome.core.frame.Frame;
import holotome.core.mesh.Mesh;
import holotome.core.part.Maps;
import holotome.core.part.Workpiece;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/**
 * A workpiece kept for going back to; its parts are in memory or on disk.
 *
 * @param cast null where there is none
 * @param maps null where there are none
 */
record Checkpoint(
    Checkpoints owner,
    StoredPart<Mesh> scan,
    StoredPart<Mesh> cast,
    StoredPart<Maps> maps,
    Frame frame) {

  /** The workpiece, read back from disk if need be. */
  Workpiece get() {
    owner.used(this);
    return new Workpiece(
        scan.get(), cast == null ? null : cast.get(), maps == null ? null : maps.get(), frame);
  }

  /** The workpiece where {@link #get} need read no file, else null. */
  Workpiece atHand() {
    Mesh s = scan.atHand();
    Mesh c = cast == null ? null : cast.atHand();
    Maps m = maps == null ? null : maps.atHand();
    boolean isWhole = s != null && (cast == null || c != null) && (maps == null || m != null);
    if (!isWhole) {
      return null;
    }
    owner.used(this);
    return new Workpiece(s, c, m, frame);
  }

  List<StoredPart<?>> parts() {
    return Stream.<StoredPart<?>>of(scan, cast, maps).filter(Objects::nonNull).toList();
  }
}
