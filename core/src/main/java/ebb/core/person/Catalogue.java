package ebb.core.person;

import java.util.Collection;
import java.util.Collections;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Optional;
import java.util.SequencedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;

/** All attributes there are: those of the standards, and the organisation's own. */
public final class Catalogue {
  /** What there is before an organisation defines anything. */
  public static final Catalogue STANDARD = new Catalogue(Attributes.STANDARD);

  private final SequencedMap<String, Attribute> attributes = new LinkedHashMap<>();

  private Catalogue(Collection<Attribute> attributes) {
    attributes.forEach(attribute -> this.attributes.put(attribute.name(), attribute));
  }

  /** The standard attributes and these. One that has the name of another takes its place. */
  public static Catalogue with(Collection<Attribute> own) {
    var all = new Catalogue(Attributes.STANDARD);
    own.forEach(attribute -> all.attributes.put(attribute.name(), attribute));
    return all;
  }

  public Optional<Attribute> find(String name) {
    return Optional.ofNullable(attributes.get(name));
  }

  /** In the order in which people fill them in. */
  public List<Attribute> all() {
    return List.copyOf(attributes.values());
  }

  public SortedSet<String> names() {
    return Collections.unmodifiableSortedSet(new TreeSet<>(attributes.keySet()));
  }

  /** Without these nobody can be created, in the order of their names. */
  public List<String> required() {
    return new TreeMap<>(attributes)
        .values().stream().filter(Attribute::required).map(Attribute::name).toList();
  }
}
