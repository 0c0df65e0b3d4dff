package holotome.core.polygon;

import holotome.core.attribute.Attribute;
import java.util.Arrays;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.function.Consumer;

/** The attributes of a polygon mesh: rows of doubles by element, written down in its journal. */
final class AttributeRows {
  private final Journal journal;
  private final Map<String, Row> rows = new TreeMap<>();

  /** What an attribute stands for, and its values by element. */
  private record Row(Attribute.Kind kind, Attribute.Domain domain, DoubleColumn values) {}

  AttributeRows(Journal journal) {
    this.journal = journal;
  }

  /** Begins an attribute of noughts for so many elements. */
  void add(String name, Attribute.Kind kind, Attribute.Domain domain, int elements) {
    if (rows.containsKey(name)) {
      throw new IllegalArgumentException("there is an attribute " + name + " already");
    }
    int width = kind == Attribute.Kind.COLOUR ? 4 : kind.width();
    DoubleColumn values = new DoubleColumn(journal, width);
    for (int i = 0; i < elements; i++) {
      values.add();
    }
    rows.put(name, new Row(kind, domain, values));
  }

  List<String> names() {
    return List.copyOf(rows.keySet());
  }

  Attribute.Kind kind(String name) {
    return rows.get(name).kind;
  }

  Attribute.Domain domain(String name) {
    return rows.get(name).domain;
  }

  double[] value(String name, int element) {
    DoubleColumn c = rows.get(name).values;
    double[] out = new double[c.width()];
    for (int k = 0; k < out.length; k++) {
      out[k] = c.get(element, k);
    }
    return out;
  }

  void set(String name, int element, double[] value) {
    DoubleColumn c = rows.get(name).values;
    for (int k = 0; k < c.width(); k++) {
      c.set(element, k, value[k]);
    }
  }

  /** Does something with the values of each attribute of a domain, in the order of the names. */
  void each(Attribute.Domain domain, Consumer<DoubleColumn> body) {
    for (Row r : rows.values()) {
      if (r.domain == domain) {
        body.accept(r.values);
      }
    }
  }

  /** All values, attribute by attribute. */
  List<Object> state() {
    return rows.values().stream()
        .<Object>map(r -> Arrays.stream(r.values.toArray()).boxed().toList())
        .toList();
  }
}
