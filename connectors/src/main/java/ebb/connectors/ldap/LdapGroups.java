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
import ebb.core.application.Unreachable;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.SortedSet;
import java.util.TreeSet;

/** Groups by member (groupOfNames) or uniqueMember (groupOfUniqueNames; RFC 4519, 3.5 and 3.6). */
final class LdapGroups {
  private static final String[] MEMBERS = {"member", "uniqueMember"};
  private static final String[] READ = {"cn", "member", "uniqueMember"};

  private final Directory directory;
  private final LdapSettings settings;

  LdapGroups(Directory directory) {
    this.directory = directory;
    this.settings = directory.settings();
  }

  boolean areKept() {
    return settings.groups() != null;
  }

  private static Filter groups() {
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

  /** The normalised name of each member to the groups it is in. */
  Map<String, SortedSet<String>> all() throws Unreachable {
    var memberships = new HashMap<String, SortedSet<String>>();
    if (areKept()) {
      directory.pages(settings.groups(), groups(), group -> add(memberships, group), READ);
    }
    return memberships;
  }

  private static void add(Map<String, SortedSet<String>> memberships, SearchResultEntry group) {
    var name = group.getAttributeValue("cn");
    for (var attribute : MEMBERS) {
      for (var member : Entries.texts(group, attribute)) {
        memberships.computeIfAbsent(Entries.normal(member), _ -> new TreeSet<>()).add(name);
      }
    }
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
  void follow(String before, String after) throws LDAPException {
    for (var group : withMember(before)) {
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
  }

  /** The server, or somebody else, was faster. */
  static boolean isDone(LDAPException e) {
    return e.getResultCode() == ResultCode.ATTRIBUTE_OR_VALUE_EXISTS
        || e.getResultCode() == ResultCode.NO_SUCH_ATTRIBUTE;
  }

  private List<SearchResultEntry> withMember(String dn) throws LDAPException {
    return areKept()
        ? directory.searchForWrite(settings.groups(), having(dn), "objectClass")
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
    var filter = Filter.createANDFilter(groups(), Filter.createEqualityFilter("cn", name));
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
