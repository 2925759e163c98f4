package ebb.service.suspensions;

import ebb.api.AffectedView;
import ebb.api.ReturningView;
import ebb.core.application.Level;
import ebb.core.change.Cause;
import ebb.core.change.ChangeKind;
import ebb.core.change.ChangeSet;
import ebb.core.change.Input;
import ebb.core.change.Needs.Draft;
import ebb.core.operator.Caller;
import ebb.core.person.Attributes;
import ebb.core.person.PersonId;
import ebb.core.person.Stage;
import ebb.core.person.Suspension;
import ebb.core.person.Suspension.Reason;
import ebb.core.problem.Problem;
import ebb.core.problem.Refusal;
import ebb.core.problem.Where;
import ebb.core.rule.DesiredAccount;
import ebb.service.changes.Proposals;
import ebb.service.evaluation.Evaluated;
import ebb.service.evaluation.Evaluator;
import ebb.service.time.BusinessClock;
import ebb.store.Database;
import ebb.store.applications.Account;
import ebb.store.applications.Applications;
import ebb.store.applications.Groups;
import ebb.store.people.Suspensions;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Collection;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.function.LongSupplier;
import java.util.stream.Collectors;
import org.hibernate.StatelessSession;
import org.springframework.stereotype.Component;

/** Says what suspending people and bringing them back would do to each, and shows it as a set. */
@Component
final class SuspensionDesk {
  private static final String CHANGES = "changes";
  private static final String ALREADY_SO = "already so";
  private static final String NOT_ALLOWED = "not allowed";

  private final Database database;
  private final BusinessClock clock;
  private final Evaluator evaluator;
  private final Proposals proposals;
  private final Suspensions suspensions;
  private final Applications applications;
  private final Groups groups;

  SuspensionDesk(
      Database database,
      BusinessClock clock,
      Evaluator evaluator,
      Proposals proposals,
      Suspensions suspensions,
      Applications applications,
      Groups groups) {
    this.groups = groups;
    this.database = database;
    this.clock = clock;
    this.evaluator = evaluator;
    this.proposals = proposals;
    this.suspensions = suspensions;
    this.applications = applications;
  }

  /**
   * What is ordered of everybody chosen.
   *
   * @param note null for none
   * @param from null for at once
   * @param until null until somebody ends it
   * @param review null for none
   * @param applications empty for all
   */
  record Order(
      Reason reason,
      String note,
      LocalDate from,
      LocalDate until,
      LocalDate review,
      Set<String> applications,
      boolean discreet,
      boolean notices) {}

  /** What it would do to each; nothing is kept. */
  List<AffectedView> check(List<PersonId> people, Order order, Caller caller) {
    refuseAmiss(order);
    return parts(people, part -> affected(part, order, people.size() == 1, caller, () -> 0))
        .stream()
        .map(Affected::view)
        .toList();
  }

  /**
   * Shows what it changes as a set, those left out who may not be suspended so.
   *
   * @throws Refusal if nobody is left
   */
  ChangeSet suspend(List<PersonId> people, Order order, Caller caller) {
    refuseAmiss(order);
    var numbers = database.write(session -> suspensions.numbers(session, people.size()));
    var affected =
        parts(people, part -> affected(part, order, people.size() == 1, caller, numbers::pop));
    var meant = affected.stream().filter(Affected::isMeant).toList();
    if (meant.isEmpty()) {
      throw Refusal.conflict(nobody(affected.getFirst().view()));
    }
    return proposals.propose(
        Cause.HAND,
        "suspension of " + whom(meant.size(), meant.getFirst().view().displayName()),
        caller.name(),
        null,
        meant.stream().map(Affected::input).toList());
  }

  /** What ending all suspensions of these people would bring each; nothing is kept. */
  List<ReturningView> checkReturn(List<PersonId> people) {
    return parts(people, this::returning);
  }

  /** Shows as a set what comes back when all suspensions of these people end. */
  ChangeSet bringBack(List<PersonId> people, Caller caller) {
    var inputs = new ArrayList<Input>();
    var names = checkReturn(people);
    parts(people, part -> List.of(endings(part)))
        .forEach(part -> part.values().forEach(inputs::addAll));
    return proposals.propose(
        Cause.HAND,
        "return of " + whom(names.size(), names.getFirst().displayName()),
        caller.name(),
        null,
        inputs);
  }

  /** Shows what other dates would change. */
  ChangeSet move(long id, LocalDate until, LocalDate review, Caller caller) {
    var suspension = get(id);
    refuseAmiss(until, review, suspension.from());
    var person = suspension.person();
    var number = database.write(session -> suspensions.numbers(session, 1)).pop();
    return proposals.propose(
        Cause.HAND,
        "other dates for the suspension of "
            + database.read(session -> evaluated(session, List.of(person))).getFirst().name(),
        caller.name(),
        null,
        List.of(
            new Input.EndSuspension(person, id),
            new Input.Suspend(person, suspension.until(number, until, review, caller.name()))));
  }

  /**
   * @throws Refusal if there is none, or it was ended
   */
  Suspension get(long id) {
    return database
        .read(session -> suspensions.get(session, id))
        .orElseThrow(
            () -> Refusal.notFound("suspension in force", id, "See: ebb suspensions list"));
  }

  private static String whom(int count, String first) {
    return count == 1 ? first : "%,d people".formatted(count);
  }

  private interface Part<T> {
    List<T> of(List<PersonId> people);
  }

  private static <T> List<T> parts(List<PersonId> people, Part<T> part) {
    var all = new ArrayList<T>();
    for (int from = 0; from < people.size(); from += Evaluator.PART) {
      all.addAll(part.of(people.subList(from, Math.min(from + Evaluator.PART, people.size()))));
    }
    return all;
  }

  /** Somebody, and the order that would be theirs. */
  private record Affected(AffectedView view, Input input) {
    boolean isMeant() {
      return !view.outcome().equals(NOT_ALLOWED);
    }
  }

  private record Named(Evaluated person, String name) {}

  private List<Named> evaluated(StatelessSession session, Collection<PersonId> people) {
    return evaluator.evaluate(session, people).stream().map(SuspensionDesk::named).toList();
  }

  private static Named named(Evaluated person) {
    var name = person.subject().person().displayName();
    return new Named(person, name.isEmpty() ? "person " + person.subject().person().id() : name);
  }

  private List<Affected> affected(
      List<PersonId> people, Order order, boolean isAlone, Caller caller, LongSupplier numbers) {
    var orders = new TreeMap<PersonId, List<Input.Suspend>>();
    for (var person : database.read(session -> evaluated(session, people))) {
      var id = person.person().subject().person().id();
      orders.put(
          id,
          List.of(
              new Input.Suspend(
                  id, suspension(numbers.getAsLong(), person.person(), order, caller))));
    }
    return database.read(
        session ->
            evaluator.tried(session, orders).stream()
                .map(SuspensionDesk::named)
                .map(person -> affected(person, order, orders, isAlone, caller))
                .toList());
  }

  private Suspension suspension(long number, Evaluated person, Order order, Caller caller) {
    var zone = person.subject().person().zone(clock.zone());
    return new Suspension(
        number,
        person.subject().person().id(),
        order.reason(),
        order.note(),
        order.from() == null ? LocalDate.ofInstant(clock.instant(), zone) : order.from(),
        order.until(),
        order.applications(),
        order.review(),
        order.discreet(),
        order.notices(),
        caller.name());
  }

  private Affected affected(
      Named person,
      Order order,
      Map<PersonId, List<Input.Suspend>> orders,
      boolean isAlone,
      Caller caller) {
    var id = person.person().subject().person().id();
    var input = orders.get(id).getFirst();
    var why = notAllowed(person, isAlone, caller);
    if (why != null) {
      return new Affected(
          new AffectedView(id.value(), person.name(), NOT_ALLOWED, why, List.of()), input);
    }
    var off = switchedOff(person.person(), input.suspension());
    return new Affected(
        off.isEmpty()
            ? new AffectedView(
                id.value(), person.name(), ALREADY_SO, already(person.person(), order), off)
            : new AffectedView(
                id.value(), person.name(), CHANGES, unreachable(person.person(), order), off),
        input);
  }

  private String notAllowed(Named named, boolean isAlone, Caller caller) {
    var person = named.person().subject().person();
    if (person.id().equals(caller.person())) {
      return "That is you: nobody switches themselves off.";
    }
    if (!caller.reach().covers(person)) {
      return "Beyond what %s answers for.".formatted(caller.name());
    }
    if (named.person().stage() == Stage.DEPARTED) {
      return "They have departed: their accounts go by their departure.";
    }
    return person.isTechnical() && !isAlone
        ? "A technical identity: what depends on it stops, so suspend it by itself."
        : null;
  }

  /** In which applications an account in use is switched off, at once or when it begins. */
  private static List<String> switchedOff(Evaluated person, Suspension suspension) {
    return person.accounts().stream()
        .filter(account -> account.level().exists() && account.observed().usable())
        .map(Account::application)
        .filter(suspension::covers)
        .sorted()
        .toList();
  }

  /**
   * Why their notices do not go on although that was asked for; null where they do, or shall not.
   */
  private static String unreachable(Evaluated person, Order order) {
    return order.notices() && person.subject().person().get(Attributes.HOME_EMAIL).isEmpty()
        ? "No private address: what is written to them goes to their manager."
        : null;
  }

  private static String already(Evaluated person, Order order) {
    var held = person.accounts().stream().filter(account -> account.level().exists()).toList();
    if (held.isEmpty()) {
      return "No account yet; none is made before it ends.";
    }
    return order.applications().isEmpty()
        ? "Nothing of theirs is in use; it stays so until this ends."
        : "Nothing of theirs is in use there; it stays so until this ends.";
  }

  private Map<PersonId, List<Input>> endings(Collection<PersonId> people) {
    var inputs = new LinkedHashMap<PersonId, List<Input>>();
    database
        .read(session -> suspensions.of(session, people))
        .forEach(
            (person, all) ->
                inputs.put(
                    person,
                    all.stream()
                        .<Input>map(one -> new Input.EndSuspension(person, one.id()))
                        .toList()));
    return inputs;
  }

  private List<ReturningView> returning(List<PersonId> people) {
    var endings = endings(people);
    people.stream()
        .filter(person -> !endings.containsKey(person))
        .findFirst()
        .ifPresent(
            person -> {
              throw Refusal.conflict(notSuspended(person));
            });
    return database.read(
        session ->
            evaluator.tried(session, endings).stream()
                .map(SuspensionDesk::named)
                .map(person -> returning(session, person))
                .toList());
  }

  private ReturningView returning(StatelessSession session, Named named) {
    var person = named.person();
    var back =
        person.drafts().stream()
            .filter(draft -> draft.step().kind() == ChangeKind.RETURN)
            .map(Draft::application)
            .sorted()
            .toList();
    return new ReturningView(
        person.subject().person().id().value(),
        named.name(),
        back,
        person.drafts().stream()
            .filter(draft -> draft.step().kind() != ChangeKind.RETURN)
            .map(draft -> otherwise(session, draft))
            .toList(),
        staysOff(person));
  }

  private String otherwise(StatelessSession session, Draft draft) {
    var step = draft.step();
    var words = draft.application() + ": " + step.words();
    return step.kind() == ChangeKind.JOIN
            && groups.lacks(session, draft.application(), step.group())
        ? words + ", which is not there any more"
        : words;
  }

  /** What keeps accounts off although nothing orders it any more. */
  private static String staysOff(Evaluated person) {
    var grounds =
        person.desired().accounts().values().stream()
            .filter(account -> account.level() == Level.SUSPENDED)
            .map(DesiredAccount::ground)
            .distinct()
            .collect(Collectors.joining(", "));
    return grounds.isEmpty() ? null : grounds;
  }

  private void refuseAmiss(Order order) {
    var problems = new ArrayList<Problem>();
    if (order.reason() == Reason.OTHER && order.note() == null) {
      problems.add(
          new Problem(
              "note-missing",
              "No note says what the other reason is.",
              "Whoever looks at it in a month has to know why.",
              "Say it in a few words.",
              Where.field("note")));
    }
    if (order.from() != null && order.from().isBefore(clock.today())) {
      problems.add(
          new Problem(
              "suspension-begun",
              "%s has passed.".formatted(order.from()),
              "Nothing can be switched off in the past.",
              "Leave it out for at once, or name a later day.",
              Where.field("from")));
    }
    var known =
        database.read(
            session ->
                applications.list(session).stream()
                    .map(one -> one.name())
                    .collect(Collectors.toSet()));
    order.applications().stream()
        .filter(name -> !known.contains(name))
        .sorted()
        .forEach(
            name ->
                problems.add(
                    new Problem(
                        "application-unknown",
                        "There is no application %s.".formatted(name),
                        "Nobody would be kept out of anything.",
                        "See: ebb applications list",
                        Where.field("applications"))));
    problems.addAll(amiss(order.until(), order.review(), order.from()));
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
  }

  private void refuseAmiss(LocalDate until, LocalDate review, LocalDate from) {
    var problems = amiss(until, review, from);
    if (!problems.isEmpty()) {
      throw new Refusal(Refusal.Kind.INVALID, problems);
    }
  }

  private List<Problem> amiss(LocalDate until, LocalDate review, LocalDate from) {
    var problems = new ArrayList<Problem>();
    var first = from == null || from.isBefore(clock.today()) ? clock.today() : from;
    if (until != null && until.isBefore(first)) {
      problems.add(
          new Problem(
              "suspension-ended",
              "The last day, %s, is before the first, %s.".formatted(until, first),
              "It would hold for no day.",
              "Name that day or a later one, or none to end it by hand.",
              Where.field("until")));
    }
    if (review != null && until != null && review.isAfter(until)) {
      problems.add(
          new Problem(
              "review-too-late",
              "The day of review, %s, is after the last day, %s.".formatted(review, until),
              "It has ended by then, and there is nothing to look at.",
              "Name an earlier day, or leave it out.",
              Where.field("review")));
    }
    return problems;
  }

  private static Problem nobody(AffectedView first) {
    return new Problem(
        "nobody-to-suspend",
        "%s may not be suspended so: %s".formatted(first.displayName(), first.why()),
        "Nobody else was chosen who may.",
        "Choose others.",
        Where.field("people"));
  }

  private static Problem notSuspended(PersonId person) {
    return new Problem(
        "not-suspended",
        "Nothing that an operator ordered keeps person %s out.".formatted(person),
        "There is nothing to end: they are in, on leave, or have departed.",
        "See why: ebb people why " + person,
        Where.field("people"));
  }
}
