package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.RDN;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import ebb.core.application.ObservedGroup;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Stream;

/**
 * Groups by member (groupOfNames) or uniqueMember (groupOfUniqueNames; RFC 4519, 3.5 and 3.6).
 * Where the settings say so, those who own a group (RFC 4519, 2.21) are a group of their own, by
 * the name of "owners of" it: rules and grants give it as they give any other.
 */
final class LdapGroups {
  private static final String[] MEMBERS = {"member", "uniqueMember"};
  static final String OWNER = "owner";
  static final String[] READ = {Entries.ID, "cn", OWNER, MEMBERS[0], MEMBERS[1]};
  private static final String OWNERS_OF = "owners of ";
  private static final String OWNERS_ID = "/owners";

  private final Directory directory;
  private final LdapSettings settings;

  LdapGroups(Directory directory) {
    this.directory = directory;
    this.settings = directory.settings();
  }

  boolean areKept() {
    return settings.groups() != null;
  }

  private boolean holdsOwners() {
    return areKept() && settings.givesOwners();
  }

  static Filter isGroup() {
    return Filter.createORFilter(
        Filter.createEqualityFilter("objectClass", "groupOfNames"),
        Filter.createEqualityFilter("objectClass", "groupOfUniqueNames"));
  }

  static boolean isGroup(SearchResultEntry entry) {
    return entry.hasObjectClass("groupOfNames") || entry.hasObjectClass("groupOfUniqueNames");
  }

  private static Filter having(String dn) {
    return Filter.createORFilter(
        Filter.createEqualityFilter(MEMBERS[0], dn), Filter.createEqualityFilter(MEMBERS[1], dn));
  }

  private static Filter ownedBy(String dn) {
    return Filter.createANDFilter(isGroup(), Filter.createEqualityFilter(OWNER, dn));
  }

  /** The permanent identifiers of all that a group's entry stands for. */
  List<String> idsOf(String id) {
    return settings.givesOwners() ? List.of(id, id + OWNERS_ID) : List.of(id);
  }

  /**
   * A group that an entry stands for: itself, or those who own it.
   *
   * @param members names of entries
   * @param owners names of entries; none of owners
   */
  record Shown(String id, String name, List<String> members, List<String> owners) {}

  List<Shown> shown(SearchResultEntry group) {
    var id = group.getAttributeValue(Entries.ID);
    var name = group.getAttributeValue("cn");
    var owners = Entries.texts(group, OWNER);
    var itself = new Shown(id, name, members(group), owners);
    return settings.givesOwners()
        ? List.of(itself, new Shown(id + OWNERS_ID, OWNERS_OF + name, owners, List.of()))
        : List.of(itself);
  }

  /** The names of the groups an entry is in. */
  SortedSet<String> of(String dn) throws Unreachable {
    var names = new TreeSet<String>();
    if (areKept()) {
      directory
          .search(settings.groups(), having(dn), "cn")
          .forEach(group -> names.add(group.getAttributeValue("cn")));
    }
    if (holdsOwners()) {
      directory
          .search(settings.groups(), ownedBy(dn), "cn")
          .forEach(group -> names.add(OWNERS_OF + group.getAttributeValue("cn")));
    }
    return names;
  }

  /** Who is in which groups, as far as it was read. */
  static final class Memberships {
    private final Map<String, SortedSet<String>> ofMembers = new HashMap<>();
    private final Map<String, String> names = new HashMap<>();
    private final List<Head> groups = new ArrayList<>();

    private record Head(String id, String name, List<String> owners) {}

    private void add(SearchResultEntry entry, List<Shown> shown) {
      names.put(Entries.normal(entry.getDN()), shown.getFirst().name());
      for (var group : shown) {
        groups.add(new Head(group.id(), group.name(), group.owners()));
        for (var member : group.members()) {
          ofMembers.computeIfAbsent(Entries.normal(member), _ -> new TreeSet<>()).add(group.name());
        }
      }
    }

    /** The groups an entry is in; asked once for each, as what is left is nobody's entry. */
    SortedSet<String> take(String dn) {
      var names = ofMembers.remove(Entries.normal(dn));
      return names == null ? new TreeSet<>() : names;
    }

    /** The groups, once all entries of people were taken. */
    List<ObservedGroup> observed(Entries entries, Known known) throws Unreachable {
      var inner = new HashMap<String, SortedSet<String>>();
      var strangers = new HashMap<String, SortedSet<String>>();
      ofMembers.forEach(
          (member, of) -> {
            var group = names.get(member);
            for (var name : of) {
              (group == null ? strangers : inner)
                  .computeIfAbsent(name, _ -> new TreeSet<>())
                  .add(group == null ? member : group);
            }
          });
      var all = new ArrayList<ObservedGroup>();
      for (var group : groups) {
        all.add(
            new ObservedGroup(
                group.id(),
                group.name(),
                entries.ids(group.owners(), known),
                inner.getOrDefault(group.name(), new TreeSet<>()),
                strangers.getOrDefault(group.name(), new TreeSet<>())));
      }
      return all;
    }
  }

  Memberships all() throws Unreachable {
    var memberships = new Memberships();
    if (areKept()) {
      directory.pages(
          settings.groups(), isGroup(), group -> memberships.add(group, shown(group)), READ);
      memberships.ofMembers.remove(Entries.normal(settings.emptyGroup().toString()));
    }
    return memberships;
  }

  /** Only what these entries are in. */
  Memberships of(List<String> names) throws Unreachable {
    var memberships = new Memberships();
    if (areKept()) {
      var any = Filter.createORFilter(names.stream().flatMap(this::joining).toList());
      directory.pages(settings.groups(), any, group -> memberships.add(group, shown(group)), READ);
    }
    return memberships;
  }

  private Stream<Filter> joining(String dn) {
    return settings.givesOwners() ? Stream.of(having(dn), ownedBy(dn)) : Stream.of(having(dn));
  }

  /** What a group is called; empty if that is no group. */
  Optional<String> nameOf(String dn) throws Unreachable {
    return directory
        .reading(connection -> connection.searchForEntry(dn, SearchScope.BASE, isGroup(), "cn"))
        .map(group -> group.getAttributeValue("cn"));
  }

  boolean isPlaceholder(String dn) {
    return Entries.normal(dn).equals(Entries.normal(settings.emptyGroup().toString()));
  }

  private static List<String> members(SearchResultEntry group) {
    return Stream.of(MEMBERS).flatMap(one -> Entries.texts(group, one).stream()).toList();
  }

  void join(String dn, String name) throws LDAPException {
    var place = named(name);
    try {
      modify(place.group(), new Modification(ModificationType.ADD, place.attribute(), dn));
    } catch (LDAPException e) {
      if (e.getResultCode() != ResultCode.ATTRIBUTE_OR_VALUE_EXISTS) {
        throw e;
      }
    }
  }

  void leave(String dn, String name) throws LDAPException {
    leave(dn, named(name));
  }

  /** Not every directory keeps references in step when an entry goes. */
  void leaveAll(String dn) throws LDAPException {
    for (var group : withMember(dn)) {
      leave(dn, new Place(group, attribute(group)));
    }
    if (holdsOwners()) {
      for (var group : directory.searchForWrite(settings.groups(), ownedBy(dn), "1.1")) {
        leave(dn, new Place(group, OWNER));
      }
    }
  }

  /** Nor when one is renamed. */
  void follow(SearchResultEntry group, String before, String after) throws LDAPException {
    var attribute = attribute(group);
    try {
      modify(
          group,
          new Modification(ModificationType.DELETE, attribute, before),
          new Modification(ModificationType.ADD, attribute, after));
    } catch (LDAPException e) {
      if (!isDone(e)) {
        throw e;
      }
    }
  }

  /** The server, or somebody else, was faster. */
  static boolean isDone(LDAPException e) {
    return e.getResultCode() == ResultCode.ATTRIBUTE_OR_VALUE_EXISTS
        || e.getResultCode() == ResultCode.NO_SUCH_ATTRIBUTE;
  }

  List<SearchResultEntry> withMember(String dn) throws LDAPException {
    return areKept()
        ? directory.searchForWrite(settings.groups(), having(dn), "objectClass", "cn")
        : List.of();
  }

  private void leave(String dn, Place place) throws LDAPException {
    var leaving = new Modification(ModificationType.DELETE, place.attribute(), dn);
    try {
      modify(place.group(), leaving);
    } catch (LDAPException e) {
      if (e.getResultCode() == ResultCode.OBJECT_CLASS_VIOLATION) {
        // The last one: such a group must not be empty.
        var placeholder = settings.emptyGroup().toString();
        modify(
            place.group(),
            new Modification(ModificationType.ADD, place.attribute(), placeholder),
            leaving);
      } else if (e.getResultCode() != ResultCode.NO_SUCH_ATTRIBUTE) {
        throw e;
      }
    }
  }

  /** The attribute by which one joins what a name stands for, and the entry that has it. */
  private record Place(SearchResultEntry group, String attribute) {}

  private Place named(String name) throws LDAPException {
    var itself = withName(name);
    if (itself.isPresent()) {
      return new Place(itself.get(), attribute(itself.get()));
    }
    if (settings.givesOwners() && name.startsWith(OWNERS_OF)) {
      var owned = withName(name.substring(OWNERS_OF.length()));
      if (owned.isPresent()) {
        return new Place(owned.get(), OWNER);
      }
    }
    var dn = new DN(new RDN("cn", name), settings.groups());
    throw new LDAPException(ResultCode.NO_SUCH_OBJECT, "There is no group " + dn);
  }

  private Optional<SearchResultEntry> withName(String name) throws LDAPException {
    var filter = Filter.createANDFilter(isGroup(), Filter.createEqualityFilter("cn", name));
    return directory.searchForWrite(settings.groups(), filter, "objectClass").stream().findFirst();
  }

  static String attribute(SearchResultEntry group) {
    return group.hasObjectClass("groupOfUniqueNames") ? MEMBERS[1] : MEMBERS[0];
  }

  private void modify(SearchResultEntry group, Modification... modifications) throws LDAPException {
    var request = new ModifyRequest(group.getDN(), modifications);
    directory.write(request::toLDIFString, pool -> pool.modify(request));
  }
}
