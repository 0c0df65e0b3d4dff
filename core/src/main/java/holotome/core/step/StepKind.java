package holotome.core.step;

import holotome.core.part.Part;
import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;

/**
 * The one description of a kind of step, read off its record: name, parameters, units, ranges,
 * presets, help. The Log, the command line, the Sheet and the documentation all speak from it.
 */
public final class StepKind {
  private static final String LIST_OF = "list of ";

  private final Class<? extends Step> type;
  private final Describes describes;
  private final List<Field> fields;

  /**
   * One parameter.
   *
   * @param key of its help in other languages; empty for what stands on no Sheet
   * @param name as in a Log
   * @param type in words: "number", "whole number", "length", "yes or no", "text", "point", "list",
   *     or the choices joined by " | "
   * @param when "name=value" of the parameter that this one goes with; empty for always
   * @param oneOf names a set of parameters of which exactly one is given; empty for none
   * @param parts what a group, or each item of a list of groups, holds; empty for others
   */
  public record Field(
      String key,
      String name,
      String type,
      String unit,
      double min,
      double max,
      String preset,
      boolean optional,
      String when,
      String oneOf,
      String help,
      List<String> choices,
      List<Field> parts) {

    /** What it means, in the language spoken. */
    public String hint() {
      return StepWords.of(key, help);
    }

    /** Its label on a Sheet, in the language spoken. */
    public String label() {
      return StepWords.label(name);
    }

    /** Whether several of the choices may be taken together. */
    public boolean isList() {
      return type.startsWith("list");
    }
  }

  private StepKind(Class<? extends Step> type) {
    this.type = type;
    this.describes = type.getAnnotation(Describes.class);
    if (describes == null || !type.isRecord()) {
      throw new IllegalArgumentException(type + " is not a described record");
    }
    List<Field> list = new ArrayList<>();
    for (RecordComponent c : type.getRecordComponents()) {
      list.add(field(c, describes.id() + "."));
    }
    this.fields = List.copyOf(list);
  }

  /** Parts by their names. */
  static Set<Part<?>> parts(String[] names) {
    Set<Part<?>> out = new LinkedHashSet<>();
    for (String n : names) {
      out.add(n.equals("maps") ? Part.MAPS : n.equals("frame") ? Part.FRAME : Part.mesh(n));
    }
    return out;
  }

  /** Whether it can be asked to work on another mesh than the Scan. */
  public boolean worksOnAnyMesh() {
    return Arrays.asList(describes.reads()).contains(Part.SCAN.name())
        && Arrays.asList(describes.writes()).contains(Part.SCAN.name());
  }

  public static StepKind of(Class<? extends Step> type) {
    return new StepKind(type);
  }

  public static StepKind of(Step step) {
    return new StepKind(step.getClass());
  }

  public Class<? extends Step> type() {
    return type;
  }

  public String id() {
    return describes.id();
  }

  public String stage() {
    return describes.id().substring(0, describes.id().indexOf('.'));
  }

  /** Its title in ids, the same in every language. */
  public String slug() {
    return describes.title().toLowerCase(Locale.ROOT).replace(' ', '-');
  }

  /** As on a Sheet, in the language spoken. */
  public String title() {
    return StepWords.of(id(), describes.title());
  }

  public String help() {
    return StepWords.of(id() + ".help", describes.help());
  }

  public List<Field> fields() {
    return fields;
  }

  /**
   * @param key what the key of its help begins with; null for what is not shown on a Sheet
   */
  private static Field field(RecordComponent c, String key) {
    Parameter p = parameter(c);
    List<String> choices = new ArrayList<>();
    Class<?> t = c.getType();
    if (t.isEnum()) {
      for (Object o : t.getEnumConstants()) {
        choices.add(PlainValues.kebab(o.toString()));
      }
    }
    String type = choices.isEmpty() ? PlainValues.typeName(t) : String.join(" | ", choices);
    if (c.getGenericType() instanceof ParameterizedType list
        && list.getActualTypeArguments()[0] instanceof Class<?> element
        && element.isEnum()) {
      for (Object o : element.getEnumConstants()) {
        choices.add(PlainValues.kebab(o.toString()));
      }
      type = LIST_OF + String.join(" | ", choices);
    }
    return new Field(
        key == null ? "" : key + PlainValues.nameOf(c),
        PlainValues.nameOf(c),
        type,
        p.unit(),
        p.min(),
        p.max(),
        p.preset(),
        p.optional(),
        p.when(),
        p.oneOf(),
        p.help(),
        List.copyOf(choices),
        parts(c.getGenericType()));
  }

  /** The fields of a record, or of the records in a list. */
  private static List<Field> parts(java.lang.reflect.Type type) {
    java.lang.reflect.Type of =
        type instanceof ParameterizedType list ? list.getActualTypeArguments()[0] : type;
    if (!(of instanceof Class<?> record) || !record.isRecord() || record == Length.class) {
      return List.of();
    }
    List<Field> out = new ArrayList<>();
    for (RecordComponent c : record.getRecordComponents()) {
      out.add(field(c, null));
    }
    return List.copyOf(out);
  }

  private static Parameter parameter(RecordComponent c) {
    Parameter p = c.getAnnotation(Parameter.class);
    if (p == null) {
      throw new IllegalArgumentException(c + " is not described");
    }
    return p;
  }

  /**
   * Makes a step from plain values (numbers, texts, booleans, lists, maps), as read from a Log.
   *
   * @throws Failure naming the parameter, what is wrong with it and what it may be
   */
  public Step create(Map<String, ?> values) {
    for (String key : values.keySet()) {
      if (!key.equals("do") && fields.stream().noneMatch(f -> f.name().equals(key))) {
        throw Failure.usage(
            fields.isEmpty()
                ? CoreWords.of("step-kind.has-no-parameter-it-has", id(), key)
                : CoreWords.of(
                    "step-kind.has-no-parameter-it-has-2",
                    id(),
                    key,
                    String.join(", ", fields.stream().map(Field::name).toList())));
      }
    }
    return (Step) create(type, values, id());
  }

  /**
   * Makes another described record than a step from plain values, such as what a project keeps.
   *
   * @param where what it is, for messages
   */
  public static <R extends Record> R read(Class<R> record, Map<?, ?> values, String where) {
    Map<String, Object> named = new LinkedHashMap<>();
    values.forEach((k, v) -> named.put(k.toString(), v));
    return record.cast(create(record, named, where));
  }

  /** A described record as plain values; {@link #read} is the way back. */
  public static Map<String, Object> write(Record record) {
    return PlainValues.write(record);
  }

  /** Lists of described records and the like as plain values. */
  public static Object plain(Object value) {
    return PlainValues.write(value);
  }

  static Object create(Class<?> record, Map<String, ?> values, String where) {
    RecordComponent[] components = record.getRecordComponents();
    Object[] arguments = new Object[components.length];
    for (int i = 0; i < components.length; i++) {
      RecordComponent c = components[i];
      Parameter p = parameter(c);
      String name = PlainValues.nameOf(c);
      Object v = values.get(name);
      if (v == null && !p.preset().isEmpty()) {
        v = p.preset();
      }
      if (v == null) {
        if (!p.optional()) {
          throw Failure.usage(
              CoreWords.of(
                  "step-kind.needs", where, name, StepWords.of(where + "." + name, p.help())));
        }
        arguments[i] = null;
        continue;
      }
      try {
        arguments[i] = PlainValues.read(v, c.getGenericType(), where);
      } catch (Failure e) {
        throw new Failure(e.kind(), where + ": " + name + ": " + e.getMessage(), e);
      }
      checkRange(arguments[i], p, where, name);
    }
    try {
      var constructor =
          record.getDeclaredConstructor(
              Arrays.stream(components).map(RecordComponent::getType).toArray(Class[]::new));
      return constructor.newInstance(arguments);
    } catch (InvocationTargetException e) {
      if (e.getCause() instanceof Failure f) {
        throw new Failure(f.kind(), where + ": " + f.getMessage(), f);
      }
      throw new IllegalStateException(e.getCause());
    } catch (ReflectiveOperationException e) {
      throw new IllegalStateException(e);
    }
  }

  private static void checkRange(Object value, Parameter p, String where, String name) {
    double x =
        switch (value) {
          case Number n -> n.doubleValue();
          case Length l -> l.metres();
          default -> Double.NaN;
        };
    if (!Double.isNaN(x) && (x < p.min() || x > p.max())) {
      throw Failure.usage(
          CoreWords.of(
              "step-kind.must-lie-between-and-not",
              where,
              name,
              PlainValues.number(p.min()),
              PlainValues.number(p.max()),
              p.unit().isEmpty() ? "" : " " + p.unit(),
              PlainValues.number(x)));
    }
  }

  /** The step's parameters as plain values, as written to a Log; those that are null left out. */
  public Map<String, Object> values(Step step) {
    Map<String, Object> out = new LinkedHashMap<>();
    out.put("do", id());
    out.putAll(PlainValues.write((Record) step));
    return out;
  }
}
