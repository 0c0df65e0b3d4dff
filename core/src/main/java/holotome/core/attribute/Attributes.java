package holotome.core.attribute;

import holotome.core.attribute.Attribute.Domain;
import holotome.core.attribute.Attribute.Kind;
import java.util.ArrayList;
import java.util.Iterator;
import java.util.List;
import java.util.Objects;
import java.util.stream.Stream;

/** The attributes of one mesh, each under its own name, in the order they were added. */
public final class Attributes implements Iterable<Attribute> {
  public static final Attributes NONE = new Attributes(List.of());

  private final List<Attribute> list;

  private Attributes(List<Attribute> list) {
    this.list = list;
  }

  /** Those given, leaving out nulls. */
  public static Attributes of(Attribute... some) {
    Attributes all = NONE;
    for (Attribute a : some) {
      all = a == null ? all : all.with(a);
    }
    return all;
  }

  public boolean isEmpty() {
    return list.isEmpty();
  }

  /** The one of that name; null for none. */
  public Attribute named(String name) {
    return list.stream().filter(a -> a.name().equals(name)).findFirst().orElse(null);
  }

  /** The first of a kind on a domain; null for none. */
  public Attribute first(Kind kind, Domain domain) {
    return list.stream()
        .filter(a -> a.kind() == kind && a.domain() == domain)
        .findFirst()
        .orElse(null);
  }

  /** All of a kind. */
  public List<Attribute> all(Kind kind) {
    return list.stream().filter(a -> a.kind() == kind).toList();
  }

  /** With one more, or the one of its name replaced in its place. */
  public Attributes with(Attribute a) {
    List<Attribute> out = new ArrayList<>(list);
    for (int i = 0; i < out.size(); i++) {
      if (out.get(i).name().equals(a.name())) {
        out.set(i, a);
        return new Attributes(List.copyOf(out));
      }
    }
    out.add(a);
    return new Attributes(List.copyOf(out));
  }

  public Attributes without(String name) {
    return new Attributes(list.stream().filter(a -> !a.name().equals(name)).toList());
  }

  /** Without those of a kind. */
  public Attributes without(Kind kind) {
    return new Attributes(list.stream().filter(a -> a.kind() != kind).toList());
  }

  public Stream<Attribute> stream() {
    return list.stream();
  }

  @Override
  public Iterator<Attribute> iterator() {
    return list.iterator();
  }

  public int size() {
    return list.size();
  }

  /** Bytes held by all arrays. */
  public long bytes() {
    return list.stream().mapToLong(Attribute::bytes).sum();
  }

  /** Equal when each is, in the same order. */
  public boolean sameAs(Attributes o) {
    if (list.size() != o.list.size()) {
      return false;
    }
    for (int i = 0; i < list.size(); i++) {
      if (!list.get(i).sameAs(o.list.get(i))) {
        return false;
      }
    }
    return true;
  }

  @Override
  public String toString() {
    return String.join(", ", list.stream().map(Objects::toString).toList());
  }
}
