package holotome.core.words;

import java.io.IOException;
import java.io.InputStream;
import java.io.InputStreamReader;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.util.Map;
import java.util.MissingResourceException;
import java.util.PropertyResourceBundle;
import java.util.ResourceBundle;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.ConcurrentHashMap;
import java.util.function.Function;

/**
 * The words of one module, from its resource bundles: one file a language, UTF-8, each text a whole
 * sentence or name under a key, with places for figures and names as in {@link String#format}. A
 * translation may name the places in another order ("%2$s").
 *
 * <p>A text with a number of things has two keys, "….one" and "….other". What a translation lacks
 * is given in English.
 */
public final class Wording {
  private final Function<String, InputStream> files;
  private final String name;
  private final Map<Language, ResourceBundle> read = new ConcurrentHashMap<>();

  /**
   * @param files opens a file of the bundles by its name: resources are their own module's to open
   * @param name of the bundles: "name.properties", "name_de.properties"
   */
  public Wording(Function<String, InputStream> files, String name) {
    this.files = files;
    this.name = name;
  }

  /**
   * A text in the language spoken.
   *
   * @param args for its places; a text without any is given as it stands
   * @throws MissingResourceException if no language has it
   */
  public String of(String key, Object... args) {
    String text = text(key);
    return args.length == 0 ? text : Language.format(text, args);
  }

  /** A text about a number of things, which is its first place; the others follow. */
  public String count(String key, long n, Object... args) {
    Object[] all = new Object[args.length + 1];
    all[0] = n;
    System.arraycopy(args, 0, all, 1, args.length);
    return Language.format(text(key + (Language.now().isOne(n) ? ".one" : ".other")), all);
  }

  private String text(String key) {
    ResourceBundle spoken = bundle(Language.now());
    return spoken.containsKey(key)
        ? spoken.getString(key)
        : bundle(Language.ENGLISH).getString(key);
  }

  /** Whether there is such a text in any language. */
  public boolean has(String key) {
    return bundle(Language.now()).containsKey(key) || bundle(Language.ENGLISH).containsKey(key);
  }

  /** A text in the language spoken as it stands, or another where it has none. */
  public String or(String key, String otherwise) {
    ResourceBundle spoken = bundle(Language.now());
    return spoken.containsKey(key) ? spoken.getString(key) : otherwise;
  }

  /** The texts of a language by their keys. */
  public ResourceBundle bundle(Language language) {
    return read.computeIfAbsent(language, this::load);
  }

  /** All keys of a language, sorted. */
  public Set<String> keys(Language language) {
    return new TreeSet<>(bundle(language).keySet());
  }

  private ResourceBundle load(Language language) {
    String file = name + (language.code().isEmpty() ? "" : "_" + language.code()) + ".properties";
    try (InputStream in = files.apply(file)) {
      if (in == null) {
        throw new IllegalStateException("no words: " + file);
      }
      return new PropertyResourceBundle(new InputStreamReader(in, StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
