package holotome.app.pane;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.memory.Spare;
import holotome.core.mesh.Importance;
import holotome.core.mesh.Mesh;
import holotome.core.task.Work;
import holotome.core.unwrap.TextureFields;
import holotome.view.scene.Look;
import holotome.view.scene.Readings;
import java.util.List;
import java.util.concurrent.CopyOnWriteArrayList;

/**
 * The figures of the looks that draw one for each triangle: stretch, texel density, importance; as
 * powers of two. Found once they are to be seen, and kept for the last few. Lives on the interface
 * thread.
 */
public final class ShownFigures implements Spare.Holder {
  private static final int KEPT = 3;

  /** Less than this, as a power of two, is as good as none: one part in fourteen. */
  private static final double WITHIN = 0.1;

  private final Session session;
  private final List<Known> known = new CopyOnWriteArrayList<>();
  private Mesh asked;
  private Look askedLook;

  private record Known(Mesh mesh, Look look, float[] values) {}

  ShownFigures(Session session) {
    this.session = session;
    session.onOpen(this::letGo);
    Spare.add(this);
  }

  /** How far the colours of a look reach, as a power of two. */
  public static double range(Look look) {
    return look == Look.STRETCH ? 1 : look == Look.DENSITY ? 2 : 4;
  }

  /** What the colours of a look stand for. */
  public static Readings scale(Look look) {
    return new Readings(new float[0], true, range(look), WITHIN);
  }

  /** The colours of a mesh in a look; null for other looks, or where they are still being found. */
  Readings readings(Mesh mesh, Look look) {
    if (!look.hasReadings() || look == Look.DEVIATION || look.needsUv() && mesh.uv() == null) {
      return null;
    }
    if (look == Look.IMPORTANCE && Importance.of(mesh) == null) {
      return null;
    }
    for (Known k : known) {
      if (k.mesh == mesh && k.look == look) {
        return new Readings(k.values, true, range(look), WITHIN);
      }
    }
    find(mesh, look);
    return null;
  }

  private void find(Mesh mesh, Look look) {
    if (mesh == asked && look == askedLook) {
      return;
    }
    asked = mesh;
    askedLook = look;
    session
        .jobs()
        .look(
            this,
            AppWords.of("figures.finding"),
            work -> new Known(mesh, look, values(mesh, look, work)),
            found -> {
              known.addFirst(found);
              while (known.size() > KEPT) {
                known.removeLast();
              }
              forget();
              session.changed();
            },
            // Cancelled by the user: it stays without colours until something else was looked at.
            f -> session.changed());
  }

  private void forget() {
    asked = null;
    askedLook = null;
  }

  private static float[] values(Mesh mesh, Look look, Work work) {
    return switch (look) {
      case STRETCH -> TextureFields.stretch(mesh, work);
      case DENSITY -> TextureFields.density(mesh, work);
      default -> {
        float[] out = Importance.of(mesh).clone();
        for (int t = 0; t < out.length; t++) {
          out[t] = (float) (Math.log(out[t]) / Math.log(2));
        }
        yield out;
      }
    };
  }

  @Override
  public void letGo() {
    known.clear();
    forget();
  }
}
