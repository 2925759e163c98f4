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
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.SortedSet;
import java.util.TreeSet;
import java.util.stream.Stream;

/** Groups by member (groupOfNames) or uniqueMember (groupOfUniqueNames; RFC 4519, 3.5 and 3.6). */
final class LdapGroups {
  private static final String[] MEMBERS = {"member", "uniqueMember"};
  static final String[] READ = {Entries.ID, "cn", "owner", "member", "uniqueMember"};

  private final Directory directory;
  private final LdapSettings settings;

  LdapGroups(Directory directory) {
    this.directory = directory;
    this.settings = directory.settings();
  }

  boolean areKept() {
    return settings.groups() != null;
  }

  static Filter isGroup() {
    return Filter.createORFilter(
        Filter.createEqualityFilter("objectClass", "groupOfNames"),
        Filter.createEqualityFilter("objectClass", "groupOfUniqueNames"));
  }

  private static Filter having(String dn) {
    return Filter.createORFilter(
        Filter.createEqualityFilter(MEMBERS[0], dn), Filter.createEqualityFilter(MEMBERS[1], dn));
  }

  /** The names of the groups an entry is in. */
  SortedSet<String> of(String dn) throws Unreachable {
    var names = new TreeSet<String>();
    if (areKept()) {
      directory
          .search(settings.groups(), having(dn), "cn")
          .forEach(group -> names.add(group.getAttributeValue("cn")));
    }
    return names;
  }

  /** Who is in which groups, as far as it was read. */
  static final class Memberships {
    private final Map<String, SortedSet<String>> ofMembers = new HashMap<>();
    private final Map<String, Head> groups = new LinkedHashMap<>();

    private record Head(String id, String name, List<String> owners) {}

    private void add(SearchResultEntry group) {
      var name = group.getAttributeValue("cn");
      var owners = Entries.texts(group, "owner");
      groups.put(
          Entries.normal(group.getDN()),
          new Head(group.getAttributeValue(Entries.ID), name, owners));
      members(group)
          .forEach(
              member ->
                  ofMembers
                      .computeIfAbsent(Entries.normal(member), _ -> new TreeSet<>())
                      .add(name));
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
          (member, names) -> {
            var group = groups.get(member);
            for (var name : names) {
              (group == null ? strangers : inner)
                  .computeIfAbsent(name, _ -> new TreeSet<>())
                  .add(group == null ? member : group.name());
            }
          });
      var all = new ArrayList<ObservedGroup>();
      for (var group : groups.values()) {
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
      directory.pages(settings.groups(), isGroup(), memberships::add, READ);
      memberships.ofMembers.remove(Entries.normal(settings.emptyGroup().toString()));
    }
    return memberships;
  }

  /** Only what these entries are in. */
  Memberships of(List<String> names) throws Unreachable {
    var memberships = new Memberships();
    if (areKept()) {
      var any = Filter.createORFilter(names.stream().map(LdapGroups::having).toList());
      directory.pages(settings.groups(), any, memberships::add, READ);
    }
    return memberships;
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

  static List<String> members(SearchResultEntry group) {
    return Stream.of(MEMBERS).flatMap(one -> Entries.texts(group, one).stream()).toList();
  }

  void join(String dn, String name) throws LDAPException {
    var group = named(name);
    try {
      modify(group, new Modification(ModificationType.ADD, attribute(group), dn));
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
      leave(dn, group);
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

  private void leave(String dn, SearchResultEntry group) throws LDAPException {
    var attribute = attribute(group);
    var leaving = new Modification(ModificationType.DELETE, attribute, dn);
    try {
      modify(group, leaving);
    } catch (LDAPException e) {
      if (e.getResultCode() == ResultCode.OBJECT_CLASS_VIOLATION) {
        // The last one: such a group must not be empty.
        var placeholder = settings.emptyGroup().toString();
        modify(group, new Modification(ModificationType.ADD, attribute, placeholder), leaving);
      } else if (e.getResultCode() != ResultCode.NO_SUCH_ATTRIBUTE) {
        throw e;
      }
    }
  }

  /** By its name as an entry where that is so, else looked for. */
  private SearchResultEntry named(String name) throws LDAPException {
    var filter = Filter.createANDFilter(isGroup(), Filter.createEqualityFilter("cn", name));
    var found = directory.searchForWrite(settings.groups(), filter, "objectClass");
    if (found.isEmpty()) {
      var dn = new DN(new RDN("cn", name), settings.groups());
      throw new LDAPException(ResultCode.NO_SUCH_OBJECT, "There is no group " + dn);
    }
    return found.getFirst();
  }

  private static String attribute(SearchResultEntry group) {
    return group.hasObjectClass("groupOfUniqueNames") ? MEMBERS[1] : MEMBERS[0];
  }

  private void modify(SearchResultEntry group, Modification... modifications) throws LDAPException {
    var request = new ModifyRequest(group.getDN(), modifications);
    directory.write(request::toLDIFString, pool -> pool.modify(request));
  }
}
