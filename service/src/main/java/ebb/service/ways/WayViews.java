package ebb.service.ways;

import ebb.api.OffAccountView;
import ebb.api.WayView;
import ebb.core.application.Level;
import ebb.core.person.PersonId;
import ebb.service.connections.Connections;
import ebb.service.web.AccountViews;
import ebb.service.web.Problems;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.WaysFound;
import ebb.store.applications.WaysFound.Found;
import ebb.store.applications.WaysFound.Look;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Suspended accounts, each with what is still open to it. */
@Component
public final class WayViews {
  private static final String NOT_KNOWN = "not known";
  private static final String BEING_ASKED = "being asked";
  private static final String STILL_OPEN = "still open";
  private static final String OFF = "off";

  private final Connections connections;
  private final Accounts accounts;
  private final WaysFound found;

  WayViews(Connections connections, Accounts accounts, WaysFound found) {
    this.connections = connections;
    this.accounts = accounts;
    this.found = found;
  }

  /** The suspended accounts of these people; people without any have an empty list. */
  public Map<PersonId, List<OffAccountView>> of(
      StatelessSession session, Collection<PersonId> people) {
    var all = accounts.of(session, people);
    var looks =
        found.of(
            session,
            all.values().stream()
                .flatMap(List::stream)
                .filter(WayViews::isOff)
                .map(Account::id)
                .toList());
    var owners = owners(session, looks.values());
    var views = new TreeMap<PersonId, List<OffAccountView>>();
    people.forEach(
        person ->
            views.put(
                person,
                all.getOrDefault(person, List.of()).stream()
                    .filter(WayViews::isOff)
                    .map(account -> view(account, looks.get(account.id()), owners))
                    .toList()));
    return views;
  }

  /** Whether anything is still open to an account: off, still open, being asked or not known. */
  public String standing(StatelessSession session, Account account) {
    return standing(account, found.of(session, List.of(account.id())).get(account.id()));
  }

  private static boolean isOff(Account account) {
    return account.level() == Level.SUSPENDED && !account.observed().usable();
  }

  /** Whose the accounts are that are ways in, by their numbers. */
  private Map<Long, PersonId> owners(StatelessSession session, Collection<Look> looks) {
    var numbers =
        looks.stream()
            .flatMap(look -> look.ways().stream())
            .flatMap(way -> WaysFound.accountOf(way.way()).stream())
            .collect(Collectors.toSet());
    return numbers.isEmpty()
        ? Map.of()
        : accounts.getAll(session, numbers).values().stream()
            .filter(account -> account.person() != null)
            .collect(Collectors.toMap(Account::id, Account::person));
  }

  private OffAccountView view(Account account, Look look, Map<Long, PersonId> owners) {
    return new OffAccountView(
        account.id(),
        account.application(),
        AccountViews.name(account),
        standing(account, look),
        look == null ? 0 : look.sessions(),
        look == null ? List.of() : look.ways().stream().map(way -> view(way, owners)).toList(),
        account.observed().seats(),
        look == null ? null : look.askedAt(),
        look == null ? null : Problems.view(look.problem()));
  }

  private String standing(Account account, Look look) {
    if (look == null) {
      // It was off before Ebb knew of it, and nobody has asked.
      return NOT_KNOWN;
    }
    if (look.askedAt() == null) {
      return BEING_ASKED;
    }
    if (look.isOpen()) {
      return STILL_OPEN;
    }
    return WayWatch.saysWaysIn(connections.capabilities(account.application())) ? OFF : NOT_KNOWN;
  }

  private static WayView view(Found way, Map<Long, PersonId> owners) {
    var owner = WaysFound.accountOf(way.way()).map(owners::get).map(PersonId::value);
    return new WayView(
        way.way(),
        way.kind(),
        way.what(),
        owner.orElse(null),
        way.foundAt(),
        way.waivedBy(),
        way.waivedAt(),
        way.reason());
  }
}
