package holotome.core.step;

import holotome.core.task.Failure;
import holotome.core.unit.Length;
import holotome.core.words.CoreWords;
import java.lang.reflect.InvocationTargetException;
import java.lang.reflect.ParameterizedType;
import java.lang.reflect.RecordComponent;
import java.lang.reflect.Type;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;

/** Turns plain values, as in a Log, into the types that parameters have, and back. */
final class PlainValues {
  private PlainValues() {}

  /** {@code doIt} becomes "do-it"; a trailing underscore, as in {@code for_}, is dropped. */
  static String nameOf(RecordComponent c) {
    String n = c.getName();
    return kebab(n.endsWith("_") ? n.substring(0, n.length() - 1) : n);
  }

  static String kebab(String name) {
    if (name.equals(name.toUpperCase(Locale.ROOT))) {
      return name.toLowerCase(Locale.ROOT).replace('_', '-');
    }
    return name.replaceAll("([A-Z])", "-$1").toLowerCase(Locale.ROOT);
  }

  static String typeName(Class<?> t) {
    if (t == int.class || t == Integer.class) {
      return "whole number";
    }
    if (t == double.class || t == Double.class) {
      return "number";
    }
    if (t == boolean.class || t == Boolean.class) {
      return "true | false";
    }
    if (t == Length.class) {
      return "length";
    }
    if (t == double[].class) {
      return "numbers";
    }
    if (t == String.class) {
      return "text";
    }
    if (t == Blob.class) {
      return "data";
    }
    return List.class.isAssignableFrom(t) ? "list" : "group";
  }

  static String number(double x) {
    if (x == Math.rint(x) && Math.abs(x) < 1e15) {
      return Long.toString((long) x);
    }
    return Double.isInfinite(x)
        ? (x > 0 ? CoreWords.of("plain-values.any-above") : CoreWords.of("plain-values.any-below"))
        : Double.toString(x);
  }

  static Object read(Object v, Type type, String where) {
    if (type instanceof ParameterizedType list) {
      List<Object> out = new ArrayList<>();
      for (Object o : v instanceof List<?> l ? l : splitList(v)) {
        out.add(read(o, list.getActualTypeArguments()[0], where));
      }
      return List.copyOf(out);
    }
    Class<?> t = (Class<?>) type;
    if (t.isEnum()) {
      return choice(v, t);
    }
    if (t == String.class) {
      return v.toString();
    }
    if (t == Blob.class) {
      return v instanceof Blob b ? b : Blob.parse(v.toString());
    }
    if (t == Length.class) {
      return v instanceof Number n ? new Length(n.doubleValue()) : Length.parse(v.toString());
    }
    if (t == boolean.class || t == Boolean.class) {
      return bool(v);
    }
    if (t == int.class || t == Integer.class) {
      double d = real(v);
      if (d != Math.rint(d) || Math.abs(d) > Integer.MAX_VALUE) {
        throw Failure.usage(CoreWords.of("plain-values.is-not-a-whole-number", v));
      }
      return (int) d;
    }
    if (t == double.class || t == Double.class) {
      return real(v);
    }
    if (t == double[].class) {
      return reals(v);
    }
    if (t.isRecord()) {
      if (!(v instanceof Map<?, ?> m)) {
        throw Failure.usage(CoreWords.of("plain-values.expected-a-group-found", v));
      }
      Map<String, Object> named = new LinkedHashMap<>();
      m.forEach((k, x) -> named.put(k.toString(), x));
      return StepKind.create(t, named, where);
    }
    throw new IllegalStateException("no reading of " + t);
  }

  private static List<?> splitList(Object v) {
    String s = v.toString().strip();
    return s.isEmpty() ? List.of() : List.of(s.split("\\s*,\\s*"));
  }

  private static Object choice(Object v, Class<?> t) {
    List<String> all = new ArrayList<>();
    for (Object o : t.getEnumConstants()) {
      String k = kebab(o.toString());
      if (k.equals(v.toString())) {
        return o;
      }
      all.add(k);
    }
    throw Failure.usage(CoreWords.of("plain-values.is-not-one-of", v, String.join(", ", all)));
  }

  private static Boolean bool(Object v) {
    return switch (v.toString()) {
      case "true", "yes" -> true;
      case "false", "no" -> false;
      default -> throw Failure.usage(CoreWords.of("plain-values.is-neither-true-nor-false", v));
    };
  }

  private static double real(Object v) {
    try {
      double d = v instanceof Number n ? n.doubleValue() : Double.parseDouble(v.toString().strip());
      if (Double.isFinite(d)) {
        return d;
      }
    } catch (NumberFormatException e) {
      // Said below, in one way for every value that is no number.
    }
    throw Failure.usage(CoreWords.of("plain-values.is-not-a-number", v));
  }

  private static double[] reals(Object v) {
    // As text, numbers are parted by commas, blanks or both.
    String text = v.toString().strip();
    List<?> list =
        v instanceof List<?> l ? l : text.isEmpty() ? List.of() : List.of(text.split("[\\s,]+"));
    double[] d = new double[list.size()];
    for (int i = 0; i < d.length; i++) {
      d[i] = real(list.get(i));
    }
    return d;
  }

  static Map<String, Object> write(Record record) {
    Map<String, Object> out = new LinkedHashMap<>();
    for (RecordComponent c : record.getClass().getRecordComponents()) {
      Object v;
      try {
        v = c.getAccessor().invoke(record);
      } catch (InvocationTargetException | IllegalAccessException e) {
        throw new IllegalStateException(e);
      }
      if (v != null) {
        out.put(nameOf(c), write(v));
      }
    }
    return out;
  }

  static Object write(Object v) {
    return switch (v) {
      case Length l -> l.metres();
      case Enum<?> e -> kebab(e.toString());
      case double[] d -> {
        List<Double> list = new ArrayList<>();
        for (double x : d) {
          list.add(x);
        }
        yield list;
      }
      case List<?> l -> l.stream().map(PlainValues::write).toList();
      case Record r -> write(r);
      default -> v;
    };
  }
}
