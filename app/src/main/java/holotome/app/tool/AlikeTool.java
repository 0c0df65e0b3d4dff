package holotome.app.tool;

import holotome.app.model.Session;
import holotome.app.words.AppWords;
import holotome.core.geometry.Vec;
import holotome.core.mesh.Measures;
import holotome.core.mesh.Mesh;
import holotome.core.part.Workpiece;
import holotome.core.select.Facing;
import holotome.core.select.Heights;
import holotome.core.select.IslandSizes;
import holotome.core.select.Likeness;
import holotome.core.select.Linked;
import holotome.core.select.Pick;
import holotome.core.select.Rim;
import holotome.core.select.Rule;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javafx.scene.Node;
import javafx.scene.control.ChoiceBox;
import javafx.scene.control.TextField;
import javafx.scene.input.MouseEvent;

/** Selects what is like the place that is clicked, in a way to be chosen. */
public final class AlikeTool extends SelectTool {
  /** In which way; whether it has a figure, its unit and preset. */
  private enum Way {
    ISLAND(false, "", 0),
    LINKED(true, "°", 30),
    COLOUR(true, "", 12),
    FACING(true, "°", 20),
    HEIGHT(true, "length", 0),
    SMALLER(false, "", 0),
    BORDER(true, "", 3);

    private final boolean figured;
    private final String unit;
    private final double preset;

    Way(boolean figured, String unit, double preset) {
      this.figured = figured;
      this.unit = unit;
      this.preset = preset;
    }

    /** Its name on the Sheet. */
    String words() {
      return AppWords.of("alike." + name());
    }

    /** What its figure is called. */
    String figure() {
      return AppWords.of("alike." + name() + ".figure");
    }
  }

  private Way way = Way.ISLAND;
  private final double[] figures = new double[Way.values().length];
  private final List<Node> rows = new ArrayList<>();
  private TextField figure;
  private Node figureRow;

  public AlikeTool(Session session) {
    super(session);
    for (Way w : Way.values()) {
      figures[w.ordinal()] = w.preset;
    }
  }

  @Override
  public String id() {
    return "alike";
  }

  @Override
  public String hint() {
    return joining(AppWords.of("alike-tool.click-on-the-scan-selects"));
  }

  @Override
  protected String todo() {
    return AppWords.of("alike-tool.click-on-the-scan");
  }

  @Override
  protected List<Node> ownFields() {
    ChoiceBox<String> ways = new ChoiceBox<>();
    ways.setId("field-alike");
    for (Way w : Way.values()) {
      ways.getItems().add(w.words());
    }
    ways.getSelectionModel().select(way.ordinal());
    ways.setOnAction(
        e -> {
          way = Way.values()[ways.getSelectionModel().getSelectedIndex()];
          write();
        });
    figure = new TextField();
    figure.setId("field-alike-figure");
    figure.setPrefColumnCount(8);
    figure.textProperty().addListener((o, was, is) -> typed(is));
    figureRow = Fields.row(AppWords.of("alike-tool.within"), figure);
    rows.clear();
    rows.add(Fields.row(AppWords.of("alike-tool.take"), ways));
    rows.add(figureRow);
    write();
    return rows;
  }

  private boolean sized() {
    return session.current() != null && session.current().frame().trueSize();
  }

  private double figure(Way w) {
    Workpiece work = session.current();
    if (w == Way.HEIGHT && figures[w.ordinal()] <= 0 && work != null) {
      figures[w.ordinal()] = 0.02 * work.frame().workBounds(work.scan()).height();
    }
    return figures[w.ordinal()];
  }

  private void write() {
    figureRow.setVisible(way.figured);
    figureRow.setManaged(way.figured);
    if (!way.figured) {
      return;
    }
    Fields.relabel(figureRow, way.figure());
    double v = figure(way);
    figure.setText(
        way.unit.equals("length")
            ? Length.typed(v, sized())
            : String.format(Locale.ROOT, "%.4g", v).replaceFirst("\\.0+$", "")
                + (way.unit.isEmpty() ? "" : " " + way.unit));
  }

  private void typed(String text) {
    boolean good;
    double v = Double.NaN;
    try {
      if (way.unit.equals("length")) {
        v = Length.parse(text, sized() ? Length.Unit.MM : Length.Unit.M).metres();
      } else {
        v = Double.parseDouble(text.replace("°", "").replace(',', '.').strip());
      }
      good = v > 0 && v <= 1e9;
    } catch (Failure | NumberFormatException e) {
      good = false;
    }
    figure.getStyleClass().remove("wrong");
    if (good) {
      figures[way.ordinal()] = v;
    } else {
      figure.getStyleClass().add("wrong");
    }
  }

  @Override
  public void released(ViewPort view, MouseEvent e) {
    Pick.Join join = join(e);
    if (way == Way.BORDER) {
      pick(Pick.of(join, new Rim((int) Math.clamp(figure(way), 1, 1000))));
      return;
    }
    view.pickTriangle(
        e.getX(),
        e.getY(),
        (t, p) -> {
          if (p == null || view.mesh() != session.current().scan()) {
            selectNothing(e, join);
            return;
          }
          try {
            pick(Pick.of(join, rule(t, p)));
          } catch (Failure f) {
            session.fail(f);
          }
        });
  }

  private Rule rule(int t, double[] p) {
    Workpiece w = session.current();
    Mesh mesh = w.scan();
    return switch (way) {
      case ISLAND -> new Linked(p, 180);
      case LINKED -> new Linked(p, Math.min(179, figure(way)));
      case COLOUR -> {
        if (!mesh.hasColour()) {
          throw Failure.cannot(AppWords.of("alike-tool.the-scan-has-no-colour"));
        }
        yield Likeness.of(Likeness.colourOf(mesh, t), figure(way));
      }
      case FACING -> {
        double[] n = w.frame().toWork().direction(Measures.cross(mesh, t));
        yield new Facing(Vec.unit(n), Math.min(180, figure(way)));
      }
      case HEIGHT ->
          new Heights(
              new Length(p[2] - figure(way)),
              new Length(p[2] + figure(way)),
              new double[] {0, 0, 1});
      case SMALLER -> {
        var insight = session.insight();
        if (insight == null) {
          throw Failure.cannot(AppWords.of("alike-tool.the-islands-are-still-being"));
        }
        var islands = insight.islands();
        yield new IslandSizes(null, islands.sizes()[islands.ofTriangle()[t]], null, null, null);
      }
      case BORDER -> throw new IllegalStateException();
    };
  }
}
