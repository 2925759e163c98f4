package ebb.service.ways;

import ebb.api.ErrandView;
import ebb.core.operator.Caller;
import ebb.core.person.PersonId;
import ebb.service.errand.Errands;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.WaysFound;
import ebb.store.applications.WaysFound.Look;
import ebb.store.people.People;
import ebb.store.people.StoredPerson;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** People whose accounts are off, and who still have a way in. */
@Component
final class WayErrands implements Errands {
  private final WaysFound found;
  private final Accounts accounts;
  private final People people;

  WayErrands(WaysFound found, Accounts accounts, People people) {
    this.found = found;
    this.accounts = accounts;
    this.people = people;
  }

  @Override
  public List<ErrandView> of(StatelessSession session, Caller caller) {
    var looks = found.of(session, found.open(session, MOST * 2));
    var byPerson =
        new TreeMap<PersonId, List<Account>>(
            accounts.getAll(session, looks.keySet()).values().stream()
                .filter(account -> account.person() != null)
                .collect(Collectors.groupingBy(Account::person)));
    var known = people.getAll(session, new TreeSet<>(byPerson.keySet()));
    return byPerson.entrySet().stream()
        .filter(entry -> known.containsKey(entry.getKey()))
        .filter(entry -> caller.reach().covers(known.get(entry.getKey()).person()))
        .map(entry -> errand(known.get(entry.getKey()), entry.getValue(), looks))
        .limit(MOST)
        .toList();
  }

  private static ErrandView errand(
      StoredPerson person, List<Account> accounts, Map<Long, Look> looks) {
    return new ErrandView(
        WAITING,
        "person",
        person.person().id().toString(),
        person.displayName() + " is switched off, and can still get in",
        accounts.stream()
            .map(account -> account.application() + ": " + words(looks.get(account.id())))
            .sorted()
            .collect(Collectors.joining("; ")),
        "Shut what is open",
        accounts.stream()
            .map(account -> looks.get(account.id()).askedAt())
            .filter(at -> at != null)
            .min(Comparator.naturalOrder())
            .orElse(null));
  }

  private static String words(Look look) {
    var words = new ArrayList<String>();
    if (look.sessions() > 0) {
      words.add(look.sessions() == 1 ? "a session" : look.sessions() + " sessions");
    }
    look.ways().stream()
        .filter(way -> !way.isWaived())
        .forEach(way -> words.add(way.kind() + " " + way.what()));
    return String.join(", ", words);
  }
}
