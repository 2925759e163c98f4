package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Entry;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.RDN;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * The entries of people, and what they say in the names rules use. They are known by entryUUID (RFC
 * 4530), which outlives a rename; distinguished names are looked up when they are needed.
 */
final class Entries {
  static final String ID = "entryUUID";

  /** Only what the server keeps of itself (RFC 4512, 3.4). */
  static final String CHANGED_AT = "modifyTimestamp";

  static final String CHANGED_BY = "modifiersName";

  private final Directory directory;
  private final LdapSettings settings;
  private final String[] read;

  private volatile OfSchema ofSchema;

  Entries(Directory directory) {
    this.directory = directory;
    this.settings = directory.settings();
    this.read = read(settings);
  }

  /** All that is asked for of an entry. */
  String[] read() {
    return read.clone();
  }

  private static String[] read(LdapSettings settings) {
    var names = new TreeSet<>(settings.attributes().values());
    names.addAll(List.of(ID, settings.origin(), CHANGED_AT, CHANGED_BY));
    names.addAll(settings.usable().read());
    return names.toArray(String[]::new);
  }

  Filter person() {
    return Filter.createEqualityFilter("objectClass", settings.objectClasses().getFirst());
  }

  Optional<SearchResultEntry> byId(String id) throws Unreachable {
    return byId(id, read());
  }

  Optional<SearchResultEntry> byId(String id, String... names) throws Unreachable {
    return one(Filter.createEqualityFilter(ID, id), names);
  }

  Optional<SearchResultEntry> byOrigin(String origin) throws Unreachable {
    return one(Filter.createEqualityFilter(settings.origin(), origin), read());
  }

  private Optional<SearchResultEntry> one(Filter filter, String... names) throws Unreachable {
    for (var base : settings.bases()) {
      var found =
          directory.search(base, Filter.createANDFilter(person(), filter), names).stream()
              .findFirst();
      if (found.isPresent()) {
        return found;
      }
    }
    return Optional.empty();
  }

  /**
   * The entry a write is about.
   *
   * @throws LDAPException if there is none
   */
  SearchResultEntry toWrite(String id, String... attributes) throws LDAPException {
    var filter = Filter.createANDFilter(person(), Filter.createEqualityFilter(ID, id));
    for (var base : settings.bases()) {
      for (var found : directory.searchForWrite(base, filter, attributes)) {
        return found;
      }
    }
    throw noSuchEntry(id);
  }

  static LDAPException noSuchEntry(String id) {
    return new LDAPException(ResultCode.NO_SUCH_OBJECT, "There is no entry with the id " + id);
  }

  /** What an entry says in the names rules use. */
  ObservedAccount observed(Entry entry, SortedSet<String> groups) throws Unreachable {
    return observed(entry, groups, new Known(directory));
  }

  ObservedAccount observed(Entry entry, SortedSet<String> groups, Known known) throws Unreachable {
    var values = new TreeMap<String, List<String>>();
    for (var mapped : mapped()) {
      var texts = entry.getAttributeValues(mapped.attribute());
      if (texts != null) {
        values.put(
            mapped.name(), mapped.isReference() ? ids(List.of(texts), known) : List.of(texts));
      }
    }
    try {
      if (settings.containers() != null) {
        values.put(LdapSettings.CONTAINER, container(entry.getParsedDN()));
      }
      return new ObservedAccount(
          entry.getAttributeValue(ID),
          entry.getAttributeValue(settings.origin()),
          !settings.usable().isOff(entry),
          values,
          groups);
    } catch (LDAPException e) {
      throw new Unreachable(directory.problem(e), e);
    }
  }

  /** An attribute by the name rules use, and by the directory's. */
  private record Mapped(String name, String attribute, boolean isReference) {}

  /** All of them, as of one look at the schema. */
  private record OfSchema(LdapFeatures features, List<Mapped> mapped) {}

  private List<Mapped> mapped() throws Unreachable {
    var features = directory.features();
    var known = ofSchema;
    if (known == null || known.features() != features) {
      known =
          new OfSchema(
              features,
              settings.attributes().entrySet().stream()
                  .map(
                      one ->
                          new Mapped(
                              one.getKey(), one.getValue(), features.isReference(one.getValue())))
                  .toList());
      ofSchema = known;
    }
    return known.mapped();
  }

  List<String> ids(List<String> names, Known known) throws Unreachable {
    var ids = new ArrayList<String>();
    for (var name : names) {
      ids.add(known.id(name));
    }
    return ids;
  }

  /** The id of an entry, if it is a person's. */
  Optional<String> person(String dn) throws Unreachable {
    return directory
        .reading(connection -> connection.searchForEntry(dn, SearchScope.BASE, person(), ID))
        .map(entry -> entry.getAttributeValue(ID));
  }

  /** The units an entry stands below, from the top: none if it stands right below the base. */
  private List<String> container(DN dn) {
    var base =
        settings.bases().stream()
            .filter(one -> dn.isDescendantOf(one, false))
            .reduce((one, other) -> one.isDescendantOf(other, false) ? one : other)
            .orElseThrow();
    var units = new ArrayList<String>();
    for (var parent = dn.getParent(); !parent.equals(base); parent = parent.getParent()) {
      units.addFirst(parent.getRDN().getAttributeValues()[0].replace("/", "\\/"));
    }
    return units.isEmpty() ? List.of() : List.of(String.join("/", units));
  }

  /** The way back: the name of the entry of a unit, below a base. */
  DN container(DN base, String path) {
    var dn = base;
    for (var unit : path.split("(?<!\\\\)/")) {
      if (!unit.isBlank()) {
        dn = new DN(new RDN(settings.containers(), unit.replace("\\/", "/")), dn);
      }
    }
    return dn;
  }

  /** Names as they can be compared (RFC 4514, RFC 4518). */
  static String normal(String dn) {
    if (isPlain(dn)) {
      // What comes out is the same; taking a name apart takes ten times as long.
      return dn.toLowerCase(Locale.ROOT);
    }
    try {
      return DN.normalize(dn);
    } catch (LDAPException _) {
      return dn.toLowerCase(Locale.ROOT);
    }
  }

  /** Letters, digits, and single spaces within a value, with nothing that could be escaped. */
  private static boolean isPlain(String dn) {
    var before = ',';
    var isInValue = false;
    for (int i = 0; i < dn.length(); i++) {
      var c = dn.charAt(i);
      var isPart = isWord(c) || (c == ' ' && isInValue) || c == (isInValue ? ',' : '=');
      if (!isPart || (!isWord(c) && !isWord(before))) {
        return false;
      }
      isInValue = c == '=' || (isInValue && c != ',');
      before = c;
    }
    return isWord(before);
  }

  private static boolean isWord(char c) {
    return (c >= 'a' && c <= 'z')
        || (c >= 'A' && c <= 'Z')
        || (c >= '0' && c <= '9')
        || c == '-'
        || c == '.'
        || c == '_'
        || c == '@';
  }

  Stream<String> references(LdapFeatures features) {
    return Stream.concat(
            Stream.of("manager", "owner", "seeAlso", "secretary"),
            settings.attributes().values().stream().filter(features::isReference))
        .filter(features::knows)
        .distinct();
  }

  static boolean refers(Entry entry, String attribute, String dn) {
    var normal = normal(dn);
    return texts(entry, attribute).stream().anyMatch(text -> normal(text).equals(normal));
  }

  /** What people call it. */
  static String name(Entry entry) {
    return entry.hasAttribute("cn")
        ? entry.getAttributeValue("cn")
        : entry.hasAttribute("ou") ? entry.getAttributeValue("ou") : entry.getDN();
  }

  static List<String> texts(Entry entry, String attribute) {
    var texts = entry.getAttributeValues(attribute);
    return texts == null ? List.of() : Arrays.asList(texts);
  }
}
