package ebb.service.sync;

import ebb.core.application.Application;
import ebb.core.change.Cause;
import ebb.core.change.ChangeSet;
import ebb.core.change.Finding;
import ebb.core.change.Input;
import ebb.core.operator.Reach;
import ebb.core.person.Person;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.service.changes.Proposals;
import ebb.service.people.HandEdits;
import ebb.service.time.BusinessClock;
import ebb.service.web.AccountViews;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.applications.Drifts;
import ebb.store.applications.LeftAlone;
import ebb.store.applications.Likely;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/**
 * Settles findings, many at once. What would change anything is shown as a set; only what is left
 * as it is, is kept at once.
 */
@Component
final class FindingDesk {
  private static final int PART = 200;
  private static final int MOST_EXAMPLES = 100;

  private final Database database;
  private final Accounts accounts;
  private final Drifts drifts;
  private final AccountDesk desk;
  private final HandEdits edits;
  private final Adoption adoption;
  private final Proposals proposals;
  private final Syncs syncs;
  private final Journal journal;
  private final BusinessClock clock;

  FindingDesk(
      Database database,
      Accounts accounts,
      Drifts drifts,
      AccountDesk desk,
      HandEdits edits,
      Adoption adoption,
      Proposals proposals,
      Syncs syncs,
      Journal journal,
      BusinessClock clock) {
    this.database = database;
    this.accounts = accounts;
    this.drifts = drifts;
    this.desk = desk;
    this.edits = edits;
    this.adoption = adoption;
    this.proposals = proposals;
    this.syncs = syncs;
    this.journal = journal;
    this.clock = clock;
  }

  /**
   * Findings of one kind that somebody chose.
   *
   * @param ids null for all
   * @param reach whose are theirs to settle
   */
  record Chosen(Application application, Finding kind, Set<Long> ids, Reach reach, String by) {
    String title(String act, long count) {
      return "%s %d %s in %s"
          .formatted(act, count, count == 1 ? "account" : "accounts", application.name());
    }
  }

  record LeftOut(long id, String name, Problem problem) {}

  /**
   * @param set empty if nothing is to be released
   */
  record Settled(Optional<ChangeSet> set, long settled, List<LeftOut> leftOut) {
    List<LeftOut> examples() {
      return leftOut.subList(0, Math.min(MOST_EXAMPLES, leftOut.size()));
    }
  }

  /** Shows what makes the accounts there as they should be. */
  Settled putRight(Chosen chosen) {
    require(chosen, chosen.kind().isDrift(), "put right");
    var people = people(chosen);
    var drifting = new Drifting(chosen.application().name());
    var set =
        proposals.differences(
            Cause.SYNC,
            chosen.title("put right", people.size()),
            chosen.by(),
            parts(people),
            drifting::add);
    return new Settled(
        set,
        drifting.all().size(),
        people.stream()
            .filter(person -> !drifting.has(person))
            .map(person -> new LeftOut(person.value(), "person " + person, inStep(person)))
            .toList());
  }

  /** Shows what follows if the values there become the people's. */
  Settled take(Chosen chosen, Set<String> attributes, Consumer<Person> allowed) {
    require(chosen, chosen.kind() == Finding.DRIFTED, "take values");
    var taken = new TreeMap<PersonId, Map<String, String>>();
    var leftOut = new ArrayList<LeftOut>();
    for (var part : parts(people(chosen))) {
      for (var account : theirs(chosen, part)) {
        var differing = differing(account, attributes);
        if (differing.isEmpty()) {
          leftOut.add(leftOut(account, inStep(account.person())));
        } else {
          taken.put(account.person(), desk.ofPerson(account, differing));
        }
      }
    }
    if (taken.isEmpty()) {
      throw new Refusal(Refusal.Kind.CONFLICT, nothingChosen(chosen));
    }
    var set =
        edits.editEach(taken, chosen.title("take values of", taken.size()), chosen.by(), allowed);
    return new Settled(Optional.of(set), taken.size(), leftOut);
  }

  private Set<String> differing(Account account, Set<String> attributes) {
    var differing =
        database.read(
            session ->
                proposals.drafts(session, List.of(account.person())).stream()
                    .filter(draft -> draft.application().equals(account.application()))
                    .flatMap(draft -> draft.step().edits().keySet().stream())
                    .collect(Collectors.toCollection(TreeSet::new)));
    differing.retainAll(attributes);
    return differing;
  }

  /** Shows what follows if each account becomes that of the likeliest who has none there. */
  Settled link(Chosen chosen, Consumer<Collection<PersonId>> allowed) {
    require(chosen, chosen.kind() == Finding.DOUBTFUL, "link");
    var inputs = new Inputs(chosen, "link");
    var leftOut = new ArrayList<LeftOut>();
    var taken = new TreeSet<PersonId>();
    inputs.from(
        part -> {
          var links = new ArrayList<Input>();
          for (var account : part) {
            account.likely().stream()
                .filter(likely -> !likely.hasOne())
                .map(Likely::person)
                .filter(taken::add)
                .findFirst()
                .ifPresentOrElse(
                    person -> links.add(new Input.Link(person, account.id())),
                    () -> leftOut.add(leftOut(account, likelyTaken(account))));
          }
          allowed.accept(links.stream().map(Input::person).toList());
          inputs.add(links, links.size());
        });
    return inputs.shown(leftOut);
  }

  /** Gathers what a set is made of, part by part. */
  private final class Inputs {
    private final Chosen chosen;
    private final String act;
    private ChangeSet set;
    private long settled;

    Inputs(Chosen chosen, String act) {
      this.chosen = chosen;
      this.act = act;
    }

    /** Goes through the accounts; what was gathered is given up if one of them is refused. */
    void from(Consumer<List<Account>> part) {
      try {
        eachOfNobody(chosen, part);
      } catch (Refusal e) {
        if (set != null) {
          database.writeAll(session -> proposals.abandon(session, set.id()));
        }
        throw e;
      }
    }

    /**
     * @param of how many accounts
     */
    void add(List<Input> inputs, int of) {
      if (!inputs.isEmpty()) {
        if (set == null) {
          set = proposals.begin(Cause.HAND, chosen.title(act, of), chosen.by(), null);
        }
        proposals.add(set.id(), inputs);
        settled += of;
      }
    }

    /**
     * @throws Refusal if none could be taken along, with the reasons
     */
    Settled shown(List<LeftOut> leftOut) {
      if (set == null) {
        throw new Refusal(
            Refusal.Kind.CONFLICT,
            leftOut.isEmpty()
                ? List.of(nothingChosen(chosen))
                : leftOut.stream().limit(MOST_EXAMPLES).map(LeftOut::problem).toList());
      }
      var titled = set.called(chosen.title(act, settled));
      return new Settled(Optional.of(proposals.show(titled, List.of())), settled, leftOut);
    }
  }

  /** Shows what follows if accounts of nobody become people of their own. */
  Settled adopt(Chosen chosen, Adoption.As as, Consumer<Person> allowed) {
    require(chosen, chosen.kind().isOfNobody(), "adopt");
    var inputs = new Inputs(chosen, "adopt");
    var leftOut = new ArrayList<LeftOut>();
    inputs.from(
        part -> {
          var said = new ArrayList<Input>();
          var adopted = 0;
          for (var one : adoption.adopt(chosen.application(), part, as, allowed)) {
            if (one.problem() == null) {
              adopted++;
              said.addAll(one.inputs());
            } else {
              leftOut.add(leftOut(one.account(), one.problem()));
            }
          }
          inputs.add(said, adopted);
        });
    return inputs.shown(leftOut);
  }

  /** Leaves accounts as they are, from now on. */
  Settled leaveAlone(Chosen chosen, String why) {
    require(
        chosen,
        chosen.kind().isOfNobody() || (chosen.kind().isDrift() && chosen.kind() != Finding.MISSING),
        "leave alone");
    return decide(
        chosen,
        account -> account.leftAlone(new LeftAlone(why, chosen.by(), clock.instant())),
        "left %s as it is",
        why);
  }

  /** Keeps accounts as they should be, again. */
  Settled keep(Chosen chosen) {
    require(chosen, chosen.kind() == Finding.LEFT_ALONE, "keep");
    return decide(chosen, account -> account.leftAlone(null), "keeps %s as it should be", null);
  }

  private interface Decision {
    Account on(Account account);
  }

  private Settled decide(Chosen chosen, Decision decision, String act, String why) {
    var name = chosen.application().name();
    var people = new TreeSet<PersonId>();
    var decided = new TreeSet<Long>();
    Consumer<List<Account>> decide =
        part -> {
          decide(chosen, part, decision, act + " in " + name, why);
          part.forEach(account -> decided.add(account.id()));
          part.stream().map(Account::person).filter(Objects::nonNull).forEach(people::add);
        };
    if (chosen.kind().isDrift()) {
      parts(people(chosen)).forEach(part -> decide.accept(theirs(chosen, part)));
    } else {
      eachOfNobody(chosen, decide);
    }
    var set =
        people.isEmpty() ? Optional.<ChangeSet>empty() : syncs.compare(name, people, chosen.by());
    return new Settled(set, decided.size(), List.of());
  }

  private void decide(
      Chosen chosen, List<Account> part, Decision decision, String act, String why) {
    database.writeAll(
        session -> {
          var now = accounts.getAll(session, part.stream().map(Account::id).toList()).values();
          accounts.putAll(session, now.stream().map(decision::on).toList());
          journal.write(
              session,
              clock.instant(),
              now.stream()
                  .map(
                      one ->
                          Deed.of(chosen.by(), act.formatted(AccountViews.name(one)), one.person())
                              .because(why))
                  .toList());
        });
  }

  private List<PersonId> people(Chosen chosen) {
    if (chosen.ids() != null) {
      return chosen.ids().stream().sorted().map(PersonId::new).toList();
    }
    var all = new ArrayList<PersonId>();
    Long after = null;
    do {
      var last = after;
      var page =
          database.read(
              session ->
                  drifts.list(
                      session,
                      chosen.application().name(),
                      chosen.kind(),
                      chosen.reach(),
                      last,
                      PART));
      page.items().forEach(one -> all.add(one.person()));
      after = page.next() == null ? null : Long.valueOf(page.next());
    } while (after != null);
    return all;
  }

  private List<Account> theirs(Chosen chosen, List<PersonId> part) {
    return database.read(session -> accounts.of(session, part)).values().stream()
        .flatMap(List::stream)
        .filter(account -> account.application().equals(chosen.application().name()))
        .filter(account -> account.level().exists())
        .toList();
  }

  /** Of nobody, or left alone; those that are of another kind by now are not among them. */
  private void eachOfNobody(Chosen chosen, Consumer<List<Account>> part) {
    var name = chosen.application().name();
    if (chosen.ids() != null) {
      inParts(List.copyOf(chosen.ids())).forEach(ids -> part.accept(ofNobody(chosen, ids)));
      return;
    }
    Long after = null;
    do {
      var last = after;
      var page =
          database.read(
              session -> accounts.list(session, name, chosen.kind(), chosen.reach(), last, PART));
      part.accept(page.items());
      after = page.next() == null ? null : Long.valueOf(page.next());
    } while (after != null);
  }

  private List<Account> ofNobody(Chosen chosen, List<Long> ids) {
    return database.read(session -> accounts.getAll(session, ids)).values().stream()
        .filter(account -> account.application().equals(chosen.application().name()))
        .filter(account -> account.finding().equals(Optional.of(chosen.kind())))
        .sorted(Comparator.comparingLong(Account::id))
        .toList();
  }

  private static List<List<PersonId>> parts(List<PersonId> all) {
    return inParts(all);
  }

  private static <T> List<List<T>> inParts(List<T> all) {
    var parts = new ArrayList<List<T>>();
    for (int from = 0; from < all.size(); from += PART) {
      parts.add(all.subList(from, Math.min(from + PART, all.size())));
    }
    return parts;
  }

  private static LeftOut leftOut(Account account, Problem problem) {
    return new LeftOut(account.id(), AccountViews.name(account), problem);
  }

  private static void require(Chosen chosen, boolean isPossible, String act) {
    if (!isPossible) {
      throw new Refusal(
          Refusal.Kind.CONFLICT,
          new Problem(
              "finding-not-settled-so",
              "What is %s cannot be settled so: %s.".formatted(chosen.kind().word(), act),
              "That is for findings of another kind.",
              "See what can be done: ebb findings show %s %s"
                  .formatted(chosen.application().name(), chosen.kind().word()),
              null));
    }
  }

  private static Problem nothingChosen(Chosen chosen) {
    return new Problem(
        "nothing-found",
        "None of these is %s in %s any more."
            .formatted(chosen.kind().word(), chosen.application().name()),
        "They were settled meanwhile, or are somebody's beyond your reach.",
        "Look again: ebb findings list " + chosen.application().name(),
        null);
  }

  private static Problem inStep(PersonId person) {
    return new Problem(
        "in-step",
        "Nothing differs for person %s.".formatted(person),
        "It was put right meanwhile, or is on its way.",
        "There is nothing to do.",
        null);
  }

  private static Problem likelyTaken(Account account) {
    return new Problem(
        "likely-taken",
        "%s is like people to whom another account goes.".formatted(AccountViews.name(account)),
        "Two of these accounts are like one person.",
        "Say whose it is: ebb accounts link %d PERSON".formatted(account.id()),
        null);
  }
}
