package holotome.app.model;

import holotome.app.words.AppWords;
import holotome.core.part.Workpiece;
import holotome.core.polygon.FaceLists;
import holotome.core.proxy.EditProxy;
import holotome.core.proxy.EditedProxy;
import holotome.core.proxy.ProxyEdit;
import holotome.core.task.Failure;
import java.util.List;

/** The Cast's points, edges and faces changed by hand: a sitting is one entry. */
public final class EditingProxy {
  private final Session session;
  private final Sitting<EditProxy> sitting;
  private Workpiece of;
  private FaceLists faces;

  public EditingProxy(Session session) {
    this.session = session;
    sitting = new Sitting<>(session, EditProxy.class);
  }

  /** Makes an edit. */
  public void make(ProxyEdit edit) {
    sitting.make(
        AppWords.of("proxy-edit.making"),
        last -> last == null ? new EditProxy(List.of(edit)) : last.with(edit));
  }

  /** The edits of the entry that the next ones go into. */
  public List<ProxyEdit> edits() {
    EditProxy last = sitting.last();
    return last == null ? List.of() : last.edits();
  }

  /** The Cast's faces in working space; null where there are none or too many. */
  public FaceLists faces() {
    Workpiece w = session.current();
    if (w != of) {
      of = w;
      boolean isSome = w != null && w.cast() != null && w.cast().triangleCount() <= EditProxy.MOST;
      faces = isSome ? FaceLists.of(w.cast()).placed(w.frame().toWork()) : null;
    }
    return faces;
  }

  /** What an edit would make, in working space; null where it cannot be made. */
  public FaceLists tried(ProxyEdit edit) {
    Workpiece w = session.current();
    if (faces() == null) {
      return null;
    }
    EditedProxy p = new EditedProxy(FaceLists.of(w.cast()), w.frame());
    try {
      p.make(edit);
    } catch (Failure f) {
      return null;
    }
    return p.now().placed(w.frame().toWork());
  }
}
