package ebb.connectors.ldap;

import com.unboundid.ldap.sdk.DN;
import com.unboundid.ldap.sdk.Filter;
import com.unboundid.ldap.sdk.LDAPException;
import com.unboundid.ldap.sdk.Modification;
import com.unboundid.ldap.sdk.ModificationType;
import com.unboundid.ldap.sdk.ModifyRequest;
import com.unboundid.ldap.sdk.SearchResultEntry;
import ebb.core.application.Outcome;
import ebb.core.application.Unreachable;
import ebb.core.problem.Problem;
import java.util.ArrayList;
import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/**
 * Carries along what refers to an entry that was renamed or moved: not every directory does that by
 * itself. Done twice, the second finds nothing left to carry.
 */
final class Following {
  /** As many as fit into a sentence somebody reads. */
  private static final int NAMED = 10;

  private final Directory directory;
  private final Entries entries;
  private final LdapGroups groups;
  private final LdapOutcomes outcomes;

  Following(Directory directory, Entries entries, LdapGroups groups, LdapOutcomes outcomes) {
    this.directory = directory;
    this.entries = entries;
    this.groups = groups;
    this.outcomes = outcomes;
  }

  /** Something that may not be written, and still has the name of before. */
  private record Left(String what, LDAPException why) {}

  private interface Carrying {
    void carry() throws LDAPException;
  }

  /**
   * @param before the names the entry had, or may have had
   * @return what could not follow, the rest having done so; empty if all did
   */
  Optional<Outcome> refusal(Collection<DN> before, DN now) throws LDAPException, Unreachable {
    var left = new ArrayList<Left>();
    for (var name : new HashSet<>(before)) {
      if (!name.equals(now) && isNobodys(name)) {
        left.addAll(one(name.toString(), now.toString()));
      }
    }
    return left.isEmpty() ? Optional.empty() : Optional.of(new Outcome.Refused(problem(left)));
  }

  /** What refers to a name that somebody else has by now is theirs. */
  private boolean isNobodys(DN name) throws Unreachable {
    return directory.entry(name.toString(), "1.1").isEmpty();
  }

  private Problem problem(List<Left> left) {
    return outcomes.leftBehind(
        left.size(),
        left.stream().limit(NAMED).map(Left::what).collect(Collectors.joining(", "))
            + (left.size() > NAMED ? " and more" : ""),
        left.getFirst().why());
  }

  private List<Left> one(String before, String now) throws LDAPException, Unreachable {
    var left = new ArrayList<Left>();
    for (var group : groups.withMember(before)) {
      follow("member of " + Entries.name(group), () -> groups.follow(group, before, now), left);
    }
    var references = entries.references(directory.features()).toList();
    var filter =
        Filter.createORFilter(
            references.stream().map(one -> Filter.createEqualityFilter(one, before)).toList());
    var read = Stream.concat(references.stream(), Stream.of("cn", "ou")).toArray(String[]::new);
    for (var base : directory.settings().basesOfReferences()) {
      for (var other : directory.searchForWrite(base, filter, read)) {
        for (var reference : references) {
          if (Entries.refers(other, reference, before)) {
            follow(
                "%s of %s".formatted(reference, Entries.name(other)),
                () -> follow(other, reference, before, now),
                left);
          }
        }
      }
    }
    return left;
  }

  private void follow(String what, Carrying carrying, List<Left> left) throws LDAPException {
    try {
      carrying.carry();
    } catch (LDAPException e) {
      if (!(outcomes.of(e) instanceof Outcome.Refused)) {
        throw e;
      }
      left.add(new Left(what, e));
    }
  }

  private void follow(SearchResultEntry other, String reference, String before, String now)
      throws LDAPException {
    var request =
        new ModifyRequest(
            other.getDN(),
            new Modification(ModificationType.DELETE, reference, before),
            new Modification(ModificationType.ADD, reference, now));
    try {
      directory.write(request::toLDIFString, pool -> pool.modify(request));
    } catch (LDAPException e) {
      if (!LdapGroups.isDone(e)) {
        throw e;
      }
    }
  }
}
