package ebb.service.ways;

import ebb.core.application.WaysIn.Way;
import ebb.core.change.Finding;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.web.AccountViews;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.WaysFound;
import ebb.store.people.StoredPerson;
import ebb.store.people.TechnicalIdentities;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/**
 * Accounts in use by which whoever owns one that is off may get in all the same: those of technical
 * identities they answer for, and a second one that nobody has said is theirs. No application can
 * say so, and none can shut them without stopping what depends on them.
 */
@Component
final class OtherAccounts {
  private static final String TECHNICAL = "technical identity";
  private static final String SECOND = "second account";

  /** So many that are somebody's second one are looked through in an application. */
  private static final int MOST = 500;

  private final Accounts accounts;
  private final TechnicalIdentities identities;

  OtherAccounts(Accounts accounts, TechnicalIdentities identities) {
    this.accounts = accounts;
    this.identities = identities;
  }

  /** Those of these people who may have some. */
  Set<PersonId> having(StatelessSession session, Collection<Account> off) {
    var having =
        identities.keepersAmong(
            session, off.stream().map(Account::person).collect(Collectors.toSet()));
    off.stream()
        .map(Account::application)
        .distinct()
        .flatMap(application -> seconds(session, application).stream())
        .map(OtherAccounts::likeliest)
        .forEach(having::add);
    return having;
  }

  /**
   * The ways in that these accounts are to one that is off. What a technical identity has where its
   * keeper has nothing stands with the oldest account of the keeper.
   */
  List<Way> of(StatelessSession session, Account off) {
    var ways = new ArrayList<Way>();
    var own = accounts.of(session, List.of(off.person())).getOrDefault(off.person(), List.of());
    for (var technical : identities.of(session, off.person())) {
      accounts
          .of(session, List.of(technical.person().id()))
          .getOrDefault(technical.person().id(), List.of())
          .stream()
          .filter(OtherAccounts::isInUse)
          .filter(account -> standsWith(account, own) == off.id())
          .map(account -> way(account, TECHNICAL, name(technical, account)))
          .forEach(ways::add);
    }
    seconds(session, off.application()).stream()
        .filter(account -> off.person().equals(likeliest(account)))
        .map(account -> way(account, SECOND, AccountViews.name(account)))
        .forEach(ways::add);
    return ways;
  }

  private static long standsWith(Account account, List<Account> own) {
    return own.stream()
        .filter(one -> one.level().exists())
        .min(
            Comparator.comparing((Account one) -> !one.application().equals(account.application()))
                .thenComparing(Account::id))
        .map(Account::id)
        .orElse(0L);
  }

  private List<Account> seconds(StatelessSession session, String application) {
    return accounts.next(session, application, Finding.DUPLICATE, 0, MOST).stream()
        .filter(OtherAccounts::isInUse)
        .toList();
  }

  private static boolean isInUse(Account account) {
    return account.level().exists() && account.observed().usable();
  }

  private static PersonId likeliest(Account account) {
    return account.likely().getFirst().person();
  }

  private static String name(StoredPerson technical, Account account) {
    return technical.displayName() + " in " + account.application();
  }

  private static Way way(Account account, String kind, String what) {
    return new Way(WaysFound.idOf(account.id()), kind, what);
  }

  static Refusal notToBeShut() {
    return Refusal.conflict(
        new Problem(
            "way-in-is-an-account",
            "This way in is an account of its own.",
            "What depends on it would stop.",
            "Name somebody else who answers for it, suspend it, or say that it may stay open.",
            null));
  }
}
