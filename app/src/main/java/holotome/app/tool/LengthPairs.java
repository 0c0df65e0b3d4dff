package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.datum.KnownLength;
import holotome.core.datum.ScaleBar;
import holotome.core.datum.ScaleFit;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Mesh;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import javafx.geometry.Pos;
import javafx.scene.Node;
import javafx.scene.control.Button;
import javafx.scene.control.Label;
import javafx.scene.control.TextField;
import javafx.scene.layout.HBox;
import javafx.scene.layout.Region;
import javafx.scene.layout.VBox;

/**
 * The known lengths on the Sheet: the one in hand, whose ends are picked and dragged, those taken
 * already with how far each is off, and a scale bar that was found.
 */
final class LengthPairs {
  /** Divisions of scale bars that are usual (common practice, no source), in metres. */
  private static final double[] DIVISIONS = {0.01, 0.05, 0.1};

  private final Session session;
  private final Runnable edited;
  private final List<KnownLength> taken = new ArrayList<>();

  /** The lengths as picked and taken; what is typed, its field undoes. */
  private final Draft<Lengths> draft = new Draft<>(Lengths.NONE, this::restore);

  private final TextField[] fields = new TextField[2];
  private final double[][] ends = new double[2][];
  private final VBox rows = new VBox(3);
  private final VBox proposal = new VBox(3);
  private double within;
  private String is = "";
  private ScaleBar bar;

  /** The length last taken for a bar of another length: whoever owns one uses it again. */
  private String lastBar = "";

  private int held;
  private boolean dragging;
  private Label measured;
  private TextField length;
  private boolean writing;

  /**
   * @param from the ends of the length in hand, null for one that is not there
   */
  private record Lengths(
      List<KnownLength> taken, double[] from, double[] to, String is, double within) {
    static final Lengths NONE = new Lengths(List.of(), null, null, "", 0);
  }

  LengthPairs(Session session, Runnable edited) {
    this.session = session;
    this.edited = edited;
    rows.setId("known-lengths");
    proposal.setId("scale-bar");
  }

  Draft<?> draft() {
    return draft;
  }

  private Lengths asTheyStand() {
    return new Lengths(List.copyOf(taken), ends[0], ends[1], is, within);
  }

  private void restore(Lengths l) {
    taken.clear();
    taken.addAll(l.taken);
    ends[0] = l.from;
    ends[1] = l.to;
    is = l.is;
    within = l.within;
    write();
    fillRows();
    edited.run();
  }

  Node form() {
    measured = new Label();
    measured.getStyleClass().add("figure");
    measured.setId("measured");
    length = Fields.plain("field-is", is, "500 mm");
    length.textProperty().addListener((o, was, now) -> typedLength(now));
    fields[0] = end("field-from", 0);
    fields[1] = end("field-to", 1);
    Button add = new Button(AppWords.of("length-pairs.add-another-length"));
    add.setId("add-length");
    add.getStyleClass().setAll("link");
    add.setOnAction(e -> addAnother());
    write();
    fillRows();
    fillProposal();
    return new VBox(
        6,
        proposal,
        stacked(AppWords.of("length-pairs.one-end"), fields[0]),
        stacked(AppWords.of("length-pairs.other-end"), fields[1]),
        Fields.row(AppWords.of("length-pairs.in-the-scan"), measured),
        Fields.row(AppWords.of("length-pairs.true-length"), length),
        add,
        rows);
  }

  private static Node stacked(String words, TextField field) {
    return new VBox(2, new Label(words), field);
  }

  private void typedLength(String text) {
    is = text;
    if (!writing) {
      draft.change(asTheyStand());
      fillRows();
      edited.run();
    }
  }

  /** A field for one end's x, y, z: filled in by picking, or typed. */
  private TextField end(String id, int which) {
    TextField t = Fields.plain(id, "", AppWords.of("length-pairs.x-y-z-or-pick"));
    // As wide as the Sheet: three coordinates are never cut.
    t.setPrefWidth(260);
    t.setMaxWidth(Double.MAX_VALUE);
    t.textProperty()
        .addListener(
            (o, was, now) -> {
              if (!writing) {
                typed(t, which, now);
              }
            });
    return t;
  }

  private void typed(TextField field, int which, String text) {
    double[] p = Points.parse(text);
    field.getStyleClass().remove("wrong");
    if (p == null && !text.isBlank()) {
      field.getStyleClass().add("wrong");
    }
    ends[which] = p;
    draft.change(asTheyStand());
    showLength();
    fillRows();
    edited.run();
  }

  private void write() {
    if (measured == null) {
      return;
    }
    writing = true;
    for (int i = 0; i < 2; i++) {
      fields[i].setText(ends[i] == null ? "" : Points.brief(ends[i]));
      fields[i].getStyleClass().remove("wrong");
    }
    length.setText(is);
    writing = false;
    showLength();
    fillProposal();
  }

  private void showLength() {
    measured.getStyleClass().removeAll("soft");
    if (ends[0] == null || ends[1] == null) {
      measured.setText(
          ends[0] == null
              ? AppWords.of("length-pairs.pick-one-end")
              : AppWords.of("length-pairs.pick-the-other-end"));
      measured.getStyleClass().add("soft");
    } else {
      measured.setText(text(Vec.distance(ends[0], ends[1])));
    }
  }

  private String text(double inScan) {
    return Length.format(inScan, session.current().frame().trueSize());
  }

  private void addAnother() {
    KnownLength k = inHand();
    if (k == null) {
      session.fail(Failure.cannot(AppWords.of("length-pairs.finish-this-length-first-both")));
      return;
    }
    taken.add(k);
    clearHand();
    draft.set(asTheyStand());
    write();
    fillRows();
    edited.run();
  }

  private void clearHand() {
    ends[0] = null;
    ends[1] = null;
    is = "";
    within = 0;
  }

  /** The length in hand; null while it is not whole. */
  private KnownLength inHand() {
    if (ends[0] == null || ends[1] == null || is.isBlank()) {
      return null;
    }
    try {
      Length l = Length.parse(is, Length.Unit.MM);
      return new KnownLength(ends[0], ends[1], l, within > 0 ? new Length(within) : null);
    } catch (Failure f) {
      return null;
    }
  }

  /** All lengths there are. */
  List<KnownLength> all() {
    List<KnownLength> all = new ArrayList<>(taken);
    if (ends[0] != null && ends[1] != null) {
      // A length that cannot be read is said here, in words.
      Length l = Length.parse(is, Length.Unit.MM);
      all.add(new KnownLength(ends[0], ends[1], l, within > 0 ? new Length(within) : null));
    }
    return all;
  }

  /** Fills in how far each length is off. */
  private void fillRows() {
    rows.getChildren().clear();
    KnownLength k = inHand();
    List<KnownLength> all = new ArrayList<>(taken);
    if (k != null) {
      all.add(k);
    }
    if (all.isEmpty() || all.stream().anyMatch(x -> !(x.is().metres() > 0))) {
      return;
    }
    ScaleFit fit = ScaleFit.of(all);
    for (int i = 0; i < all.size() && all.size() > 1; i++) {
      rows.getChildren().add(row(i, all.get(i), fit, i < taken.size()));
    }
    if (!Double.isNaN(fit.precision())) {
      Label l = new Label(AppWords.of("length-pairs.right-within", 100 * fit.precision()));
      l.setId("precision");
      l.getStyleClass().addAll("soft", "small");
      rows.getChildren().add(l);
    }
  }

  private Node row(int i, KnownLength k, ScaleFit fit, boolean canGo) {
    Label name = new Label((i + 1) + "  " + k.is());
    Label off =
        new Label(
            AppWords.of(
                "length-pairs.mm", 1000 * fit.off()[i], 100 * fit.off()[i] / k.is().metres()));
    off.getStyleClass().add("figure");
    off.setMinWidth(Region.USE_PREF_SIZE);
    HBox box = Fields.row(name.getText(), off);
    if (fit.outlier() == i) {
      Label odd = new Label(AppWords.of("length-pairs.does-not-go-with-the"));
      odd.getStyleClass().add("problem");
      return new VBox(0, box, odd);
    }
    if (canGo) {
      Button drop = new Button("×");
      drop.getStyleClass().setAll("link");
      drop.setAccessibleText(AppWords.of("length-pairs.leave-this-length-out"));
      drop.setMinWidth(Region.USE_PREF_SIZE);
      drop.setOnAction(
          e -> {
            taken.remove(k);
            draft.set(asTheyStand());
            fillRows();
            edited.run();
          });
      box.getChildren().add(drop);
      box.setAlignment(Pos.CENTER_LEFT);
    }
    return box;
  }

  /** Offers a scale bar that was found; null for none. */
  void propose(ScaleBar found) {
    bar = found;
    fillProposal();
  }

  private void fillProposal() {
    proposal.getChildren().clear();
    // Once both ends are there, its room is theirs.
    boolean offered = bar != null && !isPicked();
    proposal.setManaged(offered);
    if (!offered) {
      return;
    }
    Label l = new Label(AppWords.of("length-pairs.a-scale-bar-of-fields", bar.fields()));
    l.setWrapText(true);
    l.setMinHeight(Region.USE_PREF_SIZE);
    TextField other = Fields.plain("bar-length", lastBar, AppWords.of("length-pairs.its-length"));
    other.setPrefWidth(110);
    other.setMinWidth(110);
    Button take = new Button(AppWords.of("length-pairs.take-it"));
    take.setId("bar-take");
    take.getStyleClass().setAll("link");
    Runnable taking =
        () -> {
          try {
            Length whole = Length.parse(other.getText(), Length.Unit.MM);
            lastBar = other.getText().strip();
            take(whole);
          } catch (Failure f) {
            session.fail(f);
          }
        };
    take.setOnAction(e -> taking.run());
    other.setOnAction(e -> taking.run());
    HBox own = new HBox(10, other, take);
    own.setAlignment(Pos.CENTER_LEFT);
    HBox choices = new HBox(12);
    for (double d : DIVISIONS) {
      Length whole = new Length(d * bar.fields());
      Button b = new Button(whole.toString().replaceFirst("\\.0+ ", " "));
      b.setId("bar-" + Math.round(1000 * whole.metres()));
      b.getStyleClass().setAll("link");
      b.setOnAction(e -> take(whole));
      choices.getChildren().add(b);
    }
    proposal.getChildren().addAll(l, own, choices);
  }

  private void take(Length whole) {
    var toWork = session.current().frame().toWork();
    ends[0] = toWork.apply(bar.from());
    ends[1] = toWork.apply(bar.to());
    is = whole.toString();
    within = 0;
    draft.set(asTheyStand());
    write();
    fillRows();
    edited.run();
  }

  String missing() {
    boolean hand = ends[0] != null || ends[1] != null || !is.isBlank();
    if (!taken.isEmpty() && !hand) {
      return null;
    }
    if (ends[0] == null || ends[1] == null) {
      return ends[0] == null
          ? AppWords.of("length-pairs.pick-one-end-of-a")
          : AppWords.of("length-pairs.pick-the-other-end-in");
    }
    return is.isBlank() ? AppWords.of("length-pairs.type-the-true-length-such") : null;
  }

  String verb() {
    int n = taken.size() + (inHand() == null ? 0 : 1);
    return n > 1
        ? AppWords.of("length-pairs.set-the-scale-by-lengths", n)
        : is.isBlank()
            ? AppWords.of("common.set-the-scale")
            : AppWords.of("length-pairs.set-the-scale-by-a", is.strip());
  }

  void load(List<KnownLength> lengths) {
    taken.clear();
    taken.addAll(lengths.subList(0, lengths.size() - 1));
    KnownLength k = lengths.getLast();
    ends[0] = k.from();
    ends[1] = k.to();
    is = k.is().toString();
    within = k.within() == null ? 0 : k.within().metres();
    draft.begin(asTheyStand());
  }

  void clear() {
    taken.clear();
    clearHand();
    draft.clear();
    write();
    rows.getChildren().clear();
  }

  boolean isPicked() {
    return ends[0] != null && ends[1] != null;
  }

  /** The ends of all lengths, null for an end that is not there yet. */
  List<double[][]> ends() {
    List<double[][]> all = new ArrayList<>();
    for (KnownLength k : taken) {
      all.add(new double[][] {k.from(), k.to()});
    }
    all.add(new double[][] {ends[0], ends[1]});
    return all;
  }

  /** Chooses the end that a press takes: the missing one, else the nearer. */
  void hold(ViewPort view, double x, double y) {
    dragging = false;
    if (ends[0] == null || ends[1] == null) {
      held = ends[0] == null ? 0 : 1;
      return;
    }
    double[] a = view.project(ends[0]);
    double[] b = view.project(ends[1]);
    boolean first =
        a != null && b != null && Math.hypot(x - a[0], y - a[1]) < Math.hypot(x - b[0], y - b[1]);
    held = first ? 0 : 1;
  }

  /** Takes a picked point as the held end, and how exactly it can have been picked. */
  void picked(ViewPort view, int triangle, double[] p) {
    ends[held] = p;
    within = Math.max(within, uncertainty(view, triangle, p));
    write();
    if (dragging) {
      draft.change(asTheyStand());
    } else {
      draft.set(asTheyStand());
    }
    dragging = true;
    fillRows();
  }

  /** Half a pixel, or a third of the mesh's own step there if that is coarser. */
  private double uncertainty(ViewPort view, int triangle, double[] p) {
    double[] a = view.project(p);
    double[] right = view.camera().right();
    double step = 1e-4 * session.current().frame().workBounds(view.mesh()).diagonal();
    double[] b = view.project(Vec.add(p, Vec.mul(right, step)));
    double pixel =
        a == null || b == null ? 0 : step / Math.max(1e-9, Math.hypot(b[0] - a[0], b[1] - a[1]));
    Mesh m = view.mesh();
    double edges = 0;
    for (int k = 0; triangle >= 0 && k < 3; k++) {
      double[] u = Vec.at(m.xyz(), m.triangles()[3 * triangle + k]);
      double[] v = Vec.at(m.xyz(), m.triangles()[3 * triangle + (k + 1) % 3]);
      edges += Vec.distance(u, v) / 3;
    }
    double mesh = edges * session.current().frame().toWork().scale();
    return Math.max(0.5 * pixel, mesh / 3);
  }
}
