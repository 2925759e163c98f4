package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.SearchResultEntry;
import ebb.core.application.Instruction;
import ebb.core.application.References;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.List;

/** What refers to an entry, found by search: RFC 4519 and RFC 2798 have the attributes. */
final class LdapReferences implements References {
  private final Directory directory;
  private final Entries entries;

  LdapReferences(Directory directory, Entries entries) {
    this.directory = directory;
    this.entries = entries;
  }

  @Override
  public List<Reference> to(String accountId) throws Unreachable {
    var found = entries.byId(accountId);
    if (found.isEmpty()) {
      return List.of();
    }
    var dn = found.get().getDN();
    var attributes = entries.references(directory.features()).toList();
    var filter =
        Filter.createORFilter(
            attributes.stream().map(one -> Filter.createEqualityFilter(one, dn)).toList());
    var read = new ArrayList<>(attributes);
    read.addAll(List.of("cn", "ou", "objectClass"));
    read.addAll(directory.settings().usable().read());
    var references = new ArrayList<Reference>();
    for (var base : directory.settings().basesOfReferences()) {
      for (var entry : directory.search(base, filter, read.toArray(String[]::new))) {
        if (!isOff(entry)) {
          attributes.stream()
              .filter(one -> Entries.refers(entry, one, dn) && !isGiven(one, entry))
              .map(one -> new Reference(one, "%s of %s".formatted(one, Entries.name(entry))))
              .forEach(references::add);
        }
      }
    }
    return references;
  }

  @Override
  public boolean followOn(Instruction instruction) {
    var settings = directory.settings();
    return switch (instruction) {
      case Instruction.Update(_, var values, _) ->
          values.keySet().stream().anyMatch(name -> isOfName(settings, name));
      case Instruction.SetUsable _ -> settings.usable() instanceof Switch.Place;
      default -> false;
    };
  }

  private static boolean isOfName(LdapSettings settings, String name) {
    return name.equals(LdapSettings.CONTAINER)
        || settings.naming().equalsIgnoreCase(settings.attributes().getOrDefault(name, name));
  }

  private boolean isOff(SearchResultEntry entry) throws Unreachable {
    try {
      return directory.settings().usable().isOff(entry);
    } catch (LDAPException e) {
      throw new Unreachable(directory.problem(e), e);
    }
  }

  /** Being among those to whom a group is given as its owners is being a member of that. */
  private boolean isGiven(String attribute, SearchResultEntry entry) {
    return directory.settings().givesOwners()
        && attribute.equals(LdapGroups.OWNER)
        && LdapGroups.isGroup(entry);
  }
}
