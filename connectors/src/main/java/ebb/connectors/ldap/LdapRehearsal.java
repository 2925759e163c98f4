package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPConnection;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.LDAPSearchException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.ResultCode;
import com.unboundid.ldap.sdk.SearchRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import com.unboundid.ldap.sdk.SearchScope;
import ebb.core.application.Inspection.Tried;
import ebb.core.application.Part;
import ebb.core.application.Unreachable;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.SortedMap;
import java.util.SortedSet;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.UUID;

/**
 * Tries what may be written without writing it. A value that no entry has is to be taken away: who
 * may do that is told that it is not there, and who may not is told that. A directory carries a
 * request out as a whole or not at all (RFC 4511, 4.6), so that nothing is changed.
 */
final class LdapRehearsal {
  /** What one is told who may not write, or not there. */
  private static final Set<ResultCode> TURNED_AWAY =
      Set.of(
          ResultCode.INSUFFICIENT_ACCESS_RIGHTS,
          ResultCode.UNWILLING_TO_PERFORM,
          ResultCode.REFERRAL,
          ResultCode.STRONG_AUTH_REQUIRED,
          ResultCode.CONFIDENTIALITY_REQUIRED);

  private final Directory directory;
  private final LdapSettings settings;
  private final Entries entries;

  LdapRehearsal(Directory directory, Entries entries) {
    this.directory = directory;
    this.settings = directory.settings();
    this.entries = entries;
  }

  /**
   * What was found.
   *
   * @param denied names of attributes that may not be written, as rules have them
   */
  record Found(SortedSet<String> denied, List<Tried> tried) {}

  /** Nothing is found of a directory in which nobody is yet. */
  Found of(LdapFeatures features, Collection<String> writable) throws Unreachable {
    var denied = new TreeSet<String>();
    var tried = new ArrayList<Tried>();
    var person = first(settings.people(), entries.person());
    if (person.isPresent()) {
      tried.add(accounts(person.get().getDN(), features, writable, denied));
    }
    if (settings.groups() != null) {
      var group = first(settings.groups(), LdapGroups.isGroup());
      group.ifPresent(one -> tried.add(groups(one)));
    }
    return new Found(denied, tried);
  }

  private Tried accounts(
      String dn, LdapFeatures features, Collection<String> writable, Set<String> denied) {
    var takings = takings(features, writable);
    var refusal = refusal(dn, takings.values());
    if (refusal.isPresent()) {
      takings.forEach(
          (name, taking) -> {
            if (refusal(dn, List.of(taking)).isPresent()) {
              denied.add(name);
            }
          });
    }
    var isAll = refusal.isPresent() && denied.size() == takings.size();
    return tried("change accounts", refusal.filter(_ -> isAll), "nothing can be carried out there");
  }

  private SortedMap<String, Modification> takings(
      LdapFeatures features, Collection<String> writable) {
    var takings = new TreeMap<String, Modification>();
    for (var name : writable) {
      var attribute = settings.attributes().get(name);
      if (attribute != null) {
        nobodys(features, attribute)
            .ifPresent(
                value ->
                    takings.put(name, new Modification(ModificationType.DELETE, attribute, value)));
      }
    }
    return takings;
  }

  /** A value no entry has; empty for one of which an entry has one of few. */
  private Optional<String> nobodys(LdapFeatures features, String attribute) {
    var number = UUID.randomUUID().toString();
    if (features.isReference(attribute)) {
      return Optional.of("cn=%s,%s".formatted(number, settings.people()));
    }
    return features.isText(attribute) ? Optional.of(number) : Optional.empty();
  }

  private Tried groups(SearchResultEntry group) {
    var nobody = "cn=%s,%s".formatted(UUID.randomUUID(), settings.people());
    var leaving = new Modification(ModificationType.DELETE, LdapGroups.attribute(group), nobody);
    return tried("change groups", refusal(group.getDN(), List.of(leaving)), Part.GROUPS.without());
  }

  private Tried tried(String what, Optional<LDAPException> refusal, String without) {
    return refusal
        .map(e -> new Tried(what, directory.problem(e), without))
        .orElseGet(() -> Tried.works(what));
  }

  private Optional<LDAPException> refusal(String dn, Collection<Modification> takings) {
    if (takings.isEmpty()) {
      return Optional.empty();
    }
    var request = new ModifyRequest(dn, List.copyOf(takings));
    try {
      directory.write(request::toLDIFString, pool -> pool.modify(request));
      return Optional.empty();
    } catch (LDAPException e) {
      return TURNED_AWAY.contains(e.getResultCode()) ? Optional.of(e) : Optional.empty();
    }
  }

  private Optional<SearchResultEntry> first(DN base, Filter filter) throws Unreachable {
    return directory.reading(connection -> first(connection, base, filter));
  }

  private static SearchResultEntry first(LDAPConnection connection, DN base, Filter filter)
      throws LDAPException {
    var request = new SearchRequest(base.toString(), SearchScope.SUB, filter, "objectClass");
    request.setSizeLimit(1);
    try {
      return connection.search(request).getSearchEntries().stream().findFirst().orElse(null);
    } catch (LDAPSearchException e) {
      if (e.getResultCode() != ResultCode.SIZE_LIMIT_EXCEEDED) {
        throw e;
      }
      return e.getSearchEntries().stream().findFirst().orElse(null);
    }
  }
}
