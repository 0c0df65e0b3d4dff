package holotome.core.touch;

import holotome.core.geometry.Vec;
import holotome.core.spatial.BvhQuery;
import java.util.ArrayList;
import java.util.List;
import java.util.Objects;

/**
 * The way of a brush over the surface in short pieces, and beside it the way that what is copied
 * takes over the place it is copied from: as far, and turned by the same angles, step by step.
 */
final class Course {
  /** Pieces are so many radii long at most. */
  private static final double PIECE = 0.5;

  /** Pieces that one step of the line is parted into at most, and triangles that one goes over. */
  private static final int MOST_PIECES = 2000;

  private static final int MOST_TRIANGLES = 20_000;

  /** Surfaces that turn away by more than this do not follow one another: 100 degrees. */
  static final double AWAY = -0.17;

  /**
   * A place of the way.
   *
   * @param ahead unit direction along the surface that the frame is reckoned from
   */
  record Dab(int triangle, double[] at, double[] normal, double[] ahead, double[] beside) {
    Dab(int triangle, double[] at, double[] normal, double[] ahead) {
      this(triangle, at, normal, ahead, Vec.cross(normal, ahead));
    }
  }

  private final BvhQuery query;
  private final SurfaceWalk walk;
  private final Spot spot;
  private final double radius;
  private final boolean copies;
  private final List<Dab> dabs = new ArrayList<>();

  /** Where each dab's copy comes from; null where the surface ended there. */
  private final List<Dab> sources = new ArrayList<>();

  /** How many of the first dabs only lead to where the line begins. */
  private int lead;

  /** A course in base coordinates that has not begun. */
  Course(TouchGround ground, Touch touch) {
    query = new BvhQuery(ground.index());
    walk = new SurfaceWalk(ground);
    spot = new Spot(ground);
    radius = touch.radius();
    copies = touch.how().copies();
    if (copies) {
      begin(touch);
    }
  }

  private void begin(Touch touch) {
    Dab source = nearest(touch.from(), null);
    Dab first = nearest(touch.to() != null ? touch.to() : touch.point(0), null);
    if (source == null || first == null) {
      return;
    }
    double angle = Math.toRadians(touch.turn());
    double[] ahead =
        Turning.along(Turning.carried(first.ahead, first.normal, source.normal), source.normal);
    double[] across = Vec.cross(source.normal, ahead);
    double[] turned = Vec.add(Vec.mul(ahead, Math.cos(angle)), Vec.mul(across, Math.sin(angle)));
    dabs.add(first);
    sources.add(new Dab(source.triangle, source.at, source.normal, turned));
    if (touch.to() != null && !touch.area()) {
      follow(touch.point(0));
      lead = dabs.size() - 1;
    }
  }

  /** The nearest place of the surface, its frame carried from a dab; null for none. */
  private Dab nearest(double[] p, Dab before) {
    if (!query.closest((float) p[0], (float) p[1], (float) p[2], Float.POSITIVE_INFINITY)) {
      return null;
    }
    spot.set(query.triangle, query.u, query.v);
    return here(before);
  }

  private Dab here(Dab before) {
    spot.turn();
    double[] n = spot.normal.clone();
    double[] ahead =
        before == null
            ? Vec.perpendicular(n)
            : Turning.along(Turning.carried(before.ahead, before.normal, n), n);
    return new Dab(spot.triangle, spot.place(), n, ahead);
  }

  /** Goes on to a point of the surface; the first is where it begins. */
  void follow(double[] point) {
    if (dabs.isEmpty()) {
      Dab first = copies ? null : nearest(point, null);
      if (first != null) {
        dabs.add(first);
        sources.add(null);
      }
      return;
    }
    double[] start = dabs.getLast().at;
    double far = Vec.distance(start, point);
    int pieces = Math.clamp((int) Math.ceil(far / (PIECE * radius)), 1, MOST_PIECES);
    for (int i = 1; i <= pieces && far > 0; i++) {
      double t = (double) i / pieces;
      double[] on = Vec.add(Vec.mul(start, 1 - t), Vec.mul(point, t));
      Dab before = dabs.getLast();
      Dab next = nearest(on, before);
      boolean isAway =
          next == null
              || i < pieces
                  && (Vec.dot(next.normal, before.normal) < AWAY
                      || Vec.distance(next.at, on) > Math.max(radius, far));
      if (!isAway) {
        sources.add(copies ? beside(before, next, sources.getLast()) : null);
        dabs.add(next);
      }
    }
  }

  /** Rests in the middle of an outline; its normal is the mean of those along it. */
  void rest(Touch area) {
    double[] middle = new double[3];
    double[] normal = new double[3];
    for (int i = 0; i < area.points(); i++) {
      Dab d = nearest(area.point(i), null);
      for (int k = 0; d != null && k < 3; k++) {
        middle[k] += area.line()[3 * i + k] / area.points();
        normal[k] += d.normal[k];
      }
    }
    Dab near = nearest(middle, null);
    if (near != null) {
      double[] n = Vec.length(normal) > 0 ? Vec.unit(normal) : near.normal;
      dabs.add(new Dab(near.triangle, near.at, n, Vec.perpendicular(n)));
      sources.add(null);
    }
  }

  /** The triangles that the points of a line lie on. */
  int[] triangles(Touch touch) {
    int[] out = new int[touch.points() + 1];
    for (int i = 0; i < touch.points(); i++) {
      Dab d = nearest(touch.point(i), null);
      out[i] = d == null ? 0 : d.triangle;
    }
    out[touch.points()] = dabs.getFirst().triangle;
    return out;
  }

  /** As far from the last source as a dab is from the last dab. */
  private Dab beside(Dab before, Dab next, Dab source) {
    if (source == null) {
      return null;
    }
    double[] way = Vec.sub(next.at, before.at);
    double a = Vec.dot(way, before.ahead);
    double b = Vec.dot(way, before.beside);
    double l = Math.hypot(a, b);
    double k = l > 0 ? Vec.length(way) / l : 0;
    double[] at = new double[3];
    for (int i = 0; i < 3; i++) {
      at[i] = source.at[i] + k * (a * source.ahead[i] + b * source.beside[i]);
    }
    if (!walk.to(source.triangle, at[0], at[1], at[2], source.normal, MOST_TRIANGLES)) {
      return null;
    }
    spot.set(walk.triangle, walk.second, walk.third);
    return here(source);
  }

  int size() {
    return dabs.size();
  }

  /** Where painting begins. */
  int lead() {
    return lead;
  }

  Dab dab(int i) {
    return dabs.get(i);
  }

  /** Where a dab's copy comes from; null for nowhere. */
  Dab source(int i) {
    return sources.get(i);
  }

  /** Whether there is a place to copy from for any of it. */
  boolean hasSource() {
    return sources.stream().skip(lead).anyMatch(Objects::nonNull);
  }
}
