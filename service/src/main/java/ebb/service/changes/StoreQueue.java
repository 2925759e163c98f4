package ebb.service.changes;

import static ebb.core.change.ChangeState.REFUSED;

import ebb.core.application.Instruction;
import ebb.core.application.Level;
import ebb.core.application.ObservedAccount;
import ebb.core.application.Secret;
import ebb.core.change.Change;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeState;
import ebb.core.change.Needs.Draft;
import ebb.core.compare.Edit;
import ebb.core.compare.HeldAccount;
import ebb.core.execution.Claim;
import ebb.core.execution.Queue;
import ebb.core.execution.Result;
import ebb.core.person.PersonId;
import ebb.core.problem.Problem;
import ebb.service.evaluation.Evaluated;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.SecretBox;
import ebb.store.applications.Account;
import ebb.store.applications.Accounts;
import ebb.store.changes.Attempts;
import ebb.store.changes.Attempts.Attempt;
import ebb.store.changes.ChangeQueue;
import ebb.store.changes.DueLooks;
import ebb.store.journal.Journal;
import ebb.store.journal.Journal.Deed;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Base64;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.SortedMap;
import java.util.TreeMap;
import java.util.TreeSet;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** The queue in the database. Every change is computed again when it is claimed. */
@Component
final class StoreQueue implements Queue {
  private static final int SECRET_BYTES = 24;

  private final Database database;
  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final ChangeQueue queue;
  private final DueLooks looks;
  private final Attempts attempts;
  private final Accounts accounts;
  private final Journal journal;
  private final Resting resting;
  private final List<Aftermath> aftermaths;

  StoreQueue(
      Database database,
      BusinessClock clock,
      Evaluator evaluator,
      ChangeQueue queue,
      Attempts attempts,
      Accounts accounts,
      Journal journal,
      Resting resting,
      List<Aftermath> aftermaths) {
    this.resting = resting;
    this.database = database;
    this.clock = clock;
    this.evaluator = evaluator;
    this.queue = queue;
    this.looks = new DueLooks(database, queue);
    this.attempts = attempts;
    this.accounts = accounts;
    this.journal = journal;
    this.aftermaths = aftermaths;
  }

  /** What Ebb leaves in an application to find a person's account again. */
  public static String externalId(PersonId person) {
    return "ebb-" + person;
  }

  /** What is left in an account of whom it was. */
  private static String standIn(Account account) {
    return "former-" + account.id();
  }

  @Override
  public List<Claim> claim(
      String application, boolean urgent, int max, Instant now, Instant leaseUntil) {
    // Looking costs no commit; only a claim does.
    return looks.isAny(application, urgent, now)
        ? database.write(
            session ->
                // Another process may have paused it a moment ago.
                !urgent && resting.isAtRest(session, application)
                    ? List.of()
                    : claims(
                        session,
                        application,
                        queue.claim(session, application, urgent, max, now, leaseUntil),
                        now))
        : List.of();
  }

  private List<Claim> claims(
      StatelessSession session, String application, List<Change> claimed, Instant now) {
    var people =
        claimed.stream().map(Change::person).collect(Collectors.toCollection(TreeSet::new));
    var computed =
        evaluator.evaluate(session, people).stream()
            .collect(Collectors.toMap(person -> person.subject().person().id(), person -> person));
    var targets = targets(session, application, claimed);
    return claimed.stream()
        .map(change -> claim(session, change, computed.get(change.person()), targets, now))
        .toList();
  }

  /** Ids of the accounts that the changes' values refer to. */
  private Map<PersonId, String> targets(
      StatelessSession session, String application, Collection<Change> claimed) {
    var people =
        claimed.stream()
            .flatMap(change -> change.edits().values().stream())
            .filter(edit -> edit.after().isReference())
            .map(edit -> edit.after().accountOf())
            .collect(Collectors.toSet());
    var ids = new HashMap<PersonId, String>();
    if (!people.isEmpty()) {
      accounts
          .of(session, people)
          .forEach(
              (person, all) ->
                  all.stream()
                      .filter(account -> account.application().equals(application))
                      .filter(account -> account.level().exists())
                      .findFirst()
                      .ifPresent(account -> ids.put(person, account.observed().id())));
    }
    return ids;
  }

  private Claim claim(
      StatelessSession session,
      Change change,
      Evaluated person,
      Map<PersonId, String> targets,
      Instant now) {
    var looksFirst = change.state() == ChangeState.UNSURE || change.attempts() > 0;
    var asked = change.asked(clock.instant());
    var account =
        person.accounts().stream()
            .filter(one -> one.application().equals(change.application()))
            .findFirst();
    if (!isWanted(session, change, person, account)) {
      return new Claim.Overtaken(asked);
    }
    if (change.kind() == ChangeKind.SHUT) {
      return new Claim.Shutting(asked, account.orElseThrow().observed().id());
    }
    if (change.kind() == ChangeKind.CATCH_UP) {
      return new Claim.CatchingUp(asked, account.orElseThrow().observed().id());
    }
    if (change.kind() == ChangeKind.STRIP) {
      var stripped = account.orElseThrow();
      return new Claim.Stripping(asked, stripped.observed().id(), standIn(stripped));
    }
    var edits = stillWanted(change, person);
    var missing = missing(edits, targets);
    if (missing.isPresent()) {
      return new Claim.NotReady(asked, missing.get());
    }
    return instruction(change, account, resolved(edits, targets))
        .<Claim>map(instruction -> new Claim.Wanted(asked, instruction, looksFirst))
        .orElseGet(() -> new Claim.Overtaken(asked));
  }

  private boolean isWanted(
      StatelessSession session, Change change, Evaluated person, Optional<Account> account) {
    return switch (change.kind()) {
      case CREATE -> account.isEmpty() && draft(change, person).isPresent();
      case UPDATE -> !stillWanted(change, person).isEmpty();
      case OPEN, SUSPEND, RETURN, JOIN, LEAVE, TAKE_SEAT, FREE_SEAT ->
          draft(change, person).isPresent();
      case CLOSE -> account.isPresent() && person.desired().isWithout(change.application());
      case RESET, SHUT, CATCH_UP -> account.isPresent();
      case DELETE, STRIP ->
          account.isPresent()
              && aftermaths.stream().allMatch(after -> after.against(session, change).isEmpty());
    };
  }

  private static Optional<Draft> draft(Change change, Evaluated person) {
    return person.drafts().stream()
        .filter(draft -> draft.application().equals(change.application()))
        .filter(draft -> draft.step().kind() == change.kind())
        .filter(draft -> Objects.equals(draft.step().group(), change.group()))
        .findFirst();
  }

  /** The edits of a change that computing it again asks for too. */
  private static SortedMap<String, Edit> stillWanted(Change change, Evaluated person) {
    var wanted = new TreeMap<String, Edit>();
    draft(change, person)
        .ifPresent(
            draft ->
                change
                    .edits()
                    .forEach(
                        (attribute, edit) -> {
                          var now = draft.step().edits().get(attribute);
                          if (now != null && now.after().equals(edit.after())) {
                            wanted.put(attribute, edit);
                          }
                        }));
    return wanted;
  }

  private static Optional<Problem> missing(
      SortedMap<String, Edit> edits, Map<PersonId, String> targets) {
    return edits.entrySet().stream()
        .filter(edit -> edit.getValue().after().isReference())
        .filter(edit -> !targets.containsKey(edit.getValue().after().accountOf()))
        .findFirst()
        .map(
            edit ->
                new Problem(
                    "reference-not-there-yet",
                    "%s refers to person %s, who has no account there yet."
                        .formatted(edit.getKey(), edit.getValue().after().accountOf()),
                    "That account is still to be created.",
                    "Nothing need be done: it is tried again.",
                    null));
  }

  private static SortedMap<String, List<String>> resolved(
      SortedMap<String, Edit> edits, Map<PersonId, String> targets) {
    var values = new TreeMap<String, List<String>>();
    edits.forEach(
        (attribute, edit) ->
            values.put(
                attribute,
                edit.after().isReference()
                    ? List.of(targets.get(edit.after().accountOf()))
                    : edit.after().texts()));
    return values;
  }

  private static Optional<Instruction> instruction(
      Change change, Optional<Account> account, SortedMap<String, List<String>> values) {
    if (change.kind() == ChangeKind.CREATE) {
      return Optional.of(
          new Instruction.Create(externalId(change.person()), change.usable(), values));
    }
    return account
        .map(one -> one.observed().id())
        .map(
            id ->
                switch (change.kind()) {
                  case CREATE, SHUT, CATCH_UP, STRIP ->
                      throw new IllegalStateException("Handled above");
                  case UPDATE -> new Instruction.Update(id, values, before(change));
                  case OPEN, RETURN -> new Instruction.SetUsable(id, true);
                  case SUSPEND, CLOSE -> new Instruction.SetUsable(id, false);
                  case JOIN -> new Instruction.Join(id, change.group());
                  case LEAVE -> new Instruction.Leave(id, change.group());
                  case TAKE_SEAT -> new Instruction.TakeSeat(id, change.group());
                  case FREE_SEAT -> new Instruction.FreeSeat(id, change.group());
                  case DELETE -> new Instruction.Delete(id);
                  case RESET -> new Instruction.SetPassword(id, unusablePassword());
                });
  }

  private static SortedMap<String, List<String>> before(Change change) {
    var before = new TreeMap<String, List<String>>();
    change.edits().forEach((attribute, edit) -> before.put(attribute, edit.before()));
    return before;
  }

  /** Nobody ever learns it: the person chooses another one by the ask that follows. */
  private static Secret unusablePassword() {
    return new Secret(Base64.getUrlEncoder().encodeToString(SecretBox.random(SECRET_BYTES)));
  }

  @Override
  public void record(List<Result> results, Instant now) {
    database.writeAll(
        session -> {
          var at = clock.instant();
          var recorded = withAccounts(session, results, at);
          queue.record(session, recorded.stream().map(Result::change).toList());
          attempts.add(session, recorded.stream().flatMap(StoreQueue::attempt).toList());
          journal.write(
              session,
              at,
              recorded.stream()
                  .map(Result::change)
                  .filter(change -> change.state().isOver() || change.state() == REFUSED)
                  .map(StoreQueue::deed)
                  .toList());
          aftermaths.forEach(after -> after.recorded(session, recorded, at));
        });
  }

  /** A connection and a sync of the disk are had. */
  @Override
  public void check() {
    database.writeAll(
        session -> session.createNativeQuery("select 1", Integer.class).getSingleResult());
  }

  private static Stream<Attempt> attempt(Result result) {
    var change = result.change();
    return result.exchanges().isEmpty()
        ? Stream.empty()
        : Stream.of(
            new Attempt(change.id(), change.attempts(), change.state().name(), result.exchanges()));
  }

  private Change onBusinessTime(Change change) {
    return change.state().isDone() ? change.seenAt(clock.instant()) : change;
  }

  private static Deed deed(Change change) {
    return new Deed(
        "ebb",
        "%s: %s %s (change %d of set %d)"
            .formatted(
                change.application(),
                change.kind().word(),
                change.state().word(),
                change.id(),
                change.changeSet()),
        change.person(),
        change.problem() == null ? null : change.problem().code(),
        change.edits());
  }

  /** Keeps the accounts as they were read back, and says of each change which is its own. */
  private List<Result> withAccounts(StatelessSession session, List<Result> results, Instant now) {
    var done = results.stream().filter(result -> result.change().state().isDone()).toList();
    var known = known(session, done);
    var numbers =
        accounts.numbers(session, (int) done.stream().filter(one -> isNew(one, known)).count());
    var kept = new ArrayList<Account>();
    var made = new ArrayList<Account>();
    var recorded = new ArrayList<Result>();
    for (var result : results) {
      var change = result.change();
      var account = Optional.<Account>empty();
      if (change.state().isDone()) {
        var before = known.get(change.id());
        account =
            change.kind() == ChangeKind.CREATE
                ? Optional.of(created(before == null ? numbers.pop() : before.id(), result, now))
                : Optional.ofNullable(before)
                    .map(one -> after(one, change, result.observed(), now));
        account.ifPresent(after -> tellDropped(session, change, before, after, now));
      }
      account.ifPresent(isNew(result, known) ? made::add : kept::add);
      var own = account.map(one -> change.on(one.id())).orElse(change);
      recorded.add(new Result(onBusinessTime(own), result.observed(), result.exchanges()));
    }
    accounts.putAll(session, kept);
    accounts.addAll(session, made);
    return recorded;
  }

  /** Groups that Ebb gave come back by what gave them; of the others only this is known. */
  private void tellDropped(
      StatelessSession session, Change change, Account before, Account after, Instant at) {
    if (change.kind() != ChangeKind.SUSPEND) {
      return;
    }
    var dropped = new TreeSet<>(before.observed().groups());
    dropped.removeAll(after.observed().groups());
    dropped.removeAll(before.grounds().keySet());
    if (!dropped.isEmpty()) {
      aftermaths.forEach(one -> one.droppedFrom(session, change, dropped, at));
    }
  }

  private static boolean isNew(Result result, Map<Long, Account> known) {
    var change = result.change();
    return change.kind() == ChangeKind.CREATE
        && change.state().isDone()
        && !known.containsKey(change.id());
  }

  /** The accounts that changes are about, as far as they are known, by change. */
  private Map<Long, Account> known(StatelessSession session, List<Result> done) {
    var known = new HashMap<Long, Account>();
    var created =
        done.stream()
            .filter(result -> result.change().kind() == ChangeKind.CREATE)
            .collect(
                Collectors.groupingBy(
                    result -> result.change().application(),
                    Collectors.toMap(
                        result -> result.observed().orElseThrow().id(), Result::change)));
    created.forEach(
        (application, byId) ->
            accounts
                .byRemoteIds(session, application, byId.keySet())
                .forEach((id, account) -> known.put(byId.get(id).id(), account)));
    var others =
        done.stream()
            .map(Result::change)
            .filter(change -> change.kind() != ChangeKind.CREATE)
            .toList();
    if (!others.isEmpty()) {
      var people = others.stream().map(Change::person).collect(Collectors.toSet());
      var theirs = accounts.of(session, people);
      for (var change : others) {
        theirs.getOrDefault(change.person(), List.of()).stream()
            .filter(account -> account.application().equals(change.application()))
            .filter(
                account ->
                    change.account() == null
                        ? account.level().exists()
                        : change.account().equals(account.id()))
            .findFirst()
            .ifPresent(account -> known.put(change.id(), account));
      }
    }
    return known;
  }

  private static Account created(long number, Result result, Instant now) {
    var observed = result.observed().orElseThrow();
    return new Account(
        number,
        result.change().application(),
        result.change().person(),
        observed.usable() ? Level.ACTIVE : Level.PREPARED,
        observed,
        new TreeMap<>(),
        false,
        null,
        null,
        null,
        now);
  }

  private static Account after(
      Account account, Change change, Optional<ObservedAccount> observed, Instant now) {
    if (isGone(change, observed)) {
      return account.seen(Level.GONE, account.observed(), now);
    }
    var seen = observed.orElse(account.observed());
    var grounds = new TreeMap<>(account.grounds());
    switch (change.kind()) {
      case JOIN -> grounds.put(change.group(), change.ground());
      case LEAVE -> grounds.remove(change.group());
      case TAKE_SEAT -> grounds.put(HeldAccount.seat(change.group()), change.ground());
      case FREE_SEAT -> grounds.remove(HeldAccount.seat(change.group()));
      case STRIP -> grounds.clear();
      default -> {}
    }
    var closing =
        switch (change.kind()) {
          case CLOSE -> true;
          case RETURN, OPEN -> false;
          default -> account.closing();
        };
    return account
        .seen(levelOf(account, change, seen), seen, now)
        .grounds(grounds)
        .closing(closing)
        .strippedAt(strippedAt(account, change, now));
  }

  /** There is nothing to strip of one that somebody else deleted. */
  private static boolean isGone(Change change, Optional<ObservedAccount> observed) {
    return change.kind() == ChangeKind.DELETE
        || (change.kind() == ChangeKind.STRIP && observed.isEmpty());
  }

  /** While it is off nothing is put back: whatever is, makes it somebody's again. */
  private static Instant strippedAt(Account account, Change change, Instant now) {
    return switch (change.kind()) {
      case STRIP -> now;
      case UPDATE, RETURN, OPEN -> null;
      default -> account.strippedAt();
    };
  }

  private static Level levelOf(Account account, Change change, ObservedAccount seen) {
    if (seen.usable()) {
      return Level.ACTIVE;
    }
    return change.kind() == ChangeKind.SUSPEND || change.kind() == ChangeKind.CLOSE
        ? Level.SUSPENDED
        : account.level() == Level.ACTIVE ? Level.SUSPENDED : account.level();
  }
}
