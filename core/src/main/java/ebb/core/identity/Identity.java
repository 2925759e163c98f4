package ebb.core.identity;

import ebb.core.imports.Source;
import ebb.core.person.Assertions;
import ebb.core.person.Attributes;
import ebb.core.person.Grant;
import ebb.core.person.PersonId;
import ebb.core.person.Suspension;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.TreeMap;

/**
 * All that makes a record of a person.
 *
 * @param name for people to read
 * @param said what each source says, hands included; a source that says nothing is left out
 * @param keys by which sources know the person
 * @param grants that were not ended
 * @param suspensions that were not ended
 * @param readers what others' sources say of those who may name this person as their manager
 */
public record Identity(
    PersonId id,
    String name,
    List<Assertions> said,
    List<Key> keys,
    List<Grant> grants,
    List<Suspension> suspensions,
    List<Assertions> readers) {
  /** A key in a source. */
  public record Key(String source, String key) {}

  public Identity {
    said = List.copyOf(said);
    keys = List.copyOf(keys);
    grants = List.copyOf(grants);
    suspensions = List.copyOf(suspensions);
    readers = List.copyOf(readers);
  }

  Optional<Assertions> of(String source) {
    return said.stream().filter(one -> one.source().equals(source)).findFirst();
  }

  Assertions byHand() {
    return of(Source.HAND).orElseGet(() -> Assertions.none(id, Source.HAND));
  }

  List<Assertions> fromSources() {
    return said.stream().filter(one -> !one.source().equals(Source.HAND)).toList();
  }

  List<Key> keysOf(String source) {
    return keys.stream().filter(key -> key.source().equals(source)).toList();
  }

  /** What was said of those whose manager this person is. */
  List<Assertions> reports() {
    return readers.stream().filter(this::namesAsManager).toList();
  }

  private boolean namesAsManager(Assertions said) {
    var manager = said.values().get(Attributes.MANAGER);
    return manager != null && manager.value().equals(id.toString());
  }

  static Map<String, String> texts(Assertions said) {
    var texts = new TreeMap<String, String>();
    said.values().forEach((attribute, asserted) -> texts.put(attribute, asserted.value()));
    return texts;
  }

  /** The edits after which a source says this, and nothing more. */
  static Map<String, String> to(Assertions now, Map<String, String> then) {
    var edits = new TreeMap<String, String>();
    now.values().keySet().forEach(attribute -> edits.put(attribute, null));
    edits.putAll(then);
    return now.changing(edits);
  }
}
